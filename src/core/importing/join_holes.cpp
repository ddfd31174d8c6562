#include "importing/join_holes.h"

#include <algorithm>

namespace fox {

void addTo(Hole& hole, const Hole& more) {
    if (more.easting) hole.easting = more.easting;
    if (more.northing) hole.northing = more.northing;
    if (more.level) hole.level = more.level;
    if (more.finalDepth && (!more.curves.empty() ? !hole.finalDepth : true)) hole.finalDepth = more.finalDepth;
    if (!more.type.empty() && (hole.type.empty() || more.type != "LAS")) hole.type = more.type;
    if (!more.stations.empty()) hole.stations = more.stations;
    if (!more.intervals.empty()) hole.intervals = more.intervals;
    if (!more.blowCounts.empty()) hole.blowCounts = more.blowCounts;
    if (!more.samples.empty()) hole.samples = more.samples;
    if (!more.strikes.empty()) hole.strikes = more.strikes;
    if (!more.installations.empty()) hole.installations = more.installations;
    for (const auto& w : more.waterLevels) // readings of later days join those of earlier ones
        if (std::ranges::count(hole.waterLevels, w) == 0) hole.waterLevels.push_back(w);
    std::ranges::stable_sort(hole.waterLevels, {}, &WaterLevel::measured);
    for (const auto& c : more.curves) {
        std::erase_if(hole.curves, [&](const Curve& old) { return old.name == c.name; });
        hole.curves.push_back(c);
    }
}

} // namespace fox
