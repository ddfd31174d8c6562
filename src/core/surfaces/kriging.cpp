#include "surfaces/interpolators.h"
#include "surfaces/kriging_system.h"
#include "surfaces/nearest_points.h"

namespace fox::detail {

namespace {

using Eigen::VectorXd;

VectorXd levels(const std::vector<Point3>& points) {
    VectorXd z(Eigen::Index(points.size()));
    for (std::size_t i = 0; i < points.size(); ++i) z[Eigen::Index(i)] = points[i].z;
    return z;
}

Drift driftOf(Method method) { return method == Method::Kriging ? Drift::Constant : Drift::Linear; }

std::optional<Variogram> variogramOf(const SurfaceSettings& settings) {
    return settings.method == Method::ThinPlate ? std::nullopt : settings.variogram;
}

class KrigingOfAll : public Interpolator {
public:
    KrigingOfAll(const std::vector<Point3>& points, const SurfaceSettings& settings)
        : m_system(planOf(points), levels(points), variogramOf(settings), driftOf(settings.method)),
          m_variance(hasVariogram(settings.method)) {}
    bool hasVariance() const override { return m_variance; }
    void evaluate(std::span<const Point2> places, std::span<double> values, std::span<double> variances) const override {
        m_system.evaluate(places, values, variances);
    }
    double leaveOneOut(std::size_t i) const override { return m_system.leaveOneOut(i); }
    const KrigingSystem* system() const override { return &m_system; }

private:
    KrigingSystem m_system;
    bool m_variance;
};

class KrigingOfNeighbours : public Interpolator {
public:
    KrigingOfNeighbours(std::vector<Point3> points, const SurfaceSettings& settings)
        : m_points(std::move(points)), m_settings(settings), m_near(planOf(m_points)) {}
    bool hasVariance() const override { return hasVariogram(m_settings.method); }
    void evaluate(std::span<const Point2> places, std::span<double> values, std::span<double> variances) const override {
        for (std::size_t i = 0; i < places.size(); ++i) {
            double variance = kNoValue;
            values[i] = estimate(places[i], m_points.size(), variances.empty() ? nullptr : &variance);
            if (!variances.empty()) variances[i] = variance;
        }
    }
    double leaveOneOut(std::size_t i) const override { return estimate(m_points[i].plan(), i, nullptr) - m_points[i].z; }

private:
    double estimate(Point2 place, std::size_t without, double* variance) const {
        thread_local std::vector<NearestPoints::Hit> hits;
        thread_local std::vector<Point2> near;
        auto wanted = m_settings.neighbours > 0 ? std::size_t(m_settings.neighbours)
                                                : std::min<std::size_t>(m_points.size(), kNeighbourhood);
        m_near.find(place, without < m_points.size() ? wanted + 1 : wanted, m_settings.radius, hits);
        near.clear();
        VectorXd z(Eigen::Index(hits.size()));
        for (const auto& hit : hits)
            if (hit.index != without && near.size() < wanted) {
                z[Eigen::Index(near.size())] = m_points[hit.index].z;
                near.push_back(m_points[hit.index].plan());
            }
        if (near.empty()) return kNoValue;
        z.conservativeResize(Eigen::Index(near.size()));
        const KrigingSystem system(near, std::move(z), variogramOf(m_settings), driftOf(m_settings.method));
        double value = kNoValue;
        system.evaluate(std::span(&place, 1), std::span(&value, 1), variance ? std::span(variance, 1) : std::span<double>());
        return value;
    }

    std::vector<Point3> m_points;
    SurfaceSettings m_settings;
    NearestPoints m_near;
};

} // namespace

std::unique_ptr<Interpolator> makeKriging(std::vector<Point3> points, const SurfaceSettings& settings, Reach reach) {
    if (reach == Reach::All) return std::make_unique<KrigingOfAll>(points, settings);
    return std::make_unique<KrigingOfNeighbours>(std::move(points), settings);
}

} // namespace fox::detail
