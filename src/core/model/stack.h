#pragma once
#include "ground/area.h"
#include "sequence/unit.h"

#include <span>

namespace fox {

/// Bases of one column, youngest first, under rules that cut and lap alone. `bases` come in raw and go out such that
/// each is at or below the one before (the first at or below `ground`): no unit has a negative thickness.
/// The next older base holds a `Laps` unit up that would go below it; then, from the top down, what stands above the
/// base before is cut off at it, so an absent unit takes the base of what lies over it.
/// kNoValue (not known) stays, and everything under it becomes kNoValue.
void applyRules(double ground, std::span<double> bases, std::span<const BaseRule> rules);

/// All rules of a stack, made once for many columns. In this order: bases are held apart from named ones, as those are
/// before the rules; laps; meetings halfway; then, from the top down, each is cut off at the one before, a kept thickness
/// pushes it down, and where its unit is thinner than its least, or outside its outline, it takes the base before.
class StackRules {
public:
    explicit StackRules(const Sequence&);
    explicit StackRules(std::span<const BaseRule>);
    /// What rules did to a column that was not only to cut or lap.
    enum class Change : unsigned char { None, Thin, Outside };
    /// As applyRules. `changes`, if given, has one entry a base.
    void apply(Point2 place, double ground, std::span<double> bases, std::span<Change> changes = {}) const;

private:
    struct Rule {
        BaseRule base = BaseRule::Cuts;
        double least = 0;
        std::optional<Area> outline;
        CrossingRemedy crossing;
        std::optional<std::size_t> other; ///< of crossing.unit; none: the ground
    };
    void holdApart(double ground, std::span<double> bases) const;

    std::vector<Rule> m_rules;
    bool m_holds = false, m_halfway = false;
};

} // namespace fox
