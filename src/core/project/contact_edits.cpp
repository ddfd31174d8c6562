#include "project/contact_edits.h"

#include "base/errors.h"
#include "project/excluded_points.h"

#include <fmt/format.h>

namespace fox {

namespace {

Edited changed(const Project& project, const std::string& file, std::string label,
               const std::function<void(ContactSource&)>& change) {
    auto sources = *project.contactPoints;
    const auto at = std::ranges::find(sources, file, &ContactSource::file);
    if (at == sources.end()) throw Error(fmt::format("There are no contacts of {} in the project.", file));
    change(*at);
    Edited e{project, std::move(label)};
    e.project.contactPoints = part(std::move(sources));
    return e;
}

} // namespace

Edited setContactsUsed(const Project& project, const std::string& file, bool used) {
    return changed(project, file, fmt::format("{} the contacts of {}", used ? "Use" : "Do not use", file),
                   [&](ContactSource& s) { s.used = used; });
}

Edited setContactsSurface(const Project& project, const std::string& file, ContactSurface surface) {
    return changed(project, file, fmt::format("Contacts of {} lie on the {} of their units", file, words(surface)),
                   [&](ContactSource& s) { s.surface = surface; });
}

Edited setContactsAccuracy(const Project& project, const std::string& file, double metres) {
    if (!(metres >= 0)) throw Error("The accuracy of contacts can't be negative.");
    return changed(project, file, fmt::format("Contacts of {} are accurate to {:g} m", file, metres),
                   [&](ContactSource& s) { s.accuracy = metres; });
}

Edited setContactExcluded(const Project& project, const std::string& file, const ContactPoint& which, bool excluded) {
    const auto label =
        fmt::format("{} the contact of {} on line {} of {}", excluded ? "Exclude" : "Use", which.unit, which.line, file);
    return changed(project, file, label, [&](ContactSource& source) {
        setExcludedIn(source.points, which, excluded, fmt::format("That contact of {} is no longer there.", file));
    });
}

} // namespace fox
