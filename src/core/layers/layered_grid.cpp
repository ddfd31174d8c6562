#include "layers/layered_grid.h"

#include "base/errors.h"
#include "base/limits.h"
#include "base/parallel.h"

#include <fmt/format.h>
#include <numeric>
#include <set>

namespace fox {

namespace {

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
        m_given.assign(n, kNoValue);
        for (const auto& [key, field] : in.values) out.values[key].assign(n, key == "recharge" ? 0 : kNoValue);
    }

    std::size_t count() const { return m_centres.size(); }

    /// Columns one after the other, with the answer for all to thin cells.
    void make(std::size_t begin, std::size_t end) {
        std::vector<std::size_t> columns(end - begin);
        std::iota(columns.begin(), columns.end(), begin);
        make(columns, [](std::size_t, std::span<CellAnswer>) {});
    }

    /// Thin cells' groups, with what answers to them would move; columns of groups with an answer of their own are made again.
    void answerThin() {
        auto groups = groupsOf(m_out, CellMark::Thin);
        for (auto& g : groups)
            for (const auto c : g.columns) {
                const double thickness = std::max(0.0, m_given[m_out.index(g.layer, c)]), area = m_out.plan.area(c);
                g.thicken += std::max(0.0, m_in.spec.thin.metres - thickness) * area, g.join += thickness * area;
            }
        takeAnswers(groups);
        std::map<std::size_t, std::vector<std::pair<std::size_t, CellAnswer>>> own; // by column: layers and their answers
        for (const auto& g : groups)
            if (g.isOwn && g.answer != m_in.spec.thin.then)
                for (const auto c : g.columns) own[c].push_back({g.layer, g.answer});
        std::vector<std::size_t> columns;
        for (const auto& [c, answers] : own) columns.push_back(c);
        for (std::size_t from = 0; from < columns.size(); from += kPiece)
            make(std::span(columns).subspan(from, std::min(kPiece, columns.size() - from)),
                 [&](std::size_t column, std::span<CellAnswer> answers) {
                     for (const auto& [layer, answer] : own.at(column)) answers[layer] = answer;
                 });
        keep(std::move(groups));
    }

    /// Groups of cells that are missing or alone, answered. Whether any cell was changed.
    bool answerOthers() {
        bool changed = false;
        for (const auto mark : {CellMark::Missing, CellMark::Alone}) {
            auto groups = groupsOf(m_out, mark);
            for (auto& g : groups)
                for (const auto c : g.columns)
                    g.thicken += std::max(0.0, leastThickness() - m_out.thickness(m_out.index(g.layer, c))) * m_out.plan.area(c);
            takeAnswers(groups);
            keep(std::move(groups));
        }
        // column by column, from the top: what is made thick takes from the cells under it
        std::vector<CellAnswer> answers(m_out.cells(), CellAnswer::Leave);
        for (const auto& g : m_out.groups)
            for (const auto c : g.columns)
                if (g.mark != CellMark::Thin && g.answer != CellAnswer::Leave)
                    answers[m_out.index(g.layer, c)] = g.answer, changed = true;
        for (std::size_t column = 0; changed && column < count(); ++column)
            for (std::size_t k = 0; k < m_stack.layers(); ++k) {
                const auto cell = m_out.index(k, column);
                if (answers[cell] == CellAnswer::Thicken) fillUp(column, k);
                if (answers[cell] == CellAnswer::Passive) m_out.state[cell] = CellState::Passive;
            }
        for (const auto& a : m_in.spec.answers.groups)
            if (!m_used.contains(&a)) m_out.idle.push_back(a);
        return changed;
    }

