#include "views/scene_layers.h"

#include "style/theme.h"

#include <map>

namespace fox::app {

namespace {

/// Cells of a grid, several of them taken as one.
class GridShapes {
public:
    GridShapes(const LayeredGrid& g, const Sequence& sequence, const LayerLook& look, double gap, int step)
        : m_grid(g), m_sequence(sequence), m_look(look), m_colours(layerColours(g, look, {})), m_gap(gap), m_step(step) {}

    std::vector<BlockFace> faces(std::size_t most, const Progress& progress) {
        const int columns = (m_grid.plan.columns() + m_step - 1) / m_step, rows = (m_grid.plan.rows() + m_step - 1) / m_step;
        for (std::size_t k = 0; k < m_grid.layers.size() && m_out.size() <= most; ++k) {
            progress.check();
            for (int r = 0; r < rows && m_out.size() <= most; ++r)
                for (int c = 0; c < columns; ++c) add(k, c, r);
        }
        return std::move(m_out);
    }

private:
    /// The cell that stands for several; none if it is not shown.
    std::optional<std::size_t> cellAt(std::size_t layer, int column, int row) const {
        const int c = column * m_step, r = row * m_step;
        if (column < 0 || row < 0 || layer >= m_grid.layers.size() || c >= m_grid.plan.columns() || r >= m_grid.plan.rows())
            return {};
        const auto cell = m_grid.index(layer, m_grid.plan.index(c, r));
        if (m_grid.state[cell] == CellState::Outside || !(m_grid.thickness(cell) > 1e-6)) return {};
        return cell;
    }

    void add(std::size_t layer, int column, int row) {
        const auto cell = cellAt(layer, column, row);
        const auto colour = cell ? layerColour(m_grid, m_sequence, m_look, *cell, m_colours) : std::nullopt;
        if (!colour) return;
        const double lift = m_gap * double(m_grid.layers.size() - 1 - layer);
        const double top = m_grid.top[*cell] + lift, bottom = m_grid.bottom[*cell] + lift;
        const int c0 = column * m_step, r0 = row * m_step, c1 = std::min(c0 + m_step, m_grid.plan.columns()),
                  r1 = std::min(r0 + m_step, m_grid.plan.rows());
        // from the north-west corner, clockwise from above
        const Point2 corners[] = {m_grid.plan.node(c0, r0), m_grid.plan.node(c1, r0), m_grid.plan.node(c1, r1),
                                  m_grid.plan.node(c0, r1)};
        const auto at = [&](int i, double z) { return Point3{corners[i].x, corners[i].y, z}; };
        if (m_gap > 0 || !cellAt(layer - 1, column, row))
            m_out.push_back({{at(3, top), at(2, top), at(1, top), at(0, top)}, *colour});
        if (m_gap > 0 || !cellAt(layer + 1, column, row))
            m_out.push_back({{at(0, bottom), at(1, bottom), at(2, bottom), at(3, bottom)}, *colour});
        const std::pair<int, int> beside[] = {{0, -1}, {1, 0}, {0, 1}, {-1, 0}};
        for (int side = 0; side < 4; ++side) {
            const auto other = cellAt(layer, column + beside[side].first, row + beside[side].second);
            if (other && m_grid.top[*other] + lift >= top && m_grid.bottom[*other] + lift <= bottom) continue; // hidden by it
            const int a = side, b = (side + 1) % 4;
            m_out.push_back({{at(a, top), at(b, top), at(b, bottom), at(a, bottom)}, *colour});
        }
    }

    const LayeredGrid& m_grid;
    const Sequence& m_sequence;
    const LayerLook& m_look;
    paper::ValueColours m_colours;
    double m_gap;
    int m_step;
    std::vector<BlockFace> m_out;
};

LayerShapes shapesOf(const LayeredMesh& mesh, const Sequence& sequence, double gap) {
    LayerShapes out;
    const auto n = mesh.plan.triangles.size(), layers = mesh.layers.size();
    const auto at = [&](std::size_t surface, std::size_t layer, int node) {
        const auto p = mesh.plan.nodes[std::size_t(node)];
        return Point3{p.x, p.y, mesh.level(surface, node) + gap * double(layers - 1 - layer)};
    };
    std::map<std::pair<int, int>, int> edges; // how many triangles have them
    for (const auto& t : mesh.plan.triangles)
        for (std::size_t e = 0; e < 3; ++e) ++edges[std::minmax(t[e], t[(e + 1) % 3])];
    for (std::size_t k = 0; k < layers; ++k)
        for (std::size_t i = 0; i < n; ++i) {
            const auto& t = mesh.plan.triangles[i];
            const int unit = mesh.unit[k * n + i];
            const auto fill = unit >= 0 ? unitColour(sequence.units[std::size_t(unit)]) : colour::stage;
            if (gap > 0 || k == 0) out.faces.push_back({{at(k, k, t[0]), at(k, k, t[1]), at(k, k, t[2]), at(k, k, t[2])}, fill});
            if (gap > 0 || k + 1 == layers)
                out.faces.push_back({{at(k + 1, k, t[2]), at(k + 1, k, t[1]), at(k + 1, k, t[0]), at(k + 1, k, t[0])}, fill});
            for (std::size_t e = 0; e < 3; ++e) {
                const int a = t[e], b = t[(e + 1) % 3];
                if (edges[std::minmax(a, b)] == 1)
                    out.faces.push_back({{at(k, k, b), at(k, k, a), at(k + 1, k, a), at(k + 1, k, b)}, fill});
            }
        }
    for (const auto& feature : mesh.faces)
        for (const auto& [layer, a, b] : feature.faces) {
            const auto k = std::size_t(layer);
            out.walls.push_back({{at(k, k, a), at(k, k, b), at(k + 1, k, b), at(k + 1, k, a)}, colour::fox});
        }
    return out;
}

} // namespace

LayerShapes layerShapes(const ProductSet& products, const LayerLook& look, double gap, std::size_t most,
                        const Progress& progress) {
    const auto& sequence = *products.project.sequence;
    if (const auto* mesh = shownMesh(&products, look)) return mesh->mesh ? shapesOf(*mesh->mesh, sequence, gap) : LayerShapes{};
    const auto* grid = shownGrid(&products, look);
    if (!grid) return {};
    for (int step = 1;; step *= 2) {
        auto faces = GridShapes(*grid, sequence, look, gap, step).faces(most, progress);
        if (faces.size() <= most || step > 64) return {std::move(faces), {}};
    }
}

} // namespace fox::app
