#include "sheets/log_tracks.h"

#include "holes/soundings.h"
#include "paper/render.h"
#include "sheets/scale.h"
#include "sheets/unit_style.h"

#include <fmt/format.h>

namespace fox {

using namespace paper;

namespace {

/// A round number not below a value, for the end of an axis.
double roundUp(double v) {
    if (!(v > 0)) return 1;
    const double power = std::pow(10, std::floor(std::log10(v)));
    for (const double step : {1.0, 2.0, 5.0, 10.0})
        if (v <= step * power) return step * power;
    return 10 * power;
}

/// Signs of the trade for what is measured.
std::string headOf(const Curve& c) {
    static constexpr std::pair<std::string_view, std::string_view> kHeads[] = {{"cone resistance", "qc"},
                                                                               {"corrected cone resistance", "qt"},
                                                                               {"sleeve friction", "fs"},
                                                                               {"pore pressure u1", "u1"},
                                                                               {"pore pressure u2", "u2"},
                                                                               {"pore pressure u3", "u3"},
                                                                               {"friction ratio", "Rf"},
                                                                               {"soil behaviour index", "Ic"},
                                                                               {"dynamic probing", "N100"},
                                                                               {"moisture content", "w"},
                                                                               {"liquid limit", "LL"},
                                                                               {"plastic limit", "PL"},
                                                                               {"plasticity index", "PI"},
                                                                               {"undrained shear strength", "cu"},
                                                                               {"uniaxial compressive strength", "UCS"},
                                                                               {"point load index", "Is50"},
                                                                               {"fracture index", "FI"}};
    for (const auto& [name, head] : kHeads)
        if (c.name == name) return std::string(head);
    return c.name;
}

constexpr std::string_view kIndex = "soil behaviour index";

} // namespace

void LogTracks::addTrack(double left, double wide, const std::string& head, double low, double high, const std::string& unit,
                         const std::string& name) {
    for (const double x : {left, left + wide}) add(Line{{{x, y(0)}, {x, y(m_layout.deepest)}}, {kRule, 0.26, {}}}, "");
    Text words{unit.empty() ? head : head + ", " + unit, {left - 0.5, m_layout.area.ymin + 8.4}, kSmall, kMuted};
    if (measure(words).width > wide + 1.1) words.words = head;
    words.width = wide + 1.1;
    add(std::move(words), name);
    const double foot = m_layout.area.ymax - 2;
    add(Text{labelWords(low), {left - 0.5, foot}, kSmall, kMuted}, name);
    add(Text{labelWords(high), {left + wide + 0.5, foot}, kSmall, kMuted, Text::Align::Right}, name);
}

void LogTracks::addBlows(double left, double wide) {
    constexpr double kRefusal = 50;
    double most = kRefusal;
    for (const auto& b : m_hole.blowCounts)
        if (!b.refused()) most = std::max(most, b.blows);
    const std::string name = "SPT N";
    addTrack(left, wide, name, 0, most, "", name);
    Line line{{}, {kSlate, 0.37, {}}};
    for (const auto& b : m_hole.blowCounts)
        line.points.push_back({left + wide * (b.refused() ? kRefusal : b.blows) / most, y(b.depth.metres)});
    const auto points = line.points;
    add(std::move(line), name);
    for (std::size_t i = 0; i < points.size(); ++i) {
        const auto& p = points[i];
        add(FilledArea{{circle(p, 0.53)}, Fill::plain(kSlate), {}}, name);
        if (!m_hole.blowCounts[i].refused()) continue;
        add(Line{{p, {p.x + 1.9, p.y}}, {kSlate, 0.37, {}}}, name);
        add(FilledArea{{{{p.x + 2.6, p.y}, {p.x + 1.6, p.y - 0.6}, {p.x + 1.6, p.y + 0.6}}}, Fill::plain(kSlate), {}}, name);
        Text words{fox::words(m_hole.blowCounts[i]), {p.x - 1, p.y}, kSmall, kSlate, Text::Align::Right};
        words.anchor = Text::Anchor::Middle;
        add(std::move(words), name);
    }
}

/// A push that met an obstruction comes behind the one that took its place.
std::vector<const Sounding*> LogTracks::deepestFirst() const {
    std::vector<std::pair<double, const Sounding*>> pushes;
    for (const auto& s : m_hole.soundings) {
        double end = 0;
        for (const auto& c : m_hole.curves)
            if (c.push == s.push && c.readings && !c.readings->empty()) end = std::max(end, c.readings->back().depth);
        pushes.emplace_back(end, &s);
    }
    std::ranges::stable_sort(pushes, std::greater<>(), [](const auto& p) { return p.first; });
    std::vector<const Sounding*> out;
    for (const auto& [end, s] : pushes) out.push_back(s);
    return out;
}

/// Soundings push by push with what follows from them, then all other curves.
std::vector<LogTracks::Track> LogTracks::tracks() const {
    std::vector<Track> out;
    const bool several = m_hole.soundings.size() > 1;
    const auto take = [&](const Curve& c) {
        if (!c.readings || c.readings->empty()) return;
        out.push_back({c, headOf(c) + (several && !c.push.empty() ? " " + c.push : "")});
    };
    for (const auto* s : deepestFirst()) {
        for (const auto& c : m_hole.curves)
            if (c.push == s->push) take(c);
        for (const auto& c : derivedTracks(m_hole, *s, assumedFor(m_hole, *s)))
            if (!c.name.starts_with("normalised")) take(c);
    }
    for (const auto& c : m_hole.curves)
        if (c.push.empty()) take(c);
    return out;
}

void LogTracks::addCurves(double& left, double& right) {
    static constexpr Colour kColours[] = {kSlate, kAccent, {0x5C, 0x7A, 0x4A}, {0x8A, 0x61, 0x10}, {0xA8, 0x32, 0x2A}};
    const auto all = tracks();
    if (all.empty()) return;
    const bool alone = m_hole.intervals.empty();
    const double wide = alone ? std::max(kWide, (right - left) / double(all.size())) : kWide;
    std::size_t drawn = 0;
    for (const auto& track : all) {
        if (right - left - wide < (alone ? -0.3 : kLeastWords)) break;
        const double at = alone ? left + 1 : right - wide;
        (alone ? left : right) += alone ? wide : -wide;
        if (track.curve.name == kIndex) addZones(track.curve, at, wide - 2.1);
        addCurve(track, at, wide - 2.1, kColours[drawn++ % std::size(kColours)]);
    }
}

void LogTracks::addCurve(const Track& track, double left, double wide, Colour ink) {
    const auto& c = track.curve;
    double high = 0, low = 0;
    for (const auto& r : *c.readings)
        if (!std::isnan(r.value)) high = std::max(high, r.value), low = std::min(low, r.value);
    high = c.name == kIndex ? 4 : roundUp(high);
    addTrack(left, wide, track.head, low, high, c.unit, c.name);
    const auto at = [&](const Curve::Reading& r) {
        return Point2{left + wide * (std::clamp(r.value, low, high) - low) / (high - low), y(r.depth)};
    };
    if (c.single) {
        std::vector<Point2> points;
        for (const auto& r : *c.readings) {
            points.push_back(std::isnan(r.value) ? Point2{left, y(r.depth)} : at(r));
            if (!std::isnan(r.value)) add(FilledArea{{circle(points.back(), 0.53)}, Fill::plain(ink), {}}, c.name);
        }
        return addWritten(c, points);
    }
    constexpr double kFinest = 0.08; // millimetres: no line of a page or screen is finer
    Line line{{}, {ink, 0.29, {}}};
    const auto finish = [&] {
        if (line.points.size() > 1) add(line, c.name);
        line.points.clear();
    };
    for (const auto& r : thinned(*c.readings, kFinest / (y(1) - y(0))))
        std::isnan(r.value) ? finish() : line.points.push_back(at(r));
    finish();
}

/// "<0.5", "NP": results that are more than their number.
void LogTracks::addWritten(const Curve& c, const std::vector<Point2>& points) {
    for (const auto& w : c.written) {
        if (w.reading >= points.size()) continue;
        Text words{w.text, {points[w.reading].x + 0.9, points[w.reading].y}, kSmall, kMuted};
        words.anchor = Text::Anchor::Middle;
        add(std::move(words), c.name);
    }
}

/// Behind the index: its zones in their colours, named where there is room.
void LogTracks::addZones(const Curve& index, double left, double wide) {
    constexpr double kLeast = 0.2; // metres
    for (const auto& z : behaviourZones(index, kLeast)) {
        const double top = y(z.top.metres), base = y(z.base.metres);
        add(FilledArea{{rectangle(left, top, left + wide, base)},
                       Fill::plain(Colour::parse(z.behaviour->colour).value_or(kRule).withAlpha(150)),
                       {}},
            z.behaviour->words);
        constexpr double kLine = kSmall * 1.25;
        if (base - top < kLine + 0.6 || wide < 12) continue;
        Text words{z.behaviour->words, {left + 0.5, top + 0.3}, kSmall, kInk};
        words.anchor = Text::Anchor::Top;
        words.width = wide - 0.8;
        words.lines = std::max(1, int((base - top) / kLine));
        add(std::move(words), z.behaviour->words);
    }
}

} // namespace fox
