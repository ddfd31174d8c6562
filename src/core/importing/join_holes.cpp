#include "importing/join_holes.h"

#include <algorithm>

namespace fox {

namespace {

/// Single results of two files as one curve: those of the second that the first has not.
Curve merged(const Curve& a, const Curve& b) {
    struct Value {
        Curve::Reading reading;
        std::string text;
    };
    std::vector<Value> all;
    const auto take = [&](const Curve& c) {
        for (std::size_t i = 0; i < c.readings->size(); ++i) {
            const auto said = std::ranges::find(c.written, i, &Curve::Written::reading);
            Value v{(*c.readings)[i], said == c.written.end() ? std::string() : said->text};
            const auto same = [&](const Value& o) {
                return o.reading.depth == v.reading.depth && o.text == v.text
                       && (o.reading.value == v.reading.value || (std::isnan(o.reading.value) && std::isnan(v.reading.value)));
            };
            if (std::ranges::none_of(all, same)) all.push_back(std::move(v));
        }
    };
    take(a), take(b);
    std::ranges::stable_sort(all, {}, [](const Value& v) { return v.reading.depth; });
    Curve out = a;
    std::vector<Curve::Reading> readings;
    out.written.clear();
    for (auto& v : all) {
        if (!v.text.empty()) out.written.push_back({readings.size(), std::move(v.text)});
        readings.push_back(v.reading);
    }
    out.readings = std::make_shared<const std::vector<Curve::Reading>>(std::move(readings));
    return out;
}

/// A table says all of its kind; a file with a project of its own adds to what others have.
void joinList(Hole& hole, const Hole& more, auto Hole::*list) {
    if ((more.*list).empty()) return;
    if (more.project.empty()) {
        hole.*list = more.*list;
        return;
    }
    for (const auto& x : more.*list)
        if (std::ranges::count(hole.*list, x) == 0) (hole.*list).push_back(x);
}

const Curve* sameTrack(const std::vector<Curve>& all, const Curve& c) {
    const auto at =
        std::ranges::find_if(all, [&](const Curve& o) { return o.name == c.name && o.unit == c.unit && o.push == c.push; });
    return at == all.end() ? nullptr : &*at;
}

} // namespace

void keepFromElsewhere(Hole& now, const Hole& was, const Hole& old) {
    const auto keep = [&](auto Hole::*list) {
        for (const auto& x : was.*list)
            if (std::ranges::count(old.*list, x) == 0 && std::ranges::count(now.*list, x) == 0) (now.*list).push_back(x);
    };
    keep(&Hole::blowCounts), keep(&Hole::samples), keep(&Hole::strikes), keep(&Hole::waterLevels), keep(&Hole::installations);
    keep(&Hole::soundings), keep(&Hole::coreRuns), keep(&Hole::details);
    std::ranges::stable_sort(now.blowCounts, {}, &BlowCount::depth);
    std::ranges::stable_sort(now.samples, {}, &Sample::top);
    for (const auto& c : was.curves) {
        const auto* before = sameTrack(old.curves, c);
        if (before && *before == c) continue; // of the file alone
        const auto* there = sameTrack(now.curves, c);
        if (!there)
            now.curves.push_back(c);
        else if (c.single && there->single && !before)
            now.curves[std::size_t(there - now.curves.data())] = merged(*there, c);
    }
}

void addTo(Hole& hole, const Hole& more) {
    if (more.easting) hole.easting = more.easting;
    if (more.northing) hole.northing = more.northing;
    if (more.level) hole.level = more.level;
    if (more.finalDepth && (!more.curves.empty() ? !hole.finalDepth : true)) hole.finalDepth = more.finalDepth;
    if (!more.type.empty() && (hole.type.empty() || more.type != "LAS")) hole.type = more.type;
    if (!more.stations.empty()) hole.stations = more.stations;
    if (!more.intervals.empty()) hole.intervals = more.intervals;
    joinList(hole, more, &Hole::blowCounts), joinList(hole, more, &Hole::samples);
    joinList(hole, more, &Hole::strikes), joinList(hole, more, &Hole::installations);
    std::ranges::stable_sort(hole.blowCounts, {}, &BlowCount::depth);
    std::ranges::stable_sort(hole.samples, {}, &Sample::top);
    for (const auto& w : more.waterLevels) // readings of later days join those of earlier ones
        if (std::ranges::count(hole.waterLevels, w) == 0) hole.waterLevels.push_back(w);
    std::ranges::stable_sort(hole.waterLevels, {}, &WaterLevel::measured);
    for (const auto& s : more.soundings)
        if (std::ranges::find(hole.soundings, s.push, &Sounding::push) == hole.soundings.end()) hole.soundings.push_back(s);
    for (const auto& c : more.curves) {
        if (const auto* there = sameTrack(hole.curves, c); there && there->single && c.single) {
            hole.curves[std::size_t(there - hole.curves.data())] = merged(*there, c);
            continue;
        }
        std::erase_if(hole.curves, [&](const Curve& old) { return old.name == c.name && old.push == c.push; });
        hole.curves.push_back(c);
    }
}

} // namespace fox
