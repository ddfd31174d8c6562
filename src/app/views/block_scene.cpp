#include "views/block_scene.h"

#include "ground/area_parts.h"
#include "ground/raster_ground.h"
#include "style/theme.h"
#include "views/block_frame.h"
#include "views/block_objects.h"
#include "views/block_surfaces.h"
#include "views/scene_blocks.h"
#include "views/scene_layers.h"
#include "views/scene_pieces.h"
#include "views/scene_walls.h"
#include "views/value_layer.h"

#include <vtkCellArray.h>
#include <vtkFloatArray.h>
#include <vtkIdList.h>
#include <vtkImageData.h>
#include <vtkNew.h>
#include <vtkPolyData.h>
#include <vtkPolyDataNormals.h>
#include <vtkRenderer.h>
#include <vtkTriangleFilter.h>
#include <vtkTubeFilter.h>

namespace fox::app {

using scene::Heads;
using scene::Mesh;
using scene::Piece;

struct BlockScene::Shapes {
    std::vector<Piece> pieces;
    Extent extent;
    std::vector<Top> tops;
    std::vector<PlaneHandle> planeHandles;
    std::vector<Label> labels;
    std::vector<CutHandle> cutHandles;
    std::size_t nodes = 0;
};

BlockScene::Extent BlockScene::extent() const { return m_shapes ? m_shapes->extent : Extent(); }
const std::vector<BlockScene::Top>& BlockScene::tops() const {
    static const std::vector<Top> kNone;
    return m_shapes ? m_shapes->tops : kNone;
}
const std::vector<BlockScene::PlaneHandle>& BlockScene::planeHandles() const {
    static const std::vector<PlaneHandle> kNone;
    return m_shapes ? m_shapes->planeHandles : kNone;
}
const std::vector<BlockScene::Label>& BlockScene::labels() const {
    static const std::vector<Label> kNone;
    return m_shapes ? m_shapes->labels : kNone;
}
const std::vector<BlockScene::CutHandle>& BlockScene::cutHandles() const {
    static const std::vector<CutHandle> kNone;
    return m_shapes ? m_shapes->cutHandles : kNone;
}
std::size_t BlockScene::nodes() const { return m_shapes ? m_shapes->nodes : 0; }
std::size_t BlockScene::actors() const { return m_shapes ? m_shapes->pieces.size() : 0; }

void BlockScene::fill(vtkRenderer& renderer, const Shapes* shapes) {
    renderer.RemoveAllViewProps();
    if (!shapes) return;
    for (const auto& piece : shapes->pieces) renderer.AddActor(scene::actorOf(piece));
}

namespace {

/// Makes the shapes of one look; one use.
class Filler {
public:
    Filler(const ProductSet& products, const BlockScene::Look& look, const Progress& progress)
        : m_products(products),
          m_look(look),
          m_progress(progress),
          m_placing(products, look),
          m_lattice(isWhole() ? nullptr : products.modelGrid.get(), *products.ground, m_placing.floor(),
                    isWhole() ? BlockCut{} : look.cut, chosenLine(),
                    look.coarse ? BlockScene::kCoarseNodes : BlockScene::kMostNodes) {}

    std::size_t nodes() const { return m_lattice.nodes(); }
    std::vector<Piece> pieces() { return std::move(m_pieces); }

    void fill(BlockScene::Extent& extent, std::vector<BlockScene::Top>& tops,
              std::vector<BlockScene::PlaneHandle>& planeHandles) {
        using Ground = BlockScene::Look::Ground;
        if (m_look.terrain) {
            addTerrain();
            tops.clear();
        } else if (m_look.ground != Ground::Hidden || m_look.cut.level)
            addGround();
        if (!m_look.terrain) {
            scene::Walls walls(m_products, m_look, m_placing);
            if (m_products.modelGrid && m_look.block) addWalls(walls), addFaces(), addCutFaces(walls);
            if (m_look.block) addFences(walls);
            for (auto& piece : walls.take()) m_pieces.push_back(std::move(piece));
            addHoles(tops);
            if (m_look.plane) addPlane(*m_look.plane, planeHandles);
            addTubes(sceneContacts(m_products, m_placing), m_look.block);
            addTubes(sceneValues(m_products.project, m_placing), m_look.block);
        }
        if (m_look.terrain || !m_look.cut.level)
            for (const auto& layer : *m_products.project.background)
                if (layer.shown && layer.draped) addTubes(sceneLines(layer, m_products, m_placing), m_look.block);
        for (const auto& surface : m_look.surfaces) addSurface(surface);
        if (m_look.blocks) addBlocks(*m_look.blocks);
        const double raised = m_look.layers ? addLayers(*m_look.layers) : 0;
        extent.centre[0] = extent.centre[1] = 0;
        const auto box = m_products.ground->frame.box();
        const double high = m_placing.highest() + lift(0) + raised, low = m_placing.floor(); // exploded, it is higher
        extent.centre[2] = z((high + low) / 2);
        extent.half[0] = box.width() / 2, extent.half[1] = box.height() / 2, extent.half[2] = (z(high) - z(low)) / 2;
        extent.radius = std::hypot(box.width(), box.height(), z(high) - z(low))
                        / (m_look.terrain ? 1.55 : 2); // without a block under it the near rim comes closer
        if (m_look.blocks) lookAtBlocks(extent);
    }

