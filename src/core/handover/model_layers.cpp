#include "handover/model_layers.h"

namespace fox {

FeatureLayer contourLayer(const std::vector<ContourLine>& lines, const std::string& name, const Project& project,
                          double interval) {
    FeatureLayer layer{name, project.site->crs, {}};
    const double major = interval * project.contours->majorEvery;
    for (const auto& c : lines) {
        if (c.line.size() < 2) continue;
        Feature f{GeometryKind::Line, {{}}, true, {{"level", c.level}}};
        f.attributes["major"] = std::abs(std::remainder(c.level, major)) < 1e-6 ? 1.0 : 0.0;
        for (const auto& p : c.line) f.parts[0].push_back({p.x, p.y, c.level});
        layer.features.push_back(std::move(f));
    }
    return layer;
}

FeatureLayer mapLayer(const ProductSet& set, const MapSurface& surface) {
    FeatureLayer layer{"geological_map", set.project.site->crs, {}};
    const auto& units = set.project.sequence->units;
    for (const auto& area : geologicalMap(*set.modelGrid, surface)) {
        const auto& unit = units[area.unit];
        const std::map<std::string, Feature::Value> attributes{
            {"unit", unit.code}, {"name", unit.name}, {"colour", unit.colour}, {"seen", words(surface)}};
        for (const auto& ring : area.rings) {
            double twice = 0;
            for (std::size_t i = 0, j = ring.size() - 1; i < ring.size(); j = i++)
                twice += (ring[j].x - ring[0].x) * (ring[i].y - ring[0].y) - (ring[i].x - ring[0].x) * (ring[j].y - ring[0].y);
            if (twice > 0 || layer.features.empty()) layer.features.push_back({GeometryKind::Polygon, {}, false, attributes});
            Polyline3 part;
            for (const auto& p : ring) part.push_back({p.x, p.y, 0});
            part.push_back(part.front());
            layer.features.back().parts.push_back(std::move(part));
        }
    }
    return layer;
}

} // namespace fox
