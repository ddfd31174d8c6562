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