    /// Blocks and excavations are often a small part of the site: they fill the pane, the rest is around them.
    void lookAtBlocks(BlockScene::Extent& extent) const {
        const auto room = roomOf(m_products, *m_look.blocks);
        if (!room) return;
        const auto low = m_placing.at(room->low),
                   high = m_placing.at({room->high.x, room->high.y, room->high.z + blocksRaised(*m_look.blocks)});
        constexpr double kAround = 1.3;
        const double size[3] = {(high.x - low.x) / 2 * kAround, (high.y - low.y) / 2 * kAround, (high.z - low.z) / 2 * kAround};
        if (size[0] > extent.half[0] || size[1] > extent.half[1]) return; // as large as the site
        extent.centre[0] = (low.x + high.x) / 2, extent.centre[1] = (low.y + high.y) / 2, extent.centre[2] = (low.z + high.z) / 2;
        std::ranges::copy(size, extent.half);
        extent.radius = std::hypot(size[0], size[1], size[2]);
    }

    /// The frame of coordinates around the block.
    void addFrame(std::vector<BlockScene::Label>& labels) {
        if (!m_look.frame) return;
        auto frame = sceneFrame(m_products.ground->frame.box(), m_placing);
        Mesh shapes;
        for (const auto& l : frame.lines)
            shapes.line(shapes.point(l.from.x, l.from.y, l.from.z), shapes.point(l.to.x, l.to.y, l.to.z), l.colour);
        if (!shapes.empty()) addMesh(shapes.take(), 1, false);
        labels = std::move(frame.labels);
    }

    /// A ball in the middle of each upright cut over the ground, and one beside it that turns it.
    void addCutHandles(std::vector<BlockScene::CutHandle>& handles) {
        SceneTubes rims;
        const double thick = std::max(2.5, m_placing.width() / 220);
        rims.radius = thick / 3;
        const double top = m_placing.highest() + (m_placing.highest() - m_placing.floor()) * 0.06;
        for (std::size_t k = 0; k < m_look.cut.planes.size(); ++k) {
            const auto& plane = m_look.cut.planes[k];
            const auto at = [&](double s) { return m_placing.at({plane.along(s).x, plane.along(s).y, top}); };
            const double far = m_placing.width() / 5;
            rims.lines.push_back({at(-far), at(far), colour::fox});
            for (const bool turns : {false, true}) {
                const auto p = at(turns ? far : 0);
                handles.push_back({k, turns, {p.x, p.y, p.z}});
                m_handles.push_back({{{}, {p.x, p.y, p.z}}, (turns ? 1.6 : 2.2) * thick, colour::fox});
            }
        }
        addTubes(rims, false);
        addHeads(m_handles);
    }

private:
    void addMesh(vtkPolyData* data, double opacity, bool lit) {
        m_progress.check();
        m_pieces.push_back({data, Piece::Kind::Mesh, opacity, lit});
    }

    double x(double easting) const { return m_placing.x(easting); }
    double y(double northing) const { return m_placing.y(northing); }
    double z(double level) const { return m_placing.z(level); }
    double lift(std::size_t unit) const { return m_placing.lift(unit); }
    bool isHidden(std::size_t unit) const { return m_placing.isHidden(unit); }
    QColor unitFill(std::size_t unit) const { return m_placing.fill(unit); }
    bool isWhole() const { return !m_look.block || m_look.terrain; } ///< nothing is cut from the ground

