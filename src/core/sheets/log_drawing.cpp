#include "sheets/log_drawing.h"

#include "holes/soundings.h"
#include "holes/water_levels.h"
#include "paper/render.h"
#include "sheets/log_tracks.h"
#include "sheets/scale.h"
#include "sheets/unit_style.h"

#include <fmt/format.h>

namespace fox {

using namespace paper;

namespace {

// widths of what stands beside the column, millimetres
constexpr double kModel = 8, kWaterWidth = 5.3, kSamples = 3.7, kCores = 6.4;
constexpr double kTrack = LogTracks::kWide, kLeastWords = LogTracks::kLeastWords;
constexpr double kText = 2.9, kSmall = LogTracks::kSmall, kLineHeight = 1.25; // the last in ems of the text

class LogDrawer {
public:
    LogDrawer(const LogContent& content, const LogLayout& layout)
        : m_content(content), m_hole(*content.hole), m_log(content.logged()), m_layout(layout) {
        m_out.width = layout.area.xmax, m_out.height = layout.area.ymax;
    }

    Drawing draw() {
        addName();
        addScale();
        addColumn();
        // words first, then what there is room for beside them, the most asked for before the rest
        const double column = m_log.empty() ? m_layout.columnLeft() : m_layout.columnRight(); // none: its room is free
        double left = column + 1, right = m_layout.area.xmax - 1;
        const auto room = [&](double wide) { return right - left - wide >= (m_log.empty() ? -0.3 : kLeastWords); };
        LogTracks tracks(m_out, m_hole, m_layout);
        if (!m_content.model.empty()) addModel(left), left += kModel;
        const bool water = !m_hole.strikes.empty() || !m_hole.installations.empty() || !m_hole.waterLevels.empty();
        if (water && room(kWaterWidth)) addWater(left), left += kWaterWidth;
        if (!m_hole.blowCounts.empty() && room(kTrack)) right -= kTrack, tracks.addBlows(right, kTrack - 1.6);
        if (!m_hole.samples.empty() && room(kSamples)) addSamples(left), left += kSamples;
        if (!m_hole.coreRuns.empty() && room(kCores)) addCores(left), left += kCores;
        tracks.addCurves(left, right);
        if (!m_log.empty()) addWords(left + 1, right - left - 2);
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
        const double end = a.xmin + 1.6 + measure(name).width;
        add("name", std::move(name), m_content.name);
        if (m_hole.soundings.empty()) return;
        // what is judged of a sounding rests on these
        Text assumed{words(assumedFor(m_hole, m_hole.soundings.front())), {end + 3, a.ymin + 4}, kSmall, kMuted};
        assumed.width = std::max(1.0, a.xmax - end - 4);
        add("name", std::move(assumed), m_content.name);
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
        for (std::size_t k = 0; k < m_log.size(); ++k) {
            const auto& i = m_log[k];
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
        const auto* last = m_log.empty() ? nullptr : m_content.unitOf(m_log.back());
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
            addBox("model", left, y(s.top), left + kModel - 3.2, y(s.base), Fill::plain(colourOf(unit)), Pen{kMuted, 0.25, {}},
                   unit.code);
        }
        add("model", Text{"model", {left + (kModel - 3.2) / 2, m_layout.area.ymin + 8.9}, kSmall, kMuted, Text::Align::Centre});
    }

    void addTriangle(Point2 tip, const Fill& fill) {
        add("water", FilledArea{{{tip, {tip.x - 1.3, tip.y - 2.1}, {tip.x + 1.3, tip.y - 2.1}}}, fill, Pen{kSlate, 0.34, {}}});
    }

