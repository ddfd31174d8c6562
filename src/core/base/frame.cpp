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

} // namespace fox
