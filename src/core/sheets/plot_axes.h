#pragma once
#include "paper/drawing.h"

#include <functional>

namespace fox {

/// A frame with scales to the left and below, in which a plot is drawn.
class PlotAxes {
public:
    /// `box` is the frame on the paper. The scale upwards runs from `low` at its foot to `high`; where low > high it is turned
    /// round.
    PlotAxes(const Box2& box, double left, double right, double low, double high)
        : m_box(box), m_left(left), m_right(right), m_low(low), m_high(high) {}

    Point2 at(double x, double y) const {
        return {m_box.xmin + m_box.width() * (x - m_left) / (m_right - m_left),
                m_box.ymax - m_box.height() * (y - m_low) / (m_high - m_low)};
    }
    bool holds(double x, double y) const;
    const Box2& box() const { return m_box; }

    /// Lines and labels at round values.
    void draw(paper::Drawing&, const std::string& below, const std::string& beside) const;
    /// With labels of their own below, at these places.
    void drawWithLabels(paper::Drawing&, const std::vector<std::pair<double, std::string>>& labels,
                        const std::string& beside) const;

    static constexpr double kText = 2.9; ///< millimetres

private:
    void frame(paper::Drawing&, const std::string& beside) const;
    void mark(paper::Drawing&, double x, const std::string& label) const;
    Box2 m_box;
    double m_left, m_right, m_low, m_high;
};

/// A range with some room on both sides, never empty.
std::pair<double, double> widened(double low, double high);

} // namespace fox
