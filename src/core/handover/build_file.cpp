#include "handover/build_file.h"

#include "base/errors.h"
#include "base/files.h"
#include "base/text.h"
#include "formats/crs.h"
#include "importing/ground_import.h"
#include "importing/import.h"
#include "project/contact_edits.h"
#include "project/edits.h"
#include "project/interval_edits.h"
#include "project/json.h"
#include "project/site_edits.h"

#include <fmt/format.h>

namespace fox {

using nlohmann::json;

namespace {

std::vector<std::string> namesIn(const std::string& list) {
    std::vector<std::string> out;
    if (list.empty()) return out;
    for (const auto name : split(list, ',')) out.emplace_back(trimmed(name));
    return out;
}

class Builder {
public:
    Builder(const std::filesystem::path& file, const Progress& progress) : m_folder(file.parent_path()), m_progress(progress) {
        const auto bytes = readBytes(file);
        try {
            m_json = json::parse(bytes);
        } catch (const json::exception& e) { // also a number that is too large
            throw FileError(fmt::format("{} is not valid JSON: {}.", file.string(), e.what()));
        }
        if (m_json.value("format", "") != "fox-cellar-build")
            throw FileError(fmt::format("{} is not a build file: its \"format\" is not \"fox-cellar-build\".", file.string()));
        if (m_json.value("version", 0) != 1)
            throw FileError(fmt::format("{} has a version that this Fox Cellar does not know; it knows 1.", file.string()));
        if (!m_json.contains("holes")) throw FileError(fmt::format("{} has no \"holes\".", file.string()));
    }

    Built build() {
        auto& p = m_out.project;
        p.name = m_json.value("name", "Project");
        Site site;
        if (const std::string crs = m_json.value("crs", ""); !crs.empty()) {
            const auto known = projectedSystem(crs);
            if (!known) throw FileError(fmt::format("The build file's \"crs\", {}, is not a projected coordinate system.", crs));
            site.crs = *known;
        }
        if (m_json.contains("frame")) site.frame = frameOf(m_json["frame"]);
        p.site = part(site);
        addHoleFiles();
        addGround();
        setSequence();
        addContactPoints();
        addValuePoints();
        addInterpretation();
        addSections();
        addWaterSurfaces();
        addLayers();
        if (m_json.contains("name")) p.name = m_json["name"];
        if (!m_json.contains("frame"))
            if (const auto frame = frameOf(p)) m_out.chosen["frame"] = toJson(*frame);
        return std::move(m_out);
    }

private:
    void addLayers() {
        std::vector<LayerSpec> grids;
        std::vector<MeshSpec> meshes;
        for (const auto& j : m_json.value("layered_grids", json::array())) grids.push_back(layerSpecOf(j.dump(), m_folder));
        for (const auto& j : m_json.value("meshes", json::array())) meshes.push_back(meshSpecOf(j.dump(), m_folder));
        std::vector<BlockSpec> blocks;
        for (const auto& j : m_json.value("blocks", json::array())) blocks.push_back(blockSpecOf(j.dump(), m_folder));
        std::vector<ExcavationSpec> digs;
        for (const auto& j : m_json.value("excavations", json::array())) digs.push_back(excavationSpecOf(j.dump(), m_folder));
        m_out.project.excavations = part(std::move(digs));
        m_out.project.blockModels = part(std::move(blocks));
        m_out.project.layeredGrids = part(std::move(grids));
        m_out.project.meshes = part(std::move(meshes));
    }

    std::filesystem::path pathOf(const json& entry) const { return m_folder / entry.at("file").get<std::string>(); }

