#pragma once
#include "base/grid.h"
#include "model/stack.h"

#include <memory>

namespace fox {

/// Where the top of a unit lies: at the lowest of the ground and the bases of all younger units, as the stack leaves them without
/// those below: a base that laps is held up by the next older one that is known. (Its raw base may lie far lower: it says
/// nothing of what it stops against.)
class UnitTop {
public:
    UnitTop(const Sequence& sequence, std::size_t unit) {
        for (std::size_t u = 0; u < unit; ++u) m_rules.push_back(sequence.units[u].base);
    }

    /// raw(u): the level of a younger base before the rules; none of one that is not made yet, which is passed over. kNoValue of
    /// one that is not known leaves the top unknown.
    template <typename Raw>
    double at(double ground, const Raw& raw) {
        m_bases.clear(), m_known.clear();
        for (std::size_t u = 0; u < m_rules.size(); ++u)
            if (const std::optional<double> level = raw(u)) m_bases.push_back(*level), m_known.push_back(m_rules[u]);
        if (m_bases.empty()) return ground;
        if (!m_stack || m_known != m_stacked) m_stack.emplace(m_stacked = m_known);
        m_stack->apply({}, ground, m_bases);
        return m_bases.back();
    }

private:
    std::vector<BaseRule> m_rules, m_known, m_stacked;
    std::optional<StackRules> m_stack; ///< of m_stacked
    std::vector<double> m_bases;
};

/// On a grid, from raw bases; null: not made yet.
Grid topOf(const Sequence&, const Grid& ground, std::span<const std::shared_ptr<const Grid>> younger);

} // namespace fox
