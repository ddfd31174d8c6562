#include "sheets/log_drawing.h"

#include "paper/render.h"
#include "sheets/scale.h"
#include "sheets/unit_style.h"

#include <fmt/format.h>

namespace fox {

using namespace paper;

namespace {

// widths of what stands beside the column, millimetres
constexpr double kModel = 8, kWaterWidth = 5.3, kSamples = 3.7, kCores = 6.4, kTrack = 14.8, kLeastWords = 25.4;
constexpr double kText = 2.9, kSmall = 2.65, kLineHeight = 1.25; // the last in ems of the text

/// A round number not below a value, for the end of an axis.
double roundUp(double v) {
    if (!(v > 0)) return 1;
    const double power = std::pow(10, std::floor(std::log10(v)));
    for (const double step : {1.0, 2.0, 5.0, 10.0})
        if (v <= step * power) return step * power;
    return 10 * power;
}

Fill plain(Colour colour) { return {colour, Pattern::None, {}}; }

class LogDrawer {
public:
    LogDrawer(const LogContent& content, const LogLayout& layout) : m_content(content), m_hole(*content.hole), m_layout(layout) {
        m_out.width = layout.area.xmax, m_out.height = layout.area.ymax;
    }

    Drawing draw() {
        addName();
        addScale();
        addColumn();
        // words first, then what there is room for beside them, the most asked for before the rest
        const double column = m_hole.intervals.empty() ? m_layout.columnLeft() : m_layout.columnRight(); // none: its room is free
        double left = column + 1, right = m_layout.area.xmax - 1;
        const auto room = [&](double wide) { return right - left - wide >= (m_hole.intervals.empty() ? -0.3 : kLeastWords); };
        if (!m_content.model.empty()) addModel(left), left += kModel;
        if ((!m_hole.strikes.empty() || !m_hole.installations.empty()) && room(kWaterWidth)) addWater(left), left += kWaterWidth;
        if (!m_hole.blowCounts.empty() && room(kTrack)) right -= kTrack, addBlows(right, kTrack - 1.6);
        if (!m_hole.samples.empty() && room(kSamples)) addSamples(left), left += kSamples;
        if (!m_hole.coreRuns.empty() && room(kCores)) addCores(left), left += kCores;
        addCurves(left, right);
        if (!m_hole.intervals.empty()) addWords(left + 1, right - left - 2);
        return std::move(m_out);
    }

private:
    double y(double depth) const { return m_layout.yOf(depth); }
    double y(Depth depth) const { return m_layout.yOf(depth.metres); }

    void add(const char* layer, Shape shape, const std::string& name = {}) {
        m_out.add(layer, name, std::move(shape), m_layout.area);
    }
    void addBox(const char* layer, double left, double top, double right, double bottom, const Fill& fill,
                std::optional<Pen> outline, const std::string& name = {}) {
        add(layer, FilledArea{{rectangle(left, top, right, bottom)}, fill, std::move(outline)}, name);
    }

    void addName() {
        const auto& a = m_layout.area;
        Text name{m_content.name, {a.xmin + 1.6, a.ymin + 4}, 3.2, m_hole.excluded ? kMuted : kInk};
        name.strong = true;
        if (m_hole.level) name.words += fmt::format("  {:.2f} m", m_hole.level->metres);
        add("name", std::move(name), m_content.name);
    }

    void addScale() {
        const double perMetre = y(1) - y(0), end = m_hole.end().metres;
        double step = 1; // labels at least 9 mm apart
        for (const double s : {0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0, 500.0})
            if (step = s; s * perMetre >= 9) break;
        for (int k = 0; k * step / 5 <= end + 1e-9; ++k) {
            const double depth = k * step / 5;
            const bool major = k % 5 == 0;
            add("scale", Line{{{m_layout.columnLeft() - (major ? 2.1 : 1.05), y(depth)}, {m_layout.columnLeft(), y(depth)}},
                              {kMuted, 0.25, {}}});
            if (!major) continue;
            Text label{labelWords(depth), {m_layout.columnLeft() - 2.9, y(depth)}, kText, kMuted, Text::Align::Right};
            label.anchor = Text::Anchor::Middle;
            add("scale", std::move(label));
        }
    }