    void addWater(double left) {
        using Part = Installation::Part;
        const double pipeLeft = left + 3.2, pipeRight = left + 4.5;
        for (const auto& i : m_hole.installations)
            if (i.part == Part::Backfill)
                addBox("water", pipeLeft - 0.8, y(i.top), pipeRight + 0.8, y(i.base), Fill::plain(kRule), {}, i.name);
        for (const auto& i : m_hole.installations) {
            if (i.part == Part::Backfill) continue;
            if (i.part == Part::ResponseZone) {
                addBox("water", pipeLeft - 0.8, y(i.top), pipeRight + 0.8, y(i.base), Fill::plain(kWater.withAlpha(120)), {},
                       i.name);
                continue;
            }
            if (i.part == Part::Tip) {
                add("water", FilledArea{{circle({(pipeLeft + pipeRight) / 2, y(i.top)}, 0.5)}, Fill::plain(kSlate), {}}, i.name);
                continue;
            }
            // what is not given is a thin line, neither plain nor slotted
            const Pen pen{i.part == Part::Pipe ? kMuted : kSlate, i.part == Part::Pipe ? 0.13 : 0.26,
                          i.part == Part::SlottedPipe ? std::vector<double>{0.3, 0.5} : std::vector<double>{}};
            for (const double x : {pipeLeft, pipeRight}) add("water", Line{{{x, y(i.top)}, {x, y(i.base)}}, pen});
        }
        addWaterLevels(left);
        for (const auto& s : m_hole.strikes) {
            const Point2 at{left + 1.6, y(s.depth)};
            addTriangle(at, Fill::plain(kWater));
            if (!s.roseTo) continue;
            const Point2 rose{at.x, y(*s.roseTo)};
            add("water", Line{{at, rose}, {kSlate, 0.34, {}}});
            addTriangle(rose, {});
        }
    }

    /// The chosen reading of each monitoring point: a level line under an open triangle.
    void addWaterLevels(double left) {
        for (const auto& w : waterIn(m_hole, m_content.water)) {
            const auto name =
                fmt::format("{}{}{}", w.pipe, w.pipe.empty() ? "" : ", ", w.when.empty() ? words(m_content.water) : w.when);
            const Point2 at{left + 3.85, y(w.depth)};
            add("water", Line{{{at.x - 1.5, at.y}, {at.x + 1.5, at.y}}, {kSlate, 0.4, {}}}, name);
            add("water",
                FilledArea{{{at, {at.x - 1.1, at.y - 1.7}, {at.x + 1.1, at.y - 1.7}}}, Fill::plain(kPaper), Pen{kSlate, 0.3, {}}},
                name);
        }
    }

    void addSamples(double left) {
        for (const auto& s : m_hole.samples) {
            const double top = y(s.top), base = y(s.base.value_or(s.top));
            if (base - top > 0.8)
                addBox("samples", left + 1, top, left + 2.1, base, Fill::plain(kInk), {}, s.reference);
            else
                add("samples", FilledArea{{circle({left + 1.6, top}, 0.66)}, Fill::plain(kInk), {}}, s.reference);
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
                    addBox("cores", from, y(c.top), from + wide * std::clamp(*percent / 100, 0.0, 1.0), y(c.base),
                           Fill::plain(colour), {});
            addBox("cores", from, y(c.top), from + wide, y(c.base), {}, Pen{kMuted, 0.21, {}});
        }
    }

    /// Descriptions, each beside its interval as far as the one above leaves room; what is cut ends in an ellipsis.
    void addWords(double left, double wide) {
        if (wide < 13) return;
        const double line = kText * kLineHeight;
        double free = 0;
        for (std::size_t k = 0; k < m_log.size(); ++k) {
            const auto& i = m_log[k];
            if (!i.usable()) continue;
            const double top = std::max(y(i.top), free), room = y(i.base) - top;
            // one that is too thin for a line takes it from the next if that has two
            const bool borrows = k + 1 == m_log.size() || y(m_log[k + 1].base) - top >= 2 * line;
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

    static constexpr Colour kNoUnit{0xA8, 0x32, 0x2A};
    const LogContent& m_content;
    const Hole& m_hole;
    const std::vector<Interval>& m_log; ///< with its splits
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
