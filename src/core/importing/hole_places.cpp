#include "importing/hole_places.h"

#include "base/errors.h"
#include "base/text.h"
#include "formats/crs.h"

#include <fmt/format.h>

namespace fox {

Findings projectDegrees(Holes& holes, const std::vector<std::optional<Point2>>& degrees, const std::string& system,
                        const Finding& where) {
    std::optional<CoordinateChange> toSystem;
    if (!system.empty()) toSystem.emplace("EPSG:4326", system);
    std::size_t taken = 0, waiting = 0;
    for (std::size_t i = 0; i < std::min(degrees.size(), holes.size()); ++i) {
        if (!degrees[i] || holes[i].place()) continue;
        const auto p = toSystem ? toSystem->forward(*degrees[i]) : std::nullopt;
        p ? ++taken : ++waiting;
        if (!p) continue;
        auto& hole = holes.change(i);
        hole.easting = p->x, hole.northing = p->y;
    }
    Findings out;
    const auto say = [&](Severity severity, std::string sentence) {
        out.push_back(where);
        out.back().severity = severity;
        out.back().message = std::move(sentence);
    };
    if (taken > 0)
        say(Severity::Note, fmt::format("{} no easting and northing; latitude and longitude were projected to {}.",
                                        counted(taken, "hole has", "holes have"), system));
    if (waiting > 0)
        say(Severity::Warning,
            fmt::format("{} only latitude and longitude: set the project's coordinate system, and read the file again.",
                        counted(waiting, "hole has", "holes have")));
    return out;
}

Findings placeByLocalGrid(Holes& holes, const LocalGrid& grid, const std::vector<std::optional<Point2>>& places,
                          const std::string& file) {
    if (!grid.usable()) throw Error("The two control points of the local grid are one and the same.");
    Findings out;
    constexpr double kOff = 0.001; // a millimetre in a metre
    if (std::abs(grid.scale() - 1) > kOff)
        out.push_back({Severity::Warning, "FC-LOCAL-GRID", file, 0, "LOCA", "LOCA_LOCX", "",
                       fmt::format("By the two control points a metre of the local grid is {:.4f} m: one of them may be wrong.",
                                   grid.scale())});
    for (std::size_t i = 0; i < holes.size(); ++i) {
        if (i >= places.size() || !places[i]) continue;
        const auto p = grid.toNational(*places[i]);
        auto& h = holes.change(i);
        h.easting = p.x, h.northing = p.y;
    }
    return out;
}

} // namespace fox
