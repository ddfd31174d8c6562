#include "products/layer_product.h"

#include "base/errors.h"
#include "base/files.h"
#include "base/text.h"
#include "formats/raster.h"
#include "formats/table.h"
#include "ground/survey.h"
#include "products/model_product.h"
#include "products/named_surface_product.h"
#include "products/water_product.h"
#include "surfaces/grid_surface.h"

#include <fmt/format.h>
#include <numeric>

namespace fox {

namespace {

template <typename T>
const T& named(const std::vector<T>& all, const std::string& name, const char* what) {
    if (const auto at = std::ranges::find(all, name, &T::name); at != all.end()) return *at;
    std::vector<std::string> names;
    for (const auto& one : all) names.push_back(one.name);
    throw Error(fmt::format("The project has no {} \"{}\"; it has {}.", what, name,
                            names.empty() ? "none" : fmt::format("{}", fmt::join(names, ", "))));
}

/// The points of a table, with the numbers of one of its columns; the logarithms of these where that is asked for.
std::vector<Point3> pointsWith(const FieldSource& source, Findings& findings) {
    const auto table = readTable(readBytes(source.name), source.name);
    const auto columns = surveyColumns(table);
    if (!columns.easting || !columns.northing)
        throw FileError(fmt::format("{} has no columns of eastings and northings; its columns are: {}.", source.name,
                                    fmt::join(table.columns, ", ")));
    const auto value = source.column.empty() ? columns.level : table.column(source.column);
    if (!value)
        throw FileError(fmt::format("{} has no column {}; its columns are: {}.", source.name,
                                    source.column.empty() ? "of levels" : source.column, fmt::join(table.columns, ", ")));
    std::vector<Point3> out;
    for (std::size_t r = 0; r < table.rows.size(); ++r) {
        const auto x = table.number(r, *columns.easting), y = table.number(r, *columns.northing), v = table.number(r, *value);
        Finding finding{Severity::Warning, "FC-LAYERS", source.name, table.rows[r].line, "", "", "", ""};
        if (!x || !y || !v) {
            if (table.cell(r, *value).empty()) continue; // nothing was measured there
            finding.message = "This row has no number where one is needed; it is left out.";
        } else if (source.logarithmic && !(*v > 0)) {
            finding.message = fmt::format("{:g} has no logarithm; the row is left out.", *v);
        } else {
            out.push_back({*x, *y, source.logarithmic ? std::log(*v) : *v});
            continue;
        }
        findings.push_back(finding);
    }
    if (out.empty()) throw FileError(fmt::format("{} has no point with a number in {}.", source.name, table.columns[*value]));
    return out;
}

std::vector<std::string> filesOf(const LayerSpec& spec) {
    auto out = sourceFiles(spec.top, spec.layers, spec.values);
    if (!spec.areaFile.empty()) out.push_back(spec.areaFile);
    return out;
}

LayerInputs inputsOf(const Making& making, const LayerSpec& spec, Findings& findings) {
    LayerInputs in;
    in.model = modelProduct(making);
    if (!in.model || in.model->sequence->units.empty() || making.project.holes->empty())
        throw Error("The project has no holes or no sequence, so it has no model to part into layers.");
    in.spec = spec;
    in.area = areaOf(spec.areaFile, spec.areaRing);
    in.top = fieldOf(making, spec.top, findings);
    for (const auto& layer : spec.layers) in.bottoms.push_back(layer.bottom ? fieldOf(making, *layer.bottom, findings) : Field{});
    for (const auto& [key, source] : spec.values) in.values[key] = fieldOf(making, source, findings);
    return in;
}

std::size_t bytesOfGrid(const LayeredGrid& g) {
    return sizeof(g) + g.cells() * (2 * sizeof(double) + 4 + g.values.size() * sizeof(double))
           + std::accumulate(g.groups.begin(), g.groups.end(), std::size_t(0), [](std::size_t n, const CellGroup& group) {
                 return n + sizeof(group) + group.columns.size() * sizeof(std::size_t);
             });
}

} // namespace

Area areaOf(const std::string& file, const Polygon2& ring) {
    if (!ring.empty()) return Area(ring);
    return file.empty() ? Area() : outlineArea(readVector(file), file);
}

std::vector<std::string> sourceFiles(const FieldSource& top, const std::vector<LayerRule>& layers,
                                     const std::map<std::string, FieldSource>& values) {
    std::vector<std::string> out;
    const auto add = [&](const FieldSource& s) {
        if (s.from == FieldSource::From::Grid || s.from == FieldSource::From::Points) out.push_back(s.name);
    };
    add(top);
    for (const auto& l : layers)
        if (l.bottom) add(*l.bottom);
    for (const auto& [key, source] : values) add(source);
    return out;
}

std::vector<std::string> stampsOf(const std::vector<std::string>& files) {
    std::vector<std::string> out;
    for (const auto& f : files) {
        std::error_code none;
        const auto time = std::filesystem::last_write_time(f, none);
        out.push_back(fmt::format("{} {}", f, none ? 0 : time.time_since_epoch().count()));
    }
    return out;
}

Field fieldOf(const Making& making, const FieldSource& source, Findings& findings) {
    using From = FieldSource::From;
    Field out{source, nullptr};
    const auto& p = making.project;
    switch (source.from) {
    case From::Grid:
        out.surface = gridSurface(std::make_shared<const Grid>(readRasterIn(source.name, p.site->crs, {}, findings).grid));
        break;
    case From::Points:
        out.surface = fitSurface(pointsWith(source, findings), {}, source.settings, making.progress.silent()).surface;
        break;
    case From::Surface:
        out.surface = fittedNamedSurface(making, named(*p.namedSurfaces, source.name, "named surface"))->surface;
        break;
    case From::Water:
        out.surface = fittedWater(making, named(*p.waterSurfaces, source.name, "water surface"))->fit.surface;
        break;
    case From::Base:
        if (!p.sequence->index(source.name)) throw Error(fmt::format("The sequence has no unit {}.", source.name));
        break;
    default: break;
    }
    return out;
}

std::shared_ptr<const LayerProduct> layerProduct(const Making& making, const LayerSpec& spec) {
    return making.cache.get(
        "layered grid",
        {modelProduct(making), making.project.namedSurfaces, making.project.waterSurfaces, making.project.site,
         KeyPart::value(spec), KeyPart::value(stampsOf(filesOf(spec)))},
        [&] {
            LayerProduct out{spec, nullptr, "", {}};
            try {
                const auto in = inputsOf(making, spec, out.findings);
                making.progress.report(0.89, "Layered grid " + spec.name);
                out.grid = std::make_shared<const LayeredGrid>(makeLayeredGrid(in, making.progress.silent()));
                for (const auto& a : out.grid->idle)
                    out.findings.push_back({Severity::Note, "FC-LAYERS", "", 0, "", "", "",
                                            fmt::format("An answer waits: no cell of layer {} at {:.1f} {:.1f} is \"{}\" now.",
                                                        a.layer + 1, a.at.x, a.at.y, words(a.mark))});
            } catch (const Stopped&) {
                throw;
            } catch (const std::exception& e) {
                out.problem = e.what();
            }
            return out;
        },
        [](const LayerProduct& p) { return sizeof(p) + (p.grid ? bytesOfGrid(*p.grid) : 0); });
}

} // namespace fox
