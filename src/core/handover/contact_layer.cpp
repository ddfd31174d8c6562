#include "handover/contact_layer.h"

#include <fmt/format.h>

namespace fox {

namespace {

/// Calls use(unit's code, contact) for each contact, youngest unit first.
template <typename Use>
void eachContact(const ProductSet& set, const Use& use) {
    for (std::size_t u = 0; u < set.contacts.size(); ++u)
        for (const auto& c : *set.contacts[u]) use(set.project.sequence->units[u].code, c);
}

} // namespace

FeatureLayer contactLayer(const ProductSet& set) {
    FeatureLayer layer{"contacts", set.project.site->crs, {}};
    eachContact(set, [&](const std::string& unit, const Contact& c) {
        layer.features.push_back({GeometryKind::Point,
                                  {{c.place}},
                                  true,
                                  {{"unit", unit},
                                   {"kind", std::string(words(c.kind))},
                                   {"level", c.place.z},
                                   {"hole", c.hole},
                                   {"file", c.file},
                                   {"line", double(c.line)}},
                                  unit});
    });
    return layer;
}

std::string contactsCsv(const ProductSet& set) {
    std::string out = "unit,kind,easting,northing,level,hole,file,line\n";
    eachContact(set, [&](const std::string& unit, const Contact& c) {
        out += fmt::format("{},{},{:.3f},{:.3f},{:.3f},{},{},{}\n", tableCell(unit), words(c.kind), c.place.x, c.place.y,
                           c.place.z, tableCell(c.hole), tableCell(c.file), c.line > 0 ? std::to_string(c.line) : "");
    });
    return out;
}

} // namespace fox
