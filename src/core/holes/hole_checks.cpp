#include "holes/hole_checks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <unordered_map>

namespace fox {

namespace {

constexpr double kSlack = 0.0005; // metres; depths are given to the centimetre at best

double median(std::vector<double> values) {
    if (values.empty()) return 0;
    const auto middle = values.begin() + std::ptrdiff_t(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    return *middle;
}

class Checker {
public:
    Checker(const Holes& holes, const std::set<std::string>& edition3)
        : m_holes(holes), m_edition3(edition3), m_names(displayNames(holes)), m_spread(holes) {
        std::vector<double> levels;
        for (const auto& h : holes)
            if (h.level) levels.push_back(h.level->metres);
        m_level = median(std::move(levels));
    }

    Findings check() {
        checkSwappedFiles();
        for (std::size_t i = 0; i < m_holes.size(); ++i) {
            m_hole = &m_holes[i];
            m_name = &m_names[i];
            if (!m_swappedFiles.contains(m_hole->file)) checkPlace();
            checkLevel();
            checkDepth();
            checkTests();
            checkPath();
            checkIntervals();
        }
        checkTwins();
        return std::move(m_out);
    }

private:
    Finding& add(const char* rule, int line, const char* group, const char* heading, std::string words) {
        m_out.push_back({Severity::Warning, rule, m_hole->file, line, group, heading, *m_name, std::move(words)});
        if (m_edition3.contains(m_hole->file)) nameByEdition3(m_out.back());
        return m_out.back();
    }
    static void nameByEdition3(Finding& f) {
        static constexpr std::pair<std::string_view, std::string_view> kNames[] = {
            {"LOCA", "HOLE"}, {"HORN", "HOLE"}, {"WSTG_DPTH", "WSTK_DEP"}, {"WSTG", "WSTK"}};
        for (auto* name : {&f.group, &f.heading})
            for (const auto& [four, three] : kNames)
                if (name->starts_with(four)) {
                    name->replace(0, four.size(), three);
                    break;
                }
    }
    Remedy placeIt() const { return {"Place it on the plan", PlaceOnPlan{*m_name}}; }

    bool looksSwapped(const Hole& hole) const {
        const auto p = hole.place();
        return p && m_spread.isFarOff(*p) && m_spread.fromMiddle({p->y, p->x}) < m_spread.fromMiddle(*p) / 10;
    }

    /// Files of several holes that all look swapped are told once.
    void checkSwappedFiles() {
        struct Count {
            std::size_t placed = 0, swapped = 0, first = 0;
        };
        std::map<std::string, Count> files;
        for (std::size_t i = 0; i < m_holes.size(); ++i) {
            if (!m_holes[i].place() || m_holes[i].file.empty()) continue;
            auto& count = files[m_holes[i].file];
            ++count.placed;
            if (looksSwapped(m_holes[i]) && count.swapped++ == 0) count.first = i;
        }
        for (const auto& [file, count] : files) {
            if (count.swapped < 2 || count.swapped < count.placed) continue;
            m_swappedFiles.insert(file);
            m_hole = &m_holes[count.first], m_name = &m_names[count.first];
            auto& found = add("FC-SWAPPED", m_hole->line, "LOCA", "LOCA_NATE",
                              fmt::format("Easting and northing of all {} holes of this file look swapped: the other way round "
                                          "they lie among the others.",
                                          count.placed));
            found.hole.clear();
            found.remedy = Remedy{"Swap them in all of its holes", SwapCoordinatesOfFile{file}};
        }
    }

    void checkPlace() {
        if (m_hole->easting == 0.0 && m_hole->northing == 0.0)
            add("FC-PLACE", m_hole->line, "LOCA", "LOCA_NATE",
                "The hole lies at 0, 0: it is left out of every surface until it has a place.")
                .remedy = placeIt();
        else if (!m_hole->place())
            add("FC-PLACE", m_hole->line, "LOCA", "LOCA_NATE",
                "The hole has no coordinates: it is left out of every surface until it has a place.")
                .remedy = placeIt();
        else
            checkFarOff(*m_hole->place());
    }

    void checkFarOff(Point2 p) {
        if (!m_spread.isFarOff(p)) return;
        const double far = m_spread.fromMiddle(p), swapped = m_spread.fromMiddle({p.y, p.x});
        if (looksSwapped(*m_hole))
            add("FC-SWAPPED", m_hole->line, "LOCA", "LOCA_NATE",
                fmt::format(
                    "Easting and northing look swapped: the other way round the hole lies {:.0f} m from the site's middle, "
                    "not {:.0f} km.",
                    swapped, far / 1000))
                .remedy = Remedy{"Swap them", SwapCoordinates{*m_name}};
        else
            add("FC-FAR-OFF", m_hole->line, "LOCA", "LOCA_NATE",
                fmt::format(
                    "The hole lies {:.0f} km from the middle of the others; an extent that follows the holes does not reach it.",
                    far / 1000))
                .remedy = placeIt();
    }

    void checkLevel() {
        constexpr double kNearZero = 2; // metres: a site at sea level may well have a zero
        if (!m_hole->level)
            add("FC-LEVEL", m_hole->line, "LOCA", "LOCA_GL",
                "The hole has no ground level: it is left out of every surface until it has one.");
        else if (m_hole->level->metres == 0 && std::abs(m_level) > kNearZero)
            add("FC-ZERO-LEVEL", m_hole->line, "LOCA", "LOCA_GL",
                fmt::format("The ground level is 0, where the others are about {:.0f} m.", m_level));
    }

    void checkDepth() {
        double logged = 0;
        for (const auto& i : m_hole->intervals)
            if (i.usable()) logged = std::max(logged, i.base.metres);
        if (logged == 0) return;
        const auto setFrom = [&](Finding& f) {
            f.remedy = Remedy{fmt::format("Set it to {:.2f} m", logged), SetFinalDepthTo{*m_name, Depth{logged}}};
        };
        if (!m_hole->finalDepth)
            return setFrom(add("FC-FINAL-DEPTH", m_hole->line, "LOCA", "LOCA_FDEP", "The hole has no final depth."));
        const double end = m_hole->finalDepth->metres;
        constexpr double kFeet = 1 / 0.3048;
        const double ratio = end > 0 ? logged / end : 0;
        if (std::abs(ratio / kFeet - 1) < 0.01 || std::abs(ratio * kFeet - 1) < 0.01)
            add("FC-FEET", m_hole->line, "LOCA", "LOCA_FDEP",
                fmt::format(
                    "The geology ends at {:.2f} and the hole at {:.2f}: one of them looks like feet where metres are said.",
                    logged, end));
        else if (logged > end + kSlack)
            setFrom(add("FC-BELOW-END", m_hole->line, "GEOL", "GEOL_BASE",
                        fmt::format("The geology goes down to {:.2f} m, below the final depth of {:.2f} m.", logged, end)));
    }

    /// Samples, tests and water that would lie below the hole: once a hole, the deepest of each. What is driven from the bottom
    /// may begin a little below it, behind the seating drive.
    void checkTests() {
        if (!m_hole->finalDepth) return;
        constexpr double kDriven = 0.5; // metres
        const double end = m_hole->finalDepth->metres;
        const auto check = [&](const char* what, const char* group, const char* heading, const auto& list, const auto& depthOf) {
            std::size_t below = 0;
            double deepest = 0;
            for (const auto& item : list)
                if (const double depth = depthOf(item).metres; depth > end + kDriven + kSlack)
                    ++below, deepest = std::max(deepest, depth);
            if (below > 0)
                add("FC-BELOW-END", m_hole->line, group, heading,
                    fmt::format("{} below the final depth of {:.2f} m, at {:.2f} m{}.", what, end, deepest,
                                below > 1 ? fmt::format(" and {} more", below - 1) : ""));
        };
        check("A sample is", "SAMP", "SAMP_TOP", m_hole->samples, [](const Sample& s) { return s.top; });
        check("A standard penetration test is", "ISPT", "ISPT_TOP", m_hole->blowCounts,
              [](const BlowCount& b) { return b.depth; });
        check("A water strike is", "WSTG", "WSTG_DPTH", m_hole->strikes, [](const WaterStrike& w) { return w.depth; });
    }

    /// 0 is horizontal and 90 straight down. The first station that is neither usual nor likely is said.
    void checkPath() {
        const auto odd =
            std::ranges::find_if(m_hole->stations, [](const PathStation& s) { return s.inclination <= 0 || s.inclination > 90; });
        if (odd == m_hole->stations.end()) return;
        const Remedy exclude{"Exclude this one from surfaces", ExcludeHole{*m_name}};
        auto& found = add("FC-PATH", odd->line > 0 ? odd->line : m_hole->line, "HORN", "HORN_INCL",
                          odd->inclination == 0
                              ? fmt::format("The hole is horizontal at {:.2f} m, as its inclination is 0, where 90 is straight "
                                            "down. It may have been measured from the vertical.",
                                            odd->depth.metres)
                              : fmt::format("The hole rises at {:.2f} m, as its inclination is {:g} where 90 is straight down: "
                                            "correct it, or exclude the hole.",
                                            odd->depth.metres, odd->inclination));
        const bool fromVertical =
            std::ranges::all_of(m_hole->stations, [](const PathStation& s) { return s.inclination >= 0 && s.inclination <= 90; });
        found.remedy = fromVertical ? Remedy{"They were measured from the vertical", MeasureFromVertical{*m_name}} : exclude;
        if (fromVertical) found.others = {exclude};
    }

    void checkIntervals() {
        const auto say = [&](const char* rule, int line, std::string words) -> Finding& {
            return add(rule, line, "GEOL", "GEOL_BASE", std::move(words));
        };
        if (m_hole->intervals.empty() && !m_hole->soundings.empty()) return; // a sounding brings no samples up
        if (m_hole->intervals.empty()) {
            say("FC-LOG", m_hole->line, "The hole has no geology: it says nothing about any unit.");
            return;
        }
        const Interval* before = nullptr;
        for (const auto& i : m_hole->intervals) {
            if (!i.usable()) {
                say("FC-UPSIDE-DOWN", i.line,
                    fmt::format("The interval from {:.2f} m to {:.2f} m has its base at or above its top; it is left out.",
                                i.top.metres, i.base.metres));
                continue;
            }
            const double top = i.top.metres, end = before ? before->base.metres : 0;
            if (before && top < end - kSlack)
                say("FC-OVERLAP", i.line,
                    fmt::format("The interval from {:.2f} m overlaps the one above, which ends at {:.2f} m.", top, end));
            else if (top > end + kSlack)
                say("FC-GAP", i.line, fmt::format("Nothing is logged from {:.2f} m to {:.2f} m, above this interval.", end, top))
                    .remedy = Remedy{before ? "Close it: the one above goes on" : "Close it: this one begins at 0",
                                     CloseGapAbove{*m_name, i.top}};
            before = &i;
        }
    }

    /// Holes on one spot under different names: the same hole twice, as often as not.
    void checkTwins() {
        constexpr double kSpot = 0.1; // metres
        std::unordered_map<std::int64_t, std::vector<std::size_t>> cells;
        const auto cell = [](double x, double y) { return std::int64_t(std::floor(x)) * 4000037 + std::int64_t(std::floor(y)); };
        for (std::size_t i = 0; i < m_holes.size(); ++i) {
            const auto p = m_holes[i].place();
            constexpr double kOnEarth = 1e9; // metres; other numbers are said by the check of places, and have no cell
            if (!p || std::abs(p->x) > kOnEarth || std::abs(p->y) > kOnEarth) continue;
            std::optional<std::size_t> twin;
            for (const double dx : {-kSpot, kSpot})
                for (const double dy : {-kSpot, kSpot})
                    if (const auto at = cells.find(cell(p->x + dx, p->y + dy)); at != cells.end())
                        for (const auto other : at->second)
                            if (!twin && distance(*p, *m_holes[other].place()) < kSpot) twin = other;
            if (twin) {
                m_hole = &m_holes[i], m_name = &m_names[i];
                add("FC-TWIN", m_hole->line, "LOCA", "LOCA_ID",
                    fmt::format("The hole stands within {:.1f} m of {}: it may be the same hole twice.", kSpot, m_names[*twin]))
                    .remedy = Remedy{"Exclude this one from surfaces", ExcludeHole{*m_name}};
            }
            cells[cell(p->x, p->y)].push_back(i);
        }
    }

    const Holes& m_holes;
    const std::set<std::string>& m_edition3; ///< names of files
    std::vector<std::string> m_names;
    const Hole* m_hole = nullptr;
    const std::string* m_name = nullptr;
    HoleSpread m_spread;
    std::set<std::string> m_swappedFiles;
    double m_level = 0; ///< the median
    Findings m_out;
};

} // namespace

HoleSpread::HoleSpread(const Holes& holes) {
    std::vector<double> x, y, away;
    for (const auto& h : holes)
        if (const auto p = h.place()) x.push_back(p->x), y.push_back(p->y);
    m_placed = x.size();
    m_middle = {median(x), median(y)};
    for (std::size_t i = 0; i < x.size(); ++i) away.push_back(distance({x[i], y[i]}, m_middle));
    m_spread = median(std::move(away));
}

double HoleSpread::fromMiddle(Point2 p) const { return distance(p, m_middle); }

bool HoleSpread::isFarOff(Point2 p) const {
    constexpr double kTimes = 20, kLeast = 2000; // metres
    return m_placed >= 3 && fromMiddle(p) >= std::max(kLeast, kTimes * m_spread);
}

Findings checkHoles(const Holes& holes, const std::set<std::string>& edition3) { return Checker(holes, edition3).check(); }

} // namespace fox
