#include "blocks/excavation.h"

#include "base/errors.h"
#include "base/limits.h"
#include "base/parallel.h"
#include "base/text.h"
#include "blocks/floor_width.h"
#include "blocks/maximum_closure.h"
#include "ground/raster_ground.h"
#include "model/ground_at.h"

#include <fmt/format.h>
#include <numbers>
#include <set>

namespace fox {

Point2 centreOf(const Frame& f, std::size_t cell) {
    const auto n = std::size_t(f.columns());
    return f.centre(int(cell % n), int(cell / n));
}

namespace {

constexpr double kGravity = 9.80665; // m/s2: unit weights are forces

double cellArea(const Frame& f) { return f.cell * f.cell; }

/// The unit that a slope at this level climbs into: the oldest whose top is above it; none above the ground.
std::optional<std::size_t> unitAbove(const ModelColumn& column, std::size_t units, double level) {
    for (auto u = units; u-- > 0;) {
        const double base = u + 1 < units ? column.base(u) : -limits::kLevel;
        if (column.top(u) > level && column.top(u) > base) return u;
    }
    return {};
}

/// A slope on its way from a floor.
class Climb {
public:
    Climb(const DigGround& ground, const SlopeRules& rules, double level, double azimuth)
        : m_ground(ground), m_rules(rules), m_tangents(rules.tangentsTowards(azimuth)), m_level(level) {}

    double level() const { return m_level; }
    /// Over so many metres of a cell; false if it meets the ground, or its edge.
    bool over(std::size_t cell, double metres) {
        const auto& column = m_ground.columns[cell];
        const auto& units = m_ground.sequence->units;
        if (std::isnan(column.ground)) return false;
        while (metres > 0) {
            if (m_berm > 0) {
                const double on = std::min(m_berm, metres);
                m_berm -= on, metres -= on;
                continue;
            }
            const auto unit = unitAbove(column, units.size(), m_level);
            if (!unit) return false;
            const double tangent = m_tangents[*unit];
            if (std::isnan(tangent))
                throw Error(fmt::format("{} is cut at {:.2f}, {:.2f} and has no slope; give one under \"slope\".",
                                        units[*unit].code, centreOf(m_ground.frame, cell).x, centreOf(m_ground.frame, cell).y));
            const double bench = nextBench(), toTop = column.top(*unit) - m_level, toBench = bench - m_level;
            const double rise = std::min({tangent * metres, toTop, toBench});
            metres -= rise / tangent;
            if (rise == toTop)
                m_level = column.top(*unit);
            else
                m_level += rise;
            if (rise == toBench) m_level = bench, m_berm = m_rules.bench->berm;
        }
        return m_level < column.ground;
    }

private:
    double nextBench() const {
        if (!m_rules.bench) return std::numeric_limits<double>::infinity();
        const double h = m_rules.bench->height;
        return m_rules.deepest + (std::floor((m_level - m_rules.deepest) / h + 1e-9) + 1) * h;
    }

