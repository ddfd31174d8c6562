#pragma once
#include "formats/triangle_mesh.h"
#include "model/model.h"

namespace fox {

/// A model's surfaces over one triangulation of the plan, fine where they bend and coarse where they do not: for pages that must
/// stay small. Places are cell centres of the grid that it was made from.
struct ReducedModel {
    std::vector<Point2> places;
    std::vector<std::array<int, 3>> triangles; ///< of places, counter-clockwise in plan
    std::vector<std::vector<double>> levels;   ///< ground, then the base of each unit that has one; a value a place, metres
    double largestError = 0;                   ///< metres: the most that any surface lies off the grid at any cell centre

    std::size_t units() const { return levels.size() - 1; }
};

/// Reduced to about `tolerance` metres and to no more than `mostTriangles` in plan: the tolerance is doubled until these are
/// enough. `largestError` is measured, and can be more than the tolerance, as errors of small triangles add up in large ones.
/// Of grids with over 4,096 cells a side every so many cells are used; the rest counts in `largestError` alone, where it is
/// known. Where the ground or a base is not known there are no triangles; up to there they are as fine as the cells. Method:
/// right-angled triangles halved at their longest side, each only if one that it would be part of must be (Evans, Kirkpatrick and
/// Townsend, "Right-triangulated irregular networks", Algorithmica 30, 2001).
/// @throws UsageError for a tolerance that is not above 0
ReducedModel reduceModel(const ModelGrid&, double tolerance, std::size_t mostTriangles);

/// A unit as a body over those triangles of which some corner has it: closed, its neighbours' faces fit.
TriangleMesh bodyOf(const ReducedModel&, std::size_t unit, const std::string& name);
/// Surface 0 is the ground, `u + 1` the base of unit u.
TriangleMesh surfaceOf(const ReducedModel&, std::size_t surface, const std::string& name);

} // namespace fox
