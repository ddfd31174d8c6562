#include "formats/vector.h"

#include "base/files.h"
#include "base/text.h"
#include "formats/gdal_session.h"

#include <fmt/format.h>
#include <map>

namespace fox {

namespace {

void addLine(Feature& feature, const OGRSimpleCurve& line) {
    Polyline3 part;
    for (int i = 0; i < line.getNumPoints(); ++i) part.push_back({line.getX(i), line.getY(i), line.getZ(i)});
    feature.parts.push_back(std::move(part));
}

void addGeometry(Feature& feature, const OGRGeometry& geometry) {
    switch (wkbFlatten(geometry.getGeometryType())) {
    case wkbPoint: {
        const auto& p = *geometry.toPoint();
        feature.kind = GeometryKind::Point;
        feature.parts.push_back({{p.getX(), p.getY(), p.getZ()}});
        break;
    }
    case wkbLineString:
        feature.kind = GeometryKind::Line;
        addLine(feature, *geometry.toLineString());
        break;
    case wkbPolygon:
        feature.kind = GeometryKind::Polygon;
        for (const auto* ring : *geometry.toPolygon()) addLine(feature, *ring);
        break;
    case wkbMultiPoint:
    case wkbMultiLineString:
    case wkbMultiPolygon:
    case wkbGeometryCollection:
        for (const auto* part : *geometry.toGeometryCollection()) addGeometry(feature, *part);
        break;
    default: // curves: chords within a degree, as GDAL makes them
        if (geometry.hasCurveGeometry())
            if (std::unique_ptr<OGRGeometry> straight(geometry.getLinearGeometry(1.0)); straight) addGeometry(feature, *straight);
    }
}

Feature featureOf(OGRFeature& from) {
    Feature feature;
    if (const auto* geometry = from.GetGeometryRef()) {
        feature.hasLevels = geometry->Is3D();
        addGeometry(feature, *geometry);
    }
    for (int i = 0; i < from.GetFieldCount(); ++i) {
        if (!from.IsFieldSetAndNotNull(i)) continue;
        const auto type = from.GetFieldDefnRef(i)->GetType();
        auto& value = feature.attributes[from.GetFieldDefnRef(i)->GetNameRef()];
        if (type == OFTReal || type == OFTInteger || type == OFTInteger64)
            value = from.GetFieldAsDouble(i);
        else
            value = std::string(from.GetFieldAsString(i));
    }
    return feature;
}

std::unique_ptr<OGRGeometry> geometryOf(const Feature& feature) {
    const auto fill = [&](OGRSimpleCurve& curve, const Polyline3& part) {
        for (const auto& p : part) feature.hasLevels ? curve.addPoint(p.x, p.y, p.z) : curve.addPoint(p.x, p.y);
    };
    switch (feature.kind) {
    case GeometryKind::Point: {
        const auto& p = feature.parts.at(0).at(0);
        return feature.hasLevels ? std::make_unique<OGRPoint>(p.x, p.y, p.z) : std::make_unique<OGRPoint>(p.x, p.y);
    }
    case GeometryKind::Line: {
        auto line = std::make_unique<OGRLineString>();
        fill(*line, feature.parts.at(0));
        return line;
    }
    case GeometryKind::Polygon: {
        auto polygon = std::make_unique<OGRPolygon>();
        for (const auto& part : feature.parts) {
            OGRLinearRing ring;
            fill(ring, part);
            ring.closeRings();
            polygon->addRing(&ring);
        }
        return polygon;
    }
    }
    return {};
}

OGRwkbGeometryType layerType(const FeatureLayer& layer) {
    if (layer.features.empty()) return wkbUnknown;
    const auto& first = layer.features.front();
    const auto flat = first.kind == GeometryKind::Point  ? wkbPoint
                      : first.kind == GeometryKind::Line ? wkbLineString
                                                         : wkbPolygon;
    return first.hasLevels ? wkbSetZ(flat) : flat;
}

void writeLayer(GDALDataset& set, const FeatureLayer& layer) {
    auto reference = spatialReference(layer.crs);
    auto* out = set.CreateLayer(layer.name.c_str(), reference.IsEmpty() ? nullptr : &reference, layerType(layer));
    if (!out) throw FileError(fmt::format("The layer {} can't be made.", layer.name));
    std::map<std::string, OGRFieldType> fields;
    for (const auto& f : layer.features)
        for (const auto& [name, value] : f.attributes) {
            if (std::holds_alternative<std::string>(value))
                fields[name] = OFTString;
            else
                fields.try_emplace(name, OFTReal);
        }
    for (const auto& [name, type] : fields) {
        OGRFieldDefn field(name.c_str(), type);
        out->CreateField(&field);
    }
    for (const auto& f : layer.features) {
        OGRFeature feature(out->GetLayerDefn());
        for (const auto& [name, value] : f.attributes) {
            if (const auto* number = std::get_if<double>(&value))
                feature.SetField(name.c_str(), *number);
            else if (const auto* text = std::get_if<std::string>(&value))
                feature.SetField(name.c_str(), text->c_str());
        }
        feature.SetGeometryDirectly(geometryOf(f).release());
        if (out->CreateFeature(&feature) != OGRERR_NONE)
            throw FileError(fmt::format("A feature of {} can't be written.", layer.name));
    }
}

} // namespace

std::vector<FeatureLayer> readVector(const std::filesystem::path& path) {
    const GdalSession session;
    DatasetPtr set(GDALDataset::Open(path.c_str(), GDAL_OF_VECTOR | GDAL_OF_READONLY));
    if (!set)
        throw FileError(fmt::format("{} can't be read as points, lines or areas. {}", path.string(), session.lastMessage()));
    std::vector<FeatureLayer> layers;
    for (auto* layer : set->GetLayers()) {
        FeatureLayer read{layer->GetName(), crsName(layer->GetSpatialRef()), {}};
        for (auto& feature : *layer) read.features.push_back(featureOf(*feature));
        layers.push_back(std::move(read));
    }
    return layers;
}

void writeVector(const std::filesystem::path& path, const std::vector<FeatureLayer>& layers, const std::string& timestamp) {
    const bool shape = equalNoCase(path.extension().string(), ".shp");
    if (!shape && !equalNoCase(path.extension().string(), ".gpkg"))
        throw UsageError(fmt::format("{}: points, lines and areas are written as .gpkg or .shp.", path.string()));
    const GdalSession session;
    if (!timestamp.empty()) CPLSetThreadLocalConfigOption("OGR_CURRENT_DATE", timestamp.c_str());
    // a shapefile is several files named after the layer, so it can't be written aside and renamed
    ReplaceFile replace(path);
    const auto target = shape ? path : replace.scratch();
    DatasetPtr set(GetGDALDriverManager()
                       ->GetDriverByName(shape ? "ESRI Shapefile" : "GPKG")
                       ->Create(target.c_str(), 0, 0, 0, GDT_Unknown, nullptr));
    if (!set) throw FileError(fmt::format("{} can't be written. {}", path.string(), session.lastMessage()));
    for (const auto& layer : layers) writeLayer(*set, layer);
    set.reset();
    CPLSetThreadLocalConfigOption("OGR_CURRENT_DATE", nullptr);
    if (!shape) replace.commit();
}

} // namespace fox
