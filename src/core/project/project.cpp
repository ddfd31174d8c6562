#include "project/project.h"

#include "holes/hole_checks.h"

namespace fox {

bool sameVersion(const Project& a, const Project& b) { return a.name == b.name && a.parts() == b.parts(); }

bool sameValue(const Project& a, const Project& b) {
    // one part is the same as itself, also where it holds NaN
    const auto same = [](const auto& x, const auto& y) { return x == y || *x == *y; };
    return a.name == b.name
           && std::apply(
               [&](const auto&... ofA) {
                   return std::apply([&](const auto&... ofB) { return (same(ofA, ofB) && ...); }, b.parts());
               },
               a.parts());
}

void shareParts(Project& project, const Project& with) {
    const auto share = [](auto& x, const auto& y) {
        if (*x == *y) x = y;
    };
    std::apply([&](auto&... of) { std::apply([&](const auto&... other) { (share(of, other), ...); }, with.parts()); },
               project.parts());
}

std::optional<Frame> frameOf(const Project& project) {
    if (project.site->frame) return project.site->frame;
    Box2 box;
    const HoleSpread spread(*project.holes); // a wrong coordinate makes no site of 900 km
    for (const auto& h : *project.holes)
        if (const auto p = h.place(); p && !spread.isFarOff(*p)) box.include(*p);
    for (const auto& p : project.site->limit) box.include(p);
    for (const auto& source : project.ground->points)
        if (source.used)
            for (const auto& p : source.points) box.include(p.place.plan());
    for (const auto& source : project.ground->lines)
        if (source.used)
            for (const auto& line : source.lines)
                for (const auto& p : line) box.include(p.plan());
    for (const auto& source : *project.contactPoints)
        if (source.used)
            for (const auto& p : source.points)
                if (p.hole.empty()) box.include(p.place.plan());
    // grids and outlines reach far beyond a site: they count where there is nothing else
    if (box.empty())
        for (const auto& o : project.ground->outlines)
            for (const auto& p : o.ring) box.include(p);
    if (box.empty())
        for (const auto& source : project.ground->rasters) {
            const auto b = source.grid->frame.box();
            box.include({b.xmin, b.ymin});
            box.include({b.xmax, b.ymax});
        }
    if (box.empty())
        for (const auto& source : *project.valuePoints)
            if (source.used)
                for (const auto& p : source.points) box.include(p.place.plan());
    if (box.empty()) return {};
    return frameAround(box);
}

} // namespace fox
