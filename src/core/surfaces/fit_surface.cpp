#include "surfaces/surface.h"

#include "base/parallel.h"
#include "surfaces/active_set.h"
#include "surfaces/kriging_system.h"
#include "surfaces/nearest_points.h"
#include "surfaces/outer_surface.h"

#include <fmt/format.h>

// Points closer than a millimetre become their mean. Places are squeezed by the anisotropy, so that each method sees an isotropic
// plane. Limits: of several at one place the tightest stays, those that contradict data are refused with a finding. Where the
// method has kriging equations, limits are a quadratic programme over what the data leave open (active_set.h); other methods take
// the worst broken limit as a datum, again and again. Leave-one-out residuals come from the factorisation where there is one,
// else by leaving each point out.
namespace fox {

namespace {

class NoSurface : public Surface {
    void evaluate(std::span<const Point2>, std::span<double> values, std::span<double> variances) const override {
        std::ranges::fill(values, kNoValue);
        std::ranges::fill(variances, kNoValue);
    }
};

constexpr double kMerge = 0.001; // metres

/// Points within the merge distance of an earlier one join it, with the mean of their values.
std::vector<Point3> merged(std::span<const Point3> points) {
    std::vector<Point2> plan;
    for (const auto& p : points) plan.push_back(p.plan());
    const NearestPoints near(plan);
    std::vector<Point3> out;
    std::vector<bool> taken(points.size(), false);
    std::vector<NearestPoints::Hit> hits;
    for (std::size_t i = 0; i < points.size(); ++i) {
        if (taken[i]) continue;
        std::size_t k = 8;
        do near.find(plan[i], k, kMerge, hits);
        while (hits.size() == k && k < points.size() && (k *= 4));
        double sum = 0;
        int count = 0;
        for (const auto& h : hits)
            if (!taken[h.index]) taken[h.index] = true, sum += points[h.index].z, ++count;
        out.push_back({points[i].x, points[i].y, count > 1 ? sum / count : points[i].z});
    }
    return out;
}

std::unique_ptr<detail::Interpolator> make(std::vector<Point3> points, const SurfaceSettings& settings, detail::Reach reach) {
    const auto toEdge = [&](std::unique_ptr<detail::Interpolator> surface) {
        return settings.carriedOn ? detail::carriedOn(std::move(surface), points) : std::move(surface);
    };
    switch (settings.method) {
    case Method::Linear: return toEdge(detail::makeLinear(points));
    case Method::NaturalNeighbour: return toEdge(detail::makeNaturalNeighbour(points));
    case Method::InverseDistance: return detail::makeInverseDistance(std::move(points), settings);
    case Method::Nearest: return detail::makeNearest(std::move(points), settings);
    case Method::Kriging:
    case Method::UniversalKriging:
    case Method::ThinPlate: break;
    }
    return detail::makeKriging(std::move(points), settings, reach);
}

/// How far the surface is on the wrong side of a bound; negative on the right side. No value breaks nothing.
double breach(const Bound& bound, double value) {
    if (std::isnan(value)) return -1;
    return bound.side == Side::Upper ? value - bound.place.z : bound.place.z - value;
}

/// Fits one surface under bounds; see fitSurface.
class Fitter {
public:
    Fitter(std::span<const Point3> points, std::span<const Bound> bounds, const SurfaceSettings& settings,
           const Progress& progress)
        : m_squeeze(settings.anisotropy, points.empty() ? Point2{} : points.front().plan()), m_progress(progress) {
        m_fit.settings = settings;
        m_fit.data = merged(points);
        m_fit.points = int(points.size());
        m_fit.merged = int(points.size() - m_fit.data.size());
        for (const auto& b : bounds) ++(b.side == Side::Upper ? m_fit.upperBounds : m_fit.lowerBounds);
        if (!m_fit.data.empty()) keepPossible(bounds);
        for (const auto& p : m_fit.data) m_data.push_back(m_squeeze(p));
        for (const auto& b : m_fit.bounds) m_bounds.push_back({m_squeeze(b.place), b.side, ""});
        const bool all = !settings.radius && m_data.size() <= kMostAtOnce
                         && (settings.neighbours == 0 || std::size_t(settings.neighbours) >= m_data.size());
        m_reach = all ? detail::Reach::All : detail::Reach::Neighbours;
    }

