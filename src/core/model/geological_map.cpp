#include "model/geological_map.h"

#include "base/errors.h"
#include "formats/gdal_session.h"

#include <fmt/format.h>
#include <gdal_alg.h>

namespace fox {

std::string words(const MapSurface& s) {
    switch (s.kind) {
    case MapSurface::Kind::Ground: return "at the ground";
    case MapSurface::Kind::Level: return fmt::format("at a level of {:g} m", s.metres);
    case MapSurface::Kind::Depth: return fmt::format("{:g} m below ground", s.metres);
    }
    return "";
}

namespace {

using GeometryPtr = std::unique_ptr<OGRGeometry>;

/// Where a field is above 0. What is not known counts as far below, so that edges there run through the outermost known
/// cells.
GeometryPtr placesAbove0(const Frame& frame, std::vector<double> field) {
    constexpr double kFarBelow = -1e9;
    double lowest = 0, highest = 0;
    for (auto& v : field) {
        if (std::isnan(v)) v = kFarBelow;
        lowest = std::min(lowest, v), highest = std::max(highest, v);
    }
    auto all = std::make_unique<OGRMultiPolygon>();
    if (!(highest > 0)) return all;
    if (!(lowest < 0)) { // everywhere: GDAL gives no polygon without a crossing
        OGRLinearRing ring;
        for (const auto& p : {Point2{frame.xmin, frame.ymax - frame.rows() * frame.cell},
                              {frame.xmin + frame.columns() * frame.cell, frame.ymax - frame.rows() * frame.cell},
                              {frame.xmin + frame.columns() * frame.cell, frame.ymax},
                              {frame.xmin, frame.ymax}})
            ring.addPoint(p.x, p.y);
        ring.closeRings();
        auto polygon = std::make_unique<OGRPolygon>();
        polygon->addRing(&ring);
        all->addGeometryDirectly(polygon.release());
        return all;
    }
    DatasetPtr raster(
        GetGDALDriverManager()->GetDriverByName("MEM")->Create("", frame.columns(), frame.rows(), 1, GDT_Float64, nullptr));
    double transform[] = {frame.xmin, frame.cell, 0, frame.ymax, 0, -frame.cell};
    raster->SetGeoTransform(transform);
    auto* band = raster->GetRasterBand(1);
    if (band->RasterIO(GF_Write, 0, 0, frame.columns(), frame.rows(), field.data(), frame.columns(), frame.rows(), GDT_Float64, 0,
                       0)
        != CE_None)
        throw Error("The map can't be made: " + std::string(CPLGetLastErrorMsg()));
    DatasetPtr vectors(GetGDALDriverManager()->GetDriverByName("Memory")->Create("", 0, 0, 0, GDT_Unknown, nullptr));
    auto* layer = vectors->CreateLayer("above", nullptr, wkbMultiPolygon, nullptr);
    OGRFieldDefn most("most", OFTReal);
    layer->CreateField(&most);
    const char* options[] = {"FIXED_LEVELS=0", "POLYGONIZE=YES", "ELEV_FIELD_MAX=0", nullptr};
    if (GDALContourGenerateEx(band, layer, const_cast<char**>(options), nullptr, nullptr) != CE_None)
        throw Error("The map can't be made: " + std::string(CPLGetLastErrorMsg()));
    for (const auto& feature : layer) {
        if (!(feature->GetFieldAsDouble(0) > 0) || !feature->GetGeometryRef()) continue; // what lies below 0
        for (const auto* part : *feature->GetGeometryRef()->toMultiPolygon()) all->addGeometry(part);
    }
    if (!all->IsValid())
        if (GeometryPtr mended(all->MakeValid()); mended) return mended;
    return all;
}

void addRings(const OGRGeometry& geometry, MapArea& to) {
    if (wkbFlatten(geometry.getGeometryType()) == wkbPolygon) {
        const auto* polygon = geometry.toPolygon();
        constexpr double kLeast = 1e-6; // square metres; less is what rounding leaves between two edges
        if (!polygon->getExteriorRing() || !(polygon->get_Area() > kLeast)) return;
        to.area += polygon->get_Area();
        const auto add = [&](const OGRLinearRing* from, bool outer) {
            Polygon2 ring;
            for (int i = 0; i + 1 < from->getNumPoints(); ++i) ring.push_back({from->getX(i), from->getY(i)});
            if (bool(from->isClockwise()) == outer) std::ranges::reverse(ring);
            to.rings.push_back(std::move(ring));
        };
        add(polygon->getExteriorRing(), true);
        for (int i = 0; i < polygon->getNumInteriorRings(); ++i) add(polygon->getInteriorRing(i), false);
    } else if (OGR_GT_IsSubClassOf(wkbFlatten(geometry.getGeometryType()), wkbGeometryCollection)) {
        for (const auto* part : *geometry.toGeometryCollection()) addRings(*part, to);
    }
}

} // namespace

std::vector<MapArea> geologicalMap(const ModelGrid& grid, const MapSurface& surface) {
    const GdalSession session;
    const auto& frame = grid.ground.frame;
    std::vector<MapArea> out;
    if (frame.columns() < 2 || frame.rows() < 2) return out;
    // how high the surface lies over `below`; over the ground nothing is mapped
    const auto over = [&](const Grid* below) {
        std::vector<double> field(grid.ground.values.size(), kNoValue);
        for (std::size_t i = 0; i < field.size(); ++i) {
            const double ground = grid.ground.values[i];
            const double at = surface.kind == MapSurface::Kind::Level   ? surface.metres
                              : surface.kind == MapSurface::Kind::Depth ? ground - surface.metres
                                                                        : ground - kMappedThickness;
            if (std::isnan(ground)) continue;
            field[i] = below ? at - below->values[i] : ground - at;
        }
        return field;
    };
    // places where the surface is under the ground; at the ground itself, or below it, it is wherever there is ground
    const auto ground = placesAbove0(frame, over(nullptr));
    GeometryPtr younger;
    for (std::size_t u = 0; u <= grid.bases.size(); ++u) {
        GeometryPtr here = u < grid.bases.size() ? placesAbove0(frame, over(&grid.bases[u])) : GeometryPtr(ground->clone());
        if (u < grid.bases.size()) here.reset(here->Intersection(ground.get()));
        GeometryPtr own(younger && here ? here->Difference(younger.get()) : here ? here->clone() : nullptr);
        MapArea area{u, {}, 0};
        if (own) addRings(*own, area);
        if (!area.rings.empty()) out.push_back(std::move(area));
        if (here) younger.reset(younger ? younger->Union(here.get()) : here.release());
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
