#pragma once
#include "base/point.h"

#include <optional>
#include <string>
#include <vector>

namespace fox {

enum class Severity { Note, Warning, Error };

/// What can be done about a finding, as plain data: the project knows how to make an edit of it.
struct Remedy {
    enum class Kind {
        MergeCode,     ///< read logged code `subject` as unit `value`
        AddUnit,       ///< put logged code `subject` into the sequence
        SetLevel,      ///< give hole `subject` the ground level `value`
        PlaceHole,     ///< give hole `subject` a place; the user points at it
        SwapPlace,     ///< swap easting and northing of hole `subject`
        SetFinalDepth, ///< give hole `subject` the final depth `value`
        CloseGap,      ///< of hole `subject`, above its interval number `value`
        LeaveOut,      ///< leave hole `subject` out of surfaces
        LeaveOutPoint, ///< leave the ground point at `subject` ("E N" in metres) out
        ReadAs,        ///< read the stretch of hole `subject` as `value`: "top base unit", metres; without a unit, as none
        OlderWins,     ///< the base of unit `subject` laps
        MeetHalfway,   ///< the base of unit `subject` and the one over it meet in the middle where they cross
        KeepThickness, ///< unit `subject` is nowhere thinner than `value` metres
        HoldBelow,     ///< the base of unit `subject` stays below that of unit `value`; empty: below the ground
    };
    Kind kind;
    std::string label; ///< what the button says
    std::string subject, value;
    bool operator==(const Remedy&) const = default;
};

/// A fault or remark about data. It never stops the work: what is left out because of it is said.
struct Finding {
    Severity severity = Severity::Warning;
    std::string rule; ///< "AGS4 Rule 4b", or a code of our own such as "FC-PLACE"
    std::string file; ///< empty if it is not about a file
    int line = 0;     ///< counted from 1; 0 if it has none
    std::string group, heading;
    std::string hole;    ///< hole id, or empty
    std::string message; ///< a sentence
    std::optional<Remedy> remedy = std::nullopt;
    std::optional<Point2> place = std::nullopt; ///< to show on the plan
    std::vector<Remedy> others = {};            ///< further remedies, where there is a choice
    std::string unit = {};                      ///< code of the unit that it is about, if it is about one
    bool operator==(const Finding&) const = default;
};

using Findings = std::vector<Finding>;

/// "phase1.ags, line 57: BH01: The ground level is missing."
std::string describe(const Finding&);
const char* word(Severity); ///< "error", "warning", "note"
int count(const Findings&, Severity);

} // namespace fox
