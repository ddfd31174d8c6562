#include "surfaces/interpolators.h"
#include "surfaces/nearest_points.h"

#include <Eigen/Dense>

namespace fox::detail {

namespace {

using Eigen::MatrixXd;
using Eigen::VectorXd;

/// Squared distances become covariances, in place: a - gamma(h), a at the datum itself. No temporaries (small
/// systems would spend their time in malloc), and the model is chosen outside the loops so that they vectorize.
template <typename Array>
void toCovariances(const Variogram& v, double a, Array s) {
    const double sill = v.partialSill, range = v.range, below = a - v.nugget;
    const double same = kSamePlace / range;
    switch (v.model) {
    case VariogramModel::Linear:
        s = s.sqrt() * (1 / range);
        s = (s <= same).select(a, below - sill * s);
        break;
    case VariogramModel::Spherical:
        s = (s.sqrt() * (1 / range)).min(1.0);
        s = (s <= same).select(a, below - sill * s * (1.5 - 0.5 * s * s));
        break;
    case VariogramModel::Exponential:
        s = s.sqrt() * (1 / range);
        s = (s <= same).select(a, below - sill + sill * (-3 * s).exp());
        break;
    case VariogramModel::Gaussian:
        s = s * (1 / (range * range));
        s = (s <= same * same).select(a, below - sill + sill * (-3 * s).exp());
        break;
    }
}

/// Ordinary kriging (Matheron 1963) in covariance form: C(h) = A - gamma(h), A the sill, or large enough for
/// a model without one (weights sum to one, so A cancels). Solved by one Cholesky factor of C:
///   mean m = 1'C^-1 z / 1'C^-1 1,  value = m + k'C^-1 (z - m 1),
///   variance = A - |q|^2 + (1 - u'q)^2 / (u'u)  with  q = L^-1 k, u = L^-1 1.
/// Left-out residuals from the same factor (Dubrule 1983): with Q = C^-1 - C^-1 1 1'C^-1 / (1'C^-1 1),
/// observed - predicted = (Q z)_i / Q_ii.
class System {
public:
    System(std::vector<Point2> places, VectorXd z, const Variogram& variogram) : m_variogram(variogram), m_z(std::move(z)) {
        const auto n = Eigen::Index(places.size());
        m_x.resize(n), m_y.resize(n);
        for (Eigen::Index i = 0; i < n; ++i) m_x[i] = places[std::size_t(i)].x, m_y[i] = places[std::size_t(i)].y;
        factor();
        m_u = m_llt.matrixL().solve(VectorXd::Ones(n));
        m_uu = m_u.squaredNorm();
        m_mean = m_u.dot(m_llt.matrixL().solve(m_z)) / m_uu;
        m_alpha = m_llt.solve((m_z.array() - m_mean).matrix());
    }

    Eigen::Index size() const { return m_x.size(); }
    const VectorXd& alpha() const { return m_alpha; }

    void evaluate(std::span<const Point2> places, std::span<double> values, std::span<double> variances) const {
        constexpr std::size_t kBlock = 128; // right-hand sides at a time: the block stays in the cache
        MatrixXd k(size(), Eigen::Index(std::min(kBlock, places.size())));
        for (std::size_t begin = 0; begin < places.size(); begin += kBlock) {
            const auto count = Eigen::Index(std::min(kBlock, places.size() - begin));
            for (Eigen::Index j = 0; j < count; ++j) {
                covariancesTo(places[begin + std::size_t(j)], k.col(j).array());
                values[begin + std::size_t(j)] = m_mean + k.col(j).dot(m_alpha);
            }
            if (variances.empty()) continue;
            auto q = k.leftCols(count);
            m_llt.matrixL().solveInPlace(q);
            for (Eigen::Index j = 0; j < count; ++j) {
                const double miss = 1 - m_u.dot(q.col(j));
                // rounding can leave a variance of zero just below it
                variances[begin + std::size_t(j)] = std::max(0.0, m_sill - q.col(j).squaredNorm() + miss * miss / m_uu);
            }
        }
    }

    /// predicted - observed for every point
    const VectorXd& leftOut() const {
        if (m_leftOut.size() == 0 && size() > 1) {
            const MatrixXd inverse = m_llt.solve(MatrixXd::Identity(size(), size()));
            const VectorXd ones = inverse.rowwise().sum();
            const VectorXd diagonal = inverse.diagonal() - ones.cwiseAbs2() / ones.sum();
            m_leftOut = -m_alpha.cwiseQuotient(diagonal);
        }
        return m_leftOut;
    }

private:
    template <typename Array>
    void covariancesTo(Point2 p, Array out) const {
        out = (m_x - p.x).square() + (m_y - p.y).square();
        toCovariances(m_variogram, m_sill, out);
    }

