#include "project/value_edits.h"

#include "base/errors.h"
#include "project/excluded_points.h"

#include <fmt/format.h>

namespace fox {

namespace {

Edited changed(const Project& project, const std::string& file, const std::string& quantity, std::string label,
               const std::function<void(ValueSource&)>& change) {
    auto sources = *project.valuePoints;
    const auto at = std::ranges::find_if(sources, [&](const ValueSource& s) { return s.file == file && s.quantity == quantity; });
    if (at == sources.end()) throw Error(fmt::format("There are no values of {} from {} in the project.", quantity, file));
    change(*at);
    Edited e{project, std::move(label)};
    e.project.valuePoints = part(std::move(sources));
    return e;
}

} // namespace

Edited setValuesUsed(const Project& project, const std::string& file, const std::string& quantity, bool used) {
    return changed(project, file, quantity, fmt::format("{} {} of {}", used ? "Use" : "Do not use", quantity, file),
                   [&](ValueSource& s) { s.used = used; });
}

Edited setValueExcluded(const Project& project, const std::string& file, const std::string& quantity, const ValuePoint& which,
                        bool excluded) {
    const auto label =
        fmt::format("{} the value of {} on line {} of {}", excluded ? "Exclude" : "Use", quantity, which.line, file);
    return changed(project, file, quantity, label, [&](ValueSource& source) {
        setExcludedIn(source.points, which, excluded, fmt::format("That value of {} is no longer there.", file));
    });
}

} // namespace fox
