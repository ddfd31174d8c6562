#include "handover/line_layers.h"

#include <fmt/format.h>

namespace fox {

namespace {

Polyline3 closed(const Polygon2& ring) {
    auto out = raised(ring);
    if (!out.empty()) out.push_back(out.front());
    return out;
}

Feature area(const Polygon2& ring, const std::vector<Polygon2>& holes, const std::string& name) {
    Feature f{GeometryKind::Polygon, {closed(ring)}, false, {{"name", name}}};
    for (const auto& hole : holes) f.parts.push_back(closed(hole));
    return f;
}

/// A hole's path from one depth to another, straight pieces of two metres at most where it bends.
Polyline3 stick(const HolePath& path, Depth top, Depth base) {
    constexpr double kPiece = 2; // metres
    const int n = path.vertical() ? 1 : std::max(1, int(std::ceil((base.metres - top.metres) / kPiece)));
    Polyline3 out;
    for (int i = 0; i <= n; ++i) out.push_back(path.at(Depth{top.metres + (base.metres - top.metres) * i / n}));
    return out;
}

} // namespace

namespace {

Feature point(Point2 at, double level, const std::string& name) {
    return {GeometryKind::Point, {{{at.x, at.y, level}}}, !std::isnan(level), {{"name", name}}};
}

/// What meshes are made from, for those who make theirs elsewhere: outlines with islands, lines, places with their edges.
template <typename Layer>
void addMeshes(const Project& p, Layer&& layer) {
    auto& outlines = layer("mesh outlines");
    for (const auto& m : *p.meshes) {
        std::vector<Polygon2> islands;
        for (const auto& i : m.islands)
            if (!i.ring.empty()) islands.push_back(i.ring);
        if (!m.outline.ring.empty()) outlines.features.push_back(area(m.outline.ring, islands, m.name));
    }
    auto& lines = layer("mesh lines");
    for (const auto& m : *p.meshes)
        for (const auto& l : m.lines)
            if (!l.line.empty())
                lines.features.push_back({GeometryKind::Line, {raised(l.line)}, false, {{"name", l.name}, {"mesh", m.name}}});
    auto& places = layer("mesh places");
    for (const auto& m : *p.meshes)
        for (const auto& at : m.places) places.features.push_back(point(at.at, kNoValue, at.name));
}

} // namespace

std::vector<FeatureLayer> lineLayers(const ProductSet& set) {
    const auto& p = set.project;
    std::vector<FeatureLayer> out;
    const auto layer = [&](std::string name) -> FeatureLayer& {
        return out.emplace_back(FeatureLayer{std::move(name), p.site->crs, {}});
    };
    if (set.frame) {
        const auto& f = *set.frame;
        layer("extent").features.push_back(
            area({{f.xmin, f.ymin}, {f.xmax, f.ymin}, {f.xmax, f.ymax}, {f.xmin, f.ymax}}, {}, "extent"));
    }
    if (!p.site->limit.empty()) layer("site limit").features.push_back(area(p.site->limit, {}, "site limit"));
    auto& outlines = layer("outlines");
    for (const auto& o : p.ground->outlines) outlines.features.push_back(area(o.ring, o.holes, o.name));
    auto& sections = layer("section lines");
    for (const auto& s : *p.sections)
        sections.features.push_back({GeometryKind::Line, {raised(s.line)}, false, {{"name", s.name}}});
    auto& faults = layer("faults");
    for (const auto& f : p.interpretation->faults)
        faults.features.push_back(
            {GeometryKind::Line,
             {raised(f.fault.line)},
             false,
             {{"name", f.fault.name}, {"youngest", f.youngest}, {"units", fmt::format("{}", fmt::join(f.units, " "))}}});
    auto& guides = layer("guides");
    for (const auto& g : p.interpretation->guides)
        if (g.line.size() > 1) guides.features.push_back({GeometryKind::Line, {g.line}, true, {{"unit", g.unit}}});
    auto& wells = layer("wells");
    for (const auto& h : *p.holes)
        if (const auto at = h.place(); at && !h.installations.empty())
            wells.features.push_back(point(*at, h.level ? h.level->metres : kNoValue, h.name));
    addMeshes(p, layer);
    for (const auto& b : *p.background) {
        auto& lines = layer(b.layer);
        for (const auto& l : b.lines) {
            const bool levels = std::ranges::none_of(l, [](const Point3& q) { return std::isnan(q.z); });
            lines.features.push_back({GeometryKind::Line, {l}, levels, {{"file", b.file}}});
        }
    }
    std::erase_if(out, [](const FeatureLayer& l) { return l.features.empty(); });
    return out;
}

std::vector<FeatureLayer> holeSticks(const ProductSet& set) {
    std::map<std::size_t, FeatureLayer> byUnit; // by its place in the sequence; behind the last: no unit
    const auto& units = set.project.sequence->units;
    FeatureLayer names{"hole names", "", {}};
    for (const auto& read : set.reading->holes) {
        const auto path = HolePath::of(*read.hole);
        if (!path) continue;
        names.features.push_back({GeometryKind::Point, {{path->at({})}}, true, {}, read.name});
        double from = 0;
        const auto add = [&](std::size_t unit, double top, double base) {
            if (!(base > top)) return;
            auto& layer = byUnit[unit];
            layer.name = unit < units.size() ? units[unit].code : "not assigned";
            layer.features.push_back({GeometryKind::Line, {stick(*path, Depth{top}, Depth{base})}, true, {}});
        };
        for (const auto& i : read.intervals) {
            add(units.size(), from, i.top.metres);
            add(i.unit, std::max(from, i.top.metres), i.base.metres);
            from = std::max(from, i.base.metres);
        }
        add(units.size(), from, read.hole->end().metres);
    }
    std::vector<FeatureLayer> out;
    for (auto& [unit, layer] : byUnit) out.push_back(std::move(layer));
    if (!names.features.empty()) out.push_back(std::move(names));
    return out;
}

} // namespace fox
