#pragma once
#include "ground/survey.h"
#include "ground/terrain.h"
#include "holes/ags_holes.h"
#include "sequence/unit.h"

#include <filesystem>

namespace fox {

/// An imported file, whole, so that a hole can always show the line it came from.
struct SourceFile {
    std::string name;   ///< without folders
    std::string format; ///< "AGS 4.1", "survey points", "breaklines"
    std::string bytes;
    int holes = 0;     ///< how many it brought
    Findings findings; ///< of reading it
    bool operator==(const SourceFile&) const = default;
};

/// Coordinate system, extent and grid.
struct Site {
    std::string crs;            ///< "EPSG:25831", or empty if it is not known
    std::optional<Frame> frame; ///< none: around what there is
    Polygon2 limit;             ///< empty: none
    bool operator==(const Site&) const = default;
};

struct GroundSources {
    struct Points {
        std::string file;
        std::vector<Point3> points;
        bool operator==(const Points&) const = default;
    };
    struct Lines {
        std::string file;
        std::vector<Polyline3> lines;
        bool operator==(const Lines&) const = default;
    };
    std::vector<Points> points;
    std::vector<Lines> breaklines;
    bool holeLevels = true; ///< holes' ground levels are ground points too
    bool operator==(const GroundSources&) const = default;
    bool empty() const { return points.empty() && breaklines.empty(); }
};

struct SectionLine {
    std::string name;
    Polyline2 line;
    bool operator==(const SectionLine&) const = default;
};

/// A part of a project: shared between the versions that have it in common, and told apart by its address.
template <typename T>
using Part = std::shared_ptr<const T>;
template <typename T>
Part<T> part(T value) {
    return std::make_shared<const T>(std::move(value));
}

/// Everything that the user gave; all else is worked out from it. A value: copying it is cheap.
struct Project {
    std::string name = "New project";
    Part<Site> site = part(Site{});
    Part<std::vector<SourceFile>> files = part(std::vector<SourceFile>{});
    Part<Holes> holes = part(Holes{});
    Part<std::map<std::string, std::string>> codeNames = part(std::map<std::string, std::string>{});
    Part<GroundSources> ground = part(GroundSources{});
    Part<Sequence> sequence = part(Sequence{});
    Part<std::vector<SectionLine>> sections = part(std::vector<SectionLine>{});
};
/// Same values, part by part.
bool sameValue(const Project&, const Project&);

/// The frame of the site, or one around its holes and ground if none was set; none if there is nothing.
std::optional<Frame> frameOf(const Project&);

} // namespace fox
