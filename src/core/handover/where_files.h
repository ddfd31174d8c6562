#pragma once
#include "base/files.h"
#include "base/progress.h"
#include "products/products.h"

#include <filesystem>

namespace fox {

struct WhereAnswer {
    std::size_t points = 0, outside = 0; ///< outside the extent
    Findings findings;                   ///< rows without a place, with their lines
};

/// What lies at the places of a file, or at the middles of its cells: a table (.csv, .xyz, .txt: easting, northing and level by
/// name, else the first three columns), VTU, or UGRID in NetCDF. `out` gets the same form and order, with `unit` (its code in a
/// table, its place in the sequence in cells, -1 for none), `depth` below ground, and each value that units carry.
/// `origin` is added to eastings and northings of the file: those of meshes often have one taken off.
/// @throws UsageError for another ending, or if `out` has not that of `points`; FileError
ReplaceFiles prepareWhere(const ProductSet&, const std::filesystem::path& points, const std::filesystem::path& out, WhereAnswer&,
                          Point2 origin = {}, const Progress& = {});

} // namespace fox
