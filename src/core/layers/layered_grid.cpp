#include "layers/layered_grid.h"

#include "base/errors.h"
#include "base/limits.h"
#include "base/parallel.h"

#include <fmt/format.h>

namespace fox {

namespace {

constexpr CellMark kMarks[] = {CellMark::Crossing, CellMark::Thin,    CellMark::NoValue,
                               CellMark::Alone,    CellMark::Missing, CellMark::Ratio};
constexpr std::size_t kPiece = 1024; ///< columns at a time

/// Makes the columns of a grid, a piece at a time.
class Columns {
public:
    Columns(const LayerInputs& in, LayeredGrid& out)
        : m_in(in),
          m_out(out),
          m_sequence(*in.model->sequence),
          m_stack(m_sequence, in.spec.layers, !std::isnan(in.model->floor)),
          m_centres(out.plan.centres()),
          m_unitValues(valuesByUnit(m_sequence, in.values)) {
        const double cells = double(m_stack.layers()) * double(out.plan.cells());
        if (cells > limits::kModelCells)
            throw Error(fmt::format("The grid would have {:.0f} cells; the limit is {:.0f}.", cells, limits::kModelCells));
        const auto n = std::size_t(cells);
        out.layers = m_stack.names();
        for (std::size_t k = 0; k < m_stack.layers(); ++k) out.ruleOf.push_back(m_stack.ruleOf(k));
        out.top.assign(n, kNoValue), out.bottom.assign(n, kNoValue);
        out.state.assign(n, CellState::Outside);
        out.unit.assign(n, -1);
        out.marks.assign(n, 0);
        for (const auto& [key, field] : in.values) out.values[key].assign(n, key == "recharge" ? 0 : kNoValue);
    }

    std::size_t count() const { return m_centres.size(); }

    void make(std::size_t begin, std::size_t end) {
        const auto places = std::span(m_centres).subspan(begin, end - begin);
        const auto columns = m_in.model->columnsAt(places);
        const auto tops = m_in.top.at(places, columns, m_sequence);
        std::vector<std::vector<double>> bottoms;
        for (const auto& b : m_in.bottoms) bottoms.push_back(b.at(places, columns, m_sequence));
        std::map<std::string, std::vector<double>> values;
        for (const auto& [key, field] : m_in.values) values[key] = field.at(places, columns, m_sequence);
        std::vector<double> levels(m_stack.layers() + 1), given(bottoms.size());
        std::vector<char> passive(m_stack.layers()), crossing(m_stack.layers());
        for (std::size_t i = 0; i < places.size(); ++i) {
            if (std::isnan(columns[i].ground)) continue;
            for (std::size_t r = 0; r < bottoms.size(); ++r) given[r] = bottoms[r][i];
            std::ranges::fill(crossing, 0);
            m_stack.levels(tops[i], columns[i], given, levels, crossing);
            markThin(begin + i, levels, crossing);
            mendThin(m_in.spec.thin, levels, passive);
            const bool inside = m_in.area.isEverywhere() || m_in.area.contains(places[i]);
            for (std::size_t k = 0; k < passive.size(); ++k) {
                const auto cell = m_out.index(k, begin + i);
                m_out.top[cell] = levels[k], m_out.bottom[cell] = levels[k + 1];
                if (!inside || std::isnan(levels[k + 1])) continue;
                m_out.state[cell] = passive[k] ? CellState::Passive : CellState::Active;
                fill(cell, columns[i]);
            }
            for (const auto& [key, all] : values) place(key, all[i], begin + i);
        }
    }

    /// Mends what the marks of the whole grid show.
    void answer() {
        for (std::size_t column = 0; column < count(); ++column)
            for (std::size_t k = 0; k < m_stack.layers(); ++k) {
                const auto cell = m_out.index(k, column);
                if (m_in.spec.answers.fillMissing && m_out.has(cell, CellMark::Missing)) fillUp(column, k);
                if (m_in.spec.answers.dropAlone && m_out.has(cell, CellMark::Alone)) m_out.state[cell] = CellState::Passive;
            }
    }

private:
    /// Makes a passive cell thick enough; the cells under it give the room, from the top down, and are passive if little is left.
    void fillUp(std::size_t column, std::size_t layer) {
        const double metres = std::max(m_in.spec.thin.metres, 0.01);
        const auto model = m_in.model->columnAt(m_centres[column]);
        for (auto k = layer; k < m_stack.layers(); ++k) {
            const auto cell = m_out.index(k, column);
            if (k > layer) m_out.top[cell] = m_out.bottom[m_out.index(k - 1, column)];
            const double wanted = k == layer ? m_out.top[cell] - metres : std::min(m_out.top[cell], m_out.bottom[cell]);
            const bool last = k + 1 == m_stack.layers();
            m_out.bottom[cell] = last ? std::min(m_out.bottom[cell], wanted) : wanted;
            m_out.state[cell] = isThinner(m_out.thickness(cell), m_in.spec.thin.metres) ? CellState::Passive : CellState::Active;
            fill(cell, model);
        }
    }

