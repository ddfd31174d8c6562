#include "surfaces/triangular_solve.h"

#include <cblas.h>
#include <mutex>

// Debian builds for processors of twenty years ago; OpenBLAS has kernels for those of today and chooses when the program runs.
// For small systems the call costs more than it saves.
namespace fox::detail {

void solveLower(const Eigen::MatrixXd& lower, Eigen::Ref<Eigen::MatrixXd> sides) {
    constexpr Eigen::Index kFewRows = 64, kFewSides = 8;
    if (lower.rows() < kFewRows || sides.cols() < kFewSides) {
        lower.triangularView<Eigen::Lower>().solveInPlace(sides);
        return;
    }
    static std::once_flag flag;
    std::call_once(flag, [] { openblas_set_num_threads(1); }); // there are as many threads as cores already
    cblas_dtrsm(CblasColMajor, CblasLeft, CblasLower, CblasNoTrans, CblasNonUnit, int(sides.rows()), int(sides.cols()), 1.0,
                lower.data(), int(lower.outerStride()), sides.data(), int(sides.outerStride()));
}

} // namespace fox::detail
