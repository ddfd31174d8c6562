#include "sheets/log_pages.h"

#include "base/text.h"
#include "holes/soundings.h"
#include "model/model_along.h"
#include "paper/render.h"
#include "sequence/along_holes.h"
#include "sheets/depth_texts.h"
#include "sheets/log_rows.h"
#include "sheets/scale.h"
#include "sheets/unit_style.h"

#include <fmt/format.h>
#include <set>

namespace fox {

using namespace paper;

namespace {

constexpr double kHead = 11, kTextSize = 2.4, kPad = 0.8; // millimetres: titles over columns, letters, beside them

/// One page of a log with its depths.
struct PageFrame {
    Box2 body; ///< under the titles
    double from = 0, to = 0, perMetre = 1;
    bool isLast = false; ///< of the depths: texts below the hole's end are on it too
    double y(double depth) const { return body.ymin + (depth - from) * perMetre; }
    double clamped(double depth) const { return std::clamp(y(depth), body.ymin, body.ymax); }
    bool touches(double top, double base) const { return base > from && top < to; }
    bool holds(double depth) const { return depth >= from && depth < to; }
};

using Items = std::vector<Item>;

void add(Items& items, const char* layer, Shape shape, const std::string& name = {}, std::optional<Box2> clip = {}) {
    items.push_back({layer, name, std::move(shape), clip});
}

/// A column on one page after another. Columns with texts remember what is left over.
class ColumnDrawer {
public:
    ColumnDrawer(const LogColumn& column, double left, double width, const LogContent& content, const ProductSet& products)
        : m_column(column), m_left(left), m_width(width), m_content(content), m_hole(*content.hole), m_products(products) {
        if (auto texts = textsOf(); !texts.empty() || isText()) m_texts.emplace(std::move(texts), m_width - 2 * kPad, kTextSize);
    }

    void draw(Items& out, const PageFrame& page) {
        using Kind = LogColumn::Kind;
        switch (m_column.kind) {
        case Kind::Depth: addScale(out, page, false); break;
        case Kind::Level: addScale(out, page, true); break;
        case Kind::Units: addUnits(out, page); break;
        case Kind::Model: addModel(out, page); break;
        case Kind::Bars:
        case Kind::Curve:
        case Kind::Values: addGraph(out, page); break;
        case Kind::Core: addCore(out, page); break;
        case Kind::Water: addWater(out, page); break;
        case Kind::Installation: addInstallation(out, page); break;
        case Kind::Samples: addSampleBars(out, page); break;
        case Kind::Diameter: addDiameters(out, page); break;
        case Kind::Codes:
            if (m_column.asColour) addCodeColours(out, page);
            break;
        default: break;
        }
        if (m_texts) addTexts(out, page);
    }
    bool isLeft() const { return m_texts && m_texts->isLeft(); }
    std::size_t overfull() const { return m_texts ? m_texts->tooNarrow() : 0; }

private:
    double right() const { return m_left + m_width; }
    bool isText() const {
        using Kind = LogColumn::Kind;
        return m_column.kind == Kind::Description || m_column.kind == Kind::Codes || m_column.kind == Kind::Samples
               || m_column.kind == Kind::Tests || m_column.kind == Kind::Field || m_column.kind == Kind::Water
               || m_column.kind == Kind::Progress || m_column.kind == Kind::Remarks;
    }