    void addColumn() {
        double lastBase = 0;
        for (std::size_t k = 0; k < m_hole.intervals.size(); ++k) {
            const auto& i = m_hole.intervals[k];
            if (!i.usable()) continue;
            double top = i.top.metres, base = i.base.metres;
            if (const auto& moved = m_content.moved) {
                if (moved->interval == k) base = moved->depth;
                if (moved->interval + 1 == k) top = moved->depth;
            }
            lastBase = base;
            const auto* unit = m_content.unitOf(i);
            addBox("column", m_layout.columnLeft(), y(top), m_layout.columnRight(), y(base),
                   unit ? fillOf(*unit) : Fill{kPaper, Pattern::Rubble, kMuted}, Pen{kInk, 0.28, {}}, unit ? unit->code : "");
        }
        const auto* last = m_hole.intervals.empty() ? nullptr : m_content.unitOf(m_hole.intervals.back());
        if (!last || last == &m_content.sequence->units.back()) return;
        Line torn{{}, {kAccent, 0.48, {}}}; // the hole stops short of the oldest unit
        for (int k = 0; k <= 8; ++k)
            torn.points.push_back({m_layout.columnLeft() + LogLayout::kColumn * k / 8, y(lastBase) + (k % 2 ? 1.6 : 0.3)});
        add("short", std::move(torn));
    }

    /// What the model has here, so that it can be held against the log by eye.
    void addModel(double left) {
        for (const auto& s : m_content.model) {
            const auto& unit = m_content.sequence->units[s.unit];
            addBox("model", left, y(s.top), left + kModel - 3.2, y(s.base), plain(colourOf(unit)), Pen{kMuted, 0.25, {}},
                   unit.code);
        }
        add("model", Text{"model", {left + (kModel - 3.2) / 2, m_layout.area.ymin + 8.9}, kSmall, kMuted, Text::Align::Centre});
    }

    void addTriangle(Point2 tip, const Fill& fill) {
        add("water", FilledArea{{{tip, {tip.x - 1.3, tip.y - 2.1}, {tip.x + 1.3, tip.y - 2.1}}}, fill, Pen{kSlate, 0.34, {}}});
    }

    void addWater(double left) {
        using Part = Installation::Part;
        for (const auto& i : m_hole.installations) {
            const double pipeLeft = left + 3.2, pipeRight = left + 4.5;
            if (i.part == Part::ResponseZone) {
                addBox("water", pipeLeft - 0.8, y(i.top), pipeRight + 0.8, y(i.base), plain(kWater.withAlpha(120)), {});
                continue;
            }
            const Pen pen{kSlate, 0.26, i.part == Part::SlottedPipe ? std::vector<double>{0.3, 0.5} : std::vector<double>{}};
            for (const double x : {pipeLeft, pipeRight}) add("water", Line{{{x, y(i.top)}, {x, y(i.base)}}, pen});
        }
        for (const auto& s : m_hole.strikes) {
            const Point2 at{left + 1.6, y(s.depth)};
            addTriangle(at, plain(kWater));
            if (!s.roseTo) continue;
            const Point2 rose{at.x, y(*s.roseTo)};
            add("water", Line{{at, rose}, {kSlate, 0.34, {}}});
            addTriangle(rose, {});
        }
    }

    void addSamples(double left) {
        for (const auto& s : m_hole.samples) {
            const double top = y(s.top), base = y(s.base.value_or(s.top));
            if (base - top > 0.8)
                addBox("samples", left + 1, top, left + 2.1, base, plain(kInk), {}, s.reference);
            else
                add("samples", FilledArea{{circle({left + 1.6, top}, 0.66)}, plain(kInk), {}}, s.reference);
        }
    }

