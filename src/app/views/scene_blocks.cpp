#include "views/scene_blocks.h"

#include "blocks/block_simulation.h"
#include "sheets/unit_style.h"
#include "style/theme.h"

#include <span>

namespace fox::app {

namespace {

/// A model's blocks, several of them taken as one; by themselves they are not copied.
struct Coarse {
    std::array<int, 3> count{};
    double dx = 1, dy = 1, dz = 1;
    std::span<const double> value;
    std::span<const std::int16_t> unit;
    std::vector<double> means;
    std::vector<std::int16_t> firstUnits;
    std::size_t at(int i, int j, int k) const {
        return (std::size_t(k) * std::size_t(count[1]) + std::size_t(j)) * std::size_t(count[0]) + std::size_t(i);
    }
};

Coarse takenTogether(const BlockModel& m, const std::vector<double>& values, int step) {
    Coarse out;
    for (std::size_t a = 0; a < 3; ++a) out.count[a] = (m.count[a] + step - 1) / step;
    out.dx = m.spec.dx * step, out.dy = m.spec.dy * step, out.dz = m.spec.dz * step;
    if (step == 1) {
        out.value = values, out.unit = m.unit;
        return out;
    }
    const auto n = std::size_t(out.count[0]) * std::size_t(out.count[1]) * std::size_t(out.count[2]);
    out.means.assign(n, 0), out.firstUnits.assign(n, -1);
    std::vector<std::uint32_t> counts(n, 0);
    std::size_t b = 0;
    for (int k = 0; k < m.count[2]; ++k)
        for (int j = 0; j < m.count[1]; ++j)
            for (int i = 0; i < m.count[0]; ++i, ++b) {
                if (std::isnan(values[b])) continue;
                const auto c = out.at(i / step, j / step, k / step);
                out.means[c] += values[b], ++counts[c];
                if (out.firstUnits[c] < 0) out.firstUnits[c] = m.unit[b];
            }
    for (std::size_t c = 0; c < n; ++c) out.means[c] = counts[c] > 0 ? out.means[c] / counts[c] : kNoValue;
    out.value = out.means, out.unit = out.firstUnits;
    return out;
}

paper::ValueColours coloursOf(const std::vector<double>& values) {
    paper::ValueColours out{paper::ColourScale::DeepLight, kNoValue, kNoValue, {}};
    for (const double v : values)
        if (!std::isnan(v)) out.low = std::fmin(out.low, v), out.high = std::fmax(out.high, v);
    return out;
}

} // namespace

const BlockProduct* shownBlocks(const ProductSet* products, const BlockLook& look) {
    if (!products || products->blocks.empty()) return nullptr;
    for (const auto& b : products->blocks)
        if (b->spec.name == look.model) return b.get();
    return products->blocks.front().get();
}

const ExcavationProduct* shownExcavation(const ProductSet* products, const BlockLook& look) {
    if (!products || products->excavations.empty()) return nullptr;
    for (const auto& e : products->excavations)
        if (e->spec.name == look.excavation) return e.get();
    return products->excavations.front().get();
}

QString limitsInWords(const BlockLook& look, const QString& model) {
    const auto limits = look.limits();
    const auto number = [](double v) { return QString::number(v, 'g', 4); };
    if (limits.above && limits.below)
        return QObject::tr("blocks of %1 between %2 and %3").arg(model, number(*limits.above), number(*limits.below));
    if (limits.above) return QObject::tr("blocks of %1 above %2").arg(model, number(*limits.above));
    if (limits.below) return QObject::tr("blocks of %1 below %2").arg(model, number(*limits.below));
    return QObject::tr("all blocks of %1").arg(model);
}

const BlockSimulation* simulationOf(const BlockModel& m, const BlockLook& look) {
    return look.simulated && look.simulated->of().get() == &m ? look.simulated.get() : nullptr;
}

paper::ValueColours blockColours(const BlockModel& m) { return {paper::ColourScale::DeepLight, m.least, m.most, {}}; }

BlockColouring colouringOf(const BlockModel& m, const BlockLook& look) {
    using Colour = BlockLook::Colour;
    if (look.colour == Colour::Variance && !m.variance.empty()) return {m.variance, coloursOf(m.variance)};
    const auto* simulated = simulationOf(m, look);
    if (look.colour == Colour::Probability && simulated && look.hasLimits())
        return {simulated->probability(look.limits()), {paper::ColourScale::DeepLight, 0, 1, {}}};
    return {{}, blockColours(m)};
}

std::optional<BlockRoom> roomOf(const ProductSet& products, const BlockLook& look) {
    std::optional<BlockRoom> out;
    const auto take = [&](Point3 low, Point3 high) {
        if (!out) return void(out = BlockRoom{low, high});
        out->low = {std::min(out->low.x, low.x), std::min(out->low.y, low.y), std::min(out->low.z, low.z)};
        out->high = {std::max(out->high.x, high.x), std::max(out->high.y, high.y), std::max(out->high.z, high.z)};
    };
    if (const auto* made = look.blocks ? shownBlocks(&products, look) : nullptr; made && made->blocks) {
        const auto& m = *made->blocks;
        take(m.corner,
             {m.corner.x + m.count[0] * m.spec.dx, m.corner.y + m.count[1] * m.spec.dy, m.corner.z + m.count[2] * m.spec.dz});
    }
    const auto* made = look.pit ? shownExcavation(&products, look) : nullptr;
    if (!made || !made->dig) return out;
    const auto& f = made->dig->depth.frame;
    for (int r = 0; r < f.rows(); ++r)
        for (int c = 0; c < f.columns(); ++c)
            if (const double depth = made->dig->depth.at(c, r); depth > 0) {
                const auto p = f.centre(c, r);
                const double dug = made->dig->dug.at(c, r);
                take({p.x, p.y, dug}, {p.x, p.y, dug + depth});
            }
    return out;
}

std::vector<BlockFace> blockFaces(const BlockModel& m, const BlockLook& look, const Sequence& sequence, std::size_t most,
                                  const BlocksLeft& left, const Progress& progress) {
    const auto colouring = colouringOf(m, look);
    const auto limits = look.limits();
    for (int step = 1;; step *= 2) {
        const auto coarse = takenTogether(m, m.value, step);
        const auto byColour = colouring.values.empty() ? Coarse{} : takenTogether(m, colouring.values, step);
        const auto& coloured = colouring.values.empty() ? coarse.value : byColour.value;
        progress.check();
        std::vector<char> columns; // that are left; empty: all
        if (left.column)
            for (int j = 0; j < coarse.count[1]; ++j)
                for (int i = 0; i < coarse.count[0]; ++i)
                    columns.push_back(left.column({m.corner.x + (i + 0.5) * coarse.dx, m.corner.y + (j + 0.5) * coarse.dy}));
        const int layers =
            !left.below ? coarse.count[2]
                        : int(std::clamp(std::ceil((*left.below - m.corner.z) / coarse.dz - 0.5), 0.0, double(coarse.count[2])));
        const auto isShown = [&](int i, int j, int k) {
            if (i < 0 || j < 0 || k < 0 || i >= coarse.count[0] || j >= coarse.count[1] || k >= layers) return false;
            if (!columns.empty() && !columns[std::size_t(j) * std::size_t(coarse.count[0]) + std::size_t(i)]) return false;
            return limits.hold(coarse.value[coarse.at(i, j, k)]);
        };
        std::vector<BlockFace> out;
        for (int k = 0; k < coarse.count[2] && out.size() <= most; ++k)
            for (int j = 0; j < coarse.count[1] && out.size() <= most; ++j)
                for (int i = 0; i < coarse.count[0]; ++i) {
                    if (!isShown(i, j, k)) continue;
                    const auto b = coarse.at(i, j, k);
                    const auto unit = coarse.unit[b];
                    const auto fill = look.colour == BlockLook::Colour::Unit && unit >= 0
                                          ? unitColour(sequence.units[std::size_t(unit)])
                                          : qColour(colouring.colours.of(coloured[b]));
                    const double x0 = m.corner.x + i * coarse.dx, x1 = x0 + coarse.dx, y0 = m.corner.y + j * coarse.dy,
                                 y1 = y0 + coarse.dy, z0 = m.corner.z + k * coarse.dz, z1 = z0 + coarse.dz;
                    if (!isShown(i, j, k + 1)) out.push_back({{{{x0, y0, z1}, {x1, y0, z1}, {x1, y1, z1}, {x0, y1, z1}}}, fill});
                    if (!isShown(i, j, k - 1)) out.push_back({{{{x0, y0, z0}, {x0, y1, z0}, {x1, y1, z0}, {x1, y0, z0}}}, fill});
                    if (!isShown(i, j - 1, k)) out.push_back({{{{x0, y0, z0}, {x1, y0, z0}, {x1, y0, z1}, {x0, y0, z1}}}, fill});
                    if (!isShown(i, j + 1, k)) out.push_back({{{{x1, y1, z0}, {x0, y1, z0}, {x0, y1, z1}, {x1, y1, z1}}}, fill});
                    if (!isShown(i - 1, j, k)) out.push_back({{{{x0, y1, z0}, {x0, y0, z0}, {x0, y0, z1}, {x0, y1, z1}}}, fill});
                    if (!isShown(i + 1, j, k)) out.push_back({{{{x1, y0, z0}, {x1, y1, z0}, {x1, y1, z1}, {x1, y0, z1}}}, fill});
                }
        if (out.size() <= most || step > 64) return out;
    }
}

std::vector<SectionCell> blockCells(const BlockModel& m, const BlockLook& look, const Sequence& sequence, const Polyline2& line) {
    const auto colouring = colouringOf(m, look);
    const auto limits = look.limits();
    std::vector<SectionCell> out;
    for (const auto& b : blocksAlong(m, line)) {
        if (!limits.hold(m.value[b.block])) continue;
        const auto unit = m.unit[b.block];
        const auto colour = look.colour == BlockLook::Colour::Unit && unit >= 0
                                ? colourOf(sequence.units[std::size_t(unit)])
                                : colouring.colours.of(colouring.valuesOf(m)[b.block]);
        out.push_back({b.from, b.to, b.low, b.high, colour});
    }
    return out;
}

std::vector<Point2> dugAlong(const ProductSet& products, const BlockLook& look, const Polyline2& line) {
    std::vector<Point2> out;
    const auto* made = look.pit ? shownExcavation(&products, look) : nullptr;
    if (!made || !made->dig) return out;
    const auto& dig = *made->dig;
    const auto& f = dig.dug.frame;
    const double length = lengthOf(line);
    const int steps = std::max(1, int(std::ceil(2 * length / f.cell)));
    for (int n = 0; n <= steps; ++n) {
        const double chainage = length * n / steps;
        const auto p = pointAlong(line, chainage);
        const int c = int(std::floor((p.x - f.xmin) / f.cell)), r = int(std::floor((f.ymax - p.y) / f.cell));
        const bool isDug = c >= 0 && r >= 0 && c < f.columns() && r < f.rows() && dig.depth.at(c, r) > 0;
        out.push_back({chainage, isDug ? dig.dug.at(c, r) : kNoValue});
    }
    return out;
}

std::vector<BlockFace> pitFaces(const ProductSet& products, const BlockLook& look,
                                const std::function<QColor(Point2, double)>& colourAt) {
    std::vector<BlockFace> out;
    const auto* made = look.pit ? shownExcavation(&products, look) : nullptr;
    if (!made || !made->dig) return out;
    const auto &dug = made->dig->dug, &depth = made->dig->depth;
    const auto& f = dug.frame;
    constexpr double kMostFaces = 40'000; // more take longer to draw than somebody waits who turns it
    const auto dugCells = std::ranges::count_if(depth.values, [](double d) { return d > 0.005; });
    const int step = std::max(1, int(std::ceil(std::sqrt(double(dugCells) / kMostFaces))));
    for (int r = 0; r + step < f.rows(); r += step)
        for (int c = 0; c + step < f.columns(); c += step) {
            const std::pair<int, int> corners[] = {{c, r + step}, {c + step, r + step}, {c + step, r}, {c, r}};
            bool isDug = false, isKnown = true;
            BlockFace face;
            for (std::size_t k = 0; k < 4; ++k) {
                const auto [column, row] = corners[k];
                isDug = isDug || depth.at(column, row) > 0.005;
                isKnown = isKnown && !std::isnan(dug.at(column, row));
                const auto p = f.centre(column, row);
                face.corners[k] = {p.x, p.y, dug.at(column, row)};
            }
            if (!isDug || !isKnown) continue;
            face.colour = colourAt(f.centre(c, r), dug.at(c, r));
            out.push_back(face);
        }
    return out;
}

BlockModel takenGround(const ExcavationProduct& made, const Sequence& sequence,
                       const std::function<std::size_t(Point2, double)>& unitAt) {
    const auto &depth = made.dig->depth, &dug = made.dig->dug;
    const auto& f = depth.frame;
    int left = f.columns(), right = -1, top = f.rows(), bottom = -1;
    double low = kNoValue, high = kNoValue;
    for (int r = 0; r < f.rows(); ++r)
        for (int c = 0; c < f.columns(); ++c) {
            if (!(depth.at(c, r) > 0)) continue;
            left = std::min(left, c), right = std::max(right, c), top = std::min(top, r), bottom = std::max(bottom, r);
            low = std::fmin(low, dug.at(c, r)), high = std::fmax(high, dug.at(c, r) + depth.at(c, r));
        }
    BlockModel out;
    if (!(high > low)) return out;
    constexpr int kLayers = 24;
    out.spec.dx = out.spec.dy = f.cell, out.spec.dz = (high - low) / kLayers;
    out.corner = {f.xmin + left * f.cell, f.ymax - (bottom + 1) * f.cell, low};
    out.count = {right - left + 1, bottom - top + 1, kLayers};
    const auto columns = std::size_t(out.count[0]), layer = columns * std::size_t(out.count[1]);
    out.value.assign(layer * kLayers, kNoValue), out.unit.assign(layer * kLayers, -1);
    for (std::size_t b = 0; b < out.blocks(); ++b) {
        const std::size_t east = b % columns, north = b % layer / columns;
        const int c = left + int(east), r = bottom - int(north);
        const auto at = out.centre(b);
        if (!(depth.at(c, r) > 0) || at.z <= dug.at(c, r) || at.z >= dug.at(c, r) + depth.at(c, r)) continue;
        const auto unit = unitAt(at.plan(), at.z);
        if (std::ranges::count(made.spec.units, sequence.units[unit].code) == 0) continue;
        out.value[b] = 1, out.unit[b] = std::int16_t(unit);
    }
    return out;
}

} // namespace fox::app
