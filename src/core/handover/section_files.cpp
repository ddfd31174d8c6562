#include "handover/section_files.h"

#include <fmt/format.h>

namespace fox {

namespace {

/// Runs of known values, as index ranges [first, last).
std::vector<std::pair<std::size_t, std::size_t>> runs(const std::vector<double>& values) {
    std::vector<std::pair<std::size_t, std::size_t>> out;
    for (std::size_t i = 0; i < values.size();) {
        if (std::isnan(values[i])) {
            ++i;
            continue;
        }
        const auto first = i;
        while (i < values.size() && !std::isnan(values[i])) ++i;
        if (i - first > 1) out.emplace_back(first, i);
    }
    return out;
}

void addRuns(FeatureLayer& layer, const Section& s, const std::vector<double>& levels,
             const std::map<std::string, Feature::Value>& attributes, bool inPlace) {
    for (const auto& [first, last] : runs(levels)) {
        Feature f{GeometryKind::Line, {{}}, inPlace, attributes};
        for (auto i = first; i < last; ++i) {
            const auto p = inPlace ? pointAlong(s.line, s.chainage[i]) : Point2{s.chainage[i], levels[i]};
            f.parts[0].push_back({p.x, p.y, inPlace ? levels[i] : 0});
        }
        layer.features.push_back(std::move(f));
    }
}

} // namespace

std::vector<FeatureLayer> sectionInItsPlane(const Section& s, const Sequence& sequence) {
    std::vector<FeatureLayer> out{{"ground", "", {}}};
    addRuns(out.back(), s, s.ground, {}, false);
    for (std::size_t u = 0; u < s.bases.size(); ++u) {
        out.push_back({"base_" + sequence.units[u].code, "", {}});
        addRuns(out.back(), s, s.bases[u], {}, false);
    }
    FeatureLayer holes{"holes", "", {}}, contacts{"contacts", "", {}}, names{"names", "", {}};
    for (const auto& h : s.holes) {
        if (h.sticks.empty()) continue;
        const auto& first = h.sticks.front();
        holes.features.push_back(
            {GeometryKind::Line, {{{first.topChainage, first.topLevel, 0}, {h.endChainage, h.endLevel, 0}}}, false, {}});
        for (const auto& stick : h.sticks)
            contacts.features.push_back(
                {GeometryKind::Line,
                 {{{stick.baseChainage - 1, stick.baseLevel, 0}, {stick.baseChainage + 1, stick.baseLevel, 0}}},
                 false,
                 {}});
        names.features.push_back({GeometryKind::Point, {{{first.topChainage, first.topLevel + 1, 0}}}, false, {}, h.name});
    }
    for (auto* layer : {&holes, &contacts, &names}) out.push_back(std::move(*layer));
    return out;
}

std::vector<FeatureLayer> sectionLayers(const Section& s, const Sequence& sequence, const std::string& name,
                                        const std::string& crs) {
    FeatureLayer surfaces{"surfaces", crs, {}}, holes{"holes", crs, {}};
    addRuns(surfaces, s, s.ground, {{"section", name}, {"surface", std::string("ground")}, {"unit", std::string()}}, true);
    for (std::size_t u = 0; u < s.bases.size(); ++u)
        addRuns(surfaces, s, s.bases[u], {{"section", name}, {"surface", std::string("base")}, {"unit", sequence.units[u].code}},
                true);
    for (const auto& h : s.holes) {
        const auto p = pointAlong(s.line, h.chainage);
        holes.features.push_back({GeometryKind::Point,
                                  {{{p.x, p.y, 0}}},
                                  false,
                                  {{"section", name}, {"hole_id", h.name}, {"chainage", h.chainage}, {"offset", h.offset}}});
    }
    return {std::move(surfaces), std::move(holes)};
}

std::string sectionCsv(const Section& s, const Sequence& sequence) {
    std::string out = "chainage,easting,northing,ground";
    for (std::size_t u = 0; u < s.bases.size(); ++u)
        out += fmt::format(",base_{},sd_{}", sequence.units[u].code, sequence.units[u].code);
    out += "\n";
    const auto add = [&](double v) { out += std::isfinite(v) ? fmt::format(",{:.3f}", v) : ","; };
    for (std::size_t i = 0; i < s.chainage.size(); ++i) {
        const auto p = pointAlong(s.line, s.chainage[i]);
        out += fmt::format("{:.3f},{:.3f},{:.3f}", s.chainage[i], p.x, p.y);
        add(s.ground[i]);
        for (std::size_t u = 0; u < s.bases.size(); ++u) add(s.bases[u][i]), add(s.deviations[u][i]);
        out += "\n";
    }
    return out;
}

} // namespace fox
