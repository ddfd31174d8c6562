#include "sheets/prediction_plot.h"

#include "sheets/plot_axes.h"
#include "sheets/unit_style.h"

#include <fmt/format.h>

namespace fox {

using namespace paper;

namespace {

std::string twoDecimals(double v) { return std::isnan(v) ? std::string("-") : fmt::format("{:.2f}", v); }
std::string percent(double share) { return std::isnan(share) ? std::string("-") : fmt::format("{:.0f} %", 100 * share); }

/// A row a unit, and one of all.
class SummaryTable {
public:
    SummaryTable(Drawing& out, Point2 at) : m_out(out), m_at(at) {}

    void head() {
        static constexpr const char* kHeads[] = {"bases found", "mean error, m", "RMSE, m", "within 80 % range",
                                                 "presence right"};
        cell(0, "unit", kMuted);
        for (int k = 0; k < 5; ++k) cell(k + 1, kHeads[k], kMuted);
        m_out.add("table", "", Line{{{m_at.x, m_at.y + 1.4}, {m_at.x + kWidth, m_at.y + 1.4}}, {kMuted, 0.2, {}}});
    }
    void row(const std::string& name, const PredictionSummary& s) {
        m_at.y += kLine;
        cell(0, name, kInk);
        cell(1, fmt::format("{}", s.bases), kInk);
        cell(2, twoDecimals(s.bias), kInk);
        cell(3, twoDecimals(s.rmse), kInk);
        cell(4, percent(s.within), kInk);
        cell(5, fmt::format("{} of {}", s.presenceRight, s.presences), kInk);
    }

private:
    void cell(int column, std::string words, const Colour& c) {
        constexpr double kFirst = 44, kWide = 26;
        Text t{std::move(words),
               {m_at.x + (column == 0 ? 0 : kFirst + column * kWide - 4), m_at.y},
               PlotAxes::kText,
               c,
               column == 0 ? Text::Align::Left : Text::Align::Right};
        if (column == 0) t.width = kFirst;
        m_out.add("table", "", std::move(t));
    }

    static constexpr double kLine = 5, kWidth = 172; // millimetres
    Drawing& m_out;
    Point2 m_at;
};

void addPlot(Drawing& out, const Box2& box, const std::vector<HolePrediction>& all, const Sequence& sequence) {
    double low = INFINITY, high = -INFINITY;
    for (const auto& p : all)
        if (!std::isnan(p.error())) low = std::min({low, p.found, p.predicted}), high = std::max({high, p.found, p.predicted});
    if (!(low <= high)) {
        out.add("frame", "", Text{"None of these holes found a base.", {box.xmin, box.ymin + 5}, PlotAxes::kText, kMuted});
        return;
    }
    const auto [least, most] = widened(low, high);
    const PlotAxes axes(box, least, most, least, most);
    axes.draw(out, "predicted level, m", "found level, m");
    out.add("equal", "", Line{{axes.at(least, least), axes.at(most, most)}, {kMuted, 0.3, {1.5, 1}}});
    for (const auto& p : all) {
        if (std::isnan(p.error())) continue;
        const auto at = axes.at(p.predicted, p.found);
        const auto fill = colourOf(sequence.units[p.unit]);
        if (!std::isnan(p.deviation)) {
            const double half = 1.28 * p.deviation;
            out.add(
                "bars", p.hole,
                Line{{axes.at(p.predicted - half, p.found), axes.at(p.predicted + half, p.found)}, {fill.darker(1.3), 0.3, {}}},
                box);
        }
        out.add("values", p.hole, FilledArea{{circle(at, 1.1)}, Fill::plain(fill), Pen{kInk, 0.2, {}}}, box);
    }
}

} // namespace

Drawing drawPredictionPlot(const std::vector<HolePrediction>& all, const Sequence& sequence, double width, double height) {
    Drawing out;
    out.width = width, out.height = height;
    Box2 box;
    box.include({14, 6});
    box.include({width - 6, height - 12});
    if (box.width() > 20 && box.height() > 20) addPlot(out, box, all, sequence);
    return out;
}

Drawing predictionReport(const std::vector<HolePrediction>& all, const Sequence& sequence, const std::string& project,
                         const std::string& holes) {
    constexpr double kWide = 210, kTall = 297, kMargin = 18, kPlot = 150;
    Drawing out;
    out.width = kWide, out.height = kTall;
    Text title{"What the holes found, against the model without them", {kMargin, 20}, 5, kInk};
    title.strong = true;
    out.add("title", "", std::move(title));
    Text facts{fmt::format("{}. Holes of {}. Bars: the range that holds 80 % by the model's standard deviation.", project, holes),
               {kMargin, 27},
               3.2,
               kMuted};
    facts.width = kWide - 2 * kMargin;
    out.add("title", "", std::move(facts));
    Box2 box;
    box.include({kMargin + 12, 36});
    box.include({kWide - kMargin, 36 + kPlot});
    addPlot(out, box, all, sequence);
    SummaryTable table(out, {kMargin, box.ymax + 22});
    table.head();
    for (std::size_t u = 0; u < sequence.units.size(); ++u) {
        std::vector<HolePrediction> ofUnit;
        for (const auto& p : all)
            if (p.unit == u) ofUnit.push_back(p);
        if (!ofUnit.empty()) table.row(sequence.units[u].code + "  " + sequence.units[u].name, summaryOf(ofUnit));
    }
    table.row("all", summaryOf(all));
    return out;
}

} // namespace fox
