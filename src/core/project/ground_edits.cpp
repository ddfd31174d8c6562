#include "project/ground_edits.h"

#include "base/errors.h"

#include <fmt/format.h>

namespace fox {

namespace {

Edited withGround(const Project& project, GroundSources ground, std::string label) {
    Edited e{project, std::move(label)};
    e.project.ground = part(std::move(ground));
    return e;
}

/// Changes one member of the ground.
template <typename T>
Edited with(const Project& project, T GroundSources::*member, T value, std::string label) {
    auto ground = *project.ground;
    ground.*member = std::move(value);
    return withGround(project, std::move(ground), std::move(label));
}

void checkMetres(double metres) {
    if (!(metres >= 0) || !std::isfinite(metres)) throw Error("A distance can't be negative.");
}

std::string metresOr(double metres, const char* none) { return metres > 0 ? fmt::format("{:g} m", metres) : none; }

std::string shownCode(const std::string& code) { return code.empty() ? "points without a code" : "code " + code; }

std::vector<GroundSources::Outline>::iterator outlineLike(std::vector<GroundSources::Outline>& outlines,
                                                          const GroundSources::Outline& which) {
    const auto at = std::ranges::find_if(outlines, [&](const GroundSources::Outline& o) {
        return o.name == which.name && o.file == which.file && o.ring == which.ring;
    });
    if (at == outlines.end()) throw Error(fmt::format("The outline {} is no longer there.", which.name));
    return at;
}

PlacedPicture& pictureNamed(std::vector<PlacedPicture>& pictures, const std::string& file) {
    const auto at = std::ranges::find(pictures, file, &PlacedPicture::file);
    if (at == pictures.end()) throw Error(fmt::format("There is no picture {} in the project.", file));
    return *at;
}

} // namespace

Edited setSourceUsed(const Project& project, const std::string& file, GroundPart of, bool used) {
    constexpr const char* kWords[] = {"points", "lines", "grid"};
    auto ground = *project.ground;
    int found = 0;
    const auto set = [&](auto& list) {
        for (auto& s : list)
            if (s.file == file) s.used = used, ++found;
    };
    switch (of) {
    case GroundPart::Points: set(ground.points); break;
    case GroundPart::Lines: set(ground.lines); break;
    case GroundPart::Grid: set(ground.rasters); break;
    }
    if (found == 0) throw Error(fmt::format("There is no ground data ({}) of {} in the project.", kWords[int(of)], file));
    return withGround(project, std::move(ground), fmt::format("{} {} ({})", used ? "Use" : "Do not use", file, kWords[int(of)]));
}

Edited removeSource(const Project& project, const std::string& file) {
    auto ground = *project.ground;
    const auto of = [&](const auto& s) { return s.file == file; };
    auto pictures = *project.pictures;
    const auto found = std::erase_if(ground.points, of) + std::erase_if(ground.lines, of) + std::erase_if(ground.rasters, of)
                       + std::erase_if(ground.outlines, of) + std::erase_if(pictures, of);
    auto contacts = *project.contactPoints;
    const auto contactsFound = std::erase_if(contacts, of);
    auto values = *project.valuePoints;
    const auto valuesFound = std::erase_if(values, of);
    auto background = *project.background;
    const auto linesFound = std::erase_if(background, of);
    if (found + contactsFound + valuesFound + linesFound == 0)
        throw Error(fmt::format("There is no ground data, no values and no contacts of {} in the project.", file));
    auto e = withGround(project, std::move(ground), fmt::format("Remove {}", file));
    if (linesFound) e.project.background = part(std::move(background));
    if (contactsFound) e.project.contactPoints = part(std::move(contacts));
    if (valuesFound) e.project.valuePoints = part(std::move(values));
    if (pictures.size() != project.pictures->size()) e.project.pictures = part(std::move(pictures));
    auto files = *project.files;
    std::erase_if(files, [&](const SourceFile& f) { return f.name == file; });
    e.project.files = part(std::move(files));
    return e;
}

Edited changeBackground(const Project& project, const std::string& file, const std::string& layer,
                        const std::function<void(BackgroundLines&)>& change, const std::string& what) {
    auto all = *project.background;
    const auto at = std::ranges::find_if(all, [&](const auto& b) { return b.file == file && b.layer == layer; });
    if (at == all.end()) throw Error(fmt::format("There are no lines of the layer {} of {} in the project.", layer, file));
    change(*at);
    Edited e{project, fmt::format("{}: {}", layer, what)};
    e.project.background = part(std::move(all));
    return e;
}

Edited setCodeUsed(const Project& project, const std::string& code, bool used) {
    auto codes = project.ground->codesOut;
    used ? void(codes.erase(code)) : void(codes.insert(code));
    return with(project, &GroundSources::codesOut, std::move(codes),
                fmt::format("{} {} as ground", used ? "Use" : "Do not use", shownCode(code)));
}

Edited setCodeJoined(const Project& project, const std::string& code, bool joined) {
    auto codes = project.ground->codesJoined;
    joined ? void(codes.insert(code)) : void(codes.erase(code));
    return with(project, &GroundSources::codesJoined, std::move(codes),
                joined ? fmt::format("Join {} as breaklines", code) : fmt::format("No longer join {}", code));
}

Edited setOutlineUse(const Project& project, const GroundSources::Outline& which, GroundSources::Outline::Use use) {
    using Use = GroundSources::Outline::Use;
    auto outlines = project.ground->outlines;
    outlineLike(outlines, which)->use = use;
    const auto& name = which.name;
    auto label = use == Use::Limit    ? fmt::format("No ground outside {}", name)
                 : use == Use::Island ? fmt::format("No ground inside {}", name)
                                      : fmt::format("{} does not limit the ground", name);
    return with(project, &GroundSources::outlines, std::move(outlines), std::move(label));
}

Edited addOutline(const Project& project, const std::string& name, const Polygon2& ring, GroundSources::Outline::Use use) {
    if (ring.size() < 3) throw Error("An outline needs three corners.");
    auto outlines = project.ground->outlines;
    outlines.push_back({name, "", ring, use});
    return with(project, &GroundSources::outlines, std::move(outlines), fmt::format("Draw {}", name));
}

Edited addBreakline(const Project& project, const Polyline3& line) {
    if (line.size() < 2) throw Error("A breakline needs two corners.");
    auto ground = *project.ground;
    auto at = std::ranges::find(ground.lines, kDrawnLines, &GroundSources::Lines::file);
    if (at == ground.lines.end()) at = ground.lines.insert(at, {kDrawnLines, LineRole::Breaklines, {}, true});
    auto lines = *at->lines;
    lines.push_back(line);
    at->lines = std::move(lines);
    Edited e{project, "Draw a breakline"};
    e.project.ground = part(std::move(ground));
    return e;
}

Edited removeOutline(const Project& project, const GroundSources::Outline& which) {
    auto outlines = project.ground->outlines;
    outlines.erase(outlineLike(outlines, which));
    return with(project, &GroundSources::outlines, std::move(outlines), fmt::format("Take out {}", which.name));
}

Edited mend(const Project& project, const TinEdit& edit) {
    auto edits = project.ground->edits;
    using Kind = TinEdit::Kind;
    if (edit.kind == Kind::LeaveOut || edit.kind == Kind::SetLevel)
        std::erase_if(edits, [&](const TinEdit& e) {
            return (e.kind == Kind::LeaveOut || e.kind == Kind::SetLevel) && distance(e.a, edit.a) <= kSamePlace;
        });
    edits.push_back(edit);
    const auto where = fmt::format("at E {:.2f} N {:.2f}", edit.a.x, edit.a.y);
    const auto label = edit.kind == Kind::LeaveOut   ? fmt::format("Leave out the point {}", where)
                       : edit.kind == Kind::SetLevel ? fmt::format("Level {:.2f} m {}", edit.level, where)
                       : edit.kind == Kind::SwapEdge ? fmt::format("Flip the edge {}", where)
                                                     : fmt::format("Remove the triangle {}", where);
    return with(project, &GroundSources::edits, std::move(edits), label);
}

Edited removeMending(const Project& project, const TinEdit& which) {
    auto edits = project.ground->edits;
    const auto at = std::ranges::find(edits, which);
    if (at == edits.end()) throw Error("That manual edit of the ground is no longer there.");
    edits.erase(at);
    return with(project, &GroundSources::edits, std::move(edits), "Remove a manual edit");
}

Edited setHoleLevels(const Project& project, bool used) {
    return with(project, &GroundSources::holeLevels, used, used ? "Use levels of holes" : "Do not use levels of holes");
}

Edited setMendFlats(const Project& project, bool mends) {
    return with(project, &GroundSources::mendFlats, mends,
                mends ? "Remove flat triangles between contours" : "Leave flat triangles between contours");
}

Edited setCutAtOutlines(const Project& project, bool cut) {
    return with(project, &GroundSources::cutAtOutlines, cut, cut ? "Triangles follow outlines" : "Outlines hide what is beyond");
}

Edited setReach(const Project& project, double metres) {
    checkMetres(metres);
    return with(project, &GroundSources::reach, metres, "Lines find levels within " + metresOr(metres, "any distance"));
}

Edited setLongestEdge(const Project& project, double metres) {
    checkMetres(metres);
    return with(project, &GroundSources::longestEdge, metres,
                metres > 0 ? fmt::format("No outer edges over {:g} m", metres) : "Outer edges of any length");
}

Edited setBlend(const Project& project, double metres) {
    checkMetres(metres);
    return with(project, &GroundSources::blend, metres, fmt::format("Blend grids over {:g} m", metres));
}

Edited changeContours(const Project& project, const std::function<void(ContourChoices&)>& change) {
    auto choices = *project.contours;
    change(choices);
    if (!(choices.interval >= 0) || choices.majorEvery < 1) throw Error("The contour interval must be more than 0 m.");
    Edited e{project,
             choices.interval > 0 ? fmt::format("Contours every {:g} m", choices.interval) : "Contours at an automatic interval"};
    e.project.contours = part(choices);
    return e;
}

Edited changePicture(const Project& project, const std::string& file, const std::function<void(PlacedPicture&)>& change) {
    auto pictures = *project.pictures;
    change(pictureNamed(pictures, file));
    Edited e{project, fmt::format("Picture {}", file)};
    e.project.pictures = part(std::move(pictures));
    return e;
}

Edited placePicture(const Project& project, const std::string& file, const std::vector<ControlPoint>& marks) {
    auto pictures = *project.pictures;
    auto& picture = pictureNamed(pictures, file);
    picture.placing = fitGeoreference(marks).placing;
    picture.marks = marks;
    picture.placed = true;
    Edited e{project, fmt::format("Place {} by {} control points", file, marks.size())};
    e.project.pictures = part(std::move(pictures));
    return e;
}

} // namespace fox