    std::vector<DepthText> textsOf() const {
        std::vector<DepthText> out;
        using Kind = LogColumn::Kind;
        switch (m_column.kind) {
        case Kind::Description:
            for (const auto& i : m_content.logged())
                if (i.usable() && !i.description.empty()) out.push_back({i.top.metres, i.description, "interval"});
            for (const auto& d : m_hole.details) out.push_back({d.top.metres, detailInWords(d), "detail"});
            break;
        case Kind::Codes:
            if (m_column.asColour) break;
            for (const auto& i : m_content.logged()) {
                const auto heading = m_column.heading.empty() ? m_content.sequence->unitHeading : m_column.heading;
                const auto code = i.codes.find(heading);
                if (i.usable() && code != i.codes.end() && !code->second.empty())
                    out.push_back({i.top.metres, code->second, code->second});
            }
            break;
        case Kind::Samples:
            for (const auto& s : m_hole.samples)
                out.push_back({s.top.metres, s.reference.empty() ? s.type : s.type + " " + s.reference, s.reference});
            break;
        case Kind::Tests:
            for (const auto& b : m_hole.blowCounts) out.push_back({b.depth.metres, testInWords(b), "SPT"});
            break;
        case Kind::Water:
            for (const auto& s : m_hole.strikes)
                out.push_back(
                    {s.depth.metres, s.roseTo ? fmt::format("struck, rose to {:.2f}", s.roseTo->metres) : "struck", "strike"});
            for (const auto& w : waterIn(m_hole, m_content.water))
                out.push_back({w.depth.metres,
                               w.when.empty() ? fmt::format("{:.2f}", w.depth.metres)
                                              : fmt::format("{:.2f} on {}", w.depth.metres, w.when.substr(0, 10)),
                               "level"});
            break;
        case Kind::Field: return fieldTexts(m_hole, m_column.heading, m_products);
        case Kind::Progress: return progressTexts(m_hole, m_products);
        case Kind::Remarks: return remarkTexts(m_hole, m_products);
        default: break;
        }
        return out;
    }

    static std::string testInWords(const BlowCount& b) {
        if (!b.reported.empty()) return b.type.empty() ? b.reported : b.type + " " + b.reported;
        return b.penetration ? fmt::format("{:g}/{:g}", b.blows, *b.penetration) : fmt::format("N = {:g}", b.blows);
    }

    /// What does not stand at its depth has a leader there.
    void addTexts(Items& out, const PageFrame& page) {
        const bool isWide = m_column.kind == LogColumn::Kind::Description;
        for (const auto& line : m_texts->page(page.isLast ? std::numeric_limits<double>::infinity() : page.to,
                                              page.body.ymin + 0.4, page.body.ymax, [&](double d) { return page.y(d) + 0.5; })) {
            const auto& text = m_texts->text(line.text);
            Text words{line.words, {m_left + kPad, line.y}, kTextSize, kInk};
            words.anchor = Text::Anchor::Top;
            if (line.isFirst && line.continues) {
                Text again{"(continued)", {right() - kPad, line.y - 0.1}, kTextSize * 0.8, kMuted, Text::Align::Right};
                again.anchor = Text::Anchor::Top;
                if (isWide && measure(words).width + measure(again).width + 2 < m_width - 2 * kPad)
                    add(out, "texts", std::move(again), "continued");
            }
            if (line.isFirst && !line.continues && isWide && page.holds(text.top)) {
                const double at = page.y(text.top);
                if (line.y - at > 1.2)
                    add(out, "leaders", Line{{{m_left - 1.6, at}, {m_left, line.y + 0.4}}, {kMuted, 0.13, {}}});
            }
            add(out, "texts", std::move(words), line.name);
        }
    }

    void addScale(Items& out, const PageFrame& page, bool isLevel) {
        const auto path = isLevel ? HolePath::of(m_hole) : std::nullopt;
        if (isLevel && !path) return;
        constexpr double kFoot = 0.3048; // metres
        const double unit = m_column.feet ? kFoot : 1;
        double step = unit;
        for (const double s : {0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0})
            if (step = s * unit; step * page.perMetre >= 7) break;
        if (m_column.step > 0) step = m_column.step * unit;
        const double end = std::min(page.to, m_hole.end().metres);
        for (double k = std::ceil(page.from / step - 1e-9); k * step <= end + 1e-9; ++k) {
            const double y = page.y(k * step);
            add(out, "scale", Line{{{right() - 1.8, y}, {right(), y}}, {kInk, 0.2, {}}});
            const bool isAtEnd = std::abs(y - page.y(m_hole.end().metres)) < 1.2; // the line there would strike it out
            if (isAtEnd || y < page.body.ymin + 1.2 || y > page.body.ymax - 1.2) continue;
            Text label{isLevel ? fmt::format("{:.2f}", path->at(Depth{k * step}).z / unit) : labelWords(k * step / unit),
                       {right() - 2.3, y},
                       kTextSize,
                       kInk,
                       Text::Align::Right};
            label.anchor = Text::Anchor::Middle;
            add(out, "scale", std::move(label));
        }
    }