    void markThin(std::size_t column, std::span<const double> levels, std::span<const char> crossing) {
        for (std::size_t k = 0; k < crossing.size(); ++k) {
            auto& marks = m_out.marks[m_out.index(k, column)];
            if (crossing[k]) marks |= std::uint8_t(CellMark::Crossing);
            if (isThinner(levels[k] - levels[k + 1], m_in.spec.thin.metres)) marks |= std::uint8_t(CellMark::Thin);
        }
    }

    /// What the units in a cell give it.
    void fill(std::size_t cell, const ModelColumn& column) {
        const auto inside = unitThicknesses(column, m_sequence.units.size(), m_out.top[cell], m_out.bottom[cell]);
        const auto most = std::ranges::max_element(inside);
        if (most != inside.end() && *most > 0) m_out.unit[cell] = std::int16_t(most - inside.begin());
        for (const auto& [key, values] : m_unitValues)
            m_out.values.at(key)[cell] = valueOfUnits(inside, values, key == "vertical_conductivity");
    }

    /// A value that is not the units': in all layers of a column, recharge in the highest active one.
    void place(const std::string& key, double value, std::size_t column) {
        const auto from = m_in.values.at(key).source.from;
        if (from == FieldSource::From::Units || from == FieldSource::From::Line) return;
        auto& all = m_out.values.at(key);
        for (std::size_t k = 0; k < m_stack.layers(); ++k) {
            const auto cell = m_out.index(k, column);
            if (m_out.state[cell] == CellState::Outside) continue;
            if (key != "recharge") {
                all[cell] = value;
            } else if (m_out.state[cell] == CellState::Active) {
                all[cell] = value;
                break;
            }
        }
    }