    /// Values that somebody gave to cells.
    void type() {
        for (const auto& t : m_in.spec.typed) {
            std::vector<std::size_t> columns;
            Box2 box;
            for (const auto p : t.ring) box.include(p);
            for (std::size_t c = 0; c < count(); ++c)
                if (contains(t.ring, m_centres[c])) columns.push_back(c);
            if (const auto cell = m_out.plan.cellAt(box.centre()); columns.empty() && cell) columns.push_back(*cell);
            auto& values = m_out.values[t.key];
            if (values.empty()) values.assign(m_out.cells(), t.key == "recharge" ? 0 : kNoValue);
            for (auto k = t.first; k < std::min(t.last + 1, m_stack.layers()); ++k)
                for (const auto c : columns)
                    if (const auto at = m_out.index(k, c); m_out.state[at] != CellState::Outside) values[at] = t.number;
        }
    }

private:
    /// `change` sets the answers to thin cells of a column, a layer each.
    template <typename Change>
    void make(std::span<const std::size_t> which, Change&& change) {
        std::vector<Point2> places;
        for (const auto c : which) places.push_back(m_centres[c]);
        const auto columns = m_in.model->columnsAt(places);
        const auto tops = m_in.top.at(places, columns, m_sequence);
        std::vector<std::vector<double>> bottoms;
        for (const auto& b : m_in.bottoms) bottoms.push_back(b.at(places, columns, m_sequence));
        std::map<std::string, std::vector<double>> values;
        for (const auto& [key, field] : m_in.values) values[key] = field.at(places, columns, m_sequence);
        std::vector<double> levels(m_stack.layers() + 1), given(bottoms.size());
        std::vector<char> passive(m_stack.layers()), crossing(m_stack.layers());
        std::vector<CellAnswer> answers(m_stack.layers());
        for (std::size_t i = 0; i < places.size(); ++i) {
            if (std::isnan(columns[i].ground)) continue;
            for (std::size_t r = 0; r < bottoms.size(); ++r) given[r] = bottoms[r][i];
            std::ranges::fill(crossing, 0);
            m_stack.levels(tops[i], columns[i], given, levels, crossing);
            markThin(which[i], levels, crossing);
            std::ranges::fill(answers, m_in.spec.thin.then);
            change(which[i], std::span(answers));
            mendThin(m_in.spec.thin.metres, answers, levels, passive);
            const bool inside = m_in.area.isEverywhere() || m_in.area.contains(places[i]);
            for (std::size_t k = 0; k < passive.size(); ++k) {
                const auto cell = m_out.index(k, which[i]);
                m_out.top[cell] = levels[k], m_out.bottom[cell] = levels[k + 1];
                if (!inside || std::isnan(levels[k + 1])) continue;
                m_out.state[cell] = passive[k] ? CellState::Passive : CellState::Active;
                fill(cell, columns[i]);
            }
            for (const auto& [key, all] : values) place(key, all[i], which[i]);
        }
    }

    /// The answer for all, or the one that was given for the cells of a group.
    void takeAnswers(std::vector<CellGroup>& groups) {
        for (auto& g : groups) {
            g.answer = m_in.spec.answerForAll(g.mark);
            for (const auto& own : m_in.spec.answers.groups) {
                if (own.mark != g.mark || own.layer != g.layer) continue;
                const auto cell = m_out.plan.cellAt(own.at);
                if (!cell || !std::ranges::binary_search(g.columns, *cell)) continue;
                g.answer = own.answer, g.isOwn = true;
                m_used.insert(&own);
            }
        }
    }
    void keep(std::vector<CellGroup> groups) {
        m_out.groups.insert(m_out.groups.end(), std::make_move_iterator(groups.begin()), std::make_move_iterator(groups.end()));
    }
    double leastThickness() const { return std::max(m_in.spec.thin.metres, 0.01); }

    /// Makes a passive cell thick enough; the cells under it give the room, from the top down, and are passive if little is left.
    void fillUp(std::size_t column, std::size_t layer) {
        const double metres = leastThickness();
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
            m_given[m_out.index(k, column)] = levels[k] - levels[k + 1];
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
            if (key == "recharge") all[cell] = 0;
        }
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
    std::vector<double> m_given;                             ///< a cell: its thickness before it was mended
    std::set<const GroupAnswer*> m_used;                     ///< answers that have their group
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
    columns.answerThin();
    for (const auto& [key, field] : in.values)
        if (field.source.from == FieldSource::From::Line) placeLine(out, key, field.source.line);
    columns.type();
    markCells(out);
    if (columns.answerOthers()) {
        columns.type();
        markCells(out);
    }
    return out;
}

double volumeMoved(const LayeredGrid& g, CellMark mark, CellAnswer answer) {
    double sum = 0;
    for (const auto& group : g.groups)
        if (group.mark == mark) sum += group.moved(answer);
    return sum;
}

} // namespace fox
