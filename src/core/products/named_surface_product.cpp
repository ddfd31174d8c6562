#include "products/named_surface_product.h"

#include "products/log_products.h"
#include "products/water_product.h"

namespace fox {

std::shared_ptr<const FittedNamedSurface> fittedNamedSurface(const Making& making, const NamedSurface& named) {
    const auto& p = making.project;
    std::shared_ptr<const std::vector<Contact>> contactData;
    std::shared_ptr<const FittedWaterSurface> water;
    using From = NamedSurface::From;
    const auto unit = named.from == From::Contacts ? p.sequence->index(named.source) : std::nullopt;
    if (const auto all = contacts(making); unit && *unit < all.size()) contactData = all[*unit];
    if (named.from == From::Water)
        if (const auto at = std::ranges::find(*p.waterSurfaces, named.source, &WaterSurface::name); at != p.waterSurfaces->end())
            water = fittedWater(making, *at);
    return making.cache.get(
        "named surface", {KeyPart::value(named), contactData, water},
        [&] {
            making.progress.report(0.6, "Surface " + named.name);
            static const std::vector<Contact> kNone;
            return fitNamedSurface(named, contactData ? *contactData : kNone, water.get(), making.progress);
        },
        [&](const FittedNamedSurface& f) {
            return sizeof(f) + bytesOf(f.fit.data) + named.points.size() * sizeof(Point3) + named.triangles.size() * 100;
        });
}

std::shared_ptr<const NamedSurfaceProduct> namedSurfaceProduct(const Making& making, const NamedSurface& named) {
    const auto fitted = fittedNamedSurface(making, named);
    const auto frame = frameOf(making.project);
    return making.cache.get(
        "grid of a named surface", {fitted, KeyPart::value(frame)},
        [&] {
            NamedSurfaceProduct out{fitted, nullptr, {}, 1};
            if (!frame) return out;
            auto levels = sample(*fitted->surface, *frame, nullptr, making.progress);
            if (std::ranges::any_of(levels.values, [](double v) { return !std::isnan(v); })) {
                out.interval = contourInterval(levels);
                out.contours = contoursOf(levels, out.interval);
            }
            out.levels = std::make_shared<const Grid>(std::move(levels));
            return out;
        },
        [](const NamedSurfaceProduct& p) {
            return sizeof(p) + (p.levels ? bytesOf(*p.levels) : 0) + p.contours.size() * sizeof(ContourLine);
        });
}

} // namespace fox
