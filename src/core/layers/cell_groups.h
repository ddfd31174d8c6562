#pragma once
#include "layers/cell_answers.h"

#include <vector>

namespace fox {

struct LayeredGrid;

/// Cells of one layer that have the same mark and touch one another by a side.
struct CellGroup {
    CellMark mark = CellMark::Thin;
    std::size_t layer = 0;                 ///< from the top
    std::vector<std::size_t> columns;      ///< of the plan, row by row
    Point2 at;                             ///< the middle of the cell that is nearest to the middle of all
    double area = 0;                       ///< square metres
    double thicken = 0, join = 0;          ///< cubic metres that these answers would move
    CellAnswer answer = CellAnswer::Leave; ///< that was applied
    bool isOwn = false;                    ///< by an answer of its own, not by the one for all
    double moved(CellAnswer) const;
};

/// All groups with a mark, the largest first; without volumes and answers. Cells outside are in none.
std::vector<CellGroup> groupsOf(const LayeredGrid&, CellMark);

} // namespace fox
