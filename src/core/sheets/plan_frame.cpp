#include "sheets/plan_frame.h"

#include "ground/contours.h"
#include "ground/value_bands.h"
#include "model/geological_map.h"
#include "paper/colour_scale.h"
#include "paper/render.h"
#include "sheets/scale.h"
#include "sheets/unit_style.h"

#include <fmt/format.h>
#include <set>

namespace fox {

using namespace paper;

namespace {

bool overlaps(const Box2& a, const Box2& b) { return a.xmin < b.xmax && b.xmin < a.xmax && a.ymin < b.ymax && b.ymin < a.ymax; }

Box2 boxAround(double left, double top, double right, double bottom) {
    Box2 out;
    out.include({left, top});
    out.include({right, bottom});
    return out;
}

/// One frame. From the back to the front.
class PlanFrameDrawer {
public:
    PlanFrameDrawer(const SheetTemplate& t, const Box2& frame, const ProductSet& products)
        : m_t(t), m_frame(frame), m_products(products) {
        auto shown = products.frame ? products.frame->box() : Box2{};
        for (const auto& h : *products.project.holes) // one that lies far off is left out of the extent, and so of the plan
            if (const auto p = h.place(); p && shown.empty()) shown.include(*p);
        if (shown.empty()) shown.include({0, 0}), shown.include({100, 100});
        const double least =
            1000
            * std::max(std::max(1.0, shown.width()) / (frame.width() - 4), std::max(1.0, shown.height()) / (frame.height() - 4));
        m_out.scale = t.scale > 0 ? t.scale : usualScale(least);
        m_perMetre = 1000 / m_out.scale;
        m_centre = t.centre.value_or(shown.centre());
    }

    PlanFrame draw(std::optional<std::size_t> unit, const std::string& marked) {
        m_out.corner = placeOf({0, 0});
        add("frame", "",
            FilledArea{{rectangle(m_frame.xmin, m_frame.ymin, m_frame.xmax, m_frame.ymax)}, Fill::plain(kWhite), std::nullopt});
        if (m_t.kind == SheetKind::Map) addMap();
        if (m_t.kind == SheetKind::Contours && unit) addBase(*unit);
        if (m_t.contours && m_t.kind != SheetKind::Contours) addContours();
        if (m_t.background) addBackground();
        if (m_t.points) addPoints();
        if (m_t.lines) addLines();
        if (m_t.grid) addGrid();
        if (m_t.holes) addHoles(marked);
        m_out.items.push_back(
            {"frame",
             "",
             FilledArea{{rectangle(m_frame.xmin, m_frame.ymin, m_frame.xmax, m_frame.ymax)}, {}, Pen{kInk, 0.35, {}}},
             {}});
        return std::move(m_out);
    }

private:
    Point2 at(Point2 p) const {
        const auto middle = m_frame.centre();
        return {middle.x + (p.x - m_centre.x) * m_perMetre, middle.y - (p.y - m_centre.y) * m_perMetre};
    }
    Point2 placeOf(Point2 paper) const {
        const auto middle = m_frame.centre();
        return {m_centre.x + (paper.x - middle.x) / m_perMetre, m_centre.y - (paper.y - middle.y) / m_perMetre};
    }
    void add(const char* layer, const std::string& name, Shape shape) {
        m_out.items.push_back({layer, name, std::move(shape), m_frame});
    }

    template <typename LineOfPoints>
    Polyline2 onPaper(const LineOfPoints& line) const {
        Polyline2 out;
        for (const auto& p : line) out.push_back(at({p.x, p.y}));
        return out;
    }

    void addMap() {
        if (!m_products.modelGrid) return;
        std::vector<std::size_t> without;
        for (const auto& code : m_t.without)
            if (const auto u = m_products.project.sequence->index(code)) without.push_back(*u);
        for (const auto& area : geologicalMap(*m_products.modelGrid, {}, without)) {
            const auto& unit = m_products.project.sequence->units[area.unit];
            std::vector<Polygon2> rings;
            for (const auto& r : area.rings) rings.push_back(onPaper(r));
            if (patternOf(unit) == Pattern::None) m_out.withoutPattern.push_back(unit.code);
            if (!rings.empty())
                add("map", unit.code, FilledArea{std::move(rings), fillOf(unit), Pen{kInk.withAlpha(150), 0.18, {}}});
        }
    }

