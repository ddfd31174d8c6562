#include "project/remedies.h"

#include "base/errors.h"
#include "project/ground_edits.h"
#include "project/hole_edits.h"
#include "project/interval_edits.h"
#include "project/sequence_edits.h"
#include "project/site_edits.h"
#include "project/surface_edits.h"

#include <fmt/format.h>

namespace fox {

namespace {

/// One overload a kind of remedy.
class Maker {
public:
    explicit Maker(const Project& project, const std::string& label) : m_project(project), m_label(label) {}

    Edited operator()(const MergeCode& r) const { return mergeCode(m_project, r.code, r.unit); }
    Edited operator()(const AddUnitFor& r) const {
        if (m_project.sequence->index(r.code)) throw Error(fmt::format("There is a unit {} already.", r.code));
        auto sequence = *m_project.sequence;
        const auto named = m_project.codeNames->find(r.code);
        Unit unit;
        unit.code = r.code;
        unit.name = named == m_project.codeNames->end() ? r.code : named->second;
        unit.colour = proposedColour(unit.name, sequence.units);
        // where the logs have it: before the first unit that the proposal puts under it
        const auto order = proposeSequence(*m_project.holes, *m_project.codeNames, sequence.unitHeading);
        const auto rank = order.index(unit.code).value_or(order.units.size());
        const auto at =
            std::ranges::find_if(sequence.units, [&](const Unit& u) { return order.index(u.code).value_or(0) > rank; });
        sequence.units.insert(at, std::move(unit));
        Edited e{m_project, m_label};
        e.project.sequence = part(std::move(sequence));
        return e;
    }
    Edited operator()(const SetGroundLevel& r) const { return setHoleLevel(m_project, r.hole, r.level); }
    Edited operator()(const PlaceOnPlan& r) const { throw Error(fmt::format("Point at the plan to place {}.", r.hole)); }
    Edited operator()(const SwapCoordinates& r) const { return swapPlace(m_project, r.hole); }
    Edited operator()(const SwapCoordinatesOfFile& r) const { return swapPlacesOfFile(m_project, r.file); }
    Edited operator()(const MeasureFromVertical& r) const { return measureFromVertical(m_project, r.hole); }
    Edited operator()(const SetFinalDepthTo& r) const { return setFinalDepth(m_project, r.hole, r.depth); }
    Edited operator()(const CloseGapAbove& r) const { return closeGap(m_project, r.hole, r.top); }
    Edited operator()(const ExcludeHole& r) const { return setExcluded(m_project, r.hole, true); }
    Edited operator()(const ExcludeGroundPoint& r) const { return mend(m_project, {TinEdit::Kind::LeaveOut, r.place, {}, 0}); }
    Edited operator()(const AssignUnit& r) const {
        constexpr double kSame = 1e-6;     // metres
        std::vector<DepthRange> stretches; // choices are made by interval
        for (const auto& i : logOf(m_project, r.hole))
            if (i.usable() && i.top.metres >= r.top.metres - kSame && i.base.metres <= r.base.metres + kSame)
                stretches.push_back({r.hole, i.top, i.base});
        if (stretches.empty())
            throw Error(fmt::format("{} has no interval from {:.2f} to {:.2f} m any more.", r.hole, r.top.metres, r.base.metres));
        return setIntervals(m_project, stretches, r.unit);
    }
    Edited operator()(const OlderWins& r) const { return setBaseRule(m_project, r.unit, BaseRule::Laps); }
    Edited operator()(const MeetHalfway& r) const {
        return setCrossing(m_project, r.unit, {CrossingRemedy::Kind::Halfway, 0, ""});
    }
    Edited operator()(const KeepThickness& r) const {
        return setCrossing(m_project, r.unit, {CrossingRemedy::Kind::Thickness, r.metres, ""});
    }
    Edited operator()(const HoldBelow& r) const {
        return setCrossing(m_project, r.unit, {CrossingRemedy::Kind::Below, 0, r.other});
    }
    Edited operator()(const ThickAsNeighbours& r) const { return addGuidesLikeNeighbours(m_project, r.unit); }
    Edited operator()(const ReadFileAgain& r) const {
        throw Error(fmt::format("Read {} again with other settings: its page offers that.", r.file));
    }
    Edited operator()(const ExtendExtent& r) const {
        return changeFrame(m_project, [&](Frame& f) {
            f.xmin = std::min(f.xmin, r.to.xmin), f.xmax = std::max(f.xmax, r.to.xmax);
            f.ymin = std::min(f.ymin, r.to.ymin), f.ymax = std::max(f.ymax, r.to.ymax);
        });
    }

private:
    const Project& m_project;
    const std::string& m_label;
};

} // namespace

Edited apply(const Project& project, const Remedy& remedy) { return std::visit(Maker(project, remedy.label), remedy.action); }

} // namespace fox
