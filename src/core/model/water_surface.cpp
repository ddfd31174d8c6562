#include "model/water_surface.h"

#include "formats/table.h"
#include "holes/path.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace fox {

std::string pointName(const std::string& hole, const std::string& pipe) { return pipe.empty() ? hole : hole + " / " + pipe; }

namespace {

/// The middle of the response zone of a point; else its tip; else none.
std::optional<Depth> responseOf(const Hole& hole, const std::string& pipe) {
    using Part = Installation::Part;
    std::optional<Depth> tip;
    for (const auto& i : hole.installations) {
        if (i.name != pipe) continue;
        if (i.part == Part::ResponseZone) return Depth{(i.top.metres + i.base.metres) / 2};
        if (i.part == Part::Tip) tip = i.top;
    }
    return tip;
}

std::optional<std::size_t> unitAt(const InterpretedHole* log, std::optional<Depth> depth) {
    if (!log || !depth) return {};
    for (const auto& i : log->intervals)
        if (i.top <= *depth && *depth < i.base) return i.unit;
    return {};
}

std::optional<Point3> placeOf(const Hole& hole, const WaterSeries& series, const WaterChoice& choice) {
    const auto path = HolePath::of(hole);
    const auto level = path ? levelOf(series, choice) : std::nullopt;
    if (!level) return {};
    // where the hole is at that level: of an inclined one not under its top
    const auto found = waterIn(hole, choice);
    const auto depth = std::ranges::find(found, series.pipe, &HoleWater::pipe);
    const auto plan = depth == found.end() ? path->at({}).plan() : path->at(depth->depth).plan();
    return Point3{plan.x, plan.y, *level};
}

/// Errors of all methods on the same points, the simplest first.
std::vector<std::pair<Method, double>> errorsOf(const std::vector<Point3>& data, std::optional<double> reach,
                                                const Progress& progress) {
    constexpr std::size_t kFewest = 4; // a plane goes through three
    std::vector<std::pair<Method, double>> out;
    if (data.size() < kFewest) return out;
    for (const auto method : allMethods()) {
        SurfaceSettings settings;
        settings.method = method, settings.reach = reach;
        const auto& error = fitSurface(data, {}, settings, progress).leaveOneOut;
        if (2 * std::size_t(error.n) > data.size() && std::isfinite(error.rmse)) out.emplace_back(method, error.rmse);
    }
    return out;
}

/// Of those that make a smooth surface with a level everywhere: water has no steps, and no peaks at its points.
Method bestOf(std::vector<std::pair<Method, double>> errors) {
    constexpr double kTie = 0.02; // of the error: the simpler one
    std::erase_if(errors, [](const auto& e) { return !hasVariogram(e.first) && e.first != Method::ThinPlate; });
    if (errors.empty()) return Method::ThinPlate;
    const auto least = std::ranges::min_element(errors, {}, &std::pair<Method, double>::second)->second;
    return std::ranges::find_if(errors, [&](const auto& e) { return e.second <= least * (1 + kTie); })->first;
}

} // namespace

std::vector<WaterPoint> waterPoints(const WaterSurface& wanted, const Holes& holes, const InterpretedLogs& logs,
                                    const Sequence& sequence) {
    const auto names = displayNames(holes);
    std::map<std::size_t, const InterpretedHole*> read;
    for (const auto& h : logs.holes) read[h.index] = &h;
    std::vector<WaterPoint> out;
    for (const auto& series : waterSeries(holes)) {
        const auto& hole = holes[series.hole];
        const auto log = read.find(series.hole);
        WaterPoint p{pointName(names[series.hole], series.pipe), names[series.hole],
                     unitAt(log == read.end() ? nullptr : log->second, responseOf(hole, series.pipe)),
                     placeOf(hole, series, wanted.reading)};
        const bool inUnit =
            wanted.unit.empty() || (p.unit && *p.unit < sequence.units.size() && sequence.units[*p.unit].code == wanted.unit);
        const auto own = wanted.points.find(p.name);
        p.used = own == wanted.points.end() ? inUnit : own->second;
        out.push_back(std::move(p));
    }
    return out;
}

FittedWaterSurface fitWaterSurface(const WaterSurface& wanted, const Holes& holes, const InterpretedLogs& logs,
                                   const Sequence& sequence, const Progress& progress) {
    FittedWaterSurface out{waterPoints(wanted, holes, logs, sequence), {}, {}};
    std::vector<Point3> data;
    for (const auto& p : out.points)
        if (p.used && p.place) data.push_back(*p.place);
    out.errors = errorsOf(data, wanted.reach, progress);
    SurfaceSettings settings;
    settings.method = wanted.method.value_or(bestOf(out.errors));
    settings.reach = wanted.reach;
    out.fit = fitSurface(data, {}, settings, progress);
    return out;
}

std::string waterPointsCsv(const FittedWaterSurface& surface, const Sequence& sequence) {
    std::string out = "point,easting,northing,level,unit,used\n";
    for (const auto& p : surface.points) {
        const auto place = p.place ? fmt::format("{:.2f},{:.2f},{:.3f}", p.place->x, p.place->y, p.place->z) : std::string(",,");
        const auto unit = p.unit && *p.unit < sequence.units.size() ? sequence.units[*p.unit].code : std::string();
        out += fmt::format("{},{},{},{}\n", tableCell(p.name), place, tableCell(unit), p.used ? "yes" : "no");
    }
    return out;
}

} // namespace fox