    void addHoleFiles() {
        for (const auto& entry : m_json["holes"]) {
            const auto path = pathOf(entry);
            const auto u = readSource({path.filename().string(), "", readBytes(path), 0, {}, settingsOf(entry), path.string()},
                                      m_out.project.site->crs, {}, m_progress);
            if (u.survey) throw Error(fmt::format("{} holds survey points, not holes.", path.string()));
            if (!u.partial)
                for (const auto& change : changesBy(m_out.project, u))
                    if (!change.joins && (change.kind == HoleChange::Kind::Same || change.kind == HoleChange::Kind::Changed))
                        throw Error(
                            fmt::format("{}: hole {} of project {} is in an earlier file already; give the files different "
                                        "project ids or leave one out.",
                                        path.string(), change.hole, u.project));
            // well logs and sheets add to holes that are there; AGS files are whole
            m_out.project =
                importSource(m_out.project, u,
                             {u.partial ? ImportChoices::Existing::Update : ImportChoices::Existing::Leave, false, ""})
                    .project;
        }
        auto holes = *m_out.project.holes; // of the same id in two projects neither came first
        holes.changeEach([](Hole& h) { h.name.clear(); });
        giveNames(holes);
        m_out.project.holes = part(std::move(holes));
    }

    void addGround() {
        const json ground = m_json.value("ground", json::object());
        const auto each = [&](const char* key, const std::function<void(const json&)>& use) {
            const json entries = ground.value(key, json::array());
            for (const auto& entry : entries) use(entry);
        };
        each("points", [&](const json& entry) {
            auto settings = settingsOf(entry.contains("columns") && entry["columns"].is_string() ? withColumns(entry) : entry);
            settings.as = SourceSettings::As::SurveyPoints;
            add(entry, settings);
        });
        each("breaklines", [&](const json& entry) { addLines(entry, LineRole::Breaklines); });
        each("contours", [&](const json& entry) { addLines(entry, LineRole::Contours); });
        each("rasters", [&](const json& entry) { add(entry, settingsOf(entry)); });
        each("outlines", [&](const json& entry) { addLines(entry, LineRole::Outlines); });
        if (ground.contains("limit")) {
            const auto path = pathOf(ground["limit"]);
            auto limit = firstOutline(readVector(path), path.string());
            m_out.project =
                setSiteLimitFrom(m_out.project,
                                 GroundSources::Outline{"site limit", "", std::move(limit.ring), {}, std::move(limit.holes)})
                    .project;
        }
        auto sources = *m_out.project.ground;
        sources.holeLevels = ground.value("hole_levels", true);
        sources.codesOut = ground.value("codes_out", sources.codesOut);
        sources.codesJoined = ground.value("codes_joined", sources.codesJoined);
        sources.blend = ground.value("blend", sources.blend);
        sources.reach = ground.value("reach", sources.reach);
        sources.longestEdge = ground.value("longest_edge", sources.longestEdge);
        m_out.project.ground = part(std::move(sources));
        if (!ground.contains("hole_levels")) m_out.chosen["hole_levels"] = true;
    }

    /// "point,northing,easting,level,code" as a list.
    static json withColumns(json entry) {
        entry["columns"] = namesIn(entry["columns"].get<std::string>());
        return entry;
    }

    ImportPreview add(const json& entry, const SourceSettings& settings) {
        const auto path = pathOf(entry);
        SourceFile file{path.filename().string(), "", {}, 0, {}, settings, path.string()};
        if (!std::filesystem::exists(path)) (void)readBytes(path); // says that it is missing
        loadBytes(file);
        auto u = readSource(std::move(file), SiteContext(m_out.project), {}, m_progress);
        m_out.project = importSource(m_out.project, u).project;
        return u;
    }

    void addLines(const json& entry, LineRole role) {
        auto settings = settingsOf(entry);
        settings.role = role;
        const auto u = add(entry, settings);
        if (u.lines && role != LineRole::Outlines && u.lines->lines.empty())
            throw FileError(fmt::format("{} has no lines{}.", pathOf(entry).string(),
                                        role == LineRole::Contours && u.lines->verticesRead > 0 ? " with a level" : ""));
    }

