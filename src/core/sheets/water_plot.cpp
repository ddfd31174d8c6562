#include "sheets/plot_axes.h"
#include "sheets/plots.h"

#include <algorithm>
#include <chrono>
#include <fmt/chrono.h>
#include <fmt/format.h>

namespace fox {

using namespace paper;

namespace {

constexpr double kDay = 86400;
/// Told apart by colour and dashes; after the last they begin anew.
constexpr Colour kColours[] = {kSlate, kAccent, {0x5C, 0x7A, 0x4A}, {0x8A, 0x61, 0x10}, {0xA8, 0x32, 0x2A}, {0x6A, 0x4E, 0x7A},
                               kInk};

std::chrono::year_month_day dayOf(double time) {
    return std::chrono::sys_days{std::chrono::days{std::int64_t(std::floor(time / kDay))}};
}
double timeOfDay(std::chrono::year_month_day day) { return double(std::chrono::sys_days{day}.time_since_epoch().count()) * kDay; }

/// The first of months or years, or days, not more than `most`.
std::vector<std::pair<double, std::string>> dateLabels(double from, double to, double most) {
    std::vector<std::pair<double, std::string>> out;
    const double days = (to - from) / kDay;
    if (days / most <= 20) {
        const double step = std::max(1.0, std::ceil(days / most));
        for (double t = std::ceil(from / kDay) * kDay; t <= to; t += step * kDay) out.push_back({t, dayInWords(t)});
        return out;
    }
    static constexpr int kMonths[] = {1, 2, 3, 6, 12, 24, 60, 120, 240};
    const auto step = *std::ranges::find_if(kMonths, [&](int m) { return m == 240 || days / (m * 30.4) <= most; });
    auto month = std::chrono::year_month{dayOf(from).year(), std::chrono::month{1}};
    for (; timeOfDay(month / std::chrono::day{1}) <= to && out.size() < 200; month += std::chrono::months{step})
        if (const double t = timeOfDay(month / std::chrono::day{1}); t >= from)
            out.push_back({t, fmt::format("{}-{:02}", int(month.year()), unsigned(month.month()))});
    return out;
}

class WaterPlotter {
public:
    WaterPlotter(const WaterPlot& plot, double width, double height) : m_plot(plot), m_names(displayNames(*plot.holes)) {
        m_out.width = width, m_out.height = height;
    }

    Drawing draw() {
        double from = INFINITY, to = -INFINITY, low = INFINITY, high = -INFINITY;
        for (const auto& s : m_plot.series)
            for (const auto& r : s.readings) {
                from = std::min(from, r.time), to = std::max(to, r.time);
                low = std::min(low, r.level), high = std::max(high, r.level);
            }
        Box2 box;
        box.include({14, 8});
        box.include({m_out.width - (m_out.width > 150 ? 44 : 6), m_out.height - 9});
        if (!(from <= to) || box.height() < 20 || box.width() < 20) return std::move(m_out);
        const double room = std::max(kDay, (to - from) * 0.03);
        const auto [bottom, top] = widened(low, high);
        const PlotAxes axes(box, from - room, to + room, bottom, top);
        axes.drawWithLabels(m_out, dateLabels(from - room, to + room, box.width() / 22), "level, m");
        for (std::size_t i = 0; i < m_plot.series.size(); ++i) addSeries(axes, i);
        if (m_plot.at && axes.holds(*m_plot.at, bottom))
            m_out.add("frame", "", Line{{axes.at(*m_plot.at, bottom), axes.at(*m_plot.at, top)}, {kAccent, 0.3, {1, 1}}});
        if (m_out.width > 150) addLegend({box.xmax + 4, box.ymin + 2}, box.ymax);
        return std::move(m_out);
    }

private:
    Pen penOf(std::size_t i) const {
        const bool chosen = m_plot.chosen == m_plot.series[i].hole;
        const auto round = i / std::size(kColours);
        Pen pen{kColours[i % std::size(kColours)], chosen ? 0.7 : 0.35, {}};
        if (round % 3 == 1) pen.dashes = {1.6, 0.8};
        if (round % 3 == 2) pen.dashes = {0.4, 0.7};
        return pen;
    }

    std::string nameOf(const WaterSeries& s) const { return m_names[s.hole] + (s.pipe.empty() ? "" : " " + s.pipe); }

    void addSeries(const PlotAxes& axes, std::size_t i) {
        const auto& series = m_plot.series[i];
        const auto& hole = m_names[series.hole];
        const auto pen = penOf(i);
        Line line{{}, pen};
        const auto finish = [&] {
            if (line.points.size() > 1) m_out.add("levels", hole, line);
            line.points.clear();
        };
        for (const auto& r : series.readings) {
            const auto at = axes.at(r.time, r.level);
            if (!r.of->dry) {
                line.points.push_back(at);
                m_out.add("levels", hole, FilledArea{{circle(at, 0.75)}, Fill::plain(pen.colour), {}});
                continue;
            }
            finish(); // no level: the line ends
            m_out.add("levels", hole, FilledArea{{circle(at, 0.8)}, Fill::plain(kPaper), Pen{pen.colour, 0.3, {}}});
            m_out.add("levels", hole, Line{{{at.x, at.y + 0.8}, {at.x, at.y + 2.4}}, {pen.colour, 0.3, {}}});
        }
        finish();
    }

    void addLegend(Point2 at, double end) {
        for (std::size_t i = 0; i < m_plot.series.size(); ++i) {
            const double y = at.y + double(i) * 4.2;
            const bool isLast = y + 4.2 > end && i + 1 < m_plot.series.size();
            Text words{isLast ? fmt::format("and {} more", m_plot.series.size() - i) : nameOf(m_plot.series[i]),
                       {at.x + 7, y},
                       PlotAxes::kText,
                       kInk};
            words.anchor = Text::Anchor::Middle;
            words.width = 32;
            if (!isLast) m_out.add("legend", m_names[m_plot.series[i].hole], Line{{{at.x, y}, {at.x + 5.5, y}}, penOf(i)});
            m_out.add("legend", isLast ? std::string() : m_names[m_plot.series[i].hole], std::move(words));
            if (isLast) return;
        }
    }

    const WaterPlot& m_plot;
    std::vector<std::string> m_names;
    Drawing m_out;
};

} // namespace

std::string dayInWords(double time) {
    const auto day = dayOf(time);
    return fmt::format("{}-{:02}-{:02}", int(day.year()), unsigned(day.month()), unsigned(day.day()));
}

Drawing drawWaterPlot(const WaterPlot& plot, double width, double height) { return WaterPlotter(plot, width, height).draw(); }

} // namespace fox