    const DigGround& m_ground;
    const SlopeRules& m_rules;
    const std::vector<double>& m_tangents;
    double m_level, m_berm = 0;
};

/// Calls use(cell, metres) for each cell that the line between two centres passes, until that is false.
template <typename Use>
bool alongCells(const Frame& f, std::size_t from, std::size_t to, Use&& use) {
    const auto n = std::size_t(f.columns());
    int column = int(from % n), row = int(from / n);
    const int columns = int(to % n) - column, rows = int(to / n) - row;
    const double length = std::hypot(columns, rows) * f.cell;
    if (length == 0) return true;
    const int stepX = columns > 0 ? 1 : -1, stepY = rows > 0 ? 1 : -1;
    // shares of the way at which it passes into the next column or row; centres are half a cell from edges
    const double everyX = columns ? 1.0 / std::abs(columns) : 2, everyY = rows ? 1.0 / std::abs(rows) : 2;
    double nextX = columns ? everyX / 2 : 2, nextY = rows ? everyY / 2 : 2, at = 0;
    while (at < 1) {
        const double next = std::min({nextX, nextY, 1.0});
        if (next > at && !use(std::size_t(row) * n + std::size_t(column), (next - at) * length)) return false;
        at = next;
        if (at >= 1) break;
        if (nextX <= at + 1e-12) column += stepX, nextX += everyX;
        if (nextY <= at + 1e-12) row += stepY, nextY += everyY;
    }
    return true;
}

/// The gentlest that any slope climbs, berms and all.
double gentlest(const SlopeRules& rules) {
    double out = std::numeric_limits<double>::infinity();
    const auto take = [&](const std::vector<double>& tangents) {
        for (const double t : tangents)
            if (!std::isnan(t))
                out = std::min(out, rules.bench ? rules.bench->height / (rules.bench->height / t + rules.bench->berm) : t);
    };
    take(rules.tangents);
    for (const auto& sector : rules.sectors) take(sector.tangents);
    return out;
}

double highestGround(const DigGround& ground) {
    double out = -std::numeric_limits<double>::infinity();
    for (const auto& c : ground.columns)
        if (!std::isnan(c.ground)) out = std::max(out, c.ground);
    return out;
}

/// A benched slope of height h may stand steeper than its average over less than a bench: it can be so much higher at once.
double benchSlack(const SlopeRules& rules) { return rules.bench ? rules.bench->height : 0; }

/// Calls use(cell, level) for every cell of these rows that a wanted column's slopes dig, if `mayDig(cell, least)` is true
/// for the least level that they can have there.
template <typename MayDig, typename Use>
void reachFrom(const DigGround& ground, const SlopeRules& rules, const WantedColumn& w, double highest, int firstRow, int lastRow,
               MayDig&& mayDig, Use&& use) {
    const auto& f = ground.frame;
    const auto n = std::size_t(f.columns());
    const double tangent = gentlest(rules);
    const int column = int(w.cell % n), row = int(w.cell / n);
    // with benches a slope can lie below its average by the berm that it begins with: counted by starting a bench lower
    const double start = w.bottom - benchSlack(rules);
    const double reach = std::isfinite(tangent) ? std::max(0.0, highest - start) / tangent / f.cell : 0;
    const int far = int(std::min(std::ceil(reach), 1e6));
    for (int r = std::max(firstRow, row - far); r < std::min(lastRow, row + far + 1); ++r)
        for (int c = std::max(0, column - far); c < std::min(int(n), column + far + 1); ++c) {
            const auto cell = std::size_t(r) * n + std::size_t(c);
            const double least = cell == w.cell ? w.bottom : start + tangent * std::hypot(c - column, r - row) * f.cell;
            if (std::isnan(ground.columns[cell].ground) || least >= ground.columns[cell].ground || !mayDig(cell, least)) continue;
            const double level = slopeReaches(ground, rules, w, cell);
            if (!std::isnan(level)) use(cell, level);
        }
}

} // namespace

DigGround digGround(const Model& model, const Frame& frame, const Progress& progress) {
    DigGround out{frame, std::vector<ModelColumn>(frame.cells()), model.sequence};
    constexpr std::size_t kColumnsAtOnce = 1024;
    parallelFor(
        frame.cells(), kColumnsAtOnce,
        [&](std::size_t begin, std::size_t end) {
            std::vector<Point2> places;
            for (auto i = begin; i < end; ++i) places.push_back(centreOf(frame, i));
            auto columns = model.columnsAt(places);
            std::ranges::move(columns, out.columns.begin() + std::ptrdiff_t(begin));
        },
        progress);
    return out;
}

const std::vector<double>& SlopeRules::tangentsTowards(double azimuth) const {
    const double a = azimuth < 0 ? azimuth + 360 : azimuth;
    for (const auto& s : sectors)
        if (s.from < s.to ? a >= s.from && a < s.to : a >= s.from || a < s.to) return s.tangents;
    return tangents;
}

SlopeRules slopeRules(const ExcavationSpec& spec, const Sequence& sequence) {
    SlopeRules out;
    // what a sector does not say is as elsewhere
    const auto set = [&](const std::map<std::string, double>& slopes, std::vector<double>& to) {
        const auto tangent = [](double degrees) { return std::tan(degrees * std::numbers::pi / 180); };
        if (const auto all = slopes.find(""); all != slopes.end()) std::ranges::fill(to, tangent(all->second));
        for (const auto& [code, degrees] : slopes) {
            if (code.empty()) continue;
            const auto unit = sequence.index(code);
            if (!unit) throw Error(fmt::format("\"slope\": the sequence has no unit {}.", code));
            to[*unit] = tangent(degrees);
        }
    };
    out.tangents.assign(sequence.units.size(), kNoValue);
    set(spec.slopes, out.tangents);
    for (const auto& s : spec.sectors) {
        out.sectors.push_back({s.from, s.to, out.tangents});
        set(s.slopes, out.sectors.back().tangents);
    }
    out.bench = spec.bench;
    return out;
}

double slopeReaches(const DigGround& ground, const SlopeRules& rules, const WantedColumn& w, std::size_t cell) {
    const auto n = int(ground.frame.columns());
    const int east = int(cell) % n - int(w.cell) % n, north = int(w.cell) / n - int(cell) / n;
    Climb climb(ground, rules, w.bottom, std::atan2(east, north) * 180 / std::numbers::pi);
    if (!alongCells(ground.frame, w.cell, cell, [&](std::size_t at, double metres) { return climb.over(at, metres); }))
        return kNoValue;
    return climb.level() < ground.columns[cell].ground ? climb.level() : kNoValue;
}

Grid dugSurface(const DigGround& ground, const SlopeRules& rules, std::span<const WantedColumn> wanted,
                const Progress& progress) {
    Grid out(ground.frame);
    for (std::size_t i = 0; i < out.values.size(); ++i) out.values[i] = ground.columns[i].ground;
    std::vector<WantedColumn> deepestFirst(wanted.begin(), wanted.end());
    std::ranges::stable_sort(deepestFirst, {}, &WantedColumn::bottom);
    const double highest = highestGround(ground);
    constexpr std::size_t kRowsAtOnce = 8;
    parallelFor(
        std::size_t(ground.frame.rows()), kRowsAtOnce,
        [&](std::size_t begin, std::size_t end) {
            for (const auto& w : deepestFirst)
                reachFrom(
                    ground, rules, w, highest, int(begin), int(end),
                    [&](std::size_t cell, double least) { return least < out.values[cell]; },
                    [&](std::size_t cell, double level) { out.values[cell] = std::min(out.values[cell], level); });
        },
        progress);
    return out;
}

namespace {

/// Finds what is wanted, digs it, and counts.
class Excavator {
public:
    Excavator(const ExcavationInputs& in, DigGround ground, const Progress& progress)
        : m_in(in),
          m_progress(progress),
          m_sequence(*in.model->sequence),
          m_ground(std::move(ground)),
          m_rules(slopeRules(in.spec, *in.model->sequence)) {
        for (const auto& code : in.spec.units) {
            const auto unit = m_sequence.index(code);
            if (!unit) throw Error(fmt::format("The sequence has no unit {}.", code));
            m_units.insert(*unit);
        }
        if (in.spec.worth && in.spec.floorWidth > 0)
            throw Error("What pays is worked out column by column, so it can't be together with a least width of the floor.");
        m_mayDig.assign(m_ground.columns.size(), 1);
        for (std::size_t i = 0; i < m_mayDig.size(); ++i)
            m_mayDig[i] = in.limit.isEverywhere() || in.limit.contains(centreOf(m_ground.frame, i));
    }

