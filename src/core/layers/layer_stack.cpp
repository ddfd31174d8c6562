#include "layers/layer_stack.h"

#include "base/errors.h"

#include <fmt/format.h>
#include <numeric>

namespace fox {

std::vector<double> Field::at(std::span<const Point2> places, std::span<const ModelColumn> columns,
                              const Sequence& sequence) const {
    using From = FieldSource::From;
    std::vector<double> out(places.size(), kNoValue);
    if (surface) {
        surface->evaluate(places, out, {});
        if (source.logarithmic)
            for (double& v : out) v = std::exp(v);
    } else if (source.from == From::Number) {
        std::ranges::fill(out, source.number);
    } else if (source.from == From::Ground) {
        for (std::size_t i = 0; i < out.size(); ++i) out[i] = columns[i].ground;
    } else if (source.from == From::Base) {
        const auto unit = sequence.index(source.name).value();
        for (std::size_t i = 0; i < out.size(); ++i)
            if (!std::isnan(columns[i].ground)) out[i] = columns[i].base(unit);
    }
    return out;
}

std::map<std::string, std::vector<double>> valuesByUnit(const Sequence& sequence, const std::map<std::string, Field>& fields) {
    std::map<std::string, std::vector<double>> out;
    for (const auto& [key, field] : fields) {
        if (field.source.from != FieldSource::From::Units) continue;
        for (const auto& u : sequence.units) {
            const auto at = u.values.find(key);
            out[key].push_back(at == u.values.end() ? kNoValue : at->second);
        }
    }
    return out;
}

double valueOfUnits(std::span<const double> thicknesses, std::span<const double> values, bool harmonic) {
    double sum = 0, all = 0;
    for (std::size_t u = 0; u < thicknesses.size(); ++u) {
        if (!(thicknesses[u] > 0)) continue;
        all += thicknesses[u];
        sum += harmonic ? thicknesses[u] / values[u] : thicknesses[u] * values[u];
    }
    if (!(all > 0)) return kNoValue;
    return harmonic ? all / sum : sum / all;
}

LayerStack::LayerStack(const Sequence& sequence, std::vector<LayerRule> rules, bool oldestHasFloor) : m_rules(std::move(rules)) {
    std::optional<std::size_t> before; // the oldest unit of the layers so far
    for (std::size_t r = 0; r < m_rules.size(); ++r) {
        auto& rule = m_rules[r];
        const auto called = rule.name.empty() ? fmt::format("Layer {}", r + 1) : fmt::format("Layer \"{}\"", rule.name);
        Bottom bottom;
        std::optional<std::size_t> youngest;
        for (const auto& code : rule.units) {
            const auto unit = sequence.index(code);
            if (!unit) throw Error(fmt::format("{}: the sequence has no unit {}.", called, code));
            bottom.unit = std::max(bottom.unit.value_or(*unit), *unit);
            youngest = std::min(youngest.value_or(*unit), *unit);
        }
        if (youngest && before && *youngest < *before)
            throw Error(
                fmt::format("{} has {}, which is younger than {} of a layer over it; layers go from the youngest unit down.",
                            called, sequence.units[*youngest].code, sequence.units[*before].code));
        const bool own = rule.thickness || rule.bottom || rule.below || rule.isBetween();
        if (youngest && before && *youngest == *before && !m_rules[r - 1].thickness && !m_rules[r - 1].bottom
            && !m_rules[r - 1].below && !m_rules[r - 1].isBetween())
            throw Error(fmt::format("{} has {}, all of which is in the layer over it; give that one a thickness or a bottom.",
                                    called, sequence.units[*youngest].code));
        if (bottom.unit) before = bottom.unit;
        if (!bottom.unit && !own)
            throw Error(fmt::format("{} has neither units nor a bottom, a thickness or a distance.", called));
        const bool last = r + 1 == m_rules.size(), oldest = bottom.unit && *bottom.unit + 1 == sequence.units.size();
        if (rule.isBetween() && last) throw Error(fmt::format("{} is the lowest; nothing below it is given.", called));
        if (rule.isBetween() && (m_rules[r + 1].below || m_rules[r + 1].thickness))
            throw Error(fmt::format("{} needs a layer with units or a bottom below it.", called));
        if ((last || (oldest && !rule.thickness)) && !rule.bottom && !rule.below && !rule.isBetween()
            && !(oldest && oldestHasFloor))
            throw Error(fmt::format(
                "{} is the lowest, or has the oldest unit, so it needs a bottom: a level, a grid or a thickness.", called));
        m_bottoms.push_back(bottom);
        const auto parts = rule.evenly ? std::size_t(*rule.evenly) : rule.parts.size();
        for (std::size_t p = 0; p < parts; ++p) {
            m_names.push_back(parts > 1 ? fmt::format("{} {}", rule.name, p + 1) : rule.name);
            m_ruleOf.push_back(r);
        }
    }
}

double LayerStack::bottomOf(std::size_t r, double top, const ModelColumn& column, std::span<const double> given) const {
    const auto& rule = m_rules[r];
    if (rule.bottom) return given[r];
    if (rule.below) return top - *rule.below;
    const double base = m_bottoms[r].unit ? column.base(*m_bottoms[r].unit) : kNoValue;
    if (!rule.thickness) return base;
    return std::isnan(base) ? top - *rule.thickness : std::max(top - *rule.thickness, base); // the oldest has no base
}

int LayerStack::levels(double top, const ModelColumn& column, std::span<const double> given, std::span<double> out,
                       std::span<char> crossing) const {
    int crossed = 0;
    std::size_t layer = 0;
    out[0] = top;
    const auto close = [&](std::size_t r, double from, double bottom) {
        if (bottom > from + 1e-9) {
            ++crossed;
            if (!crossing.empty()) crossing[layer] = 1;
        }
        bottom = std::isnan(bottom) || std::isnan(from) ? kNoValue : std::min(bottom, from);
        const auto& parts = m_rules[r].parts;
        const double all = std::accumulate(parts.begin(), parts.end(), 0.0);
        double sum = 0;
        for (std::size_t p = 0; p < parts.size(); ++p) {
            sum += parts[p];
            out[++layer] = p + 1 == parts.size() ? bottom : from + (bottom - from) * (sum / all);
        }
    };
    for (std::size_t r = 0; r < m_rules.size(); ++r) {
        auto last = r; // of a run of layers between others, the one whose bottom is given
        while (m_rules[last].isBetween()) ++last;
        const double start = out[layer], end = bottomOf(last, start, column, given);
        // bottoms that are fixed by a distance above the end; the others are spaced evenly between
        while (r < last) {
            std::size_t inserted = 0;
            auto next = r;
            while (next < last && m_rules[next].evenly) inserted += std::size_t(*m_rules[next++].evenly);
            const double from = out[layer];
            const double limit =
                std::isnan(end) ? kNoValue : std::min(from, next < last ? std::max(end, end + *m_rules[next].above) : end);
            for (std::size_t i = 0; i < inserted; ++i)
                out[++layer] = from + (limit - from) * double(i + 1) / double(inserted + 1);
            if (next < last) out[++layer] = std::isnan(from) ? kNoValue : limit;
            r = std::min(next + 1, last);
            if (next == last) break;
        }
        r = last;
        close(r, out[layer], end);
    }
    return crossed;
}

int mendThin(const ThinRule& rule, std::span<double> levels, std::span<char> passive) {
    return mendThin(rule.metres, std::vector(passive.size(), rule.then), levels, passive);
}

int mendThin(double metres, std::span<const CellAnswer> answers, std::span<double> levels, std::span<char> passive) {
    const auto layers = passive.size();
    const auto isThin = [&](std::size_t k) { return isThinner(levels[k] - levels[k + 1], metres); };
    int thin = 0;
    for (std::size_t k = 0; k < layers; ++k) thin += isThin(k);
    std::ranges::fill(passive, 0);
    for (std::size_t k = 0; k < layers; ++k) {
        if (!isThin(k)) continue;
        if (answers[k] == CellAnswer::Thicken) {
            levels[k + 1] = levels[k] - metres; // the layers below are looked at next
        } else if (answers[k] != CellAnswer::Join) {
            passive[k] = 1;
        } else {
            auto above = k;
            while (above > 0 && !(levels[above - 1] - levels[above] > 0)) --above;
            const double level = above > 0 ? levels[k + 1] : levels[k]; // where the layer ends that is left with nothing
            if (above > 0)
                for (auto i = above; i <= k; ++i) levels[i] = level;
            else if (k + 1 < layers)
                levels[k + 1] = level;
            passive[k] = 1;
        }
    }
    return thin;
}

} // namespace fox
