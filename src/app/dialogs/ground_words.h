#pragma once
#include "importing/import.h"

#include <QString>

namespace fox::app {

/// What there is to count in ground data; there may be millions of points, so it is done beside the window.
struct GroundCount {
    std::map<std::string, int> codes;             ///< of survey points
    double lowest = kNoValue, highest = kNoValue; ///< metres
};
GroundCount countGround(const ImportPreview&);

/// What the import sheet says of ground data.
struct GroundWords {
    QString facts; ///< "contours: 19 lines; 1383 of 1383 vertices are kept, levels from 25.00 m to 42.00 m."
    QString what;  ///< "19 lines", after "Import"
    bool anything = true;
};
GroundWords groundWords(const ImportPreview&, const GroundCount&);

} // namespace fox::app
