#include "project/project_lines.h"

#include "base/errors.h"
#include "base/text.h"
#include "project/ground_edits.h"
#include "project/interval_edits.h"
#include "project/site_edits.h"

#include <fmt/format.h>

namespace fox {

namespace {

using Kind = ProjectLine::Kind;

Polyline3 unlevelled(const Polyline2& line) {
    Polyline3 out;
    for (const auto& p : line) out.push_back({p.x, p.y, kNoValue});
    return out;
}
Polyline2 flat(const Polyline3& line) {
    Polyline2 out;
    for (const auto& p : line) out.push_back(p.plan());
    return out;
}

double planLength(const Polyline3& line) {
    double sum = 0;
    for (std::size_t i = 1; i < line.size(); ++i) sum += distance(line[i - 1].plan(), line[i].plan());
    return sum;
}

void checkCorners(const ProjectLine& line, const Polyline3& corners) {
    for (const auto& p : corners) {
        if (!std::isfinite(p.x) || !std::isfinite(p.y)) throw Error("A corner needs an easting and a northing.");
        if (line.hasLevels() && !std::isfinite(p.z)) throw Error("A corner of this line needs a level.");
    }
    const std::size_t least = line.kind == Kind::Guide || line.kind == Kind::Presence ? 1 : line.isClosed() ? 3 : 2;
    if (corners.size() < least || (line.kind == Kind::Presence && corners.size() == 2))
        throw Error(fmt::format("The {} would have {}; it needs {} at least.", describe(line), counted(corners.size(), "corner"),
                                line.isClosed() ? 3 : least));
    if (corners.size() > 1 && !(planLength(corners) > 0))
        throw Error(fmt::format("The {} would have no length.", describe(line)));
}

/// Everything that lines are read from and written to, so that a kind is one case and not one in each edit.
class Lines {
public:
    explicit Lines(const Project& project) : m_project(project) {}

    /// Calls with each line; where that gives corners, the line takes them; an empty list removes it.
    template <typename Visit>
    Project changed(Visit&& visit) const {
        auto out = m_project;
        auto sections = *out.sections;
        if (each(
                sections, Kind::Section, [](auto& s) -> auto& { return s.line; }, [](auto& s) { return s.name; }, visit))
            out.sections = part(std::move(sections));
        auto own = *out.interpretation;
        bool any = each(
            own.faults, Kind::Fault, [](auto& f) -> auto& { return f.fault.line; }, [](auto& f) { return f.fault.name; }, visit);
        any |= each(
            own.guides, Kind::Guide, [](auto& g) -> auto& { return g.line; }, [](auto& g) { return g.unit; }, visit);
        any |= each(
            own.presence, Kind::Presence, [](auto& m) -> auto& { return m.area; }, [](auto& m) { return m.unit; }, visit);
        if (any) out.interpretation = part(std::move(own));
        auto ground = *out.ground;
        any = each(
            ground.outlines, Kind::Outline, [](auto& o) -> auto& { return o.ring; }, [](auto& o) { return o.name; }, visit);
        for (auto& source : ground.lines) {
            if (source.file != kDrawnLines) continue;
            auto lines = *source.lines;
            if (each(
                    lines, Kind::Breakline, [](auto& l) -> auto& { return l; }, [&](auto&) { return source.file; }, visit)) {
                source.lines = std::move(lines);
                any = true;
            }
        }
        std::erase_if(ground.lines, [](const auto& s) { return s.file == kDrawnLines && s.lines.empty(); });
        if (any) out.ground = part(std::move(ground));
        auto limit = std::vector<Polygon2>{out.site->limit};
        if (out.site->limit.empty()) limit.clear();
        if (each(
                limit, Kind::SiteLimit, [](auto& l) -> auto& { return l; }, [](auto&) { return std::string(); }, visit)) {
            auto site = *out.site;
            site.limit = limit.empty() ? Polygon2{} : limit.front();
            out.site = part(std::move(site));
        }
        return out;
    }

private:
    static Polyline3 raisedAs(const Polyline3& line) { return line; }
    static Polyline3 raisedAs(const Polyline2& line) { return unlevelled(line); }
    static void take(Polyline3& to, const Polyline3& from) { to = from; }
    static void take(Polyline2& to, const Polyline3& from) { to = flat(from); }