    const Polyline2* chosenLine() const {
        const auto& lines = *m_products.project.sections;
        if (lines.empty()) return nullptr;
        return &lines[std::size_t(std::clamp(m_look.section, 0, int(lines.size()) - 1))].line;
    }

    void addGround() {
        Mesh ground, face;
        const auto cut = m_look.block && !m_look.terrain ? m_look.cut.level : std::nullopt;
        const auto& l = m_lattice;
        // squares share their corners, so that light goes smoothly over them
        std::vector<vtkIdType> groundIds(l.nodes(), -1), faceIds(l.nodes(), -1);
        for (int j = 0; j + 1 < l.rows(); ++j)
            for (int i = 0; i + 1 < l.columns(); ++i) {
                if (!l.square(i, j)) {
                    addCutSquare(ground, i, j);
                    continue;
                }
                const bool above = cut && l.ground(i, j) > *cut; // here the cut's face is seen
                auto& shapes = above ? face : ground;
                auto& ids = above ? faceIds : groundIds;
                const auto corner = [&](int di, int dj) {
                    auto& id = ids[std::size_t(j + dj) * std::size_t(l.columns()) + std::size_t(i + di)];
                    if (id >= 0) return id;
                    const auto p = l.place(i + di, j + dj);
                    const double level = cut ? std::min(*cut, l.ground(i + di, j + dj)) : l.ground(i + di, j + dj);
                    return id = shapes.point(x(p.x), y(p.y), z(level + lift(0)));
                };
                QColor colour = groundColour(l.ground(i, j));
                if (above && m_products.modelGrid) {
                    const auto u = unitAtLevel(i, j, *cut);
                    if (isHidden(u)) continue;
                    colour = unitFill(u);
                }
                shapes.quad({corner(0, 1), corner(1, 1), corner(1, 0), corner(0, 0)}, colour);
            }
        if (!face.empty()) addMesh(face.take(), 1, false);
        if (ground.empty() || m_look.ground == BlockScene::Look::Ground::Hidden) return;
        const auto data = ground.take();
        if (m_look.terrain) return addLit(data);
        vtkNew<vtkPolyDataNormals> normals;
        normals->SetInputData(data);
        normals->SplittingOff();
        normals->Update();
        const bool through = m_look.ground == BlockScene::Look::Ground::SeeThrough || !m_look.block;
        addMesh(normals->GetOutput(), through ? 0.35 : 1, true);
        if (m_look.contours && !m_placing.isExploded()) addContours();
        if (!through) addDraped(normals->GetOutput());
    }

    /// What upright planes leave of a square of the ground; where a level cuts too, its face is left out there.
    void addCutSquare(Mesh& shapes, int i, int j) const {
        const auto ring = m_lattice.cutSquare(i, j);
        if (ring.empty()) return;
        const auto nw = m_lattice.place(i, j), se = m_lattice.place(i + 1, j + 1);
        const double levels[2][2] = {{m_lattice.ground(i, j), m_lattice.ground(i + 1, j)},
                                     {m_lattice.ground(i, j + 1), m_lattice.ground(i + 1, j + 1)}};
        std::vector<vtkIdType> ids;
        for (const auto& s : ring) {
            const double north = levels[0][0] + s.x * (levels[0][1] - levels[0][0]),
                         south = levels[1][0] + s.x * (levels[1][1] - levels[1][0]);
            double level = north + s.y * (south - north);
            if (m_look.cut.level) level = std::min(level, *m_look.cut.level);
            ids.push_back(shapes.point(x(nw.x + s.x * (se.x - nw.x)), y(nw.y + s.y * (se.y - nw.y)), z(level + lift(0))));
        }
        shapes.polygon(ids, groundColour(levels[0][0]));
    }

    /// The faces of upright cuts, with the units that they lay open.
    void addCutFaces(scene::Walls& walls) const {
        const auto box = m_products.ground->frame.box();
        const double size = std::hypot(box.width(), box.height()), step = std::max(m_products.ground->frame.cell, size / 400);
        for (std::size_t k = 0; k < m_look.cut.planes.size(); ++k) {
            const auto& plane = m_look.cut.planes[k];
            std::optional<std::pair<Point2, std::vector<double>>> before;
            for (double s = -size; s <= size; s += step) {
                const auto p = plane.along(s);
                auto levels = levelsAt(p);
                const bool cutAway = std::ranges::any_of(
                    m_look.cut.planes, [&](const UprightCut& other) { return &other != &plane && other.rightOf(p) > 1e-6; });
                if (cutAway || levels.empty()) {
                    before.reset();
                    continue;
                }
                if (before) walls.band(before->first, p, before->second, levels);
                before.emplace(p, std::move(levels));
            }
        }
    }

