#include "holes/soundings.h"

#include "holes/water_levels.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace fox {

namespace {

constexpr double kWaterWeight = 9.81; // kN/m3

const Curve* track(const Hole& hole, const std::string& push, std::string_view name) {
    for (const auto& c : hole.curves)
        if (c.push == push && c.name == name && c.readings && !c.readings->empty()) return &c;
    return nullptr;
}

/// Values of another track at the depths of a first one. Tracks of one push have the same depths as a rule; where one lacks a
/// reading there is no value.
class Beside {
public:
    explicit Beside(const Curve* curve) : m_readings(curve ? curve->readings.get() : nullptr) {}

    /// Depths are asked for in rising order.
    double at(double depth) {
        constexpr double kSame = 1e-4; // metres
        if (!m_readings) return kNoValue;
        while (m_next < m_readings->size() && (*m_readings)[m_next].depth < depth - kSame) ++m_next;
        const bool isThere = m_next < m_readings->size() && (*m_readings)[m_next].depth <= depth + kSame;
        return isThere ? (*m_readings)[m_next].value : kNoValue;
    }

private:
    const std::vector<Curve::Reading>* m_readings;
    std::size_t m_next = 0;
};

double logOf(double v) { return v > 0 ? std::log10(v) : kNoValue; }

} // namespace

SoundingAssumptions assumedFor(const Hole& hole, const Sounding& sounding) {
    SoundingAssumptions out;
    const auto readings = waterIn(hole, {});
    const auto latest = std::ranges::max_element(readings, {}, [](const HoleWater& w) { return timeOf(w.when).value_or(0); });
    if (sounding.statedUnitWeight) out.unitWeight = *sounding.statedUnitWeight;
    const auto strike = std::ranges::min_element(hole.strikes, {}, &WaterStrike::depth);
    if (sounding.statedWater) {
        out.water = *sounding.statedWater, out.waterFrom = "stated";
    } else if (sounding.water) {
        out.water = *sounding.water, out.waterFrom = "measured with the sounding";
    } else if (latest != readings.end()) {
        out.water = latest->depth, out.waterFrom = fmt::format("reading of {}", latest->when);
    } else if (strike != hole.strikes.end()) {
        out.water = strike->depth, out.waterFrom = "strike";
    } else {
        out.waterFrom = "not known, taken at the ground";
    }
    return out;
}

std::string words(const SoundingAssumptions& a) {
    return fmt::format("unit weight {:g} kN/m3, water at {:.2f} m ({})", a.unitWeight, a.water.metres, a.waterFrom);
}

const std::vector<SoilBehaviour>& soilBehaviours() {
    static const std::vector<SoilBehaviour> kAll{
        {1.31, "gravelly to dense sand", "#D9A05B"},    {2.05, "sand", "#E3C878"}, {2.60, "silty sand to sandy silt", "#B9BE8A"},
        {2.95, "clayey silt to silty clay", "#8FA99B"}, {3.60, "clay", "#6E8FA8"}, {INFINITY, "organic soil, peat", "#6B5A4E"}};
    return kAll;
}

const SoilBehaviour& soilBehaviour(double index) {
    return *std::ranges::find_if(soilBehaviours(),
                                 [&](const SoilBehaviour& b) { return index < b.below || std::isinf(b.below); });
}