    Excavation dig() {
        auto wanted = wantedColumns();
        if (wanted.empty()) throw NothingWanted();
        if (m_in.spec.floorWidth > 0) widenFloor(wanted);
        m_rules.deepest = std::ranges::min_element(wanted, {}, &WantedColumn::bottom)->bottom;
        std::optional<double> profit;
        if (m_in.spec.worth) profit = keepWhatPays(wanted);
        m_progress.report(0.5, "Slopes");
        Excavation out;
        out.dug = dugSurface(m_ground, m_rules, wanted, m_progress);
        for (std::size_t i = 0; i < m_mayDig.size(); ++i)
            if (!m_mayDig[i]) out.dug.values[i] = m_ground.columns[i].ground;
        out.profit = profit;
        out.columns = wanted.size();
        count(out, wanted);
        return out;
    }

private:
    std::vector<WantedColumn> wantedColumns() {
        using Wanted = ExcavationSpec::Wanted;
        std::vector<double> blockBottoms;
        if (m_in.spec.wanted == Wanted::Blocks) blockBottoms = bottomsOfBlocks();
        const auto surface = m_in.spec.wanted == Wanted::Surface ? surfaceLevels() : std::vector<double>();
        if (m_in.spec.wanted == Wanted::Floor) checkFloor();
        std::vector<WantedColumn> out;
        for (std::size_t i = 0; i < m_ground.columns.size(); ++i) {
            const auto place = centreOf(m_ground.frame, i);
            if (!m_mayDig[i] || (!m_in.inside.isEverywhere() && !m_in.inside.contains(place))) continue;
            const auto& column = m_ground.columns[i];
            double bottom = kNoValue;
            switch (m_in.spec.wanted) {
            case Wanted::Units: bottom = lowestWantedBase(column); break;
            case Wanted::Blocks: bottom = blockBottoms[i]; break;
            case Wanted::Surface: bottom = surface[i]; break;
            case Wanted::Floor: bottom = contains(m_in.spec.ring, place) ? m_in.spec.level : kNoValue; break;
            case Wanted::Line: bottom = formationAt(place); break;
            }
            if (std::isnan(bottom)) continue;
            if (std::isnan(column.ground)) {
                if (m_in.spec.wanted == Wanted::Surface) continue; // a grid may be larger than the ground
                throw Error(fmt::format("At {:.2f}, {:.2f} something is wanted where there is no ground.", place.x, place.y));
            }
            if (m_in.spec.floor) bottom = std::max(bottom, *m_in.spec.floor);
            if (bottom < column.ground) out.push_back({i, bottom, wantedIn(i, bottom)});
        }
        return out;
    }