    void factor() {
        const auto n = m_x.size();
        // without a sill: what is reached across the data, and more if that is not enough to be positive
        m_sill = m_variogram.nugget + m_variogram.partialSill;
        if (m_variogram.model == VariogramModel::Linear)
            m_sill = m_variogram.at(std::hypot(m_x.maxCoeff() - m_x.minCoeff(), m_y.maxCoeff() - m_y.minCoeff()));
        if (!(m_sill > 0)) m_sill = 1;
        constexpr int kTries = 12;
        MatrixXd c(n, n);
        for (int i = 0; i < kTries; ++i) {
            for (Eigen::Index j = 0; j < n; ++j) covariancesTo({m_x[j], m_y[j]}, c.col(j).array());
            m_llt.compute(c);
            if (m_llt.info() == Eigen::Success) return;
            m_sill *= 2;
        }
        throw Error("The kriging equations can't be solved: the variogram is too smooth for points this close together. Give it "
                    "a nugget.");
    }

    Variogram m_variogram;
    Eigen::ArrayXd m_x, m_y;
    VectorXd m_z, m_alpha, m_u;
    double m_sill = 0, m_uu = 0, m_mean = 0;
    Eigen::LLT<MatrixXd> m_llt;
    mutable VectorXd m_leftOut; // made when first asked for, by the fitting thread only
};

std::vector<Point2> squeezed(const std::vector<Point3>& points, const Squeeze& squeeze) {
    std::vector<Point2> out;
    for (const auto& p : points) out.push_back(squeeze(p.plan()));
    return out;
}

VectorXd levels(const std::vector<Point3>& points) {
    VectorXd z(Eigen::Index(points.size()));
    for (std::size_t i = 0; i < points.size(); ++i) z[Eigen::Index(i)] = points[i].z;
    return z;
}

class KrigingOfAll : public Interpolator {
public:
    KrigingOfAll(const std::vector<Point3>& points, const SurfaceSettings& settings)
        : m_squeeze(settings.anisotropy), m_system(squeezed(points, m_squeeze), levels(points), *settings.variogram) {}
    bool hasVariance() const override { return true; }
    void evaluate(std::span<const Point2> places, std::span<double> values, std::span<double> variances) const override {
        if (m_squeeze.none()) return m_system.evaluate(places, values, variances);
        std::vector<Point2> at(places.begin(), places.end());
        for (auto& p : at) p = m_squeeze(p);
        m_system.evaluate(at, values, variances);
    }
    double leftOut(std::size_t i) const override { return m_system.size() > 1 ? m_system.leftOut()[Eigen::Index(i)] : kNoValue; }
    std::optional<double> pull(std::size_t i) const override { return m_system.alpha()[Eigen::Index(i)]; }

private:
    Squeeze m_squeeze;
    System m_system;
};

class KrigingOfNeighbours : public Interpolator {
public:
    KrigingOfNeighbours(std::vector<Point3> points, const SurfaceSettings& settings)
        : m_points(std::move(points)),
          m_settings(settings),
          m_squeeze(settings.anisotropy),
          m_near(squeezed(m_points, m_squeeze)) {}
    bool hasVariance() const override { return true; }
    void evaluate(std::span<const Point2> places, std::span<double> values, std::span<double> variances) const override {
        for (std::size_t i = 0; i < places.size(); ++i) {
            double variance = kNoValue;
            values[i] = estimate(places[i], m_points.size(), variances.empty() ? nullptr : &variance);
            if (!variances.empty()) variances[i] = variance;
        }
    }
    double leftOut(std::size_t i) const override { return estimate(m_points[i].plan(), i, nullptr) - m_points[i].z; }

private:
    double estimate(Point2 place, std::size_t without, double* variance) const {
        const Point2 at = m_squeeze(place);
        thread_local std::vector<NearestPoints::Hit> hits;
        auto wanted = m_settings.neighbours > 0 ? std::size_t(m_settings.neighbours)
                                                : std::min<std::size_t>(m_points.size(), kNeighbourhood);
        m_near.find(at, without < m_points.size() ? wanted + 1 : wanted, m_settings.radius, hits);
        std::vector<Point3> near;
        for (const auto& hit : hits)
            if (hit.index != without && near.size() < wanted) near.push_back(m_points[hit.index]);
        if (near.empty()) return kNoValue;
        const System system(squeezed(near, m_squeeze), levels(near), *m_settings.variogram);
        double value = kNoValue;
        system.evaluate(std::span(&at, 1), std::span(&value, 1), variance ? std::span(variance, 1) : std::span<double>());
        return value;
    }

    std::vector<Point3> m_points;
    SurfaceSettings m_settings;
    Squeeze m_squeeze;
    NearestPoints m_near;
};

} // namespace

std::unique_ptr<Interpolator> makeKriging(std::vector<Point3> points, const SurfaceSettings& settings) {
    const bool all = !settings.radius && points.size() <= kMostAtOnce
                     && (settings.neighbours == 0 || std::size_t(settings.neighbours) >= points.size());
    if (all) return std::make_unique<KrigingOfAll>(points, settings);
    return std::make_unique<KrigingOfNeighbours>(std::move(points), settings);
}

} // namespace fox::detail
