#include "project/named_surface_edits.h"

#include "base/errors.h"
#include "base/text.h"

#include <fmt/format.h>

namespace fox {

namespace {

bool isTaken(const Project& project, const std::string& name) {
    return std::ranges::any_of(*project.namedSurfaces, [&](const NamedSurface& s) { return lower(s.name) == lower(name); });
}

Edited withSurfaces(const Project& project, std::vector<NamedSurface> surfaces, std::string label) {
    Edited e{project, std::move(label)};
    e.project.namedSurfaces = part(std::move(surfaces));
    return e;
}

std::vector<NamedSurface>::iterator surfaceNamed(std::vector<NamedSurface>& surfaces, const std::string& name) {
    const auto at = std::ranges::find(surfaces, name, &NamedSurface::name);
    if (at == surfaces.end()) throw Error(fmt::format("There is no surface named {}.", name));
    return at;
}

} // namespace

Edited addNamedSurface(const Project& project, NamedSurface surface) {
    const auto base = surface.name.empty() ? std::string("Surface") : surface.name;
    surface.name = base;
    for (int n = 2; isTaken(project, surface.name); ++n) surface.name = fmt::format("{} {}", base, n);
    auto surfaces = *project.namedSurfaces;
    auto label = "Add the surface " + surface.name;
    surfaces.push_back(std::move(surface));
    return withSurfaces(project, std::move(surfaces), std::move(label));
}

Edited removeNamedSurface(const Project& project, const std::string& name) {
    auto surfaces = *project.namedSurfaces;
    surfaces.erase(surfaceNamed(surfaces, name));
    return withSurfaces(project, std::move(surfaces), "Remove the surface " + name);
}

Edited renameNamedSurface(const Project& project, const std::string& name, const std::string& wanted) {
    const std::string to(trimmed(wanted));
    if (to.empty()) throw Error(fmt::format("The surface {} needs a name.", name));
    if (lower(to) != lower(name) && isTaken(project, to)) throw Error(fmt::format("There is another surface named {}.", to));
    auto surfaces = *project.namedSurfaces;
    surfaceNamed(surfaces, name)->name = to;
    return withSurfaces(project, std::move(surfaces), fmt::format("Rename {} to {}", name, to));
}

Edited changeNamedSurface(const Project& project, const std::string& name, const std::function<void(NamedSurface&)>& change,
                          const std::string& words) {
    auto surfaces = *project.namedSurfaces;
    change(*surfaceNamed(surfaces, name));
    return withSurfaces(project, std::move(surfaces), fmt::format("{}: {}", name, words));
}

Edited keepHoleSet(const Project& project, const std::string& wanted, const std::vector<std::string>& holes) {
    const std::string name(trimmed(wanted));
    if (name.empty()) throw Error("A set of holes needs a name.");
    if (holes.empty()) throw Error(fmt::format("The set {} would have no hole.", name));
    auto sets = *project.holeSets;
    const auto at = std::ranges::find(sets, name, &HoleSet::name);
    if (at != sets.end())
        at->holes = holes;
    else
        sets.push_back({name, holes});
    Edited e{project, fmt::format("Keep {} as the set {}", counted(holes.size(), "hole"), name)};
    e.project.holeSets = part(std::move(sets));
    return e;
}

Edited removeHoleSet(const Project& project, const std::string& name) {
    auto sets = *project.holeSets;
    if (std::erase_if(sets, [&](const HoleSet& s) { return s.name == name; }) == 0)
        throw Error(fmt::format("There is no set of holes named {}.", name));
    Edited e{project, fmt::format("Remove the set {}", name)};
    e.project.holeSets = part(std::move(sets));
    return e;
}

} // namespace fox
