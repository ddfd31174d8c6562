#include "base/finding.h"

#include "base/limits.h"

#include <algorithm>
#include <map>
#include <tuple>

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

int count(const Findings& findings, Severity severity) {
    std::size_t n = 0;
    for (const auto& f : findings)
        if (f.severity == severity) n += f.count;
    return int(n);
}

Findings listed(Findings all) {
    using Kind = std::tuple<std::string, std::string, Severity>;
    std::map<Kind, std::size_t> seen;
    Findings out;
    for (auto& f : all) {
        auto& n = seen[{f.rule, f.file, f.severity}];
        n += f.count;
        if (n <= limits::kFindingsOfAKind) out.push_back(std::move(f));
    }
    for (const auto& [kind, n] : seen) {
        if (n <= limits::kFindingsOfAKind) continue;
        const auto& [rule, file, severity] = kind;
        Finding more{severity, rule, file, 0, "", "", "", ""};
        more.count = n - limits::kFindingsOfAKind;
        more.message = std::to_string(more.count) + " more findings of this kind (" + rule + ") are not listed.";
        out.push_back(std::move(more));
    }
    return out;
}

} // namespace fox
