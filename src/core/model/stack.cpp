#include "model/stack.h"

// From raw bases to a column. First what holds a base above or below another. Then from the oldest up: a base that onlaps is not
// below the base of the next older unit, as that came out. (Not the highest of all older ones: those that a cutting unit removed
// hold nothing up.) Bases that are to meet halfway do so where they cross. Then from the ground down: none is above the one
// before, and a unit thinner than its minimum or outside its outline takes the base before, which makes it absent. So no column
// has a negative thickness, whatever the raw bases are. Every column, grid, section and realisation goes through here.
namespace fox {

namespace {

/// A lapping base can't go below the base of the next older unit as that came out. What is not known holds nothing up, nor does a
/// unit that is nowhere.
template <typename RuleOf>
void lap(std::span<double> bases, const RuleOf& ruleOf) {
    double older = -std::numeric_limits<double>::infinity();
    for (std::size_t i = bases.size(); i-- > 0;) {
        if (std::isnan(bases[i])) continue;
        if (ruleOf(i) == BaseRule::Laps) bases[i] = std::max(bases[i], older);
        if (!std::isinf(bases[i])) older = bases[i];
    }
}

} // namespace

void applyRules(double ground, std::span<double> bases, std::span<const BaseRule> rules) {
    StackRules(rules).apply({}, ground, bases);
}

StackRules::StackRules(std::span<const BaseRule> rules) {
    for (const auto r : rules) m_rules.push_back({r, 0, {}, {}, {}});
}

StackRules::StackRules(const Sequence& sequence) {
    for (const auto& u : sequence.units) {
        Rule rule{u.base, u.leastThickness, {}, u.crossing, {}};
        if (!u.outlines.empty()) rule.outline = Area(u.outlines);
        using Kind = CrossingRemedy::Kind;
        if (u.crossing.kind == Kind::Below || u.crossing.kind == Kind::Above) {
            rule.other = sequence.index(u.crossing.unit);
            // of a unit that is gone, or the oldest, nothing can be said
            if (!u.crossing.unit.empty() && (!rule.other || *rule.other + 1 >= sequence.units.size()))
                rule.crossing = {}, rule.other.reset();
            m_holds |= rule.crossing.kind != Kind::None;
        }
        m_halfway |= u.crossing.kind == Kind::Halfway;
        m_rules.push_back(std::move(rule));
    }
}

void StackRules::holdApart(double ground, std::span<double> bases) const {
    const std::vector<double> raw(bases.begin(), bases.end());
    for (std::size_t i = 0; i < bases.size(); ++i) {
        const auto& c = m_rules[i].crossing;
        const double other = m_rules[i].other ? raw[*m_rules[i].other] : ground;
        if (std::isnan(other) || std::isnan(bases[i])) continue;
        if (c.kind == CrossingRemedy::Kind::Below) bases[i] = std::min(bases[i], other - c.metres);
        if (c.kind == CrossingRemedy::Kind::Above) bases[i] = std::max(bases[i], other + c.metres);
    }
}

void StackRules::apply(Point2 place, double ground, std::span<double> bases, std::span<Change> changes) const {
    if (m_holds) holdApart(ground, bases);
    lap(bases, [&](std::size_t i) { return m_rules[i].base; });
    if (m_halfway)
        for (std::size_t i = 1; i < bases.size(); ++i)
            if (m_rules[i].crossing.kind == CrossingRemedy::Kind::Halfway && bases[i] > bases[i - 1])
                bases[i - 1] = bases[i] = (bases[i] + bases[i - 1]) / 2;
    std::ranges::fill(changes, Change::None);
    double before = ground;
    for (std::size_t i = 0; i < bases.size(); ++i) {
        auto& b = bases[i];
        const auto& rule = m_rules[i];
        const bool outside = rule.outline && !rule.outline->contains(place);
        if (!std::isnan(before) && outside) { // there it is known that it is absent
            if (!changes.empty() && b < before) changes[i] = Change::Outside;
            b = before;
            continue;
        }
        b = std::isnan(before) || std::isnan(b) ? kNoValue : std::min(b, before);
        if (rule.crossing.kind == CrossingRemedy::Kind::Thickness) b = std::min(b, before - rule.crossing.metres);
        constexpr double kRounding = 1e-9; // metres; a thickness that is kept may be the least one
        if (before - b < rule.least - kRounding) {
            if (!changes.empty() && b < before) changes[i] = Change::Thin;
            b = before;
        }
        before = b;
    }
}

} // namespace fox
