#include "model/model.h"

#include "base/parallel.h"

#include <fmt/format.h>

namespace fox {

void applyRules(double ground, std::span<double> bases, std::span<const BaseRule> rules) {
    // a lapping base can't go below the bases of older units; what is not known holds nothing up
    double older = -std::numeric_limits<double>::infinity();
    for (std::size_t i = bases.size(); i-- > 0;) {
        if (std::isnan(bases[i])) continue;
        if (rules[i] == BaseRule::Laps) bases[i] = std::max(bases[i], older);
        older = std::isinf(bases[i]) ? older : std::max(older, bases[i]);
    }
    double before = ground;
    for (auto& b : bases) {
        b = std::isnan(before) || std::isnan(b) ? kNoValue : std::min(b, before);
        before = b;
    }
}

std::optional<std::size_t> ModelColumn::unitAt(double level) const {
    if (std::isnan(ground) || level > ground) return {};
    for (std::size_t i = 0; i < bases.size(); ++i) {
        if (std::isnan(bases[i])) return {};
        if (level > bases[i]) return i;
    }
    return bases.size();
}

std::vector<BaseRule> Model::rules() const {
    std::vector<BaseRule> out;
    for (const auto& u : sequence->units) out.push_back(u.base);
    return out;
}

ModelColumn Model::columnAt(Point2 p, bool withDeviations) const {
    ModelColumn column;
    column.ground = terrain->levelAt(p).value_or(kNoValue);
    column.bases.assign(bases.size(), kNoValue);
    column.deviations.assign(bases.size(), kNoValue);
    if (std::isnan(column.ground)) return column;
    for (std::size_t i = 0; i < bases.size(); ++i) {
        double variance = kNoValue;
        bases[i]->evaluate(std::span(&p, 1), std::span(&column.ground, 1), std::span(&column.bases[i], 1),
                           withDeviations ? std::span(&variance, 1) : std::span<double>());
        column.deviations[i] = std::sqrt(variance);
    }
    applyRules(column.ground, column.bases, rules());
    return column;
}

Grid sampleBase(const BaseSurface& base, const Grid& ground, const Progress& progress) {
    Grid grid(ground.frame);
    const auto columns = std::size_t(ground.frame.columns());
    parallelFor(
        grid.values.size(), 1024,
        [&](std::size_t begin, std::size_t end) {
            std::vector<Point2> places;
            for (auto i = begin; i < end; ++i) places.push_back(ground.frame.centre(int(i % columns), int(i / columns)));
            base.evaluate(places, std::span(ground.values).subspan(begin, end - begin),
                          std::span(grid.values).subspan(begin, end - begin), {});
        },
        progress);
    return grid;
}

namespace {

/// Says over what area each raw base stands above what lies over it: there the unit is absent.
void reportCrossings(const Sequence& sequence, ModelGrid& out, const std::vector<double>& area) {
    for (std::size_t i = 0; i < area.size(); ++i)
        if (area[i] > 0)
            out.findings.push_back(
                {Severity::Note, "FC-CROSSES", "", 0, "", "", "",
                 fmt::format("The base of {} rises above what lies over it on {:.0f} m²: there {} is taken as absent.",
                             sequence.units[i].code, area[i], sequence.units[i].code)});
}

} // namespace

ModelGrid stackGrids(const Sequence& sequence, const Grid& ground, const std::vector<std::shared_ptr<const Grid>>& raw) {
    ModelGrid out{ground, std::vector<Grid>(raw.size(), Grid(ground.frame)), {}};
    std::vector<BaseRule> rules;
    for (const auto& u : sequence.units) rules.push_back(u.base);
    std::vector<double> column(raw.size()), crossingArea(raw.size(), 0);
    const double cell = ground.frame.cell * ground.frame.cell;
    for (std::size_t i = 0; i < ground.values.size(); ++i) {
        for (std::size_t u = 0; u < raw.size(); ++u) column[u] = raw[u]->values[i];
        auto before = column;
        applyRules(ground.values[i], column, rules);
        for (std::size_t u = 0; u < raw.size(); ++u) {
            out.bases[u].values[i] = column[u];
            constexpr double kSaid = 0.01; // metres; less is no crossing that anyone would see
            if (std::isfinite(before[u]) && before[u] > column[u] + kSaid) crossingArea[u] += cell;
        }
    }
    reportCrossings(sequence, out, crossingArea);
    return out;
}

} // namespace fox