std::vector<Curve> derivedTracks(const Hole& hole, const Sounding& sounding, const SoundingAssumptions& assumed) {
    const auto* resistance = track(hole, sounding.push, "cone resistance");
    if (!resistance) return {};
    const auto *givenRatio = track(hole, sounding.push, "friction ratio"),
               *givenCorrected = track(hole, sounding.push, "corrected cone resistance"),
               *sleeve = track(hole, sounding.push, "sleeve friction"),
               *shoulder = track(hole, sounding.push, "pore pressure u2");
    using Readings = std::vector<Curve::Reading>;
    Readings ratio, corrected, normalised, normalisedFriction, index;
    Beside friction(sleeve), pressure(shoulder), known(givenCorrected);
    for (const auto& [depth, qc] : *resistance->readings) {
        const double fs = friction.at(depth), u2 = pressure.at(depth); // kPa
        double qt = known.at(depth) * 1000;
        if (std::isnan(qt)) qt = qc * 1000 + (sounding.areaRatio && !std::isnan(u2) ? u2 * (1 - *sounding.areaRatio) : 0);
        const double total = assumed.unitWeight * depth;
        const double effective = total - kWaterWeight * std::max(0.0, depth - assumed.water.metres);
        const double net = qt - total;
        const double q = effective > 0 ? net / effective : kNoValue, f = net > 0 ? 100 * fs / net : kNoValue;
        ratio.push_back({depth, qt > 0 ? 100 * fs / qt : kNoValue});
        corrected.push_back({depth, qt / 1000});
        normalised.push_back({depth, q});
        normalisedFriction.push_back({depth, f});
        index.push_back({depth, std::hypot(3.47 - logOf(q), logOf(f) + 1.22)});
    }
    std::vector<Curve> out;
    const auto add = [&](const char* name, const char* unit, Readings readings) {
        out.push_back({name, unit, words(assumed), false, std::make_shared<const Readings>(std::move(readings))});
        out.back().push = sounding.push;
    };
    if (!givenRatio && sleeve) add("friction ratio", "%", std::move(ratio));
    if (!givenCorrected && shoulder && sounding.areaRatio) add("corrected cone resistance", "MPa", std::move(corrected));
    add("normalised resistance", "", std::move(normalised));
    if (!sleeve) return out;
    add("normalised friction ratio", "%", std::move(normalisedFriction));
    add("soil behaviour index", "", std::move(index));
    return out;
}

std::vector<BehaviourZone> behaviourZones(const Curve& index, double least) {
    std::vector<BehaviourZone> zones;
    if (!index.readings) return zones;
    const auto& all = *index.readings;
    for (std::size_t i = 0; i < all.size(); ++i) {
        if (std::isnan(all[i].value)) continue;
        const Depth base{i + 1 < all.size() ? all[i + 1].depth : all[i].depth};
        const auto* behaviour = &soilBehaviour(all[i].value);
        if (!zones.empty() && zones.back().behaviour == behaviour)
            zones.back().base = base;
        else
            zones.push_back({Depth{all[i].depth}, base, behaviour});
    }
    std::vector<BehaviourZone> out;
    for (const auto& z : zones) {
        const bool joins = !out.empty() && (out.back().behaviour == z.behaviour || z.base.metres - z.top.metres < least);
        if (joins)
            out.back().base = z.base;
        else
            out.push_back(z);
    }
    return out;
}

std::vector<Curve::Reading> thinned(const std::vector<Curve::Reading>& all, double step) {
    std::vector<Curve::Reading> out;
    if (!(step > 0)) return all;
    const auto flush = [&](std::size_t from, std::size_t to) { // readings with values, [from, to)
        if (from == to) return;
        std::size_t low = from, high = from;
        for (std::size_t i = from; i < to; ++i) {
            if (all[i].value < all[low].value) low = i;
            if (all[i].value > all[high].value) high = i;
        }
        std::size_t kept[] = {from, low, high, to - 1};
        std::ranges::sort(kept);
        for (std::size_t k = 0; k < 4; ++k)
            if (k == 0 || kept[k] != kept[k - 1]) out.push_back(all[kept[k]]);
    };
    std::size_t from = 0;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const bool isGap = std::isnan(all[i].value);
        if (isGap || std::floor(all[i].depth / step) != std::floor(all[from].depth / step)) {
            flush(from, i);
            from = i;
        }
        if (isGap) out.push_back(all[i]), from = i + 1;
    }
    flush(from, all.size());
    return out;
}

} // namespace fox