    /// The base where the unit is, in bands, with lines at their limits.
    void addBase(std::size_t u) {
        if (!m_products.modelGrid || u >= m_products.modelGrid->unitsWithBase()) return;
        const auto& model = *m_products.modelGrid;
        Grid levels(model.ground.frame), everywhere = levels, lacking = levels;
        constexpr double kThin = 0.01; // metres: where it is no thicker its edge runs
        for (std::size_t i = 0; i < levels.values.size(); ++i) {
            const double base = model.base(u, i), thickness = model.top(u).values[i] - base;
            levels.values[i] = thickness > 1e-6 ? base : kNoValue;
            everywhere.values[i] = base, lacking.values[i] = kThin - thickness;
        }
        ValueColours colours{ColourScale::LightDark, kNoValue, kNoValue, {}};
        for (const double v : levels.values) colours.low = std::fmin(colours.low, v), colours.high = std::fmax(colours.high, v);
        if (std::isnan(colours.low)) return;
        const double interval = contourInterval(levels);
        for (double k = std::ceil(colours.low / interval); k * interval < colours.high; ++k)
            colours.limits.push_back(k * interval);
        const auto fill = [&](const ValueBand& band, const char* layer, Colour colour) {
            std::vector<Polygon2> rings;
            for (const auto& r : band.rings) rings.push_back(onPaper(r));
            add(layer, "", FilledArea{std::move(rings), Fill::plain(colour), Pen{colour, 0.1, {}}}); // no seams between them
        };
        for (const auto& band : bandsOf(everywhere, colours.limits))
            fill(band, "bands", colours.of(std::isinf(band.low) ? colours.low : band.low + 1e-6 * (colours.high - colours.low)));
        coverTheEdge(lacking);
        // over where the unit is not, so that its edge is as smooth as its base
        for (const auto& band : bandsOf(lacking, {0}))
            if (band.low == 0) fill(band, "absent", kWhite);
        for (const auto& line : contoursOf(levels, interval)) {
            add("contours", labelWords(line.level), Line{onPaper(line.line), {kInk.withAlpha(190), 0.2, {}}});
            addContourLabel(line.line, line.level);
        }
    }

    /// Where nothing is known beside places that lack the unit it is lacking too: no hair of colour is left along the edge.
    static void coverTheEdge(Grid& lacking) {
        const auto known = lacking.values;
        const int columns = lacking.frame.columns(), rows = lacking.frame.rows();
        for (int r = 0; r < rows; ++r)
            for (int c = 0; c < columns; ++c) {
                const auto i = std::size_t(r) * std::size_t(columns) + std::size_t(c);
                if (!std::isnan(known[i])) continue;
                double least = kNoValue;
                for (int y = std::max(0, r - 1); y <= std::min(rows - 1, r + 1); ++y)
                    for (int x = std::max(0, c - 1); x <= std::min(columns - 1, c + 1); ++x)
                        least = std::fmin(least, known[std::size_t(y) * std::size_t(columns) + std::size_t(x)]);
                if (least > 0) lacking.values[i] = least;
            }
    }

    void addContours() {
        if (!m_products.contours) return;
        const double major = m_products.contourInterval * m_products.project.contours->majorEvery;
        constexpr Colour kUsual{0x9A, 0x84, 0x58};
        const auto ink = Colour::parse(m_t.contourColour).value_or(kUsual);
        const bool isMap = m_t.kind == SheetKind::Map; // there they go back behind the units
        for (const auto& line : *m_products.contours) {
            const bool strong = std::abs(std::remainder(line.level, major)) < 1e-6;
            add("contours", labelWords(line.level),
                Line{onPaper(line.line), {ink.withAlpha(isMap ? 150 : 255), m_t.contourPen * (strong ? 2 : 1), {}}});
            if (strong) addContourLabel(line.line, line.level);
        }
    }

    template <typename LineOfPoints>
    void addContourLabel(const LineOfPoints& line, double level) {
        if (line.size() < 8) return;
        Text words{labelWords(level), at({line[line.size() / 2].x, line[line.size() / 2].y}), 2, kInk, Text::Align::Centre};
        words.anchor = Text::Anchor::Middle;
        words.halo = kWhite.withAlpha(220);
        take("labels", labelWords(level), std::move(words));
    }

