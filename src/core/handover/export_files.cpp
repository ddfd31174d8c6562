#include "handover/export_files.h"

#include "handover/contact_layer.h"
#include "handover/line_layers.h"

#include "base/errors.h"
#include "base/files.h"
#include "base/text.h"
#include "formats/cell_file.h"
#include "formats/raster.h"
#include "formats/table.h"
#include "formats/vector.h"
#include "ground/tin_files.h"
#include "handover/ags_export.h"
#include "handover/everything.h"
#include "handover/file_word.h"
#include "handover/hole_layer.h"
#include "handover/ifc_model.h"
#include "handover/interpretation_csv.h"
#include "handover/model_layers.h"
#include "handover/model_page.h"
#include "handover/model_report.h"
#include "handover/model_scene.h"
#include "handover/section_files.h"
#include "handover/value_layer.h"
#include "holes/water_levels.h"
#include "model/solids.h"
#include "paper/render.h"
#include "sequence/test_values.h"
#include "sheets/log_drawing.h"
#include "sheets/section_drawing.h"

#include <ctime>
#include <fmt/chrono.h>
#include <set>

namespace fox {

namespace {

Grid difference(const Grid& a, const Grid& b) {
    Grid out(a.frame);
    for (std::size_t i = 0; i < out.values.size(); ++i) out.values[i] = a.values[i] - b.values[i];
    return out;
}

/// Holes whose intervals carry the unit that they are read as.
Holes interpreted(const ProductSet& set) {
    Holes out = *set.project.holes;
    const auto& sequence = *set.project.sequence;
    for (const auto& read : set.reading->holes) {
        auto& hole = out.change(read.index);
        hole.intervals = std::vector(read.logged());
        for (auto& i : hole.intervals)
            if (const auto unit = unitOf(read, i)) i.codes[sequence.unitHeading] = sequence.units[*unit].code;
    }
    return out;
}

std::string trialColumnsCsv(const ProductSet& set) {
    std::string out = "name,easting,northing,unit,top,base,thickness,sd\n";
    const auto& units = set.project.sequence->units;
    for (const auto& trial : *set.project.trialColumns) {
        const auto column = set.model->columnAt(trial.place, true);
        for (std::size_t u = 0; u <= column.bases.size() && u < units.size(); ++u) {
            const double top = column.top(u), base = u < column.bases.size() ? column.bases[u] : kNoValue;
            if (std::isnan(top) || top - base == 0) continue;
            const auto cell = [](double v) { return std::isfinite(v) ? fmt::format("{:.3f}", v) : std::string(); };
            out += fmt::format("{},{:.3f},{:.3f},{},{},{},{},{}\n", tableCell(trial.name), trial.place.x, trial.place.y,
                               tableCell(units[u].code), cell(top), cell(base), cell(top - base),
                               u < column.bases.size() ? cell(column.deviations[u]) : "");
        }
    }
    return out;
}

/// Writes what one call asks for.
class Exporter {
public:
    Exporter(const ProductSet& set, std::string as, std::filesystem::path folder, const ExportOptions& options)
        : m_set(set),
          m_as(std::move(as)),
          m_folder(std::move(folder)),
          m_options(options),
          m_ending(m_as == "landxml" ? ".xml" : "." + m_as),
          m_units(set.project.sequence->units),
          m_crs(set.project.site->crs) {}

    ReplaceFiles take() { return std::move(m_outputs); }

    void ground() {
        if (isTriangleEnding("x" + m_ending))
            return add("ground", [&](const auto& to) { writeTin(to, m_set.terrain->tin, "ground", m_set.project.site->crs); });
        if (m_options.frame && m_set.terrain)
            addGrid("ground", m_set.terrain->sampled(*m_options.frame));
        else if (m_set.ground)
            addGrid("ground", *m_set.ground);
        needSome("The project has no ground yet.");
    }

    void contours() {
        if (!m_set.contours || m_set.contours->empty())
            throw Error("There are no contours to export: the project has no ground yet.");
        add("contours", [&](const auto& to) {
            writeVector(to, {contourLayer(*m_set.contours, "contours", m_set.project, m_set.contourInterval)});
        });
    }

    void baseContours() {
        eachBase([&](std::size_t u, const ModelGrid& grid) {
            const double interval = contourInterval(grid.bases[u]);
            auto lines = contoursOf(grid.bases[u], interval);
            if (lines.empty()) return;
            auto layer = contourLayer(lines, "base_" + m_units[u].code, m_set.project, interval);
            add("contours_base_" + m_units[u].code, [layer = std::move(layer)](const auto& to) { writeVector(to, {layer}); });
        });
        needSome("The project has no model yet.");
    }

