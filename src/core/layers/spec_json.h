#pragma once
// What the JSON of layered grids and of meshes has in common.
#include "formats/specification.h"
#include "layers/layer_spec.h"

namespace fox {

/// {"file": ..} or {"ring": [[E, N], ..]}.
void readArea(const nlohmann::json&, const std::filesystem::path& folder, std::string& file, Polygon2& ring);
nlohmann::json areaJson(const std::string& file, const Polygon2& ring);
FieldSource fieldSourceOf(const nlohmann::json&, const std::filesystem::path& folder);
nlohmann::json toJson(const FieldSource&);
std::vector<LayerRule> layerRulesOf(const nlohmann::json&, const std::filesystem::path& folder);
nlohmann::json toJson(const std::vector<LayerRule>&);
ThinRule thinRuleOf(const nlohmann::json&, double metres);
std::map<std::string, FieldSource> cellValuesOf(const nlohmann::json&, const std::filesystem::path& folder);
nlohmann::json toJson(const std::map<std::string, FieldSource>&);

} // namespace fox
