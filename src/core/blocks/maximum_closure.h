#pragma once
#include <cstddef>
#include <utility>
#include <vector>

namespace fox {

/// Things that are worth or cost something, some of which need others: the set with the greatest sum that has all that its
/// members need. Of several such sets the smallest.
/// Method: a least cut between what is worth and what costs (Picard 1976), by Boost's Boykov-Kolmogorov.
struct ClosureProblem {
    std::vector<double> worth;                              ///< negative: it costs
    std::vector<std::pair<std::size_t, std::size_t>> needs; ///< the first needs the second
};
std::vector<bool> maximumClosure(const ClosureProblem&);

} // namespace fox
