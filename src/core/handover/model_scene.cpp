#include "handover/model_scene.h"

#include "base/errors.h"
#include "model/solids.h"
#include "paper/render.h"
#include "sheets/unit_style.h"

#include <numbers>

namespace fox {

using nlohmann::json;

namespace {

constexpr int kSidesOfTube = 8;
constexpr double kPixelsOfPicture = 1024; // on the longer side of the ground's picture

GltfMaterial plain(const std::string& name, paper::Colour c, bool twoSided = false) {
    return {name, {c.red, c.green, c.blue, c.alpha}, {}, twoSided};
}

/// What is draped on the ground, over the whole extent; none if nothing is.
std::shared_ptr<const Picture> drapedPictures(const ProductSet& set, const Box2& extent) {
    const auto pixel = std::max(extent.width(), extent.height()) / kPixelsOfPicture;
    Picture out{std::max(1, int(extent.width() / pixel)), std::max(1, int(extent.height() / pixel)), {}, {}, {}};
    out.rgba.assign(std::size_t(out.width) * std::size_t(out.height) * 4, 255);
    bool some = false;
    for (std::size_t i = 0; i < set.pictures.size(); ++i) {
        const auto& placed = (*set.project.pictures)[i];
        const auto& picture = set.pictures[i];
        if (!picture || !placed.isDrawn() || !placed.draped) continue;
        some = true;
        for (int y = 0; y < out.height; ++y)
            for (int x = 0; x < out.width; ++x) {
                const auto at = placed.placing.toPixel({extent.xmin + (x + 0.5) * pixel, extent.ymax - (y + 0.5) * pixel});
                if (at.x < 0 || at.y < 0 || at.x >= picture->width || at.y >= picture->height) continue;
                const auto* from = &picture->rgba[(std::size_t(at.y) * std::size_t(picture->width) + std::size_t(at.x)) * 4];
                auto* to = &out.rgba[(std::size_t(y) * std::size_t(out.width) + std::size_t(x)) * 4];
                const double share = from[3] / 255.0;
                for (int k = 0; k < 3; ++k) to[k] = std::uint8_t(std::lround(from[k] * share + to[k] * (1 - share)));
            }
    }
    return some ? std::make_shared<const Picture>(std::move(out)) : nullptr;
}

std::string pngOf(const std::shared_ptr<const Picture>& picture) {
    constexpr double kDots = 150;
    paper::Drawing page{picture->width * 25.4 / kDots, picture->height * 25.4 / kDots, {}};
    page.add("ground", "", paper::Image{picture, {0, 0, page.width, page.height}, 1});
    return paper::toPng(page, kDots);
}

double lowestLevel(const ModelGrid& grid) {
    double out = std::numeric_limits<double>::infinity();
    for (std::size_t u = 0; u < grid.unitsWithBase(); ++u)
        for (std::size_t c = 0; c < grid.ground.values.size(); ++c)
            if (const double z = grid.base(u, c); z < out) out = z;
    return out;
}

/// Puts the scene together, thing by thing.
class SceneMaker {
public:
    SceneMaker(const ProductSet& set, const ReducedModel* reduced, SceneLook look)
        : m_set(set), m_reduced(reduced), m_look(look), m_origin(localOrigin(set)), m_units(set.project.sequence->units) {
        m_scene.name = set.project.name;
        m_scene.extras = {{"crs", set.project.site->crs}, {"origin", {m_origin.x, m_origin.y, 0.0}}};
        for (const auto& u : m_units) m_scene.materials.push_back(plain(u.name, colourOf(u)));
    }

    GltfScene take() && { return std::move(m_scene); }

