#include "base/finding.h"

#include <algorithm>

namespace fox {

std::string describe(const Finding& f) {
    std::string where = f.file;
    if (f.line > 0) where += (where.empty() ? "line " : ", line ") + std::to_string(f.line);
    if (!f.hole.empty()) where += (where.empty() ? "" : ": ") + f.hole;
    return where.empty() ? f.message : where + ": " + f.message;
}

const char* word(Severity s) {
    switch (s) {
    case Severity::Error: return "error";
    case Severity::Warning: return "warning";
    case Severity::Note: break;
    }
    return "note";
}

int count(const Findings& findings, Severity severity) { return int(std::ranges::count(findings, severity, &Finding::severity)); }

} // namespace fox
