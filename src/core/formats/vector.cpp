#include "formats/vector.h"

#include "base/files.h"
#include "base/text.h"
#include "formats/drawing.h"
#include "formats/gdal_session.h"

#include <algorithm>
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
    feature.id = from.GetFID();
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
    const bool drawing = EQUAL(set.GetDriverName(), "DXF"); // it has its own fields, of which only the layer's name is ours
    // a drawing is one layer of GDAL's; the features name their own
    auto* out = drawing && set.GetLayerCount() > 0
                    ? set.GetLayer(0)
                    : set.CreateLayer(layer.name.c_str(), reference.IsEmpty() ? nullptr : &reference, layerType(layer));
    if (!out) throw FileError(fmt::format("The layer {} can't be made.", layer.name));
    std::map<std::string, OGRFieldType> fields;
    for (const auto& f : layer.features)
        for (const auto& [name, value] : f.attributes) {
            if (std::holds_alternative<std::string>(value))
                fields[name] = OFTString;
            else
                fields.try_emplace(name, OFTReal);
        }
    if (drawing) fields.clear();
    for (const auto& [name, type] : fields) {
        OGRFieldDefn field(name.c_str(), type);
        out->CreateField(&field);
    }
    for (const auto& f : layer.features) {
        OGRFeature feature(out->GetLayerDefn());
        if (drawing) feature.SetField("Layer", layer.name.c_str());
        for (const auto& [name, value] : f.attributes) {
            if (drawing) break;
            if (const auto* number = std::get_if<double>(&value))
                feature.SetField(name.c_str(), *number);
            else if (const auto* text = std::get_if<std::string>(&value))
                feature.SetField(name.c_str(), text->c_str());
        }
        if (drawing && !f.label.empty()) {
            auto words = f.label;
            std::ranges::replace(words, '"', '\'');
            feature.SetStyleString(fmt::format("LABEL(t:\"{}\",s:2g)", words).c_str());
        }
        feature.SetGeometryDirectly(geometryOf(f).release());
        if (out->CreateFeature(&feature) != OGRERR_NONE)
            throw FileError(fmt::format("A feature of {} can't be written.", layer.name));
    }
}

} // namespace

namespace {

void readLayer(OGRLayer& layer, const std::optional<Box2>& near, const Progress& progress, FeatureLayer& out) {
    if (near) layer.SetSpatialFilterRect(near->xmin, near->ymin, near->xmax, near->ymax);
    std::size_t count = 0;
    for (auto& feature : layer) {
        if ((++count & 0xFFF) == 0) progress.report(0.5, "Reading " + out.name);
        out.features.push_back(featureOf(*feature));
    }
}

bool isDrawing(const std::filesystem::path& path) { return equalNoCase(path.extension().string(), ".dxf"); }

enum class Blocks { Apart, InPlace };

DatasetPtr openDrawing(const std::filesystem::path& path, Blocks blocks) {
    CPLSetThreadLocalConfigOption("DXF_INLINE_BLOCKS", blocks == Blocks::InPlace ? "TRUE" : "FALSE");
    auto set = openWithListedDrivers(path.string(), GdalKind::Vector);
    CPLSetThreadLocalConfigOption("DXF_INLINE_BLOCKS", nullptr);
    return set;
}

FeatureLayer entitiesOf(GDALDataset& drawing, const std::optional<Box2>& near, const Progress& progress) {
    auto* layer = drawing.GetLayerByName("entities"); // the other one defines the blocks
    if (!layer) return {"entities", "", {}};
    FeatureLayer out{layer->GetName(), crsName(layer->GetSpatialRef()), {}};
    readLayer(*layer, near, progress, out);
    return out;
}

/// A drawing's entities by the layer that each of them names, in the order in which they come.
std::vector<FeatureLayer> byLayer(FeatureLayer drawn) {
    std::vector<FeatureLayer> out;
    std::map<std::string, std::size_t> places;
    for (auto& f : drawn.features) {
        const auto named = f.attributes.find("Layer");
        const auto* name = named == f.attributes.end() ? nullptr : std::get_if<std::string>(&named->second);
        const auto [at, isNew] = places.try_emplace(name ? *name : "0", out.size());
        if (isNew) out.push_back({at->first, drawn.crs, {}});
        out[at->second].features.push_back(std::move(f));
    }
    if (out.empty()) out.push_back({drawn.name, drawn.crs, {}});
    return out;
}

std::vector<FeatureLayer> readDrawing(const std::filesystem::path& path, GDALDataset& drawing, const std::optional<Box2>& near,
                                      const Progress& progress) {
    auto drawn = entitiesOf(drawing, near, progress);
    FeatureLayer blocks{kInsertedBlocks, drawn.crs, {}};
    const auto inserted = std::stable_partition(drawn.features.begin(), drawn.features.end(), [](const Feature& f) {
        const auto name = f.attributes.find("BlockName");
        return name == f.attributes.end() || std::holds_alternative<std::monostate>(name->second);
    });
    std::move(inserted, drawn.features.end(), std::back_inserter(blocks.features));
    drawn.features.erase(inserted, drawn.features.end());
    if (blocks.features.empty()) return byLayer(std::move(drawn));
    const bool isAllBlocks = std::ranges::all_of(drawn.features, [](const Feature& f) { return f.kind == GeometryKind::Point; });
    if (isAllBlocks)
        if (const auto whole = openDrawing(path, Blocks::InPlace)) drawn = entitiesOf(*whole, near, progress);
    auto out = byLayer(std::move(drawn));
    out.push_back(std::move(blocks));
    return out;
}

} // namespace