    void addBackground() {
        for (const auto& b : *m_products.project.background)
            if (b.shown)
                for (const auto& line : b.lines)
                    add("background", b.layer,
                        Line{onPaper(line), {Colour::parse(b.colour).value_or(kMuted), 0.15 * b.width, {}}});
    }

    /// Of the ground, as dots; their levels where there is room.
    void addPoints() {
        constexpr double kDot = 0.25, kSize = 1.7; // millimetres
        constexpr std::size_t kMostLabels = 2000;
        std::vector<std::pair<Point2, double>> labelled;
        for (const auto& source : m_products.project.ground->points)
            for (const auto& p : source.points) {
                const auto q = at(p.place.plan());
                if (q.x < m_frame.xmin || q.x > m_frame.xmax || q.y < m_frame.ymin || q.y > m_frame.ymax) continue;
                add("points", p.name,
                    FilledArea{{rectangle(q.x - kDot, q.y - kDot, q.x + kDot, q.y + kDot)}, Fill::plain(kGround), {}});
                if (labelled.size() < kMostLabels) labelled.emplace_back(q, p.place.z);
            }
        for (const auto& [q, level] : labelled) {
            Text words{fmt::format("{:.2f}", level), {q.x + 0.8, q.y}, kSize, kGround};
            words.anchor = Text::Anchor::Middle;
            take("point levels", words.words, words);
        }
    }

    void addLines() {
        const auto& p = m_products.project;
        for (const auto& o : p.ground->outlines) {
            auto ring = onPaper(o.ring);
            if (!ring.empty()) ring.push_back(ring.front());
            add("outlines", o.name, Line{std::move(ring), {kMuted, 0.25, {}}});
        }
        if (!p.site->limit.empty()) {
            auto ring = onPaper(p.site->limit);
            ring.push_back(ring.front());
            add("site limit", "", Line{std::move(ring), {kInk, 0.35, {2, 1}}});
        }
        for (const auto& f : p.interpretation->faults) {
            add("faults", f.fault.name, Line{onPaper(f.fault.line), {Colour{0xA8, 0x32, 0x2A}, 0.6, {}}});
            addName(at(f.fault.line[f.fault.line.size() / 2]), f.fault.name, "faults", kInk);
        }
        for (const auto& s : *p.sections) {
            if (s.line.empty()) continue;
            add("section lines", s.name, Line{onPaper(s.line), {kSlate, 0.35, {3, 1, 0.6, 1}}});
            addName(at(s.line.front()), s.name, "section lines", kSlate);
            addName(at(s.line.back()), s.name + "′", "section lines", kSlate);
        }
    }

    /// Crosses at round coordinates, named along the left and lower edge.
    void addGrid() {
        const double step = labelStep(28 / m_perMetre);
        const auto low = placeOf({m_frame.xmin, m_frame.ymax}), high = placeOf({m_frame.xmax, m_frame.ymin});
        constexpr double kArm = 1.2; // mm
        const Pen pen{m_t.gridLines ? kRule : kMuted, 0.13, {}};
        if (m_t.gridLines) {
            for (double i = std::ceil(low.x / step); i * step <= high.x; ++i)
                add("grid", "", Line{{{at({i * step, 0}).x, m_frame.ymin}, {at({i * step, 0}).x, m_frame.ymax}}, pen});
            for (double j = std::ceil(low.y / step); j * step <= high.y; ++j)
                add("grid", "", Line{{{m_frame.xmin, at({0, j * step}).y}, {m_frame.xmax, at({0, j * step}).y}}, pen});
        }
        for (double i = std::ceil(low.x / step); i * step <= high.x && !m_t.gridLines; ++i)
            for (double j = std::ceil(low.y / step); j * step <= high.y; ++j) {
                const auto p = at({i * step, j * step});
                add("grid", "", Line{{{p.x - kArm, p.y}, {p.x + kArm, p.y}}, pen});
                add("grid", "", Line{{{p.x, p.y - kArm}, {p.x, p.y + kArm}}, pen});
            }
        const auto words = [&](double value, Point2 p, double turn) {
            Text text{fmt::format("{:.0f}", value), p, 1.9, kMuted, Text::Align::Centre};
            text.turn = turn;
            text.halo = kWhite.withAlpha(220);
            const double half = measure(text).width / 2 + 1;
            const bool inside = turn == 0 ? p.x - half > m_frame.xmin && p.x + half < m_frame.xmax
                                          : p.y - half > m_frame.ymin && p.y + half < m_frame.ymax;
            if (inside) add("grid", "", std::move(text));
        };
        for (double i = std::ceil(low.x / step); i * step <= high.x; ++i)
            words(i * step, {at({i * step, 0}).x, m_frame.ymax - 1}, 0);
        for (double j = std::ceil(low.y / step); j * step <= high.y; ++j)
            words(j * step, {m_frame.xmin + 2.6, at({0, j * step}).y}, -90);
    }

