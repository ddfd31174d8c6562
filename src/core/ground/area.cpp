#include "ground/area.h"

#include "formats/gdal_session.h"

#include <fmt/format.h>

namespace fox {

namespace {

using GeometryPtr = std::unique_ptr<OGRGeometry>;

double signedArea(const Polygon2& p) {
    double twice = 0;
    for (std::size_t i = 0, j = p.size() - 1; i < p.size(); j = i++)
        twice += (p[j].x - p[0].x) * (p[i].y - p[0].y) - (p[i].x - p[0].x) * (p[j].y - p[0].y);
    return twice / 2;
}

GeometryPtr polygonOf(const Polygon2& ring) {
    auto polygon = std::make_unique<OGRPolygon>();
    OGRLinearRing line;
    for (const auto& p : ring) line.addPoint(p.x, p.y);
    line.closeRings();
    polygon->addRing(&line);
    return polygon;
}

/// All of them as one, repaired where they cross themselves.
GeometryPtr joined(std::span<const Polygon2> polygons, Findings* findings) {
    OGRMultiPolygon all;
    const auto add = [&](GeometryPtr part) {
        if (wkbFlatten(part->getGeometryType()) == wkbPolygon)
            all.addGeometryDirectly(part.release());
        else if (OGR_GT_IsSubClassOf(wkbFlatten(part->getGeometryType()), wkbGeometryCollection))
            for (const auto* piece : *part->toGeometryCollection())
                if (wkbFlatten(piece->getGeometryType()) == wkbPolygon) all.addGeometry(piece);
    };
    for (const auto& ring : polygons) {
        if (ring.size() < 3) continue;
        auto next = polygonOf(ring);
        if (!next->IsValid()) {
            next.reset(next->MakeValid());
            if (findings)
                findings->push_back({Severity::Warning,
                                     "FC-OUTLINE",
                                     "",
                                     0,
                                     "",
                                     "",
                                     "",
                                     fmt::format("The outline that begins at E {:.2f} N {:.2f} crosses itself; every second "
                                                 "part of it counts as inside. Draw it again if that is not meant.",
                                                 ring.front().x, ring.front().y),
                                     {},
                                     ring.front()});
            if (!next) continue;
        }
        add(std::move(next));
    }
    if (all.IsEmpty()) return nullptr;
    if (all.getNumGeometries() == 1) return GeometryPtr(all.getGeometryRef(0)->clone());
    return GeometryPtr(all.UnionCascaded()); // by halves: one after the other would take their number squared
}

void addRings(const OGRGeometry& geometry, std::vector<Polygon2>& rings) {
    const auto add = [&](const OGRLinearRing* from, bool outer) {
        Polygon2 ring;
        for (int i = 0; i + 1 < from->getNumPoints(); ++i) ring.push_back({from->getX(i), from->getY(i)});
        if (ring.size() < 3) return;
        if ((signedArea(ring) > 0) != outer) std::ranges::reverse(ring);
        rings.push_back(std::move(ring));
    };
    if (wkbFlatten(geometry.getGeometryType()) == wkbPolygon) {
        const auto* polygon = geometry.toPolygon();
        if (!polygon->getExteriorRing()) return;
        add(polygon->getExteriorRing(), true);
        for (int i = 0; i < polygon->getNumInteriorRings(); ++i) add(polygon->getInteriorRing(i), false);
    } else if (OGR_GT_IsSubClassOf(wkbFlatten(geometry.getGeometryType()), wkbGeometryCollection)) {
        for (const auto* part : *geometry.toGeometryCollection()) addRings(*part, rings);
    }
}

} // namespace

Area Area::within(const Box2& b) const {
    const Polygon2 rectangle{{b.xmin, b.ymin}, {b.xmax, b.ymin}, {b.xmax, b.ymax}, {b.xmin, b.ymax}};
    if (isEverywhere()) return Area(rectangle);
    const GdalSession session;
    OGRMultiPolygon all;
    for (const auto& shape : nested(m_rings)) {
        const auto polygon = polygonOf(shape.ring);
        for (const auto& hole : shape.holes) polygon->toPolygon()->addRing(polygonOf(hole)->toPolygon()->getExteriorRing());
        all.addGeometry(polygon.get());
    }
    const auto box = polygonOf(rectangle);
    const GeometryPtr part(m_outside ? box->Difference(&all) : box->Intersection(&all));
    Area out;
    if (part) addRings(*part, out.m_rings);
    out.m_nowhere = out.m_rings.empty();
    return out;
}

std::vector<RingWithHoles> nested(std::vector<Polygon2> rings) {
    for (auto& ring : rings)
        if (ring.size() > 1 && ring.front() == ring.back()) ring.pop_back();
    std::erase_if(rings, [](const Polygon2& ring) { return ring.size() < 3; });
    const auto n = rings.size();
    std::vector<Box2> boxes(n);
    for (std::size_t i = 0; i < n; ++i)
        for (const auto& p : rings[i]) boxes[i].include(p);
    std::vector<std::size_t> around(n, 0);           // how many others a ring lies in
    std::vector<std::optional<std::size_t>> host(n); // the innermost of them
    for (std::size_t i = 0; i < n; ++i)
        for (std::size_t k = 0; k < n; ++k) {
            const auto &in = boxes[i], &of = boxes[k];
            const bool fits = i != k && in.xmin >= of.xmin && in.xmax <= of.xmax && in.ymin >= of.ymin && in.ymax <= of.ymax;
            if (!fits || !contains(rings[k], rings[i].front())) continue;
            ++around[i];
            if (!host[i] || std::abs(signedArea(rings[k])) < std::abs(signedArea(rings[*host[i]]))) host[i] = k;
        }
    std::vector<RingWithHoles> out;
    std::vector<std::size_t> place(n);
    for (std::size_t i = 0; i < n; ++i)
        if (around[i] % 2 == 0) place[i] = out.size(), out.push_back({rings[i]});
    for (std::size_t i = 0; i < n; ++i)
        if (around[i] % 2 == 1) out[place[*host[i]]].holes.push_back(std::move(rings[i]));
    return out;
}

Area::Area(std::span<const RingWithHoles> shapes) {
    std::vector<Polygon2> outlines, islands;
    for (const auto& s : shapes) {
        outlines.push_back(s.ring);
        islands.insert(islands.end(), s.holes.begin(), s.holes.end());
    }
    *this = Area(outlines, islands);
}

Area::Area(std::span<const Polygon2> outlines, std::span<const Polygon2> islands, Findings* findings) {
    if (outlines.empty() && islands.empty()) return;
    const GdalSession session;
    auto in = joined(outlines, findings);
    const auto out = joined(islands, findings);
    m_outside = outlines.empty();
    if (m_outside)
        in.reset(out ? out->clone() : nullptr);
    else if (in && out)
        in.reset(in->Difference(out.get()));
    if (in) addRings(*in, m_rings);
    if (m_rings.empty() && m_outside) m_outside = false; // islands without extent: everywhere
    m_nowhere = m_rings.empty() && !outlines.empty();
}

bool Area::contains(Point2 p) const {
    if (m_rings.empty()) return !m_nowhere;
    bool inside = m_outside;
    for (const auto& ring : m_rings) inside ^= fox::contains(ring, p);
    return inside;
}

Box2 Area::box() const {
    Box2 box;
    for (const auto& ring : m_rings)
        for (const auto& p : ring) box.include(p);
    return box;
}

Area::Spans Area::spansAt(double y) const {
    Spans spans;
    spans.m_inverted = m_rings.empty() ? !m_nowhere : m_outside;
    for (const auto& ring : m_rings)
        for (std::size_t i = 0, j = ring.size() - 1; i < ring.size(); j = i++) {
            const auto &a = ring[i], &b = ring[j];
            if ((a.y > y) != (b.y > y)) spans.m_crossings.push_back((b.x - a.x) * (y - a.y) / (b.y - a.y) + a.x);
        }
    std::ranges::sort(spans.m_crossings);
    return spans;
}

std::vector<Polyline3> Area::clipped(const Polyline3& line) const {
    if (m_rings.empty()) return std::vector<Polyline3>(m_nowhere ? 0 : 1, line);
    std::vector<Polyline3> pieces;
    const auto bounds = box();
    std::vector<double> cuts;
    bool open = false; // the last piece goes on
    for (std::size_t i = 0; i + 1 < line.size(); ++i) {
        const auto &p = line[i], &q = line[i + 1];
        cuts.assign({0});
        const bool near = std::max(p.x, q.x) >= bounds.xmin && std::min(p.x, q.x) <= bounds.xmax
                          && std::max(p.y, q.y) >= bounds.ymin && std::min(p.y, q.y) <= bounds.ymax;
        if (near)
            for (const auto& ring : m_rings)
                for (std::size_t k = 0, j = ring.size() - 1; k < ring.size(); j = k++) {
                    const auto &a = ring[j], &b = ring[k];
                    const double dx = q.x - p.x, dy = q.y - p.y, ex = b.x - a.x, ey = b.y - a.y, det = dx * ey - dy * ex;
                    if (det == 0) continue;
                    const double t = ((a.x - p.x) * ey - (a.y - p.y) * ex) / det, s = ((a.x - p.x) * dy - (a.y - p.y) * dx) / det;
                    if (s >= 0 && s <= 1 && t > 0 && t < 1) cuts.push_back(t);
                }
        cuts.push_back(1);
        std::ranges::sort(cuts);
        const auto at = [&](double t) {
            return t == 0 ? p : t == 1 ? q : Point3{p.x + t * (q.x - p.x), p.y + t * (q.y - p.y), p.z + t * (q.z - p.z)};
        };
        for (std::size_t k = 0; k + 1 < cuts.size(); ++k) {
            if (cuts[k] == cuts[k + 1]) continue;
            const auto middle = at((cuts[k] + cuts[k + 1]) / 2);
            if (!(near ? contains(middle.plan()) : m_outside)) {
                open = false;
                continue;
            }
            if (!open) pieces.push_back({at(cuts[k])});
            pieces.back().push_back(at(cuts[k + 1]));
            open = true;
        }
    }
    return pieces;
}

} // namespace fox
