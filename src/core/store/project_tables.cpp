#include "store/project_tables.h"

#include "base/errors.h"
#include "base/limits.h"
#include "base/text.h"
#include "formats/crs.h"
#include "project/json.h"
#include "store/geopackage.h"
#include "store/ground_tables.h"
#include "store/interpretation_tables.h"
#include "store/row_reader.h"
#include "store/surface_tables.h"
#include "store/value_tables.h"

#include <climits>
#include <fmt/format.h>

namespace fox::project_tables {

namespace {

using geopackage::Geometry;
using nlohmann::json;
using SQLite::Database;
using SQLite::Statement;
using namespace geopackage; // its statement helpers

/// A setting as JSON; what can't be read is a fault, and as if it were not there.
json settingOf(Database& db, RowFaults& faults, const std::string& key, const char* otherwise) {
    auto j = json::parse(setting(db, key, otherwise), nullptr, false);
    if (!j.is_discarded()) return j;
    faults.add("settings", 0, fmt::format("\"{}\" is not valid JSON; it is left out", key));
    return json::parse(otherwise);
}

/// Reads with `read`; what it throws is a fault, and the value stays as it is made.
template <typename T, typename Read>
T orDefault(RowFaults& faults, const char* what, Read&& read) {
    try {
        return read();
    } catch (const std::exception& e) {
        faults.add("settings", 0, fmt::format("{} can't be read: {}", what, e.what()));
        return T{};
    }
}

// --- sections, files, sequence, site

void writeSections(Database& db, const std::vector<SectionLine>& sections, int system) {
    auto reaches = json::object();
    for (const auto& section : sections) reaches[section.name] = section.reach;
    setSetting(db, "section_reaches", reaches.dump());
    db.exec("DELETE FROM section_lines;");
    Statement s(db, "INSERT INTO section_lines (geom, name) VALUES (?,?)");
    Box2 extent;
    for (const auto& section : sections) {
        for (const auto& p : section.line) extent.include(p);
        bindBlob(s, 1, geopackage::blob(raised(section.line), Geometry::Line, false, system));
        s.bind(2, section.name);
        again(s);
    }
    geopackage::describe(db, "section_lines", system, extent);
}

std::vector<SectionLine> readSections(Database& db, RowFaults& faults) {
    std::vector<SectionLine> out;
    const auto reaches = settingOf(db, faults, "section_reaches", "{}");
    UniqueNames names;
    RowReader r(db, faults, "section_lines", {"name"}, limits::kSources);
    while (r.next()) {
        const auto shape = r.shape();
        if (!shape) continue;
        for (const auto& line : shape->lines) {
            if (lengthOf(planOf(line)) <= 0) {
                r.fault("the section line has no length; it is skipped");
                continue;
            }
            SectionLine section{names.take(r, r.text(0), "section "), planOf(line)};
            r.tryTo("how far its holes may stand", [&] {
                const double reach = reaches.value(section.name, kSectionHoles);
                if (reach >= 0 && reach <= limits::kLevel) section.reach = reach;
            });
            out.push_back(std::move(section));
        }
    }
    return out;
}

void writeFile(Statement& s, const SourceFile& f) {
    s.bind(1, f.name);
    s.bind(2, f.format);
    s.bind(3, f.holes);
    s.bind(4, std::int64_t(f.bytes.text->size()));
    const auto bytes = packed(*f.bytes);
    bindBlob(s, 5, bytes);
    json findings = json::array();
    for (const auto& finding : f.findings) findings.push_back(toJson(finding));
    s.bind(6, findings.dump());
    again(s);
}

/// Files that were saved before are not packed and written again.
void writeFiles(Database& db, const std::vector<SourceFile>& files, const std::vector<SourceFile>* before) {
    const auto unchanged = [&](const SourceFile& f) {
        return before && std::ranges::any_of(*before, [&](const SourceFile& b) {
                   return b.name == f.name && b.bytes.text == f.bytes.text && b.holes == f.holes && b.format == f.format
                          && b.findings == f.findings;
               });
    };
    Statement remove(db, "DELETE FROM source_files WHERE name = ?");
    if (!before) db.exec("DELETE FROM source_files;");
    if (before)
        for (const auto& b : *before)
            if (std::ranges::none_of(files, [&](const SourceFile& f) { return f.name == b.name && unchanged(f); })) {
                remove.bind(1, b.name);
                again(remove);
            }
    Statement s(db, "INSERT INTO source_files (name, format, holes, size, bytes, findings) VALUES (?,?,?,?,?,?)");
    for (const auto& f : files)
        if (!unchanged(f)) writeFile(s, f);
    db.exec("DELETE FROM source_settings;");
    Statement settings(db, "INSERT INTO source_settings (source_file, path, settings) VALUES (?,?,?)");
    for (const auto& f : files) {
        settings.bind(1, f.name);
        settings.bind(2, f.path);
        settings.bind(3, toJson(f.settings).dump());
        again(settings);
    }
}

std::vector<SourceFile> readFiles(Database& db, RowFaults& faults) {
    std::vector<SourceFile> out;
    std::map<std::string, std::size_t> byStored; // the name as it is written, to find its settings
    UniqueNames names;
    RowReader r(db, faults, "source_files", {"name", "format", "holes", "size", "bytes", "findings"}, limits::kSources);
    while (r.next()) {
        const auto stored = r.text(0), name = safeFileName(stored);
        if (name != stored) r.fault(fmt::format("the file's name is not one of a file alone; it is called {}", name));
        SourceFile f{
            names.take(r, name, "file "), r.text(1), {}, int(std::clamp<std::int64_t>(r.integer(2).value_or(0), 0, INT_MAX)), {}};
        r.tryTo("the kept file", [&] {
            const auto size = r.integer(3).value_or(0);
            if (size < 0 || std::size_t(size) > limits::kKeptFile) throw Error("its size can't be");
            f.bytes = unpacked(r.bytes(4), std::size_t(size));
        });
        if (const auto findings = r.parsed(5))
            r.tryTo("its findings", [&] {
                for (const auto& j : *findings) f.findings.push_back(findingOf(j));
            });
        byStored.emplace(stored, out.size());
        out.push_back(std::move(f));
    }
    // a file that changed was written anew, at the end; the table of settings has their order
    std::vector<std::size_t> order;
    RowReader settings(db, faults, "source_settings", {"source_file", "path", "settings"}, limits::kSources,
                       RowReader::Missing::Fine);
    while (settings.next()) {
        const auto at = byStored.find(settings.text(0));
        if (at == byStored.end() || std::ranges::count(order, at->second)) continue;
        out[at->second].path = settings.text(1);
        if (const auto j = settings.parsed(2))
            settings.tryTo("how it is to be read", [&] { out[at->second].settings = settingsOf(*j); });
        order.push_back(at->second);
    }
    for (std::size_t i = 0; i < out.size(); ++i)
        if (!std::ranges::count(order, i)) order.push_back(i);
    std::vector<SourceFile> ordered;
    for (const auto i : order) ordered.push_back(std::move(out[i]));
    return ordered;
}

void writeCorrections(Database& db, const std::vector<Correction>& corrections) {
    db.exec("DELETE FROM corrections;");
    Statement s(db, "INSERT INTO corrections (source_file, source_line, source_group, heading, hole, before, after, why) VALUES "
                    "(?,?,?,?,?,?,?,?)");
    for (const auto& c : corrections) {
        s.bind(1, c.file);
        s.bind(2, c.line);
        s.bind(3, c.group);
        s.bind(4, c.heading);
        s.bind(5, c.hole);
        s.bind(6, c.before);
        s.bind(7, c.after);
        s.bind(8, c.why);
        again(s);
    }
}

std::vector<Correction> readCorrections(Database& db, RowFaults& faults) {
    std::vector<Correction> out;
    RowReader r(db, faults, "corrections",
                {"source_file", "source_line", "source_group", "heading", "hole", "before", "after", "why"}, limits::kRows,
                RowReader::Missing::Fine);
    while (r.next())
        out.push_back({safeFileName(r.text(0)), int(std::clamp<std::int64_t>(r.integer(1).value_or(0), 0, INT_MAX)), r.text(2),
                       r.text(3), r.text(4), r.text(5), r.text(6), r.text(7)});
    return out;
}

void writeSequence(Database& db, const Sequence& sequence) {
    db.exec("DELETE FROM units;");
    Statement s(db, "INSERT INTO units (code, name, colour, base, logged, recipe) VALUES (?,?,?,?,?,?)");
    for (const auto& u : sequence.units) {
        s.bind(1, u.code);
        s.bind(2, u.name);
        s.bind(3, u.colour);
        s.bind(4, u.base == BaseRule::Cuts ? "cuts" : "laps");
        s.bind(5, json(u.logged).dump());
        s.bind(6, toJson(u.recipe).dump());
        again(s);
    }
    auto details = json::object();
    for (const auto& u : sequence.units) details[u.code] = detailsOf(u);
    setSetting(db, "unit_details", details.dump());
    auto kinds = json::array();
    for (const auto& k : sequence.ownValues) kinds.push_back({{"key", k.key}, {"words", k.words}, {"unit", k.unit}});
    setSetting(db, "unit_value_kinds", kinds.dump());
    setSetting(db, "unit_heading", sequence.unitHeading);
    setSetting(db, "unit_aliases", json(sequence.aliases).dump());
}

Sequence readSequence(Database& db, RowFaults& faults) {
    Sequence out;
    const auto details = settingOf(db, faults, "unit_details", "{}");
    const auto signs = settingOf(db, faults, "unit_signs", "{}"); // schemas before 5 had no more than these
    RowReader r(db, faults, "units", {"code", "name", "colour", "base", "logged", "recipe"}, limits::kUnits);
    while (r.next()) {
        Unit u;
        u.code = r.text(0);
        if (u.code.empty() || out.index(u.code)) {
            r.fault(u.code.empty() ? "the unit has no code; it is skipped"
                                   : "there is a unit " + u.code + " already; this one is skipped");
            continue;
        }
        u.name = r.text(1).empty() ? u.code : r.text(1);
        u.colour = r.text(2);
        if (!u.colour.empty() && !isColour(u.colour)) u.colour = proposedColour(u.name, out.units);
        u.base = r.text(3) == "laps" ? BaseRule::Laps : BaseRule::Cuts;
        if (const auto j = r.parsed(4)) r.tryTo("what it is logged as", [&] { u.logged = j->get<std::vector<std::string>>(); });
        if (const auto j = r.parsed(5)) r.tryTo("how its base is made", [&] { u.recipe = recipeOf(*j); });
        r.tryTo("its details", [&] {
            u.hatch = signs.value(u.code, "");
            if (details.contains(u.code)) readDetails(u, details.at(u.code));
        });
        out.units.push_back(std::move(u));
    }
    out.ownValues = orDefault<std::vector<UnitValueKind>>(faults, "the kinds of values of units", [&] {
        std::vector<UnitValueKind> kinds;
        const auto list = settingOf(db, faults, "unit_value_kinds", "[]");
        for (const auto& k : list) kinds.push_back({k.at("key"), k.at("words"), k.at("unit")});
        return kinds;
    });
    out.unitHeading = setting(db, "unit_heading", "");
    out.aliases = orDefault<std::map<std::string, std::string>>(faults, "the spellings of codes", [&] {
        return settingOf(db, faults, "unit_aliases", "{}").get<std::map<std::string, std::string>>();
    });
    return out;
}

void writeSite(Database& db, const Site& site) {
    setSetting(db, "crs", site.crs);
    setSetting(db, "frame", site.frame ? toJson(*site.frame).dump() : "");
}

Site readSite(Database& db, RowFaults& faults) {
    Site site;
    const auto crs = setting(db, "crs", "");
    if (!crs.empty()) {
        const auto known = projectedSystem(crs);
        if (!known) faults.add("settings", 0, fmt::format("the coordinate system \"{}\" is not known; none is set", toUtf8(crs)));
        site.crs = known.value_or("");
    }
    const auto written = setting(db, "frame", "");
    if (written.empty()) return site;
    try {
        auto frame = json::parse(written).get<json>();
        Frame f{frame.at("xmin"), frame.at("ymin"), frame.at("xmax"), frame.at("ymax"), frame.at("cell")};
        const double most = std::max({std::abs(f.xmin), std::abs(f.xmax), std::abs(f.ymin), std::abs(f.ymax)});
        if (!(most <= limits::kCoordinate)) throw Error("it is not on earth");
        if (const double cells = cellsOf(f); f.cell > 0 && cells > limits::kSiteCells) {
            const double was = f.cell;
            f.cell = coarserCell(f, limits::kSiteCells);
            faults.add(
                "settings", 0,
                fmt::format("the site's grid would have {:.0f} cells of {:g} m, more than {:.0f}; its cells are {:g} m now",
                            cells, was, limits::kSiteCells, f.cell));
        }
        site.frame = frameOf(toJson(f));
    } catch (const std::exception& e) {
        faults.add("settings", 0, fmt::format("the site's extent can't be read: {}; it is taken from what there is", e.what()));
    }
    return site;
}

void writeWaterSurfaces(Database& db, const std::vector<WaterSurface>& surfaces) {
    auto list = json::array();
    for (const auto& s : surfaces) list.push_back(toJson(s));
    setSetting(db, "water_surfaces", list.dump());
}

std::vector<WaterSurface> readWaterSurfaces(Database& db, RowFaults& faults) {
    std::vector<WaterSurface> out;
    for (const auto& j : settingOf(db, faults, "water_surfaces", "[]")) try {
            auto surface = waterSurfaceOf(j);
            if (std::ranges::count(out, surface.name, &WaterSurface::name)) throw Error("there is another one of that name");
            out.push_back(std::move(surface));
        } catch (const std::exception& e) {
            faults.add("settings", 0, fmt::format("a water surface can't be read: {}; it is left out", e.what()));
        }
    return out;
}

/// Specifications under a key of the settings, each as its own JSON.
template <typename Spec>
void writeSpecs(Database& db, const char* key, const std::vector<Spec>& specs) {
    auto list = json::array();
    for (const auto& s : specs) list.push_back(json::parse(toJson(s)));
    setSetting(db, key, list.dump());
}

template <typename Spec>
std::vector<Spec> readSpecs(Database& db, RowFaults& faults, const char* key, const char* what,
                            Spec (*read)(std::string_view, const std::filesystem::path&)) {
    std::vector<Spec> out;
    for (const auto& j : settingOf(db, faults, key, "[]")) try {
            auto spec = read(j.dump(), {});
            if (spec.name.empty() || std::ranges::count(out, spec.name, &Spec::name))
                throw Error("there is another one of that name");
            out.push_back(std::move(spec));
        } catch (const std::exception& e) {
            faults.add("settings", 0, fmt::format("a {} can't be read: {}; it is left out", what, e.what()));
        }
    return out;
}

void writeHoleSets(Database& db, const std::vector<HoleSet>& sets) {
    auto list = json::array();
    for (const auto& s : sets) list.push_back({{"name", s.name}, {"holes", s.holes}});
    setSetting(db, "hole_sets", list.dump());
}

std::vector<HoleSet> readHoleSets(Database& db, RowFaults& faults) {
    std::vector<HoleSet> out;
    for (const auto& j : settingOf(db, faults, "hole_sets", "[]")) try {
            HoleSet set{j.at("name"), j.at("holes")};
            if (set.name.empty() || std::ranges::count(out, set.name, &HoleSet::name))
                throw Error("there is another one of that name");
            out.push_back(std::move(set));
        } catch (const std::exception& e) {
            faults.add("settings", 0, fmt::format("a set of holes can't be read: {}; it is left out", e.what()));
        }
    return out;
}

} // namespace

Read read(Database& db, RowFaults& faults) {
    Read out;
    auto& p = out.project;
    p.name = toUtf8(setting(db, "name", "Project"));
    auto site = readSite(db, faults);
    p.files = part(readFiles(db, faults));
    out.holes = hole_tables::read(db, faults);
    p.holes = part(out.holes.holes);
    p.corrections = part(readCorrections(db, faults));
    p.codeNames = part(orDefault<std::map<std::string, std::string>>(faults, "the names of codes", [&] {
        return settingOf(db, faults, "code_names", "{}").get<std::map<std::string, std::string>>();
    }));
    p.ground = part(ground_tables::read(db, faults, site.limit));
    p.site = part(std::move(site));
    p.contours = part(orDefault<ContourChoices>(faults, "how contours are drawn",
                                                [&] { return ground_tables::contoursOf(setting(db, "contours", "{}")); }));
    p.pictures = part(orDefault<std::vector<PlacedPicture>>(
        faults, "the placed pictures", [&] { return ground_tables::picturesOf(setting(db, "pictures", "[]")); }));
    p.sequence = part(readSequence(db, faults));
    p.interpretation = part(interpretation_tables::read(db, faults));
    p.background = part(ground_tables::readBackground(db, faults));
    p.contactPoints = part(interpretation_tables::readContactPoints(db, faults));
    p.valuePoints = part(value_tables::read(db, faults));
    p.fixedBases = part(interpretation_tables::readFixed(db, faults));
    p.sections = part(readSections(db, faults));
    p.trialColumns = part(interpretation_tables::readTrials(db, faults));
    p.report = part(orDefault<ReportChoices>(faults, "the choices of the report",
                                             [&] { return reportChoicesOf(settingOf(db, faults, "report", "{}")); }));
    p.shownWater = part(orDefault<WaterChoice>(faults, "which levels of water are shown",
                                               [&] { return waterChoiceOf(settingOf(db, faults, "shown_water", "{}")); }));
    p.waterSurfaces = part(readWaterSurfaces(db, faults));
    p.namedSurfaces = part(surface_tables::read(db, faults));
    p.layeredGrids = part(readSpecs(db, faults, "layered_grids", "layered grid", layerSpecOf));
    p.blockModels = part(readSpecs(db, faults, "block_models", "block model", blockSpecOf));
    p.excavations = part(readSpecs(db, faults, "excavations", "excavation", excavationSpecOf));
    p.meshes = part(readSpecs(db, faults, "meshes", "mesh", meshSpecOf));
    p.sheets = part(readSpecs(db, faults, "sheets", "sheet of the report", reportEntryOf));
    p.holeSets = part(readHoleSets(db, faults));
    return out;
}

std::vector<std::int64_t> write(Database& db, const Project& p, const Project* before, const hole_tables::StoredHoles* holes,
                                const std::set<std::string>& whole) {
    const bool newSystem = !before || before->site->crs != p.site->crs;
    const int system = geopackage::registerSystem(db, p.site->crs);
    // a part is written if it is not that of before, or one of its tables was recreated
    const auto changed = [&](auto Project::*member, std::initializer_list<const char*> tables) {
        return !before || before->*member != p.*member
               || std::ranges::any_of(tables, [&](const char* t) { return whole.contains(t); });
    };
    if (!before || before->name != p.name || whole.contains("settings")) setSetting(db, "name", p.name);
    if (changed(&Project::site, {"settings"})) writeSite(db, *p.site);
    if (changed(&Project::files, {"source_files", "source_settings"}))
        writeFiles(db, *p.files, before && !whole.contains("source_files") ? before->files.get() : nullptr);
    std::vector<std::int64_t> rows = holes ? holes->rows : std::vector<std::int64_t>{};
    constexpr const char* kHoleTables[] = {"holes",   "intervals",     "path_stations", "blow_counts",   "details",
                                           "samples", "water_strikes", "water_levels",  "installations", "core_runs",
                                           "curves",  "soundings",     "holes_left_out"};
    const bool allHoles = newSystem || std::ranges::any_of(kHoleTables, [&](const char* t) { return whole.contains(t); });
    if (allHoles || before->holes != p.holes) rows = hole_tables::write(db, *p.holes, allHoles ? nullptr : holes, system);
    if (changed(&Project::corrections, {"corrections"})) writeCorrections(db, *p.corrections);
    if (changed(&Project::codeNames, {"settings"})) setSetting(db, "code_names", json(*p.codeNames).dump());
    const bool allGround = newSystem || whole.contains("ground_points") || whole.contains("ground_lines")
                           || whole.contains("ground_grids") || whole.contains("settings");
    if (allGround || before->ground != p.ground)
        ground_tables::write(db, *p.ground, allGround ? nullptr : before->ground.get(), system);
    if (newSystem || changed(&Project::ground, {"outlines"}) || before->site != p.site)
        ground_tables::writeOutlines(db, p.site->limit, p.ground->outlines, system);
    if (changed(&Project::contours, {"settings"})) setSetting(db, "contours", ground_tables::text(*p.contours));
    if (changed(&Project::pictures, {"settings"})) setSetting(db, "pictures", ground_tables::text(*p.pictures));
    if (changed(&Project::sequence, {"units", "settings"})) writeSequence(db, *p.sequence);
    if (newSystem
        || changed(&Project::interpretation,
                   {"contact_choices", "interval_choices", "interval_splits", "picks", "guides", "presence_marks", "faults"}))
        interpretation_tables::write(db, *p.interpretation, system);
    if (newSystem || changed(&Project::background, {"background_lines"}))
        ground_tables::writeBackground(db, *p.background, system);
    if (newSystem || changed(&Project::contactPoints, {"contact_points"}))
        interpretation_tables::writeContactPoints(db, *p.contactPoints, system);
    if (newSystem || changed(&Project::valuePoints, {"value_points"})) value_tables::write(db, *p.valuePoints, system);
    if (changed(&Project::fixedBases, {"fixed_bases"})) interpretation_tables::writeFixed(db, *p.fixedBases);
    if (newSystem || changed(&Project::sections, {"section_lines", "settings"})) writeSections(db, *p.sections, system);
    if (newSystem || changed(&Project::trialColumns, {"trial_columns"}))
        interpretation_tables::writeTrials(db, *p.trialColumns, system);
    if (changed(&Project::shownWater, {"settings"})) setSetting(db, "shown_water", toJson(*p.shownWater).dump());
    if (changed(&Project::waterSurfaces, {"settings"})) writeWaterSurfaces(db, *p.waterSurfaces);
    if (changed(&Project::namedSurfaces, {"named_surfaces"})) surface_tables::write(db, *p.namedSurfaces);
    if (changed(&Project::layeredGrids, {"settings"})) writeSpecs(db, "layered_grids", *p.layeredGrids);
    if (changed(&Project::blockModels, {"settings"})) writeSpecs(db, "block_models", *p.blockModels);
    if (changed(&Project::excavations, {"settings"})) writeSpecs(db, "excavations", *p.excavations);
    if (changed(&Project::meshes, {"settings"})) writeSpecs(db, "meshes", *p.meshes);
    if (changed(&Project::sheets, {"settings"})) writeSpecs(db, "sheets", *p.sheets);
    if (changed(&Project::holeSets, {"settings"})) writeHoleSets(db, *p.holeSets);
    if (changed(&Project::report, {"settings"})) setSetting(db, "report", toJson(*p.report).dump());
    return rows;
}

} // namespace fox::project_tables
