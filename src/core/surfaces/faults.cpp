#include "surfaces/faults.h"

#include <fmt/format.h>
#include <numbers>

// Each side of each fault is a block, and each block has a surface of its own, fitted to the data that lie in it. How much a
// fault parts a place is the angle that its trace takes up as seen from there (the winding integral): half a turn beside it,
// nothing beyond its ends. Between the two, values are the mean of the parted and the unparted surface by that share, which
// leaves a step along the trace and nowhere else. Up to kMostFaults faults, since blocks double with each. Our own construction.
namespace fox {

FaultSide sideOf(const Fault& fault, Point2 p) {
    double angle = 0; // positive to the left of the trace
    for (std::size_t i = 1; i < fault.line.size(); ++i) {
        const auto a = fault.line[i - 1], b = fault.line[i];
        const double ax = a.x - p.x, ay = a.y - p.y, bx = b.x - p.x, by = b.y - p.y;
        angle += std::atan2(ax * by - ay * bx, ax * bx + ay * by);
    }
    constexpr double kWhole = std::numbers::pi / 3;
    return {std::min(1.0, std::abs(angle) / kWhole), angle < 0};
}

Fault carriedOut(Fault fault, const Box2& extent) {
    if (fault.line.size() < 2 || extent.empty()) return fault;
    const double size = std::max(extent.width(), extent.height()), margin = 0.02 * size;
    const auto atEdge = [&](Point2 p) {
        return p.x < extent.xmin + margin || p.x > extent.xmax - margin || p.y < extent.ymin + margin
               || p.y > extent.ymax - margin;
    };
    const auto beyond = [&](Point2 end, Point2 before) {
        const double length = distance(end, before), far = 1000 * size;
        return Point2{end.x + (end.x - before.x) / length * far, end.y + (end.y - before.y) / length * far};
    };
    auto& line = fault.line;
    const auto first = line.front(), last = line.back();
    if (atEdge(first) && distance(first, line[1]) > 0) line.insert(line.begin(), beyond(first, line[1]));
    if (atEdge(last) && distance(last, line[line.size() - 2]) > 0) line.push_back(beyond(last, line[line.size() - 2]));
    return fault;
}

namespace {

/// Which faults part a block, and on which side of each it lies: a bit a fault.
struct Block {
    unsigned faults = 0, right = 0;
    auto operator<=>(const Block&) const = default;
};

class FaultedSurface : public Surface {
public:
    /// `through`: the faults that part everything.
    FaultedSurface(std::vector<Fault> faults, unsigned through, std::map<Block, FittedSurface> blocks)
        : m_faults(std::move(faults)), m_through(through), m_blocks(std::move(blocks)) {}

    bool hasVariance() const override { return m_blocks.begin()->second.surface->hasVariance(); }

    void evaluate(std::span<const Point2> places, std::span<double> values, std::span<double> variances) const override {
        std::map<Block, std::vector<std::pair<std::size_t, double>>> asked;
        for (std::size_t i = 0; i < places.size(); ++i) share(places[i], i, {}, 0, 1, asked);
        std::ranges::fill(values, 0.0);
        std::ranges::fill(variances, 0.0);
        for (const auto& [block, list] : asked) {
            std::vector<Point2> at;
            for (const auto& [i, weight] : list) at.push_back(places[i]);
            std::vector<double> value(at.size()), variance(variances.empty() ? 0 : at.size());
            m_blocks.at(block).surface->evaluate(at, value, variance);
            for (std::size_t k = 0; k < list.size(); ++k) {
                values[list[k].first] += list[k].second * value[k];
                if (!variances.empty()) variances[list[k].first] += list[k].second * variance[k];
            }
        }
    }

private:
    /// Parts a place's weight of one among the blocks, fault by fault.
    void share(Point2 p, std::size_t i, Block block, std::size_t fault, double weight,
               std::map<Block, std::vector<std::pair<std::size_t, double>>>& out) const {
        if (weight <= 0) return;
        if (fault == m_faults.size()) {
            out[block].emplace_back(i, weight);
            return;
        }
        auto side = sideOf(m_faults[fault], p);
        if (m_through >> fault & 1) side.share = 1;
        share(p, i, block, fault + 1, weight * (1 - side.share), out);
        block.faults |= 1U << fault;
        if (side.right) block.right |= 1U << fault;
        share(p, i, block, fault + 1, weight * side.share, out);
    }

