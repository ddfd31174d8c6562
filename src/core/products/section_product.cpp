#include "products/section_product.h"

#include "products/log_products.h"
#include "products/model_product.h"
#include "products/named_surface_product.h"
#include "products/water_product.h"
#include "sequence/picked_logs.h"

#include <numeric>

namespace fox {

namespace {

/// Of a surface, at the section's chainages, where there is ground.
std::vector<double> valuesAlong(const Surface& surface, const Section& section) {
    std::vector<Point2> places;
    for (const double chainage : section.chainage) places.push_back(pointAlong(section.line, chainage));
    std::vector<double> values(places.size());
    surface.evaluate(places, values, {});
    for (std::size_t i = 0; i < values.size(); ++i)
        if (std::isnan(section.ground[i])) values[i] = kNoValue;
    return values;
}

} // namespace

std::shared_ptr<const Section> sectionProduct(const Making& making, const SectionLine& s) {
    const auto frame = frameOf(making.project);
    if (!frame) return nullptr;
    const auto model = modelProduct(making);
    const auto logs = interpretedLogs(making);
    const auto known = contacts(making);
    ProductKey key{model, logs, KeyPart::value(*frame), KeyPart::value(s)};
    for (const auto& ofUnit : known) key.push_back(ofUnit);
    const auto background = making.project.background;
    key.push_back(background);
    const auto shown = making.project.shownWater;
    key.push_back(KeyPart::value(*shown));
    key.push_back(KeyPart::value(making.project.interpretation->picks));
    std::vector<std::shared_ptr<const FittedWaterSurface>> waters;
    for (const auto& w : *making.project.waterSurfaces) {
        key.push_back(waters.emplace_back(fittedWater(making, w)));
        key.push_back(KeyPart::value(w.name));
    }
    std::vector<std::shared_ptr<const FittedNamedSurface>> named;
    for (const auto& n : *making.project.namedSurfaces) {
        key.push_back(named.emplace_back(fittedNamedSurface(making, n)));
        key.push_back(KeyPart::value(n.name));
    }
    making.progress.report(0.55, "Section " + s.name);
    return making.cache.get(
        "section " + s.name, std::move(key),
        [&] {
            const double step = std::max(frame->cell / 2, lengthOf(s.line) / 2000);
            auto made = makeSection(*model, withPicks(*logs, *making.project.sequence, *making.project.interpretation), s.line,
                                    step, making.progress, s.reach, *shown);
            made.contacts = contactsAlong(s.line, known, s.reach);
            made.traces = tracesAlong(s.line, *background, s.reach);
            for (std::size_t i = 0; i < waters.size(); ++i)
                made.waters.push_back({(*making.project.waterSurfaces)[i].name, valuesAlong(*waters[i]->fit.surface, made)});
            for (std::size_t i = 0; i < named.size(); ++i)
                made.surfaces.push_back({(*making.project.namedSurfaces)[i].name, valuesAlong(*named[i]->surface, made)});
            return made;
        },
        [](const Section& made) {
            return sizeof(made) + made.chainage.size() * (2 + 2 * made.bases.size()) * sizeof(double)
                   + made.holes.size() * sizeof(SectionHole) + bytesOf(made.contacts)
                   + std::accumulate(made.traces.begin(), made.traces.end(), std::size_t(0),
                                     [](std::size_t n, const SectionTrace& t) { return n + sizeof(t) + bytesOf(t.points); });
        });
}

} // namespace fox
