#pragma once
#include "layers/layer_spec.h"

namespace fox {

/// A line that edges of a mesh follow.
struct MeshLine {
    std::string name;
    std::string file = {}; ///< all lines of this file; empty: `line`
    Polyline2 line = {};
    std::optional<double> edge = {}; ///< metres: edges along it are no longer
    bool operator==(const MeshLine&) const = default;
};

/// A place that is a node of a mesh: a well.
struct MeshPlace {
    std::string name;
    Point2 at;
    double edge = 0; ///< metres: edges that meet there are no longer; 0: as everywhere
    bool operator==(const MeshPlace&) const = default;
};

/// An outline by file or ring.
struct MeshRing {
    std::string file = {};
    Polygon2 ring = {};
    bool operator==(const MeshRing&) const = default;
};

/// Upright faces along a line, through layers: a wall, a fault.
struct MeshFaces {
    std::string name, line;                                  ///< `line`: the name of a MeshLine
    int first = 1, last = 1;                                 ///< layers, from 1
    double snap = 0;                                         ///< metres: the line may lie so far off the mesh's edges
    std::optional<double> conductivity = {}, thickness = {}; ///< m/s, metres
    bool along = true;                                       ///< water flows along them; else across
    bool operator==(const MeshFaces&) const = default;
};

/// A layered mesh of prisms as it is asked for.
struct MeshSpec {
    std::string name;
    MeshRing outline;
    std::vector<MeshRing> islands = {};
    std::vector<MeshLine> lines = {};
    std::vector<MeshPlace> places = {};
    double edge = 0;                          ///< metres; 0: by `elements`
    std::optional<std::size_t> elements = {}; ///< about how many prisms
    double growth = 1.3;                      ///< away from lines and places edges grow by (growth - 1) a metre
    double angle = 20;                        ///< degrees: no angle of a triangle is smaller unless the input has it
    std::optional<Point2> origin = {};        ///< taken off the coordinates that are written
    FieldSource top = {FieldSource::From::Ground, 0, ""};
    std::vector<LayerRule> layers = {};
    double thin = 0.1; ///< metres: surfaces keep so far apart
    std::vector<MeshFaces> faces = {};
    std::map<std::string, FieldSource> values = {};
    bool operator==(const MeshSpec&) const = default;
};
inline constexpr double kLargestMeshAngle = 20.7; ///< degrees, beyond which refinement may not end (Shewchuk 2002)

/// Reads the JSON of batch.md and docs/formats.md; files are relative to `folder`, and have it in front afterwards.
/// @throws FileError if it is not JSON of this kind, UsageError for a number or word that can't be
MeshSpec meshSpecOf(std::string_view json, const std::filesystem::path& folder);
std::string toJson(const MeshSpec&);

} // namespace fox
