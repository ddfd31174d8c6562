#include "sheets/plot_axes.h"
#include "sheets/plots.h"
#include "sheets/unit_style.h"

#include <algorithm>
#include <fmt/format.h>

namespace fox {

using namespace paper;

namespace {

constexpr double kLine = 4.2; // millimetres
constexpr Colour kNoUnit{0xA8, 0x9F, 0x94};

std::string figure(double v) { return std::isnan(v) ? std::string("-") : fmt::format("{:.3g}", v); }

class ValuePlotter {
public:
    ValuePlotter(const ValuePlot& plot, double width, double height)
        : m_plot(plot), m_names(displayNames(*plot.holes)), m_statistics(statisticsByUnit(plot.values)) {
        m_out.width = width, m_out.height = height;
    }

    Drawing draw() {
        // the table stands beside the plot where there is room for both, else below, or nowhere where that leaves too little
        const double table = 96, high = kLine * double(m_statistics.size() + 2);
        const bool beside = m_out.width > table + 90;
        constexpr double kLeastPlot = 40; // millimetres high
        const bool below = !beside && m_out.height - kTop - kFoot - high - 4 >= kLeastPlot;
        Box2 box;
        box.include({kLeft, kTop});
        box.include({m_out.width - (beside ? table + 6 : 6), m_out.height - kFoot - (below ? high + 4 : 0)});
        if (box.height() < 20 || box.width() < 20) return std::move(m_out);
        addValues(box);
        if (beside || below) addTable(beside ? Point2{box.xmax + 6, kTop} : Point2{kLeft, box.ymax + kFoot});
        return std::move(m_out);
    }

private:
    std::optional<double> heightOf(const TestValue& v) const { return m_plot.byDepth ? std::optional(v.depth.metres) : v.level; }

    Colour colourOfUnit(std::optional<std::size_t> unit) const {
        return unit ? colourOf(m_plot.sequence->units[*unit]) : kNoUnit;
    }

    void addValues(const Box2& box) {
        double least = INFINITY, most = -INFINITY, low = INFINITY, high = -INFINITY;
        for (const auto& v : m_plot.values) {
            const auto h = heightOf(v);
            if (!h || std::isnan(v.value)) continue;
            least = std::min(least, v.value), most = std::max(most, v.value);
            low = std::min(low, *h), high = std::max(high, *h);
        }
        if (least > 0 && least < 0.5 * most) least = 0; // most values of the ground are read from nothing
        const auto [left, right] = widened(least, most);
        const auto [bottom, top] = widened(low, high);
        const double start = least == 0 ? 0 : left;
        const PlotAxes axes(box, start, right, m_plot.byDepth ? std::max(high, top) : bottom,
                            m_plot.byDepth ? std::min(low, 0.0) : top);
        const auto& q = m_plot.quantity;
        axes.draw(m_out, q.unit.empty() ? q.name : fmt::format("{}, {}", q.name, q.unit),
                  m_plot.byDepth ? "depth, m" : "level, m");
        for (const bool chosen : {false, true})
            for (const auto& v : m_plot.values)
                if ((m_plot.chosen == v.hole) == chosen) addValue(axes, v, chosen);
    }

    void addValue(const PlotAxes& axes, const TestValue& v, bool chosen) {
        const auto h = heightOf(v);
        if (!h || std::isnan(v.value) || !axes.holds(v.value, *h)) return;
        const auto at = axes.at(v.value, *h);
        const auto fill = colourOfUnit(v.unit);
        const double radius = chosen ? 1.5 : m_plot.values.size() > 2000 ? 0.45 : 0.95;
        const bool isLimit = v.kind == TestValueKind::Limit;
        m_out.add("values", m_names[v.hole],
                  FilledArea{{circle(at, radius)},
                             Fill{isLimit ? kPaper : fill, Pattern::None, {}},
                             Pen{chosen    ? kAccent
                                 : isLimit ? fill.darker(1.3)
                                           : kInk,
                                 chosen    ? 0.5
                                 : isLimit ? 0.45
                                           : 0.15,
                                 {}}});
        if (!isLimit) return;
        Text words{v.written, {at.x + radius + 0.7, at.y}, 2.4, kMuted};
        words.anchor = Text::Anchor::Middle;
        m_out.add("values", m_names[v.hole], std::move(words));
    }

    void addTable(Point2 at) {
        static constexpr std::pair<const char*, double> kColumns[] = {{"unit", 0},  {"n", 26},      {"least", 38}, {"most", 50},
                                                                      {"mean", 62}, {"median", 75}, {"s. d.", 87}};
        const auto cell = [&](double x, double y, std::string words, bool strong, bool right) {
            Text t{std::move(words),
                   {at.x + x + (right ? 8 : 0), y},
                   PlotAxes::kText,
                   strong ? kInk : kMuted,
                   right ? Text::Align::Right : Text::Align::Left};
            if (!right) t.width = 20;
            m_out.add("table", "", std::move(t));
        };
        double y = at.y + 3;
        for (const auto& [name, x] : kColumns) cell(x, y, name, false, x > 0);
        m_out.add("table", "", Line{{{at.x, y + 1.2}, {at.x + 96, y + 1.2}}, {kMuted, 0.2, {}}});
        for (const auto& s : m_statistics) {
            y += kLine;
            m_out.add("table", "",
                      FilledArea{{rectangle(at.x, y - 2.4, at.x + 3, y + 0.2)},
                                 Fill::plain(colourOfUnit(s.unit)),
                                 Pen{kMuted, 0.15, {}}});
            Text name{
                s.unit ? m_plot.sequence->units[*s.unit].code : std::string("in no unit"), {at.x + 4, y}, PlotAxes::kText, kInk};
            name.width = 22;
            m_out.add("table", "", std::move(name));
            const std::string figures[] = {s.others > 0 ? fmt::format("{} + {}", s.values, s.others)
                                                        : fmt::format("{}", s.values),
                                           figure(s.least),
                                           figure(s.most),
                                           figure(s.mean),
                                           figure(s.median),
                                           figure(s.deviation)};
            for (std::size_t i = 0; i < std::size(figures); ++i) cell(kColumns[i + 1].second, y, figures[i], true, true);
        }
        if (std::ranges::any_of(m_statistics, [](const TestStatistics& s) { return s.others > 0; }))
            cell(0, y + kLine, "+ limits and words, in no figure", false, false), widenLast();
    }

    /// The note may run over the table's columns.
    void widenLast() { std::get<Text>(m_out.items.back().shape).width = 94; }

    static constexpr double kLeft = 14, kTop = 8, kFoot = 12; ///< millimetres around the frame
    const ValuePlot& m_plot;
    std::vector<std::string> m_names;
    std::vector<TestStatistics> m_statistics;
    Drawing m_out;
};

} // namespace

Drawing drawValuePlot(const ValuePlot& plot, double width, double height) { return ValuePlotter(plot, width, height).draw(); }

} // namespace fox
