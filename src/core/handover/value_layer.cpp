#include "handover/value_layer.h"

#include "formats/table.h"

#include <fmt/format.h>

namespace fox {

namespace {

std::string signOf(const ValuePoint& p) { return p.sign == ValueSign::None ? std::string() : std::string(1, char(p.sign)); }

/// Calls use(source, point, whether it is used) for each.
template <typename Use>
void eachValue(const Project& project, const Use& use) {
    for (const auto& source : *project.valuePoints)
        for (const auto& p : source.points) use(source, p, source.used && !p.excluded);
}

} // namespace

FeatureLayer valueLayer(const Project& project) {
    FeatureLayer layer{"values", project.site->crs, {}};
    eachValue(project, [&](const ValueSource& source, const ValuePoint& p, bool used) {
        layer.features.push_back({GeometryKind::Point,
                                  {{p.place}},
                                  true,
                                  {{"quantity", source.quantity},
                                   {"unit_of_measure", source.unit},
                                   {"value", p.value},
                                   {"sign", signOf(p)},
                                   {"level", p.place.z},
                                   {"used", double(used)},
                                   {"file", source.file},
                                   {"line", double(p.line)}},
                                  source.quantity});
    });
    return layer;
}

std::string valuesCsv(const Project& project) {
    std::string out = "quantity,unit_of_measure,easting,northing,level,sign,value,used,file,line\n";
    eachValue(project, [&](const ValueSource& source, const ValuePoint& p, bool used) {
        out +=
            fmt::format("{},{},{:.3f},{:.3f},{:.3f},{},{},{},{},{}\n", tableCell(source.quantity), tableCell(source.unit),
                        p.place.x, p.place.y, p.place.z, signOf(p), p.value, used ? "yes" : "no", tableCell(source.file), p.line);
    });
    return out;
}

} // namespace fox