    /// Levels of the model at a place, linear between cells; empty outside.
    std::vector<double> levelsAt(Point2 p) const {
        std::vector<double> out;
        const auto take = [&](const Grid& grid) {
            auto level = bilinear(grid, p).value_or(kNoValue);
            if (m_look.cut.level && !std::isnan(level)) level = std::min(level, *m_look.cut.level);
            out.push_back(level);
        };
        take(*m_products.ground);
        if (std::isnan(out.front())) return {};
        for (const auto& b : m_products.modelGrid->bases) take(b);
        out.push_back(std::isnan(out.back()) ? kNoValue : m_placing.floor());
        return out;
    }

    void addSurface(const SceneSurface& surface) {
        const auto drawn = sceneSurface(surface, m_products, m_look.coarse, m_progress);
        if (drawn.levels.values.empty()) return;
        Mesh shapes;
        const auto& f = drawn.levels.frame;
        std::vector<vtkIdType> ids(drawn.levels.values.size(), -1);
        const auto at = [&](int c, int r) {
            auto& id = ids[std::size_t(r) * std::size_t(f.columns()) + std::size_t(c)];
            if (id >= 0) return id;
            const auto p = f.centre(c, r);
            return id = shapes.point(x(p.x), y(p.y), z(drawn.levels.at(c, r)) + m_placing.over(0.001));
        };
        for (int r = 0; r + 1 < f.rows(); ++r)
            for (int c = 0; c + 1 < f.columns(); ++c) {
                const double corners[] = {drawn.levels.at(c, r + 1), drawn.levels.at(c + 1, r + 1), drawn.levels.at(c + 1, r),
                                          drawn.levels.at(c, r)};
                if (std::ranges::any_of(corners, [](double v) { return std::isnan(v); })) continue;
                shapes.quad({at(c, r + 1), at(c + 1, r + 1), at(c + 1, r), at(c, r)}, drawn.colourAt(c, r));
            }
        if (shapes.empty()) return;
        vtkNew<vtkPolyDataNormals> normals;
        normals->SetInputData(shapes.take());
        normals->SplittingOff();
        normals->Update();
        addMesh(normals->GetOutput(), surface.opacity, true);
        Mesh lines;
        for (const auto& c : drawn.contours) {
            vtkIdType before = -1;
            for (const auto& p : c.line) {
                const auto next = lines.point(x(p.x), y(p.y), z(c.level) + m_placing.over(0.004));
                if (before >= 0) lines.line(before, next, QColor(37, 33, 28));
                before = next;
            }
        }
        if (!lines.empty()) addMesh(lines.take(), 1, false);
    }

    /// What a cut through the model leaves of blocks.
    BlocksLeft blocksLeft() const {
        const auto& cut = m_look.cut;
        BlocksLeft out;
        out.below = cut.level;
        const auto* line = cut.line ? chosenLine() : nullptr;
        if (cut.south <= 0 && cut.west <= 0 && !line && cut.planes.empty()) return out;
        const auto box = m_products.ground->frame.box();
        out.column = [&cut, box, line](Point2 p) {
            return p.y >= box.ymin + cut.south * box.height() && p.x >= box.xmin + cut.west * box.width()
                   && (!line || project(*line, p).offset <= 0)
                   && std::ranges::all_of(cut.planes, [&](const auto& plane) { return plane.rightOf(p) <= 0; });
        };
        return out;
    }

    /// In the exploded view blocks are lifted out of the pit that is dug for them, metres.
    double blocksRaised(const BlockLook& look) const {
        const bool both = look.pit && shownExcavation(&m_products, look) && shownExcavation(&m_products, look)->dig;
        const auto room = both && m_look.apart > 0 ? roomOf(m_products, look) : std::nullopt;
        constexpr double kTimes = 4; // of the exploded view's share, so that they come clear of the ground
        return room ? kTimes * m_look.apart * (room->high.z - room->low.z) : 0;
    }