    void addBox(Items& out, const PageFrame& page, double top, double base, double left, double wide, const Fill& fill,
                std::optional<Pen> pen, const char* layer, const std::string& name) {
        if (!page.touches(top, base)) return;
        add(out, layer, FilledArea{{rectangle(left, page.clamped(top), left + wide, page.clamped(base))}, fill, std::move(pen)},
            name);
    }

    void addUnits(Items& out, const PageFrame& page) {
        for (const auto& i : m_content.logged()) {
            if (!i.usable()) continue;
            const auto* unit = m_content.unitOf(i);
            addBox(out, page, i.top.metres, i.base.metres, m_left, m_width,
                   unit ? filled(*unit) : Fill{kWhite, Pattern::Rubble, kMuted}, Pen{kInk, 0.2, {}}, "units",
                   unit ? unit->code : "");
        }
    }
    /// A unit's colour and pattern, as far as the column is to have them.
    Fill filled(const Unit& unit) const {
        auto fill = fillOf(unit);
        if (!m_column.colours) fill.colour = kWhite;
        if (!m_column.patterns) fill.pattern = Pattern::None;
        return fill;
    }

    /// Codes of a column of the geology, each in a colour of its own, which is the same in all logs.
    void addCodeColours(Items& out, const PageFrame& page) {
        const auto heading = m_column.heading.empty() ? m_content.sequence->unitHeading : m_column.heading;
        if (!m_codes) m_codes = alongValues({AlongChoice::Kind::Column, heading}, *m_products.project.holes, *m_products.reading);
        for (const auto& i : m_content.logged()) {
            const auto code = i.codes.find(heading);
            if (!i.usable() || code == i.codes.end() || code->second.empty()) continue;
            const auto colour = Colour::parse(m_codes->colourOf(code->second));
            addBox(out, page, i.top.metres, i.base.metres, m_left, m_width, Fill::plain(colour.value_or(kWhite)),
                   Pen{kMuted, 0.18, {}}, "codes", code->second);
        }
    }

    void addModel(Items& out, const PageFrame& page) {
        for (const auto& s : m_content.model)
            addBox(out, page, s.top, s.base, m_left, m_width, filled(m_content.sequence->units[s.unit]), Pen{kMuted, 0.18, {}},
                   "model", m_content.sequence->units[s.unit].code);
    }

    void addSampleBars(Items& out, const PageFrame& page) {
        for (const auto& s : m_hole.samples)
            addBox(out, page, s.top.metres, s.base ? s.base->metres : s.top.metres + 0.5 / page.perMetre, m_left + 0.1, 0.5,
                   Fill::plain(kInk), std::nullopt, "samples", s.reference);
    }

    void addCore(Items& out, const PageFrame& page) {
        const double third = m_width / 3;
        for (const auto& run : m_hole.coreRuns) {
            if (!page.touches(run.top.metres, run.base.metres)) continue;
            const std::optional<double> values[] = {run.recovery, run.solid, run.rqd};
            const double top = page.clamped(run.top.metres), base = page.clamped(run.base.metres);
            for (int k = 0; k < 3; ++k) {
                addBox(out, page, run.top.metres, run.base.metres, m_left + k * third, third, {}, Pen{kMuted, 0.13, {}}, "core",
                       "");
                const bool isStart = page.holds(run.top.metres) || run.top.metres < page.from;
                if (!values[k] || !isStart || base - top < kTextSize) continue;
                Text words{fmt::format("{:g}", *values[k]),
                           {m_left + (k + 0.5) * third, (top + base) / 2},
                           2.0,
                           kInk,
                           Text::Align::Centre};
                words.anchor = Text::Anchor::Middle;
                if (measure(words).width <= third) add(out, "core", std::move(words));
            }
        }
    }