    void units() {
        std::vector<std::size_t> nodes;
        const auto& grid = *m_set.modelGrid;
        for (std::size_t u = 0; u < grid.unitsWithBase(); ++u) {
            const auto body = m_reduced ? bodyOf(*m_reduced, u, m_units[u].code) : solidOf(grid, u, m_units[u].code);
            if (body.triangles.empty()) continue;
            json extras{{"unit", m_units[u].code}, {"name", m_units[u].name}, {"colour", m_units[u].colour}};
            for (const auto& v : m_set.volumes->units)
                if (v.unit == u) extras["volume"] = v.volume;
            nodes.push_back(node(m_units[u].code, bodyMesh(body, u), extras));
        }
        group("Units", "units", nodes);
    }

    void ground() {
        const auto surface = m_reduced ? surfaceOf(*m_reduced, 0, "Ground") : surfaceMesh(m_set.modelGrid->ground, "Ground");
        auto material = plain("Ground", paper::Colour{0xA9, 0xB8, 0x8F}, true);
        const auto extent = m_set.modelGrid->ground.frame.box();
        const auto picture = drapedPictures(m_set, extent);
        if (picture) material.png = pngOf(picture), material.colour = {255, 255, 255, 255};
        m_scene.materials.push_back(std::move(material));
        const auto made = mesh(surface, m_scene.materials.size() - 1);
        if (picture)
            for (const auto& v : surface.vertices)
                m_scene.meshes[made].texture.push_back(
                    {float((v.x - extent.xmin) / extent.width()), float((extent.ymax - v.y) / extent.height())});
        m_scene.roots.push_back(node("Ground", made, {{"group", "ground"}}));
    }

    void holes() {
        const auto& holes = *m_set.project.holes;
        const auto names = displayNames(holes);
        m_scene.materials.push_back(plain("Without a unit", paper::Colour{0x9A, 0x93, 0x88}));
        m_scene.materials.push_back(plain("Collars", paper::kInk));
        const auto unread = m_scene.materials.size() - 2, collar = unread + 1;
        std::vector<std::size_t> all;
        for (std::size_t i = 0; i < holes.size(); ++i) {
            const auto path = HolePath::of(holes[i]);
            if (!path || !(holes[i].end().metres > 0)) continue;
            std::vector<std::size_t> pieces;
            Depth done{0};
            const auto piece = [&](Depth top, Depth base, std::optional<std::size_t> unit) {
                if (!(base > top)) return;
                const auto tube = tubeOf(pathBetween(*path, top, base), tubeRadius());
                pieces.push_back(
                    node(fmt::format("{} {}", names[i], unit ? m_units[*unit].code : "-"), mesh(tube, unit.value_or(unread)),
                         {{"unit", unit ? json(m_units[*unit].code) : json()}, {"top", top.metres}, {"base", base.metres}}));
            };
            for (const auto& read : m_set.reading->holes)
                if (read.index == i)
                    for (const auto& interval : read.intervals) {
                        piece(done, interval.top, {});
                        piece(std::max(done, interval.top), interval.base, interval.unit);
                        done = std::max(done, interval.base);
                    }
            piece(done, holes[i].end(), {});
            const auto top = path->at(Depth{0});
            // what can be seen of the hole from above
            const double radius = tubeRadius();
            pieces.push_back(
                node(names[i] + " collar", mesh(tubeOf({{top.x, top.y, top.z + radius}, top}, 1.5 * radius), collar)));
            all.push_back(node(names[i], {},
                               {{"hole", names[i]},
                                {"easting", top.x},
                                {"northing", top.y},
                                {"level", top.z},
                                {"depth", holes[i].end().metres}}));
            m_scene.nodes[all.back()].children = pieces;
        }
        group("Holes", "holes", all);
    }

    void faults() {
        std::vector<std::size_t> all;
        if (m_set.project.interpretation->faults.empty()) return;
        m_scene.materials.push_back(plain("Faults", paper::Colour{0xA8, 0x32, 0x2A, 0xB0}, true));
        for (const auto& f : m_set.project.interpretation->faults)
            if (const auto sheet = faultSheet(m_set, f.fault); !sheet.triangles.empty())
                all.push_back(node(f.fault.name, mesh(sheet, m_scene.materials.size() - 1)));
        group("Faults", "faults", all);
    }