    void bases() {
        eachBase([&](std::size_t u, const ModelGrid& grid) { addGrid("base_" + m_units[u].code, grid.bases[u]); });
        needSome("The project has no model yet.");
    }
    void tops() {
        eachBase([&](std::size_t u, const ModelGrid& grid) { addGrid("top_" + m_units[u].code, grid.top(u)); }, true);
        needSome("The project has no model yet.");
    }
    void thickness() {
        eachBase([&](std::size_t u, const ModelGrid& grid) {
            addGrid("thickness_" + m_units[u].code, difference(grid.top(u), grid.bases[u]));
        });
        needSome("The project has no model yet.");
    }

    void holes() {
        if (m_as == "gpkg")
            return add("holes", [&](const auto& to) { writeVector(to, {holeLayer(*m_set.project.holes, m_crs)}); });
        if (m_as == "dxf") {
            const auto sticks = holeSticks(m_set);
            if (sticks.empty()) throw Error("There are no holes with a position, a level and a log to export.");
            return add("holes", [&](const auto& to) { writeVector(to, sticks); });
        }
        const auto files = agsFilesOf(m_set.project);
        if (files.empty()) throw Error("There are no holes to export.");
        for (const auto& file : files) m_outputs.add(m_folder / file.first, [&](const auto& to) { writeBytes(to, file.second); });
    }

    void allHoles() {
        if (m_set.project.holes->empty()) throw Error("There are no holes to export.");
        add("all_holes", [&](const auto& to) { writeBytes(to, agsOf(*m_set.project.holes, m_set.project)); });
    }

    /// Results of tests and their statistics by unit, a file each; readings of curves and soundings are too many for that.
    void tests() {
        const auto& p = m_set.project;
        std::string values, statistics;
        const auto append = [](std::string& to, const std::string& table) {
            to += to.empty() ? table : table.substr(table.find('\n') + 1); // one header is enough
        };
        for (const auto& q : testQuantities(*p.holes)) {
            if (isContinuous(q)) continue;
            const auto of = testValues(q, *p.holes, *m_set.reading);
            append(values, testValuesCsv(q, of, *p.holes, *p.sequence));
            append(statistics, statisticsCsv(q, statisticsByUnit(of), *p.sequence));
        }
        if (values.empty()) throw Error("There are no results of tests to export.");
        add("test_values", [&, values](const auto& to) { writeBytes(to, values); });
        add("test_statistics", [&, statistics](const auto& to) { writeBytes(to, statistics); });
    }

    bool isContinuous(const TestQuantity& q) const {
        for (const auto& h : *m_set.project.holes)
            for (const auto& c : h.curves)
                if (!c.single && c.name == q.name && c.unit == q.unit) return true;
        return false;
    }

    void water() {
        const auto& holes = *m_set.project.holes;
        if (std::ranges::all_of(holes, [](const Hole& h) { return h.waterLevels.empty(); }))
            throw Error("There are no readings of water to export.");
        add("water_levels", [&](const auto& to) { writeBytes(to, waterCsv(holes)); });
    }

    void waterSurfaces() {
        for (std::size_t i = 0; i < m_set.waterSurfaces.size(); ++i) {
            const auto& made = *m_set.waterSurfaces[i];
            const auto& name = (*m_set.project.waterSurfaces)[i].name;
            if (m_as == "csv") {
                add(name + "_points",
                    [&](const auto& to) { writeBytes(to, waterPointsCsv(*made.fitted, *m_set.project.sequence)); });
            } else if (made.levels) {
                addGrid(name, *made.levels);
                addGrid(name + "_depth", *made.depths);
            }
        }
        needSome("There is no water surface yet; add one on the Model stage.");
    }

    void waterContours() {
        for (std::size_t i = 0; i < m_set.waterSurfaces.size(); ++i)
            if (const auto& made = *m_set.waterSurfaces[i]; made.levels)
                add((*m_set.project.waterSurfaces)[i].name + "_contours", [&, i](const auto& to) {
                    writeVector(
                        to, {contourLayer(made.contours, (*m_set.project.waterSurfaces)[i].name, m_set.project, made.interval)});
                });
        needSome("There is no water surface yet; add one on the Model stage.");
    }

