#pragma once
#include "base/progress.h"
#include "ground/area.h"
#include "layers/mesh_spec.h"

#include <array>

namespace fox {

/// What a mesh in plan is made from: a specification with its files read.
struct PlanMeshInputs {
    Area outline; ///< its islands are left out
    struct Line {
        std::string name;
        Polyline2 line;
        std::optional<double> edge; ///< metres
    };
    std::vector<Line> lines; ///< several can have the same name
    std::vector<MeshPlace> places;
    double edge = 0; ///< metres
    double growth = 1.3, angle = 20;
    bool operator==(const PlanMeshInputs&) const = default;
};

/// Triangles in plan.
struct PlanMesh {
    std::vector<Point2> nodes;
    std::vector<std::array<int, 3>> triangles; ///< nodes, anticlockwise
    /// Edges that lie on each line, by its name; in no order.
    std::map<std::string, std::vector<std::array<int, 2>>> edges;
    std::map<std::string, int> places; ///< the node of each place that has a name
    double edge = 0;                   ///< as it was meshed

    std::vector<double> smallestAngles() const; ///< of each triangle, degrees
};

/// A Delaunay mesh that keeps outline, islands and lines as edges and places as nodes. No angle is under `angle`
/// degrees but where the input has less (Ruppert's refinement as CGAL has it, Delaunay_mesher_2); edges are at most
/// `edge` long, along lines and at places at most theirs, which grows by (growth - 1) a metre beyond one edge from them.
/// @throws Error for an outline without an area, a line or a place that leaves it, named; Stopped
PlanMesh makePlanMesh(const PlanMeshInputs&, const Progress& = {});

/// The same with `edge` chosen so that triangles times layers are about so many elements, within 5 % of them.
/// @throws Error with the number if lines and places alone need more
PlanMesh makePlanMesh(PlanMeshInputs, std::size_t elements, std::size_t layers, const Progress& = {});

} // namespace fox
