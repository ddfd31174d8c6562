#include "base/frame.h"

#include <algorithm>
#include <cmath>

namespace fox {

Frame frameAround(const Box2& box) {
    const double longer = std::max({box.width(), box.height(), 10.0});
    const double wanted = longer * 1.1 / 150;
    const double power = std::pow(10, std::floor(std::log10(wanted)));
    const double ratio = wanted / power;
    const double cell = power * (ratio < 1.5 ? 1 : ratio < 3.5 ? 2 : ratio < 7.5 ? 5 : 10);
    const double margin = longer * 0.05;
    return {std::floor((box.xmin - margin) / cell) * cell, std::floor((box.ymin - margin) / cell) * cell,
            std::ceil((box.xmax + margin) / cell) * cell, std::ceil((box.ymax + margin) / cell) * cell, cell};
}

double cellsOf(const Frame& f) {
    return std::max(1.0, std::ceil((f.xmax - f.xmin) / f.cell)) * std::max(1.0, std::ceil((f.ymax - f.ymin) / f.cell));
}

double coarserCell(const Frame& frame, double mostCells) {
    auto f = frame;
    for (double power = 1e-3;; power *= 10)
        for (const double step : {1.0, 2.0, 5.0}) {
            f.cell = step * power;
            if (cellsOf(f) <= mostCells) return f.cell;
        }
}

} // namespace fox