    void interpretation() {
        if (m_set.reading->holes.empty())
            throw Error("There is no interpretation to export: the project has no logged holes yet.");
        add("interpretation", [&](const auto& to) {
            writeBytes(to, m_as == "csv" ? interpretationCsv(m_set) : agsOf(interpreted(m_set), m_set.project));
        });
    }

    void sections() {
        for (std::size_t i = 0; i < m_set.sections.size(); ++i) {
            const auto& s = *m_set.sections[i];
            const auto& name = (*m_set.project.sections)[i].name;
            const auto& sequence = *m_set.project.sequence;
            add("section_" + name, [&](const auto& to) {
                if (m_as == "csv") return writeBytes(to, sectionCsv(s, sequence));
                if (isSheetEnding()) return writeSheet(to, sectionSheet(s, sequence, name, m_options.exaggeration));
                writeVector(to, m_as == "dxf" ? sectionInItsPlane(s, sequence) : sectionLayers(s, sequence, name, m_crs));
            });
        }
        needSome("There is no section line yet; draw one on the plan.");
    }

    void logs() {
        const auto& holes = *m_set.project.holes;
        const auto names = displayNames(holes);
        for (std::size_t i = 0; i < holes.size(); ++i) {
            const auto& h = holes[i];
            if (h.intervals.empty() && h.curves.empty()) continue;
            LogContent content{&h, nullptr, m_set.project.sequence.get(), names[i], {}};
            content.water = *m_set.project.shownWater;
            for (const auto& read : m_set.reading->holes)
                if (read.index == i) content.reading = &read;
            if (const auto path = HolePath::of(h); path && !m_set.model->bases.empty())
                content.model = modelAlong(*m_set.model, *path, h.end().metres);
            add("log_" + names[i], [&](const auto& to) { writeSheet(to, logSheet(content, m_set.project.name)); });
        }
        needSome("No hole has a log yet.");
    }

    void model() {
        needModel();
        if (m_as == "vtu") return cells();
        if (m_as == "glb") {
            const auto look = m_options.patterns ? SceneLook::Patterns : SceneLook::Colours;
            return add("model", [&](const auto& to) { writeBytes(to, glbOf(sceneOf(m_set, nullptr, look))); });
        }
        if (m_as == "ifc") return add("model", [&](const auto& to) { writeBytes(to, ifcOf(m_set, time())); });
        if (m_as == "html") return add("model", [&](const auto& to) { writeBytes(to, modelPage(m_set, time().substr(0, 10))); });
        for (std::size_t u = 0; u < m_set.modelGrid->unitsWithBase(); ++u) {
            auto mesh = solidOf(*m_set.modelGrid, u, m_units[u].code);
            if (mesh.triangles.empty()) continue;
            add("model_" + m_units[u].code,
                [mesh = std::move(mesh)](const auto& to) { writeTriangleMesh(to, mesh, Coordinates::Full); });
        }
        needSome("No unit of the model has a volume.");
    }

    void contacts() {
        if (std::ranges::all_of(m_set.contacts, [](const auto& ofUnit) { return ofUnit->empty(); }))
            throw Error(
                "There are no contacts to export: no hole says where a unit ends, and no table of contacts was imported.");
        add("contacts",
            [&](const auto& to) { m_as == "csv" ? writeBytes(to, contactsCsv(m_set)) : writeVector(to, {contactLayer(m_set)}); });
    }

    void values() {
        const auto& project = m_set.project;
        if (project.valuePoints->empty()) throw Error("There are no values at points in space to export.");
        add("values",
            [&](const auto& to) { m_as == "csv" ? writeBytes(to, valuesCsv(project)) : writeVector(to, {valueLayer(project)}); });
    }

    void lines() {
        const auto layers = lineLayers(m_set);
        if (layers.empty()) throw Error("There are no lines and no areas to export, and no extent yet.");
        add("lines", [&](const auto& to) { writeVector(to, layers); });
    }

    void map() {
        needModel();
        add("map", [&](const auto& to) { writeVector(to, {mapLayer(m_set, m_options.map)}); });
    }

    void report() {
        ReportOptions options;
        options.date = time().substr(0, 10);
        const auto document = modelReport(m_set, options);
        add("report", [&](const auto& to) {
            writeBytes(to, m_as == "json" ? documentJson(document).dump(1) : reportPdf(document, m_set, options.date));
        });
    }

    void everything() {
        add("all", [&](const auto& to) { writeEverything(to, m_set); });
    }

