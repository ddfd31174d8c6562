#include "base/errors.h"
#include "formats/raster.h"
#include "handover/build_file.h"
#include "model/ensemble.h"
#include "output.h"
#include "project/json.h"
#include "store/store.h"
#include "surfaces/grid_surface.h"
#include "verbs.h"

#include <fmt/format.h>
#include <iostream>

namespace fox::run {

using nlohmann::json;

namespace {

std::shared_ptr<const ProductSet> productsOf(const Words& words, Products::Want want = Products::Want::Everything) {
    return Products().of(ProjectStore::read(words.file), {}, want);
}

json series(const std::vector<double>& values) {
    json out = json::array();
    for (const double v : values) out.push_back(number(v));
    return out;
}

json columnJson(const ProductSet& set, Point2 p) {
    json out{{"easting", p.x}, {"northing", p.y}, {"units", json::array()}};
    const auto c = set.model->columnAt(p, true);
    out["ground"] = number(c.ground);
    if (std::isnan(c.ground)) return out;
    for (std::size_t u = 0; u <= c.bases.size() && u < set.project.sequence->units.size(); ++u) {
        const double base = u < c.bases.size() ? c.bases[u] : kNoValue;
        const double thickness = c.top(u) - base;
        if (thickness == 0) continue;
        out["units"].push_back({{"code", set.project.sequence->units[u].code},
                                {"top", number(c.top(u))},
                                {"base", number(base)},
                                {"thickness", number(thickness)},
                                {"sd", u < c.bases.size() ? number(c.deviations[u]) : json(nullptr)}});
        if (std::isnan(base)) break; // nothing is known below it
    }
    return out;
}

/// The surface above which volumes are counted; none: all.
std::optional<Grid> surfaceAbove(const Words& words, const Grid& ground) {
    if (words.above) {
        Grid level(ground.frame);
        std::ranges::fill(level.values, *words.above);
        return level;
    }
    if (words.aboveGrid.empty()) return {};
    return onFrame(readRaster(words.aboveGrid).grid, ground.frame);
}

} // namespace

void build(const Words& words) {
    if (words.out.extension() != ".gpkg") throw UsageError(fmt::format("{}: a project file ends in .gpkg.", words.out.string()));
    const auto built = buildProject(words.file);
    const auto set = Products().of(built.project);
    ProjectStore::create(words.out, built.project);
    json leftOut = json::array();
    for (const auto& l : leftOutOf(*set->findings))
        leftOut.push_back({{"hole", l.hole.empty() ? json(nullptr) : json(l.hole)},
                           {"file", l.file.empty() ? json(nullptr) : json(l.file)},
                           {"line", l.line > 0 ? json(l.line) : json(nullptr)},
                           {"reason", l.reason}});
    json chosen = built.chosen.is_null() ? json::object() : built.chosen;
    chosen["surfaces"] = chosenSurfaces(*set);
    print({{"chosen", chosen},
           {"left_out", leftOut},
           {"findings",
            {{"error", count(*set->findings, Severity::Error)},
             {"warning", count(*set->findings, Severity::Warning)},
             {"note", count(*set->findings, Severity::Note)}}}},
          words.json);
}

void column(const Words& words) {
    std::vector<Point2> places;
    for (const auto& at : words.places) {
        const auto n = numbers(at, "--at", 2);
        places.push_back({n[0], n[1]});
    }
    if (!words.at.empty()) {
        const PlacesFile file(words.at);
        places.insert(places.end(), file.places().begin(), file.places().end());
    }
    if (places.empty()) throw UsageError("column needs --at E,N or --at-file.");
    const auto set = productsOf(words, Products::Want::Model);
    json out = json::array();
    for (const auto p : places) out.push_back(columnJson(*set, p));
    print(out, words.json);
}

void section(const Words& words) {
    const auto n = numbers(words.line, "--line", 4);
    if (n.size() % 2 != 0) throw UsageError("--line takes pairs of easting and northing.");
    if (!(words.step > 0)) throw UsageError("--step must be more than 0 m.");
    Polyline2 line;
    for (std::size_t i = 0; i < n.size(); i += 2) line.push_back({n[i], n[i + 1]});
    if (!(lengthOf(line) > 0)) throw UsageError("--line has no length.");
    if (lengthOf(line) / words.step > 1e6)
        throw Error(fmt::format("The section would have {:.0f} places; the limit is 1000000.", lengthOf(line) / words.step));
    const auto set = productsOf(words, Products::Want::Model);
    const auto s = makeSection(*set->model, *set->reading, line, words.step, {}, words.holesWithin);
    json bases = json::object(), holes = json::array();
    for (std::size_t u = 0; u < s.bases.size(); ++u) bases[set->project.sequence->units[u].code] = series(s.bases[u]);
    for (const auto& h : s.holes) holes.push_back({{"id", h.name}, {"chainage", h.chainage}, {"offset", h.offset}});
    print({{"chainage", series(s.chainage)}, {"ground", series(s.ground)}, {"bases", bases}, {"holes", holes}}, words.json);
}

void audit(const Words& words) {
    const auto set = productsOf(words);
    const auto& a = *set->audit;
    json holes = json::array();
    for (const auto& h : a.holes) {
        json contacts = json::array();
        for (const auto& c : h.contacts)
            contacts.push_back({{"unit", set->project.sequence->units[c.unit].code},
                                {"observed", c.observed},
                                {"modelled", number(c.modelled)},
                                {"difference", number(c.difference())}});
        holes.push_back(
            {{"id", h.name}, {"logged_length", h.loggedLength}, {"matched_length", h.matchedLength}, {"contacts", contacts}});
    }
    print({{"matched_fraction", a.matchedFraction},
           {"worst_difference", a.worstDifference},
           {"bounds_broken", a.boundsBroken},
           {"bounds", a.bounds},
           {"holes", holes}},
          words.json);
}

void volumes(const Words& words) {
    const auto set = productsOf(words);
    if (!set->modelGrid) throw Error(fmt::format("{} has no holes or no sequence, so it has no model.", words.file.string()));
    Area outline;
    if (!words.outline.empty()) outline = outlineArea(readVector(words.outline), words.outline.string());
    const auto above = surfaceAbove(words, set->modelGrid->ground);
    const auto v = above ? volumesAbove(*set->modelGrid, *above, outline) : volumesOf(*set->modelGrid, outline);
    std::optional<Ensemble> ensemble;
    if (words.realisations > 0)
        ensemble = simulate(*set->model, set->modelGrid->ground, {words.realisations, 1}, outline, {}, above ? &*above : nullptr);
    json units = json::array();
    for (const auto& u : v.units) {
        units.push_back({{"code", set->project.sequence->units[u.unit].code},
                         {"volume", u.volume},
                         {"area", u.area},
                         {"mean_thickness", u.meanThickness},
                         {"max_thickness", u.maxThickness}});
        if (!ensemble) continue;
        const auto range = rangeOf(u.unit < ensemble->units.size() ? ensemble->units[u.unit].volumes : ensemble->oldestVolumes);
        units.back()["p10"] = number(range.p10), units.back()["p50"] = number(range.p50), units.back()["p90"] = number(range.p90);
    }
    print({{"area", v.area}, {"units", units}}, words.json);
}

} // namespace fox::run
