#pragma once
#include "base/grid.h"

#include <string>

namespace fox {

/// How a grid is written as lines of easting, northing and level.
struct XyzStyle {
    bool header = false; ///< a first line with the names of the columns
    char separator = ' ';
    std::string noValue = {}; ///< what stands for no value; empty: such cells have no line
};

/// A line for each cell, row by row from the north-west corner: easting, northing and value of its centre, full precision.
std::string xyzText(const Grid&, const XyzStyle& = {});

} // namespace fox