    /// Blocks by value, and the dug surface of an excavation in the colours of the units that it lays open.
    void addBlocks(const BlockLook& look) {
        constexpr std::size_t kMostFaces = 40000, kCoarseFaces = 6000;
        const auto* made = look.blocks ? shownBlocks(&m_products, look) : nullptr;
        if (made && made->blocks) {
            Mesh shapes;
            auto faces = blockFaces(*made->blocks, look, *m_products.project.sequence, m_look.coarse ? kCoarseFaces : kMostFaces,
                                    blocksLeft(), m_progress);
            for (auto& face : faces)
                for (auto& corner : face.corners) corner.z += blocksRaised(look);
            addTo(shapes, faces);
            if (!shapes.empty()) addMesh(shapes.take(), 1, true);
        }
        Mesh pit;
        addTo(pit, pitFaces(m_products, look, [this](Point2 p, double level) {
                  return m_products.modelGrid ? unitFill(unitAtLevel(p, level)) : colour::fox;
              }));
        if (!pit.empty()) addLit(pit.take());
        if (m_look.apart > 0) addTakenUnits(look);
    }

    /// In the exploded view the units that an excavation is for are lifted out of it, in blocks as wide as its cells.
    void addTakenUnits(const BlockLook& look) {
        const auto* made = look.pit ? shownExcavation(&m_products, look) : nullptr;
        if (!made || !made->dig || made->spec.wanted != ExcavationSpec::Wanted::Units || !m_products.modelGrid) return;
        constexpr std::size_t kMostFaces = 20000, kCoarseFaces = 4000;
        auto one = look;
        one.colour = BlockLook::Colour::Unit, one.showAll();
        const auto& sequence = *m_products.project.sequence;
        const auto taken = takenGround(*made, sequence, [this](Point2 p, double level) { return unitAtLevel(p, level); });
        auto faces = blockFaces(taken, one, sequence, m_look.coarse ? kCoarseFaces : kMostFaces, blocksLeft(), m_progress);
        for (auto& face : faces)
            for (auto& corner : face.corners) corner.z += blocksRaised(look);
        Mesh shapes;
        addTo(shapes, faces);
        if (!shapes.empty()) addMesh(shapes.take(), 1, true);
    }

    /// The layers of a grid or mesh; faces along lines show through them. How much the uppermost is raised, metres.
    double addLayers(const LayerLook& look) {
        constexpr std::size_t kMostFaces = 60000, kCoarseFaces = 8000;
        const double gap = m_look.apart * (m_placing.highest() - m_placing.floor());
        const auto made = layerShapes(m_products, look, gap, m_look.coarse ? kCoarseFaces : kMostFaces, m_progress);
        Mesh cells, walls;
        addTo(cells, made.faces);
        addTo(walls, made.walls);
        constexpr double kSeeThrough = 0.4;
        if (!walls.empty()) addMesh(walls.take(), 1, true);
        if (!cells.empty()) addMesh(cells.take(), made.walls.empty() ? 1 : kSeeThrough, true);
        double highest = m_placing.highest();
        for (const auto& f : made.faces)
            for (const auto& p : f.corners) highest = std::max(highest, p.z);
        return highest - m_placing.highest();
    }

    void addTo(Mesh& shapes, const std::vector<BlockFace>& faces) const {
        for (const auto& f : faces) {
            std::array<vtkIdType, 4> ids{};
            for (std::size_t k = 0; k < 4; ++k) ids[k] = shapes.point(x(f.corners[k].x), y(f.corners[k].y), z(f.corners[k].z));
            shapes.quad(ids, f.colour);
        }
    }

    std::size_t unitAtLevel(int i, int j, double level) const { return unitAtLevel(m_lattice.place(i, j), level); }
    std::size_t unitAtLevel(Point2 p, double level) const {
        const auto& f = m_products.ground->frame;
        const int c = std::clamp(int((p.x - f.xmin) / f.cell), 0, f.columns() - 1),
                  r = std::clamp(int((f.ymax - p.y) / f.cell), 0, f.rows() - 1);
        std::size_t u = 0;
        for (const auto& b : m_products.modelGrid->bases) {
            if (b.at(c, r) < level) break;
            ++u;
        }
        return u;
    }

