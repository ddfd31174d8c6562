#include "base/errors.h"
#include "base/files.h"
#include "base/text.h"
#include "formats/raster.h"
#include "ground/compare.h"
#include "ground/lines.h"
#include "ground/survey.h"
#include "ground/terrain.h"
#include "ground/tin_files.h"
#include "output.h"
#include "project/json.h"
#include "surfaces/surface.h"
#include "verbs.h"

#include <fmt/format.h>
#include <iostream>

namespace fox::run {

using nlohmann::json;

namespace {

/// The call gives either a frame and a grid, or places and a CSV.
void checkTargets(const Options& w) {
    if (w.out.empty()) throw UsageError("--out is missing.");
    if (w.at.empty() == w.frame.empty()) throw UsageError("Give either --frame and --cell, or --at.");
    if (w.at.empty() && !isRasterEnding(w.out))
        throw UsageError(fmt::format("{}: a grid is written as .tif, .asc, .xyz or .gpkg.", w.out.string()));
    if (!w.variance.empty() && !isRasterEnding(w.variance))
        throw UsageError(fmt::format("{}: a grid is written as .tif, .asc, .xyz or .gpkg.", w.variance.string()));
}

SurfaceSettings settingsOf(const Options& w) {
    SurfaceSettings s;
    const auto method = methodNamed(w.method);
    if (!method) throw UsageError(fmt::format("\"{}\" is not a method of this version; there are {}.", w.method, methodNames()));
    s.method = *method;
    if (!(w.power > 0)) throw UsageError("--power must be more than 0.");
    if (w.neighbours < 0) throw UsageError("--neighbours must not be negative.");
    if (w.radius && !(*w.radius > 0)) throw UsageError("--radius must be more than 0 m.");
    if (w.reach && !(*w.reach > 0)) throw UsageError("--reach must be more than 0 m.");
    s.power = w.power, s.neighbours = w.neighbours, s.radius = w.radius, s.reach = w.reach, s.carriedOn = w.carryOn;
    // what their triangles are made of is not to be chosen: points farther off give no value
    if ((s.method == Method::Linear || s.method == Method::NaturalNeighbour) && s.radius) {
        if (s.reach) throw UsageError("--radius and --reach are the same for linear and natural-neighbour; give one.");
        s.reach = s.radius;
    }
    if (!w.variogram.empty()) {
        s.variogram = variogramFrom(w.variogram);
        if (!s.variogram)
            throw UsageError("--variogram takes MODEL,NUGGET,PARTIAL_SILL,RANGE; MODEL is spherical, exponential, gaussian or "
                             "linear. Nugget and sill must not be negative or both 0, the range must be more than 0 m.");
    }
    if (!w.anisotropy.empty()) {
        const auto n = numbers(w.anisotropy, "--anisotropy", 2);
        if (n[1] < 1) throw UsageError("--anisotropy: the ratio, long over short, must be at least 1.");
        s.anisotropy = {n[0], n[1]};
    }
    return s;
}

std::vector<Bound> boundsOf(const Options& w) {
    std::vector<Bound> bounds;
    for (const auto& [path, side] : {std::pair{w.upperBounds, Side::Upper}, {w.lowerBounds, Side::Lower}})
        if (!path.empty())
            for (const auto& p : readPoints(path, {w.x, w.y, w.z})) bounds.push_back({p, side, path.string()});
    return bounds;
}

/// No values outside the outline, none inside the island.
struct Shape {
    std::optional<Area> outline, island;
    void blank(Grid& grid) const {
        for (int row = 0; row < grid.frame.rows(); ++row)
            for (int c = 0; c < grid.frame.columns(); ++c) {
                const auto p = grid.frame.centre(c, row);
                if ((outline && !outline->contains(p)) || (island && island->contains(p))) grid.at(c, row) = kNoValue;
            }
    }
};

std::optional<Area> areaIn(const std::filesystem::path& path) {
    if (path.empty()) return {};
    return outlineArea(readVector(path), path.string());
}

json surfaceJson(const FittedSurface& fit, const Grid* grid, const Options& w) {
    json j{{"method", lower(w.method)},
           {"points", fit.points},
           {"merged", fit.merged},
           {"leave_one_out",
            {{"n", fit.leaveOneOut.n},
             {"rmse", number(fit.leaveOneOut.rmse)},
             {"mae", number(fit.leaveOneOut.mae)},
             {"bias", number(fit.leaveOneOut.bias)}}},
           {"bounds", {{"upper", fit.upperBounds}, {"lower", fit.lowerBounds}, {"broken", fit.brokenBounds}}}};
    if (grid) {
        j["cells"] = grid->values.size();
        j["empty"] = std::ranges::count_if(grid->values, [](double v) { return std::isnan(v); });
    }
    j["variogram"] = nullptr;
    if (const auto& v = fit.settings.variogram; v && hasVariogram(fit.settings.method))
        j["variogram"] = {
            {"model", name(v->model)}, {"nugget", v->nugget}, {"partial_sill", v->partialSill}, {"range", v->range}};
    return j;
}

} // namespace

void surface(const Options& w) {
    checkTargets(w);
    const auto settings = settingsOf(w);
    if (!w.variance.empty() && !hasVariogram(settings.method))
        throw UsageError("--variance goes with kriging and universal-kriging.");
    if (settings.method == Method::Nearest && !(w.upperBounds.empty() && w.lowerBounds.empty()))
        throw UsageError("nearest keeps no bounds; take another method.");
    std::optional<Frame> target;
    if (w.at.empty()) target = frame(w.frame, w.cell);
    const auto points = readPoints(w.points, {w.x, w.y, w.z});
    if (points.empty()) throw FileError(fmt::format("{} has no points.", w.points.string()));
    const auto fit = [&] {
        try {
            return fitSurface(points, boundsOf(w), settings);
        } catch (const UsageError&) {
            throw;
        } catch (const Error& e) { // what it says of the points names their file
            throw Error(fmt::format("{}: {}", w.points.string(), e.what()));
        }
    }();
    for (const auto& f : fit.findings) {
        if (f.severity != Severity::Note) throw Error(fmt::format("{}: {}", f.hole, f.message));
        std::cerr << f.message << '\n';
    }
    if (fit.brokenBounds > 0) throw Error(fmt::format("Not kept: {}.", counted(std::size_t(fit.brokenBounds), "bound")));
    ReplaceFiles outputs;
    if (!target) {
        const PlacesFile places(w.at, PlacesFile::Unnamed::Refused);
        std::vector<double> values(places.places().size()), variances(fit.surface->hasVariance() ? values.size() : 0);
        fit.surface->evaluate(places.places(), values, variances);
        std::vector<std::pair<std::string, std::vector<double>>> columns{{"value", values}};
        if (!variances.empty()) columns.emplace_back("variance", variances);
        outputs.add(w.out, [&](const auto& scratch) { writeBytes(scratch, places.with(columns)); });
        outputs.commit();
        return print(surfaceJson(fit, nullptr, w), w.json);
    }
    const Shape shape{areaIn(w.outline), areaIn(w.island)};
    Grid variance;
    auto grid = sample(*fit.surface, *target, w.variance.empty() ? nullptr : &variance);
    outputs.add(w.out, [&](const auto& scratch) {
        shape.blank(grid);
        writeRaster(scratch, grid, "");
    });
    if (!w.variance.empty())
        outputs.add(w.variance, [&](const auto& scratch) {
            shape.blank(variance);
            writeRaster(scratch, variance, "");
        });
    outputs.commit();
    print(surfaceJson(fit, &grid, w), w.json);
}

namespace {

/// The words of --columns. @throws UsageError for one that is not known, or none for the level
std::vector<std::string> surveyColumnNames(const std::string& list) {
    std::vector<std::string> out;
    for (const auto c : split(list, ',')) out.emplace_back(trimmed(c));
    Table header;
    header.columns = out;
    const auto known = surveyColumns(header);
    for (std::size_t i = 0; i < out.size(); ++i) {
        const bool used = known.name == i || known.easting == i || known.northing == i || known.level == i || known.code == i;
        if (!used && !out[i].empty() && out[i] != "-")
            throw UsageError(
                fmt::format("--columns: \"{}\" is not known; there are point, easting, northing, level, code, and - for "
                            "a column that is not used.",
                            out[i]));
    }
    if (!known.complete()) throw UsageError("--columns must name easting, northing and level.");
    return out;
}

/// The files that the ground is made from.
std::vector<std::string> groundFiles(const Options& w) {
    std::vector<std::string> out;
    for (const auto& path : {w.points, w.breaklines, w.contours})
        if (!path.empty()) out.push_back(path.string());
    return out;
}

TerrainInput terrainInput(const Options& w, std::string& crs, int& contourVertices) {
    TerrainInput input;
    if (!w.points.empty()) {
        std::vector<std::string> columns;
        if (!w.columns.empty()) columns = surveyColumnNames(w.columns);
        const auto survey = surveyOf(readTable(readBytes(w.points), w.points.string(), std::move(columns)));
        for (const auto& f : survey.findings) {
            if (f.severity == Severity::Error) throw FileError(describe(f));
            std::cerr << describe(f) << '\n';
        }
        for (const auto& p : survey.points) input.points.push_back(p.place);
    }
    const auto lines = [&](const std::filesystem::path& path, LineRole role, const std::string& field) {
        const auto read = groundLinesOf(readVector(path), {role, field, 0, {}, {}, {}}, path.string());
        if (!read.crs.empty()) crs = read.crs;
        for (const auto& f : read.findings) std::cerr << describe(f) << '\n';
        if (read.lines.empty())
            throw FileError(fmt::format("{} has no lines{}.", path.string(), read.verticesRead > 0 ? " with a level" : ""));
        return read;
    };
    if (!w.breaklines.empty()) input.breaklines = lines(w.breaklines, LineRole::Breaklines, "").lines;
    if (!w.contours.empty()) {
        auto read = lines(w.contours, LineRole::Contours, w.levelField);
        contourVertices = int(read.verticesKept);
        input.contours = std::move(read.lines);
    }
    input.area = areaIn(w.limit).value_or(Area());
    return input;
}

} // namespace

void terrain(const Options& w) {
    const bool wantsValues = !w.out.empty() || w.tin.empty();
    if (wantsValues) checkTargets(w);
    if (!w.tin.empty() && !isTriangleEnding(w.tin))
        throw UsageError(fmt::format("{}: triangles are written as .xml (LandXML), .obj, .ply or .dxf.", w.tin.string()));
    if (w.points.empty() && w.breaklines.empty() && w.contours.empty())
        throw UsageError("terrain needs --points, --breaklines or --contours.");
    std::optional<Frame> target;
    if (!w.frame.empty()) target = frame(w.frame, w.cell);
    std::string crs;
    int contourVertices = 0;
    const auto made = makeTerrain(terrainInput(w, crs, contourVertices));
    if (made.tin.empty())
        throw Error(fmt::format("{}: the ground data make no triangle: there are under three places, or all lie on one line.",
                                fmt::join(groundFiles(w), ", ")));
    for (const auto& f : made.findings) std::cerr << describe(f) << '\n';
    ReplaceFiles outputs;
    if (target) {
        const auto grid = made.sampled(*target);
        outputs.add(w.out, [&](const auto& scratch) { writeRaster(scratch, grid, crs); });
        const std::filesystem::path out(w.out);
        if (const auto text = equalNoCase(out.extension().string(), ".asc") ? projectionText(crs) : ""; !text.empty())
            outputs.add(std::filesystem::path(out).replace_extension(".prj"), [&](const auto& to) { writeBytes(to, text); });
    } else if (!w.at.empty()) {
        const PlacesFile places(w.at, PlacesFile::Unnamed::Refused);
        std::vector<double> values;
        for (const auto p : places.places()) values.push_back(made.levelAt(p).value_or(kNoValue));
        outputs.add(w.out, [&](const auto& scratch) { writeBytes(scratch, places.with({{"value", values}})); });
    }
    if (!w.tin.empty()) outputs.add(w.tin, [&](const auto& scratch) { writeTin(scratch, made.tin, "terrain", crs); });
    outputs.commit();
    const auto m = made.tin.measure(made.area);
    print({{"points", made.points},
           {"merged", made.merged},
           {"triangles", made.tin.triangles().size()},
           {"breakline_segments", made.breaklineSegments},
           {"contour_vertices", contourVertices},
           {"plan_area", m.planArea},
           {"surface_area", m.surfaceArea},
           {"zmin", number(m.zmin)},
           {"zmax", number(m.zmax)},
           {"flat_triangles", m.flatTriangles}},
          w.json);
}

namespace {
std::string inWords(const Frame& f) {
    return fmt::format("E {:g} to {:g}, N {:g} to {:g}, cells of {:g} m", f.xmin, f.xmax, f.ymin, f.ymax, f.cell);
}
} // namespace

void volume(const Options& w) {
    if (w.upper.empty() || w.lower.empty()) throw UsageError("volume needs --upper and --lower.");
    const auto upper = readRaster(w.upper), lower = readRaster(w.lower);
    if (!upper.crs.empty() && !lower.crs.empty() && upper.crs != lower.crs)
        throw Error(fmt::format("The grids differ in coordinate system: {} has {}, {} has {}.", w.upper.string(), upper.crs,
                                w.lower.string(), lower.crs));
    if (upper.grid.frame != lower.grid.frame)
        throw Error(fmt::format("{} and {} differ in extent or cell: {} against {}.", w.upper.string(), w.lower.string(),
                                inWords(upper.grid.frame), inWords(lower.grid.frame)));
    const auto v = volumesBetween(upper.grid, lower.grid, areaIn(w.outline).value_or(Area()));
    if (v.noValue > 0)
        std::cerr << fmt::format("{:.2f} m2 have a value in one of the grids only; they are not counted.\n", v.noValue);
    print({{"area", v.area}, {"above", v.above}, {"below", v.below}, {"net", v.net()}}, w.json);
}

} // namespace fox::run