    void setSequence() {
        auto& p = m_out.project;
        auto sequence = *p.sequence; // as proposed from the holes
        const auto headings = unitHeadings(*p.holes);
        if (m_json.contains("unit_heading")) {
            sequence.unitHeading = m_json["unit_heading"];
            if (std::ranges::none_of(headings, [&](const auto& h) { return h.heading == sequence.unitHeading; }))
                throw Error(fmt::format("No interval has a code in {}; \"unit_heading\" should name a filled column.",
                                        sequence.unitHeading));
        } else {
            sequence.unitHeading = headings.empty() ? "" : headings.front().heading;
            m_out.chosen["unit_heading"] = sequence.unitHeading;
        }
        const json aliases = m_json.value("unit_aliases", json::object()); // named: a temporary would be gone in the loop
        for (const auto& [from, to] : aliases.items()) sequence.aliases[from] = to;
        if (m_json.contains("sequence")) {
            sequence.units.clear();
            sequence.ownValues = ownValuesOf(m_json["sequence"]);
            for (const auto& u : m_json["sequence"]) sequence.units.push_back(unitOf(u, sequence));
        } else {
            json codes = json::array();
            for (const auto& u : sequence.units) codes.push_back(u.code);
            m_out.chosen["sequence"] = codes;
        }
        const json surfaces = m_json.value("surfaces", json::object());
        SurfaceRecipe automatic;
        automatic.automatic = true;
        const auto standard = recipeOf(surfaces.value("default", json::object()), automatic);
        for (const auto& [code, recipe] : surfaces.items())
            if (code != "default" && !sequence.index(code))
                throw Error(fmt::format("\"surfaces\" names {}, which is not a unit of the sequence.", code));
        for (auto& u : sequence.units) u.recipe = recipeOf(surfaces.value(u.code, json::object()), standard);
        p.sequence = part(std::move(sequence));
    }

    Unit unitOf(const json& j, const Sequence& before) const {
        Unit u;
        u.code = j.at("code");
        if (before.index(u.code)) throw Error(fmt::format("The code {} stands twice in \"sequence\".", u.code));
        const auto named = m_out.project.codeNames->find(u.code);
        u.name = j.value("name", named == m_out.project.codeNames->end() ? u.code : named->second);
        u.colour = j.value("colour", proposedColour(u.name, before.units));
        const std::string rule = j.value("base", "cuts");
        if (rule != "cuts" && rule != "laps")
            throw UsageError(fmt::format("The base of {} is \"{}\"; it can be \"cuts\" or \"laps\".", u.code, rule));
        u.base = rule == "cuts" ? BaseRule::Cuts : BaseRule::Laps;
        u.logged = j.value("logged", std::vector<std::string>{});
        readDetails(u, j);
        if (j.contains("outline") && j["outline"].is_object()) {
            const auto path = pathOf(j["outline"]);
            u.outlines = {firstOutline(readVector(path), path.string())};
        }
        for (const auto& outline : j.value("outlines", json::array()))
            if (outline.contains("file"))
                u.outlines.push_back(firstOutline(readVector(pathOf(outline)), pathOf(outline).string()));
        return u;
    }

