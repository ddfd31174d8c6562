// Equally likely values in blocks.
#include "blocks/block_simulation.h"
#include "layered_fixtures.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

/// Blocks of 10 m by 10 m by 1 m, all with a value.
std::shared_ptr<BlockModel> cube(int n, int up = 4) {
    auto m = std::make_shared<BlockModel>();
    m->spec.dx = m->spec.dy = 10, m->spec.dz = 1, m->spec.vertical = 10, m->spec.neighbours = 16;
    m->count = {n, n, up};
    m->value.assign(std::size_t(n * n * up), 1);
    m->unit.assign(m->value.size(), 0);
    return m;
}

} // namespace

TEST_CASE("A field of waves has the variogram that was asked for", "[blocks][property]") {
    for (const auto model : {VariogramModel::Spherical, VariogramModel::Exponential, VariogramModel::Gaussian}) {
        const Variogram v{model, 0, 2, 50};
        for (const double lag : {2.0, 10.0, 25.0, 50.0, 120.0}) {
            CAPTURE(int(model), lag);
            double gamma = 0;
            constexpr int kFields = 2000;
            for (int f = 0; f < kFields; ++f) {
                const WaveField field(v, 100, std::uint64_t(f), 60);
                const double d = field.at({3, 4, 5}) - field.at({3 + lag * 0.6, 4, 5 - lag * 0.8});
                gamma += d * d / 2 / kFields;
            }
            CHECK(gamma == Approx(v.at(lag)).epsilon(0.08).margin(0.02));
        }
    }
}

TEST_CASE("Simulated blocks go through the composites, and spread away from them", "[blocks]") {
    const auto m = cube(9);
    Composites data;
    std::mt19937 random(3);
    for (int i = 0; i < 40; ++i) {
        const auto b = std::size_t(random() % m->blocks());
        data.values.push_back({m->centre(b), double(10 + random() % 90), 0, fmt::format("B{}", i)});
    }
    // two of one place are one
    std::ranges::sort(data.values, {}, [](const Composite& c) { return std::tuple(c.place.x, c.place.y, c.place.z); });
    data.values.erase(std::unique(data.values.begin(), data.values.end(),
                                  [](const Composite& a, const Composite& b) { return a.place == b.place; }),
                      data.values.end());
    const BlockSimulation simulated(m, data, 50, 7);
    double least = 1e9, most = -1e9;
    for (const auto& c : data.values) least = std::min(least, c.value), most = std::max(most, c.value);
    for (const auto& c : data.values)
        for (std::size_t b = 0; b < m->blocks(); ++b)
            if (m->centre(b) == c.place)
                for (int r = 0; r < 50; ++r) CHECK(simulated.value(b, r) == Approx(c.value).margin(1e-3));
    double spread = 0;
    for (std::size_t b = 0; b < m->blocks(); ++b)
        for (int r = 0; r < 50; ++r) {
            CHECK(simulated.value(b, r) >= least - 1e-3);
            CHECK(simulated.value(b, r) <= most + 1e-3);
            spread += std::abs(simulated.value(b, r) - simulated.value(b, 0));
        }
    CHECK(spread > 1000);
    // probabilities and volumes count the same values
    const auto above = simulated.probability({.above = 50}), below = simulated.probability({.below = 50});
    double mean = 0;
    for (std::size_t b = 0; b < m->blocks(); ++b) {
        int n = 0;
        for (int r = 0; r < 50; ++r) n += simulated.value(b, r) > 50;
        CHECK(above[b] == Approx(n / 50.0));
        CHECK(above[b] + below[b] <= 1 + 1e-12);
        mean += above[b] * m->blockVolume();
    }
    const auto range = simulated.volume({.above = 50});
    CHECK(range.p10 <= range.p50);
    CHECK(range.p50 <= range.p90);
    CHECK(mean > range.p10 * 0.9);
    CHECK(mean < range.p90 * 1.1);
    // the same seed gives the same, another one another
    CHECK(BlockSimulation(m, data, 50, 7).volume({.above = 50}).p50 == range.p50);
    CHECK(BlockSimulation(m, data, 5, 8).value(0, 0) != simulated.value(0, 0));
}

TEST_CASE("The truth of a random field lies in its simulated range", "[blocks][property]") {
    // a field is drawn, read at places, and simulated from these: its volume above a value is in P10 to P90 in most cases
    int within = 0;
    constexpr int kCases = 16;
    for (int i = 0; i < kCases; ++i) {
        const auto m = cube(10, 3);
        const WaveField truth({VariogramModel::Spherical, 0, 1, 60}, 100, std::uint64_t(1000 + i));
        Composites data;
        std::mt19937 random{unsigned(i)};
        for (int h = 0; h < 14; ++h) {
            const double x = double(random() % 100), y = double(random() % 100);
            for (int k = 0; k < 3; ++k)
                data.values.push_back({{x, y, k + 0.5}, truth.at({x, y, 10 * (k + 0.5)}), 0, fmt::format("B{}", h)});
        }
        double volume = 0;
        for (std::size_t b = 0; b < m->blocks(); ++b) {
            const auto c = m->centre(b);
            if (truth.at({c.x, c.y, 10 * c.z}) > 0.3) volume += m->blockVolume();
        }
        const auto range = BlockSimulation(m, data, 40, std::uint64_t(i)).volume({.above = 0.3});
        within += range.contains(volume);
    }
    CHECK(within >= kCases / 2); // 80 % are meant, by few cases and a fitted variogram
    CHECK(within <= kCases);
}

TEST_CASE("What can't be simulated is refused", "[blocks]") {
    const auto m = cube(4);
    Composites one;
    one.values = {{{5, 5, 0.5}, 3, 0, "A"}, {{25, 5, 0.5}, 3, 0, "B"}};
    CHECK_THROWS_AS(BlockSimulation(m, one, 10), Error);
    one.values[1].value = 4;
    CHECK_NOTHROW(BlockSimulation(m, one, 10));
    CHECK_THROWS_AS(BlockSimulation(m, one, 1'000'000), Error);
    // by units: one that has a single value keeps it, the other one is drawn
    auto units = cube(4);
    units->spec.within = true;
    for (std::size_t b = 0; b < units->blocks(); ++b) units->unit[b] = b < 8 ? 1 : 0, units->value[b] = b < 8 ? 7 : 3;
    auto both = one;
    both.values.push_back({{5, 5, 3.5}, 7, 1, "C"});
    const BlockSimulation byUnit(units, both, 10);
    for (int r = 0; r < 10; ++r) CHECK(byUnit.value(0, r) == 7);
    CHECK(byUnit.value(20, 0) <= 4);
    auto none = cube(2);
    none->value.assign(none->value.size(), kNoValue);
    const BlockSimulation empty(none, one, 10);
    CHECK(empty.volume({.above = 0}).p50 == 0);
    CHECK(std::isnan(empty.probability({.above = 0})[0]));
}
