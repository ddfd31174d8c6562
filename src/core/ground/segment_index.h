#pragma once
#include "base/point.h"

#include <functional>
#include <memory>
#include <vector>

namespace fox {

/// Finds the nearest of many straight pieces. (An R-tree of Boost's.)
class SegmentIndex {
public:
    struct Segment {
        Point2 a, b;
    };
    SegmentIndex() = default;
    explicit SegmentIndex(std::vector<Segment>);
    bool empty() const;
    const Segment& operator[](std::size_t i) const;
    /// Indices of the nearest `count` that `wanted` accepts, in no order; fewer if there are no more.
    std::vector<std::size_t> nearest(Point2, unsigned count, const std::function<bool(std::size_t)>& wanted = {}) const;

private:
    struct Tree;
    std::shared_ptr<const Tree> m_tree;
};

/// Share of the way from a to b at which a point is nearest, 0 to 1.
inline double nearestShare(Point2 p, Point2 a, Point2 b) {
    const double dx = b.x - a.x, dy = b.y - a.y, squared = dx * dx + dy * dy;
    return squared > 0 ? std::clamp(((p.x - a.x) * dx + (p.y - a.y) * dy) / squared, 0.0, 1.0) : 0;
}
inline double distanceTo(Point2 p, const SegmentIndex::Segment& s) {
    const double t = nearestShare(p, s.a, s.b);
    return std::hypot(p.x - s.a.x - t * (s.b.x - s.a.x), p.y - s.a.y - t * (s.b.y - s.a.y));
}

} // namespace fox