    FittedSurface fit() {
        if (m_data.empty()) {
            m_fit.surface = std::make_shared<NoSurface>();
            return std::move(m_fit);
        }
        if (hasVariogram(m_fit.settings.method) && !m_fit.settings.variogram)
            m_fit.settings.variogram = fittedVariogram(m_fit.data, m_fit.data, m_fit.bounds, m_fit.settings);
        solve();
        if (m_fit.settings.method != Method::Nearest) keepBounds();
        for (const auto& b : m_bounds) m_fit.brokenBounds += breach(b, m_surface->at(b.place.plan())) > kBoundSlack;
        m_fit.activeBounds = int(m_fit.active.size());
        leaveOneOut();
        tellRegularised();
        std::vector<Point2> speaking;
        for (const auto& p : m_fit.data) speaking.push_back(p.plan());
        for (const auto& b : m_fit.bounds) speaking.push_back(b.place.plan());
        m_fit.surface = detail::inPlainPlaces(std::move(m_surface), m_squeeze, m_fit.settings.reach, std::move(speaking));
        return std::move(m_fit);
    }

private:
    /// Leaves out, with findings, bounds that contradict data or one another at one place; of several at
    /// one place on one side the tightest is enough.
    void keepPossible(std::span<const Bound> bounds) {
        std::vector<Point2> plan;
        for (const auto& p : m_fit.data) plan.push_back(p.plan());
        const NearestPoints near(plan);
        std::vector<NearestPoints::Hit> hit;
        auto& kept = m_fit.bounds;
        for (const auto& b : bounds) {
            near.find(b.place.plan(), 1, kMerge, hit);
            if (!hit.empty()) {
                if (const double by = breach(b, m_fit.data[hit.front().index].z); by > kBoundSlack)
                    refuse(b, fmt::format("the data there have {:.2f} m", m_fit.data[hit.front().index].z));
                continue; // the datum keeps it
            }
            const auto there = [&](bool sameSide) {
                return std::ranges::find_if(kept, [&](const Bound& o) {
                    return distance(o.place.plan(), b.place.plan()) < kMerge && (o.side == b.side) == sameSide;
                });
            };
            const auto same = there(true), other = there(false);
            if (other != kept.end() && breach(b, other->place.z) > kBoundSlack)
                refuse(b, fmt::format("{} asks for the opposite, {:.2f} m", other->name.empty() ? "another bound" : other->name,
                                      other->place.z));
            else if (same == kept.end())
                kept.push_back(b);
            else if (breach(b, same->place.z) > 0)
                *same = b;
        }
    }

    void refuse(const Bound& b, const std::string& because) {
        m_fit.findings.push_back(
            {Severity::Warning, "FC-BOUND", "", 0, "", "", b.name,
             fmt::format("The surface should be at or {} {:.2f} m at E {:.2f} N {:.2f}, but {}; this bound is left out.",
                         b.side == Side::Upper ? "below" : "above", b.place.z, b.place.x, b.place.y, because)});
    }

    void solve() {
        auto points = m_data;
        for (const auto i : m_fit.active) points.push_back(m_bounds[i].place);
        m_surface = make(std::move(points), m_fit.settings, m_reach);
    }

    void keepBounds() {
        constexpr std::size_t kMostInProgramme = 3000; // its matrix has the square of that
        if (m_surface->system() && !m_bounds.empty() && m_bounds.size() <= kMostInProgramme && worstBroken()) {
            m_progress.report(0.4, "Keeping bounds");
            std::vector<Point2> places;
            for (const auto& b : m_bounds) places.push_back(b.place.plan());
            Eigen::VectorXd means;
            Eigen::MatrixXd covariances;
            m_surface->system()->conditional(places, means, covariances);
            m_fit.active = detail::activeConstraints(m_bounds, means, covariances);
            solve();
        }
        // the other methods; and what rounding left of the programme, if anything. Bounded, as each step adds one.
        for (std::size_t i = 0; i < m_bounds.size(); ++i) {
            const auto worst = worstBroken();
            if (!worst) break;
            m_progress.report(0.5, "Keeping bounds");
            // an upper and a lower bound within a millimetre would be one point twice
            std::erase_if(m_fit.active, [&](std::size_t k) {
                return distance(m_bounds[k].place.plan(), m_bounds[*worst].place.plan()) < kMerge;
            });
            m_fit.active.push_back(*worst);
            solve();
        }
    }