    /// The level of the cutting's formation at a place; none beside it or beyond its ends.
    double formationAt(Point2 p) const {
        const auto& line = m_in.spec.line;
        double level = kNoValue, nearest = m_in.spec.lineWidth / 2 + 1e-9;
        for (std::size_t i = 0; i + 1 < line.size(); ++i) {
            const auto &a = line[i], &b = line[i + 1];
            const double dx = b.x - a.x, dy = b.y - a.y, length2 = dx * dx + dy * dy;
            if (!(length2 > 0)) continue;
            const double t = ((p.x - a.x) * dx + (p.y - a.y) * dy) / length2;
            if ((i == 0 && t < 0) || (i + 2 == line.size() && t > 1)) continue;
            const double s = std::clamp(t, 0.0, 1.0), off = std::hypot(p.x - a.x - s * dx, p.y - a.y - s * dy);
            if (off <= nearest) nearest = off, level = a.z + s * (b.z - a.z);
        }
        return level;
    }

    void widenFloor(std::vector<WantedColumn>& wanted) const {
        std::vector<double> bottom(m_ground.columns.size(), kNoValue);
        for (const auto& w : wanted) bottom[w.cell] = w.bottom;
        const auto deeper = widenedFloor(m_ground.frame, bottom, m_in.spec.floorWidth);
        wanted.clear();
        for (std::size_t i = 0; i < deeper.size(); ++i)
            if (m_mayDig[i] && deeper[i] < m_ground.columns[i].ground)
                wanted.push_back({i, deeper[i], std::isnan(bottom[i]) ? 0 : wantedIn(i, deeper[i])});
    }

