#include "holes/hole.h"

#include <fmt/format.h>
#include <set>

namespace fox {

std::optional<Point2> Hole::place() const {
    if (!easting || !northing || (*easting == 0 && *northing == 0)) return {};
    return Point2{*easting, *northing};
}

Depth Hole::end() const {
    Depth deepest = finalDepth.value_or(Depth{});
    for (const auto& i : intervals)
        if (i.usable()) deepest = std::max(deepest, i.base);
    return deepest;
}

bool Hole::inclined() const {
    return std::ranges::any_of(stations, [](const PathStation& s) { return s.inclination < 90; });
}

namespace {
struct TypeWords {
    const char* code;
    const char* words;
    HoleKind kind;
};
constexpr TypeWords kTypes[] = {
    {"RC", "rotary cored", HoleKind::Drilled},
    {"RO", "rotary open hole", HoleKind::Drilled},
    {"CP", "cable percussion", HoleKind::Drilled},
    {"CP+RC", "cable percussion, cored below", HoleKind::Drilled},
    {"SNC", "sonic", HoleKind::Drilled},
    {"IP", "inspection pit", HoleKind::Dug},
    {"TP", "trial pit", HoleKind::Dug},
    {"TRCH", "trench", HoleKind::Dug},
    {"WLS", "window sample", HoleKind::Pushed},
    {"WS", "window sample", HoleKind::Pushed},
    {"DP", "dynamic probe", HoleKind::Pushed},
    {"SCP", "static cone", HoleKind::Pushed},
    {"HA", "hand auger", HoleKind::Drilled},
};
const TypeWords* typeOf(const std::string& code) {
    for (const auto& t : kTypes)
        if (code == t.code) return &t;
    return nullptr;
}
} // namespace

HoleKind kindOf(const Hole& hole) {
    const auto* type = typeOf(hole.type);
    return type ? type->kind : HoleKind::Other;
}

const char* words(HoleKind kind) {
    switch (kind) {
    case HoleKind::Drilled: return "drilled";
    case HoleKind::Dug: return "dug";
    case HoleKind::Pushed: return "pushed";
    case HoleKind::Other: break;
    }
    return "other";
}

std::string typeInWords(const std::string& code) {
    const auto* type = typeOf(code);
    return type ? type->words : code.empty() ? "kind not given" : code;
}

std::string displayName(const Holes& holes, const Hole& hole) {
    const bool alone = std::ranges::count(holes, hole.id, &Hole::id) <= 1;
    return alone ? hole.id : fmt::format("{} ({})", hole.id, hole.project);
}

const Hole* findHole(const Holes& holes, std::string_view name) {
    for (const auto& h : holes)
        if (displayName(holes, h) == name) return &h;
    return nullptr;
}

std::vector<UnitHeading> unitHeadings(const Holes& holes) {
    constexpr double kFullEnough = 0.6;
    std::vector<UnitHeading> headings;
    for (const char* heading : {"GEOL_GEOL", "GEOL_GEO2", "GEOL_STAT", "GEOL_LEG"}) {
        int all = 0, filled = 0;
        std::set<std::string> codes;
        for (const auto& hole : holes)
            for (const auto& i : hole.intervals) {
                ++all;
                if (const auto code = i.codes.find(heading); code != i.codes.end()) {
                    ++filled;
                    codes.insert(code->second);
                }
            }
        if (filled > 0) headings.push_back({heading, double(filled) / all, int(codes.size())});
    }
    std::ranges::stable_sort(headings, [](const auto& a, const auto& b) {
        const bool fullA = a.filled >= kFullEnough, fullB = b.filled >= kFullEnough;
        return fullA != fullB ? fullA : !fullA && a.filled > b.filled;
    });
    return headings;
}

namespace {

void checkPlace(const Holes& holes, const Hole& hole, Findings& out) {
    const auto add = [&](const char* rule, std::string heading, std::string words) {
        out.push_back({Severity::Error, rule, hole.file, hole.line, "LOCA", std::move(heading), displayName(holes, hole),
                       std::move(words)});
    };
    if (hole.easting == 0.0 && hole.northing == 0.0)
        add("FC-PLACE", "LOCA_NATE", "The hole lies at 0, 0: it is left out of every surface until it has a place.");
    else if (!hole.place())
        add("FC-PLACE", "LOCA_NATE", "The hole has no coordinates: it is left out of every surface until it has a place.");
    if (!hole.level)
        add("FC-LEVEL", "LOCA_GL", "The hole has no ground level: it is left out of every surface until it has one.");
}

void checkIntervals(const Holes& holes, const Hole& hole, Findings& out) {
    const auto add = [&](const char* rule, int line, std::string words) {
        out.push_back(
            {Severity::Warning, rule, hole.file, line, "GEOL", "GEOL_BASE", displayName(holes, hole), std::move(words)});
    };
    if (hole.intervals.empty()) add("FC-LOG", hole.line, "The hole has no geology: it says nothing about any unit.");
    std::optional<Depth> before;
    for (const auto& i : hole.intervals) {
        if (!i.usable()) {
            add("FC-UPSIDE-DOWN", i.line,
                fmt::format("The interval from {:.2f} m to {:.2f} m has its base at or above its top; it is left out.",
                            i.top.metres, i.base.metres));
            continue;
        }
        constexpr double kSlack = 0.0005; // metres; depths are given to the centimetre at best
        if (before && i.top.metres < before->metres - kSlack)
            add("FC-OVERLAP", i.line,
                fmt::format("The interval from {:.2f} m overlaps the one above, which ends at {:.2f} m.", i.top.metres,
                            before->metres));
        if (hole.finalDepth && i.base.metres > hole.finalDepth->metres + kSlack)
            add("FC-BELOW-END", i.line,
                fmt::format("The interval ends at {:.2f} m, below the final depth of {:.2f} m.", i.base.metres,
                            hole.finalDepth->metres));
        before = i.base;
    }
}

} // namespace

Findings checkHoles(const Holes& holes) {
    Findings out;
    for (const auto& hole : holes) {
        checkPlace(holes, hole, out);
        checkIntervals(holes, hole, out);
    }
    return out;
}

} // namespace fox