    std::vector<Fault> m_faults;
    unsigned m_through;
    std::map<Block, FittedSurface> m_blocks;
};

class FaultedFitter {
public:
    FaultedFitter(std::span<const Point3> points, std::span<const Bound> bounds, const SurfaceSettings& settings,
                  std::span<const Fault> faults, const Progress& progress)
        : m_points(points), m_bounds(bounds), m_settings(settings), m_faults(faults.begin(), faults.end()), m_progress(progress) {
        m_all.settings = settings;
        if (m_faults.size() > kMostFaults) {
            m_all.findings.push_back({Severity::Warning, "FC-FAULT", "", 0, "", "", "",
                                      fmt::format("Only the first {} of {} faults are used.", kMostFaults, m_faults.size())});
            m_faults.resize(kMostFaults);
        }
    }

    FittedSurface fit() {
        chooseVariogram();
        findThrough();
        const unsigned count = 1U << m_faults.size();
        for (unsigned faults = 0; faults < count; ++faults)
            for (unsigned right = faults; (faults & m_through) == m_through;
                 right = (right - 1) & faults) { // every choice of sides of these faults
                fitBlock({faults, right});
                if (right == 0) break;
            }
        gather();
        m_all.surface = std::make_shared<FaultedSurface>(m_faults, m_through, std::move(m_blocks));
        return std::move(m_all);
    }

private:
    Block blockOf(Point2 p, unsigned faults) const {
        Block block{faults, 0};
        for (std::size_t f = 0; f < m_faults.size(); ++f)
            if (faults >> f & 1 && sideOf(m_faults[f], p).right) block.right |= 1U << f;
        return block;
    }

    std::vector<Point3> pointsIn(Block block) const {
        std::vector<Point3> out;
        for (const auto& p : m_points)
            if (blockOf(p.plan(), block.faults) == block) out.push_back(p);
        return out;
    }

    unsigned wholly() const { return (1U << m_faults.size()) - 1; }

    /// Faults that part all places about the points wholly: no surface without them is needed.
    void findThrough() {
        Box2 box;
        for (const auto& p : m_points) box.include(p.plan());
        for (const auto& b : m_bounds) box.include(b.place.plan());
        const std::array<Point2, 4> corners{
            {{box.xmin, box.ymin}, {box.xmax, box.ymin}, {box.xmin, box.ymax}, {box.xmax, box.ymax}}};
        const auto parted = [](const Fault& f, Point2 p) { return sideOf(f, p).share == 1; };
        for (std::size_t f = 0; f < m_faults.size(); ++f)
            if (std::ranges::all_of(corners, [&](Point2 p) { return parted(m_faults[f], p); })
                && std::ranges::all_of(m_points, [&](const Point3& p) { return parted(m_faults[f], p.plan()); })
                && std::ranges::all_of(m_bounds, [&](const Bound& b) { return parted(m_faults[f], b.place.plan()); }))
                m_through |= 1U << f;
    }

    void chooseVariogram() {
        if (!hasVariogram(m_settings.method) || m_settings.variogram) return;
        if (const auto block = largestBlock(m_points, m_faults); !block.empty())
            m_settings.variogram = fitSurface(block, {}, m_settings, m_progress).settings.variogram;
    }

    void fitBlock(Block block) {
        auto points = pointsIn(block);
        std::vector<Bound> bounds;
        for (const auto& b : m_bounds)
            if (blockOf(b.place.plan(), block.faults) == block) bounds.push_back(b);
        if (points.empty() && block.faults != 0) {
            // nobody knows what is there: as if the last of these faults did not part it
            unsigned last = 1;
            while (block.faults >> 1 >= last) last <<= 1;
            points = pointsIn({block.faults & ~last, block.right & ~last});
            m_carried.insert(block);
        }
        m_blocks[block] = fitSurface(points, bounds, m_settings, m_progress);
    }