    double lowestWantedBase(const ModelColumn& column) const {
        if (std::isnan(column.ground)) return kNoValue;
        double out = kNoValue;
        for (const auto u : m_units) {
            const double base = column.base(u);
            if (std::isnan(base))
                throw Error(fmt::format("{} is the oldest unit and has no floor, so it has no bottom to dig to.",
                                        m_sequence.units[u].code));
            if (column.top(u) > base) out = std::fmin(out, base);
        }
        return out;
    }

    std::vector<double> surfaceLevels() const {
        std::vector<Point2> places;
        for (std::size_t i = 0; i < m_ground.columns.size(); ++i) places.push_back(centreOf(m_ground.frame, i));
        std::vector<double> out(places.size(), kNoValue);
        m_in.surface->evaluate(places, out, {});
        return out;
    }

    void checkFloor() const {
        for (const auto p : m_in.spec.ring)
            if (!m_in.site.box().empty()
                && (p.x < m_in.site.xmin || p.x > m_in.site.xmax || p.y < m_in.site.ymin || p.y > m_in.site.ymax))
                throw Error(fmt::format("The floor's corner at {:.2f}, {:.2f} lies outside the extent.", p.x, p.y));
    }

    bool isWantedBlock(std::size_t block) const {
        const double v = m_in.blocks->value[block];
        return !std::isnan(v) && (m_in.spec.above ? v > m_in.spec.limit : v < m_in.spec.limit);
    }

    std::vector<double> bottomsOfBlocks() {
        std::vector<double> out(m_ground.columns.size(), kNoValue);
        const auto& b = *m_in.blocks;
        const auto& f = m_ground.frame;
        m_wantedBlocks.resize(out.size());
        for (std::size_t block = 0; block < b.blocks(); ++block) {
            if (!isWantedBlock(block)) continue;
            const auto at = b.centre(block);
            // all cells whose centre is in the block
            const int first = int(std::ceil((at.x - b.spec.dx / 2 - f.xmin) / f.cell - 0.5 - 1e-9)),
                      last = int(std::ceil((at.x + b.spec.dx / 2 - f.xmin) / f.cell - 0.5 - 1e-9));
            const int top = int(std::ceil((f.ymax - at.y - b.spec.dy / 2) / f.cell - 0.5 - 1e-9)),
                      bottom = int(std::ceil((f.ymax - at.y + b.spec.dy / 2) / f.cell - 0.5 - 1e-9));
            for (int r = std::max(0, top); r < std::min(f.rows(), bottom); ++r)
                for (int c = std::max(0, first); c < std::min(f.columns(), last); ++c) {
                    const auto cell = std::size_t(r) * std::size_t(f.columns()) + std::size_t(c);
                    if (std::isnan(m_ground.columns[cell].ground)) continue;
                    out[cell] = std::fmin(out[cell], at.z - b.spec.dz / 2);
                    m_wantedBlocks[cell].emplace_back(at.z - b.spec.dz / 2, at.z + b.spec.dz / 2);
                }
        }
        return out;
    }

    /// Cubic metres of what is wanted between the ground and a level of a cell.
    double wantedIn(std::size_t cell, double level) const {
        using Wanted = ExcavationSpec::Wanted;
        const auto& column = m_ground.columns[cell];
        double thickness = 0;
        if (m_in.spec.wanted == Wanted::Units) {
            const auto all = unitThicknesses(column, m_sequence.units.size(), column.ground, level);
            for (const auto u : m_units) thickness += all[u];
        } else if (m_in.spec.wanted == Wanted::Blocks) {
            for (const auto& [from, to] : m_wantedBlocks[cell])
                thickness += std::max(0.0, std::min(to, column.ground) - std::max(from, level));
        } else {
            thickness = column.ground - level;
        }
        return thickness * cellArea(m_ground.frame);
    }

