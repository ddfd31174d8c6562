#include "sheets/section_drawing.h"

#include "model/presence_line.h"
#include "paper/render.h"
#include "sheets/scale.h"
#include "sheets/unit_style.h"

#include <fmt/format.h>

namespace fox {

using namespace paper;

namespace {

constexpr Colour kWaterLine{0x1F, 0x6F, 0xA8}, kNamedLine{0x7A, 0x2E, 0x6B};
constexpr double kScaleLeft = 12, kScaleBelow = 5.5; // millimetres that the scales take up

/// Index ranges [first, last) of at least two places in which `known` holds.
template <typename Known>
std::vector<std::pair<std::size_t, std::size_t>> runs(std::size_t count, const Known& known) {
    std::vector<std::pair<std::size_t, std::size_t>> out;
    for (std::size_t i = 0; i < count;) {
        const auto first = i;
        while (i < count && known(i)) ++i;
        if (i - first > 1) out.emplace_back(first, i);
        if (i == first) ++i;
    }
    return out;
}

bool overlap(const Box2& a, const Box2& b) { return a.xmin < b.xmax && b.xmin < a.xmax && a.ymin < b.ymax && b.ymin < a.ymax; }

/// Draws one section. From the back to the front: units, their bases, the ground, holes, names, scales.
class SectionDrawer {
public:
    SectionDrawer(const Section& s, const Sequence& sequence, const SectionLayout& layout, const SectionStyle& style)
        : m_section(s), m_sequence(sequence), m_layout(layout), m_style(style) {
        m_out.width = layout.width, m_out.height = layout.height;
    }

    Drawing draw() {
        if (m_section.chainage.empty()) return m_out;
        for (std::size_t u = 0; u < m_sequence.units.size() && u <= m_section.bases.size(); ++u) addUnit(u);
        for (std::size_t u = 0; u < m_section.chances.size() && u < m_sequence.units.size(); ++u) addEnds(u);
        addBlocks();
        addLines("ground", "", m_section.ground, {kGround, 0.5, {}});
        addDug();
        for (const auto& t : m_section.traces) addTrace(t);
        for (const auto& w : m_section.waters) addNamed(w, "water surfaces", kWaterLine);
        for (const auto& n : m_section.surfaces) addNamed(n, "surfaces", kNamedLine);
        for (const auto& h : m_section.holes) addHole(h);
        for (std::size_t i = 0; i < m_section.contacts.size(); ++i) addContact(i);
        addNames();
        addScales();
        return std::move(m_out);
    }

private:
    bool isMarked(const SectionHole& h) const { return !m_style.marked.empty() && h.name == m_style.marked; }
    Point2 at(std::size_t i, double level) const { return {m_layout.x(m_section.chainage[i]), m_layout.y(level)}; }

    void addUnit(std::size_t u) {
        const auto& unit = m_sequence.units[u];
        const double floor = m_layout.levelAt(m_layout.area.ymax) - 1; // under the edge: the oldest unit has no base
        const auto& top = u == 0 ? m_section.ground : m_section.bases[u - 1];
        const auto base = [&](std::size_t i) {
            if (u < m_section.bases.size()) return m_section.bases[u][i];
            return std::min(top[i], std::isnan(m_section.floor) ? floor : m_section.floor);
        };
        auto fill = fillOf(unit);
        if (m_style.strong && *m_style.strong != u) fill = {fill.colour->withAlpha(70), Pattern::None, {}};
        const auto known = [&](std::size_t i) { return !std::isnan(top[i]) && !std::isnan(base(i)); };
        for (const auto& [first, last] : runs(m_section.chainage.size(), known)) {
            Polygon2 ring;
            bool thick = false;
            for (auto i = first; i < last; ++i) ring.push_back(at(i, top[i])), thick |= top[i] > base(i);
            for (auto i = last; i-- > first;) ring.push_back(at(i, base(i)));
            if (thick) m_out.add("units", unit.code, FilledArea{{std::move(ring)}, fill, {}}, m_layout.area);
        }
        if (u < m_section.bases.size()) addLines("bases", unit.code, m_section.bases[u], {kInk.withAlpha(150), 0.24, {}});
    }

    void addBlocks() {
        if (!m_style.cells) return;
        for (const auto& c : *m_style.cells)
            m_out.add("blocks", "",
                      FilledArea{{rectangle(m_layout.x(c.from), m_layout.y(c.high), m_layout.x(c.to), m_layout.y(c.low))},
                                 Fill::plain(c.colour)},
                      m_layout.area);
    }

