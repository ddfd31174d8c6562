#pragma once
#include "base/point.h"

namespace fox {

/// Where a grid lies: cells of `cell` metres counted from the north-west corner (xmin, ymax).
/// The last column and row may reach past xmax and ymin, so that the whole extent is covered.
struct Frame {
    double xmin = 0, ymin = 0, xmax = 0, ymax = 0; ///< metres
    double cell = 1;                               ///< metres
    bool operator==(const Frame&) const = default;

    int columns() const { return count(xmax - xmin); }
    int rows() const { return count(ymax - ymin); }
    std::size_t cells() const { return std::size_t(columns()) * std::size_t(rows()); }
    /// Cell centre; row 0 is the northernmost.
    Point2 centre(int column, int row) const { return {xmin + (column + 0.5) * cell, ymax - (row + 0.5) * cell}; }
    Box2 box() const {
        Box2 b;
        b.include({xmin, ymin});
        b.include({xmax, ymax});
        return b;
    }

private:
    // An extent that is a whole number of cells but for rounding (1e-9 of a cell) gets no extra cell.
    int count(double extent) const { return std::max(1, int(std::ceil(extent / cell - 1e-9))); }
};

/// How many cells a frame has, also if these are more than can be counted.
double cellsOf(const Frame&);
/// The smallest round cell (1, 2 or 5 times a power of ten) with which a frame has at most so many cells.
double coarserCell(const Frame&, double mostCells);

/// A frame around `box` with a margin of 5 % and about 150 cells on the longer side, the cell a
/// round number (1, 2 or 5 times a power of ten). Requires a box that is not empty.
Frame frameAround(const Box2& box);

} // namespace fox
