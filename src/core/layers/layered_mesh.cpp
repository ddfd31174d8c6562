#include "layers/layered_mesh.h"

#include "base/errors.h"
#include "base/limits.h"
#include "base/parallel.h"
#include "base/text.h"

#include <fmt/format.h>

namespace fox {

namespace {

constexpr std::size_t kMeshPiece = 1024; ///< columns at a time

/// Makes surfaces and elements over a plan.
class Prisms {
public:
    Prisms(const MeshInputs& in, LayeredMesh& out, const Progress& progress)
        : m_in(in),
          m_out(out),
          m_progress(progress),
          m_sequence(*in.model->sequence),
          m_stack(m_sequence, in.spec.layers, !std::isnan(in.model->floor)),
          m_unitValues(valuesByUnit(m_sequence, in.values)) {
        out.layers = m_stack.names();
        for (const auto& [key, field] : in.values) {
            if (field.source.from == FieldSource::From::Line)
                throw Error(fmt::format("\"{}\": elements of a mesh take no values along a line.", key));
        }
    }

    std::size_t layers() const { return m_stack.layers(); }

    void makeLevels() {
        const auto n = m_out.plan.nodes.size();
        m_out.levels.assign(n * (layers() + 1), kNoValue);
        std::vector<std::size_t> thin(n, 0);
        parallelFor(
            n, kMeshPiece, [&](std::size_t begin, std::size_t end) { levelsOf(begin, end, thin); }, m_progress);
        std::size_t without = 0;
        std::optional<Point2> where;
        for (std::size_t i = 0; i < n; ++i) {
            m_out.thin += thin[i];
            if (!std::isnan(m_out.levels[layers() * n + i])) continue;
            if (!where) where = m_out.plan.nodes[i];
            ++without;
        }
        if (where)
            throw Error(
                fmt::format("{} of the mesh {} no ground or no level for a layer, the first at {:.2f}, {:.2f}; draw the outline "
                            "inside the ground.",
                            counted(without, "node"), without == 1 ? "has" : "have", where->x, where->y));
    }

    void makeElements() {
        const auto n = m_out.elements();
        m_out.unit.assign(n, -1);
        for (std::size_t u = 0; u < m_sequence.units.size(); ++u) m_out.shares[u].assign(n, 0);
        for (const auto& [key, field] : m_in.values) m_out.values[key].assign(n, key == "recharge" ? 0 : kNoValue);
        parallelFor(
            m_out.plan.triangles.size(), kMeshPiece, [&](std::size_t begin, std::size_t end) { elementsOf(begin, end); },
            m_progress);
        std::erase_if(m_out.shares,
                      [](const auto& unit) { return std::ranges::all_of(unit.second, [](double s) { return s == 0; }); });
    }

private:
    /// What the sources say at places.
    struct AtPlaces {
        std::vector<ModelColumn> columns;
        std::vector<double> tops;
        std::vector<std::vector<double>> bottoms;
    };
    AtPlaces at(std::span<const Point2> places) const {
        AtPlaces out{m_in.model->columnsAt(places), {}, {}};
        out.tops = m_in.top.at(places, out.columns, m_sequence);
        for (const auto& b : m_in.bottoms) out.bottoms.push_back(b.at(places, out.columns, m_sequence));
        return out;
    }

    void levelsOf(std::size_t begin, std::size_t end, std::vector<std::size_t>& thin) {
        const auto n = m_out.plan.nodes.size();
        const auto here = at(std::span(m_out.plan.nodes).subspan(begin, end - begin));
        std::vector<double> levels(layers() + 1), given(here.bottoms.size());
        std::vector<char> passive(layers());
        for (std::size_t i = 0; i < end - begin; ++i) {
            if (std::isnan(here.columns[i].ground)) continue;
            for (std::size_t r = 0; r < given.size(); ++r) given[r] = here.bottoms[r][i];
            m_stack.levels(here.tops[i], here.columns[i], given, levels);
            thin[begin + i] = std::size_t(mendThin({m_in.spec.thin, CellAnswer::Thicken}, levels, passive));
            for (std::size_t s = 0; s < levels.size(); ++s) m_out.levels[s * n + begin + i] = levels[s];
        }
    }

    void elementsOf(std::size_t begin, std::size_t end) {
        std::vector<Point2> middles;
        for (auto t = begin; t < end; ++t) {
            Point2 sum;
            for (const int node : m_out.plan.triangles[t]) {
                const auto p = m_out.plan.nodes[std::size_t(node)];
                sum.x += p.x / 3, sum.y += p.y / 3;
            }
            middles.push_back(sum);
        }
        const auto columns = m_in.model->columnsAt(middles);
        std::map<std::string, std::vector<double>> values;
        for (const auto& [key, field] : m_in.values)
            if (field.source.from != FieldSource::From::Units) values[key] = field.at(middles, columns, m_sequence);
        for (auto t = begin; t < end; ++t)
            for (std::size_t k = 0; k < layers(); ++k) {
                const auto element = k * m_out.plan.triangles.size() + t;
                fill(element, columns[t - begin], meanLevel(k, t), meanLevel(k + 1, t));
                for (const auto& [key, all] : values)
                    if (key != "recharge" || k == 0) m_out.values.at(key)[element] = all[t - begin];
            }
    }

