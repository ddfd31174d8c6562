#include "holes/hole.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
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
    for (const auto& c : curves)
        if (c.readings && !c.readings->empty()) deepest = std::max(deepest, Depth{c.readings->back().depth});
    return deepest;
}

bool Curve::operator==(const Curve& o) const {
    if (name != o.name || unit != o.unit || words != o.words || single != o.single || push != o.push || written != o.written)
        return false;
    if (readings == o.readings) return true;
    const auto same = [](const Reading& a, const Reading& b) {
        return a.depth == b.depth && (a.value == b.value || (std::isnan(a.value) && std::isnan(b.value)));
    };
    return readings && o.readings && std::ranges::equal(*readings, *o.readings, same);
}

double BlowCount::forWholeDrive() const {
    constexpr double kWhole = 300; // millimetres
    return penetration && *penetration > 0 ? blows * kWhole / *penetration : blows;
}

std::optional<double> BlowCount::n60() const {
    if (!energyRatio || refused()) return {};
    return blows * *energyRatio / 60;
}

std::string words(const BlowCount& test) {
    if (!test.refused()) return fmt::format("{:g}", test.blows);
    return *test.penetration > 0 ? fmt::format("{:g}/{:g}", test.blows, *test.penetration) : fmt::format(">{:g}", test.blows);
}

bool Hole::inclined() const {
    return std::ranges::any_of(stations, [](const PathStation& s) { return s.inclination < 90; });
}

Holes::Holes(std::initializer_list<Hole> holes) {
    for (const auto& h : holes) push_back(h);
}

Hole& Holes::change(std::size_t i) {
    auto& hole = m_holes.at(i);
    if (hole.use_count() > 1) hole = std::make_shared<Hole>(*hole);
    return const_cast<Hole&>(*hole); // made by make_shared<Hole>, and this list's alone
}

bool Holes::operator==(const Holes& o) const {
    return std::ranges::equal(m_holes, o.m_holes, [](const auto& a, const auto& b) { return a == b || *a == *b; });
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
    {"CPT", "static cone", HoleKind::Pushed},
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

namespace {
std::string withProject(const Hole& hole) { return fmt::format("{} ({})", hole.id, hole.project); }
} // namespace

std::string displayName(const Holes& holes, const Hole& hole) {
    if (!hole.name.empty()) return hole.name;
    return std::ranges::count(holes, hole.id, &Hole::id) <= 1 ? hole.id : withProject(hole);
}

const Hole* findHole(const Holes& holes, std::string_view name) {
    const Hole* byId = nullptr;
    int ofThatId = 0;
    for (const auto& h : holes) {
        if (h.name == name && !name.empty()) return &h;
        if (h.id == name) byId = &h, ++ofThatId;
    }
    if (byId) return ofThatId == 1 ? byId : nullptr; // of several each is named with its project
    for (const auto& h : holes)
        if (name.size() == h.id.size() + h.project.size() + 3 && name.starts_with(h.id) && displayName(holes, h) == name)
            return &h;
    return nullptr;
}

std::vector<std::string> displayNames(const Holes& holes) {
    std::map<std::string_view, int> times;
    for (const auto& h : holes) ++times[h.id];
    std::vector<std::string> out;
    out.reserve(holes.size());
    for (const auto& h : holes) out.push_back(!h.name.empty() ? h.name : times[h.id] <= 1 ? h.id : withProject(h));
    return out;
}

void giveNames(Holes& holes) {
    std::set<std::string> taken;
    std::map<std::string, int> nameless;
    for (const auto& h : holes) {
        if (h.name.empty())
            ++nameless[h.id];
        else
            taken.insert(h.name);
    }
    for (std::size_t i = 0; i < holes.size(); ++i) {
        const auto& h = holes[i];
        if (!h.name.empty()) continue;
        auto name = nameless[h.id] > 1 || taken.contains(h.id) ? withProject(h) : h.id;
        const auto wanted = name;
        for (int n = 2; !taken.insert(name).second; ++n) name = fmt::format("{}, {}", wanted, n);
        holes.change(i).name = std::move(name);
    }
}

std::vector<UnitHeading> unitHeadings(const Holes& holes) {
    constexpr double kFullEnough = 0.6, kFreeText = 0.5;
    struct Use {
        int filled = 0;
        std::set<std::string_view> codes;
    };
    std::map<std::string_view, Use> uses;
    int all = 0;
    for (const auto& hole : holes)
        for (const auto& i : hole.intervals) {
            ++all;
            for (const auto& [heading, code] : i.codes) {
                auto& use = uses[heading];
                ++use.filled;
                use.codes.insert(code);
            }
        }
    std::vector<std::string_view> order{"GEOL_GEOL", "GEOL_GEO2", "GEOL_STAT", "GEOL_LEG"};
    for (const auto& [heading, use] : uses)
        if (!std::ranges::count(order, heading)) order.push_back(heading);
    std::vector<UnitHeading> headings;
    for (const auto heading : order) {
        const auto use = uses.find(heading);
        if (use == uses.end()) continue;
        const auto codes = use->second.codes.size();
        if (codes > 12 && double(codes) > kFreeText * use->second.filled) continue;
        headings.push_back({std::string(heading), double(use->second.filled) / all, int(codes)});
    }
    std::ranges::stable_sort(headings, [](const auto& a, const auto& b) {
        const bool fullA = a.filled >= kFullEnough, fullB = b.filled >= kFullEnough;
        return fullA != fullB ? fullA : !fullA && a.filled > b.filled;
    });
    return headings;
}

} // namespace fox
