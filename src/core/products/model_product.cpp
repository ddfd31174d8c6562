#include "products/model_product.h"

#include "products/log_products.h"
#include "products/terrain_product.h"

#include <set>

namespace fox {

namespace {

/// What of a unit decides its base.
Unit baseKey(const Unit& u) {
    Unit key;
    key.code = u.code, key.name = u.name, key.recipe = u.recipe;
    key.recipe.grid.reset();
    return key;
}

/// Kriging and thin plates of all points keep the factorised matrix of their equations.
std::size_t bytesOf(const BaseSurface& base) {
    if (base.automatic) return sizeof(base) + base.automatic->bytes();
    const auto data = base.fit.data.size(), bounds = base.fit.bounds.size();
    const auto equations = data <= std::size_t(kMostAtOnce) ? data + base.fit.active.size() : 0;
    return sizeof(base) + (data + bounds) * 200 + equations * equations * sizeof(double);
}

/// Holes are counted by their places.
SiteShape siteShape(const Making& making, const std::shared_ptr<const Terrain>& terrain,
                    const std::vector<std::shared_ptr<const std::vector<Contact>>>& contacts) {
    SiteShape site;
    if (const auto frame = frameOf(making.project)) site.extent = frame->box();
    std::set<std::string> holes;
    for (const auto& unit : contacts)
        for (const auto& c : *unit) holes.insert(c.source());
    if (!site.extent.empty() && !holes.empty())
        site.spacing = std::max(1.0, std::sqrt(site.extent.width() * site.extent.height() / double(holes.size())));
    if (!terrain->empty())
        site.ground = making.cache.get(
            "shape of the ground", {terrain, KeyPart::value(site.extent), KeyPart::value(site.spacing)},
            [&] { return GroundShape(*terrain, site.extent, site.spacing); },
            [](const GroundShape&) { return std::size_t(7 * GroundShape::kCells * GroundShape::kCells) * sizeof(double); });
    return site;
}

/// The automatic base of the held model with the levels of these inputs; null if it can't be that.
std::shared_ptr<const BaseSurface> heldBase(const Making& making, const std::string& kind, std::size_t u,
                                            const AutomaticInputs& now) {
    if (making.held->bases.size() + 1 != making.project.sequence->units.size()) return nullptr;
    const auto like = making.held->bases[u];
    if (!like || !like->automatic || baseKey(making.held->sequence->units[u]) != baseKey(making.project.sequence->units[u]))
        return nullptr;
    if (like->automatic->inputs() == now) return like;
    auto held = like->automatic->held(now);
    if (!held) return nullptr;
    return making.cache.get(
        kind + ", held", {like, KeyPart::value(now)},
        [&] {
            auto base = *like;
            base.automatic = std::make_shared<const AutomaticBase>(std::move(*held));
            return base;
        },
        [](const BaseSurface& b) { return bytesOf(b); });
}

/// Raw contacts of the other units that share its variogram.
std::vector<SeriesContacts> seriesOf(const Sequence& sequence, std::size_t u,
                                     const std::vector<std::shared_ptr<const std::vector<Contact>>>& contacts) {
    std::vector<SeriesContacts> out;
    const auto& series = sequence.units[u].recipe.series;
    for (std::size_t other = 0; other < contacts.size() && !series.empty(); ++other)
        if (other != u && sequence.units[other].recipe.series == series) out.push_back({other, contacts[other]});
    return out;
}

std::shared_ptr<const BaseSurface> baseOf(const Making& making, const Model& soFar, std::size_t u,
                                          const std::vector<std::shared_ptr<const std::vector<Contact>>>& contacts,
                                          const SiteShape& site) {
    const auto& p = making.project;
    const auto& shown = *contacts[u];
    const auto& unit = p.sequence->units[u];
    const auto kind = "base of " + unit.code;
    const auto bytes = [](const BaseSurface& b) { return bytesOf(b); };
    const auto key = KeyPart::value(baseKey(unit));
    if (const auto fixed = p.fixedBases->find(unit.code); fixed != p.fixedBases->end()) {
        return making.cache.get(
            kind, {key, KeyPart::value(fixed->second), KeyPart::value(shown)},
            [&] { return fixedBase(baseKey(unit), std::make_shared<const FixedBase>(fixed->second), shown); }, bytes);
    }
    if (making.held && unit.recipe.automatic)
        if (auto held = heldBase(making, kind, u, *soFar.averages[u])) return held;
    const auto inputs = baseCandidates(soFar, *p.sequence, u, shown, *p.interpretation, site, seriesOf(*p.sequence, u, contacts));
    if (unit.recipe.automatic)
        return making.cache.get(
            kind, {key, KeyPart::value(inputs), KeyPart::value(*soFar.averages[u])},
            [&] { return fitAutomaticBase(baseKey(unit), *soFar.averages[u], inputs, making.progress); }, bytes);
    return making.cache.get(
        kind, {key, KeyPart::value(inputs)}, [&] { return fitBase(baseKey(unit), inputs, making.progress); }, bytes);
}

/// The level down to which the oldest unit goes; kNoValue if nothing says so, or there is no hole to go by.
double floorOf(const Project& p) {
    if (p.sequence->units.empty() || !p.sequence->units.back().floor) return kNoValue;
    const auto& floor = *p.sequence->units.back().floor;
    if (floor.from == UnitFloor::From::Datum) return floor.metres;
    double deepest = kNoValue;
    for (const auto& hole : *p.holes)
        if (const auto path = HolePath::of(hole)) deepest = std::fmin(deepest, path->at(hole.end()).z);
    return deepest - floor.metres;
}

} // namespace

std::shared_ptr<const Model> modelProduct(const Making& making) {
    return making.once("model", [&] {
        const auto& p = making.project;
        const auto terrain = terrainProduct(making)->terrain;
        const auto all = rawContacts(making);
        Model model{p.sequence, terrain, std::vector<std::shared_ptr<const BaseSurface>>(all.size()), workingOrder(*p.sequence)};
        model.averages.resize(all.size());
        ProductKey key{p.sequence, terrain};
        const auto site = siteShape(making, terrain, all);
        for (std::size_t done = 0; done < all.size(); ++done) {
            const auto u = model.order.units[done];
            const auto& unit = p.sequence->units[u];
            making.progress.report(0.1 + 0.4 * double(done) / double(all.size()),
                                   fmt::format("Base of {}, {}", unit.name, methodInWords(methodOf(unit.recipe))));
            if (!p.fixedBases->contains(unit.code))
                model.averages[u] = std::make_shared<const AutomaticInputs>(
                    automaticInputs(model, *p.sequence, u, *all[u], *p.interpretation, site));
            model.bases[u] = baseOf(making, model, u, all, site);
        }
        for (const auto& b : model.bases) key.push_back(b);
        model.floor = floorOf(p);
        key.push_back(KeyPart::value(std::isnan(model.floor) ? std::optional<double>() : model.floor));
        return making.cache.get(
            "model", std::move(key), [&] { return model; }, [](const Model& m) { return sizeof(m) + bytesOf(m.bases); });
    });
}

} // namespace fox
