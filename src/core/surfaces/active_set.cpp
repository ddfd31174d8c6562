#include "surfaces/active_set.h"

// The smoothest surface under limits, in the values at the limits: least v' K⁻¹ v with K their covariances given the data. In the
// multipliers ("pulls") that is: pull only where the limit is met, and only towards its allowed side. The worst broken limit
// joins the set; then the set is solved, and going from the old pulls to the new ones, whatever would change sign leaves on the
// way (Lawson and Hanson 1974, chapter 23, for the same programme as least squares with non-negative unknowns). The Cholesky
// factor grows by a row with each; when some leave it is made again of those that stay.
namespace fox::detail {

namespace {

using Eigen::Index;
using Eigen::MatrixXd;
using Eigen::VectorXd;

/// Lower Cholesky factor of the chosen rows and columns of a matrix.
class GrowingFactor {
public:
    explicit GrowingFactor(const MatrixXd& m) : m_matrix(m), m_l(MatrixXd::Zero(m.rows(), m.rows())) {}

    /// False, and nothing changes, if the row depends on those before.
    bool add(std::size_t i) {
        const auto k = Index(m_rows.size());
        VectorXd row(k);
        for (Index j = 0; j < k; ++j) row[j] = m_matrix(Index(i), Index(m_rows[std::size_t(j)]));
        if (k > 0) m_l.topLeftCorner(k, k).triangularView<Eigen::Lower>().solveInPlace(row);
        const double left = m_matrix(Index(i), Index(i)) - row.squaredNorm();
        constexpr double kDependent = 1e-12; // of the row's own variance
        if (!(left > kDependent * m_matrix(Index(i), Index(i)))) return false;
        m_l.row(k).head(k) = row;
        m_l(k, k) = std::sqrt(left);
        m_rows.push_back(i);
        return true;
    }
    void keepOnly(const std::vector<std::size_t>& rows) {
        m_rows.clear();
        for (const auto i : rows) add(i);
    }
    const std::vector<std::size_t>& rows() const { return m_rows; }
    VectorXd solve(VectorXd rhs) const {
        const auto k = Index(m_rows.size());
        const auto l = m_l.topLeftCorner(k, k);
        l.triangularView<Eigen::Lower>().solveInPlace(rhs);
        l.triangularView<Eigen::Lower>().transpose().solveInPlace(rhs);
        return rhs;
    }

private:
    const MatrixXd& m_matrix;
    MatrixXd m_l;
    std::vector<std::size_t> m_rows;
};

} // namespace

std::vector<std::size_t> activeConstraints(std::span<const Bound> bounds, const VectorXd& means, const MatrixXd& covariances) {
    const auto m = Index(bounds.size());
    VectorXd side(m), breach(m);
    for (Index i = 0; i < m; ++i) {
        const auto& b = bounds[std::size_t(i)];
        side[i] = b.side == Side::Lower ? 1 : -1;
        breach[i] = side[i] * (b.place.z - means[i]);
    }
    const MatrixXd turned = side.asDiagonal() * covariances * side.asDiagonal();
    GrowingFactor factor(turned);
    VectorXd pulls = VectorXd::Zero(m), left = breach;
    std::vector<bool> refused(bounds.size(), false); // of no weight of its own beside the others
    const double slack = kBoundSlack / 100;          // metres
    for (Index round = 0; round < 20 * m; ++round) {
        Index worst = -1;
        for (Index i = 0; i < m; ++i)
            if (left[i] > slack && pulls[i] == 0 && !refused[std::size_t(i)] && (worst < 0 || left[i] > left[worst])) worst = i;
        if (worst < 0) break;
        if (!factor.add(std::size_t(worst))) {
            refused[std::size_t(worst)] = true;
            continue;
        }
        for (;;) {
            const auto rows = factor.rows();
            VectorXd rhs(Index(rows.size()));
            for (std::size_t k = 0; k < rows.size(); ++k) rhs[Index(k)] = breach[Index(rows[k])];
            const auto wanted = factor.solve(std::move(rhs));
            double step = 1;
            for (std::size_t k = 0; k < rows.size(); ++k)
                if (const auto i = Index(rows[k]); wanted[Index(k)] <= 0)
                    step = std::min(step, pulls[i] > 0 ? pulls[i] / (pulls[i] - wanted[Index(k)]) : 0.0);
            std::vector<std::size_t> staying;
            for (std::size_t k = 0; k < rows.size(); ++k) {
                const auto i = Index(rows[k]);
                const bool stays =
                    wanted[Index(k)] > 0 || (step < 1 && pulls[i] + step * (wanted[Index(k)] - pulls[i]) > 1e-14 * pulls[i]);
                pulls[i] = stays ? pulls[i] + step * (wanted[Index(k)] - pulls[i]) : 0;
                if (stays) staying.push_back(rows[k]);
            }
            if (staying.size() == rows.size()) break;
            factor.keepOnly(staying);
        }
        if (pulls[worst] == 0) refused[std::size_t(worst)] = true; // only rounding can bring this about
        left = breach - turned * pulls;
    }
    std::vector<std::size_t> binding;
    for (const auto i : factor.rows())
        if (pulls[Index(i)] > 0) binding.push_back(i);
    return binding;
}

} // namespace fox::detail