    /// Leaves only the columns that pay; the profit. Costs are the slabs of each cell between the levels that columns ask for.
    double keepWhatPays(std::vector<WantedColumn>& wanted) {
        constexpr std::size_t kMostSlabs = 20'000'000;
        std::vector<std::vector<std::pair<double, std::size_t>>> asked(m_ground.columns.size()); // level and wanted column
        const double highest = highestGround(m_ground);
        std::size_t slabs = 0;
        for (std::size_t i = 0; i < wanted.size(); ++i)
            reachFrom(
                m_ground, m_rules, wanted[i], highest, 0, m_ground.frame.rows(), [](std::size_t, double) { return true; },
                [&](std::size_t cell, double level) {
                    if (!m_mayDig[cell]) return;
                    asked[cell].emplace_back(level, i);
                    if (++slabs > kMostSlabs) throw Error("What pays can't be worked out for so many cells; give larger ones.");
                });
        ClosureProblem problem;
        for (const auto& w : wanted) problem.worth.push_back(m_in.spec.worth->value * w.volume);
        for (std::size_t cell = 0; cell < asked.size(); ++cell) {
            auto& levels = asked[cell];
            std::ranges::sort(levels, std::greater<>());
            double above = m_ground.columns[cell].ground;
            std::optional<std::size_t> slab;
            for (const auto& [level, column] : levels) {
                if (!slab || level < above) {
                    problem.worth.push_back(-m_in.spec.worth->cost * (above - level) * cellArea(m_ground.frame));
                    const auto here = problem.worth.size() - 1;
                    if (slab) problem.needs.emplace_back(here, *slab);
                    slab = here, above = level;
                }
                problem.needs.emplace_back(column, *slab);
            }
        }
        const auto chosen = maximumClosure(problem);
        double profit = 0;
        for (std::size_t i = 0; i < chosen.size(); ++i)
            if (chosen[i]) profit += problem.worth[i];
        std::vector<WantedColumn> kept;
        for (std::size_t i = 0; i < wanted.size(); ++i)
            if (chosen[i]) kept.push_back(wanted[i]);
        wanted = std::move(kept);
        return profit;
    }

    void count(Excavation& out, const std::vector<WantedColumn>& wanted) const {
        const auto& f = m_ground.frame;
        const double area = cellArea(f);
        out.mass = 0;
        const auto water = waterLevels();
        if (!water.empty()) out.belowWater = 0;
        out.depth = Grid(f);
        for (std::size_t i = 0; i < m_ground.columns.size(); ++i) {
            const auto& column = m_ground.columns[i];
            const double depth = out.depth.values[i] = column.ground - out.dug.values[i];
            if (!(depth > 0)) continue;
            out.area += area;
            out.deepest = std::max(out.deepest, depth);
            out.excavated += depth * area;
            out.limitLength += cutSides(i) * f.cell;
            if (out.belowWater && !std::isnan(water[i]))
                *out.belowWater += std::max(0.0, std::min(column.ground, water[i]) - out.dug.values[i]) * area;
            using Wanted = ExcavationSpec::Wanted;
            if (m_in.spec.wanted == Wanted::Units || m_in.spec.wanted == Wanted::Blocks)
                out.wanted += wantedIn(i, out.dug.values[i]);
            const auto units = unitThicknesses(column, m_sequence.units.size(), column.ground, out.dug.values[i]);
            for (std::size_t u = 0; u < units.size(); ++u)
                if (units[u] > 0) out.byUnit[u] += units[u] * area;
            out.reachesEdge = out.reachesEdge || isAtEdge(i);
        }
        if (m_in.spec.wanted != ExcavationSpec::Wanted::Units && m_in.spec.wanted != ExcavationSpec::Wanted::Blocks)
            for (const auto& w : wanted) out.wanted += w.volume;
        for (const auto& [u, volume] : out.byUnit) {
            const auto factor = m_in.spec.factors.find(m_sequence.units[u].code);
            if (factor != m_in.spec.factors.end()) out.looseByUnit[u] = volume * factor->second;
            const auto weight = m_sequence.units[u].values.find("unit_weight");
            if (weight == m_sequence.units[u].values.end()) {
                out.mass.reset();
                continue;
            }
            out.massByUnit[u] = volume * weight->second / kGravity;
            if (out.mass) *out.mass += out.massByUnit[u];
        }
        countWantedMass(out, wanted);
        countBenches(out);
    }

