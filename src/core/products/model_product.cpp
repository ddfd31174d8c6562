#include "products/model_product.h"

#include "products/log_products.h"
#include "products/terrain_product.h"

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
    const auto data = base.fit.data.size(), bounds = base.fit.bounds.size();
    const auto equations = data <= std::size_t(kMostAtOnce) ? data + base.fit.active.size() : 0;
    return sizeof(base) + (data + bounds) * 200 + equations * equations * sizeof(double);
}

std::shared_ptr<const BaseSurface> baseOf(const Making& making, const Model& soFar, std::size_t u,
                                          const std::vector<Contact>& shown) {
    const auto& p = making.project;
    const auto& unit = p.sequence->units[u];
    const auto kind = "base of " + unit.code;
    const auto bytes = [](const BaseSurface& b) { return bytesOf(b); };
    const auto key = KeyPart::value(baseKey(unit));
    if (const auto fixed = p.fixedBases->find(unit.code); fixed != p.fixedBases->end()) {
        return making.cache.get(
            kind, {key, KeyPart::value(fixed->second), KeyPart::value(shown)},
            [&] { return fixedBase(baseKey(unit), std::make_shared<const FixedBase>(fixed->second), shown); }, bytes);
    }
    const auto frame = frameOf(p);
    const auto inputs = baseCandidates(soFar, *p.sequence, u, shown, *p.interpretation, frame ? frame->box() : Box2{});
    return making.cache.get(
        kind, {key, KeyPart::value(inputs)}, [&] { return fitBase(baseKey(unit), inputs, making.progress); }, bytes);
}

} // namespace

std::shared_ptr<const Model> modelProduct(const Making& making) {
    return making.once("model", [&] {
        const auto& p = making.project;
        const auto terrain = terrainProduct(making)->terrain;
        const auto all = rawContacts(making);
        Model model{p.sequence, terrain, std::vector<std::shared_ptr<const BaseSurface>>(all.size()), workingOrder(*p.sequence)};
        ProductKey key{p.sequence, terrain};
        for (std::size_t done = 0; done < all.size(); ++done) {
            const auto u = model.order.units[done];
            const auto& unit = p.sequence->units[u];
            making.progress.report(0.1 + 0.4 * double(done) / double(all.size()),
                                   fmt::format("Base of {}, {}", unit.name, words(unit.recipe.settings.method)));
            model.bases[u] = baseOf(making, model, u, *all[u]);
        }
        for (const auto& b : model.bases) key.push_back(b);
        return making.cache.get(
            "model", std::move(key), [&] { return model; }, [](const Model& m) { return sizeof(m) + bytesOf(m.bases); });
    });
}

} // namespace fox
