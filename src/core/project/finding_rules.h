#pragma once
#include "base/finding.h"

#include <string_view>
#include <vector>

namespace fox {

/// Where in the work a finding belongs.
enum class Stage { Site, Holes, Ground, Sequence, Model };

/// A code of our own that findings have, where no rule of a standard has one.
struct FindingRule {
    const char* code;  ///< "FC-PLACE"
    Stage stage;       ///< where it is shown and counted
    Severity severity; ///< its usual one
    const char* words; ///< what it says, for documents
};
/// Every code that the program uses, by stage; the user guide lists them.
const std::vector<FindingRule>& findingRules();
/// The stage of a finding's rule; that of the holes for a rule of the AGS standard.
Stage stageOf(std::string_view rule);

} // namespace fox