    void addDug() {
        if (!m_style.dug) return;
        Polyline2 line;
        const auto end = [&] {
            if (line.size() > 1) m_out.add("dug", "", Line{line, {kAccent, 0.7, {}}}, m_layout.area);
            line.clear();
        };
        for (const auto& p : *m_style.dug)
            if (std::isnan(p.y))
                end();
            else
                line.push_back({m_layout.x(p.x), m_layout.y(p.y)});
        end();
    }

    void addLines(const char* layer, const std::string& name, const std::vector<double>& levels, const Pen& pen) {
        for (const auto& [first, last] : runs(levels.size(), [&](std::size_t i) { return !std::isnan(levels[i]); })) {
            Line line{{}, pen};
            for (auto i = first; i < last; ++i) line.points.push_back(at(i, levels[i]));
            m_out.add(layer, name, std::move(line), m_layout.area);
        }
    }

    /// Where a unit ends: an upright tick where it is as probably present as absent, across a broken line from 25 to 75 %.
    void addEnds(std::size_t u) {
        if (m_style.strong && *m_style.strong != u) return;
        constexpr double kTick = 1.8, kCasing = 1.3; // mm: half the tick's height, and the light line behind
        const auto& unit = m_sequence.units[u];
        for (const auto& e : presenceEnds(m_section, u)) {
            const double x = m_layout.x(e.chainage), y = m_layout.y(e.level);
            const auto stroke = [&](Point2 a, Point2 b, const Pen& pen) {
                m_out.add("presence", unit.code, Line{{a, b}, {kPaper.withAlpha(200), kCasing, {}}}, m_layout.area);
                m_out.add("presence", unit.code, Line{{a, b}, pen}, m_layout.area);
            };
            stroke({m_layout.x(e.from), y}, {m_layout.x(e.to), y}, {kInk, 0.3, {1, 0.7}});
            stroke({x, y - kTick}, {x, y + kTick}, {kInk, 0.55, {}});
        }
    }

    /// On a lighter, wider line, so that it is seen over any pattern.
    void addTrace(const SectionTrace& t) {
        constexpr double kPixel = 0.26, kCasing = 0.7; // mm
        Line line{{}, {Colour::parse(t.colour).value_or(kMuted), t.width * kPixel, {}}};
        for (const auto& p : t.points) line.points.push_back({m_layout.x(p.x), m_layout.y(p.y)});
        auto casing = line;
        casing.pen = {kPaper.withAlpha(210), line.pen.width + kCasing, {}};
        m_out.add("background", t.layer, std::move(casing), m_layout.area);
        m_out.add("background", t.layer, std::move(line), m_layout.area);
    }

    /// A broken line with its name in the widest gap between holes.
    void addNamed(const SectionWater& water, const char* layer, Colour stroke) {
        addLines(layer, water.name, water.levels, {stroke, 0.5, {2.4, 1.2}});
        const double middle = widestGap();
        std::optional<std::size_t> nearest;
        for (std::size_t i = 0; i < water.levels.size(); ++i)
            if (!std::isnan(water.levels[i])
                && (!nearest || std::abs(m_section.chainage[i] - middle) < std::abs(m_section.chainage[*nearest] - middle)))
                nearest = i;
        if (!nearest) return;
        Text text{water.name, at(*nearest, water.levels[*nearest]), m_style.text, stroke, Text::Align::Centre};
        text.at.y -= 1;
        text.halo = kPaper.withAlpha(210);
        m_out.add(layer, water.name, std::move(text), m_layout.area);
    }

    /// The middle of the widest stretch in sight without a hole, as a chainage.
    double widestGap() const {
        const double left = std::max(m_layout.chainageAt(m_layout.area.xmin), m_section.chainage.front()),
                     right = std::min(m_layout.chainageAt(m_layout.area.xmax), m_section.chainage.back());
        double before = left, widest = -1, middle = (left + right) / 2;
        const auto until = [&](double chainage) {
            if (chainage - before > widest) widest = chainage - before, middle = (before + chainage) / 2;
            before = chainage;
        };
        for (const auto& h : m_section.holes)
            if (h.chainage > left && h.chainage < right) until(h.chainage);
        until(right);
        return middle;
    }

