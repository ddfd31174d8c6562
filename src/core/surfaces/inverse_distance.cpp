#include "surfaces/interpolators.h"
#include "surfaces/nearest_points.h"

#include <numbers>

namespace fox::detail {

Squeeze::Squeeze(const Anisotropy& a)
    : m_sin(std::sin(a.azimuth * std::numbers::pi / 180)),
      m_cos(std::cos(a.azimuth * std::numbers::pi / 180)),
      m_ratio(a.ratio) {}

Point2 Squeeze::operator()(Point2 p) const {
    if (m_ratio == 1) return p;
    return {(p.x * m_cos - p.y * m_sin) * m_ratio, p.x * m_sin + p.y * m_cos};
}

namespace {

/// Shepard's method (1968): the mean weighted by distance to the power -p.
class InverseDistance : public Interpolator {
public:
    InverseDistance(std::vector<Point3> points, const SurfaceSettings& settings)
        : m_points(std::move(points)),
          m_settings(settings),
          m_squeeze(settings.anisotropy),
          m_near(squeezed(m_points, m_squeeze)) {}

    void evaluate(std::span<const Point2> places, std::span<double> values, std::span<double>) const override {
        for (std::size_t i = 0; i < places.size(); ++i) values[i] = estimate(places[i], m_points.size());
    }
    double leftOut(std::size_t i) const override { return estimate(m_points[i].plan(), i) - m_points[i].z; }

private:
    static std::vector<Point2> squeezed(const std::vector<Point3>& points, const Squeeze& squeeze) {
        std::vector<Point2> out;
        for (const auto& p : points) out.push_back(squeeze(p.plan()));
        return out;
    }

    double weight(double squaredDistance) const {
        if (m_settings.power == 2) return 1 / squaredDistance;
        return std::pow(squaredDistance, -m_settings.power / 2);
    }

    double estimate(Point2 place, std::size_t without) const {
        if (m_points.empty()) return kNoValue;
        const Point2 at = m_squeeze(place);
        thread_local std::vector<NearestPoints::Hit> hits;
        std::size_t wanted = m_settings.neighbours > 0 ? std::size_t(m_settings.neighbours) : m_points.size();
        const std::size_t asked = without < m_points.size() ? wanted + 1 : wanted;
        m_near.find(at, asked, m_settings.radius, hits);
        double sum = 0, weights = 0;
        for (const auto& hit : hits) {
            if (hit.index == without) continue;
            if (wanted-- == 0) break;
            if (hit.squaredDistance <= kSamePlace * kSamePlace) return m_points[hit.index].z;
            const double w = weight(hit.squaredDistance);
            sum += w * m_points[hit.index].z, weights += w;
        }
        return weights > 0 ? sum / weights : kNoValue;
    }

    std::vector<Point3> m_points;
    SurfaceSettings m_settings;
    Squeeze m_squeeze;
    NearestPoints m_near;
};

} // namespace

std::unique_ptr<Interpolator> makeInverseDistance(std::vector<Point3> points, const SurfaceSettings& settings) {
    return std::make_unique<InverseDistance>(std::move(points), settings);
}

} // namespace fox::detail
