#include "surfaces/surface.h"

#include "base/parallel.h"
#include "base/text.h"
#include "surfaces/interpolators.h"
#include "surfaces/nearest_points.h"

#include <fmt/format.h>

namespace fox {

namespace {

struct MethodNames {
    Method method;
    const char* name;
    const char* words;
};
constexpr MethodNames kMethods[] = {{Method::Linear, "linear", "Linear on triangles"},
                                    {Method::InverseDistance, "inverse-distance", "Inverse distance"},
                                    {Method::Kriging, "kriging", "Ordinary kriging"}};

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

std::unique_ptr<detail::Interpolator> make(std::vector<Point3> points, const SurfaceSettings& settings) {
    switch (settings.method) {
    case Method::Linear: return detail::makeLinear(std::move(points));
    case Method::InverseDistance: return detail::makeInverseDistance(std::move(points), settings);
    case Method::Kriging: break;
    }
    return detail::makeKriging(std::move(points), settings);
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
        : m_data(merged(points)), m_progress(progress) {
        m_fit.settings = settings;
        m_fit.points = int(points.size());
        m_fit.merged = int(points.size() - m_data.size());
        for (const auto& b : bounds) ++(b.side == Side::Upper ? m_fit.upperBounds : m_fit.lowerBounds);
        if (!m_data.empty()) keepPossible(bounds);
    }

    FittedSurface fit() {
        if (m_data.empty()) {
            m_fit.surface = std::make_shared<NoSurface>();
            return std::move(m_fit);
        }
        if (m_fit.settings.method == Method::Kriging && !m_fit.settings.variogram)
            m_fit.settings.variogram = fitVariogram(m_data, m_fit.settings.nugget, extent());
        solve();
        while (moveOneBound()) {
            m_progress.report(0.5, "Keeping bounds");
            solve();
        }
        for (const auto& b : m_bounds) m_fit.brokenBounds += breach(b, m_surface->at(b.place.plan())) > kBoundSlack;
        m_fit.activeBounds = int(m_active.size());
        leaveOneOut();
        m_fit.surface = std::move(m_surface);
        return std::move(m_fit);
    }

private:
    /// Across all that speaks, data and bounds, metres.
    double extent() const {
        Box2 box;
        for (const auto& p : m_data) box.include(p.plan());
        for (const auto& b : m_bounds) box.include(b.place.plan());
        return std::hypot(box.width(), box.height());
    }

    /// Leaves out, with findings, bounds that contradict data or one another at one place; of several at
    /// one place on one side the tightest is enough.
    void keepPossible(std::span<const Bound> bounds) {
        std::vector<Point2> plan;
        for (const auto& p : m_data) plan.push_back(p.plan());
        const NearestPoints near(plan);
        std::vector<NearestPoints::Hit> hit;
        for (const auto& b : bounds) {
            near.find(b.place.plan(), 1, kMerge, hit);
            if (!hit.empty()) {
                if (const double by = breach(b, m_data[hit.front().index].z); by > kBoundSlack)
                    refuse(b, fmt::format("the data there have {:.2f} m", m_data[hit.front().index].z));
                continue; // the datum keeps it
            }
            auto same = std::ranges::find_if(
                m_bounds, [&](const Bound& o) { return distance(o.place.plan(), b.place.plan()) < kMerge && o.side == b.side; });
            const auto other = std::ranges::find_if(
                m_bounds, [&](const Bound& o) { return distance(o.place.plan(), b.place.plan()) < kMerge && o.side != b.side; });
            if (other != m_bounds.end() && breach(b, other->place.z) > kBoundSlack)
                refuse(b, fmt::format("{} asks for the opposite, {:.2f} m", other->name.empty() ? "another bound" : other->name,
                                      other->place.z));
            else if (same == m_bounds.end())
                m_bounds.push_back(b);
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
        for (const auto i : m_active) points.push_back(m_bounds[i].place);
        m_surface = make(std::move(points), m_fit.settings);
    }

    /// One change of the active set; false if none is needed. Bounded: cycling could only come from rounding.
    bool moveOneBound() {
        if (++m_moves > 10 * int(m_bounds.size()) + 10) return false;
        if (const auto wrong = wrongPull()) {
            m_released[m_active[*wrong]]++;
            m_active.erase(m_active.begin() + std::ptrdiff_t(*wrong));
            return true;
        }
        std::optional<std::size_t> worst;
        double by = kBoundSlack;
        for (std::size_t i = 0; i < m_bounds.size(); ++i) {
            if (std::ranges::count(m_active, i)) continue;
            if (const double b = breach(m_bounds[i], m_surface->at(m_bounds[i].place.plan())); b > by) by = b, worst = i;
        }
        if (!worst) return false;
        // an upper and a lower bound within a millimetre would be one point twice
        std::erase_if(m_active,
                      [&](std::size_t i) { return distance(m_bounds[i].place.plan(), m_bounds[*worst].place.plan()) < kMerge; });
        m_active.push_back(*worst);
        return true;
    }

    std::optional<std::size_t> wrongPull() const {
        constexpr int kOften = 3; // one that keeps coming back stays
        std::optional<std::size_t> wrong;
        double strongest = 0;
        for (std::size_t k = 0; k < m_active.size(); ++k) {
            const auto pull = m_surface->pull(m_data.size() + k);
            if (!pull) return {};
            const double against = m_bounds[m_active[k]].side == Side::Upper ? *pull : -*pull;
            const auto released = m_released.find(m_active[k]);
            if (against > strongest && (released == m_released.end() || released->second < kOften))
                strongest = against, wrong = k;
        }
        return strongest > 1e-9 * scaleOfPulls() ? wrong : std::nullopt;
    }

    double scaleOfPulls() const {
        double scale = 0;
        for (std::size_t i = 0; i < m_data.size() + m_active.size(); ++i)
            scale = std::max(scale, std::abs(m_surface->pull(i).value_or(0)));
        return scale;
    }

    void leaveOneOut() {
        auto& out = m_fit.leaveOneOut;
        out.residuals.assign(m_data.size(), kNoValue);
        if (m_data.size() < 2) return;
        // the kriging system makes all of them when first asked, so ask once before going parallel
        out.residuals[0] = m_surface->leftOut(0);
        parallelFor(
            m_data.size(), 64,
            [&](std::size_t begin, std::size_t end) {
                for (auto i = begin; i < end; ++i) out.residuals[i] = m_surface->leftOut(i);
            },
            m_progress);
        double squares = 0, absolute = 0, sum = 0;
        for (const double r : out.residuals)
            if (!std::isnan(r)) ++out.n, squares += r * r, absolute += std::abs(r), sum += r;
        if (out.n > 0) out.rmse = std::sqrt(squares / out.n), out.mae = absolute / out.n, out.bias = sum / out.n;
    }

    std::vector<Point3> m_data;
    std::vector<Bound> m_bounds; ///< possible ones
    std::vector<std::size_t> m_active;
    std::map<std::size_t, int> m_released;
    std::unique_ptr<detail::Interpolator> m_surface;
    FittedSurface m_fit;
    const Progress& m_progress;
    int m_moves = 0;
};

} // namespace

const char* name(Method method) { return kMethods[std::size_t(method)].name; }
const char* words(Method method) { return kMethods[std::size_t(method)].words; }

std::optional<Method> methodNamed(std::string_view wanted) {
    for (const auto& m : kMethods)
        if (equalNoCase(m.name, wanted)) return m.method;
    return {};
}

std::string methodNames() {
    std::string all;
    for (const auto& m : kMethods) all += (all.empty() ? "" : ", ") + std::string(m.name);
    return all;
}

double Surface::at(Point2 p) const {
    double value = kNoValue;
    evaluate(std::span(&p, 1), std::span(&value, 1), {});
    return value;
}

FittedSurface fitSurface(std::span<const Point3> points, std::span<const Bound> bounds, const SurfaceSettings& settings,
                         const Progress& progress) {
    return Fitter(points, bounds, settings, progress).fit();
}

Grid sample(const Surface& surface, const Frame& frame, Grid* variance, const Progress& progress) {
    Grid grid(frame);
    if (variance) *variance = Grid(frame);
    const int columns = frame.columns();
    parallelFor(
        grid.values.size(), 2048,
        [&](std::size_t begin, std::size_t end) {
            std::vector<Point2> places(end - begin);
            for (auto i = begin; i < end; ++i)
                places[i - begin] = frame.centre(int(i % std::size_t(columns)), int(i / std::size_t(columns)));
            const auto part = [&](std::vector<double>& v) { return std::span(v).subspan(begin, end - begin); };
            surface.evaluate(places, part(grid.values), variance ? part(variance->values) : std::span<double>());
        },
        progress);
    return grid;
}

} // namespace fox