    /// Total recovery light, solid darker, RQD darkest: the whole width is a hundred per cent.
    void addCores(double left) {
        constexpr Colour kRecovery{0xE4, 0xDA, 0xCB}, kSolid{0xBF, 0xAF, 0x98}, kRqd{0x7A, 0x6B, 0x55};
        const double from = left + 0.5, wide = kCores - 1.6;
        for (const auto& c : m_hole.coreRuns) {
            const std::pair<std::optional<double>, Colour> kBars[] = {{c.recovery, kRecovery}, {c.solid, kSolid}, {c.rqd, kRqd}};
            for (const auto& [percent, colour] : kBars)
                if (percent)
                    addBox("cores", from, y(c.top), from + wide * std::clamp(*percent / 100, 0.0, 1.0), y(c.base), plain(colour),
                           {});
            addBox("cores", from, y(c.top), from + wide, y(c.base), {}, Pen{kMuted, 0.21, {}});
        }
    }

    /// Descriptions, each beside its interval as far as the one above leaves room; what is cut ends in an ellipsis.
    void addWords(double left, double wide) {
        if (wide < 13) return;
        const double line = kText * kLineHeight;
        double free = 0;
        for (std::size_t k = 0; k < m_hole.intervals.size(); ++k) {
            const auto& i = m_hole.intervals[k];
            if (!i.usable()) continue;
            const double top = std::max(y(i.top), free), room = y(i.base) - top;
            // one that is too thin for a line takes it from the next if that has two
            const bool borrows = k + 1 == m_hole.intervals.size() || y(m_hole.intervals[k + 1].base) - top >= 2 * line;
            if (room < line - 0.5 && !borrows) continue;
            const auto* unit = m_content.unitOf(i);
            const auto code = i.codes.find(m_content.sequence->unitHeading);
            const auto lead = unit ? unit->code : code == i.codes.end() ? std::string("?") : code->second + "?";
            Text words{lead + "  " + i.description, {left, top}, kText, unit ? kInk : kNoUnit};
            words.anchor = Text::Anchor::Top;
            words.width = wide;
            words.lines = std::max(1, int(room / line));
            free = top + measure(words).height;
            add("words", std::move(words), unit ? unit->code : "");
        }
    }

    void addTrack(double left, double wide, const std::string& name, double low, double high, const std::string& unit = {}) {
        for (const double x : {left, left + wide}) add("tracks", Line{{{x, y(0)}, {x, y(m_layout.deepest)}}, {kRule, 0.26, {}}});
        Text head{name, {left - 0.5, m_layout.area.ymin + 8.4}, kSmall, kMuted};
        head.width = wide + 1.1;
        add("tracks", std::move(head), name);
        const double foot = m_layout.area.ymax - 2;
        add("tracks", Text{labelWords(low), {left - 0.5, foot}, kSmall, kMuted}, name);
        add("tracks",
            Text{labelWords(high) + (wide > 18.5 && !unit.empty() ? " " + unit : ""),
                 {left + wide + 0.5, foot},
                 kSmall,
                 kMuted,
                 Text::Align::Right},
            name);
    }

    void addBlows(double left, double wide) {
        const double most = std::max(50.0, std::ranges::max(m_hole.blowCounts, {}, &BlowCount::blows).blows);
        addTrack(left, wide, "SPT N", 0, most);
        Line line{{}, {kSlate, 0.37, {}}};
        for (const auto& b : m_hole.blowCounts) line.points.push_back({left + wide * b.blows / most, y(b.depth)});
        const auto points = line.points;
        add("tracks", std::move(line), "SPT N");
        for (const auto& p : points) add("tracks", FilledArea{{circle(p, 0.53)}, plain(kSlate), {}}, "SPT N");
    }

    void addCurves(double& left, double& right) {
        static constexpr Colour kColours[] = {kSlate, kAccent, {0x5C, 0x7A, 0x4A}, {0x8A, 0x61, 0x10}, {0xA8, 0x32, 0x2A}};
        const bool alone = m_hole.intervals.empty(); // a geophysical log: the curves share the width
        const double wide =
            alone ? std::max(kTrack, (right - left) / double(std::max<std::size_t>(1, m_hole.curves.size()))) : kTrack;
        std::size_t drawn = 0;
        for (const auto& c : m_hole.curves) {
            if (!c.readings || c.readings->empty() || right - left - wide < (alone ? -0.3 : kLeastWords)) continue;
            const double at = alone ? left + 1 : right - wide;
            (alone ? left : right) += alone ? wide : -wide;
            addCurve(c, at, wide - 2.1, kColours[drawn++ % std::size(kColours)]);
        }
    }