    void addWater(Items& out, const PageFrame& page) {
        const auto triangle = [&](double depth, bool filled) {
            if (!page.holds(depth)) return;
            const Point2 tip{right() - 1.6, page.y(depth)};
            add(out, "water",
                FilledArea{{{tip, {tip.x - 1, tip.y - 1.7}, {tip.x + 1, tip.y - 1.7}}},
                           Fill::plain(filled ? kWater : kWhite),
                           Pen{kSlate, 0.25, {}}});
        };
        for (const auto& s : m_hole.strikes) triangle(s.depth.metres, true);
        for (const auto& w : waterIn(m_hole, m_content.water)) triangle(w.depth.metres, false);
    }

    void addInstallation(Items& out, const PageFrame& page) {
        using Part = Installation::Part;
        const double middle = m_left + m_width / 2, pipe = std::min(1.2, m_width / 5);
        for (const auto& i : m_hole.installations) {
            const double top = i.top.metres, base = i.base.metres;
            if (i.part == Part::Backfill)
                addBox(out, page, top, base, m_left + 0.6, m_width - 1.2, {kRule, Pattern::Dots, kMuted}, Pen{kMuted, 0.13, {}},
                       "installation", i.name);
            if (i.part == Part::ResponseZone)
                addBox(out, page, top, base, m_left + 0.6, m_width - 1.2, Fill::plain(kWater.withAlpha(120)), std::nullopt,
                       "installation", i.name);
        }
        for (const auto& i : m_hole.installations)
            if (i.part == Part::Pipe || i.part == Part::SlottedPipe)
                addBox(out, page, i.top.metres, i.base.metres, middle - pipe / 2, pipe, Fill::plain(kWhite),
                       Pen{kSlate, 0.25, i.part == Part::SlottedPipe ? std::vector<double>{0.4, 0.6} : std::vector<double>{}},
                       "installation", i.name);
    }

    /// Depths down to which the hole and its casing go, as far apart as they are wide, with their millimetres.
    void addDiameters(Items& out, const PageFrame& page) {
        const auto all = diametersOf(m_hole, m_products);
        double widest = 0;
        for (const auto& d : all) widest = std::max(widest, d.millimetres);
        if (widest == 0) return;
        const double middle = m_left + m_width / 2, perMillimetre = (m_width - 2 * kPad) / widest;
        for (const bool isCasing : {false, true}) {
            double from = 0;
            for (const auto& d : all) {
                if (d.isCasing != isCasing) continue;
                const double top = isCasing ? 0 : from; // a casing goes down from the ground
                from = d.depth;
                if (!page.touches(top, d.depth)) continue;
                const double half = d.millimetres * perMillimetre / 2;
                for (const double x : {middle - half, middle + half})
                    add(out, "diameter",
                        Line{{{x, page.clamped(top)}, {x, page.clamped(d.depth)}},
                             {isCasing ? kSlate : kInk, isCasing ? 0.45 : 0.2, {}}});
                if (!page.holds(d.depth) && d.depth != page.to) continue;
                if (!isCasing)
                    add(out, "diameter",
                        Line{{{middle - half, page.y(d.depth)}, {middle + half, page.y(d.depth)}}, {kInk, 0.2, {}}});
                Text words{fmt::format("{:g}", d.millimetres),
                           {middle, page.y(d.depth) - (isCasing ? 0.6 : 3.0)},
                           1.9,
                           isCasing ? kSlate : kInk,
                           Text::Align::Centre};
                if (words.at.y - 1.9 > page.body.ymin && measure(words).width < m_width - 1)
                    add(out, "diameter", std::move(words));
            }
        }
    }