    void trialColumns() {
        if (m_set.project.trialColumns->empty()) throw Error("There is no predicted log yet; make one with a click on the plan.");
        needModel();
        add("trial_columns", [&](const auto& to) { writeBytes(to, trialColumnsCsv(m_set)); });
    }

private:
    template <typename Write>
    void add(const std::string& name, const Write& write) {
        // two names can come to the same file: the second is numbered
        auto file = fileWord(name);
        for (int n = 2; !m_taken.insert(lower(file)).second; ++n) file = fmt::format("{}_{}", fileWord(name), n);
        m_outputs.add(m_folder / (file + m_ending), write);
    }

    bool isSheetEnding() const { return m_as == "pdf" || m_as == "svg" || m_as == "png"; }
    void writeSheet(const std::filesystem::path& to, const paper::Drawing& sheet) const {
        if (m_as == "dxf") return writeVector(to, paper::toLayers(sheet));
        writeBytes(to, m_as == "pdf" ? paper::toPdf({&sheet, 1}) : m_as == "svg" ? paper::toSvg(sheet) : paper::toPng(sheet));
    }

    void addGrid(const std::string& name, const Grid& grid) {
        add(name, [&](const auto& to) {
            if (isTriangleEnding("x" + m_ending)) return writeTriangleMesh(to, surfaceMesh(grid, name));
            if (m_as == "xyz") return writeBytes(to, xyzText(grid, m_options.xyz));
            writeRaster(to, grid, m_crs);
        });
        if (const auto text = m_as == "asc" ? projectionText(m_crs) : ""; !text.empty())
            m_outputs.add(m_outputs.targets().back().replace_extension(".prj"), [&](const auto& to) { writeBytes(to, text); });
    }

    /// Each unit with a base, and the model on the frame on which it is to be written.
    template <typename Use>
    void eachBase(const Use& use, bool withOldest = false) {
        if (!m_set.modelGrid) return;
        const auto count = m_set.modelGrid->bases.size() + (withOldest ? 1 : 0);
        std::optional<ModelGrid> asked;
        if (m_options.frame) asked = sampleModel(*m_set.model, *m_options.frame);
        for (std::size_t u = 0; u < std::min(count, m_units.size()); ++u) {
            const auto& own = m_units[u].recipe.grid;
            asked ? use(u, *asked) : own ? use(u, sampleModel(*m_set.model, *own)) : use(u, *m_set.modelGrid);
        }
    }

    std::string time() const {
        return m_options.time.empty() ? fmt::format("{:%Y-%m-%dT%H:%M:%S}", fmt::localtime(std::time(nullptr))) : m_options.time;
    }

    void cells() {
        const auto block = cellsOf(*m_set.modelGrid);
        if (block.cells.empty()) throw Error("No unit of the model has a volume.");
        std::vector<std::string> names;
        for (const auto& u : m_units) names.push_back(u.code);
        std::vector<std::pair<std::string, std::vector<double>>> values{{"thickness", block.thickness}};
        for (const auto& kind : m_set.project.sequence->valueKinds()) {
            if (std::ranges::none_of(m_units, [&](const Unit& u) { return u.values.contains(kind.key); })) continue;
            values.emplace_back(kind.key, std::vector<double>());
            for (const int u : block.unit) {
                const auto& of = m_units[std::size_t(u)].values;
                const auto at = of.find(kind.key);
                values.back().second.push_back(at == of.end() ? kNoValue : at->second);
            }
        }
        add("model", [&](const auto& to) { writeCellFile(to, block.nodes, block.cells, block.unit, names, values); });
    }

    void needModel() const {
        if (!m_set.modelGrid || m_set.modelGrid->bases.empty())
            throw Error("There is no model to export: the project has no ground, or no sequence, yet.");
    }
    void needSome(const char* why) const {
        if (m_outputs.targets().empty()) throw Error(fmt::format("There is nothing to export. {}", why));
    }

