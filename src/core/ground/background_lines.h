#pragma once
#include "base/point.h"
#include "base/shared_list.h"

#include <string>

namespace fox {

/// Lines only to look at, of one layer of a file: roads, rivers, buildings. They make no ground.
struct BackgroundLines {
    std::string file, layer;
    SharedList<Polyline3> lines; ///< levels are kNoValue where there are none
    std::string colour = "#6f6a62";
    double width = 1.2; ///< pixels
    bool shown = true;
    bool draped = true; ///< on the ground in 3D
    bool operator==(const BackgroundLines&) const = default;
};

} // namespace fox