    /// Tonnes of the ground between two levels of a cell; kNoValue if a unit there has no unit weight.
    double massBetween(std::size_t cell, double top, double bottom) const {
        if (!(top > bottom)) return 0;
        const auto units = unitThicknesses(m_ground.columns[cell], m_sequence.units.size(), top, bottom);
        double out = 0;
        for (std::size_t u = 0; u < units.size(); ++u) {
            if (!(units[u] > 0)) continue;
            const auto weight = m_sequence.units[u].values.find("unit_weight");
            if (weight == m_sequence.units[u].values.end()) return kNoValue;
            out += units[u] * cellArea(m_ground.frame) * weight->second / kGravity;
        }
        return out;
    }

    void countWantedMass(Excavation& out, const std::vector<WantedColumn>& wanted) const {
        double mass = 0;
        if (m_in.spec.wanted == ExcavationSpec::Wanted::Units) {
            for (const auto u : m_units) {
                if (!out.byUnit.contains(u)) continue;
                const auto one = out.massByUnit.find(u);
                mass += one == out.massByUnit.end() ? kNoValue : one->second;
            }
        } else if (m_in.spec.wanted == ExcavationSpec::Wanted::Blocks) {
            for (std::size_t cell = 0; cell < m_wantedBlocks.size(); ++cell) {
                const double ground = m_ground.columns[cell].ground, dug = out.dug.values[cell];
                if (!(dug < ground)) continue;
                for (const auto& [from, to] : m_wantedBlocks[cell])
                    mass += massBetween(cell, std::min(to, ground), std::max(from, dug));
            }
        } else {
            for (const auto& w : wanted) mass += massBetween(w.cell, m_ground.columns[w.cell].ground, w.bottom);
        }
        if (!std::isnan(mass)) out.wantedMass = mass;
    }

    void countBenches(Excavation& out) const {
        if (out.area == 0) return;
        const double highest = highestGround(m_ground);
        const double height = m_rules.bench ? m_rules.bench->height : std::max(1e-9, highest - m_rules.deepest);
        const double area = cellArea(m_ground.frame);
        for (double from = m_rules.deepest; from < highest; from += height) {
            Excavation::Bench bench{from, from + height, 0, 0, {}};
            double mass = 0;
            for (std::size_t i = 0; i < m_ground.columns.size(); ++i) {
                const double ground = m_ground.columns[i].ground, dug = out.dug.values[i];
                if (!(dug < ground)) continue;
                const double top = std::min(ground, bench.to), bottom = std::max(dug, bench.from);
                bench.volume += std::max(0.0, top - bottom) * area;
                mass += massBetween(i, top, bottom);
                if (dug >= bench.from && dug < bench.to) bench.area += area;
            }
            if (!std::isnan(mass)) bench.mass = mass;
            if (bench.volume > 0) out.benches.push_back(bench);
        }
    }

    /// How many sides of a dug cell lie at the limit.
    int cutSides(std::size_t cell) const {
        const auto& f = m_ground.frame;
        const int columns = f.columns(), rows = f.rows(), c = int(cell % std::size_t(columns)),
                  r = int(cell / std::size_t(columns));
        int out = 0;
        for (const auto& [dc, dr] : {std::pair{-1, 0}, {1, 0}, {0, -1}, {0, 1}}) {
            const int x = c + dc, y = r + dr;
            out +=
                x >= 0 && y >= 0 && x < columns && y < rows && !m_mayDig[std::size_t(y) * std::size_t(columns) + std::size_t(x)];
        }
        return out;
    }

