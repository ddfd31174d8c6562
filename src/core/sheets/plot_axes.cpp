#include "sheets/plot_axes.h"

#include "sheets/scale.h"

#include <cmath>

namespace fox {

using namespace paper;

namespace {

/// Round values in a range, so that `room` millimetres hold one each 15 at least.
std::vector<double> roundValues(double from, double to, double room, double apart) {
    std::vector<double> out;
    const double low = std::min(from, to), high = std::max(from, to);
    const double step = labelStep((high - low) * apart / std::max(room, apart));
    for (double v = std::ceil(low / step) * step; v <= high + step * 1e-9 && out.size() < 100; v += step)
        out.push_back(std::abs(v) < step * 1e-9 ? 0 : v);
    return out;
}

} // namespace

std::pair<double, double> widened(double low, double high) {
    if (!(low <= high)) return {0, 1};
    const double room = high > low ? (high - low) * 0.06 : std::max(1.0, std::abs(high) * 0.1);
    return {low - room, high + room};
}

bool PlotAxes::holds(double x, double y) const {
    const auto p = at(x, y);
    constexpr double kSlack = 1e-6;
    return p.x >= m_box.xmin - kSlack && p.x <= m_box.xmax + kSlack && p.y >= m_box.ymin - kSlack && p.y <= m_box.ymax + kSlack;
}

void PlotAxes::frame(Drawing& out, const std::string& beside) const {
    constexpr double kApart = 10;
    for (const double v : roundValues(m_low, m_high, m_box.height(), kApart)) {
        const double y = at(m_left, v).y;
        out.add("frame", "", Line{{{m_box.xmin, y}, {m_box.xmax, y}}, {kRule, 0.2, {}}});
        Text label{labelWords(v), {m_box.xmin - 1.5, y}, kText, kMuted, Text::Align::Right};
        label.anchor = Text::Anchor::Middle;
        out.add("frame", "", std::move(label));
    }
    out.add("frame", "", FilledArea{{rectangle(m_box.xmin, m_box.ymin, m_box.xmax, m_box.ymax)}, {}, Pen{kMuted, 0.25, {}}});
    out.add("frame", "", Text{beside, {m_box.xmin, m_box.ymin - 2}, kText, kMuted});
}

void PlotAxes::mark(Drawing& out, double v, const std::string& label) const {
    const double x = at(v, m_low).x;
    out.add("frame", "", Line{{{x, m_box.ymin}, {x, m_box.ymax}}, {kRule, 0.2, {}}});
    Text words{label, {x, m_box.ymax + 1.2}, kText, kMuted, Text::Align::Centre};
    words.anchor = Text::Anchor::Top;
    out.add("frame", "", std::move(words));
}

void PlotAxes::draw(Drawing& out, const std::string& below, const std::string& beside) const {
    constexpr double kApart = 16;
    for (const double v : roundValues(m_left, m_right, m_box.width(), kApart)) mark(out, v, labelWords(v));
    frame(out, beside);
    Text words{below, {(m_box.xmin + m_box.xmax) / 2, m_box.ymax + 5}, kText, kInk, Text::Align::Centre};
    words.anchor = Text::Anchor::Top;
    out.add("frame", "", std::move(words));
}

void PlotAxes::drawWithLabels(Drawing& out, const std::vector<std::pair<double, std::string>>& labels,
                              const std::string& beside) const {
    for (const auto& [v, label] : labels) mark(out, v, label);
    frame(out, beside);
}

} // namespace fox
