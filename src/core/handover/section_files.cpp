#include "handover/section_files.h"

#include <fmt/format.h>
#include <pugixml.hpp>
#include <sstream>

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

std::vector<FeatureLayer> sectionDrawing(const Section& s, const Sequence& sequence) {
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

namespace {

/// Puts a section on a page of millimetres.
class SvgSection {
public:
    SvgSection(const Section& s, const Sequence& sequence, const std::string& name, double exaggeration)
        : m_section(s), m_sequence(sequence), m_name(name), m_exaggeration(exaggeration) {
        const auto meet = [&](double z) {
            if (std::isfinite(z)) m_low = std::fmin(m_low, z), m_high = std::fmax(m_high, z);
        };
        for (const double z : s.ground) meet(z);
        for (const auto& b : s.bases)
            for (const double z : b) meet(z);
        for (const auto& h : s.holes) meet(h.endLevel);
        if (std::isnan(m_low)) m_low = 0, m_high = 1;
        m_low = std::floor(m_low - 2), m_high = std::ceil(m_high + 1);
        const double length = s.chainage.empty() ? 1 : s.chainage.back();
        m_perMetre = kWide / length;
        m_high += 6 / (m_perMetre * m_exaggeration); // room for names
    }

    std::string text() {
        const double high = (m_high - m_low) * m_perMetre * m_exaggeration;
        const double keyRows = std::ceil(double(m_sequence.units.size()) / kKeyColumns);
        const double wide = kWide + 2 * kMargin, tall = kTop + high + 14 + keyRows * 6 + kMargin;
        m_root = m_document.append_child("svg");
        m_root.append_attribute("xmlns") = "http://www.w3.org/2000/svg";
        m_root.append_attribute("width") = fmt::format("{:.1f}mm", wide).c_str();
        m_root.append_attribute("height") = fmt::format("{:.1f}mm", tall).c_str();
        m_root.append_attribute("viewBox") = fmt::format("0 0 {:.1f} {:.1f}", wide, tall).c_str();
        m_root.append_attribute("font-family") = "Inter, sans-serif";
        words(kMargin, 9, fmt::format("Section {} to {}′", m_name, m_name), 4.5, "start", true);
        words(kMargin, 14,
              fmt::format("{:.0f} m long, heights {:g} times; levels in metres", lengthOf(m_section.line), m_exaggeration), 3);
        addUnits();
        addHoles();
        addScales();
        addKey(kTop + high + 16);
        std::ostringstream out;
        m_document.save(out, " ");
        return out.str();
    }

private:
    static constexpr double kWide = 360, kMargin = 16, kTop = 20; // millimetres
    static constexpr int kKeyColumns = 5;

    double x(double chainage) const { return kMargin + chainage * m_perMetre; }
    double y(double level) const { return kTop + (m_high - level) * m_perMetre * m_exaggeration; }

    void words(double atX, double atY, const std::string& said, double size, const char* anchor = "start", bool strong = false) {
        auto t = m_root.append_child("text");
        t.append_attribute("x") = fmt::format("{:.2f}", atX).c_str();
        t.append_attribute("y") = fmt::format("{:.2f}", atY).c_str();
        t.append_attribute("font-size") = size;
        t.append_attribute("text-anchor") = anchor;
        if (strong) t.append_attribute("font-weight") = "bold";
        t.append_attribute("fill") = "#25211c";
        t.text() = said.c_str();
    }
    pugi::xml_node shape(const char* kind, const std::string& points, const std::string& fill, const char* stroke, double width) {
        auto n = m_root.append_child(kind);
        n.append_attribute("points") = points.c_str();
        n.append_attribute("fill") = fill.c_str();
        n.append_attribute("stroke") = stroke;
        n.append_attribute("stroke-width") = width;
        return n;
    }

    void addUnits() {
        const auto n = m_section.chainage.size();
        for (std::size_t u = 0; u < m_sequence.units.size() && u <= m_section.bases.size(); ++u) {
            const auto& top = u == 0 ? m_section.ground : m_section.bases[u - 1];
            std::vector<double> thickness(n);
            for (std::size_t i = 0; i < n; ++i)
                thickness[i] = top[i] - (u < m_section.bases.size() ? m_section.bases[u][i] : m_low);
            for (const auto& [first, last] : runs(thickness)) {
                std::string points, line;
                for (auto i = first; i < last; ++i) points += fmt::format("{:.2f},{:.2f} ", x(m_section.chainage[i]), y(top[i]));
                for (auto i = last; i-- > first;) {
                    const double z = u < m_section.bases.size() ? m_section.bases[u][i] : m_low;
                    points += fmt::format("{:.2f},{:.2f} ", x(m_section.chainage[i]), y(z));
                    line += fmt::format("{:.2f},{:.2f} ", x(m_section.chainage[i]), y(z));
                }
                shape("polygon", points, m_sequence.units[u].colour, "none", 0).append_attribute("data-unit") =
                    m_sequence.units[u].code.c_str();
                if (u < m_section.bases.size()) shape("polyline", line, "none", "#25211c", 0.2);
            }
        }
        for (const auto& [first, last] : runs(m_section.ground)) {
            std::string line;
            for (auto i = first; i < last; ++i)
                line += fmt::format("{:.2f},{:.2f} ", x(m_section.chainage[i]), y(m_section.ground[i]));
            shape("polyline", line, "none", "#425a32", 0.5);
        }
    }

    void addHoles() {
        double lastEnd = -1e9;
        bool raised = false;
        for (const auto& h : m_section.holes) {
            for (const auto& s : h.sticks) {
                const double a = x(s.topChainage), b = x(s.baseChainage);
                shape("polygon",
                      fmt::format("{:.2f},{:.2f} {:.2f},{:.2f} {:.2f},{:.2f} {:.2f},{:.2f}", a - 1, y(s.topLevel), a + 1,
                                  y(s.topLevel), b + 1, y(s.baseLevel), b - 1, y(s.baseLevel)),
                      s.unit ? m_sequence.units[*s.unit].colour : "#ffffff", "#25211c", 0.2);
            }
            for (const double level : h.water)
                shape("polygon",
                      fmt::format("{:.2f},{:.2f} {:.2f},{:.2f} {:.2f},{:.2f}", x(h.chainage) + 1.2, y(level) - 2,
                                  x(h.chainage) + 3.6, y(level) - 2, x(h.chainage) + 2.4, y(level)),
                      "none", "#3e5c76", 0.3);
            if (h.sticks.empty()) continue;
            const double at = x(h.sticks.front().topChainage);
            raised = at - lastEnd < 12 && !raised; // every second of a crowd stands higher
            lastEnd = at;
            words(at, y(h.sticks.front().topLevel) - (raised ? 5 : 1.5), h.name, 2.8, "middle");
        }
    }

    void addScales() {
        const auto step = [](double wanted) {
            const double power = std::pow(10, std::floor(std::log10(wanted)));
            return power * (wanted / power < 2 ? 2 : wanted / power < 5 ? 5 : 10);
        };
        const double levels = step(10 / (m_perMetre * m_exaggeration)), chainages = step(30 / m_perMetre);
        for (double z = std::ceil(m_low / levels) * levels; z <= m_high; z += levels) {
            words(kMargin - 2, y(z) + 1, fmt::format("{:g}", z), 2.8, "end");
            shape("polyline", fmt::format("{:.2f},{:.2f} {:.2f},{:.2f}", kMargin - 1.5, y(z), kMargin, y(z)), "none", "#25211c",
                  0.2);
        }
        const double length = m_section.chainage.empty() ? 0 : m_section.chainage.back();
        for (double c = 0; c <= length + 1e-6; c += chainages) {
            words(x(c), y(m_low) + 5, fmt::format("{:g} m", c), 2.8, "middle");
            shape("polyline", fmt::format("{:.2f},{:.2f} {:.2f},{:.2f}", x(c), y(m_low), x(c), y(m_low) + 1.5), "none", "#25211c",
                  0.2);
        }
    }

    void addKey(double from) {
        for (std::size_t u = 0; u < m_sequence.units.size(); ++u) {
            const double left = kMargin + double(u % kKeyColumns) * kWide / kKeyColumns,
                         top = from + std::floor(double(u) / kKeyColumns) * 6;
            shape("polygon",
                  fmt::format("{:.2f},{:.2f} {:.2f},{:.2f} {:.2f},{:.2f} {:.2f},{:.2f}", left, top - 3.2, left + 6, top - 3.2,
                              left + 6, top, left, top),
                  m_sequence.units[u].colour, "#25211c", 0.2);
            words(left + 8, top - 0.5, fmt::format("{} {}", m_sequence.units[u].code, m_sequence.units[u].name), 3);
        }
    }

    const Section& m_section;
    const Sequence& m_sequence;
    std::string m_name;
    double m_exaggeration, m_perMetre = 1, m_low = kNoValue, m_high = kNoValue;
    pugi::xml_document m_document;
    pugi::xml_node m_root;
};

} // namespace

std::string sectionSvg(const Section& s, const Sequence& sequence, const std::string& name, double exaggeration) {
    return SvgSection(s, sequence, name, exaggeration).text();
}

} // namespace fox