    /// Of the water, a cell; empty without any.
    std::vector<double> waterLevels() const {
        if (m_in.spec.waterLevel) return std::vector<double>(m_ground.columns.size(), *m_in.spec.waterLevel);
        if (!m_in.water) return {};
        std::vector<Point2> places;
        for (std::size_t i = 0; i < m_ground.columns.size(); ++i) places.push_back(centreOf(m_ground.frame, i));
        std::vector<double> out(places.size(), kNoValue);
        m_in.water->evaluate(places, out, {});
        return out;
    }

    /// At the rim of the extent, or beside a cell without ground.
    bool isAtEdge(std::size_t cell) const {
        const auto& f = m_ground.frame;
        const int columns = f.columns(), rows = f.rows(), c = int(cell % std::size_t(columns)),
                  r = int(cell / std::size_t(columns));
        for (const auto& [dc, dr] : {std::pair{-1, 0}, {1, 0}, {0, -1}, {0, 1}}) {
            const int x = c + dc, y = r + dr;
            if (x < 0 || y < 0 || x >= columns || y >= rows) return true;
            if (std::isnan(m_ground.columns[std::size_t(y) * std::size_t(columns) + std::size_t(x)].ground)) return true;
        }
        return false;
    }

    const ExcavationInputs& m_in;
    const Progress& m_progress;
    const Sequence& m_sequence;
    DigGround m_ground;
    SlopeRules m_rules;
    std::set<std::size_t> m_units;
    std::vector<std::vector<std::pair<double, double>>> m_wantedBlocks; ///< a cell: levels of blocks, from and to
    std::vector<char> m_mayDig;                                         ///< a cell: it is within the limit
};

} // namespace

Frame digFrame(const ExcavationInputs& in) {
    auto frame = in.site;
    if (in.spec.cell > 0) frame.cell = in.spec.cell;
    if (cellsOf(frame) > limits::kSiteCells)
        throw Error(fmt::format("With cells of {:g} m there would be {:.0f}; the limit is {:.0f}.", frame.cell, cellsOf(frame),
                                limits::kSiteCells));
    return frame;
}

/// The ground is what was dug before: what lay above is gone.
void digBefore(DigGround& ground, const Grid& before) {
    for (std::size_t i = 0; i < ground.columns.size(); ++i) {
        const auto dug = bilinear(before, centreOf(ground.frame, i));
        auto& c = ground.columns[i];
        if (!dug || std::isnan(c.ground)) continue;
        c.ground = std::min(c.ground, *dug);
        for (double& b : c.bases) b = std::min(b, c.ground);
        c.floor = std::min(c.floor, c.ground);
    }
}

Excavation excavate(const ExcavationInputs& in, const Progress& progress) {
    auto ground = digGround(*in.model, digFrame(in), progress);
    if (in.before) digBefore(ground, *in.before);
    return excavateIn(in, std::move(ground), progress);
}

Excavation excavateIn(const ExcavationInputs& in, DigGround ground, const Progress& progress) {
    return Excavator(in, std::move(ground), progress).dig();
}

std::vector<ContourLine> benchLines(const Excavation& dig) {
    if (dig.benches.size() < 2) return {};
    const double height = dig.benches.front().to - dig.benches.front().from, deepest = dig.benches.front().from;
    // counted from the deepest floor; the ground that is not dug has no benches
    Grid above = dig.dug;
    const auto& f = above.frame;
    for (int r = 0; r < f.rows(); ++r)
        for (int c = 0; c < f.columns(); ++c) {
            bool near = false; // it is dug, or borders on what is
            for (int dr = -1; dr <= 1; ++dr)
                for (int dc = -1; dc <= 1; ++dc) {
                    const int cc = c + dc, rr = r + dr;
                    near = near || (cc >= 0 && rr >= 0 && cc < f.columns() && rr < f.rows() && dig.depth.at(cc, rr) > 0);
                }
            above.at(c, r) = near ? above.at(c, r) - deepest : kNoValue;
        }
    auto lines = contoursOf(above, height);
    std::erase_if(lines, [](const ContourLine& l) { return l.line.size() < 2; });
    for (auto& l : lines) l.level += deepest;
    return lines;
}

} // namespace fox
