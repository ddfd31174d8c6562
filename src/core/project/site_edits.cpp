#include "project/site_edits.h"

#include "base/errors.h"
#include "ground/area.h"
#include "project/json.h"

namespace fox {

Edited setSiteLimit(const Project& project, const Polygon2& ring) {
    if (!ring.empty() && (ring.size() < 3 || Area(ring).rings().empty()))
        throw Error("A site limit needs three corners that are not in line.");
    auto site = *project.site;
    site.limit = ring;
    Edited e{project, ring.empty() ? "No site limit" : "Site limit"};
    e.project.site = part(std::move(site));
    return e;
}

Edited setSiteLimitFrom(const Project& project, const GroundSources::Outline& outline) {
    auto e = setSiteLimit(project, outline.ring);
    if (outline.holes.empty()) return e;
    auto ground = *e.project.ground;
    for (std::size_t i = 0; i < outline.holes.size(); ++i)
        ground.outlines.push_back({outline.name + ", hole " + std::to_string(i + 1), outline.file, outline.holes[i],
                                   GroundSources::Outline::Use::Island});
    e.project.ground = part(std::move(ground));
    return e;
}

Edited setFrame(const Project& project, std::optional<Frame> frame) {
    if (frame) frame = siteFrameOf(toJson(*frame)); // the same checks as a build file's
    auto site = *project.site;
    site.frame = frame;
    Edited e{project, frame ? "Extent of the site" : "Extent from what there is"};
    e.project.site = part(std::move(site));
    return e;
}

Edited changeFrame(const Project& project, const std::function<void(Frame&)>& change) {
    auto frame = frameOf(project);
    if (!frame) throw Error("There is no extent yet: import holes or ground first.");
    change(*frame);
    return setFrame(project, frame);
}

Edited setFrameEdge(const Project& project, double Frame::*edge, double metres) {
    return changeFrame(project, [&](Frame& f) {
        const double width = f.xmax - f.xmin, height = f.ymax - f.ymin;
        f.*edge = metres;
        if (f.xmin >= f.xmax) edge == & Frame::xmin ? f.xmax = f.xmin + width : f.xmin = f.xmax - width;
        if (f.ymin >= f.ymax) edge == & Frame::ymin ? f.ymax = f.ymin + height : f.ymin = f.ymax - height;
    });
}

} // namespace fox
