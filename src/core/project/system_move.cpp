#include "base/errors.h"
#include "formats/crs.h"
#include "formats/raster.h"
#include "project/site_edits.h"

#include <fmt/format.h>

// Every coordinate that a project holds, part by part. Levels stay. Frames and grids become upright in the new system: a frame
// is the box around its turned corners, a grid is sampled again.
namespace fox {

namespace {

class Mover {
public:
    Mover(std::string from, std::string to) : m_change(from, to), m_from(std::move(from)), m_to(std::move(to)) {}

    Point2 operator()(Point2 p) const {
        const auto moved = m_change.forward(p);
        if (!moved)
            throw Error(fmt::format("E {:.2f} N {:.2f} lies where {} does not reach: nothing was moved.", p.x, p.y, m_to));
        return *moved;
    }
    Point3 operator()(const Point3& p) const {
        const auto moved = (*this)(p.plan());
        return {moved.x, moved.y, p.z};
    }
    template <typename T>
    std::vector<T> operator()(std::vector<T> all) const {
        for (auto& p : all) p = (*this)(p);
        return all;
    }
    Frame operator()(const Frame& f) const {
        Box2 box;
        for (const auto& corner : {Point2{f.xmin, f.ymin}, {f.xmax, f.ymin}, {f.xmin, f.ymax}, {f.xmax, f.ymax}})
            box.include((*this)(corner));
        return {box.xmin, box.ymin, box.xmax, box.ymax, f.cell};
    }
    std::shared_ptr<const Grid> operator()(const std::shared_ptr<const Grid>& grid) const {
        return grid ? std::make_shared<const Grid>(movedGrid(*grid, m_from, m_to)) : nullptr;
    }

private:
    CoordinateChange m_change;
    std::string m_from, m_to;
};

Part<Holes> movedHoles(const Holes& holes, const Mover& move) {
    Holes out;
    for (auto hole : holes) {
        if (const auto place = hole.place()) {
            const auto to = move(*place);
            hole.easting = to.x, hole.northing = to.y;
        }
        out.push_back(std::move(hole));
    }
    return part(std::move(out));
}

GroundSources moved(GroundSources ground, const Mover& move) {
    for (auto& source : ground.points) {
        auto points = *source.points;
        for (auto& p : points) p.place = move(p.place);
        source.points = std::move(points);
    }
    for (auto& source : ground.lines) {
        auto lines = *source.lines;
        for (auto& l : lines) l = move(l);
        source.lines = std::move(lines);
    }
    for (auto& raster : ground.rasters) raster.grid = move(raster.grid);
    for (auto& outline : ground.outlines) {
        outline.ring = move(outline.ring);
        for (auto& hole : outline.holes) hole = move(hole);
    }
    for (auto& edit : ground.edits) edit.a = move(edit.a), edit.b = edit.kind == TinEdit::Kind::SwapEdge ? move(edit.b) : edit.b;
    return ground;
}

std::vector<ContactSource> moved(std::vector<ContactSource> sources, const Mover& move) {
    for (auto& source : sources) {
        auto points = *source.points;
        for (auto& p : points)
            if (p.hole.empty()) p.place = move(p.place);
        source.points = std::move(points);
    }
    return sources;
}

/// A picture goes with its control points; its own georeference is carried by three of its corners.
PlacedPicture moved(PlacedPicture picture, const Mover& move) {
    if (!picture.placed) return picture;
    for (auto& mark : picture.marks) mark.place = move(mark.place);
    constexpr double kFar = 1000; // pixels
    const auto origin = move(picture.placing.toPlan({0, 0})), right = move(picture.placing.toPlan({kFar, 0})),
               down = move(picture.placing.toPlan({0, kFar}));
    picture.placing = {origin.x, (right.x - origin.x) / kFar, (down.x - origin.x) / kFar,
                       origin.y, (right.y - origin.y) / kFar, (down.y - origin.y) / kFar};
    return picture;
}

Sequence moved(Sequence sequence, const Mover& move) {
    for (auto& unit : sequence.units) {
        for (auto& outline : unit.outlines) {
            outline.ring = move(outline.ring);
            for (auto& hole : outline.holes) hole = move(hole);
        }
        if (unit.recipe.grid) unit.recipe.grid = move(*unit.recipe.grid);
    }
    return sequence;
}

Interpretation moved(Interpretation own, const Mover& move) {
    for (auto& guide : own.guides) guide.line = move(guide.line);
    for (auto& mark : own.presence) mark.area = move(mark.area);
    for (auto& fault : own.faults) fault.fault.line = move(fault.fault.line);
    return own;
}

/// Files stay as they are; what was taken to be in the project's system is in the old one.
std::vector<SourceFile> moved(std::vector<SourceFile> files, const Mover& move, const std::string& from) {
    for (auto& file : files) {
        if (file.settings.crs.empty()) file.settings.crs = from;
        file.settings.keep = move(file.settings.keep);
        if (auto& local = file.settings.localGrid)
            local->a.national = move(local->a.national), local->b.national = move(local->b.national);
    }
    return files;
}

template <typename T>
std::vector<T> movedAll(std::vector<T> all, const std::function<void(T&)>& move) {
    for (auto& one : all) move(one);
    return all;
}

} // namespace

Edited moveToSystem(const Project& project, const std::string& crs) {
    auto e = setSystem(project, crs);
    const auto from = project.site->crs, to = e.project.site->crs;
    if (from.empty() || to.empty()) throw Error("Data can be moved only from one coordinate system to another.");
    const Mover move(from, to);
    auto site = *e.project.site;
    site.limit = move(site.limit);
    if (site.frame) site.frame = move(*site.frame);
    auto& p = e.project;
    p.site = part(std::move(site));
    p.files = part(moved(*p.files, move, from));
    p.holes = movedHoles(*p.holes, move);
    p.ground = part(moved(*p.ground, move));
    p.pictures = part(movedAll<PlacedPicture>(*p.pictures, [&](PlacedPicture& picture) { picture = moved(picture, move); }));
    p.background = part(movedAll<BackgroundLines>(*p.background, [&](BackgroundLines& b) {
        auto lines = *b.lines;
        for (auto& l : lines) l = move(l);
        b.lines = std::move(lines);
    }));
    p.contactPoints = part(moved(*p.contactPoints, move));
    p.valuePoints = part(movedAll<ValueSource>(*p.valuePoints, [&](ValueSource& source) {
        auto points = *source.points;
        for (auto& v : points) v.place = move(v.place);
        source.points = std::move(points);
    }));
    p.sequence = part(moved(*p.sequence, move));
    p.interpretation = part(moved(*p.interpretation, move));
    auto fixed = *p.fixedBases;
    for (auto& [code, base] : fixed) base.levels = move(base.levels);
    p.fixedBases = part(std::move(fixed));
    p.sections = part(movedAll<SectionLine>(*p.sections, [&](SectionLine& s) { s.line = move(s.line); }));
    p.namedSurfaces = part(movedAll<NamedSurface>(*p.namedSurfaces, [&](NamedSurface& s) {
        auto points = *s.points;
        for (auto& q : points) q = move(q);
        s.points = std::move(points);
        if (s.grid) s.grid = move(s.grid);
    }));
    p.trialColumns = part(movedAll<TrialColumn>(*p.trialColumns, [&](TrialColumn& t) { t.place = move(t.place); }));
    e.label = fmt::format("Move all data from {} to {}", from, to);
    return e;
}

} // namespace fox
