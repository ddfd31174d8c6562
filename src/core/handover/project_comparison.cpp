#include "handover/project_comparison.h"

#include "paper/colour_scale.h"
#include "project/json.h"

namespace fox {

using nlohmann::json;

namespace {

/// Notes under what name two values differ.
class Differences {
public:
    template <typename T>
    Differences& of(const char* what, const T& a, const T& b) {
        if (!(a == b)) m_what.emplace_back(what);
        return *this;
    }
    std::vector<std::string> take() && { return std::move(m_what); }

private:
    std::vector<std::string> m_what;
};

std::vector<std::string> differencesOf(const Hole& a, const Hole& b) {
    Differences d;
    d.of("position", std::pair(a.easting, a.northing), std::pair(b.easting, b.northing)).of("ground level", a.level, b.level);
    d.of("depth", a.finalDepth, b.finalDepth).of("type", a.type, b.type).of("path", a.stations, b.stations);
    d.of("log", a.intervals, b.intervals).of("standard penetration tests", a.blowCounts, b.blowCounts);
    d.of("samples", a.samples, b.samples).of("core runs", a.coreRuns, b.coreRuns).of("details", a.details, b.details);
    d.of("water", std::pair(a.strikes, a.waterLevels), std::pair(b.strikes, b.waterLevels));
    d.of("installation", a.installations, b.installations).of("soundings", a.soundings, b.soundings);
    d.of("curves and results", a.curves, b.curves).of("excluded from surfaces", a.excluded, b.excluded);
    return std::move(d).take();
}

std::vector<std::string> differencesOf(const Unit& a, const Unit& b) {
    Differences d;
    d.of("name", a.name, b.name).of("colour", a.colour, b.colour).of("sign", a.hatch, b.hatch).of("base", a.base, b.base);
    d.of("logged codes", a.logged, b.logged)
        .of("surface", a.recipe, b.recipe)
        .of("least thickness", a.leastThickness, b.leastThickness);
    d.of("outlines", a.outlines, b.outlines)
        .of("rule where it crosses", a.crossing, b.crossing)
        .of("role for water", a.water, b.water);
    d.of("values", a.values, b.values).of("logging accuracy", a.loggingAccuracy, b.loggingAccuracy).of("floor", a.floor, b.floor);
    return std::move(d).take();
}

void compareHoles(const Holes& before, const Holes& after, ProjectComparison& out) {
    // by what a hole is told from others by: it may be called otherwise once another file has one of its name
    const auto byId = [](const Holes& holes) {
        std::map<std::pair<std::string, std::string>, const Hole*> found;
        for (const auto& h : holes) found[{h.project, h.id}] = &h;
        return found;
    };
    const auto old = byId(before), now = byId(after);
    for (const auto& [id, hole] : old)
        if (!now.contains(id)) out.holesRemoved.push_back(displayName(before, *hole));
    for (const auto& [id, hole] : now) {
        const auto earlier = old.find(id);
        if (earlier == old.end()) {
            out.holesAdded.push_back(displayName(after, *hole));
            continue;
        }
        if (earlier->second == hole) continue; // the very same
        if (auto what = differencesOf(*earlier->second, *hole); !what.empty())
            out.holesChanged.push_back({displayName(after, *hole), std::move(what)});
    }
    std::ranges::sort(out.holesAdded), std::ranges::sort(out.holesRemoved);
    std::ranges::sort(out.holesChanged, {}, &ProjectComparison::Changed::name);
}

void compareUnits(const Sequence& before, const Sequence& after, ProjectComparison& out) {
    std::vector<std::string> kept, keptNow; // in the order that each has
    for (const auto& u : before.units) {
        if (!after.index(u.code))
            out.unitsRemoved.push_back(u.code);
        else
            kept.push_back(u.code);
    }
    for (const auto& u : after.units) {
        const auto earlier = before.index(u.code);
        if (!earlier) {
            out.unitsAdded.push_back(u.code);
            continue;
        }
        keptNow.push_back(u.code);
        if (auto what = differencesOf(before.units[*earlier], u); !what.empty())
            out.unitsChanged.push_back({u.code, std::move(what)});
    }
    out.orderChanged = kept != keptNow;
}

void compareCorrections(const std::vector<Correction>& before, const std::vector<Correction>& after, ProjectComparison& out) {
    for (const auto& c : after)
        if (!std::ranges::count(before, c)) out.correctionsAdded.push_back(c);
    for (const auto& c : before)
        if (!std::ranges::count(after, c)) out.correctionsRemoved.push_back(c);
}

std::string frameInWords(const Project& p) {
    if (!p.site->frame) return "around the data";
    const auto& f = *p.site->frame;
    return fmt::format("E {:.0f} to {:.0f}, N {:.0f} to {:.0f}, cells of {} m", f.xmin, f.xmax, f.ymin, f.ymax, f.cell);
}

void compareSettings(const Project& a, const Project& b, ProjectComparison& out) {
    const auto set = [&](const char* what, const std::string& before, const std::string& after) {
        if (before != after) out.settings.push_back({what, before, after});
    };
    const auto number = [](std::size_t n) { return std::to_string(n); };
    const auto contents = [&](const char* what, const auto& before, const auto& after) { // what has many parts, by their number
        if (!(before == after))
            out.settings.push_back({what, number(before.size()),
                                    before.size() == after.size() ? number(after.size()) + ", changed" : number(after.size())});
    };
    set("project", a.name, b.name);
    set("coordinate system", a.site->crs, b.site->crs);
    set("extent", frameInWords(a), frameInWords(b));
    contents("corners of the site limit", a.site->limit, b.site->limit);
    set("column of the units", a.sequence->unitHeading, b.sequence->unitHeading);
    contents("other spellings of codes", a.sequence->aliases, b.sequence->aliases);
    contents("survey files", a.ground->points, b.ground->points);
    contents("breaklines and contours", a.ground->lines, b.ground->lines);
    contents("ground grids", a.ground->rasters, b.ground->rasters);
    contents("outlines", a.ground->outlines, b.ground->outlines);
    contents("survey codes left out", a.ground->codesOut, b.ground->codesOut);
    contents("ground edits by hand", a.ground->edits, b.ground->edits);
    const auto &in = *a.interpretation, &now = *b.interpretation;
    contents("choices of contacts", in.contacts, now.contacts);
    contents("intervals assigned by hand", in.intervals, now.intervals);
    contents("split intervals", in.splits, now.splits);
    contents("picks", in.picks, now.picks);
    contents("presence marks", in.presence, now.presence);
    contents("guides", in.guides, now.guides);
    contents("faults", in.faults, now.faults);
    contents("fixed bases", *a.fixedBases, *b.fixedBases);
    contents("section lines", *a.sections, *b.sections);
    contents("contacts from elsewhere", *a.contactPoints, *b.contactPoints);
    contents("water surfaces", *a.waterSurfaces, *b.waterSurfaces);
    contents("named surfaces", *a.namedSurfaces, *b.namedSurfaces);
}

void compareBases(const ProductSet& before, const ProductSet& after, ProjectComparison& out) {
    if (!before.modelGrid || !after.modelGrid) return;
    const auto& frame = after.modelGrid->ground.frame;
    const auto old = before.modelGrid->ground.frame == frame ? *before.modelGrid : sampleModel(*before.model, frame);
    for (std::size_t u = 0; u < after.modelGrid->bases.size(); ++u) {
        const auto earlier = before.project.sequence->index(after.project.sequence->units[u].code);
        if (!earlier || *earlier >= old.bases.size()) continue;
        ProjectComparison::Base base{u, 0, 0, {kNoValue, kNoValue}, 0, Grid(frame)};
        for (int r = 0; r < frame.rows(); ++r)
            for (int c = 0; c < frame.columns(); ++c) {
                const double d = after.modelGrid->bases[u].at(c, r) - old.bases[*earlier].at(c, r);
                base.difference.at(c, r) = d;
                if (std::isnan(d)) continue;
                ++base.cells, base.mean += d;
                if (std::abs(d) > std::abs(base.largest)) base.largest = d, base.place = frame.centre(c, r);
            }
        if (base.cells == 0) continue;
        base.mean /= double(base.cells);
        out.bases.push_back(std::move(base));
    }
}

void compareVolumes(const ProductSet& before, const ProductSet& after, ProjectComparison& out) {
    const auto byCode = [](const ProductSet& set) {
        std::map<std::string, double> found;
        if (set.volumes)
            for (const auto& v : set.volumes->units) found[set.project.sequence->units[v.unit].code] = v.volume;
        return found;
    };
    const auto old = byCode(before), now = byCode(after);
    const auto of = [](const std::map<std::string, double>& in, const std::string& code) {
        const auto at = in.find(code);
        return at == in.end() ? kNoValue : at->second;
    };
    for (const auto& u : after.project.sequence->units)
        if (old.contains(u.code) || now.contains(u.code)) out.volumes.push_back({u.code, of(old, u.code), of(now, u.code)});
    for (const auto& code : out.unitsRemoved)
        if (old.contains(code)) out.volumes.push_back({code, of(old, code), kNoValue});
}

json correctionsJson(const std::vector<Correction>& all) {
    json out = json::array();
    for (const auto& c : all)
        out.push_back({{"file", c.file},
                       {"line", c.line},
                       {"hole", c.hole},
                       {"heading", c.heading},
                       {"before", c.before},
                       {"after", c.after},
                       {"why", c.why}});
    return out;
}

json changedJson(const char* key, const std::vector<ProjectComparison::Changed>& all) {
    json out = json::array();
    for (const auto& c : all) out.push_back({{key, c.name}, {"what", c.what}});
    return out;
}

/// Where a base lies higher or lower than before: blue lower, orange higher.
DocumentFigure differenceMap(const ProjectComparison::Base& base, const std::string& code) {
    const auto& frame = base.difference.frame;
    const double reach = std::abs(base.largest);
    const paper::ValueColours colours{paper::ColourScale::Earth, -reach, reach, {}};
    auto picture = std::make_shared<Picture>();
    picture->width = frame.columns(), picture->height = frame.rows();
    for (const double d : base.difference.values) {
        const auto c = std::isnan(d) ? paper::kWhite : colours.of(d);
        picture->rgba.insert(picture->rgba.end(), {c.red, c.green, c.blue, 255});
    }
    const double width = std::min(kDocumentWidth, 110.0 * picture->width / picture->height),
                 height = width * picture->height / picture->width;
    DocumentFigure out{"", {width, height, {}}};
    out.caption = fmt::format("Base of {}: later less earlier, from {:+.2f} m (blue) to {:+.2f} m (orange), over {:.0f} m by "
                              "{:.0f} m. The largest difference lies at E {:.0f}, N {:.0f}.",
                              code, -reach, reach, frame.box().width(), frame.box().height(), base.place.x, base.place.y);
    out.drawing.add("map", code, paper::Image{picture, {0, 0, width, height}, 1});
    out.drawing.add("map", code,
                    paper::FilledArea{{paper::rectangle(0, 0, width, height)}, {}, paper::Pen{paper::kMuted, 0.2, {}}});
    const Point2 at{(base.place.x - frame.xmin) / frame.box().width() * width,
                    (frame.ymax - base.place.y) / frame.box().height() * height};
    out.drawing.add("map", code, paper::FilledArea{{paper::circle(at, 1.6)}, {}, paper::Pen{paper::kInk, 0.4, {}}});
    return out;
}

} // namespace

bool ProjectComparison::empty() const {
    return holesAdded.empty() && holesRemoved.empty() && holesChanged.empty() && unitsAdded.empty() && unitsRemoved.empty()
           && unitsChanged.empty() && !orderChanged && correctionsAdded.empty() && correctionsRemoved.empty() && settings.empty()
           && std::ranges::all_of(bases, [](const Base& b) { return b.largest == 0; });
}

ProjectComparison compareProjects(const ProductSet& before, const ProductSet& after) {
    ProjectComparison out;
    compareHoles(*before.project.holes, *after.project.holes, out);
    compareUnits(*before.project.sequence, *after.project.sequence, out);
    compareCorrections(*before.project.corrections, *after.project.corrections, out);
    compareSettings(before.project, after.project, out);
    compareBases(before, after, out);
    compareVolumes(before, after, out);
    return out;
}

json comparisonJson(const ProjectComparison& c, const Sequence& after) {
    json settings = json::array(), bases = json::array(), volumes = json::array();
    for (const auto& s : c.settings) settings.push_back({{"what", s.what}, {"before", s.before}, {"after", s.after}});
    for (const auto& b : c.bases)
        bases.push_back({{"unit", after.units[b.unit].code},
                         {"mean", b.mean},
                         {"largest", b.largest},
                         {"easting", number(b.place.x)},
                         {"northing", number(b.place.y)},
                         {"cells", b.cells}});
    for (const auto& v : c.volumes)
        volumes.push_back({{"unit", v.unit},
                           {"before", number(v.before)},
                           {"after", number(v.after)},
                           {"difference", number(v.after - v.before)}});
    return {{"holes", {{"added", c.holesAdded}, {"removed", c.holesRemoved}, {"changed", changedJson("hole", c.holesChanged)}}},
            {"corrections", {{"added", correctionsJson(c.correctionsAdded)}, {"removed", correctionsJson(c.correctionsRemoved)}}},
            {"units",
             {{"added", c.unitsAdded},
              {"removed", c.unitsRemoved},
              {"changed", changedJson("unit", c.unitsChanged)},
              {"order_changed", c.orderChanged}}},
            {"settings", settings},
            {"bases", bases},
            {"volumes", volumes}};
}

Document comparisonReport(const ProjectComparison& c, const Sequence& after, const std::string& before, const std::string& later,
                          const std::string& date) {
    Document out{"What changed", fmt::format("From {} to {}", before, later), date, {}};
    const auto chapter = [&](const char* key, const char* title) -> auto& {
        out.chapters.push_back({key, title, {}});
        return out.chapters.back().parts;
    };
    const auto add = [](auto& parts, DocumentTable table, const char* otherwise) {
        if (table.rows.empty())
            parts.emplace_back(std::string(otherwise));
        else
            parts.emplace_back(std::move(table));
    };
    const auto list = [](const std::vector<std::string>& words) { return fmt::format("{}", fmt::join(words, ", ")); };
    auto& holes = chapter("holes", "Holes");
    if (!c.holesAdded.empty()) holes.emplace_back("New: " + list(c.holesAdded) + ".");
    if (!c.holesRemoved.empty()) holes.emplace_back("No longer there: " + list(c.holesRemoved) + ".");
    DocumentTable changed{"Holes that changed", {{"hole"}, {"what", "", 0, 4}}, {}};
    for (const auto& h : c.holesChanged) changed.rows.push_back({h.name, list(h.what)});
    add(holes, changed, "No hole that both have was changed.");
    DocumentTable corrections{
        "Corrections",
        {{"", "", 0, 0.8}, {"file", "", 0, 2}, {"hole"}, {"heading", "", 0, 1.4}, {"before"}, {"after"}, {"why", "", 0, 2}},
        {}};
    for (const auto& r : c.correctionsAdded)
        corrections.rows.push_back({"new", r.file, r.hole, r.heading, r.before, r.after, r.why});
    for (const auto& r : c.correctionsRemoved)
        corrections.rows.push_back({"gone", r.file, r.hole, r.heading, r.before, r.after, r.why});
    add(chapter("corrections", "Corrections"), corrections, "Corrections are the same.");
    auto& units = chapter("units", "Units");
    if (!c.unitsAdded.empty()) units.emplace_back("New: " + list(c.unitsAdded) + ".");
    if (!c.unitsRemoved.empty()) units.emplace_back("No longer there: " + list(c.unitsRemoved) + ".");
    if (c.orderChanged) units.emplace_back(std::string("Units that both have stand in another order."));
    DocumentTable ofUnits{"Units that changed", {{"unit"}, {"what", "", 0, 4}}, {}};
    for (const auto& u : c.unitsChanged) ofUnits.rows.push_back({u.name, list(u.what)});
    add(units, ofUnits, "No unit that both have was changed.");
    DocumentTable settings{"Settings", {{"what", "", 0, 1.5}, {"before", "", 0, 2}, {"after", "", 0, 2}}, {}};
    for (const auto& s : c.settings) settings.rows.push_back({s.what, s.before, s.after});
    add(chapter("settings", "Settings and choices"), settings, "Settings are the same.");
    auto& bases = chapter("bases", "Bases");
    DocumentTable moved{
        "Later less earlier", {{"unit"}, {"mean", "m", 3}, {"largest", "m", 3}, {"easting", "m", 0}, {"northing", "m", 0}}, {}};
    for (const auto& b : c.bases)
        moved.rows.push_back({after.units[b.unit].code, b.mean, b.largest, cellOf(b.place.x), cellOf(b.place.y)});
    add(bases, moved, "One of the two has no model.");
    for (const auto& b : c.bases)
        if (std::abs(b.largest) >= 0.01) bases.emplace_back(differenceMap(b, after.units[b.unit].code));
    DocumentTable volumes{"Volumes", {{"unit"}, {"before", "m³", 0}, {"after", "m³", 0}, {"difference", "m³", 0}}, {}};
    for (const auto& v : c.volumes)
        volumes.rows.push_back({v.unit, cellOf(v.before), cellOf(v.after), cellOf(v.after - v.before)});
    add(chapter("volumes", "Volumes"), volumes, "One of the two has no model.");
    return out;
}

} // namespace fox
