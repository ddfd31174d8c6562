#include "project/ground_sources.h"

namespace fox {

namespace {

/// The edge of the area as lines without levels, to triangulate along.
std::vector<Polyline3> edgesOf(const Area& area) {
    std::vector<Polyline3> out;
    for (const auto& ring : area.rings()) {
        out.emplace_back();
        for (const auto& p : ring) out.back().push_back({p.x, p.y, kNoValue});
        out.back().push_back(out.back().front());
    }
    return out;
}

} // namespace

TerrainInput terrainInputOf(const GroundSources& ground, const Polygon2& limit, Findings& findings) {
    TerrainInput input;
    for (const auto& source : ground.points) {
        if (!source.used) continue;
        input.points.reserve(input.points.size() + source.points.size());
        for (const auto& p : source.points)
            if (ground.codesOut.empty() || !ground.codesOut.contains(p.code)) input.points.push_back(p.place);
        for (const auto& code : ground.codesJoined)
            for (auto& line : stringsOf(*source.points, code)) input.breaklines.push_back(std::move(line));
    }
    for (const auto& source : ground.lines)
        if (source.used) {
            auto& to = source.role == LineRole::Contours ? input.contours : input.breaklines;
            to.insert(to.end(), source.lines.begin(), source.lines.end());
        }
    for (const auto& source : ground.rasters)
        if (source.used) input.rasters.push_back(source.grid);
    std::vector<Polygon2> limits, islands;
    if (!limit.empty()) limits.push_back(limit);
    for (const auto& o : ground.outlines) {
        if (o.use == GroundSources::Outline::Use::None) continue;
        const bool isLimit = o.use == GroundSources::Outline::Use::Limit;
        (isLimit ? limits : islands).push_back(o.ring);
        if (isLimit) islands.insert(islands.end(), o.holes.begin(), o.holes.end());
    }
    input.area = Area(limits, islands, &findings);
    if (ground.cutAtOutlines) input.cutLines = edgesOf(input.area);
    input.blend = ground.blend;
    input.reach = ground.reach > 0 ? ground.reach : std::numeric_limits<double>::infinity();
    if (ground.longestEdge > 0) input.longestEdge = ground.longestEdge;
    input.mendFlats = ground.mendFlats;
    input.edits = ground.edits;
    return input;
}

std::map<std::string, int> codesOf(const GroundSources& ground) {
    std::map<std::string, int> codes;
    for (const auto& source : ground.points) {
        auto at = codes.end(); // surveyors write the same code many times in a row
        for (const auto& p : source.points) {
            if (at == codes.end() || at->first != p.code) at = codes.try_emplace(p.code).first;
            ++at->second;
        }
    }
    return codes;
}

} // namespace fox