    /// Values by depth that are drawn together.
    struct Graph {
        std::string name, unit;
        bool isLine = false;
        std::vector<Point2> points; ///< depth, value
    };
    std::vector<Graph> graphs() const {
        std::vector<Graph> out;
        if (m_column.kind == LogColumn::Kind::Bars) {
            out.push_back({"SPT", "", false, {}});
            for (const auto& b : m_hole.blowCounts) out.back().points.push_back({b.depth.metres, b.penetration ? 50.0 : b.blows});
            return out;
        }
        for (const auto& name : split(m_column.heading, ','))
            for (const auto& c : m_hole.curves)
                if (c.name == trimmed(name) && c.readings) {
                    out.push_back({c.name, c.unit, !c.single, {}});
                    for (const auto& r : *c.readings) out.back().points.push_back({r.depth, r.value});
                }
        return out;
    }

    /// Bars of blow counts, curves' lines, or signs of single values, with the ends of the range over them, and names where there
    /// are several.
    void addGraph(Items& out, const PageFrame& page) {
        const auto all = graphs();
        double low = m_column.low, high = m_column.high;
        if (low == high) {
            low = high = kNoValue;
            for (const auto& g : all)
                for (const auto& p : g.points) low = std::fmin(low, p.y), high = std::fmax(high, p.y);
            if (m_column.kind == LogColumn::Kind::Bars) low = 0, high = 50;
        }
        if (std::isnan(low)) return;
        if (high <= low) high = low + 1;
        const bool log = m_column.logarithmic && low > 0;
        const auto x = [&](double v) {
            const double share =
                log ? (std::log(v) - std::log(low)) / (std::log(high) - std::log(low)) : (v - low) / (high - low);
            return m_left + kPad + std::clamp(share, 0.0, 1.0) * (m_width - 2 * kPad);
        };
        for (const auto& [value, align] : {std::pair(low, Text::Align::Left), {high, Text::Align::Right}}) {
            Text label{fmt::format("{:.3g}", value),
                       {align == Text::Align::Left ? m_left + kPad : right() - kPad, page.body.ymin - 0.8},
                       1.9,
                       kMuted,
                       align};
            if (measure(label).width < m_width / 2) add(out, "titles", std::move(label));
        }
        for (std::size_t k = 0; k < all.size(); ++k) {
            if (all.size() > 1) addGraphName(out, page, all, k);
            if (all[k].isLine)
                addCurve(out, page, all[k], k, x, log);
            else
                addSigns(out, page, all[k], k, x, log);
        }
    }

    static Colour graphColour(std::size_t k) {
        constexpr Colour kColours[] = {kSlate, kAccent, kGround, {0x7A, 0x4B, 0x7E}};
        return kColours[k % std::size(kColours)];
    }

    /// Names stand side by side over the ends of the range.
    void addGraphName(Items& out, const PageFrame& page, const std::vector<Graph>& all, std::size_t k) const {
        const double room = (m_width - 2 * kPad) / double(all.size());
        const Point2 at{m_left + kPad + double(k) * room, page.body.ymin - 3.4};
        Text words{all[k].name, {at.x + 1.6, at.y}, 1.7, graphColour(k)};
        if (measure(words).width + 1.8 > room) return;
        if (!all[k].isLine) addSign(out, {at.x + 0.6, at.y - 0.6}, k, "titles");
        add(out, "titles", std::move(words), all[k].name);
    }

    template <typename ToX>
    void addCurve(Items& out, const PageFrame& page, const Graph& graph, std::size_t k, const ToX& x, bool log) const {
        Line line{{}, {graphColour(k), 0.25, {}}};
        const auto end = [&] {
            if (line.points.size() > 1) {
                if (m_column.filled != LogColumn::Filled::None) {
                    const double side = m_column.filled == LogColumn::Filled::Left ? m_left : right();
                    auto ring = line.points;
                    ring.push_back({side, ring.back().y}), ring.push_back({side, ring.front().y});
                    add(out, "graphs", FilledArea{{std::move(ring)}, Fill::plain(graphColour(k).withAlpha(70)), {}}, graph.name,
                        page.body);
                }
                add(out, "graphs", line, graph.name, page.body);
            }
            line.points.clear();
        };
        const double reach = 2 / page.perMetre; // a reading beyond the page's ends is needed to draw the line up to them
        for (const auto& p : graph.points) {
            if (std::isnan(p.y) || (log && p.y <= 0)) {
                end();
                continue;
            }
            if (p.x >= page.from - reach && p.x <= page.to + reach) line.points.push_back({x(p.y), page.y(p.x)});
        }
        end();
    }