    void water() {
        std::vector<std::size_t> all;
        for (std::size_t i = 0; i < m_set.waterSurfaces.size(); ++i)
            if (const auto& made = m_set.waterSurfaces[i]; made && made->levels) {
                m_scene.materials.push_back(plain((*m_set.project.waterSurfaces)[i].name, paper::kSlate.withAlpha(0x90), true));
                all.push_back(node((*m_set.project.waterSurfaces)[i].name,
                                   mesh(surfaceMesh(*made->levels, ""), m_scene.materials.size() - 1)));
            }
        group("Water surfaces", "water", all);
    }

private:
    /// A body in its unit's colour, or with the sign of its ground as well.
    std::size_t bodyMesh(const TriangleMesh& body, std::size_t u) {
        if (m_look == SceneLook::Colours || patternOf(m_units[u]) == paper::Pattern::None) return mesh(body, u);
        constexpr double kTiles = 60; // over the extent
        const auto box = m_set.modelGrid->ground.frame.box();
        auto made = tiled(body, std::max(box.width(), box.height()) / kTiles);
        m_scene.materials.push_back({m_units[u].name + ", pattern", {255, 255, 255, 255}, tilePng(m_units[u])});
        const auto at = mesh(made.mesh, m_scene.materials.size() - 1);
        m_scene.meshes[at].texture = std::move(made.texture);
        return at;
    }
    static std::string tilePng(const Unit& unit) {
        constexpr double kPixels = 128;
        paper::Drawing tile{paper::kPatternTile, paper::kPatternTile, {}};
        tile.add("unit", unit.code, paper::FilledArea{{paper::rectangle(0, 0, tile.width, tile.height)}, fillOf(unit)});
        return paper::toPng(tile, kPixels / paper::kPatternTile * 25.4);
    }
    double tubeRadius() const {
        const auto box = m_set.modelGrid->ground.frame.box();
        return std::max(box.width(), box.height()) / 500;
    }
    static TriangleMesh tubeOf(const std::vector<Point3>& path, double radius) {
        TriangleMesh out;
        for (const auto& p : path)
            for (int k = 0; k < kSidesOfTube; ++k) {
                const double turn = 2 * std::numbers::pi * k / kSidesOfTube;
                out.vertices.push_back({p.x + radius * std::cos(turn), p.y + radius * std::sin(turn), p.z});
            }
        const auto corner = [](std::size_t ring, int k) { return int(ring) * kSidesOfTube + k % kSidesOfTube; };
        for (std::size_t r = 0; r + 1 < path.size(); ++r)
            for (int k = 0; k < kSidesOfTube; ++k) {
                out.triangles.push_back({corner(r, k), corner(r + 1, k), corner(r + 1, k + 1)});
                out.triangles.push_back({corner(r, k), corner(r + 1, k + 1), corner(r, k + 1)});
            }
        const auto last = path.size() - 1;
        for (int k = 1; k + 1 < kSidesOfTube; ++k) {
            out.triangles.push_back({corner(0, 0), corner(0, k), corner(0, k + 1)});
            out.triangles.push_back({corner(last, 0), corner(last, k + 1), corner(last, k)});
        }
        return out;
    }

    std::size_t mesh(const TriangleMesh& from, std::size_t material) {
        GltfMesh out{from.name, {}, {}, {}, material};
        out.positions.reserve(from.vertices.size());
        for (const auto& v : from.vertices)
            out.positions.push_back({float(v.x - m_origin.x), float(v.z), float(m_origin.y - v.y)});
        out.indices.reserve(3 * from.triangles.size());
        for (const auto& t : from.triangles)
            for (const int n : t) out.indices.push_back(std::uint32_t(n));
        m_scene.meshes.push_back(std::move(out));
        return m_scene.meshes.size() - 1;
    }
    std::size_t node(const std::string& name, std::optional<std::size_t> mesh, json extras = {}) {
        m_scene.nodes.push_back({name, mesh, {}, std::move(extras)});
        return m_scene.nodes.size() - 1;
    }
    void group(const char* name, const char* key, const std::vector<std::size_t>& nodes) {
        if (nodes.empty()) return;
        m_scene.nodes.push_back({name, {}, nodes, {{"group", key}}});
        m_scene.roots.push_back(m_scene.nodes.size() - 1);
    }