    /// Tops of units that nothing hides, because what lies over them there is not shown or the view is exploded; then bases too.
    void addFaces() {
        const bool groundHides = m_look.ground != BlockScene::Look::Ground::Hidden;
        if (!m_placing.isExploded() && groundHides && m_look.hidden.isEmpty()) return; // nothing of them is seen
        Mesh shapes;
        const auto& l = m_lattice;
        for (int j = 0; j + 1 < l.rows(); ++j)
            for (int i = 0; i + 1 < l.columns(); ++i) {
                if (!l.square(i, j)) continue;
                const std::array corners{l.levels(i, j + 1), l.levels(i + 1, j + 1), l.levels(i + 1, j), l.levels(i, j)};
                bool hidden = groundHides; // by what lies over it
                for (std::size_t u = 0; u < m_products.project.sequence->units.size() && u + 1 < corners[0].size(); ++u) {
                    if (std::ranges::any_of(corners, [&](const auto& v) { return std::isnan(v[u]) || std::isnan(v[u + 1]); }))
                        break;
                    if (std::ranges::all_of(corners, [&](const auto& v) { return v[u] - v[u + 1] < 1e-6; })) continue;
                    if (!isHidden(u)) {
                        if (m_placing.isExploded() ? u > 0 || !groundHides : !hidden)
                            addFace(shapes, i, j, corners, u, u, unitFill(u));
                        if (m_placing.isExploded() && u + 2 < corners[0].size())
                            addFace(shapes, i, j, corners, u + 1, u, unitFill(u).darker(112));
                    }
                    hidden = !isHidden(u);
                }
            }
        if (!shapes.empty()) addMesh(shapes.take(), 1, true);
    }

    /// A square of a surface, drawn with the unit that it belongs to.
    void addFace(Mesh& shapes, int i, int j, const std::array<std::vector<double>, 4>& levels, std::size_t surface,
                 std::size_t unit, const QColor& fill) const {
        std::array<vtkIdType, 4> ids{};
        constexpr int kAt[4][2] = {{0, 1}, {1, 1}, {1, 0}, {0, 0}};
        for (std::size_t k = 0; k < 4; ++k) {
            const auto p = m_lattice.place(i + kAt[k][0], j + kAt[k][1]);
            ids[k] = shapes.point(x(p.x), y(p.y), z(levels[k][surface] + lift(unit)));
        }
        shapes.quad(ids, fill);
    }

    /// The triangles themselves, grids where there are none, contours over them, and pictures draped.
    void addTerrain() {
        constexpr std::size_t kMostTriangles = 400000; // more can't be told apart: the sampled ground does
        const auto& terrain = *m_products.terrain;
        if (terrain.tin.empty() || terrain.tin.triangles().size() > kMostTriangles || !terrain.rasters.empty()) {
            addGround();
        } else {
            addTriangles(terrain);
        }
        addContours();
    }

    /// Each triangle, or what of it lies within the limits and outside the islands.
    void addTriangles(const Terrain& terrain) {
        Mesh shapes;
        const AreaParts parts(terrain.area);
        std::vector<vtkIdType> ids(terrain.tin.vertices().size(), -1);
        for (const auto& t : terrain.tin.triangles()) {
            const auto c = terrain.tin.corners(t);
            const Polygon2 triangle{c[0].plan(), c[1].plan(), c[2].plan()};
            const auto colour = groundColour((c[0].z + c[1].z + c[2].z) / 3);
            for (const auto& part : parts.of(triangle)) {
                std::vector<vtkIdType> corners;
                for (const auto& p : part) {
                    const auto own = std::ranges::find(triangle, p) - triangle.begin();
                    if (own == 3) {
                        corners.push_back(shapes.point(x(p.x), y(p.y), z(levelOnPlane(c, p))));
                        continue;
                    }
                    auto& id = ids[std::size_t(t.vertex[std::size_t(own)])];
                    if (id < 0) id = shapes.point(x(p.x), y(p.y), z(c[std::size_t(own)].z));
                    corners.push_back(id);
                }
                shapes.polygon(corners, colour);
            }
        }
        if (shapes.empty()) return;
        vtkNew<vtkTriangleFilter> convex; // parts may have corners that turn inwards
        convex->SetInputData(shapes.take());
        convex->Update();
        addLit(convex->GetOutput());
    }

    void addLit(vtkPolyData* data) {
        vtkNew<vtkPolyDataNormals> normals;
        normals->SetInputData(data);
        normals->SplittingOff();
        normals->Update();
        addMesh(normals->GetOutput(), 1, true);
        addDraped(normals->GetOutput());
    }

