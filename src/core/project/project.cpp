#include "project/project.h"

namespace fox {

bool sameValue(const Project& a, const Project& b) {
    return a.name == b.name && *a.site == *b.site && *a.files == *b.files && *a.holes == *b.holes && *a.codeNames == *b.codeNames
           && *a.ground == *b.ground && *a.sequence == *b.sequence && *a.sections == *b.sections;
}

std::optional<Frame> frameOf(const Project& project) {
    if (project.site->frame) return project.site->frame;
    Box2 box;
    for (const auto& h : *project.holes)
        if (const auto p = h.place()) box.include(*p);
    for (const auto& p : project.site->limit) box.include(p);
    if (box.empty())
        for (const auto& source : project.ground->points)
            for (const auto& p : source.points) box.include(p.plan());
    if (box.empty()) return {};
    return frameAround(box);
}

} // namespace fox
