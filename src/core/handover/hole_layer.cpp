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

FeatureLayer intervalLayer(const ProductSet& set) {
    FeatureLayer layer{"intervals", set.project.site->crs, {}};
    const auto& units = set.project.sequence->units;
    for (const auto& read : set.reading->holes) {
        const auto path = HolePath::of(*read.hole);
        if (!path) continue;
        for (const auto& i : read.logged()) {
            if (!i.usable()) continue;
            Feature f{GeometryKind::Line, {{}}, true, {{"hole", read.name}, {"top", i.top.metres}, {"base", i.base.metres}}};
            for (const auto& p : pathBetween(*path, i.top, i.base)) f.parts[0].push_back(p);
            for (const auto& [heading, code] : i.codes) f.attributes[heading] = code;
            f.attributes["description"] = i.description;
            if (const auto unit = unitOf(read, i)) f.attributes["unit"] = units[*unit].code;
            layer.features.push_back(std::move(f));
        }
    }
    return layer;
}

} // namespace fox
