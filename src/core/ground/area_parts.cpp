#include "ground/area_parts.h"

#include "formats/gdal_session.h"

// Most triangles lie wholly inside or outside, which a prepared geometry tells from an index of its edges. Only those that the
// edge crosses are intersected. A part with a hole, an island inside one triangle, is halved until its pieces have none.
namespace fox {

namespace {

using GeometryPtr = std::unique_ptr<OGRGeometry>;

void addRing(OGRPolygon& polygon, const Polygon2& ring) {
    OGRLinearRing line;
    for (const auto& p : ring) line.addPoint(p.x, p.y);
    line.closeRings();
    polygon.addRing(&line);
}

Polygon2 ringOf(const OGRLinearRing& line) {
    Polygon2 out;
    for (int i = 0; i + 1 < line.getNumPoints(); ++i) out.push_back({line.getX(i), line.getY(i)});
    return out;
}

/// The polygons of a result, whatever it is put together of.
void collect(const OGRGeometry& geometry, std::vector<const OGRPolygon*>& out) {
    constexpr double kLeast = 1e-6; // square metres
    if (wkbFlatten(geometry.getGeometryType()) == wkbPolygon) {
        if (geometry.toPolygon()->get_Area() > kLeast) out.push_back(geometry.toPolygon());
    } else if (OGR_GT_IsSubClassOf(wkbFlatten(geometry.getGeometryType()), wkbGeometryCollection)) {
        for (const auto* part : *geometry.toGeometryCollection()) collect(*part, out);
    }
}

/// The shape on one side of the middle of its longer extent.
Polygon2 half(const Polygon2& shape, bool upper) {
    Box2 box;
    for (const auto& p : shape) box.include(p);
    const bool wide = box.width() > box.height();
    const auto beyond = [&](Point2 p) {
        const double d = wide ? p.x - box.centre().x : p.y - box.centre().y;
        return upper ? d : -d;
    };
    Polygon2 out; // (Sutherland and Hodgman, 1974)
    for (std::size_t i = 0; i < shape.size(); ++i) {
        const auto a = shape[i], b = shape[(i + 1) % shape.size()];
        const double da = beyond(a), db = beyond(b);
        if (da >= 0) out.push_back(a);
        if ((da > 0 && db < 0) || (da < 0 && db > 0))
            out.push_back({a.x + (b.x - a.x) * da / (da - db), a.y + (b.y - a.y) * da / (da - db)});
    }
    return out;
}

} // namespace

struct AreaParts::Geometry {
    GdalSession session;
    OGRMultiPolygon rings;
    OGRPreparedGeometry* prepared = nullptr;
    bool outside = false; ///< the area is what lies outside of the rings

    ~Geometry() { OGRDestroyPreparedGeometry(prepared); }
    bool allInside(const OGRGeometry& shape) const {
        return outside ? !OGRPreparedGeometryIntersects(prepared, OGRGeometry::ToHandle(const_cast<OGRGeometry*>(&shape)))
                       : OGRPreparedGeometryContains(prepared, OGRGeometry::ToHandle(const_cast<OGRGeometry*>(&shape)));
    }
};

AreaParts::AreaParts(const Area& area) {
    if (area.isEverywhere()) return;
    m_geometry = std::make_unique<Geometry>();
    m_geometry->outside = area.isOutsideOfRings();
    for (const auto& shape : nested(area.rings())) {
        OGRPolygon polygon;
        addRing(polygon, shape.ring);
        for (const auto& hole : shape.holes) addRing(polygon, hole);
        m_geometry->rings.addGeometry(&polygon);
    }
    m_geometry->prepared = OGRCreatePreparedGeometry(OGRGeometry::ToHandle(&m_geometry->rings));
}

AreaParts::~AreaParts() = default;

std::vector<Polygon2> AreaParts::of(const Polygon2& shape) const { return of(shape, 0); }

std::vector<Polygon2> AreaParts::of(const Polygon2& shape, int depth) const {
    if (!m_geometry || shape.size() < 3) return {shape};
    OGRPolygon polygon;
    addRing(polygon, shape);
    if (m_geometry->allInside(polygon)) return {shape};
    const GeometryPtr part(m_geometry->outside ? polygon.Difference(&m_geometry->rings)
                                               : polygon.Intersection(&m_geometry->rings));
    std::vector<const OGRPolygon*> pieces;
    if (part) collect(*part, pieces);
    constexpr int kDeepest = 10;
    if (depth < kDeepest && std::ranges::any_of(pieces, [](const auto* p) { return p->getNumInteriorRings() > 0; })) {
        auto out = of(half(shape, false), depth + 1);
        for (auto& more : of(half(shape, true), depth + 1)) out.push_back(std::move(more));
        return out;
    }
    std::vector<Polygon2> out;
    for (const auto* p : pieces) out.push_back(ringOf(*p->getExteriorRing()));
    return out;
}

double levelOnPlane(const std::array<Point3, 3>& c, Point2 p) {
    const double ax = c[1].x - c[0].x, ay = c[1].y - c[0].y, bx = c[2].x - c[0].x, by = c[2].y - c[0].y;
    const double det = ax * by - ay * bx, dx = p.x - c[0].x, dy = p.y - c[0].y;
    return c[0].z + ((dx * by - dy * bx) * (c[1].z - c[0].z) + (ax * dy - ay * dx) * (c[2].z - c[0].z)) / det;
}

} // namespace fox
