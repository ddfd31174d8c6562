#pragma once
#include "base/point.h"

#include <memory>
#include <optional>
#include <span>

namespace fox {

/// Nearest neighbours in plan, by a k-d tree (nanoflann).
class NearestPoints {
public:
    struct Hit {
        std::size_t index;
        double squaredDistance;
    };
    explicit NearestPoints(std::vector<Point2> points);
    ~NearestPoints();
    NearestPoints(NearestPoints&&) noexcept;

    /// At most k, nearest first, none farther than `radius` metres.
    void find(Point2, std::size_t k, std::optional<double> radius, std::vector<Hit>& hits) const;

private:
    void findWithin(Point2, double radius, std::vector<Hit>& hits) const;
    struct Index;
    std::unique_ptr<Index> m_index;
};

} // namespace fox
