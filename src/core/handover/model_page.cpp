#include "handover/model_page.h"

#include "base/errors.h"
#include "formats/web_text.h"
#include "handover/model_ranges.h"
#include "handover/model_scene.h"
#include "handover/page_files.h"
#include "handover/sheet_files.h"
#include "paper/render.h"
#include "project/json.h"
#include "sheets/section_drawing.h"

namespace fox {

using nlohmann::json;

namespace {

constexpr double kTolerance = 0.02; // metres, to begin with
constexpr int kRealisations = EnsembleSettings{}.count;
constexpr double kDots = 100; // of pictures, per inch
constexpr double kExaggeration = 5;

json unitsJson(const ProductSet& set, const Progress& progress) {
    const auto ensemble = modelRanges(set, kRealisations, progress.silent()).ensemble;
    json out = json::array();
    const auto& units = set.project.sequence->units;
    for (std::size_t u = 0; u < units.size(); ++u) {
        json unit{{"code", units[u].code}, {"name", units[u].name}, {"colour", units[u].colour},
                  {"volume", nullptr},     {"p10", nullptr},        {"p90", nullptr}};
        unit["body"] = false;
        for (const auto& v : set.volumes->units) {
            if (v.unit != u) continue;
            unit["volume"] = v.volume, unit["body"] = v.volume > 0;
            const auto& values = u < ensemble.units.size() ? ensemble.units[u].volumes : ensemble.oldestVolumes;
            const auto range = values.empty() ? Range{} : rangeOf(values);
            unit["p10"] = number(range.p10), unit["p90"] = number(range.p90);
        }
        out.push_back(std::move(unit));
    }
    return out;
}

json holesJson(const ProductSet& set) {
    const auto& holes = *set.project.holes;
    const auto names = displayNames(holes);
    std::vector<const InterpretedHole*> read(holes.size(), nullptr);
    for (const auto& r : set.reading->holes) read[r.index] = &r;
    json out = json::array();
    for (std::size_t i = 0; i < holes.size(); ++i) {
        const auto place = holes[i].place();
        if (!place || !holes[i].level) continue;
        json intervals = json::array();
        for (const auto& interval : read[i] ? read[i]->logged() : holes[i].intervals) {
            if (!interval.usable()) continue;
            json unit;
            if (const auto u = read[i] ? unitOf(*read[i], interval) : std::nullopt) unit = set.project.sequence->units[*u].code;
            intervals.push_back({{"top", interval.top.metres},
                                 {"base", interval.base.metres},
                                 {"unit", unit},
                                 {"description", interval.description}});
        }
        out.push_back({{"name", names[i]},
                       {"type", typeInWords(holes[i].type)},
                       {"easting", place->x},
                       {"northing", place->y},
                       {"level", holes[i].level->metres},
                       {"depth", holes[i].end().metres},
                       {"intervals", intervals}});
    }
    return out;
}

json picturesJson(const ProductSet& set, const std::string& date, const Progress& progress) {
    json out = json::array();
    const auto add = [&](const std::string& name, const paper::Drawing& drawing) {
        progress.check();
        out.push_back({{"name", name}, {"source", "data:image/png;base64," + base64(paper::toPng(drawing, kDots))}});
    };
    for (const auto& page : fillSheet(sheetTemplate("geological map"), "", set, date).pages) add("Geological map", page);
    for (std::size_t i = 0; i < set.sections.size(); ++i)
        if (set.sections[i] && !set.sections[i]->chainage.empty()) {
            const auto& name = (*set.project.sections)[i].name;
            add("Section " + name, sectionSheet(*set.sections[i], *set.project.sequence, name, kExaggeration));
        }
    return out;
}

json aboutJson(const ProductSet& set, const ReducedModel& reduced) {
    json out = json::array();
    const auto& p = set.project;
    out.push_back(fmt::format("The model \"{}\" was made from {} holes in {} files.", p.name, p.holes->size(), p.files->size()));
    for (const auto& f : *p.files) out.push_back(fmt::format("File {}, {}.", f.name, f.format));
    out.push_back(fmt::format("Bodies on this page are simplified: no surface lies more than {:.2f} m off the model, at any of "
                              "its cells of {} m. Volumes are those of the model itself.",
                              reduced.largestError, set.modelGrid->ground.frame.cell));
    out.push_back(fmt::format("P10 and P90 are of {} equally likely models that all agree with the holes.", kRealisations));
    if (std::isnan(set.modelGrid->floor))
        out.push_back(
            fmt::format("The base of the oldest unit, {}, is not known; it has no body.", p.sequence->units.back().name));
    if (set.audit && !std::isnan(set.audit->matchedFraction))
        out.push_back(
            fmt::format("The model has the logged unit over {:.1f} % of the length logged.", 100 * set.audit->matchedFraction));
    if (!p.corrections->empty()) out.push_back(fmt::format("{} values of the files were corrected.", p.corrections->size()));
    return out;
}

json factsJson(const ProductSet& set, const ReducedModel& reduced, const std::string& date, const Progress& progress) {
    const auto origin = localOrigin(set);
    json out{{"date", date}, {"crs", set.project.site->crs}, {"origin", {origin.x, origin.y}}};
    out["units"] = unitsJson(set, progress);
    progress.report(0.5, "pictures for the page");
    out["holes"] = holesJson(set);
    out["pictures"] = picturesJson(set, date, progress);
    out["about"] = aboutJson(set, reduced);
    out["sections"] = json::array(), out["findings"] = json::array();
    for (const auto& s : *set.project.sections) {
        json line = json::array();
        for (const auto& p : s.line) line.push_back({p.x, p.y});
        if (s.line.size() > 1) out["sections"].push_back({{"name", s.name}, {"line", line}});
    }
    for (const auto& f : *set.findings)
        out["findings"].push_back({{"kind", word(f.severity)}, {"hole", f.hole}, {"words", f.message}});
    return out;
}

/// JSON that can stand in a page: nothing in it ends the element or begins another.
std::string inPage(const json& value) {
    std::string out;
    for (const char c : value.dump(-1, ' ', false, json::error_handler_t::replace)) {
        if (c == '<')
            out += "\\u003c";
        else
            out += c;
    }
    return out;
}

} // namespace

Wanted wantedForPage() {
    using enum ProductKind;
    return {Grids, Pictures, WaterSurfaces, Contours, Sections, AllFindings, Audit};
}

std::string modelPage(const ProductSet& set, const std::string& date, const Progress& progress) {
    if (!set.modelGrid || set.modelGrid->bases.empty())
        throw Error("There is no model to export: the project has no ground, or no sequence, yet.");
    progress.report(0, "bodies for the page");
    const bool isLarge = cellsOf(set.modelGrid->ground.frame) > kLargePageCells;
    const auto reduced = reduceModel(*set.modelGrid, kTolerance, isLarge ? kLargePageTriangles : kPageTriangles);
    progress.report(0.2, "ranges for the page");
    const std::map<std::string, std::string, std::less<>> parts{{"TITLE", xmlText(set.project.name)},
                                                                {"CSS", std::string(pageCss())},
                                                                {"FACTS", inPage(factsJson(set, reduced, date, progress))},
                                                                {"SCENE", base64(glbOf(sceneOf(set, &reduced)))},
                                                                {"THREE", std::string(threeJs())},
                                                                {"CONTROLS", std::string(threeControls())},
                                                                {"LOADER", std::string(threeLoader())},
                                                                {"SCRIPT", std::string(pageScript())}};
    std::string out;
    for (auto rest = pageHtml(); !rest.empty();) {
        const auto begin = rest.find('@'), end = begin == rest.npos ? rest.npos : rest.find('@', begin + 1);
        if (end == rest.npos) {
            out += rest;
            break;
        }
        out += rest.substr(0, begin);
        out += parts.at(std::string(rest.substr(begin + 1, end - begin - 1)));
        rest.remove_prefix(end + 1);
    }
    return out;
}

} // namespace fox
