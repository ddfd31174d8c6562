#pragma once
#include "base/point.h"

#include <cstdint>
#include <functional>
#include <span>
#include <vector>

namespace fox {

/// Finds which of many places lie in a rectangle, by squares of about kPerSquare places.
class PointGrid {
public:
    static constexpr int kPerSquare = 16;
    PointGrid() = default;
    explicit PointGrid(std::span<const Point2>);
    /// Calls use(index) for the places in the rectangle; for at most `most` of each square where it has more squares than
    /// `enough`: what is drawn from afar shows no more.
    void visit(const Box2&, std::size_t enough, int most, const std::function<void(std::size_t)>& use) const;

private:
    int square(double at, double low, double size, int count) const;
    Box2 m_box;
    int m_columns = 0, m_rows = 0;
    std::vector<Point2> m_places;
    std::vector<std::uint32_t> m_order, m_begin; ///< indices by square, and where each square begins
};

} // namespace fox
