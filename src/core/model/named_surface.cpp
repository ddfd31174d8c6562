#include "model/named_surface.h"

#include "base/errors.h"
#include "ground/triangulate.h"
#include "surfaces/grid_surface.h"

#include <fmt/format.h>
#include <set>

namespace fox {

namespace {

constexpr std::pair<NamedSurface::From, std::pair<const char*, const char*>> kNamedSurfaceWords[] = {
    {NamedSurface::From::Points, {"points", "points"}},
    {NamedSurface::From::Contacts, {"contacts", "contacts"}},
    {NamedSurface::From::Water, {"water", "water surface"}},
    {NamedSurface::From::Grid, {"grid", "grid"}},
    {NamedSurface::From::Triangles, {"triangles", "triangles"}}};

class TriangleSurface : public Surface {
public:
    explicit TriangleSurface(Tin tin) : m_tin(std::move(tin)) {}
    void evaluate(std::span<const Point2> places, std::span<double> values, std::span<double> variances) const override {
        int hint = -1;
        for (std::size_t i = 0; i < places.size(); ++i) values[i] = m_tin.levelAt(places[i], hint).value_or(kNoValue);
        std::ranges::fill(variances, kNoValue);
    }

private:
    Tin m_tin;
};

using Corner = std::pair<double, double>;
std::array<Corner, 3> cornersOf(const Point3& a, const Point3& b, const Point3& c) {
    std::array<Corner, 3> out{Corner{a.x, a.y}, {b.x, b.y}, {c.x, c.y}};
    std::ranges::sort(out);
    return out;
}

} // namespace

bool NamedSurface::operator==(const NamedSurface& o) const {
    return name == o.name && from == o.from && source == o.source && points == o.points && triangles == o.triangles
           && settings == o.settings && (grid == o.grid || (grid && o.grid && *grid == *o.grid));
}

const char* name(NamedSurface::From f) { return kNamedSurfaceWords[std::size_t(f)].second.first; }
const char* words(NamedSurface::From f) { return kNamedSurfaceWords[std::size_t(f)].second.second; }
std::optional<NamedSurface::From> namedSurfaceFrom(std::string_view written) {
    for (const auto& [from, w] : kNamedSurfaceWords)
        if (written == w.first) return from;
    return {};
}

std::shared_ptr<const Surface> triangleSurface(std::span<const Point3> vertices, std::span<const std::array<int, 3>> triangles,
                                               const Progress& progress) {
    // A constrained triangulation keeps every edge, so that all triangles are in it; what it adds out to the hull is taken out.
    std::vector<Polyline3> edges;
    std::set<std::array<Corner, 3>> given;
    std::set<std::pair<int, int>> seen;
    for (const auto& t : triangles) {
        const auto at = [&](std::size_t i) { return vertices[std::size_t(t[i % 3])]; };
        given.insert(cornersOf(at(0), at(1), at(2)));
        for (std::size_t i = 0; i < 3; ++i)
            if (const auto edge = std::minmax(t[i], t[(i + 1) % 3]); seen.insert(edge).second)
                edges.push_back({at(i), at(i + 1)});
    }
    const auto tin = triangulate({}, edges, 0, progress).tin;
    std::vector<bool> takenOut;
    std::size_t kept = 0;
    for (const auto& t : tin.triangles()) {
        const auto c = tin.corners(t);
        takenOut.push_back(!given.contains(cornersOf(c[0], c[1], c[2])));
        kept += !takenOut.back();
    }
    if (kept < given.size())
        throw Error(fmt::format("{} of {} triangles overlap others in plan: they are not one surface.", given.size() - kept,
                                given.size()));
    return std::make_shared<const TriangleSurface>(tin.without(takenOut));
}

FittedNamedSurface fitNamedSurface(const NamedSurface& named, std::span<const Contact> contacts, const FittedWaterSurface* water,
                                   const Progress& progress) {
    FittedNamedSurface out;
    const auto nothing = [&](const std::string& why) {
        out.findings.push_back(
            {Severity::Warning, "FC-NAMED", "", 0, "", "", "", fmt::format("The surface {} {}", named.name, why)});
    };
    std::vector<Point3> points;
    using From = NamedSurface::From;
    switch (named.from) {
    case From::Points: points.assign(named.points.begin(), named.points.end()); break;
    case From::Contacts:
        for (const auto& c : contacts)
            if (c.kind == ContactKind::Observed) points.push_back(c.place);
        break;
    case From::Water:
        if (water) {
            out.fit = water->fit, out.surface = water->fit.surface;
            for (const auto& p : water->fit.data) out.box.include(p.plan());
            return out;
        }
        nothing(fmt::format("is the water surface {}, which is no longer there.", named.source));
        break;
    case From::Grid:
        out.surface = gridSurface(named.grid);
        out.box = named.grid->frame.box();
        return out;
    case From::Triangles:
        out.surface = triangleSurface(*named.points, *named.triangles, progress);
        for (const auto& p : named.points) out.box.include(p.plan());
        return out;
    }
    if (points.empty() && named.from != From::Water)
        nothing(named.from == From::Contacts ? fmt::format("has no contact of {} to be made from.", named.source)
                                             : "has no points to be made from.");
    out.fit = fitSurface(points, {}, named.settings, progress);
    out.surface = out.fit.surface;
    for (const auto& p : points) out.box.include(p.plan());
    return out;
}

} // namespace fox