    void addCurve(const Curve& c, double left, double wide, Colour ink) {
        double high = 0, low = 0;
        for (const auto& r : *c.readings)
            if (!std::isnan(r.value)) high = std::max(high, r.value), low = std::min(low, r.value);
        high = roundUp(high);
        const auto at = [&](const Curve::Reading& r) { return Point2{left + wide * (r.value - low) / (high - low), y(r.depth)}; };
        addTrack(left, wide, c.name, low, high, c.unit);
        // no more points than lines of a page can show
        const std::size_t stride = c.single ? 1 : std::max<std::size_t>(1, c.readings->size() / 4000);
        Line line{{}, {ink, 0.29, {}}};
        const auto finish = [&] {
            if (line.points.size() > 1) add("tracks", line, c.name);
            line.points.clear();
        };
        for (std::size_t i = 0; i < c.readings->size(); i += stride) {
            const auto& r = (*c.readings)[i];
            if (std::isnan(r.value))
                finish();
            else if (c.single)
                add("tracks", FilledArea{{circle(at(r), 0.53)}, plain(ink), {}}, c.name);
            else
                line.points.push_back(at(r));
        }
        finish();
    }

    static constexpr Colour kNoUnit{0xA8, 0x32, 0x2A};
    const LogContent& m_content;
    const Hole& m_hole;
    const LogLayout& m_layout;
    Drawing m_out;
};

} // namespace

const Unit* LogContent::unitOf(const Interval& i) const {
    if (!reading) return nullptr;
    for (const auto& r : reading->intervals)
        if (r.top <= i.top && i.base <= r.base) return &sequence->units[r.unit];
    return nullptr;
}

Drawing drawLog(const LogContent& content, const LogLayout& layout) { return LogDrawer(content, layout).draw(); }

Drawing logSheet(const LogContent& content, const std::string& project) {
    constexpr double kWide = 210, kTall = 297, kMargin = 15, kHead = 38;
    const auto& h = *content.hole;
    LogLayout layout;
    layout.area.include({kMargin, kHead});
    layout.area.include({kWide - kMargin, kTall - kMargin});
    const double room = layout.area.height() - LogLayout::kTop - LogLayout::kFoot;
    const double scale = usualScale(1000 * std::max(1.0, h.end().metres) / room);
    layout.deepest = room * scale / 1000;
    auto out = drawLog(content, layout);
    out.width = kWide, out.height = kTall;
    Text title{"Log of " + content.name, {kMargin, 18}, 5.5, kInk};
    title.strong = true;
    out.add("title", "", std::move(title));
    const auto place = h.place();
    const std::string facts[] = {project,
                                 typeInWords(h.type),
                                 place ? fmt::format("E {:.2f}  N {:.2f}", place->x, place->y) : std::string("no position"),
                                 h.level ? fmt::format("ground level {:.2f} m", h.level->metres) : std::string("no ground level"),
                                 fmt::format("final depth {:.2f} m", h.end().metres),
                                 fmt::format("depths in metres, scale 1:{:.0f}", scale)};
    double x = kMargin, line = 25;
    for (const auto& fact : facts) {
        if (fact.empty()) continue;
        Text words{fact, {x, line}, 3.2, kMuted};
        const double wide = measure(words).width;
        if (x > kMargin && x + wide > kWide - kMargin) words.at = {x = kMargin, line += 5};
        x += wide + 6;
        out.add("title", "", std::move(words));
    }
    out.add("title", "", Line{{{kMargin, kHead - 2}, {kWide - kMargin, kHead - 2}}, {kInk, 0.35, {}}});
    return out;
}

} // namespace fox
