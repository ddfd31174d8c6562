#include "products/grid_products.h"

#include "model/unit_top.h"
#include "products/model_product.h"
#include "products/terrain_product.h"

#include <chrono>

namespace fox {

namespace {

/// Samples bases one by one: each once for all that is measured from it.
class RawGrids {
public:
    RawGrids(const Making& making, const Model& model, std::shared_ptr<const Grid> ground)
        : m_making(making), m_model(model), m_ground(std::move(ground)), m_grids(model.bases.size()) {}

    std::vector<std::shared_ptr<const Grid>> make() {
        const auto& units = m_making.project.sequence->units;
        for (std::size_t done = 0; done < m_grids.size(); ++done) {
            const auto u = m_model.order.units[done];
            m_making.progress.report(0.7 + 0.2 * double(done) / double(m_grids.size()),
                                     fmt::format("Sampling the base of {}", units[u].name));
            m_grids[u] = of(u);
        }
        return m_grids;
    }
    std::size_t sampled() const { return m_sampled; }

private:
    std::shared_ptr<const Grid> of(std::size_t u) {
        const auto& base = m_model.bases[u];
        if (!base->measuredFromTop()) {
            const auto& sequence = *m_making.project.sequence;
            const auto other = base->measuredFromBase() ? sequence.index(base->in.against) : std::nullopt;
            const auto& from = other ? m_grids[*other] : m_ground;
            return sample(u, {base, from}, [&] { return sampleBase(*base, {from.get(), nullptr}, m_making.progress); });
        }
        const std::span younger(m_grids.data(), u);
        ProductKey key{base, m_ground};
        key.insert(key.end(), younger.begin(), younger.end());
        const auto* against = base->younger ? m_grids[*base->younger].get() : nullptr;
        if (base->younger) key.push_back(m_grids[*base->younger]);
        std::vector<BaseRule> rules; // the top is that of the stack: a base that laps is held up
        for (std::size_t k = 0; k < u; ++k) rules.push_back(m_making.project.sequence->units[k].base);
        key.push_back(KeyPart::value(std::move(rules)));
        return sample(u, std::move(key), [&] {
            const auto top = topOf(*m_making.project.sequence, *m_ground, younger);
            return sampleBase(*base, {&top, against}, m_making.progress);
        });
    }

    template <typename Sampled>
    std::shared_ptr<const Grid> sample(std::size_t u, ProductKey key, const Sampled& sampled) {
        return m_making.cache.get(
            "raw grid of " + m_making.project.sequence->units[u].code, std::move(key),
            [&] {
                ++m_sampled;
                return sampled();
            },
            [](const Grid& g) { return bytesOf(g); });
    }

    const Making& m_making;
    const Model& m_model;
    std::shared_ptr<const Grid> m_ground;
    std::vector<std::shared_ptr<const Grid>> m_grids;
    std::size_t m_sampled = 0;
};

std::size_t bytesOf(const ModelGrid& grid) {
    std::size_t bytes = sizeof(grid) + fox::bytesOf(grid.ground) + fox::bytesOf(grid.findings);
    for (const auto& b : grid.bases) bytes += fox::bytesOf(b);
    return bytes;
}

} // namespace

std::size_t expectedBytes(const Frame& frame, std::size_t units) { return frame.cells() * sizeof(double) * (1 + 2 * units); }

std::shared_ptr<const Grid> groundGrid(const Making& making) {
    return making.once("ground grid", [&]() -> std::shared_ptr<const Grid> {
        const auto frame = frameOf(making.project);
        if (!frame) return nullptr;
        const auto terrain = terrainProduct(making)->terrain;
        making.progress.report(0.65, "Sampling the ground");
        return making.cache.get(
            "ground grid", {terrain, KeyPart::value(*frame)}, [&] { return terrain->sampled(*frame, making.progress); },
            [](const Grid& g) { return bytesOf(g); });
    });
}

std::optional<GridProducts> gridProducts(const Making& making) {
    return making.once("grids", [&]() -> std::optional<GridProducts> {
        const auto& sequence = making.project.sequence;
        const auto ground = groundGrid(making);
        if (!ground || sequence->units.empty()) return {};
        const auto model = modelProduct(making);
        GridProducts out;
        const auto start = std::chrono::steady_clock::now();
        RawGrids raw(making, *model, ground);
        out.raw = raw.make();
        if (raw.sampled() == out.raw.size() && !out.raw.empty()) {
            const std::chrono::duration<double> took = std::chrono::steady_clock::now() - start;
            out.secondsPerCell = took.count() / double(ground->frame.cells());
        }
        ProductKey key{sequence, ground, model};
        key.insert(key.end(), out.raw.begin(), out.raw.end());
        out.model = making.cache.get(
            "model grid", std::move(key), [&] { return stackGrids(*model, *ground, out.raw); },
            [](const ModelGrid& g) { return bytesOf(g); });
        out.volumes = making.cache.get(
            "volumes", {out.model}, [&] { return volumesOf(*out.model); },
            [](const Volumes& v) { return sizeof(v) + fox::bytesOf(v.units); });
        return out;
    });
}

} // namespace fox