    double meanLevel(std::size_t surface, std::size_t triangle) const {
        double sum = 0;
        for (const int node : m_out.plan.triangles[triangle]) sum += m_out.level(surface, node) / 3;
        return sum;
    }

    void fill(std::size_t element, const ModelColumn& column, double top, double bottom) {
        if (std::isnan(column.ground)) return;
        const auto inside = unitThicknesses(column, m_sequence.units.size(), top, bottom);
        double all = 0;
        for (const double t : inside) all += t;
        const double middle = (top + bottom) / 2;
        for (std::size_t u = 0; u < inside.size(); ++u) {
            if (all > 0) m_out.shares.at(u)[element] = inside[u] / all;
            const bool oldest = u + 1 == inside.size();
            if (m_out.unit[element] < 0 && middle <= column.top(u) && (oldest || middle > column.base(u)))
                m_out.unit[element] = std::int16_t(u);
        }
        for (const auto& [key, values] : m_unitValues)
            m_out.values.at(key)[element] = valueOfUnits(inside, values, key == "vertical_conductivity");
    }

    const MeshInputs& m_in;
    LayeredMesh& m_out;
    const Progress& m_progress;
    const Sequence& m_sequence;
    LayerStack m_stack;
    std::map<std::string, std::vector<double>> m_unitValues; ///< by key, a unit
};

std::vector<LayeredMesh::Faces> facesOf(const MeshSpec& spec, const PlanMesh& plan, std::size_t layers) {
    std::vector<LayeredMesh::Faces> out;
    for (const auto& asked : spec.faces) {
        if (std::size_t(asked.last) > layers)
            throw Error(fmt::format("The faces \"{}\" go down to layer {}; the mesh has {}.", asked.name, asked.last, layers));
        const auto edges = plan.edges.find(asked.line);
        if (edges == plan.edges.end() || edges->second.empty())
            throw Error(fmt::format("The line \"{}\" of the faces \"{}\" has no edges in the mesh.", asked.line, asked.name));
        LayeredMesh::Faces faces{asked, {}};
        for (int k = asked.first - 1; k < asked.last; ++k)
            for (const auto& e : edges->second) faces.faces.push_back({k, e[0], e[1]});
        out.push_back(std::move(faces));
    }
    return out;
}

} // namespace

std::array<std::size_t, 6> LayeredMesh::nodesOf(std::size_t element) const {
    const auto& t = plan.triangles[element % plan.triangles.size()];
    const auto upper = element / plan.triangles.size() * plan.nodes.size(), lower = upper + plan.nodes.size();
    std::array<std::size_t, 6> out{};
    for (std::size_t i = 0; i < 3; ++i) out[i] = upper + std::size_t(t[i]), out[i + 3] = lower + std::size_t(t[i]);
    return out;
}

double LayeredMesh::volume(std::size_t layer) const {
    double sum = 0;
    for (const auto& t : plan.triangles) {
        const auto a = plan.nodes[std::size_t(t[0])], b = plan.nodes[std::size_t(t[1])], c = plan.nodes[std::size_t(t[2])];
        const double area = ((b.x - a.x) * (c.y - a.y) - (c.x - a.x) * (b.y - a.y)) / 2;
        double thickness = 0;
        for (const int node : t) thickness += (level(layer, node) - level(layer + 1, node)) / 3;
        sum += area * thickness;
    }
    return sum;
}

std::size_t LayeredMesh::inverted() const {
    std::size_t out = 0;
    for (std::size_t k = 0; k < layers.size(); ++k)
        for (const auto& t : plan.triangles)
            out += std::ranges::any_of(t, [&](int node) { return !(level(k, node) > level(k + 1, node)); });
    return out;
}

LayeredMesh makeLayeredMesh(const MeshInputs& in, const Progress& progress) {
    LayeredMesh out;
    Prisms prisms(in, out, progress);
    progress.report(0, "Mesh");
    const auto layers = prisms.layers();
    out.plan = in.spec.elements ? makePlanMesh(in.plan, *in.spec.elements, layers, progress) : makePlanMesh(in.plan, progress);
    if (double(out.plan.triangles.size()) * double(layers) > limits::kModelCells)
        throw Error(fmt::format("The mesh would have {} elements; the limit is {:.0f}.", out.plan.triangles.size() * layers,
                                limits::kModelCells));
    out.faces = facesOf(in.spec, out.plan, layers);
    progress.report(0.4, "Layers of the mesh");
    prisms.makeLevels();
    progress.report(0.7, "Elements");
    prisms.makeElements();
    return out;
}

} // namespace fox