    void addHole(const SectionHole& h) {
        if (h.sticks.empty()) return;
        const double half = m_style.stick / 2;
        const Pen edge = isMarked(h) ? Pen{kAccent, 0.58, {}} : Pen{kInk, 0.28, {}};
        for (const auto& s : h.sticks) {
            const Point2 a{m_layout.x(s.topChainage), m_layout.y(s.topLevel)},
                b{m_layout.x(s.baseChainage), m_layout.y(s.baseLevel)};
            // a code that is no unit's is hatched grey: it is in no surface
            const Fill fill = m_style.forPaper && s.unit           ? fillOf(m_sequence.units[*s.unit])
                              : m_style.along && !m_style.forPaper ? Fill::plain(kWhite)
                              : s.unit                             ? Fill::plain(colourOf(m_sequence.units[*s.unit]))
                                                                   : Fill{kWhite, Pattern::Rubble, kMuted};
            m_out.add("holes", h.name,
                      FilledArea{{{{a.x - half, a.y}, {a.x + half, a.y}, {b.x + half, b.y}, {b.x - half, b.y}}}, fill, edge},
                      m_layout.area);
        }
        addAlong(h, half);
        addSigns(h, half);
        for (const double level : h.water) {
            const Point2 p{m_layout.x(h.chainage) + half + 1.9, m_layout.y(level)};
            m_out.add("water", h.name,
                      FilledArea{{{p, {p.x - 1.3, p.y - 2.1}, {p.x + 1.3, p.y - 2.1}}},
                                 {kWater, Pattern::None, {}},
                                 Pen{kSlate, 0.3, {}}},
                      m_layout.area);
        }
        if (h.reachesOldest) return;
        const Point2 end{m_layout.x(h.endChainage), m_layout.y(h.endLevel)};
        Line torn{{}, {kAccent, 0.4, {}}};
        for (int k = 0; k <= 4; ++k) torn.points.push_back({end.x + half * (k - 2) / 2.0, end.y + (k % 2 ? 1.3 : 0.3)});
        m_out.add("short", h.name, std::move(torn), m_layout.area);
    }

    Point2 onPaper(const SectionHole& h, double depth) const {
        const auto p = h.at(depth);
        return {m_layout.x(p.x), m_layout.y(p.y)};
    }

    /// Codes or values on the stick, and beside it a graph of values.
    void addAlong(const SectionHole& h, double half) {
        if (!m_style.along || h.index >= m_style.along->holes.size()) return;
        const auto& stretches = m_style.along->holes[h.index];
        Line graph{{}, {kInk, 0.3, {}}};
        const auto& c = m_style.colours;
        for (const auto& s : stretches) {
            const auto a = onPaper(h, s.top.metres), b = onPaper(h, s.base.metres);
            auto colour = std::optional(c.of(s.value));
            if (!s.code.empty()) colour = Colour::parse(m_style.along->colourOf(s.code));
            if (!colour) continue;
            if (!m_style.forPaper)
                m_out.add("values", h.name,
                          FilledArea{{{{a.x - half, a.y}, {a.x + half, a.y}, {b.x + half, b.y}, {b.x - half, b.y}}},
                                     Fill::plain(*colour),
                                     std::nullopt},
                          m_layout.area);
            const auto middle = onPaper(h, (s.top.metres + s.base.metres) / 2);
            const double share = c.high > c.low ? std::clamp((s.value - c.low) / (c.high - c.low), 0.0, 1.0) : 0.5;
            graph.points.push_back({middle.x + half + share * m_style.graphWidth, middle.y});
        }
        const bool isQuantity = m_style.along->choice.kind == AlongChoice::Kind::Quantity;
        if (!m_style.graph || !isQuantity || graph.points.empty()) return;
        Polygon2 filled{onPaper(h, stretches.front().top.metres)};
        filled.front().x += half;
        filled.insert(filled.end(), graph.points.begin(), graph.points.end());
        auto foot = onPaper(h, stretches.back().base.metres);
        foot.x += half;
        filled.push_back(foot);
        m_out.add("graphs", h.name, FilledArea{{std::move(filled)}, Fill::plain(kSlate.withAlpha(46)), std::nullopt},
                  m_layout.area);
        m_out.add("graphs", h.name, std::move(graph), m_layout.area);
    }

