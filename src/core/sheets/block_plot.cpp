#include "sheets/block_plot.h"

#include "sheets/plot_axes.h"
#include "sheets/unit_style.h"

#include <fmt/format.h>

namespace fox {

using namespace paper;

namespace {

constexpr Colour kDataInk = kSlate, kBlockInk = kAccent;

Box2 plotBox(double width, double height) {
    Box2 box;
    box.include({18, 8}), box.include({std::max(30.0, width - 6), std::max(20.0, height - 14)});
    return box;
}

Drawing nothingToDraw(double width, double height, const char* words) {
    Drawing out{width, height, {}};
    out.add("frame", "",
            Text{words,
                 {10, height / 2},
                 PlotAxes::kText,
                 kMuted,
                 Text::Align::Left,
                 Text::Anchor::Baseline,
                 false,
                 0,
                 width - 20,
                 0});
    return out;
}

void addCurve(Drawing& out, const PlotAxes& axes, const char* layer, const std::vector<double>& x, const std::vector<double>& y,
              Colour ink) {
    Polyline2 line;
    const auto end = [&] {
        if (line.size() > 1) out.add(layer, "", Line{line, {ink, 0.5, {}}}, axes.box());
        line.clear();
    };
    for (std::size_t i = 0; i < x.size(); ++i) {
        if (std::isnan(y[i])) {
            end();
            continue;
        }
        line.push_back(axes.at(x[i], y[i]));
        if (x.size() < 60) out.add(layer, "", FilledArea{{circle(line.back(), 0.6)}, Fill::plain(ink)}, axes.box());
    }
    end();
}

void addLegend(Drawing& out, const Box2& box, const std::vector<std::pair<std::string, Colour>>& words) {
    double x = box.xmin + 2;
    for (const auto& [text, ink] : words) {
        out.add("legend", "", FilledArea{{rectangle(x, box.ymin + 1.6, x + 3, box.ymin + 3.6)}, Fill::plain(ink)});
        Text t{text, {x + 4, box.ymin + 3.6}, PlotAxes::kText, kInk};
        t.halo = kPaper;
        out.add("legend", "", t);
        x += 30;
    }
}

void addLimit(Drawing& out, const PlotAxes& axes, const BlockPlot& p, double low, double high) {
    for (const auto& limit : {p.limits.above, p.limits.below})
        if (limit) out.add("limit", "", Line{{axes.at(*limit, low), axes.at(*limit, high)}, {kInk, 0.4, {1.5, 1}}}, axes.box());
}

} // namespace

Drawing drawCutOffCurve(const BlockPlot& p, double width, double height) {
    const auto curve = p.curve ? *p.curve : cutOffCurve(*p.blocks, p.above);
    if (curve.value.empty()) return nothingToDraw(width, height, "No block has a value.");
    const auto box = plotBox(width, height);
    const auto [left, right] = widened(curve.value.front(), curve.value.back());
    double most = 1;
    for (const double v : curve.volume) most = std::max(most, v);
    const bool millions = most >= 1e6;
    const double scale = millions ? 1e-6 : 1e-3;
    const PlotAxes axes(box, left, right, 0, most * scale * 1.05);
    Drawing out{width, height, {}};
    axes.draw(out, p.quantity,
              fmt::format("volume {} it, {} m³", p.above ? "above" : "below", millions ? "million" : "thousand"));
    std::vector<double> volumes;
    for (const double v : curve.volume) volumes.push_back(v * scale);
    addCurve(out, axes, "curve", curve.value, volumes, kBlockInk);
    addLimit(out, axes, p, 0, most * scale * 1.05);
    return out;
}

Drawing drawBlockHistogram(const BlockPlot& p, double width, double height) {
    const auto h = histogramOf(*p.blocks, *p.composites, kHistogramClasses, p.unit);
    if (h.limits.empty()) return nothingToDraw(width, height, "No block has a value.");
    const auto box = plotBox(width, height);
    double most = 0.01;
    for (const auto* shares : {&h.blocks, &h.composites})
        for (const double s : *shares) most = std::max(most, s);
    const PlotAxes axes(box, h.limits.front(), h.limits.back(), 0, 100 * most * 1.15);
    Drawing out{width, height, {}};
    axes.draw(out, p.quantity, "share, %");
    for (std::size_t k = 0; k + 1 < h.limits.size(); ++k) {
        const double middle = (h.limits[k] + h.limits[k + 1]) / 2;
        const auto bar = [&](const char* layer, double from, double to, double share, Colour ink) {
            if (!(share > 0)) return;
            const auto a = axes.at(from, 0), b = axes.at(to, 100 * share);
            out.add(layer, "", FilledArea{{rectangle(a.x, b.y, b.x, a.y)}, Fill::plain(ink)});
        };
        bar("blocks", h.limits[k], middle, h.blocks[k], kBlockInk);
        bar("composites", middle, h.limits[k + 1], h.composites[k], kDataInk);
    }
    addLimit(out, axes, p, 0, 100 * most * 1.15);
    addLegend(out, box, {{"blocks", kBlockInk}, {"readings", kDataInk}});
    return out;
}

Drawing drawSwath(const BlockPlot& p, SwathAxis axis, double width, double height) {
    const auto s = swathOf(*p.blocks, *p.composites, axis);
    Box2 range; // values as y
    for (const auto* means : {&s.blocks, &s.composites})
        for (const double v : *means)
            if (!std::isnan(v)) range.include({0, v});
    if (range.empty()) return nothingToDraw(width, height, "No block has a value.");
    const auto box = plotBox(width, height);
    const auto [low, high] = widened(range.ymin, range.ymax);
    const double half = s.middle.size() > 1 ? (s.middle[1] - s.middle[0]) / 2 : 1;
    const PlotAxes axes(box, s.middle.front() - half, s.middle.back() + half, low, high + (high - low) * 0.12);
    Drawing out{width, height, {}};
    axes.draw(out,
              axis == SwathAxis::East    ? "easting, m"
              : axis == SwathAxis::North ? "northing, m"
                                         : "level, m",
              "mean " + p.quantity);
    addCurve(out, axes, "blocks", s.middle, s.blocks, kBlockInk);
    addCurve(out, axes, "composites", s.middle, s.composites, kDataInk);
    addLegend(out, box, {{"blocks", kBlockInk}, {"readings", kDataInk}});
    return out;
}

Drawing drawLeftOutHoles(const BlockPlot& p, double width, double height) {
    std::vector<BlockJudgement::Told> told;
    for (const auto& t : p.judged->told)
        if (!p.unit || t.unit == p.unit) told.push_back(t);
    const auto errors = errorsOf(told);
    if (told.empty()) return nothingToDraw(width, height, "There are not enough holes to leave one out.");
    Box2 range;
    for (const auto& t : told) range.include({t.observed, t.predicted}), range.include({t.predicted, t.observed});
    const auto box = plotBox(width, height);
    const auto [low, high] = widened(range.xmin, range.xmax);
    const PlotAxes axes(box, low, high, low, high);
    Drawing out{width, height, {}};
    axes.draw(out, "by the other holes: " + p.quantity, "in the hole: " + p.quantity);
    out.add("equal", "", Line{{axes.at(low, low), axes.at(high, high)}, {kMuted, 0.3, {1.5, 1}}});
    for (const auto& t : told)
        out.add("values", "",
                FilledArea{{circle(axes.at(t.predicted, t.observed), 0.8)},
                           Fill::plain(t.unit ? colourOf(p.sequence->units[*t.unit]) : kMuted),
                           Pen{kInk, 0.15, {}}},
                box);
    Text words{fmt::format("{} of {} holes left out in turn: error {:.3g} (root mean square), bias {:+.3g}", p.judged->holesTried,
                           p.judged->holes, errors.rmse, errors.bias),
               {box.xmin + 2, box.ymin + 4},
               PlotAxes::kText,
               kInk};
    words.halo = kPaper;
    words.width = box.width() - 4, words.lines = 0;
    words.anchor = Text::Anchor::Top, words.at.y = box.ymin + 1.5;
    out.add("words", "", words);
    return out;
}

} // namespace fox
