#include "ground/value_bands.h"

#include "formats/gdal_session.h"
#include "ground/places_above.h"

#include <limits>

namespace fox {

std::vector<ValueBand> bandsOf(const Grid& grid, const std::vector<double>& limits) {
    const auto& f = grid.frame;
    std::vector<ValueBand> out;
    if (f.columns() < 2 || f.rows() < 2) return out;
    const GdalSession session;
    const auto add = [&](double low) {
        auto field = grid.values;
        for (auto& v : field)
            if (!std::isnan(v)) v = std::isinf(low) ? 1 : v - low;
        ValueBand band{low, {}};
        addRings(*placesAbove0(f, std::move(field)), band.rings);
        if (!band.rings.empty()) out.push_back(std::move(band));
    };
    add(-std::numeric_limits<double>::infinity());
    for (const double l : limits) add(l);
    return out;
}

} // namespace fox