    /// A sample is a little square on the left; water that was struck an open triangle on the right.
    void addSigns(const SectionHole& h, double half) {
        if (!m_style.signs || h.index >= m_style.signs->size()) return;
        constexpr double kSide = 1.1; // mm
        for (const auto& sign : (*m_style.signs)[h.index]) {
            const auto p = onPaper(h, sign.depth.metres);
            if (sign.kind == AlongSign::Kind::Sample)
                m_out.add("samples", h.name,
                          FilledArea{{rectangle(p.x - half - 0.5 - kSide, p.y - kSide / 2, p.x - half - 0.5, p.y + kSide / 2)},
                                     Fill::plain(kInk),
                                     std::nullopt},
                          m_layout.area);
            else if (sign.kind == AlongSign::Kind::WaterStruck)
                m_out.add("water", h.name,
                          FilledArea{{{{p.x + half + 1.9, p.y}, {p.x + half + 0.6, p.y - 2.1}, {p.x + half + 3.2, p.y - 2.1}}},
                                     Fill::plain(kWhite),
                                     Pen{kSlate, 0.4, {}}},
                          m_layout.area);
        }
    }

    /// A lying bar on a foot, in the unit's colour, or a line to the one before it.
    void addContact(std::size_t i) {
        const auto& c = m_section.contacts[i];
        const auto& unit = m_sequence.units[c.unit];
        const Point2 p{m_layout.x(c.chainage), m_layout.y(c.level)};
        const auto stroke = [&](Point2 a, Point2 b) {
            m_out.add("contacts", unit.code, Line{{a, b}, {kInk, 1.1, {}}}, m_layout.area);
            m_out.add("contacts", unit.code, Line{{a, b}, {colourOf(unit), 0.6, {}}}, m_layout.area);
        };
        if (c.joined) {
            const auto& before = m_section.contacts[i - 1];
            return stroke({m_layout.x(before.chainage), m_layout.y(before.level)}, p);
        }
        stroke({p.x - 1.3, p.y}, {p.x + 1.3, p.y});
        stroke(p, {p.x, p.y + 1.1});
    }

    /// Names stand over their holes; where they would lie over one another the later one stands higher.
    void addNames() {
        std::vector<Box2> taken;
        for (const auto& h : m_section.holes) {
            if (h.sticks.empty()) continue;
            const auto& first = h.sticks.front();
            Text text{h.name,
                      {m_layout.x(first.topChainage), m_layout.y(first.topLevel) - 1.6},
                      m_style.text,
                      kInk,
                      Text::Align::Centre};
            if (isMarked(h)) text.strong = true, text.colour = kAccent;
            const auto size = measure(text);
            const double half = size.width / 2;
            if (text.at.x < m_layout.area.xmin || text.at.x > m_layout.area.xmax) continue;
            text.at.x = std::max(m_layout.area.xmin + half, std::min(m_layout.area.xmax - half, text.at.x));
            Box2 box;
            const auto place = [&] {
                box = {};
                box.include({text.at.x - half - 0.8, text.at.y - m_style.text});
                box.include({text.at.x + half + 0.8, text.at.y + m_style.text * 0.2});
            };
            for (place(); std::ranges::any_of(taken, [&](const Box2& b) { return overlap(b, box); }); place())
                text.at.y -= m_style.text * 1.25;
            taken.push_back(box);
            m_out.add("hole names", h.name, std::move(text));
        }
    }

    void addScales() {
        const auto& a = m_layout.area;
        const auto words = [&](const std::string& said, Point2 p, Text::Align align) {
            Text text{said, p, m_style.text, kMuted, align};
            text.anchor = Text::Anchor::Middle;
            m_out.add("scales", "", std::move(text));
        };
        const auto tick = [&](Point2 p, Point2 q) { m_out.add("scales", "", Line{{p, q}, {kMuted, 0.25, {}}}); };
        const double levels = labelStep(7.5 / (m_layout.perMetre * m_layout.exaggeration));
        const double low = m_layout.levelAt(a.ymax), high = m_layout.levelAt(a.ymin);
        for (double k = std::ceil(low / levels); k * levels <= high; ++k) {
            const double y = m_layout.y(k * levels);
            if (y < m_style.text / 2) continue; // it would be cut
            words(labelWords(k * levels) + " m", {a.xmin - 2, y}, Text::Align::Right);
            tick({a.xmin - 1.4, y}, {a.xmin, y});
            if (!m_style.forPaper) continue;
            words(labelWords(k * levels) + " m", {a.xmax + 2, y}, Text::Align::Left);
            tick({a.xmax, y}, {a.xmax + 1.4, y});
        }
        const double step = labelStep(18 / m_layout.perMetre), end = m_section.chainage.back();
        for (double k = std::ceil(std::max(0.0, m_layout.firstChainage) / step); k * step <= end + 1e-6; ++k) {
            const double x = m_layout.x(k * step);
            if (x > a.xmax + 1e-6) break;
            words(labelWords(k * step) + " m", {x, a.ymax + 3.2}, Text::Align::Centre);
            tick({x, a.ymax}, {x, a.ymax + 1});
        }
    }