    void addHoles(const std::string& marked) {
        const auto names = displayNames(*m_products.project.holes);
        const auto& holes = *m_products.project.holes;
        constexpr double kRadius = 1.1; // mm
        std::vector<std::size_t> shown;
        for (std::size_t i = 0; i < holes.size(); ++i)
            if (const auto p = holes[i].place()) {
                const auto q = at(*p);
                if (q.x < m_frame.xmin || q.x > m_frame.xmax || q.y < m_frame.ymin || q.y > m_frame.ymax) continue;
                shown.push_back(i);
                m_taken.push_back(boxAround(q.x - kRadius, q.y - kRadius, q.x + kRadius, q.y + kRadius));
            }
        for (const auto i : shown) {
            const auto q = at(*holes[i].place());
            const bool isMarked = !marked.empty() && names[i] == marked;
            const Pen pen{isMarked ? kAccent : kInk, isMarked ? 0.5 : 0.25, {}};
            std::vector<Polygon2> ring{circle(q, kRadius)};
            if (kindOf(holes[i]) == HoleKind::Dug) ring = {rectangle(q.x - kRadius, q.y - kRadius, q.x + kRadius, q.y + kRadius)};
            if (kindOf(holes[i]) == HoleKind::Pushed) ring = {{{q.x, q.y - 1.3}, {q.x + 1.2, q.y + 0.9}, {q.x - 1.2, q.y + 0.9}}};
            add("holes", names[i],
                FilledArea{std::move(ring), Fill::plain(kindOf(holes[i]) == HoleKind::Drilled ? kInk : kWhite), pen});
            if (m_t.holeNames && !addName(q, names[i], "hole names", isMarked ? kAccent : kInk)) ++m_out.overfull;
        }
    }

    /// To the right, left, above or below of a point, where there is room. Whether there was.
    bool addName(Point2 p, const std::string& name, const char* layer, Colour ink) {
        Text words{name, p, m_t.labelSize, ink};
        words.anchor = Text::Anchor::Middle;
        words.halo = kWhite.withAlpha(220);
        const double wide = measure(words).width, high = m_t.labelSize / 2.2; // of the usual
        for (const auto& [x, y] : {std::pair(1.8, 0.0),
                                   {-1.8 - wide, 0.0},
                                   {-wide / 2, -1.7 - 1.1 * high},
                                   {-wide / 2, 1.7 + 1.1 * high},
                                   {1.5, -1.1 - 1.1 * high},
                                   {1.5, 1.1 + 1.1 * high}}) {
            words.at = {p.x + x, p.y + y};
            if (take(layer, name, words)) return true;
        }
        return false;
    }

    /// Whether the words have the room to themselves, within the frame.
    bool take(const char* layer, const std::string& name, Text words) {
        const double wide = measure(words).width;
        const double left = words.align == Text::Align::Centre ? words.at.x - wide / 2 : words.at.x;
        const auto box = boxAround(left - 0.2, words.at.y - words.size * 0.62, left + wide + 0.2, words.at.y + words.size * 0.62);
        if (box.xmin < m_frame.xmin || box.xmax > m_frame.xmax || box.ymin < m_frame.ymin || box.ymax > m_frame.ymax)
            return false;
        if (std::ranges::any_of(m_taken, [&](const Box2& b) { return overlaps(b, box); })) return false;
        m_taken.push_back(box);
        add(layer, name, std::move(words));
        return true;
    }

    const SheetTemplate& m_t;
    Box2 m_frame;
    const ProductSet& m_products;
    PlanFrame m_out;
    double m_perMetre = 1;
    Point2 m_centre;
    std::vector<Box2> m_taken;
};

} // namespace

PlanFrame drawPlanFrame(const SheetTemplate& t, const Box2& frame, const ProductSet& products, std::optional<std::size_t> unit,
                        const std::string& marked) {
    return PlanFrameDrawer(t, frame, products).draw(unit, marked);
}

} // namespace fox
