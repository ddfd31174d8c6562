#include "ground/segment_index.h"

#include <boost/geometry.hpp>
#include <boost/geometry/index/rtree.hpp>

namespace fox {

namespace {
namespace bg = boost::geometry;
using PlanePoint = bg::model::point<double, 2, bg::cs::cartesian>;
using Piece = bg::model::segment<PlanePoint>;
using Entry = std::pair<Piece, std::size_t>;
} // namespace

struct SegmentIndex::Tree {
    std::vector<Segment> segments;
    bg::index::rtree<Entry, bg::index::rstar<16>> tree;
};

SegmentIndex::SegmentIndex(std::vector<Segment> segments) {
    std::vector<Entry> entries;
    for (std::size_t i = 0; i < segments.size(); ++i) {
        const auto& s = segments[i];
        entries.emplace_back(Piece({s.a.x, s.a.y}, {s.b.x, s.b.y}), i);
    }
    auto tree = std::make_shared<Tree>();
    tree->segments = std::move(segments);
    tree->tree = decltype(tree->tree)(entries.begin(), entries.end());
    m_tree = std::move(tree);
}

bool SegmentIndex::empty() const { return !m_tree || m_tree->segments.empty(); }

const SegmentIndex::Segment& SegmentIndex::operator[](std::size_t i) const { return m_tree->segments[i]; }

std::vector<std::size_t> SegmentIndex::nearest(Point2 p, unsigned count, const std::function<bool(std::size_t)>& wanted) const {
    if (empty()) return {};
    std::vector<Entry> found;
    const PlanePoint at(p.x, p.y);
    if (wanted)
        m_tree->tree.query(bg::index::nearest(at, count)
                               && bg::index::satisfies([&](const Entry& e) { return wanted(e.second); }),
                           std::back_inserter(found));
    else
        m_tree->tree.query(bg::index::nearest(at, count), std::back_inserter(found));
    std::vector<std::size_t> out;
    for (const auto& e : found) out.push_back(e.second);
    return out;
}

} // namespace fox
