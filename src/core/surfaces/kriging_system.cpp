#include "surfaces/kriging_system.h"

#include "base/errors.h"
#include "surfaces/interpolators.h"
#include "surfaces/triangular_solve.h"

#include <numbers>

// Kriging in its dual form (Chilès and Delfiner, chapter 3; Matheron 1971). With C the covariances a - gamma(h) between data, F
// the drift (one, and up to two slopes) and C = L L' (Cholesky), let U = L^-1 F and G = U'U. The drift's coefficients are
// beta = G^-1 U' L^-1 z, the weights alpha = C^-1 (z - F beta), and a value anywhere is f'beta + c'alpha: one pass over the data,
// so that a grid costs n operations a cell. The variance is own - |q|^2 + |r|^2 with q = L^-1 c and r = G^-1/2 (f - U'q): what
// the data explain, and what the unknown drift adds. All leave-one-out errors come from one inverse: error_i = -alpha_i / (B_ii),
// B = C^-1 - C^-1 F G^-1 F' C^-1 (Dubrule 1983), no refits but for a datum that alone decides a slope. A thin plate is the same
// system: r^2 log r less its values at three anchors, which makes it positive definite (Wahba 1990). Costs: n^3 / 3 once, n a
// value, n^2 a variance.
namespace fox::detail {

namespace {

using Eigen::ArrayXd;
using Eigen::Index;
using Eigen::MatrixXd;
using Eigen::Vector3d;
using Eigen::VectorXd;

/// Squared distances become covariances, in place: a - gamma(h), a at the datum itself. No temporaries (small
/// systems would spend their time in malloc), and the model is chosen outside the loops so that they vectorize.
template <typename Array>
void toCovariances(const Variogram& v, double a, Array&& s) {
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

/// r^2 log r from r^2; the smallest number keeps the logarithm finite at 0
double plate(double squared) { return 0.5 * squared * std::log(squared + std::numeric_limits<double>::min()); }

double squared(Point2 a, Point2 b) { return (a.x - b.x) * (a.x - b.x) + (a.y - b.y) * (a.y - b.y); }

/// Corners of a triangle about the places, which lie within a distance of 1.
const std::array<Point2, 3>& anchors() {
    static const double kHalf = std::sqrt(3.0) / 2;
    static const std::array<Point2, 3> kAnchors{{{0, 1}, {-kHalf, -0.5}, {kHalf, -0.5}}};
    return kAnchors;
}

} // namespace

Kernel::Kernel(std::span<const Point2> places, const std::optional<Variogram>& variogram) : m_variogram(variogram) {
    const auto n = Index(places.size());
    for (const auto& p : places) m_origin.x += p.x / double(n), m_origin.y += p.y / double(n);
    m_x.resize(n), m_y.resize(n);
    for (Index i = 0; i < n; ++i) m_x[i] = places[std::size_t(i)].x - m_origin.x, m_y[i] = places[std::size_t(i)].y - m_origin.y;
    const double extent = n > 0 ? std::sqrt((m_x.square() + m_y.square()).maxCoeff()) : 0;
    if (m_variogram) {
        m_sill = m_variogram->nugget + m_variogram->partialSill;
        // without a sill: what is reached across the data
        if (m_variogram->model == VariogramModel::Linear)
            m_sill = m_variogram->at(std::hypot(m_x.maxCoeff() - m_x.minCoeff(), m_y.maxCoeff() - m_y.minCoeff()));
        if (!(m_sill > 0)) m_sill = 1;
        return;
    }
    m_scale = extent > 0 ? 1 / extent : 1;
    m_x *= m_scale, m_y *= m_scale;
    for (int i = 0; i < 3; ++i)
        for (int j = 0; j < 3; ++j) m_anchors(i, j) = plate(squared(anchors()[std::size_t(i)], anchors()[std::size_t(j)]));
    m_shares.resize(n, 3), m_kernels.resize(n, 3);
    for (Index i = 0; i < n; ++i) {
        m_shares.row(i) = anchorShares({m_x[i], m_y[i]});
        m_kernels.row(i) = anchorKernels({m_x[i], m_y[i]});
    }
}

Vector3d Kernel::anchorShares(Point2 p) const {
    Vector3d out;
    for (int i = 0; i < 3; ++i)
        out[i] = 1.0 / 3 + 2.0 / 3 * (anchors()[std::size_t(i)].x * p.x + anchors()[std::size_t(i)].y * p.y);
    return out;
}

Vector3d Kernel::anchorKernels(Point2 p) const {
    Vector3d out;
    for (int i = 0; i < 3; ++i) out[i] = plate(squared(anchors()[std::size_t(i)], p));
    return out;
}

void Kernel::columnTo(Point2 p, Eigen::Ref<ArrayXd> out) const {
    out = (m_x - p.x).square() + (m_y - p.y).square();
    if (m_variogram) return toCovariances(*m_variogram, m_sill, out);
    const auto shares = anchorShares(p);
    out = (out <= kSamePlace * kSamePlace * m_scale * m_scale)
              .select(m_jitter, 0.5 * out * (out + std::numeric_limits<double>::min()).log());
    out -= (m_kernels * shares).array();
    out += (m_shares * (m_anchors * shares + shares - anchorKernels(p))).array();
}

double Kernel::own(Point2 p) const {
    if (m_variogram) return m_sill;
    const auto shares = anchorShares(p);
    return m_jitter - 2 * shares.dot(anchorKernels(p)) + shares.dot(m_anchors * shares) + shares.squaredNorm();
}

double Kernel::between(Point2 a, Point2 b) const {
    if (m_variogram) {
        Eigen::Array<double, 1, 1> s(squared(a, b));
        toCovariances(*m_variogram, m_sill, s);
        return s[0];
    }
    const auto atA = anchorShares(a), atB = anchorShares(b);
    return plate(squared(a, b)) - atA.dot(anchorKernels(b)) - atB.dot(anchorKernels(a)) + atA.dot(m_anchors * atB) + atA.dot(atB);
}

void Kernel::regularise(double part) {
    if (m_variogram) {
        m_variogram->nugget += part * m_variogram->partialSill;
        m_sill += part * m_variogram->partialSill;
    } else {
        m_jitter += part;
    }
}

KrigingSystem::KrigingSystem(std::span<const Point2> places, VectorXd z, const std::optional<Variogram>& variogram, Drift drift)
    : m_kernel(places, variogram),
      m_variogram(variogram),
      m_places(places.begin(), places.end()),
      m_drift(drift),
      m_z(std::move(z)) {
    chooseDrift(drift);
    factor();
    solve();
}

void KrigingSystem::chooseDrift(Drift drift) {
    const auto n = m_kernel.size();
    m_axes.setIdentity();
    if (drift == Drift::Linear && n > 1) {
        const auto &x = m_kernel.x(), &y = m_kernel.y();
        m_driftScale = 1 / std::sqrt((x.square() + y.square()).maxCoeff());
        Eigen::Matrix2d scatter;
        const double dx = x.mean(), dy = y.mean();
        scatter << (x - dx).square().sum(), ((x - dx) * (y - dy)).sum(), 0, (y - dy).square().sum();
        scatter(1, 0) = scatter(0, 1);
        const Eigen::SelfAdjointEigenSolver<Eigen::Matrix2d> solver(scatter);
        // places within 30 mm of a line a kilometre long say nothing of the slope across it
        constexpr double kOnOneLine = 1e-9;
        if (solver.eigenvalues()[0] > kOnOneLine * solver.eigenvalues()[1]) {
            m_slopes = 2;
        } else if (solver.eigenvalues()[1] > 0) {
            m_slopes = 1;
            m_axes.col(0) = solver.eigenvectors().col(1);
            m_axes.col(1) = solver.eigenvectors().col(0);
        }
    }
    m_f.resize(n, 1 + m_slopes);
    m_f.col(0).setOnes();
    for (int s = 0; s < m_slopes; ++s)
        m_f.col(1 + s) = ((m_kernel.x() * m_axes(0, s) + m_kernel.y() * m_axes(1, s)) * m_driftScale).matrix();
}

VectorXd KrigingSystem::driftAt(Point2 place) const {
    const auto p = m_kernel.relative(place);
    VectorXd f(1 + m_slopes);
    f[0] = 1;
    for (int s = 0; s < m_slopes; ++s) f[1 + s] = slopeAt(p, s);
    return f;
}

void KrigingSystem::factor() {
    const auto n = m_kernel.size();
    MatrixXd c(n, n);
    // A pivot is the variance that the points before leave to a point, in parts of the largest; below this the digits
    // of the weights are noise. Only models that are smooth at the origin come near it.
    constexpr double kLeastPivot = 1e-11;
    constexpr int kTries = 14;
    double part = 1e-10;
    for (int i = 0; i < kTries; ++i) {
        for (Index j = 0; j < n; ++j) m_kernel.columnTo({m_kernel.x()[j], m_kernel.y()[j]}, c.col(j).array());
        m_llt.compute(c);
        const auto pivots = m_llt.matrixLLT().diagonal().array().square();
        if (m_llt.info() == Eigen::Success && pivots.minCoeff() > kLeastPivot * pivots.maxCoeff()) return;
        if (m_variogram && m_variogram->model == VariogramModel::Linear && m_llt.info() != Eigen::Success) {
            m_kernel.raise();
            continue;
        }
        m_kernel.regularise(part);
        m_regularised += part;
        part *= 10;
    }
    throw Error("The kriging equations can't be solved: the variogram is too smooth for points this close together. Give it "
                "a nugget.");
}

void KrigingSystem::solve() {
    m_u = m_llt.matrixL().solve(m_f);
    m_g.compute(m_u.transpose() * m_u);
    const VectorXd w = m_llt.matrixL().solve(m_z);
    m_beta = m_g.solve(m_u.transpose() * w);
    m_alpha = m_llt.matrixU().solve(w - m_u * m_beta);
}

void KrigingSystem::evaluate(std::span<const Point2> places, std::span<double> values, std::span<double> variances) const {
    constexpr std::size_t kBlock = 128; // right-hand sides at a time: the block stays in the cache
    MatrixXd k(size(), Index(std::min(kBlock, places.size())));
    MatrixXd miss(m_f.cols(), k.cols());
    for (std::size_t begin = 0; begin < places.size(); begin += kBlock) {
        const auto count = Index(std::min(kBlock, places.size() - begin));
        for (Index j = 0; j < count; ++j) {
            const auto p = m_kernel.relative(places[begin + std::size_t(j)]);
            m_kernel.columnTo(p, k.col(j).array());
            double mean = m_beta[0];
            for (int s = 0; s < m_slopes; ++s) mean += m_beta[1 + s] * slopeAt(p, s);
            values[begin + std::size_t(j)] = mean + k.col(j).dot(m_alpha);
        }
        if (variances.empty()) continue;
        auto q = k.leftCols(count);
        solveLower(m_llt.matrixLLT(), q);
        auto r = miss.leftCols(count);
        r.noalias() = -m_u.transpose() * q;
        for (Index j = 0; j < count; ++j) {
            const auto p = m_kernel.relative(places[begin + std::size_t(j)]);
            r(0, j) += 1;
            for (int s = 0; s < m_slopes; ++s) r(1 + s, j) += slopeAt(p, s);
        }
        m_g.matrixL().solveInPlace(r);
        for (Index j = 0; j < count; ++j) {
            const double own = m_kernel.own(m_kernel.relative(places[begin + std::size_t(j)]));
            // rounding can leave a variance of zero just below it
            variances[begin + std::size_t(j)] = std::max(0.0, own - q.col(j).squaredNorm() + r.col(j).squaredNorm());
        }
    }
}

double KrigingSystem::leaveOneOut(std::size_t i) const {
    if (size() < 2) return kNoValue;
    if (m_leftOut.size() == 0) {
        const MatrixXd inverse = m_llt.solve(MatrixXd::Identity(size(), size()));
        const MatrixXd drift = m_g.matrixL().solve((inverse * m_f).transpose());
        const VectorXd diagonal = inverse.diagonal() - drift.colwise().squaredNorm().transpose();
        m_leftOut = -m_alpha.cwiseQuotient(diagonal);
        // a point that alone decides a slope of the drift: the others have another drift
        constexpr double kDecides = 1e-9;
        for (Index k = 0; k < size(); ++k)
            if (!(diagonal[k] > kDecides * inverse(k, k))) m_leftOut[k] = leftOutByRefit(std::size_t(k));
    }
    return m_leftOut[Index(i)];
}

double KrigingSystem::leftOutByRefit(std::size_t i) const {
    std::vector<Point2> others;
    VectorXd z(size() - 1);
    for (std::size_t k = 0; k < m_places.size(); ++k)
        if (k != i) z[Index(others.size())] = m_z[Index(k)], others.push_back(m_places[k]);
    const KrigingSystem system(others, z, m_variogram, m_drift);
    double value = kNoValue;
    system.evaluate(std::span(&m_places[i], 1), std::span(&value, 1), {});
    return value - m_z[Index(i)];
}

void KrigingSystem::conditional(std::span<const Point2> places, VectorXd& means, MatrixXd& covariances) const {
    const auto m = Index(places.size());
    MatrixXd k(size(), m), f(m_f.cols(), m);
    covariances.resize(m, m);
    for (Index j = 0; j < m; ++j) {
        const auto p = m_kernel.relative(places[std::size_t(j)]);
        m_kernel.columnTo(p, k.col(j).array());
        f.col(j) = driftAt(places[std::size_t(j)]);
        for (Index i = 0; i < j; ++i)
            covariances(i, j) = covariances(j, i) = m_kernel.between(m_kernel.relative(places[std::size_t(i)]), p);
        covariances(j, j) = m_kernel.own(p);
    }
    means = f.transpose() * m_beta + k.transpose() * m_alpha;
    m_llt.matrixL().solveInPlace(k);
    f -= m_u.transpose() * k;
    m_g.matrixL().solveInPlace(f);
    covariances -= k.transpose() * k;
    covariances += f.transpose() * f;
}

void KrigingSystem::solveMany(const MatrixXd& z, MatrixXd& weights, MatrixXd& coefficients) const {
    weights = m_llt.matrixL().solve(z);
    coefficients = m_g.solve(m_u.transpose() * weights);
    weights -= m_u * coefficients;
    m_llt.matrixU().solveInPlace(weights);
}

} // namespace fox::detail
