#include "handover/hole_layer.h"

namespace fox {

FeatureLayer holeLayer(const Holes& holes, const std::string& crs) {
    FeatureLayer layer{"holes", crs, {}};
    for (const auto& h : holes) {
        const auto p = h.place();
        if (!p) continue;
        Feature f{GeometryKind::Point, {{{p->x, p->y, h.level.value_or(Level{0}).metres}}}, true, {}};
        f.attributes = {{"hole_id", h.id},
                        {"project_id", h.project},
                        {"kind", h.type},
                        {"source_file", h.file},
                        {"source_line", double(h.line)}};
        if (h.level) f.attributes["ground_level"] = h.level->metres;
        if (h.finalDepth) f.attributes["final_depth"] = h.finalDepth->metres;
        layer.features.push_back(std::move(f));
    }
    return layer;
}

} // namespace fox