    void addInterpretation() {
        Interpretation own;
        const auto known = [&](const std::string& code) {
            if (!m_out.project.sequence->index(code)) throw Error(fmt::format("There is no unit {} in the sequence.", code));
            return code;
        };
        for (const auto& j : m_json.value("faults", json::array())) {
            UnitFault f{{j.at("name"), {}}, ""};
            if (j.contains("youngest")) f.youngest = known(j["youngest"]);
            for (const std::string code : j.value("units", json::array())) f.units.push_back(known(code));
            for (const auto& p : j.at("line")) f.fault.line.push_back({p.at(0), p.at(1)});
            if (f.fault.line.size() < 2) throw Error(fmt::format("The fault {} needs two places.", f.fault.name));
            own.faults.push_back(std::move(f));
        }
        for (const auto& j : m_json.value("guides", json::array())) {
            Guide g{known(j.at("unit")), {}};
            for (const auto& p : j.at("line")) g.line.push_back({p.at(0), p.at(1), p.at(2)});
            own.guides.push_back(std::move(g));
        }
        for (const auto& j : m_json.value("intervals", json::array()))
            own.intervals.push_back(
                {j.at("hole"), Depth{j.at("top")}, Depth{j.at("base")}, j.value("unit", "").empty() ? "" : known(j.at("unit"))});
        m_out.project.interpretation = part(std::move(own));
        addSplits();
        own = *m_out.project.interpretation;
        for (const auto& j : m_json.value("presence_points", json::array()))
            own.presence.push_back({known(j.at("unit")), {{j.at("at").at(0), j.at("at").at(1)}}, j.value("present", true)});
        for (const auto& j : m_json.value("presence_areas", json::array())) {
            PresenceMark mark{known(j.at("unit")), {}, j.value("present", true)};
            for (const auto& p : j.at("ring")) mark.area.push_back({p.at(0), p.at(1)});
            if (mark.area.size() < 3) throw Error(fmt::format("An area of presence of {} needs three corners.", mark.unit));
            own.presence.push_back(std::move(mark));
        }
        for (const auto& j : m_json.value("picks", json::array()))
            own.picks.push_back({j.at("hole"), known(j.at("unit")), Depth{j.at("depth")}});
        for (const auto& j : m_json.value("contacts", json::array())) {
            const auto kind = contactChoiceNamed(j.at("kind").get<std::string>());
            if (!kind)
                throw UsageError(
                    fmt::format("\"{}\" is not a kind of contact; there are reached, at-or-below, at-or-above, left-out.",
                                j["kind"].get<std::string>()));
            own.contacts.push_back({j.at("hole"), known(j.at("unit")), *kind});
        }
        m_out.project.interpretation = part(std::move(own));
    }

    void addSplits() {
        const auto unit = [](const json& j, const char* key) {
            return j.contains(key) ? std::optional(j[key].get<std::string>()) : std::nullopt;
        };
        for (const auto& j : m_json.value("splits", json::array()))
            m_out.project =
                splitInterval(m_out.project, j.at("hole"), Depth{j.at("depth")}, unit(j, "above"), unit(j, "below")).project;
    }

    /// @throws Error listing every fault of a file, because what is named here is meant to be used
    void addContactPoints() {
        for (const auto& entry : m_json.value("contacts_from", json::array())) {
            auto settings = settingsOf(entry.contains("columns") && entry["columns"].is_string() ? withColumns(entry) : entry);
            settings.as = SourceSettings::As::Contacts;
            if (const std::string surface = entry.value("surface", "base"); !contactSurface(surface))
                throw UsageError(fmt::format("\"surface\" is \"{}\"; it can be \"base\" or \"top\".", surface));
            const auto u = add(entry, settings);
            if (!u.contacts) throw FileError(fmt::format("{} has no contacts.", pathOf(entry).string()));
            if (const double accuracy = entry.value("accuracy", 0.0); accuracy != 0)
                m_out.project = setContactsAccuracy(m_out.project, m_out.project.contactPoints->back().file, accuracy).project;
            auto wrong = u.contacts->findings;
            const auto placed = placedContacts(*m_out.project.contactPoints, *m_out.project.holes, *m_out.project.sequence);
            wrong.insert(wrong.end(), placed.findings.begin(), placed.findings.end());
            refuseErrors(std::move(wrong));
        }
    }

    /// @throws Error that lists them, if there are any
    static void refuseErrors(Findings findings) {
        std::erase_if(findings, [](const Finding& f) { return f.severity != Severity::Error; });
        if (findings.empty()) return;
        std::vector<std::string> lines;
        for (const auto& f : listed(std::move(findings))) lines.push_back(describe(f));
        throw Error(fmt::format("{}", fmt::join(lines, "\n")));
    }

