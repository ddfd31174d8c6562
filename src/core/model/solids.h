#pragma once
#include "formats/triangle_mesh.h"
#include "model/model.h"

namespace fox {

/// A grid as triangles between its cell centres, two a square of four known cells, along the shorter diagonal.
TriangleMesh surfaceMesh(const Grid&, const std::string& name);

/// A unit of a model as a closed body.
/// Guarantees: (1) every edge is passed as often one way as the other, so that the surface is closed; (2) its volume is that
/// of the cells, thickness times area, but for rounding; (3) bodies of neighbouring units share their faces
/// where both are known.
/// Top and base go through the levels at cell centres, and through the mean of the known cells at their corners; four triangles
/// between four centres give each of them a quarter of the weight, which makes (2). At the model's rim they run level to the
/// cells' edges. Where the thickness is 0 there is no body; a body that pinches out to a line may share an edge with itself.
/// Nothing where the unit has no base: the oldest without a floor gives an empty mesh.
TriangleMesh solidOf(const ModelGrid&, std::size_t unit, const std::string& name);

/// By the divergence theorem, about the first vertex; positive if the faces look outwards. Requires a closed mesh.
double volumeOf(const TriangleMesh&);
/// As guarantee (1) of solidOf; an empty mesh is closed.
bool isClosed(const TriangleMesh&);

/// The model as six-sided cells, one a grid cell and unit: lower four corners counter-clockwise, then the upper four.
struct CellBlock {
    std::vector<Point3> nodes;
    std::vector<std::array<std::size_t, 8>> cells;
    std::vector<int> unit;         ///< of each cell, by its place in the sequence
    std::vector<double> thickness; ///< of each cell, at its centre, metres
};
/// Cells where a unit is thicker than 0 at the centre. Corners take the mean of the known cells around them, from
/// the ground down thickness by thickness, so that neighbours fit. The oldest unit is left out unless it has a floor.
CellBlock cellsOf(const ModelGrid&);

} // namespace fox