    const ProductSet& m_set;
    std::string m_as;
    std::filesystem::path m_folder;
    const ExportOptions& m_options;
    std::string m_ending;
    const std::vector<Unit>& m_units;
    std::string m_crs;
    ReplaceFiles m_outputs;
    std::set<std::string> m_taken;
};

const std::vector<std::string> kSurfaces{"tif", "asc", "xyz", "gpkg", "landxml", "dxf", "obj", "ply"};

const std::vector<std::string> kWaterSurfaces{"tif", "asc", "xyz", "gpkg", "landxml", "dxf", "obj", "ply", "csv"};

struct Kind {
    ExportKind kind;
    void (Exporter::*write)();
};

const std::vector<Kind>& kinds() {
    using enum ProductKind;
    static const std::vector<Kind> kKinds{
        {{"ground", "Ground", kSurfaces, {Grids}}, &Exporter::ground},
        {{"contours", "Contours of the ground", {"gpkg", "dxf"}, {Contours}}, &Exporter::contours},
        {{"bases", "Bases of units", kSurfaces, {Grids}}, &Exporter::bases},
        {{"base-contours", "Contours of the bases", {"gpkg", "dxf"}, {Grids}}, &Exporter::baseContours},
        {{"tops", "Tops of units", kSurfaces, {Grids}}, &Exporter::tops},
        {{"thickness", "Thicknesses of units", kSurfaces, {Grids}}, &Exporter::thickness},
        {{"model",
          "Model: a body a unit, cells, or a page for any browser",
          {"obj", "ply", "vtu", "glb", "ifc", "html"},
          {Grids}},
         &Exporter::model},
        {{"sections", "Sections", {"pdf", "svg", "png", "dxf", "gpkg", "csv"}, {Sections}}, &Exporter::sections},
        {{"logs", "Logs of holes", {"pdf", "svg", "png", "dxf"}, {}}, &Exporter::logs},
        {{"map", "Geological map", {"gpkg"}, {Grids}}, &Exporter::map},
        {{"holes", "Holes", {"ags", "gpkg", "dxf"}, {}}, &Exporter::holes},
        {{"report", "Report of the model", {"pdf", "json"}, wantedForReport()}, &Exporter::report},
        {{"all", "Everything in one GeoPackage", {"gpkg"}, {Grids, Contours, Sections, WaterSurfaces}}, &Exporter::everything},
        {{"all-holes", "Holes, all in one AGS 4.1 file", {"ags"}, {}}, &Exporter::allHoles},
        {{"tests", "Test results, with statistics by unit", {"csv"}, {}}, &Exporter::tests},
        {{"water", "Readings of water", {"csv"}, {}}, &Exporter::water},
        {{"water-surfaces", "Water surfaces: levels and depths below ground, or their points", kWaterSurfaces, {WaterSurfaces}},
         &Exporter::waterSurfaces},
        {{"water-contours", "Contours of water surfaces", {"gpkg", "dxf"}, {WaterSurfaces}}, &Exporter::waterContours},
        {{"lines", "Extent, outlines, section lines, faults", {"gpkg", "dxf"}, {}}, &Exporter::lines},
        {{"contacts", "Contacts, of holes and from elsewhere", {"csv", "gpkg"}, {}}, &Exporter::contacts},
        {{"values", "Values at points in space", {"csv", "gpkg"}, {}}, &Exporter::values},
        {{"interpretation", "Unit assignment", {"csv", "ags"}, {}}, &Exporter::interpretation},
        {{"trial-columns", "Predicted logs", {"csv"}, {Grids}}, &Exporter::trialColumns}};
    return kKinds;
}

} // namespace

Wanted ExportKind::neededAs(const std::string& file) const {
    auto out = needs;
    if (file == "glb" || file == "ifc") out.add({ProductKind::Pictures, ProductKind::WaterSurfaces});
    if (file == "html") out.add(wantedForPage());
    return out;
}

const std::vector<ExportKind>& exportKinds() {
    static const auto kKinds = [] {
        std::vector<ExportKind> out;
        for (const auto& k : kinds()) out.push_back(k.kind);
        return out;
    }();
    return kKinds;
}

ReplaceFiles prepareExport(const ProductSet& set, const std::string& what, const std::string& as,
                           const std::filesystem::path& folder, const ExportOptions& options) {
    const auto kind = std::ranges::find(kinds(), what, [](const Kind& k) { return std::string_view(k.kind.what); });
    if (kind == kinds().end() || !std::ranges::count(kind->kind.as, as))
        throw Error(fmt::format("{} can't be exported as {}; nothing was written.", what, as));
    std::error_code code;
    std::filesystem::create_directories(folder, code);
    Exporter exporter(set, as, folder, options);
    (exporter.*kind->write)();
    return exporter.take();
}

std::vector<std::filesystem::path> exportFiles(const ProductSet& set, const std::string& what, const std::string& as,
                                               const std::filesystem::path& folder, const ExportOptions& options) {
    auto files = prepareExport(set, what, as, folder, options);
    files.commit();
    return files.targets();
}

} // namespace fox
