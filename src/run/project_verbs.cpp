#include "base/errors.h"
#include "formats/raster.h"
#include "handover/build_file.h"
#include "model/where_to_drill.h"
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

std::shared_ptr<const ProductSet> productsOf(const Options& options, const Wanted& wanted) {
    Findings findings;
    const auto project = ProjectStore::read(options.file, findings);
    for (const auto& f : findings) std::cerr << describe(f) << '\n';
    return Products().of(project, {}, wanted);
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
    // of presence; a method without a variance has none, and the oldest unit is below all others
    for (std::size_t u = 0; u < set.project.sequence->units.size(); ++u)
        out["probabilities"][set.project.sequence->units[u].code] = u < c.bases.size() ? number(c.chances[u]) : json(1);
    for (std::size_t u = 0; u <= c.bases.size() && u < set.project.sequence->units.size(); ++u) {
        const double base = c.base(u);
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
std::optional<Grid> surfaceAbove(const Options& options, const Grid& ground) {
    if (options.above) {
        Grid level(ground.frame);
        std::ranges::fill(level.values, *options.above);
        return level;
    }
    if (options.aboveGrid.empty()) return {};
    return onFrame(readRaster(options.aboveGrid).grid, ground.frame);
}

} // namespace

void build(const Options& options) {
    if (options.out.extension() != ".gpkg")
        throw UsageError(fmt::format("{}: a project file ends in .gpkg.", options.out.string()));
    const auto built = buildProject(options.file);
    const auto& points = *built.project.contactPoints;
    const bool contacts = std::ranges::any_of(points, [](const ContactSource& s) { return !s.points.empty(); });
    if (built.project.holes->empty() && !contacts)
        throw Error(
            fmt::format("{} gives no hole and no contact, so there is nothing to make a model of.", options.file.string()));
    const auto set = Products().of(built.project, {}, {ProductKind::AllFindings});
    ProjectStore::create(options.out, built.project);
    json messages = json::array();
    for (const auto& f : *set->findings) {
        if (f.severity == Severity::Note) continue;
        std::cerr << word(f.severity) << ": " << describe(f) << '\n';
        messages.push_back({{"severity", word(f.severity)},
                            {"rule", f.rule},
                            {"file", f.file.empty() ? json(nullptr) : json(f.file)},
                            {"line", f.line > 0 ? json(f.line) : json(nullptr)},
                            {"group", f.group},
                            {"heading", f.heading},
                            {"hole", f.hole.empty() ? json(nullptr) : json(f.hole)},
                            {"message", f.message}});
    }
    json excluded = json::array();
    for (const auto& l : exclusionsOf(*set->findings))
        excluded.push_back({{"hole", l.hole.empty() ? json(nullptr) : json(l.hole)},
                            {"file", l.file.empty() ? json(nullptr) : json(l.file)},
                            {"line", l.line > 0 ? json(l.line) : json(nullptr)},
                            {"reason", l.reason}});
    json chosen = built.chosen.is_null() ? json::object() : built.chosen;
    chosen["surfaces"] = chosenSurfaces(*set);
    print({{"chosen", chosen},
           {"left_out", excluded},
           {"messages", messages},
           {"findings",
            {{"error", count(*set->findings, Severity::Error)},
             {"warning", count(*set->findings, Severity::Warning)},
             {"note", count(*set->findings, Severity::Note)}}}},
          options.json);
}

void column(const Options& options) {
    std::vector<Point2> places;
    for (const auto& at : options.places) {
        const auto n = numbers(at, "--at", 2);
        places.push_back({n[0], n[1]});
    }
    if (!options.at.empty()) {
        const PlacesFile file(options.at, PlacesFile::Unnamed::FirstTwo);
        places.insert(places.end(), file.places().begin(), file.places().end());
    }
    if (places.empty()) throw UsageError("column needs --at E,N or --at-file.");
    const auto set = productsOf(options, {});
    json out = json::array();
    for (const auto p : places) out.push_back(columnJson(*set, p));
    print(out, options.json);
}

void section(const Options& options) {
    const auto n = numbers(options.line, "--line", 4, Count::Least);
    if (n.size() % 2 != 0) throw UsageError("--line takes pairs of easting and northing.");
    if (!(options.step > 0)) throw UsageError("--step must be more than 0 m.");
    Polyline2 line;
    for (std::size_t i = 0; i < n.size(); i += 2) line.push_back({n[i], n[i + 1]});
    if (!(lengthOf(line) > 0)) throw UsageError("--line has no length.");
    if (lengthOf(line) / options.step > 1e6)
        throw Error(fmt::format("The section would have {:.0f} places; the limit is 1000000.", lengthOf(line) / options.step));
    const auto set = productsOf(options, {});
    const auto s = makeSection(*set->model, *set->reading, line, options.step, {}, options.holesWithin);
    json bases = json::object(), holes = json::array();
    for (std::size_t u = 0; u < s.bases.size(); ++u) bases[set->project.sequence->units[u].code] = series(s.bases[u]);
    for (const auto& h : s.holes) holes.push_back({{"id", h.name}, {"chainage", h.chainage}, {"offset", h.offset}});
    print({{"chainage", series(s.chainage)}, {"ground", series(s.ground)}, {"bases", bases}, {"holes", holes}}, options.json);
}

void audit(const Options& options) {
    const auto set = productsOf(options, {ProductKind::Audit});
    const auto& a = *set->audit;
    const auto contactJson = [&](const AuditContact& c) {
        return json{{"unit", set->project.sequence->units[c.unit].code},
                    {"observed", c.observed},
                    {"modelled", number(c.modelled)},
                    {"difference", number(c.difference())}};
    };
    json holes = json::array(), points = json::array();
    for (const auto& p : a.points) {
        points.push_back(contactJson(p.contact));
        points.back().update(
            {{"hole", nullptr}, {"file", p.file}, {"line", p.line}, {"easting", p.place.x}, {"northing", p.place.y}});
    }
    for (const auto& h : a.holes) {
        json contacts = json::array();
        for (const auto& c : h.contacts) contacts.push_back(contactJson(c));
        holes.push_back(
            {{"id", h.name}, {"logged_length", h.loggedLength}, {"matched_length", h.matchedLength}, {"contacts", contacts}});
    }
    print({{"matched_fraction", number(a.matchedFraction)},
           {"worst_difference", a.worstDifference},
           {"bounds_broken", a.boundsBroken},
           {"bounds", a.bounds},
           {"holes", holes},
           {"contacts", points}},
          options.json);
}

void volumes(const Options& options) {
    const auto set = productsOf(options, {ProductKind::Grids});
    if (!set->modelGrid) throw Error(fmt::format("{} has no holes or no sequence, so it has no model.", options.file.string()));
    Area outline;
    if (!options.outline.empty()) outline = outlineArea(readVector(options.outline), options.outline.string());
    const auto above = surfaceAbove(options, set->modelGrid->ground);
    const auto v = above ? volumesAbove(*set->modelGrid, *above, outline) : volumesOf(*set->modelGrid, outline);
    std::optional<Ensemble> ensemble;
    if (options.realisations > 0)
        ensemble =
            simulate(*set->model, set->modelGrid->ground, {options.realisations, 1}, outline, {}, above ? &*above : nullptr);
    json units = json::array();
    for (const auto& u : v.units) {
        units.push_back({{"code", set->project.sequence->units[u.unit].code},
                         {"volume", u.volume},
                         {"area", u.area},
                         {"mean_thickness", u.meanThickness},
                         {"max_thickness", u.maxThickness}});
        if (!ensemble) continue;
        const auto range = rangeOf(u.unit < ensemble->units.size() ? ensemble->units[u.unit].volumes : ensemble->oldestVolumes);
        if (const auto outside = outsideRange(units.back()["code"], u.volume, range)) std::cerr << describe(*outside) << '\n';
        units.back()["p10"] = number(range.p10), units.back()["p50"] = number(range.p50), units.back()["p90"] = number(range.p90);
    }
    print({{"area", v.area}, {"units", units}}, options.json);
}

void drill(const Options& options) {
    const auto colon = options.aim.find(':');
    const auto kind = drillAimNamed(options.aim.substr(0, colon));
    if (!kind || colon == options.aim.npos)
        throw UsageError(fmt::format("\"{}\" is not an aim; give volume:UNIT, base:UNIT or presence:UNIT.", options.aim));
    Polyline2 line;
    if (!options.line.empty()) {
        const auto given = numbers(options.line, "--along", 4, Count::Least);
        if (given.size() % 2 != 0) throw UsageError("--along needs an easting and a northing for each point.");
        for (std::size_t i = 0; i < given.size(); i += 2) line.push_back({given[i], given[i + 1]});
    }
    const auto set = productsOf(options, {ProductKind::Grids});
    if (!set->modelGrid) throw Error(fmt::format("{} has no holes or no sequence, so it has no model.", options.file.string()));
    const auto code = options.aim.substr(colon + 1);
    const auto unit = set->project.sequence->index(code);
    if (!unit) throw Error(fmt::format("{} has no unit {}.", options.file.string(), code));
    DrillAim aim{*kind, *unit, {}};
    if (!options.outline.empty()) aim.area = outlineArea(readVector(options.outline), options.outline.string());
    DrillSettings settings;
    if (options.realisations > 0) settings.ensemble.count = options.realisations;
    settings.depth = options.depth;
    const auto& frame = set->modelGrid->ground.frame;
    const auto places = line.empty() ? drillCandidates(frame.box()) : drillCandidates(line);
    json out = json::array();
    for (const auto& p : whereToDrill(*set->model, frame, aim, places, settings))
        out.push_back({{"easting", p.place.x}, {"northing", p.place.y}, {"gain", p.gain}});
    print(out, options.json);
}

} // namespace fox::run
