#include "ground/places_above.h"

#include "base/errors.h"
#include "formats/gdal_session.h"

#include <gdal_alg.h>

namespace fox {

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

double addRings(const OGRGeometry& geometry, std::vector<Polygon2>& to) {
    double area = 0;
    if (wkbFlatten(geometry.getGeometryType()) == wkbPolygon) {
        const auto* polygon = geometry.toPolygon();
        constexpr double kLeast = 1e-6; // square metres; less is what rounding leaves between two edges
        if (!polygon->getExteriorRing() || !(polygon->get_Area() > kLeast)) return 0;
        area = polygon->get_Area();
        const auto add = [&](const OGRLinearRing* from, bool outer) {
            Polygon2 ring;
            for (int i = 0; i + 1 < from->getNumPoints(); ++i) ring.push_back({from->getX(i), from->getY(i)});
            if (bool(from->isClockwise()) == outer) std::ranges::reverse(ring);
            to.push_back(std::move(ring));
        };
        add(polygon->getExteriorRing(), true);
        for (int i = 0; i < polygon->getNumInteriorRings(); ++i) add(polygon->getInteriorRing(i), false);
    } else if (OGR_GT_IsSubClassOf(wkbFlatten(geometry.getGeometryType()), wkbGeometryCollection)) {
        for (const auto* part : *geometry.toGeometryCollection()) area += addRings(*part, to);
    }
    return area;
}

} // namespace fox
