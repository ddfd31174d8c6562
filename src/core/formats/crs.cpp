#include "formats/crs.h"

#include "base/text.h"
#include "formats/gdal_session.h"

namespace fox {

std::optional<std::string> projectedSystem(const std::string& typed) {
    const GdalSession session;
    std::string name(trimmed(typed));
    if (parseNumber(name)) name = "EPSG:" + name;
    const auto reference = spatialReference(name);
    const auto known = crsName(&reference);
    return known.empty() || !reference.IsProjected() ? std::nullopt : std::optional(known);
}

} // namespace fox
