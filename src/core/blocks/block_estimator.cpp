#include "blocks/block_estimator.h"

#include <Eigen/Dense>
#include <nanoflann.hpp>

namespace fox {

PlacedValues placed(std::span<const Composite> composites) {
    PlacedValues out;
    std::map<std::string_view, std::uint32_t> numbers;
    std::uint32_t next = 0;
    for (const auto& c : composites) {
        out.places.push_back(c.place), out.values.push_back(c.value);
        if (c.hole.empty()) {
            out.holes.push_back(next++);
        } else {
            const auto [at, isNew] = numbers.emplace(c.hole, next);
            if (isNew) ++next;
            out.holes.push_back(at->second);
        }
    }
    return out;
}

namespace {

using BlockMethod = BlockSpec::Method;

double squaredDistance(const Point3& a, const Point3& b) {
    return (a.x - b.x) * (a.x - b.x) + (a.y - b.y) * (a.y - b.y) + (a.z - b.z) * (a.z - b.z);
}

} // namespace

struct BlockEstimator::Tree {
    struct Cloud {
        std::vector<Point3> points;
        std::size_t kdtree_get_point_count() const { return points.size(); }
        double kdtree_get_pt(std::size_t i, std::size_t axis) const {
            return axis == 0 ? points[i].x : axis == 1 ? points[i].y : points[i].z;
        }
        template <class Box>
        bool kdtree_get_bbox(Box&) const {
            return false;
        }
    };
    using Index = nanoflann::KDTreeSingleIndexAdaptor<nanoflann::L2_Simple_Adaptor<double, Cloud>, Cloud, 3, std::size_t>;

    Tree(const BlockSpec& s, PlacedValues given, const Variogram& g)
        : spec(s),
          cloud{std::move(given.places)},
          values(std::move(given.values)),
          holes(std::move(given.holes)),
          variogram(g),
          index(3, cloud, {12}) {
        // a linear variogram has no sill: what is used is beyond all distances
        sill = variogram.model == VariogramModel::Linear ? 0 : variogram.nugget + variogram.partialSill;
    }

    BlockSpec spec;
    Cloud cloud;
    std::vector<double> values;
    std::vector<std::uint32_t> holes;
    Variogram variogram;
    double sill = 0;
    Index index;
};

BlockEstimator::BlockEstimator(const BlockSpec& spec, PlacedValues given, const Variogram& variogram) {
    for (auto& p : given.places) p.z *= spec.vertical;
    if (spec.logarithmic)
        for (double& v : given.values) v = std::log(v);
    m_tree = std::make_unique<Tree>(spec, std::move(given), variogram);
}
BlockEstimator::~BlockEstimator() = default;
BlockEstimator::BlockEstimator(BlockEstimator&&) noexcept = default;

namespace {

/// The nearest composites of a place that may count, the nearest first: what the search tree fills.
/// That at most some of one hole count is kept while they come in: one too many of a hole takes the place of its farthest. As
/// places of holes are a partition, no other set of so many that keeps the limit is nearer, whatever the order they come in.
class Nearest {
public:
    using DistanceType = double;
    using IndexType = std::size_t;

    std::vector<std::size_t> index;
    std::vector<double> squared; ///< distances

    template <typename Tree>
    void start(const Tree& tree, std::size_t most, double level, std::optional<std::size_t> without) {
        index.resize(most), squared.resize(most);
        m_count = 0;
        m_without = without;
        const auto& s = tree.spec;
        m_worst = s.radius > 0 ? std::nextafter(s.radius * s.radius, kInfinity) : kInfinity;
        m_levels = s.verticalRadius > 0 ? &tree.cloud.points : nullptr;
        m_level = level, m_levelReach = s.verticalRadius * s.vertical;
        m_perHole = std::size_t(s.perHole);
        m_holes = s.perHole > 0 && !tree.holes.empty() ? &tree.holes : nullptr;
        m_chooses = without || m_levels || m_holes;
    }
    void end() { index.resize(m_count), squared.resize(m_count); } ///< of what was found
    std::size_t size() const { return m_count; }
    bool full() const { return m_count == index.size(); }
    double worstDist() const { return m_worst; }
    bool addPoint(double distance, std::size_t i) {
        if (distance >= m_worst) return true;
        std::size_t gap = full() ? m_count - 1 : m_count; // where there is room, or what goes
        if (m_chooses && !mayCount(distance, i, gap)) return true;
        if (gap == m_count) ++m_count;
        for (; gap > 0 && squared[gap - 1] > distance; --gap) squared[gap] = squared[gap - 1], index[gap] = index[gap - 1];
        squared[gap] = distance, index[gap] = i;
        if (full()) m_worst = squared.back();
        return true;
    }

private:
    static constexpr double kInfinity = std::numeric_limits<double>::infinity();
    /// With as many of its hole as may count the farthest of these has to go.
    bool mayCount(double distance, std::size_t i, std::size_t& gap) const {
        if (i == m_without) return false;
        if (m_levels && std::abs((*m_levels)[i].z - m_level) > m_levelReach) return false;
        if (!m_holes) return true;
        std::size_t ofHole = 0, farthest = 0;
        for (std::size_t k = 0; k < m_count; ++k)
            if ((*m_holes)[index[k]] == (*m_holes)[i]) ++ofHole, farthest = k;
        if (ofHole < m_perHole) return true;
        gap = farthest;
        return distance < squared[farthest];
    }