    /// Of the wholly parted blocks: there each datum and bound is in one.
    void gather() {
        m_all.settings = m_blocks.begin()->second.settings;
        m_all.points = int(m_points.size());
        for (auto& [block, fit] : m_blocks) {
            if (block.faults != wholly()) continue;
            if (m_carried.contains(block)) {
                m_all.findings.push_back(
                    {Severity::Warning, "FC-FAULT", "", 0, "", "", "",
                     "No hole shows this surface on one side of a fault: there it is extrapolated as if there were no fault."});
                continue;
            }
            m_all.merged += fit.merged;
            for (const auto i : fit.active) m_all.active.push_back(m_all.bounds.size() + i);
            m_all.data.insert(m_all.data.end(), fit.data.begin(), fit.data.end());
            m_all.bounds.insert(m_all.bounds.end(), fit.bounds.begin(), fit.bounds.end());
            m_all.activeLeftOut.insert(m_all.activeLeftOut.end(), fit.activeLeftOut.begin(), fit.activeLeftOut.end());
            auto& residuals = m_all.leaveOneOut.residuals;
            residuals.insert(residuals.end(), fit.leaveOneOut.residuals.begin(), fit.leaveOneOut.residuals.end());
            m_all.upperBounds += fit.upperBounds, m_all.lowerBounds += fit.lowerBounds;
            m_all.activeBounds += fit.activeBounds, m_all.brokenBounds += fit.brokenBounds;
            m_all.regularised = std::max(m_all.regularised, fit.regularised);
            m_all.findings.insert(m_all.findings.end(), fit.findings.begin(), fit.findings.end());
        }
        m_all.leaveOneOut.summarise();
    }

    std::span<const Point3> m_points;
    std::span<const Bound> m_bounds;
    SurfaceSettings m_settings;
    std::vector<Fault> m_faults;
    unsigned m_through = 0;
    const Progress& m_progress;
    std::map<Block, FittedSurface> m_blocks;
    std::set<Block> m_carried;
    FittedSurface m_all;
};

} // namespace

FittedSurface fitFaulted(std::span<const Point3> points, std::span<const Bound> bounds, const SurfaceSettings& settings,
                         std::span<const Fault> faults, const Progress& progress) {
    if (faults.empty() || points.empty()) return fitSurface(points, bounds, settings, progress);
    return FaultedFitter(points, bounds, settings, faults, progress).fit();
}

std::vector<Point3> largestBlock(std::span<const Point3> points, std::span<const Fault> faults) {
    std::map<unsigned, std::vector<Point3>> blocks;
    for (const auto& p : points) {
        unsigned right = 0;
        for (std::size_t f = 0; f < faults.size() && f < kMostFaults; ++f)
            if (sideOf(faults[f], p.plan()).right) right |= 1U << f;
        blocks[right].push_back(p);
    }
    if (blocks.empty()) return {};
    return std::ranges::max_element(blocks, {}, [](const auto& b) { return b.second.size(); })->second;
}

std::vector<FaultThrow> throwAlong(const Surface& surface, const Fault& fault, double step) {
    constexpr double kBeside = 0.01; // metres
    std::vector<FaultThrow> out;
    double start = 0;
    for (std::size_t i = 1; i < fault.line.size(); ++i) {
        const auto a = fault.line[i - 1], b = fault.line[i];
        const double length = distance(a, b);
        if (!(length > 0)) continue;
        const double ux = (b.x - a.x) / length, uy = (b.y - a.y) / length;
        const int pieces = std::max(1, int(std::ceil(length / step)));
        for (int k = out.empty() ? 0 : 1; k <= pieces; ++k) {
            const double along = length * k / pieces;
            const Point2 p{a.x + along * ux, a.y + along * uy};
            const Point2 sides[] = {{p.x - kBeside * uy, p.y + kBeside * ux}, {p.x + kBeside * uy, p.y - kBeside * ux}};
            double levels[2] = {kNoValue, kNoValue};
            surface.evaluate(sides, levels, {});
            out.push_back({start + along, levels[0], levels[1]});
        }
        start += length;
    }
    return out;
}

} // namespace fox