namespace {

DatasetPtr openVector(const std::filesystem::path& path, const GdalSession& session) {
    if (isDrawing(path)) checkDrawing(path);
    auto set = isDrawing(path) ? openDrawing(path, Blocks::Apart) : openWithListedDrivers(path.string(), GdalKind::Vector);
    if (!set)
        throw FileError(fmt::format("{} can't be read as points, lines or areas{}{}", path.filename().string(),
                                    session.lastMessage().empty() ? "." : ": ", session.lastMessage()));
    return set;
}

} // namespace

std::vector<FeatureLayer> readVector(const std::filesystem::path& path, const std::optional<Box2>& near,
                                     const Progress& progress) {
    const GdalSession session;
    const auto set = openVector(path, session);
    if (isDrawing(path)) return readDrawing(path, *set, near, progress);
    std::vector<FeatureLayer> layers;
    for (auto* layer : set->GetLayers()) {
        layers.push_back({layer->GetName(), crsName(layer->GetSpatialRef()), {}});
        readLayer(*layer, near, progress, layers.back());
    }
    return layers;
}

std::string vectorSystem(const std::filesystem::path& path) {
    const GdalSession session;
    const auto set = openVector(path, session);
    for (auto* layer : set->GetLayers())
        if (const auto name = crsName(layer->GetSpatialRef()); !name.empty()) return name;
    return {};
}

void writeVector(const std::filesystem::path& path, const std::vector<FeatureLayer>& layers, const std::string& timestamp) {
    const std::pair<const char*, const char*> kDrivers[] = {{".gpkg", "GPKG"}, {".shp", "ESRI Shapefile"}, {".dxf", "DXF"}};
    const auto* driver =
        std::ranges::find_if(kDrivers, [&](const auto& d) { return equalNoCase(path.extension().string(), d.first); });
    if (driver == std::end(kDrivers))
        throw UsageError(fmt::format("{}: points, lines and areas are written as .gpkg, .shp or .dxf.", path.string()));
    const bool shape = driver->first == std::string_view(".shp");
    const GdalSession session;
    if (!timestamp.empty()) CPLSetThreadLocalConfigOption("OGR_CURRENT_DATE", timestamp.c_str());
    // a shapefile is several files named after the layer, so it can't be written aside and renamed
    ReplaceFile replace(path);
    const auto target = shape ? path : replace.scratch();
    DatasetPtr set(
        GetGDALDriverManager()->GetDriverByName(driver->second)->Create(target.c_str(), 0, 0, 0, GDT_Unknown, nullptr));
    if (!set) throw FileError(fmt::format("{} can't be written. {}", path.string(), session.lastMessage()));
    for (const auto& layer : layers) writeLayer(*set, layer);
    set.reset();
    CPLSetThreadLocalConfigOption("OGR_CURRENT_DATE", nullptr);
    if (!shape) replace.commit();
}

} // namespace fox
