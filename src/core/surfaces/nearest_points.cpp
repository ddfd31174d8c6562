#include "surfaces/nearest_points.h"

#include <nanoflann.hpp>

namespace fox {

struct NearestPoints::Index {
    struct Cloud {
        std::vector<Point2> points;
        std::size_t kdtree_get_point_count() const { return points.size(); }
        double kdtree_get_pt(std::size_t i, std::size_t axis) const { return axis == 0 ? points[i].x : points[i].y; }
        template <class Box>
        bool kdtree_get_bbox(Box&) const {
            return false;
        }
    };
    using Tree = nanoflann::KDTreeSingleIndexAdaptor<nanoflann::L2_Simple_Adaptor<double, Cloud>, Cloud, 2, std::size_t>;
    Cloud cloud;
    Tree tree;
    explicit Index(std::vector<Point2> points) : cloud{std::move(points)}, tree(2, cloud, {12}) {}
};

NearestPoints::NearestPoints(std::vector<Point2> points) : m_index(std::make_unique<Index>(std::move(points))) {}
NearestPoints::~NearestPoints() = default;
NearestPoints::NearestPoints(NearestPoints&&) noexcept = default;

void NearestPoints::find(Point2 p, std::size_t k, std::optional<double> radius, std::vector<Hit>& hits) const {
    k = std::min(k, m_index->cloud.points.size());
    if (radius && k == m_index->cloud.points.size()) return findWithin(p, *radius, hits);
    thread_local std::vector<std::size_t> indices;
    thread_local std::vector<double> distances;
    indices.resize(k), distances.resize(k);
    nanoflann::KNNResultSet<double, std::size_t> result(k);
    result.init(indices.data(), distances.data());
    const double query[2] = {p.x, p.y};
    m_index->tree.findNeighbors(result, query, {});
    hits.clear();
    for (std::size_t i = 0; i < result.size(); ++i)
        if (!radius || distances[i] <= *radius * *radius) hits.push_back({indices[i], distances[i]});
}

void NearestPoints::findWithin(Point2 p, double radius, std::vector<Hit>& hits) const {
    thread_local std::vector<std::pair<std::size_t, double>> found;
    const double query[2] = {p.x, p.y};
    m_index->tree.radiusSearch(query, radius * radius, found, {}); // the nearest first
    hits.clear();
    for (const auto& [index, squared] : found) hits.push_back({index, squared});
}

} // namespace fox
