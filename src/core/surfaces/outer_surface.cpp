#include "surfaces/outer_surface.h"

#include "surfaces/nearest_points.h"

#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/convex_hull_2.h>
#include <numbers>

namespace fox::detail {

AnisotropyTransform::AnisotropyTransform(const Anisotropy& a, Point2 about)
    : m_about(about),
      m_sin(std::sin(a.azimuth * std::numbers::pi / 180)),
      m_cos(std::cos(a.azimuth * std::numbers::pi / 180)),
      m_ratio(a.ratio) {}

Point2 AnisotropyTransform::operator()(Point2 p) const {
    if (m_ratio == 1) return p;
    const double x = p.x - m_about.x, y = p.y - m_about.y;
    return {(x * m_cos - y * m_sin) * m_ratio, x * m_sin + y * m_cos};
}

namespace {

class CarriedOn : public Interpolator {
    using K = CGAL::Exact_predicates_inexact_constructions_kernel;

public:
    CarriedOn(std::unique_ptr<Interpolator> inner, std::span<const Point3> points) : m_inner(std::move(inner)) {
        std::vector<K::Point_2> places, hull;
        for (const auto& p : points) {
            places.emplace_back(p.x, p.y);
            m_middle.x += p.x / double(points.size()), m_middle.y += p.y / double(points.size());
        }
        CGAL::convex_hull_2(places.begin(), places.end(), std::back_inserter(hull));
        for (const auto& p : hull) m_hull.push_back({p.x(), p.y()});
    }

    void evaluate(std::span<const Point2> places, std::span<double> values, std::span<double> variances) const override {
        m_inner->evaluate(places, values, variances);
        if (m_hull.size() < 3) return;
        for (std::size_t i = 0; i < places.size(); ++i) {
            if (!std::isnan(values[i])) continue;
            const auto at = nearestInside(places[i]);
            m_inner->evaluate(std::span(&at, 1), values.subspan(i, 1), {});
        }
    }
    double leaveOneOut(std::size_t i) const override { return m_inner->leaveOneOut(i); }

private:
    Point2 nearestInside(Point2 p) const {
        Point2 best;
        double least = std::numeric_limits<double>::infinity();
        for (std::size_t i = 0; i < m_hull.size(); ++i) {
            const auto a = m_hull[i], b = m_hull[(i + 1) % m_hull.size()];
            const double dx = b.x - a.x, dy = b.y - a.y;
            const double t = std::clamp(((p.x - a.x) * dx + (p.y - a.y) * dy) / (dx * dx + dy * dy), 0.0, 1.0);
            const Point2 q{a.x + t * dx, a.y + t * dy};
            if (const double d = distance(p, q); d < least) least = d, best = q;
        }
        constexpr double kIn = 1e-7; // of the way to the middle: rounding may not put it outside
        return {best.x + kIn * (m_middle.x - best.x), best.y + kIn * (m_middle.y - best.y)};
    }

    std::unique_ptr<Interpolator> m_inner;
    std::vector<Point2> m_hull;
    Point2 m_middle;
};

class InPlainPlaces : public Surface {
public:
    InPlainPlaces(std::shared_ptr<const Surface> inner, const AnisotropyTransform& squeeze, std::optional<double> reach,
                  std::vector<Point2> speaking)
        : m_inner(std::move(inner)), m_squeeze(squeeze), m_reach(reach), m_speaking(std::move(speaking)) {}
    bool hasVariance() const override { return m_inner->hasVariance(); }
    void evaluate(std::span<const Point2> places, std::span<double> values, std::span<double> variances) const override {
        std::vector<Point2> at(places.begin(), places.end());
        for (auto& p : at) p = m_squeeze(p);
        m_inner->evaluate(at, values, variances);
        if (!m_reach) return;
        std::vector<NearestPoints::Hit> hit;
        for (std::size_t i = 0; i < places.size(); ++i) {
            m_speaking.find(places[i], 1, m_reach, hit);
            if (!hit.empty()) continue;
            values[i] = kNoValue;
            if (!variances.empty()) variances[i] = kNoValue;
        }
    }

private:
    std::shared_ptr<const Surface> m_inner;
    AnisotropyTransform m_squeeze;
    std::optional<double> m_reach;
    NearestPoints m_speaking;
};

} // namespace

std::unique_ptr<Interpolator> carriedOn(std::unique_ptr<Interpolator> inner, std::span<const Point3> points) {
    return std::make_unique<CarriedOn>(std::move(inner), points);
}

std::shared_ptr<const Surface> inPlainPlaces(std::shared_ptr<const Surface> inner, const AnisotropyTransform& squeeze,
                                             std::optional<double> reach, std::vector<Point2> speaking) {
    if (squeeze.none() && !reach) return inner;
    return std::make_shared<InPlainPlaces>(std::move(inner), squeeze, reach, std::move(speaking));
}

} // namespace fox::detail
