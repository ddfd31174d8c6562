#include "project/project.h"

namespace fox {

namespace {
template <typename T>
bool same(const Part<T>& a, const Part<T>& b) {
    return a == b || *a == *b; // one part is the same as itself, also where it holds NaN
}
} // namespace

bool sameValue(const Project& a, const Project& b) {
    return a.name == b.name && same(a.site, b.site) && same(a.files, b.files) && same(a.holes, b.holes)
           && same(a.corrections, b.corrections) && same(a.codeNames, b.codeNames) && same(a.ground, b.ground)
           && same(a.contours, b.contours) && same(a.pictures, b.pictures) && same(a.sequence, b.sequence)
           && same(a.interpretation, b.interpretation) && same(a.fixedBases, b.fixedBases) && same(a.sections, b.sections)
           && same(a.trialColumns, b.trialColumns);
}

std::optional<Frame> frameOf(const Project& project) {
    if (project.site->frame) return project.site->frame;
    Box2 box;
    for (const auto& h : *project.holes)
        if (const auto p = h.place()) box.include(*p);
    for (const auto& p : project.site->limit) box.include(p);
    if (box.empty())
        for (const auto& source : project.ground->points)
            for (const auto& p : source.points) box.include(p.place.plan());
    if (box.empty())
        for (const auto& source : project.ground->lines)
            for (const auto& line : source.lines)
                for (const auto& p : line) box.include(p.plan());
    if (box.empty())
        for (const auto& o : project.ground->outlines)
            for (const auto& p : o.ring) box.include(p);
    if (box.empty())
        for (const auto& source : project.ground->rasters) {
            const auto b = source.grid->frame.box();
            box.include({b.xmin, b.ymin});
            box.include({b.xmax, b.ymax});
        }
    if (box.empty()) return {};
    return frameAround(box);
}

} // namespace fox
