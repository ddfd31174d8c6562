#include "formats/xyz.h"

#include <cmath>
#include <fmt/format.h>

namespace fox {

std::string xyzText(const Grid& grid, const XyzStyle& style) {
    std::string out;
    if (style.header) out = fmt::format("easting{0}northing{0}level\n", style.separator);
    for (int r = 0; r < grid.frame.rows(); ++r)
        for (int c = 0; c < grid.frame.columns(); ++c) {
            const double z = grid.at(c, r);
            if (std::isnan(z) && style.noValue.empty()) continue;
            const auto p = grid.frame.centre(c, r);
            fmt::format_to(std::back_inserter(out), "{1}{0}{2}{0}", style.separator, p.x, p.y);
            std::isnan(z) ? void(out += style.noValue) : void(fmt::format_to(std::back_inserter(out), "{}", z));
            out += '\n';
        }
    return out;
}

} // namespace fox
