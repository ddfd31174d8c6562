#pragma once
#include "base/frame.h"

#include <vector>

namespace fox {

/// One value a cell, row by row from the north-west; kNoValue where there is none.
struct Grid {
    Frame frame;
    std::vector<double> values;

    explicit Grid(const Frame& f = {}) : frame(f), values(f.cells(), kNoValue) {}
    double& at(int column, int row) { return values[index(column, row)]; }
    double at(int column, int row) const { return values[index(column, row)]; }
    bool operator==(const Grid&) const = default;

private:
    std::size_t index(int column, int row) const { return std::size_t(row) * std::size_t(frame.columns()) + std::size_t(column); }
};

} // namespace fox
