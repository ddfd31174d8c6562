#pragma once
#include "base/remedy.h"

#include <optional>
#include <string>
#include <vector>

namespace fox {

enum class Severity { Note, Warning, Error };

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
    std::size_t count = 1;                      ///< how many it stands for
    bool operator==(const Finding&) const = default;
};

using Findings = std::vector<Finding>;

/// "phase1.ags, line 57: BH01: The ground level is missing."
std::string describe(const Finding&);
const char* word(Severity); ///< "error", "warning", "note"
int count(const Findings&, Severity);
/// The first limits::kFindingsOfAKind of each rule and file, in their order, and behind them one that counts the others.
Findings listed(Findings);

} // namespace fox