    const Section& m_section;
    const Sequence& m_sequence;
    const SectionLayout& m_layout;
    const SectionStyle& m_style;
    Drawing m_out;
};

} // namespace

std::optional<std::pair<double, double>> levelsOf(const Section& s) {
    double low = kNoValue, high = kNoValue;
    const auto meet = [&](double z) {
        if (std::isfinite(z)) low = std::fmin(low, z), high = std::fmax(high, z);
    };
    for (const double z : s.ground) meet(z);
    for (const auto& b : s.bases)
        for (const double z : b) meet(z);
    for (const auto& h : s.holes) meet(h.endLevel);
    return std::isnan(low) ? std::nullopt : std::optional(std::pair(low, high));
}

Drawing drawSection(const Section& s, const Sequence& sequence, const SectionLayout& layout, const SectionStyle& style) {
    return SectionDrawer(s, sequence, layout, style).draw();
}

Drawing sectionSheet(const Section& s, const Sequence& sequence, const std::string& name, double exaggeration) {
    constexpr double kWide = 420, kMargin = 15, kTop = 24, kKeyRow = 7;
    constexpr std::size_t kKeyColumns = 5;
    const auto levels = levelsOf(s).value_or(std::pair(0.0, 1.0));
    SectionLayout layout;
    layout.area.include({kMargin + kScaleLeft, kTop});
    const double wide = kWide - 2 * kMargin - kScaleLeft, length = s.chainage.empty() ? 1 : s.chainage.back();
    constexpr double kBeside = 3; // so that holes at the line's ends are whole
    const double scale = usualScale(1000 * length / (wide - 2 * kBeside));
    layout.perMetre = 1000 / scale;
    layout.firstChainage = -kBeside / layout.perMetre;
    layout.exaggeration = exaggeration;
    constexpr double kNames = 10; // over the highest ground, for the names of holes
    layout.highestLevel = levels.second + kNames / (layout.perMetre * exaggeration);
    const double under = 4 / (layout.perMetre * exaggeration);
    layout.area.include({kMargin + kScaleLeft + length * layout.perMetre + 2 * kBeside,
                         kTop + (layout.highestLevel - levels.first + under) * layout.perMetre * exaggeration});
    const double keyTop = layout.area.ymax + kScaleBelow + 6;
    const auto rows = (sequence.units.size() + kKeyColumns - 1) / kKeyColumns;
    layout.width = kWide, layout.height = keyTop + double(rows) * kKeyRow + kMargin;

    auto out = drawSection(s, sequence, layout);
    Text title{fmt::format("Section {} to {}′", name, name), {kMargin, 12}, 5, kInk};
    title.strong = true;
    out.add("title", "", std::move(title));
    out.add("title", "",
            Text{fmt::format("{:.0f} m long · horizontal scale 1:{:.0f} · levels in metres, {:g} times exaggerated",
                             lengthOf(s.line), 1000 / layout.perMetre, exaggeration),
                 {kMargin, 18.5},
                 3.2,
                 kMuted});
    for (std::size_t u = 0; u < sequence.units.size(); ++u) {
        const auto& unit = sequence.units[u];
        const std::size_t row = u / kKeyColumns;
        const double column = (kWide - 2 * kMargin) / kKeyColumns, left = kMargin + double(u % kKeyColumns) * column,
                     top = keyTop + double(row) * kKeyRow;
        out.add("key", unit.code, FilledArea{{rectangle(left, top, left + 8, top + 4.6)}, fillOf(unit), Pen{kInk, 0.25, {}}});
        Text words{unit.code + "  " + unit.name, {left + 10, top + 2.3}, 3.2, kInk};
        words.anchor = Text::Anchor::Middle;
        words.width = column - 12;
        out.add("key", unit.code, std::move(words));
    }
    return out;
}

} // namespace fox