    std::size_t m_count = 0, m_perHole = 0;
    std::optional<std::size_t> m_without;
    double m_worst = 0, m_level = 0, m_levelReach = 0;
    bool m_chooses = false; ///< not all count
    const std::vector<Point3>* m_levels = nullptr;
    const std::vector<std::uint32_t>* m_holes = nullptr;
};

/// Ordinary kriging of a few composites: weights and variance by the Cholesky factor of their covariances.
template <typename Tree>
BlockEstimator::Estimate kriged(const Tree& tree, const Nearest& near, const Point3& at) {
    const auto n = Eigen::Index(near.index.size());
    thread_local Eigen::MatrixXd covariances;
    thread_local Eigen::VectorXd toPlace, ones;
    double sill = tree.sill;
    if (sill == 0) { // linear
        for (std::size_t i = 0; i < near.index.size(); ++i)
            sill = std::max(sill, 4 * tree.variogram.at(std::sqrt(near.squared[i])));
    }
    covariances.resize(n, n), toPlace.resize(n), ones = Eigen::VectorXd::Ones(n);
    for (Eigen::Index i = 0; i < n; ++i) {
        const auto& p = tree.cloud.points[near.index[std::size_t(i)]];
        toPlace[i] = sill - tree.variogram.at(std::sqrt(squaredDistance(p, at)));
        covariances(i, i) = sill * (1 + 1e-9);
        for (Eigen::Index j = 0; j < i; ++j)
            covariances(i, j) =
                sill - tree.variogram.at(std::sqrt(squaredDistance(p, tree.cloud.points[near.index[std::size_t(j)]])));
    }
    const Eigen::LLT<Eigen::Ref<Eigen::MatrixXd>> factor(covariances); // the lower half is read
    const Eigen::VectorXd a = factor.solve(toPlace), b = factor.solve(ones);
    const double multiplier = (a.sum() - 1) / b.sum();
    double value = 0, towards = 0;
    for (Eigen::Index i = 0; i < n; ++i) {
        const double weight = a[i] - multiplier * b[i];
        value += weight * tree.values[near.index[std::size_t(i)]];
        towards += weight * toPlace[i];
    }
    return {value, std::max(0.0, sill - towards - multiplier), int(n)};
}

template <typename Tree>
double byDistance(const Tree& tree, const Nearest& near) {
    double sum = 0, weights = 0;
    const double half = tree.spec.power / 2;
    for (std::size_t i = 0; i < near.index.size(); ++i) {
        const double w = half == 1 ? 1 / near.squared[i] : std::pow(near.squared[i], -half);
        sum += w * tree.values[near.index[i]], weights += w;
    }
    return sum / weights;
}

} // namespace

BlockEstimator::Estimate BlockEstimator::at(Point3 place, std::optional<std::size_t> without) const {
    const auto& tree = *m_tree;
    place.z *= tree.spec.vertical;
    const auto all = tree.values.size();
    auto wanted = tree.spec.method == BlockMethod::Nearest ? 1
                  : tree.spec.neighbours > 0               ? std::size_t(tree.spec.neighbours)
                                                           : all;
    if (tree.spec.method == BlockMethod::Kriging) wanted = std::min<std::size_t>(wanted, kMostInKriging);
    thread_local Nearest near;
    near.start(tree, std::min(wanted, all), place.z, without);
    const double query[3] = {place.x, place.y, place.z};
    tree.index.findNeighbors(near, query, {});
    near.end();
    if (near.size() == 0) return {};
    Estimate out{tree.values[near.index[0]], kNoValue, int(near.size())};
    if (near.squared[0] == 0) {
        out.variance = 0;
    } else if (tree.spec.method == BlockMethod::InverseDistance) {
        out.value = byDistance(tree, near);
    } else if (tree.spec.method == BlockMethod::Kriging) {
        out = kriged(tree, near, place);
    }
    if (tree.spec.method != BlockMethod::Kriging) out.variance = kNoValue;
    if (tree.spec.logarithmic) out.value = std::exp(out.value);
    return out;
}

} // namespace fox