    void addValuePoints() {
        for (const auto& entry : m_json.value("values_from", json::array())) {
            auto settings = settingsOf(entry.contains("columns") && entry["columns"].is_string() ? withColumns(entry) : entry);
            settings.as = SourceSettings::As::Values;
            const auto u = add(entry, settings);
            if (!u.values) throw FileError(fmt::format("{} has no values.", pathOf(entry).string()));
            refuseErrors(u.values->findings);
        }
    }

    void addWaterSurfaces() {
        std::vector<WaterSurface> surfaces;
        for (const auto& j : m_json.value("water_surfaces", json::array())) surfaces.push_back(waterSurfaceOf(j));
        for (const auto& s : surfaces)
            if (!s.unit.empty() && !m_out.project.sequence->index(s.unit))
                throw Error(
                    fmt::format("The water surface {} is of the unit {}, which the sequence does not have.", s.name, s.unit));
        m_out.project.waterSurfaces = part(std::move(surfaces));
        std::vector<ReportEntry> sheets;
        for (const auto& j : m_json.value("sheets", json::array())) sheets.push_back(reportEntryOf(j.dump()));
        m_out.project.sheets = part(std::move(sheets));
        if (m_json.contains("report")) m_out.project.report = part(reportChoicesOf(m_json["report"]));
        if (m_json.contains("shown_water")) m_out.project.shownWater = part(waterChoiceOf(m_json["shown_water"]));
    }

    void addSections() {
        std::vector<SectionLine> sections;
        for (const auto& j : m_json.value("sections", json::array())) {
            SectionLine s{j.at("name"), {}, j.value("holes_within", kSectionHoles)};
            for (const auto& p : j.at("line")) s.line.push_back({p.at(0), p.at(1)});
            sections.push_back(std::move(s));
        }
        m_out.project.sections = part(std::move(sections));
    }

    std::filesystem::path m_folder;
    const Progress& m_progress;
    json m_json;
    Built m_out;
};

} // namespace

Built buildProject(const std::filesystem::path& file, const Progress& progress) {
    try {
        return Builder(file, progress).build();
    } catch (const json::exception& e) {
        throw FileError(fmt::format("{}: {}.", file.string(), e.what()));
    }
}

std::vector<Exclusion> exclusionsOf(const Findings& findings) {
    // the rules whose findings say that something is not used
    static const std::set<std::string> kRules{"FC-PLACE", "FC-LEVEL",       "FC-UPSIDE-DOWN", "FC-ORDER",
                                              "FC-CODE",  "FC-BOUND",       "FC-OUTSIDE",     "FC-DEPTH",
                                              "FC-PATH",  "FC-OFF-TERRAIN", "FC-SURVEY",      "FC-NO-LEVEL"};
    std::vector<Exclusion> out;
    for (const auto& f : findings)
        if (kRules.contains(f.rule)) out.push_back({f.hole, f.file, f.line, f.message});
    return out;
}

json chosenSurfaces(const ProductSet& set) {
    json out = json::object();
    for (std::size_t i = 0; i < set.model->bases.size(); ++i) {
        const auto& b = *set.model->bases[i];
        json j{{"method", b.isAutomatic() ? methodName({}) : name(b.fit.settings.method)},
               {"from", name(b.reference)},
               {"contacts", b.contacts},
               {"bounds", b.bounds},
               {"left_out_rmse", number(b.leaveOneOut.rmse)}};
        if (b.isAutomatic())
            for (const auto& part : b.automatic->parts())
                j["average"].push_back(
                    {{"of", name(part.kind)}, {"weight", part.weight}, {"range", part.range}, {"deviation", part.deviation}});
        if (b.fit.settings.variogram) {
            const auto& v = *b.fit.settings.variogram;
            j["variogram"] = {
                {"model", name(v.model)}, {"nugget", v.nugget}, {"partial_sill", v.partialSill}, {"range", v.range}};
        }
        out[set.project.sequence->units[i].code] = std::move(j);
    }
    return out;
}

} // namespace fox