    std::optional<std::size_t> worstBroken() const {
        std::optional<std::size_t> worst;
        double by = kBoundSlack;
        for (std::size_t i = 0; i < m_bounds.size(); ++i) {
            if (std::ranges::count(m_fit.active, i)) continue;
            if (const double b = breach(m_bounds[i], m_surface->at(m_bounds[i].place.plan())); b > by) by = b, worst = i;
        }
        return worst;
    }

    void tellRegularised() {
        m_fit.regularised = m_surface->system() ? m_surface->system()->regularised() : 0;
        if (m_fit.regularised == 0) return;
        m_fit.findings.push_back(
            {Severity::Note, "FC-SMOOTH", "", 0, "", "", "",
             fmt::format("The {} is too smooth for points this close together; a nugget of {:.0e} of the sill was added so that "
                         "the equations can be solved.",
                         m_fit.settings.method == Method::ThinPlate ? "thin plate" : "variogram", m_fit.regularised)});
    }

    void leaveOneOut() {
        auto& out = m_fit.leaveOneOut;
        out.residuals.assign(m_data.size(), kNoValue);
        if (m_data.size() + m_fit.active.size() < 2) return;
        // the kriging system makes all of them when first asked, so ask once before going parallel
        out.residuals[0] = m_surface->leaveOneOut(0);
        parallelFor(
            m_data.size(), 64,
            [&](std::size_t begin, std::size_t end) {
                for (auto i = begin; i < end; ++i) out.residuals[i] = m_surface->leaveOneOut(i);
            },
            m_progress);
        out.summarise();
        for (std::size_t k = 0; k < m_fit.active.size(); ++k)
            m_fit.activeLeftOut.push_back(m_surface->leaveOneOut(m_data.size() + k) + m_bounds[m_fit.active[k]].place.z);
    }

    detail::AnisotropyTransform m_squeeze;
    detail::Reach m_reach = detail::Reach::All;
    std::vector<Point3> m_data;  ///< squeezed, as are the bounds
    std::vector<Bound> m_bounds; ///< as m_fit.bounds
    std::unique_ptr<detail::Interpolator> m_surface;
    FittedSurface m_fit;
    const Progress& m_progress;
};

} // namespace

void LeaveOneOut::summarise() {
    double squares = 0, absolute = 0, sum = 0;
    n = 0;
    for (const double r : residuals)
        if (!std::isnan(r)) ++n, squares += r * r, absolute += std::abs(r), sum += r;
    if (n > 0) rmse = std::sqrt(squares / n), mae = absolute / n, bias = sum / n;
}

std::vector<Point3> variogramPoints(std::span<const Point3> points, const SurfaceSettings& settings) {
    std::vector<Point3> out(points.begin(), points.end());
    if (points.empty()) return out;
    const detail::AnisotropyTransform squeeze(settings.anisotropy, points.front().plan());
    for (auto& p : out) p = squeeze(p);
    return settings.method == Method::UniversalKriging ? lessPlane(out) : out;
}

Variogram fittedVariogram(std::span<const Point3> samples, std::span<const Point3> points, std::span<const Bound> bounds,
                          const SurfaceSettings& settings) {
    Box2 box; // across all that speaks, data and bounds
    const detail::AnisotropyTransform squeeze(settings.anisotropy, points.empty() ? Point2{} : points.front().plan());
    for (const auto& p : points) box.include(squeeze(p).plan());
    for (const auto& b : bounds) box.include(squeeze(b.place).plan());
    return fitVariogram(variogramPoints(samples, settings), settings.nugget, std::hypot(box.width(), box.height()));
}

FittedSurface fitSurface(std::span<const Point3> points, std::span<const Bound> bounds, const SurfaceSettings& settings,
                         const Progress& progress) {
    return Fitter(points, bounds, settings, progress).fit();
}

} // namespace fox