    const LayerInputs& m_in;
    LayeredGrid& m_out;
    const Sequence& m_sequence;
    LayerStack m_stack;
    std::vector<Point2> m_centres;
    std::map<std::string, std::vector<double>> m_unitValues; ///< by key, a unit
};

/// Values along a line: in the highest active cell of each column that it crosses, linear along it.
void placeLine(LayeredGrid& out, const std::string& key, const Polyline3& line) {
    const auto plan = planOf(line);
    std::vector<double> along{0};
    for (std::size_t i = 0; i + 1 < plan.size(); ++i) along.push_back(along.back() + distance(plan[i], plan[i + 1]));
    for (const auto& crossed : out.plan.crossedBy(plan)) {
        const double s = crossed.share * along.back();
        std::size_t i = 0;
        while (i + 2 < along.size() && along[i + 1] < s) ++i;
        const double piece = line.size() > 1 ? along[i + 1] - along[i] : 0;
        const double t = piece > 0 ? (s - along[i]) / piece : 0;
        const double value = piece > 0 ? line[i].z + t * (line[i + 1].z - line[i].z) : line[i].z;
        for (std::size_t k = 0; k < out.layers.size(); ++k)
            if (const auto cell = out.index(k, crossed.cell); out.state[cell] == CellState::Active) {
                out.values.at(key)[cell] = value;
                break;
            }
    }
}

bool isActive(const LayeredGrid& g, std::size_t cell) { return g.state[cell] == CellState::Active; }

/// Cells beside one, in its layer.
struct Beside {
    std::size_t active = 0, all = 0;
};
Beside beside(const LayeredGrid& g, std::size_t layer, int column, int row) {
    Beside out;
    for (const auto& [dc, dr] : {std::pair{-1, 0}, {1, 0}, {0, -1}, {0, 1}}) {
        const int c = column + dc, r = row + dr;
        if (c < 0 || r < 0 || c >= g.plan.columns() || r >= g.plan.rows()) continue;
        ++out.all;
        out.active += isActive(g, g.index(layer, g.plan.index(c, r)));
    }
    return out;
}

std::uint8_t marksOf(const LayeredGrid& g, std::size_t layer, int column, int row) {
    const auto at = g.plan.index(column, row), cell = g.index(layer, at);
    std::uint8_t marks = 0;
    const auto sides = beside(g, layer, column, row);
    if (g.state[cell] == CellState::Passive && sides.all == 4 && sides.active == 4) marks |= std::uint8_t(CellMark::Missing);
    if (!isActive(g, cell)) return marks;
    bool neighbour = sides.active > 0;
    for (const auto other : {layer - 1, layer + 1}) { // above the first wraps round to a layer that is not there
        if (other >= g.layers.size() || !isActive(g, g.index(other, at))) continue;
        neighbour = true;
        const double a = g.thickness(cell), b = g.thickness(g.index(other, at));
        if (std::max(a, b) > kThicknessRatio * std::min(a, b)) marks |= std::uint8_t(CellMark::Ratio);
    }
    if (!neighbour) marks |= std::uint8_t(CellMark::Alone);
    return marks;
}

} // namespace

std::span<const CellMark> cellMarks() { return kMarks; }

const char* words(CellMark mark) {
    switch (mark) {
    case CellMark::Crossing: return "Bases cross";
    case CellMark::Thin: return "Too thin";
    case CellMark::NoValue: return "A value is missing";
    case CellMark::Alone: return "Active alone";
    case CellMark::Missing: return "Missing among neighbours";
    case CellMark::Ratio: return "Thickness ratio over 5";
    }
    return "";
}

CellCheck LayeredGrid::count(CellMark mark) const {
    CellCheck out;
    for (std::size_t column = 0; column < plan.cells(); ++column) {
        bool any = false;
        for (std::size_t k = 0; k < layers.size(); ++k) {
            const auto cell = index(k, column);
            if (state[cell] == CellState::Outside || !has(cell, mark)) continue;
            ++out.cells;
            any = true;
        }
        if (any) out.area += plan.area(column);
    }
    return out;
}

std::size_t LayeredGrid::active() const { return std::size_t(std::ranges::count(state, CellState::Active)); }

double LayeredGrid::volume(std::size_t layer) const {
    double sum = 0;
    for (std::size_t column = 0; column < plan.cells(); ++column)
        if (const auto cell = index(layer, column); state[cell] != CellState::Outside) sum += thickness(cell) * plan.area(column);
    return sum;
}

void markCells(LayeredGrid& g) {
    g.noValues = 0;
    constexpr auto kKept = std::uint8_t(std::uint8_t(CellMark::Crossing) | std::uint8_t(CellMark::Thin));
    for (std::size_t k = 0; k < g.layers.size(); ++k)
        for (int r = 0; r < g.plan.rows(); ++r)
            for (int c = 0; c < g.plan.columns(); ++c) {
                const auto cell = g.index(k, g.plan.index(c, r));
                g.marks[cell] = std::uint8_t((g.marks[cell] & kKept) | marksOf(g, k, c, r));
            }
    for (const auto& [key, values] : g.values) {
        if (key == "fixed_head") continue; // most cells have none
        for (std::size_t cell = 0; cell < g.cells(); ++cell)
            if (isActive(g, cell) && std::isnan(values[cell])) {
                ++g.noValues;
                g.marks[cell] |= std::uint8_t(CellMark::NoValue);
            }
    }
}

LayeredGrid makeLayeredGrid(const LayerInputs& in, const Progress& progress) {
    LayeredGrid out;
    out.plan = in.spec.grid.finer(in.spec.finer);
    Columns columns(in, out);
    progress.report(0, "Layers");
    parallelFor(
        columns.count(), kPiece, [&](std::size_t begin, std::size_t end) { columns.make(begin, end); }, progress);
    for (const auto& [key, field] : in.values)
        if (field.source.from == FieldSource::From::Line) placeLine(out, key, field.source.line);
    markCells(out);
    if (in.spec.answers.fillMissing || in.spec.answers.dropAlone) {
        columns.answer();
        markCells(out);
    }
    return out;
}

double volumeMoved(const LayeredGrid& g, const ThinRule& rule) {
    double sum = 0;
    for (std::size_t cell = 0; cell < g.cells(); ++cell) {
        if (g.state[cell] == CellState::Outside || !g.has(cell, CellMark::Thin)) continue;
        const double area = g.plan.area(cell % g.plan.cells()), thickness = g.thickness(cell);
        if (rule.then == ThinRule::Then::Thicken) sum += std::max(0.0, rule.metres - thickness) * area;
        if (rule.then == ThinRule::Then::Join) sum += thickness * area;
    }
    return sum;
}

} // namespace fox
