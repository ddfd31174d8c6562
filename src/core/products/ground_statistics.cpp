#include "products/ground_statistics.h"

#include "products/terrain_product.h"

namespace fox {

namespace {

GroundStatistics statisticsOf(const GroundSources& ground, const Terrain& terrain) {
    GroundStatistics out;
    out.measures = terrain.tin.measure(terrain.area);
    out.codes = codesOf(ground);
    for (const auto& v : terrain.tin.vertices()) out.extent.include(v.plan());
    std::vector<Point2> places;
    for (const auto& s : ground.points)
        for (const auto& point : s.points)
            if (s.used) out.points.push_back(&point), places.push_back(point.place.plan());
    out.pointGrid = PointGrid(places);
    for (const auto& s : ground.points)
        for (const auto& code : stringCodes(*s.points)) out.joinable.insert(code);
    for (const auto& s : ground.lines)
        for (const auto& line : s.lines) out.linesWithoutLevels |= !line.empty() && std::isnan(line.front().z);
    return out;
}

Findings beyondExtent(const Terrain& terrain, const Frame& frame) {
    constexpr double kWorthSaying = 0.01; // of the ground's area
    Box2 around = frame.box();
    for (const auto& v : terrain.tin.vertices()) around.include(v.plan());
    if (around == frame.box()) return {};
    const double all = terrain.tin.measure(terrain.area).planArea;
    const double inside = terrain.tin.measure(terrain.area.within(frame.box())).planArea;
    if (all - inside <= kWorthSaying * all) return {};
    Finding f{Severity::Note,
              "FC-EXTENT",
              "",
              0,
              "",
              "",
              "",
              fmt::format("The ground goes on beyond the extent: {:.0f} m², {:.0f} % of it, lie outside. The model, grids and "
                          "volumes end at the extent; triangles and contours do not.",
                          all - inside, 100 * (all - inside) / all)};
    f.remedy = Remedy{"Extend to the whole ground", ExtendExtent{around}};
    return {std::move(f)};
}

} // namespace

std::shared_ptr<const GroundStatistics> groundStatistics(const Making& making) {
    const auto& ground = making.project.ground;
    const auto terrain = terrainProduct(making)->terrain;
    making.progress.report(0.58, "Counting ground points");
    return making.cache.get(
        "ground statistics", {ground, terrain}, [&] { return statisticsOf(*ground, *terrain); },
        [](const GroundStatistics& s) {
            constexpr std::size_t kOfAPoint = sizeof(void*) + sizeof(Point2) + 2 * sizeof(std::uint32_t);
            return sizeof(s) + s.points.size() * kOfAPoint;
        });
}

std::shared_ptr<const Findings> groundBeyondExtent(const Making& making) {
    const auto terrain = terrainProduct(making)->terrain;
    const auto frame = frameOf(making.project);
    return making.cache.get(
        "ground beyond the extent", {terrain, KeyPart::value(frame)},
        [&] { return frame ? beyondExtent(*terrain, *frame) : Findings(); }, [](const Findings& f) { return bytesOf(f); });
}

std::shared_ptr<const std::vector<Outlier>> groundOutliers(const Making& making) {
    return making.once("outliers", [&] {
        const auto terrain = terrainProduct(making)->terrain;
        const bool surveyed = !making.project.ground->points.empty();
        making.progress.report(0.6, "Looking for points that are off");
        return making.cache.get(
            "outliers", {terrain, KeyPart::value(surveyed)},
            [&] {
                return surveyed ? outliersOf(terrain->tin, kPointOff, terrain->area, making.progress) : std::vector<Outlier>();
            },
            [](const std::vector<Outlier>& o) { return bytesOf(o); });
    });
}

} // namespace fox