    const ProductSet& m_set;
    const ReducedModel* m_reduced;
    SceneLook m_look;
    Point2 m_origin;
    const std::vector<Unit>& m_units;
    GltfScene m_scene;
};

} // namespace

Point2 localOrigin(const ProductSet& set) {
    if (!set.frame) return {};
    constexpr double kRound = 100;
    return {std::round((set.frame->xmin + set.frame->xmax) / 2 / kRound) * kRound,
            std::round((set.frame->ymin + set.frame->ymax) / 2 / kRound) * kRound};
}

TriangleMesh faultSheet(const ProductSet& set, const Fault& fault) {
    TriangleMesh sheet{fault.name, {}, {}};
    const double length = lengthOf(fault.line), lowest = lowestLevel(*set.modelGrid);
    const int pieces = std::max(1, int(std::ceil(length / (4 * set.modelGrid->ground.frame.cell))));
    int last = -1;
    for (int k = 0; k <= pieces; ++k) {
        const auto p = pointAlong(fault.line, length * k / pieces);
        const auto level = set.terrain ? set.terrain->levelAt(p) : std::nullopt;
        const int at = level ? int(sheet.vertices.size()) : -1;
        if (level) sheet.vertices.push_back({p.x, p.y, *level}), sheet.vertices.push_back({p.x, p.y, lowest});
        if (level && last >= 0)
            sheet.triangles.push_back({last, last + 1, at + 1}), sheet.triangles.push_back({last, at + 1, at});
        last = at;
    }
    return sheet;
}

TiledMesh tiled(const TriangleMesh& from, double tile) {
    TiledMesh out{{from.name, {}, {}}, {}};
    enum class Facing { Up, East, North };
    std::map<std::pair<int, Facing>, int> made;
    for (const auto& t : from.triangles) {
        const auto corner = [&](std::size_t k) { return from.vertices[std::size_t(t[k])]; };
        const auto a = corner(0), b = corner(1), c = corner(2);
        const double ux = b.x - a.x, uy = b.y - a.y, uz = b.z - a.z, vx = c.x - a.x, vy = c.y - a.y, vz = c.z - a.z;
        const double nx = std::abs(uy * vz - uz * vy), ny = std::abs(uz * vx - ux * vz), nz = std::abs(ux * vy - uy * vx);
        const auto facing = nz >= std::hypot(nx, ny) ? Facing::Up : nx >= ny ? Facing::East : Facing::North;
        auto& corners = out.mesh.triangles.emplace_back();
        for (std::size_t k = 0; k < 3; ++k) {
            const auto [at, isNew] = made.try_emplace({t[k], facing}, int(out.mesh.vertices.size()));
            corners[k] = at->second;
            if (!isNew) continue;
            const auto& p = from.vertices[std::size_t(t[k])];
            // from a corner of the mesh, so that the numbers are small enough for single precision
            const double x = p.x - from.vertices.front().x, y = p.y - from.vertices.front().y;
            out.mesh.vertices.push_back(p);
            out.texture.push_back(
                {float((facing == Facing::East ? y : x) / tile), float((facing == Facing::Up ? -y : -p.z) / tile)});
        }
    }
    return out;
}

GltfScene sceneOf(const ProductSet& set, const ReducedModel* reduced, SceneLook look) {
    if (!set.modelGrid || set.modelGrid->bases.empty())
        throw Error("There is no model to export: the project has no ground, or no sequence, yet.");
    SceneMaker maker(set, reduced, look);
    maker.units(), maker.ground(), maker.holes(), maker.faults(), maker.water();
    return std::move(maker).take();
}

} // namespace fox
