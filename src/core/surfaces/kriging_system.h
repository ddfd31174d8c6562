#pragma once
// The equations of kriging and of the thin plate, for this module only.
#include "base/point.h"
#include "surfaces/variogram.h"

#include <Eigen/Dense>
#include <optional>
#include <span>
#include <vector>

namespace fox::detail {

enum class Drift {
    Constant, ///< the mean is not known
    Linear,   ///< the mean is a plane that is not known; of places on one line, a slope along it; of one, a constant
};

/// How much values a distance apart have in common. Without a variogram: the thin plate's kernel r^2 log r, made
/// positive definite by subtracting the interpolation at three anchors (Wendland, Scattered Data Approximation,
/// 2005, ch. 10.3: with a linear drift the estimate is that of the plain kernel). Works on places relative to an
/// origin, so that coordinates of millions keep their millimetres; the thin plate's are divided by their extent too.
class Kernel {
public:
    Kernel() = default;
    Kernel(std::span<const Point2> places, const std::optional<Variogram>&);

    Eigen::Index size() const { return m_x.size(); }
    Point2 relative(Point2 p) const { return {(p.x - m_origin.x) * m_scale, (p.y - m_origin.y) * m_scale}; }
    const Eigen::ArrayXd& x() const { return m_x; }
    const Eigen::ArrayXd& y() const { return m_y; }
    /// Covariances of a relative place with all places.
    void columnTo(Point2 relative, Eigen::Ref<Eigen::ArrayXd> out) const;
    /// Of a place with itself.
    double own(Point2 relative) const;
    double between(Point2 a, Point2 b) const; ///< relative places
    bool hasSill() const { return m_variogram.has_value(); }
    /// Another constant added to all covariances of a variogram: weights sum to one, so nothing else changes.
    void raise() { m_sill *= 2; }
    /// A touch of nugget, in parts of the sill, for models too smooth for their places.
    void regularise(double part);

private:
    Eigen::Vector3d anchorShares(Point2) const;
    Eigen::Vector3d anchorKernels(Point2) const;

    std::optional<Variogram> m_variogram;
    double m_jitter = 0; ///< thin plate only
    Eigen::ArrayXd m_x, m_y;
    Point2 m_origin;
    double m_scale = 1, m_sill = 1;
    Eigen::MatrixX3d m_shares, m_kernels; ///< of places with the anchors; thin plate only
    Eigen::Matrix3d m_anchors;
};

/// Estimates with a drift of unknown coefficients (Matheron 1963, 1969) in covariance form, by one Cholesky factor
/// C = LL' and the drift's columns F: U = L^-1 F, G = U'U, b = G^-1 U'L^-1 z, a = C^-1 (z - F b);
///   value = f'b + k'a,  variance = C(0) - |q|^2 + r'G^-1 r  with  q = L^-1 k, r = f - U'q.
/// Left-out residuals from the same factor (Dubrule 1983): with Q = C^-1 - C^-1 F G^-1 F'C^-1,
/// observed - predicted = (Q z)_i / Q_ii.
class KrigingSystem {
public:
    /// @throws Error if the equations can't be solved
    KrigingSystem(std::span<const Point2> places, Eigen::VectorXd z, const std::optional<Variogram>&, Drift);

    Eigen::Index size() const { return m_z.size(); }
    void evaluate(std::span<const Point2> places, std::span<double> values, std::span<double> variances) const;
    /// predicted - observed at point i from the others; kNoValue for the only one
    double leaveOneOut(std::size_t i) const;
    /// What the data say of other places, taken together.
    void conditional(std::span<const Point2> places, Eigen::VectorXd& means, Eigen::MatrixXd& covariances) const;
    /// The nugget that had to be added, in parts of the sill; 0 if none.
    double regularised() const { return m_regularised; }

    /// For many data sets at the same places: a column of weights and of drift coefficients for each column of z.
    void solveMany(const Eigen::MatrixXd& z, Eigen::MatrixXd& weights, Eigen::MatrixXd& coefficients) const;
    void covariancesAt(Point2 place, Eigen::Ref<Eigen::ArrayXd> out) const { m_kernel.columnTo(m_kernel.relative(place), out); }
    Eigen::VectorXd driftAt(Point2 place) const;

private:
    void chooseDrift(Drift);
    /// One of the drift's columns at a place.
    double slopeAt(Point2 relative, int slope) const {
        return (relative.x * m_axes(0, slope) + relative.y * m_axes(1, slope)) * m_driftScale;
    }
    void factor();
    void solve();
    double leftOutByRefit(std::size_t i) const;

    Kernel m_kernel;
    std::optional<Variogram> m_variogram;
    std::vector<Point2> m_places;
    Drift m_drift;
    double m_regularised = 0;
    Eigen::Matrix2d m_axes; ///< the drift's slopes go along the first m_slopes columns
    int m_slopes = 0;
    double m_driftScale = 1;
    Eigen::VectorXd m_z, m_alpha, m_beta;
    Eigen::MatrixXd m_f, m_u;
    Eigen::LLT<Eigen::MatrixXd> m_llt, m_g;
    mutable Eigen::VectorXd m_leftOut; // made when first asked for, by the fitting thread only
};

} // namespace fox::detail
