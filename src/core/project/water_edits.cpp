#include "project/water_edits.h"

#include "base/errors.h"
#include "base/text.h"
#include "project/hole_edits.h"

#include <algorithm>
#include <fmt/format.h>

namespace fox {

namespace {

bool isTaken(const Project& project, const std::string& name) {
    return std::ranges::any_of(*project.waterSurfaces, [&](const WaterSurface& s) { return lower(s.name) == lower(name); });
}

Edited with(const Project& project, std::vector<WaterSurface> surfaces, std::string label) {
    Edited e{project, std::move(label)};
    e.project.waterSurfaces = part(std::move(surfaces));
    return e;
}

std::vector<WaterSurface>::iterator find(std::vector<WaterSurface>& surfaces, const std::string& name) {
    const auto at = std::ranges::find(surfaces, name, &WaterSurface::name);
    if (at == surfaces.end()) throw Error(fmt::format("There is no water surface named {}.", name));
    return at;
}

} // namespace

Edited setShownWater(const Project& project, const WaterChoice& choice) {
    if (choice.which == WaterStatistic::AtDate && !timeOf(choice.date))
        throw Error(fmt::format("\"{}\" is not a date; write it as 2026-03-01.", choice.date));
    Edited e{project, fmt::format("Levels of water shown: {}", words(choice))};
    e.project.shownWater = part(choice);
    return e;
}

Edited addWaterSurface(const Project& project, const std::string& unitCode) {
    const auto unit = project.sequence->index(unitCode);
    if (!unitCode.empty() && !unit) throw Error(fmt::format("There is no unit {} in the sequence.", unitCode));
    const std::string base = unit ? "Water in " + project.sequence->units[*unit].name : std::string("Water");
    auto name = base;
    for (int n = 2; isTaken(project, name); ++n) name = fmt::format("{} {}", base, n);
    auto surfaces = *project.waterSurfaces;
    WaterSurface made;
    made.name = name, made.unit = unitCode, made.reading = *project.shownWater;
    surfaces.push_back(std::move(made));
    return with(project, std::move(surfaces), "Add the water surface " + name);
}

Edited removeWaterSurface(const Project& project, const std::string& name) {
    auto surfaces = *project.waterSurfaces;
    surfaces.erase(find(surfaces, name));
    return with(project, std::move(surfaces), "Remove the water surface " + name);
}

Edited renameWaterSurface(const Project& project, const std::string& name, const std::string& wanted) {
    const std::string to(trimmed(wanted));
    if (to.empty()) throw Error(fmt::format("The water surface {} needs a name.", name));
    if (lower(to) != lower(name) && isTaken(project, to))
        throw Error(fmt::format("There is another water surface named {}.", to));
    auto surfaces = *project.waterSurfaces;
    find(surfaces, name)->name = to;
    return with(project, std::move(surfaces), fmt::format("Rename {} to {}", name, to));
}

Edited changeWaterSurface(const Project& project, const std::string& name, const std::function<void(WaterSurface&)>& change,
                          const std::string& words) {
    auto surfaces = *project.waterSurfaces;
    auto& surface = *find(surfaces, name);
    change(surface);
    if (surface.reading.which == WaterStatistic::AtDate && !timeOf(surface.reading.date))
        throw Error(fmt::format("\"{}\" is not a date; write it as 2026-03-01.", surface.reading.date));
    return with(project, std::move(surfaces), fmt::format("{}: {}", name, words));
}

Edited setSoundingAssumptions(const Project& project, const std::string& hole, const std::string& push,
                              std::optional<double> unitWeight, std::optional<Depth> water) {
    constexpr double kHeaviest = 40; // kN/m3; no ground is
    if (unitWeight && (!(*unitWeight > 0) || *unitWeight > kHeaviest))
        throw Error(
            fmt::format("A unit weight of {:g} kN/m3 can't be: give one above 0 and up to {:g}.", *unitWeight, kHeaviest));
    const auto change = [&](Hole& h) {
        const auto at = std::ranges::find(h.soundings, push, &Sounding::push);
        if (at == h.soundings.end()) throw Error(fmt::format("{} has no sounding {}.", hole, push));
        at->statedUnitWeight = unitWeight, at->statedWater = water;
    };
    return changeHoles(project, {{hole, change}}, fmt::format("Assumptions of sounding {} in {}", push, hole));
}

} // namespace fox
