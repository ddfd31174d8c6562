#pragma once
#include <Eigen/Dense>

namespace fox::detail {

/// Replaces the columns of `sides` by L^-1 of them; of `lower` only the triangle L below and on the diagonal is looked at. By
/// OpenBLAS where there is enough to do; on the thread that calls.
void solveLower(const Eigen::MatrixXd& lower, Eigen::Ref<Eigen::MatrixXd> sides);

} // namespace fox::detail
