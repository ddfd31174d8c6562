#include "model/geological_map.h"

#include "formats/gdal_session.h"
#include "ground/places_above.h"

#include <fmt/format.h>

namespace fox {

std::string words(const MapSurface& s) {
    switch (s.kind) {
    case MapSurface::Kind::Ground: return "at the ground";
    case MapSurface::Kind::Level: return fmt::format("at a level of {:g} m", s.metres);
    case MapSurface::Kind::Depth: return fmt::format("{:g} m below ground", s.metres);
    }
    return "";
}

std::vector<MapArea> geologicalMap(const ModelGrid& grid, const MapSurface& surface, const std::vector<std::size_t>& without) {
    const GdalSession session;
    const auto& frame = grid.ground.frame;
    std::vector<MapArea> out;
    if (frame.columns() < 2 || frame.rows() < 2) return out;
    // through units that are left out, down to what lies under them
    const auto seenFrom = [&](std::size_t cell, double level) {
        for (std::size_t u = 0; u < grid.bases.size() && !without.empty(); ++u) {
            if (!(level > grid.bases[u].values[cell])) continue;
            if (std::ranges::count(without, u) == 0) break;
            level = grid.bases[u].values[cell] - kMappedThickness;
        }
        return level;
    };
    // how high the surface lies over `below`; over the ground nothing is mapped
    const auto over = [&](const Grid* below) {
        std::vector<double> field(grid.ground.values.size(), kNoValue);
        for (std::size_t i = 0; i < field.size(); ++i) {
            const double ground = grid.ground.values[i];
            const double at = surface.kind == MapSurface::Kind::Level   ? surface.metres
                              : surface.kind == MapSurface::Kind::Depth ? ground - surface.metres
                                                                        : ground - kMappedThickness;
            if (std::isnan(ground)) continue;
            field[i] = below ? seenFrom(i, at) - below->values[i] : ground - at;
        }
        return field;
    };
    // places where the surface is under the ground; at the ground itself, or below it, it is wherever there is ground
    const auto ground = placesAbove0(frame, over(nullptr));
    GeometryPtr younger;
    for (std::size_t u = 0; u <= grid.bases.size(); ++u) {
        if (std::ranges::count(without, u) > 0) continue;
        GeometryPtr here = u < grid.bases.size() ? placesAbove0(frame, over(&grid.bases[u])) : GeometryPtr(ground->clone());
        if (u < grid.bases.size()) here.reset(here->Intersection(ground.get()));
        GeometryPtr own(younger && here ? here->Difference(younger.get()) : here ? here->clone() : nullptr);
        MapArea area{u, {}, 0};
        if (own) area.area = addRings(*own, area.rings);
        if (!area.rings.empty()) out.push_back(std::move(area));
        if (here) younger = younger ? GeometryPtr(younger->Union(here.get())) : here;
    }
    return out;
}

std::optional<std::size_t> unitOn(const std::vector<MapArea>& map, Point2 p) {
    for (const auto& area : map) {
        bool inside = false;
        for (const auto& ring : area.rings) inside ^= contains(ring, p);
        if (inside) return area.unit;
    }
    return {};
}

} // namespace fox