    template <typename ToX>
    void addSigns(Items& out, const PageFrame& page, const Graph& graph, std::size_t k, const ToX& x, bool log) const {
        for (const auto& p : graph.points) {
            if (std::isnan(p.y) || (log && p.y <= 0) || !page.holds(p.x)) continue;
            if (m_column.kind == LogColumn::Kind::Bars)
                add(out, "graphs",
                    FilledArea{{rectangle(m_left, page.y(p.x), x(p.y), std::min(page.body.ymax, page.y(p.x) + 1.2))},
                               Fill::plain(kSlate),
                               std::nullopt});
            else
                addSign(out, {x(p.y), page.y(p.x)}, k, "graphs");
        }
    }

    /// A circle, square, triangle or diamond.
    static void addSign(Items& out, Point2 at, std::size_t k, const char* layer) {
        constexpr double r = 0.6;
        const Polygon2 signs[] = {
            circle(at, r),
            rectangle(at.x - r * 0.9, at.y - r * 0.9, at.x + r * 0.9, at.y + r * 0.9),
            {{at.x, at.y - 1.1 * r}, {at.x + 1.1 * r, at.y + 0.8 * r}, {at.x - 1.1 * r, at.y + 0.8 * r}},
            {{at.x, at.y - 1.2 * r}, {at.x + 1.2 * r, at.y}, {at.x, at.y + 1.2 * r}, {at.x - 1.2 * r, at.y}}};
        add(out, layer, FilledArea{{signs[k % std::size(signs)]}, Fill::plain(graphColour(k)), std::nullopt});
    }

