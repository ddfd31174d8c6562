#pragma once
// Kriging under inequalities, for this module only.
#include "surfaces/surface.h"

#include <Eigen/Dense>
#include <span>
#include <vector>

namespace fox::detail {

/// The smoothest surface through the data that keeps every bound lies on some of them. Given what the data say of the
/// bounds' places (means and covariances), returns which, in the order in which they were met.
/// A convex quadratic programme in the pulls y >= 0 on the bounds: minimise y'My/2 - d'y, with M the covariances turned
/// to each bound's side and d how far the means break them. Solved by the active set of Lawson and Hanson (Solving Least
/// Squares Problems, 1974, ch. 23), which ends: the worst broken bound becomes an equality, those whose pull has the
/// wrong sign are released. The Cholesky factor of the equalities grows by a row at a time.
std::vector<std::size_t> activeConstraints(std::span<const Bound>, const Eigen::VectorXd& means,
                                           const Eigen::MatrixXd& covariances);

} // namespace fox::detail