    template <typename T, typename LineOf, typename NameOf, typename Visit>
    static bool each(std::vector<T>& all, Kind kind, LineOf&& lineOf, NameOf&& nameOf, Visit& visit) {
        bool any = false;
        for (std::size_t i = 0; i < all.size();) {
            const ProjectLine line{kind, nameOf(all[i]), raisedAs(lineOf(all[i]))};
            const std::optional<Polyline3> now = visit(line);
            any |= now.has_value();
            if (now && now->empty()) {
                all.erase(all.begin() + std::ptrdiff_t(i));
                continue;
            }
            if (now) take(lineOf(all[i]), *now);
            ++i;
        }
        return any;
    }

    const Project& m_project;
};

/// Units that do not leave an outline have its ring: the new one takes its place. One that is gone stays theirs.
void followOutline(Project& project, const Polygon2& was, const Polygon2& now) {
    if (now.empty()) return;
    auto sequence = *project.sequence;
    bool any = false;
    for (auto& unit : sequence.units)
        for (auto& outline : unit.outlines)
            if (outline.ring == was) outline.ring = now, any = true;
    if (any) project.sequence = part(std::move(sequence));
}

/// The project with the line's corners replaced; none: it is removed.
Project with(const Project& project, const ProjectLine& which, const Polyline3& corners) {
    bool found = false;
    auto out = Lines(project).changed([&](const ProjectLine& line) -> std::optional<Polyline3> {
        if (found || line != which) return {};
        found = true;
        return corners;
    });
    if (!found) throw Error(fmt::format("The {} is no longer as it was; nothing was changed.", describe(which)));
    if (which.kind == Kind::Outline) followOutline(out, flat(which.corners), flat(corners));
    return out;
}

ProjectLine extentLine(const Frame& f) {
    return {Kind::Extent, "", unlevelled({{f.xmin, f.ymax}, {f.xmax, f.ymax}, {f.xmax, f.ymin}, {f.xmin, f.ymin}})};
}

Edited setExtent(const Project& project, const ProjectLine& was, const Polyline3& corners) {
    const auto frame = frameOf(project);
    if (!frame || extentLine(*frame) != was || corners.size() != 4)
        throw Error("The extent is a rectangle, and no longer as it was; nothing was changed.");
    Box2 box;
    std::size_t moved = 0, at = 0;
    for (std::size_t i = 0; i < 4; ++i) {
        box.include(corners[i].plan());
        if (corners[i].plan() != was.corners[i].plan()) at = i, ++moved;
    }
    if (moved == 1) {
        box = {};
        box.include(corners[at].plan());
        box.include(corners[(at + 2) % 4].plan());
    }
    return changeFrame(project, [&](Frame& f) { f.xmin = box.xmin, f.ymin = box.ymin, f.xmax = box.xmax, f.ymax = box.ymax; });
}

/// A copy of what the line is, with other corners, beside it.
Project withCopy(const Project& project, const ProjectLine& which, const Polyline3& corners) {
    auto out = project;
    switch (which.kind) {
    case Kind::Section: return addSection(project, flat(corners)).project;
    case Kind::Fault: {
        auto own = *project.interpretation;
        auto copy = *std::ranges::find_if(own.faults, [&](const UnitFault& f) { return f.fault.name == which.name; });
        copy.fault.line = flat(corners);
        for (int i = 1;; ++i) {
            copy.fault.name = fmt::format("F{}", i);
            if (std::ranges::none_of(own.faults, [&](const UnitFault& f) { return f.fault.name == copy.fault.name; })) break;
        }
        own.faults.push_back(std::move(copy));
        out.interpretation = part(std::move(own));
        return out;
    }
    case Kind::Guide: {
        auto own = *project.interpretation;
        own.guides.push_back({which.name, corners});
        out.interpretation = part(std::move(own));
        return out;
    }
    case Kind::Breakline: {
        auto ground = *project.ground;
        for (auto& source : ground.lines)
            if (source.file == which.name) {
                auto lines = *source.lines;
                lines.push_back(corners);
                source.lines = std::move(lines);
            }
        out.ground = part(std::move(ground));
        return out;
    }
    default: throw Error(fmt::format("The {} is a ring, which can't be split or joined.", describe(which)));
    }
}

} // namespace

bool ProjectLine::operator==(const ProjectLine& o) const {
    const auto same = [](const Point3& a, const Point3& b) {
        return a.plan() == b.plan() && (a.z == b.z || (std::isnan(a.z) && std::isnan(b.z)));
    };
    return kind == o.kind && name == o.name && std::ranges::equal(corners, o.corners, same);
}

const char* words(ProjectLine::Kind kind) {
    switch (kind) {
    case Kind::Section: return "section line";
    case Kind::Fault: return "fault";
    case Kind::Guide: return "guide of the base of";
    case Kind::Breakline: return "breakline";
    case Kind::Outline: return "outline";
    case Kind::SiteLimit: return "site limit";
    case Kind::Presence: return "area of presence of";
    case Kind::Extent: return "extent";
    }
    return "";
}

std::string describe(const ProjectLine& line) {
    if (line.kind == Kind::SiteLimit || line.kind == Kind::Breakline || line.kind == Kind::Extent) return words(line.kind);
    return fmt::format("{} {}", words(line.kind), line.name);
}

std::vector<ProjectLine> linesOf(const Project& project) {
    std::vector<ProjectLine> out;
    (void)Lines(project).changed([&](const ProjectLine& line) -> std::optional<Polyline3> {
        out.push_back(line);
        return {};
    });
    if (const auto frame = frameOf(project)) out.push_back(extentLine(*frame));
    return out;
}

Edited setCorners(const Project& project, const ProjectLine& line, const Polyline3& corners) {
    if (line.kind == Kind::Extent) return setExtent(project, line, corners);
    checkCorners(line, corners);
    return {with(project, line, corners), fmt::format("Move the {}", describe(line))};
}

Edited removeLine(const Project& project, const ProjectLine& line) {
    if (line.kind == Kind::Extent) return setFrame(project, {});
    return {with(project, line, {}), fmt::format("Remove the {}", describe(line))};
}

Edited reverseLine(const Project& project, const ProjectLine& line) {
    return {with(project, line, {line.corners.rbegin(), line.corners.rend()}), fmt::format("Reverse the {}", describe(line))};
}

Edited splitLine(const Project& project, const ProjectLine& line, std::size_t corner) {
    if (line.isClosed()) throw Error(fmt::format("The {} is a ring, which can't be split or joined.", describe(line)));
    if (corner == 0 || corner + 1 >= line.corners.size()) throw Error("A line is split at a corner between its ends.");
    const auto at = line.corners.begin() + std::ptrdiff_t(corner);
    const Polyline3 first(line.corners.begin(), at + 1), second(at, line.corners.end());
    auto shorter = line;
    shorter.corners = first;
    return {withCopy(with(project, line, first), shorter, second), fmt::format("Split the {}", describe(line))};
}

Edited joinLines(const Project& project, const ProjectLine& first, const ProjectLine& second) {
    if (first.kind != second.kind || (first.kind != Kind::Section && first.name != second.name && first.kind != Kind::Fault))
        throw Error("Only two lines of one kind, and of one unit, can be joined.");
    if (first.isClosed()) throw Error(fmt::format("The {} is a ring, which can't be split or joined.", describe(first)));
    if (first == second) throw Error("A line can't be joined to itself.");
    auto a = first.corners, b = second.corners;
    const auto gap = [](const Point3& p, const Point3& q) { return distance(p.plan(), q.plan()); };
    const double ends[] = {gap(a.back(), b.front()), gap(a.back(), b.back()), gap(a.front(), b.front()),
                           gap(a.front(), b.back())};
    const auto best = std::ranges::min_element(ends) - ends;
    if (best >= 2) std::ranges::reverse(a);
    if (best == 1 || best == 3) std::ranges::reverse(b);
    const bool touch = gap(a.back(), b.front()) < 0.001;
    a.insert(a.end(), b.begin() + (touch ? 1 : 0), b.end());
    if (best >= 2) std::ranges::reverse(a); // the first keeps its direction
    return {with(with(project, second, {}), first, a), fmt::format("Join the {} and the {}", describe(first), describe(second))};
}

Edited addParallelSections(const Project& project, const std::string& name, double each, int left, int right) {
    const auto at = std::ranges::find(*project.sections, name, &SectionLine::name);
    if (at == project.sections->end()) throw Error(fmt::format("There is no section {}.", name));
    if (!(each > 0)) throw Error("The distance between parallel sections has to be above 0 m.");
    if (left < 0 || right < 0 || left + right == 0 || left + right > 500)
        throw Error("Ask for one parallel section at least, and 500 at most.");
    auto sections = *project.sections;
    const auto& from = *at;
    for (int k = -left; k <= right; ++k) {
        if (k == 0) continue;
        SectionLine line = from;
        line.line = offsetLine(from.line, k * each);
        const auto base = fmt::format("{} {}{:g}", name, k > 0 ? "+" : "-", std::abs(k) * each);
        line.name = base;
        for (int n = 2; std::ranges::count(sections, line.name, &SectionLine::name); ++n)
            line.name = fmt::format("{} ({})", base, n);
        sections.push_back(std::move(line));
    }
    Edited e{project, fmt::format("{} parallel to {}", counted(std::size_t(left + right), "section"), name)};
    e.project.sections = part(std::move(sections));
    return e;
}

Polyline2 offsetLine(const Polyline2& given, double metres) {
    Polyline2 line;
    for (const auto& p : given)
        if (line.empty() || distance(line.back(), p) > 0) line.push_back(p);
    if (line.size() < 2) return given;
    const auto rightOf = [&](std::size_t i) { // of the piece from i to i + 1
        const double length = distance(line[i], line[i + 1]);
        return Point2{(line[i + 1].y - line[i].y) / length, (line[i].x - line[i + 1].x) / length};
    };
    Polyline2 out;
    for (std::size_t i = 0; i < line.size(); ++i) {
        const auto before = rightOf(i == 0 ? 0 : i - 1), after = rightOf(i + 1 == line.size() ? i - 1 : i);
        const double dot = before.x * after.x + before.y * after.y;
        constexpr double kSharpest = -0.5; // of the cosine: the mitre reaches twice the distance
        const auto shifted = [&](double x, double y) { return Point2{line[i].x + metres * x, line[i].y + metres * y}; };
        if (dot < kSharpest) {
            out.push_back(shifted(before.x, before.y));
            out.push_back(shifted(after.x, after.y));
        } else {
            out.push_back(shifted((before.x + after.x) / (1 + dot), (before.y + after.y) / (1 + dot)));
        }
    }
    return out;
}

std::optional<SnapTarget> snapTarget(const Project& project, const std::vector<ProjectLine>& lines, const ProjectLine* except,
                                     Point2 p, double within) {
    std::optional<SnapTarget> best;
    double nearest = within;
    const auto offer = [&](Point2 place, const auto& what) {
        if (const double d = distance(place, p); d <= nearest) nearest = d, best = SnapTarget{place, what()};
    };
    const auto& holes = *project.holes;
    for (const auto& h : holes)
        if (const auto place = h.place()) offer(*place, [&] { return displayName(holes, h); });
    if (best) return best;
    for (const auto& line : lines)
        if (!except || line != *except)
            for (const auto& c : line.corners) offer(c.plan(), [&] { return describe(line); });
    if (best) return best;
    for (const auto& line : lines) {
        if (except && line == *except) continue;
        const auto n = line.corners.size();
        for (std::size_t i = 0; i + (line.isClosed() ? 0 : 1) < n; ++i) {
            const auto a = line.corners[i].plan(), b = line.corners[(i + 1) % n].plan();
            const double squared = std::pow(distance(a, b), 2);
            if (!(squared > 0)) continue;
            const double t = std::clamp(((p.x - a.x) * (b.x - a.x) + (p.y - a.y) * (b.y - a.y)) / squared, 0.0, 1.0);
            offer({a.x + t * (b.x - a.x), a.y + t * (b.y - a.y)}, [&] { return describe(line); });
        }
    }
    return best;
}

} // namespace fox