    void addContours() {
        if (!m_products.drawnContours) return;
        Mesh shapes;
        const double over = m_placing.over(0.002);
        const double major = m_products.contourInterval * m_products.project.contours->majorEvery;
        for (const auto& c : *m_products.drawnContours) {
            const bool strong = std::abs(std::remainder(c.level, major)) < 1e-6;
            vtkIdType before = -1;
            for (const auto& p : c.line) {
                const auto next = shapes.point(x(p.x), y(p.y), z(c.level) + over);
                if (before >= 0) shapes.line(before, next, strong ? QColor("#5f4c22") : QColor("#8d7a4d"));
                before = next;
            }
        }
        if (!shapes.empty()) addMesh(shapes.take(), 1, false);
    }

    /// Pictures that are draped, over a copy of the surface: each corner knows its pixel.
    void addDraped(vtkPolyData* surface) {
        const auto& placed = *m_products.project.pictures;
        for (std::size_t i = 0; i < placed.size() && i < m_products.pictures.size(); ++i) {
            const auto picture = m_products.pictures[i];
            if (!placed[i].draped || !placed[i].placed || !picture) continue;
            vtkNew<vtkImageData> image;
            image->SetDimensions(picture->width, picture->height, 1);
            image->AllocateScalars(VTK_UNSIGNED_CHAR, 4);
            auto* to = static_cast<unsigned char*>(image->GetScalarPointer());
            const auto row = std::size_t(picture->width) * 4;
            for (int r = 0; r < picture->height; ++r) // VTK counts rows from below
                std::copy_n(picture->rgba.data() + std::size_t(picture->height - 1 - r) * row, row, to + std::size_t(r) * row);
            vtkNew<vtkFloatArray> places;
            places->SetNumberOfComponents(2);
            for (vtkIdType k = 0; k < surface->GetNumberOfPoints(); ++k) {
                double p[3];
                surface->GetPoint(k, p);
                const auto pixel = placed[i].placing.toPixel(m_placing.place(p[0], p[1]));
                const float uv[] = {float(pixel.x / picture->width), float(1 - pixel.y / picture->height)};
                places->InsertNextTuple(uv);
            }
            vtkNew<vtkPolyData> draped;
            draped->ShallowCopy(surface);
            draped->GetCellData()->SetScalars(nullptr);
            draped->GetPointData()->SetTCoords(places);
            // only triangles that the picture covers, so that its edge is not drawn out over the rest
            vtkNew<vtkCellArray> covered;
            vtkNew<vtkIdList> corners;
            for (vtkIdType k = 0; k < surface->GetNumberOfCells(); ++k) {
                surface->GetCellPoints(k, corners);
                bool inside = true;
                for (vtkIdType n = 0; n < corners->GetNumberOfIds(); ++n) {
                    const double* uv = places->GetTuple2(corners->GetId(n));
                    inside &= uv[0] >= 0 && uv[0] <= 1 && uv[1] >= 0 && uv[1] <= 1;
                }
                if (inside) covered->InsertNextCell(corners);
            }
            draped->SetPolys(covered);
            m_pieces.push_back({draped.Get(), Piece::Kind::Draped, 1, true, image.Get()});
        }
    }

    /// Meadow below, drier above.
    QColor groundColour(double level) const {
        const double lowest = m_placing.lowest(), range = m_placing.highest() - lowest;
        const double t = range > 0 ? (level - lowest) / range : 0;
        const QColor low("#9fb389"), high("#d3d0a6");
        return QColor::fromRgbF(float(low.redF() + t * (high.redF() - low.redF())),
                                float(low.greenF() + t * (high.greenF() - low.greenF())),
                                float(low.blueF() + t * (high.blueF() - low.blueF())));
    }

    void addWalls(scene::Walls& walls) const {
        m_lattice.eachRimEdge([&](int i0, int j0, int i1, int j1) {
            walls.band(m_lattice.place(i0, j0), m_lattice.place(i1, j1), m_lattice.levels(i0, j0), m_lattice.levels(i1, j1));
        });
    }

    void addFences(scene::Walls& walls) const {
        for (std::size_t i = 0; i < m_products.sections.size(); ++i)
            if (m_products.sections[i]
                && (m_look.fences || int(i) == std::clamp(m_look.section, 0, int(m_products.sections.size()) - 1)))
                fence(walls, *m_products.sections[i]);
    }

