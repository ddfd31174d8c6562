#include "surfaces/interpolators.h"
#include "surfaces/nearest_points.h"

namespace fox::detail {

namespace {

/// Shepard's method (1968): the mean weighted by distance to the power -p.
class InverseDistance : public Interpolator {
public:
    InverseDistance(std::vector<Point3> points, const SurfaceSettings& settings)
        : m_points(std::move(points)), m_settings(settings), m_near(planOf(m_points)) {}

    void evaluate(std::span<const Point2> places, std::span<double> values, std::span<double>) const override {
        for (std::size_t i = 0; i < places.size(); ++i) values[i] = estimate(places[i], m_points.size());
    }
    double leaveOneOut(std::size_t i) const override { return estimate(m_points[i].plan(), i) - m_points[i].z; }

private:
    double weight(double squaredDistance) const {
        if (m_settings.power == 2) return 1 / squaredDistance;
        return std::pow(squaredDistance, -m_settings.power / 2);
    }

    double estimate(Point2 at, std::size_t without) const {
        if (m_settings.neighbours == 0 && !m_settings.radius) return estimateOfAll(at, without);
        thread_local std::vector<NearestPoints::Hit> hits;
        std::size_t wanted = m_settings.neighbours > 0 ? std::size_t(m_settings.neighbours) : m_points.size();
        m_near.find(at, without < m_points.size() ? wanted + 1 : wanted, m_settings.radius, hits);
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

    double estimateOfAll(Point2 at, std::size_t without) const {
        double sum = 0, weights = 0;
        for (std::size_t i = 0; i < m_points.size(); ++i) {
            if (i == without) continue;
            const double dx = m_points[i].x - at.x, dy = m_points[i].y - at.y, squared = dx * dx + dy * dy;
            if (squared <= kSamePlace * kSamePlace) return m_points[i].z;
            const double w = weight(squared);
            sum += w * m_points[i].z, weights += w;
        }
        return weights > 0 ? sum / weights : kNoValue;
    }

    std::vector<Point3> m_points;
    SurfaceSettings m_settings;
    NearestPoints m_near;
};

/// The value of the nearest point.
class Nearest : public Interpolator {
public:
    Nearest(std::vector<Point3> points, const SurfaceSettings& settings)
        : m_points(std::move(points)), m_radius(settings.radius), m_near(planOf(m_points)) {}
    void evaluate(std::span<const Point2> places, std::span<double> values, std::span<double>) const override {
        for (std::size_t i = 0; i < places.size(); ++i) values[i] = nearest(places[i], m_points.size());
    }
    double leaveOneOut(std::size_t i) const override { return nearest(m_points[i].plan(), i) - m_points[i].z; }

private:
    double nearest(Point2 at, std::size_t without) const {
        thread_local std::vector<NearestPoints::Hit> hits;
        m_near.find(at, without < m_points.size() ? 2 : 1, m_radius, hits);
        for (const auto& hit : hits)
            if (hit.index != without) return m_points[hit.index].z;
        return kNoValue;
    }

    std::vector<Point3> m_points;
    std::optional<double> m_radius;
    NearestPoints m_near;
};

} // namespace

std::unique_ptr<Interpolator> makeInverseDistance(std::vector<Point3> points, const SurfaceSettings& settings) {
    return std::make_unique<InverseDistance>(std::move(points), settings);
}

std::unique_ptr<Interpolator> makeNearest(std::vector<Point3> points, const SurfaceSettings& settings) {
    return std::make_unique<Nearest>(std::move(points), settings);
}

} // namespace fox::detail
