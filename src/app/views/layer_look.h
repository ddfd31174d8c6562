#pragma once
#include <string>

namespace fox::app {

/// Which layered grid is looked at, and how: one for all views.
struct LayerLook {
    std::string grid;                ///< by name; empty, or one that is gone: the first there is
    std::string mesh;                ///< by name, if a mesh is looked at in its place; empty: none
    std::size_t layer = 0;           ///< from the top
    std::string value = "thickness"; ///< "thickness", "top", "bottom", "unit", "checks", or a key of the cells' values
    int line = -1;                   ///< the row or column that is shown as a section, from 0; negative: the middle one
    bool byColumn = false;           ///< it is a column
    bool onPlan = false;             ///< the plan shows it
    bool operator==(const LayerLook&) const = default;
};

} // namespace fox::app
