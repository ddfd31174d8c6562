#pragma once
#include "base/progress.h"
#include "ground/tin.h"

namespace fox {

/// How far each vertex stands above (positive) or below what its neighbours say: the ring of vertices around it is
/// triangulated without it, and the level of that surface at its place compared. Triangles that were taken out (long ones
/// at the edge, say) still tell which vertices are around. None (NaN) for vertices on lines or on the hull, for those that no
/// triangle of the surface has, and where the ring's corners that count are much farther off than the rest.
std::vector<double> leftOutDifferences(const Tin&, const Progress& = {});

struct Outlier {
    int vertex = 0;
    double off = 0; ///< metres above what the neighbours say
};
/// Vertices in the area that are off by more than `least` metres and more than kOutlierFactor times the usual scatter (1.4826
/// times the median of the differences' size). The worst is found first and no longer used to judge its neighbours. The worst
/// first.
std::vector<Outlier> outliersOf(const Tin&, double least = 0.5, const Area& = {}, const Progress& = {});
inline constexpr double kOutlierFactor = 8;

} // namespace fox