    const LogColumn& m_column;
    double m_left, m_width;
    const LogContent& m_content;
    const Hole& m_hole;
    const ProductSet& m_products;
    std::optional<DepthTexts> m_texts;
    std::optional<AlongValues> m_codes; ///< of all holes, so that a code has one colour
};

/// Where a page that could go down to `to` should end: at the lowest stratum in its last sixth, if there is one.
double pageEnd(const LogContent& content, double from, double to, double deepest) {
    if (to >= deepest) return to;
    double best = to;
    bool found = false;
    for (const auto& i : content.logged())
        if (i.usable() && i.base.metres <= to && i.base.metres > to - (to - from) / 6 && (!found || i.base.metres > best))
            best = i.base.metres, found = true;
    return best;
}

void addTitles(Items& out, const std::vector<LogColumn>& columns, const std::vector<double>& lefts, const Box2& box,
               double bodyFoot) {
    const double top = box.ymin, head = top + kHead;
    const Pen rule{kInk, 0.25, {}};
    for (std::size_t k = 0; k < columns.size(); ++k) {
        std::size_t ignored = 0;
        const double wide = lefts[k + 1] - lefts[k];
        double size = 2.3;
        auto lines = linesOf(columns[k].title, wide - 1, size, ignored);
        while (lines.size() * size * 1.25 > kHead - 3 && size > 1.5)
            lines = linesOf(columns[k].title, wide - 1, size -= 0.2, ignored);
        double y = top + 0.8;
        for (const auto& l : lines) {
            if (y + size * 1.25 > head) break;
            Text words{l, {(lefts[k] + lefts[k + 1]) / 2, y}, size, kInk, Text::Align::Centre};
            words.anchor = Text::Anchor::Top;
            add(out, "titles", std::move(words), columns[k].title);
            y += size * 1.25;
        }
        add(out, "frame", Line{{{lefts[k], top}, {lefts[k], bodyFoot}}, rule});
    }
    add(out, "frame", Line{{{lefts.back(), top}, {lefts.back(), bodyFoot}}, rule});
    for (const double y : {top, head, bodyFoot}) add(out, "frame", Line{{{lefts.front(), y}, {lefts.back(), y}}, rule});
}

/// What the columns print as numbers and has no unit of measure.
std::vector<std::string> withoutUnit(const std::vector<LogColumn>& columns, const LogContent& content,
                                     const ProductSet& products) {
    std::set<std::string> out;
    for (const auto& c : columns) {
        using Kind = LogColumn::Kind;
        if (c.kind == Kind::Field && lacksUnit(*content.hole, c.heading, products)) out.insert(c.heading);
        if (c.kind != Kind::Curve && c.kind != Kind::Values) continue;
        for (const auto& name : split(c.heading, ','))
            for (const auto& curve : content.hole->curves)
                if (curve.name == trimmed(name) && curve.unit.empty()) out.insert(curve.name);
    }
    return {out.begin(), out.end()};
}

} // namespace

double logRoom(double height) { return std::max(1.0, height - kHead); }

LogPages layOutLog(const std::vector<LogColumn>& columns, const Box2& first, const Box2& further, double scale,
                   const LogContent& content, const ProductSet& products) {
    LogPages out;
    const double deepest =
        std::max({0.5, content.hole->end().metres, content.logged().empty() ? 0.0 : content.logged().back().base.metres});
    const double room = logRoom(first.height());
    out.scale = scale > 0 ? scale : usualScale(1000 * deepest / room);
    double together = 0;
    for (const auto& c : columns) together += c.width;
    const double share = together > 0 ? std::min(1.0, first.width() / together) : 1;
    std::vector<double> lefts{first.xmin};
    for (const auto& c : columns) lefts.push_back(lefts.back() + c.width * share);
    std::vector<ColumnDrawer> drawers;
    for (std::size_t k = 0; k < columns.size(); ++k)
        drawers.emplace_back(columns[k], lefts[k], lefts[k + 1] - lefts[k], content, products);

    double from = 0;
    constexpr std::size_t kMostPages = 500;
    for (bool more = true; more && out.pages.size() < kMostPages;) {
        const auto& box = out.pages.empty() ? first : further;
        PageFrame frame;
        frame.perMetre = 1000 / out.scale;
        frame.body = box;
        frame.body.ymin += kHead;
        frame.from = from;
        const bool isDown = from >= deepest; // only texts are left
        const double could = from + frame.body.height() / frame.perMetre;
        frame.to = isDown ? from : pageEnd(content, from, could, deepest);
        frame.isLast = frame.to >= deepest;
        LogPages::Page page{{}, frame.from, frame.to};
        for (auto& d : drawers) d.draw(page.items, frame);
        addTitles(page.items, columns, lefts, box, box.ymax);
        if (!isDown && frame.to >= deepest) { // where the hole ends
            const double y = frame.y(content.hole->end().metres);
            add(page.items, "frame", Line{{{lefts.front(), y}, {lefts.back(), y}}, {kInk, 0.4, {}}});
        }
        out.pages.push_back(std::move(page));
        from = frame.to;
        more = from < deepest || std::ranges::any_of(drawers, &ColumnDrawer::isLeft);
    }
    for (const auto& d : drawers) out.overfull += d.overfull();
    out.withoutUnit = withoutUnit(columns, content, products);
    std::set<std::string> without;
    for (const auto& i : content.logged()) {
        const auto* unit = content.unitOf(i);
        const auto code = i.codes.find(content.sequence->unitHeading);
        if (!i.usable()) continue;
        if (!unit && code != i.codes.end() && !code->second.empty()) without.insert(code->second);
        if (unit && patternOf(*unit) == Pattern::None) without.insert(unit->code);
    }
    out.withoutPattern.assign(without.begin(), without.end());
    return out;
}

} // namespace fox
