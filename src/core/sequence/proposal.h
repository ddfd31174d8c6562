#pragma once
#include "sequence/contacts.h"

namespace fox {

/// A logged code that is more than one unit: it returns under something else in the same holes.
struct ProposedSplit {
    std::string code;                 ///< as logged
    std::vector<std::string> units;   ///< new codes, from the top
    std::vector<std::string> between; ///< codes that part them
    std::vector<std::string> holes;   ///< in which it returns
    bool operator==(const ProposedSplit&) const = default;
};

/// Which unit one stretch of a hole is thought to be, where its code could be several.
struct ProposedReading {
    IntervalChoice choice;
    double confidence = 1; ///< 0.5: as likely as not; 1: the log itself says it
    bool fromLog = false;  ///< what else is in the hole decides it; else holes around do, which are never wholly sure
    std::string why;       ///< "over the Sand Lens of its neighbours"
};

struct SequenceProposal {
    Sequence sequence;                     ///< with codes split
    std::vector<ProposedSplit> splits;     ///< new ones; none if the sequence has them already
    std::vector<std::string> lenses;       ///< codes of units that most holes which could have them do not have
    std::vector<ProposedReading> readings; ///< hole by hole, by depth; of intervals with a choice
    /// Confidence in the units of a hole: the least of them.
    double surenessOf(const std::string& hole) const;
};

/// Looks through all holes for codes that return under another one, splits them, and says of every stretch of such a code
/// which of its units it is.
/// A code is split where it returns in two holes or more, and in a fifth or more of the holes that have both. Of a stretch
/// with nothing of the other units over or under it, the place tells: whether the unit that parts them is likely there (from
/// the holes around that have it or have none, by inverse distance), and at what level (its middle in those holes, less the
/// plane that fits them, by inverse distance). A hole that goes down to older ground without meeting the parting unit shows
/// that it is absent there; then the stretch is the oldest of its units.
/// What the geologist chose is kept, and helps. One hole, or none that returns: nothing is split.
SequenceProposal proposeReading(const Holes&, const Sequence&, const Interpretation& = {});

} // namespace fox
