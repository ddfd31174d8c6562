#include "model/model.h"

#include "base/parallel.h"
#include "model/unit_top.h"

#include <fmt/format.h>

namespace fox {

std::optional<std::size_t> ModelColumn::unitAt(double level) const {
    if (std::isnan(ground) || level > ground) return {};
    for (std::size_t i = 0; i < bases.size(); ++i) {
        if (std::isnan(bases[i])) return {};
        if (level > bases[i]) return i;
    }
    return bases.size();
}

WorkingOrder workingOrder(const Sequence& sequence) {
    const std::size_t n = sequence.units.empty() ? 0 : sequence.units.size() - 1;
    WorkingOrder order{{}, std::vector<bool>(n, false), std::vector<bool>(n, false)};
    std::vector<bool> done(n, false);
    const auto against = [&](std::size_t u) -> std::optional<std::size_t> {
        const auto& r = sequence.units[u].recipe;
        if (!r.needsBase()) return {};
        const auto index = sequence.index(r.against);
        return index && *index < n && *index != u ? index : std::nullopt;
    };
    const auto topKnown = [&](std::size_t u) {
        return std::all_of(done.begin(), done.begin() + std::ptrdiff_t(u), [](bool d) { return d; });
    };
    while (order.units.size() < n) {
        // the youngest with all it may need; if there is none, with what it must have; else one of a circle
        std::optional<std::size_t> next;
        for (const bool needsTop : {true, false})
            for (std::size_t u = 0; u < n && !next; ++u)
                if (!done[u] && (!against(u) || done[*against(u)]) && (!needsTop || against(u) || topKnown(u))) next = u;
        for (std::size_t u = 0; u < n && !next; ++u)
            if (!done[u]) next = u, order.circular[u] = true;
        order.topKnown[*next] = topKnown(*next);
        const auto& r = sequence.units[*next].recipe;
        const bool lost = r.needsBase() && !against(*next);
        const bool noTop = r.reference == BaseReference::Thickness && r.against.empty() && !topKnown(*next);
        if (lost || noTop) order.circular[*next] = true;
        done[*next] = true;
        order.units.push_back(*next);
    }
    return order;
}

std::vector<std::vector<double>> Model::rawAt(std::span<const Point2> places, std::span<const double> ground, Doubt* doubt,
                                              std::optional<std::size_t> only) const {
    std::vector<std::vector<double>> raw(bases.size(), std::vector<double>(places.size(), kNoValue));
    if (doubt) doubt->variances = doubt->chances = raw;
    std::vector<double> top;
    std::vector<bool> made(bases.size(), false);
    for (const auto u : order.units) {
        if (!bases[u]) continue;
        const auto& base = *bases[u];
        ReferenceLevels from{ground, ground, {}};
        const auto other = base.measuredFromBase() ? sequence->index(base.in.against) : std::nullopt;
        std::size_t doubtful = bases.size(); // the base whose doubt this one shares
        if (base.measuredFromTop()) {
            top.resize(places.size());
            UnitTop over(*sequence, u);
            for (std::size_t i = 0; i < top.size(); ++i)
                top[i] = over.at(ground[i], [&](std::size_t k) { return made[k] ? std::optional(raw[k][i]) : std::nullopt; });
            from.from = from.top = top;
            if (base.younger) from.younger = raw[*base.younger];
        } else if (other) {
            from.from = raw[*other], doubtful = *other;
        }
        // the base that it is measured from has its doubt in it too
        const bool wanted =
            doubt
            && (!only || *only == u || holdsUp(u, *only)
                || (bases[*only] && bases[*only]->measuredFromBase() && sequence->index(bases[*only]->in.against) == u));
        made[u] = true;
        base.evaluate(places, from, raw[u], wanted ? std::span(doubt->variances[u]) : std::span<double>(),
                      wanted ? std::span(doubt->chances[u]) : std::span<double>());
        if (wanted && doubtful < bases.size())
            for (std::size_t i = 0; i < places.size(); ++i) doubt->variances[u][i] += doubt->variances[doubtful][i];
    }
    return raw;
}

namespace {

/// The chance that a normal variable is over 0.
double chanceOver0(double mean, double deviation) {
    if (!(deviation > 0)) return std::isnan(deviation) || std::isnan(mean) ? kNoValue : mean > 0 ? 1 : 0;
    return 0.5 * std::erfc(-mean / deviation / std::sqrt(2.0));
}

} // namespace

bool Model::holdsUp(std::size_t older, std::size_t unit) const {
    if (older <= unit || older >= bases.size() || !bases[older] || bases[older]->absentEverywhere) return false;
    for (auto u = unit; u < older; ++u)
        if (sequence->units[u].base == BaseRule::Cuts && !(u > unit && bases[u] && bases[u]->absentEverywhere)) return false;
    return true;
}

/// That nothing that holds a unit's base up reaches its top: raw bases as normal variables, independent of one another.
double Model::chanceNotHeldUp(std::size_t unit, double top, std::size_t place, const std::vector<std::vector<double>>& raw,
                              const Doubt& doubt) const {
    double chance = 1;
    for (auto older = unit + 1; older < bases.size(); ++older)
        if (holdsUp(older, unit)) {
            const double below = chanceOver0(top - raw[older][place], std::sqrt(doubt.variances[older][place]));
            if (!std::isnan(below)) chance *= below;
        }
    return chance;
}

std::vector<ModelColumn> Model::columnsAt(std::span<const Point2> places, bool withDeviations) const {
    return columns(places, withDeviations, {});
}

std::vector<ModelColumn> Model::columnsWithDoubtOf(std::size_t unit, std::span<const Point2> places) const {
    return columns(places, true, unit);
}

std::vector<ModelColumn> Model::columns(std::span<const Point2> places, bool withDeviations,
                                        std::optional<std::size_t> only) const {
    std::vector<double> ground(places.size());
    for (std::size_t i = 0; i < places.size(); ++i) ground[i] = terrain->levelAt(places[i]).value_or(kNoValue);
    Doubt doubt;
    const auto raw = rawAt(places, ground, withDeviations ? &doubt : nullptr, only);
    const StackRules rules(*sequence);
    std::vector<ModelColumn> out(places.size());
    for (std::size_t i = 0; i < places.size(); ++i) {
        auto& c = out[i];
        c.ground = ground[i];
        c.bases.assign(bases.size(), kNoValue);
        c.deviations = c.chances = c.bases;
        if (std::isnan(c.ground)) continue;
        double top = c.ground;
        for (std::size_t u = 0; u < bases.size(); ++u) {
            c.bases[u] = raw[u][i];
            if (!withDeviations) continue;
            c.deviations[u] = std::sqrt(doubt.variances[u][i]);
            c.chances[u] = bases[u]->absentEverywhere ? 0
                           : bases[u]->isAutomatic()  ? doubt.chances[u][i]
                                                      : chanceOver0(top - raw[u][i], c.deviations[u]);
            c.chances[u] *= chanceNotHeldUp(u, top, i, raw, doubt);
            top = std::isnan(raw[u][i]) ? kNoValue : std::min(top, raw[u][i]);
        }
        rules.apply(places[i], c.ground, c.bases);
        if (!std::isnan(floor)) c.floor = std::min(floor, c.top(bases.size()));
    }
    return out;
}

ModelColumn Model::columnAt(Point2 p, bool withDeviations) const {
    return std::move(columnsAt(std::span(&p, 1), withDeviations).front());
}

Grid sampleBase(const BaseSurface& base, const ReferenceGrids& from, const Progress& progress) {
    const auto& frame = from.from->frame;
    Grid grid(frame);
    const auto columns = std::size_t(frame.columns());
    parallelFor(
        grid.values.size(), 1024,
        [&](std::size_t begin, std::size_t end) {
            std::vector<Point2> places;
            for (auto i = begin; i < end; ++i) places.push_back(frame.centre(int(i % columns), int(i / columns)));
            const auto of = [&](const Grid* g) {
                return g ? std::span(g->values).subspan(begin, end - begin) : std::span<const double>();
            };
            base.evaluate(places, {of(from.from), of(from.from), of(from.younger)},
                          std::span(grid.values).subspan(begin, end - begin), {});
        },
        progress);
    return grid;
}

ModelGrid sampleModel(const Model& model, const Frame& frame, const Progress& progress) {
    ModelGrid out{Grid(frame), std::vector<Grid>(model.bases.size(), Grid(frame)), {}, model.floor};
    const auto columns = std::size_t(frame.columns());
    parallelFor(
        out.ground.values.size(), 1024,
        [&](std::size_t begin, std::size_t end) {
            std::vector<Point2> places;
            for (auto i = begin; i < end; ++i) places.push_back(frame.centre(int(i % columns), int(i / columns)));
            const auto all = model.columnsAt(places);
            for (auto i = begin; i < end; ++i) {
                out.ground.values[i] = all[i - begin].ground;
                for (std::size_t u = 0; u < out.bases.size(); ++u) out.bases[u].values[i] = all[i - begin].bases[u];
            }
        },
        progress);
    return out;
}

Grid topOf(const Sequence& sequence, const Grid& ground, std::span<const std::shared_ptr<const Grid>> younger) {
    Grid out = ground;
    UnitTop top(sequence, younger.size());
    for (std::size_t i = 0; i < out.values.size(); ++i)
        out.values[i] = top.at(ground.values[i],
                               [&](std::size_t u) { return younger[u] ? std::optional(younger[u]->values[i]) : std::nullopt; });
    return out;
}

namespace {

/// Over what area something happens to each unit, square metres.
struct StackAreas {
    std::vector<double> crossing, thin, outside;
};

/// Remedies for a base that rises above what lies over it.
std::vector<Remedy> crossingRemedies(const Sequence& sequence, std::size_t unit) {
    const auto& code = sequence.units[unit].code;
    std::vector<Remedy> out;
    if (unit > 0) {
        const auto& over = sequence.units[unit - 1].code;
        out.push_back({fmt::format("The older wins: {} stops against it", over), OlderWins{over}});
        out.push_back({"Both meet halfway", MeetHalfway{code}});
    }
    out.push_back({fmt::format("Keep 0.1 m of {} everywhere", code), KeepThickness{code, 0.1}});
    out.push_back({fmt::format("Hold it below the {}", unit > 0 ? "base over it" : "ground"),
                   HoldBelow{code, unit > 0 ? sequence.units[unit - 1].code : ""}});
    return out;
}

/// Says over what area each raw base stands above what lies over it: there the unit is absent. A thickness that falls
/// to nothing is no crossing.
void reportAreas(const Model& model, ModelGrid& out, const StackAreas& areas) {
    const auto& sequence = *model.sequence;
    const auto say = [&](const Unit& unit, const char* rule, std::string words) -> Finding& {
        Finding f{Severity::Note, rule, "", 0, "", "", "", std::move(words)};
        f.unit = unit.code;
        return out.findings.emplace_back(std::move(f));
    };
    for (std::size_t i = 0; i < areas.crossing.size(); ++i) {
        const auto& unit = sequence.units[i];
        const bool remedied = unit.crossing.kind != CrossingRemedy::Kind::None;
        if (areas.crossing[i] > 0 && !model.bases[i]->measuredFromTop()) {
            auto& f = say(unit, "FC-CROSSES",
                          fmt::format("The base of {} rises above what lies over it on {:.0f} m²: there {}.", unit.code,
                                      areas.crossing[i],
                                      remedied ? words(unit.crossing.kind) : fmt::format("{} is taken as absent", unit.code)));
            if (!remedied) f.others = crossingRemedies(sequence, i);
        }
        if (areas.thin[i] > 0)
            say(unit, "FC-THIN",
                fmt::format(
                    "{} would be thinner than its minimum thickness of {:g} m on {:.0f} m²: there it is taken as absent, and "
                    "holes that have it there do not match.",
                    unit.code, unit.leastThickness, areas.thin[i]));
        if (areas.outside[i] > 0)
            say(unit, "FC-CLIPPED",
                fmt::format("{} would lie outside its outline on {:.0f} m²: there it is taken as absent.", unit.code,
                            areas.outside[i]));
    }
}

} // namespace

ModelGrid stackGrids(const Model& model, const Grid& ground, const std::vector<std::shared_ptr<const Grid>>& raw) {
    ModelGrid out{ground, std::vector<Grid>(raw.size(), Grid(ground.frame)), {}, model.floor};
    const StackRules rules(*model.sequence);
    std::vector<double> column(raw.size());
    std::vector<StackRules::Change> changes(raw.size());
    const std::vector<double> none(raw.size(), 0);
    StackAreas areas{none, none, none};
    const auto columns = std::size_t(ground.frame.columns());
    const double cell = ground.frame.cell * ground.frame.cell;
    for (std::size_t i = 0; i < ground.values.size(); ++i) {
        for (std::size_t u = 0; u < raw.size(); ++u) column[u] = raw[u]->values[i];
        const auto before = column;
        rules.apply(ground.frame.centre(int(i % columns), int(i / columns)), ground.values[i], column, changes);
        for (std::size_t u = 0; u < raw.size(); ++u) {
            out.bases[u].values[i] = column[u];
            constexpr double kSaid = 0.01; // metres; less is no crossing that anyone would see
            if (std::isfinite(before[u]) && before[u] > column[u] + kSaid) areas.crossing[u] += cell;
            if (changes[u] == StackRules::Change::Thin) areas.thin[u] += cell;
            if (changes[u] == StackRules::Change::Outside) areas.outside[u] += cell;
        }
    }
    reportAreas(model, out, areas);
    return out;
}

} // namespace fox
