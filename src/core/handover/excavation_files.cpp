#include "handover/excavation_files.h"

#include "base/errors.h"
#include "formats/raster.h"
#include "formats/triangle_mesh.h"
#include "formats/vector.h"
#include "ground/contours.h"
#include "model/solids.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace fox {

using nlohmann::json;

namespace {

json numberOrNull(const std::optional<double>& v) { return v ? json(*v) : json(); }

FeatureLayer benchLayer(const Excavation& dig, const std::string& crs) {
    FeatureLayer out{"bench", crs, {}};
    for (const auto& line : benchLines(dig)) {
        const auto& deepest = dig.benches.front();
        Feature f{GeometryKind::Line,
                  {{}},
                  true,
                  {{"level", line.level}, {"bench", std::round((line.level - deepest.from) / (deepest.to - deepest.from)) + 1}}};
        for (const auto& p : line.line) f.parts[0].push_back({p.x, p.y, line.level});
        out.features.push_back(std::move(f));
    }
    return out;
}

} // namespace

ReplaceFiles prepareExcavationFiles(const Excavation& dig, const std::string& crs, const std::filesystem::path& folder) {
    std::error_code error;
    std::filesystem::create_directories(folder, error);
    if (error) throw FileError(fmt::format("{} can't be made: {}.", folder.string(), error.message()));
    ReplaceFiles out;
    out.add(folder / "dug.tif", [&](const auto& scratch) { writeRaster(scratch, dig.dug, crs); });
    out.add(folder / "dug.xml", [&](const auto& scratch) {
        auto mesh = surfaceMesh(dig.dug, "dug");
        mesh.crs = crs;
        writeTriangleMesh(scratch, mesh);
    });
    out.add(folder / "bench.gpkg", [&](const auto& scratch) { writeVector(scratch, {benchLayer(dig, crs)}); });
    return out;
}

std::string excavationSummary(const Excavation& dig, const Sequence& sequence, const std::optional<ExcavationRange>& range) {
    json byUnit = json::object(), loose = json::object(), massByUnit = json::object(), benches = json::array();
    const auto code = [&](std::size_t u) { return sequence.units[u].code; };
    for (const auto& [u, volume] : dig.byUnit) byUnit[code(u)] = volume, massByUnit[code(u)] = nullptr;
    for (const auto& [u, mass] : dig.massByUnit) massByUnit[code(u)] = mass;
    for (const auto& [u, volume] : dig.looseByUnit) loose[code(u)] = volume;
    for (const auto& b : dig.benches)
        benches.push_back(
            {{"from", b.from}, {"to", b.to}, {"volume", b.volume}, {"area", b.area}, {"mass", numberOrNull(b.mass)}});
    json out{{"excavated", dig.excavated},
             {"wanted", dig.wanted},
             {"waste", dig.waste()},
             {"ratio", dig.wanted > 0 ? json(dig.waste() / dig.wanted) : json()},
             {"mass", {{"excavated", numberOrNull(dig.mass)}, {"wanted", numberOrNull(dig.wantedMass)}, {"by_unit", massByUnit}}},
             {"by_unit", byUnit},
             {"by_bench", benches},
             {"area", dig.area},
             {"depth", dig.deepest},
             {"columns", dig.columns},
             {"reaches_edge", dig.reachesEdge}};
    if (!dig.looseByUnit.empty()) out["loose"] = loose;
    if (dig.limitLength > 0) out["limit_length"] = dig.limitLength;
    if (dig.belowWater) out["below_water"] = *dig.belowWater;
    if (range) {
        const auto three = [](const Range& r) { return json{{"p10", r.p10}, {"p50", r.p50}, {"p90", r.p90}}; };
        out["range"] = {{"realisations", range->count},
                        {"excavated", three(range->excavated)},
                        {"wanted", three(range->wanted)},
                        {"waste", three(range->waste)}};
    }
    if (dig.profit) out["profit"] = *dig.profit;
    return out.dump();
}

} // namespace fox
