#pragma once
#include "formats/vector.h"
#include "project/edits.h"
#include "sequence/proposal.h"

namespace fox {

/// Changes a unit in place, all but its code; `what` names the change in the label: "Till: outline".
/// @throws Error for no such unit, and what `change` throws
Edited changeUnit(const Project&, const std::string& unitCode, const std::function<void(Unit&)>& change, const std::string& what);
Edited setCrossing(const Project&, const std::string& unitCode, CrossingRemedy);
/// A value of a unit by its kind's key; none: not set. @throws Error for no such unit or kind, or a value that can't be
Edited setUnitValue(const Project&, const std::string& unitCode, const std::string& key, std::optional<double>);
/// A kind of value beside the standard ones. @throws Error for an empty name or one that there is
Edited addUnitValueKind(const Project&, const std::string& name, const std::string& unit);
/// With the values that units have of it. @throws Error if it is not one of the project's own
Edited removeUnitValueKind(const Project&, const std::string& key);
/// The unit comes to stand at this place, counted from the youngest, 0; others close up. @throws Error for no such unit
Edited moveUnit(const Project&, const std::string& unitCode, std::size_t to);
/// A new unit at this place, with a colour and name of its own if it has none. @throws Error for an empty or known code
Edited addUnit(const Project&, Unit, std::size_t at);
/// With what was said of it alone: choices, picks, guides, a fixed base. A fault that began at its base goes on to the next
/// older unit, and goes if there is none; bases that were measured or kept from its base no longer are. The label says all that.
/// @throws Error for no such unit
Edited removeUnit(const Project&, const std::string& unitCode);
/// The new code also where others name it; logs that have the old one still mean this unit. @throws Error for an empty or
/// known code
Edited renameUnit(const Project&, const std::string& unitCode, const std::string& newCode);
/// The sequence in which codes were split (see proposeReading), of the one that the proposal was made of. What was said of a
/// split code (guides, picks, choices, a fixed base, faults, measured bases) goes to the oldest of its units, whose base it was.
/// @throws Error if the sequence has changed since
Edited splitCodes(const Project&, const Part<Sequence>& of, const SequenceProposal&);

/// Which unit intervals are; an empty unit is none of the sequence; without a value they are read by their codes again.
/// @throws Error for no such unit or hole
struct DepthRange {
    std::string hole; ///< display name
    Depth top, base;
    bool operator==(const DepthRange&) const = default;
};
Edited setIntervals(const Project&, const std::vector<DepthRange>&, const std::optional<std::string>& unitCode);
/// Many intervals, each its own unit, as one step. @throws Error for no such unit or hole
Edited setIntervals(const Project&, const std::vector<IntervalChoice>&, const std::string& label);

/// The unit's base in a hole lies at this depth, whatever the log says; none: as logged. A depth within kPickSnap of the end
/// of a logged interval is taken to be that. @throws Error for no such unit or hole, or a depth beyond the hole
Edited setPick(const Project&, const std::string& hole, const std::string& unitCode, std::optional<Depth>);
inline constexpr double kPickSnap = 0.25; ///< metres
/// Many picks as one step. `refused` is called for each that can't be made, with why; the others are made.
Edited setPicks(const Project&, const std::vector<Pick>&, const std::string& label,
                const std::function<void(const Pick&, const std::string& why)>& refused);

/// T1, T2 and so on: the next that no predicted log of the project has.
std::string freeTrialName(const Project&);
/// Named by freeTrialName if the name is empty, or if there is one of that name already.
Edited addTrialColumn(const Project&, Point2, const std::string& name = {});
Edited removeTrialColumn(const Project&, const std::string& name);

/// Section lines from lines of a file (layers as readVector gives them), brought to the project's system; named by an attribute
/// "name" or "section", else by the next letters. @throws Error if there is no line in it, or a system is not known
Edited addSections(const Project&, const std::vector<FeatureLayer>&, const std::string& file);
Edited renameSection(const Project&, const std::string& from, const std::string& to);
/// Holes within this many metres of the line are on the section.
Edited setSectionReach(const Project&, const std::string& name, double metres);
} // namespace fox