    void fence(scene::Walls& walls, const Section& s) const {
        const auto levelsAt = [&](std::size_t i) {
            std::vector<double> out{s.ground[i]};
            for (const auto& base : s.bases) out.push_back(base[i]);
            out.push_back(std::isnan(out.back()) ? kNoValue : m_placing.floor());
            if (m_look.cut.level)
                for (auto& level : out)
                    if (!std::isnan(level)) level = std::min(level, *m_look.cut.level);
            return out;
        };
        for (std::size_t i = 0; i + 1 < s.chainage.size(); ++i)
            walls.band(pointAlong(s.line, s.chainage[i]), pointAlong(s.line, s.chainage[i + 1]), levelsAt(i), levelsAt(i + 1));
    }

    void addHoles(std::vector<BlockScene::Top>& tops) {
        const auto holes = sceneHoles(m_products, m_look, m_placing);
        Heads heads;
        tops.clear();
        for (const auto& head : holes.heads) {
            tops.push_back(head.top);
            heads.add(std::to_array(head.top.at), head.radius, head.colour);
        }
        if (!tops.empty()) m_pieces.push_back(heads.take());
        addTubes(holes.sticks, m_look.block);
        addTubes(holes.chosen, m_look.block);
        addTubes(holes.graphs, false);
        addHeads(holes.signs);
    }

    void addHeads(const std::vector<SceneHoles::Head>& balls) {
        if (balls.empty()) return;
        Heads heads;
        for (const auto& b : balls) heads.add(std::to_array(b.top.at), b.radius, b.colour);
        m_pieces.push_back(heads.take());
    }

    /// A see-through sheet over the holes with a rim and balls to drag it by, and what it takes of the holes.
    void addPlane(const PlaneAssignment& how, std::vector<BlockScene::PlaneHandle>& handles) {
        const auto sheet = scenePlane(how, m_products, m_placing);
        if (sheet.corners.size() != 4) return;
        Mesh mesh;
        std::array<vtkIdType, 4> ids{};
        Heads heads;
        const auto add = [&](Point2 place, const Point3& at) {
            handles.push_back({place, {at.x, at.y, at.z}});
            heads.add({at.x, at.y, at.z}, 2.2 * sheet.rim.radius, colour::paper);
        };
        Point3 middle;
        for (const auto& [place, at] : sheet.corners) middle.x += at.x / 4, middle.y += at.y / 4, middle.z += at.z / 4;
        add(m_placing.place(middle.x, middle.y), middle);
        for (std::size_t k = 0; k < 4; ++k) {
            const auto& [place, at] = sheet.corners[k];
            ids[k] = mesh.point(at.x, at.y, at.z);
            add(place, at);
        }
        mesh.quad(ids, colour::fox);
        addMesh(mesh.take(), 0.35, false);
        addTubes(sheet.rim, false);
        addTubes(sheet.taken, false);
        m_pieces.push_back(heads.take());
    }

    void addTubes(const SceneTubes& tubes, bool lit) {
        if (tubes.lines.empty()) return;
        Mesh lines;
        for (const auto& [from, to, colour] : tubes.lines)
            lines.line(lines.point(from.x, from.y, from.z), lines.point(to.x, to.y, to.z), colour);
        constexpr std::size_t kMostTubes = 8000; // more would turn at a picture a second without a graphics card
        if (tubes.lines.size() > kMostTubes) {
            m_progress.check();
            m_pieces.push_back({lines.take(), Piece::Kind::Mesh, 1, false, nullptr, 3});
            return;
        }
        vtkNew<vtkTubeFilter> tube;
        tube->SetInputData(lines.take());
        tube->SetRadius(tubes.radius);
        tube->SetNumberOfSides(tubes.sides);
        tube->Update();
        addMesh(tube->GetOutput(), 1, lit);
    }

    const ProductSet& m_products;
    const BlockScene::Look& m_look;
    const Progress& m_progress;
    std::vector<Piece> m_pieces;
    BlockPlacing m_placing;
    BlockLattice m_lattice;
    std::vector<SceneHoles::Head> m_handles; ///< of upright cuts
};

} // namespace

std::shared_ptr<const BlockScene::Shapes> BlockScene::prepare(const ProductSet& products, const Look& look,
                                                              const Progress& progress) {
    auto out = std::make_shared<Shapes>();
    Filler filler(products, look, progress);
    filler.fill(out->extent, out->tops, out->planeHandles);
    filler.addFrame(out->labels);
    filler.addCutHandles(out->cutHandles);
    out->nodes = filler.nodes();
    out->pieces = filler.pieces();
    return out;
}

} // namespace fox::app
