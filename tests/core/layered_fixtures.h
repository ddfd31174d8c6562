#pragma once
// Sites that are parted into layers and meshes.
#include "fixtures.h"
#include "handover/layer_files.h"
#include "products/products.h"

#include <fmt/format.h>

namespace fox::test {

/// Level ground at 10 m over 200 m by 100 m from 1000, 2000; sand to 6 m, clay to 4 m, gravel to 0 m, rock; each with its values.
inline Project flatSite() {
    Project p;
    p.name = "Flat";
    p.ground = part(groundOf("1000 2000 10, 1200 2000 10, 1200 2100 10, 1000 2100 10"));
    Holes holes;
    for (const auto& [id, x, y] :
         {std::tuple{"B1", 1020.0, 2020.0}, {"B2", 1180.0, 2030.0}, {"B3", 1100.0, 2080.0}, {"B4", 1060.0, 2050.0}})
        holes.push_back(hole(id, x, y, 10, {{4, "S"}, {6, "C"}, {10, "G"}, {14, "R"}}));
    giveNames(holes);
    p.holes = part(std::move(holes));
    auto s = sequence({"S", "C", "G", "R"});
    s.units[0].values = {{"conductivity", 1e-4}, {"vertical_conductivity", 1e-5}};
    s.units[1].values = {{"conductivity", 1e-8}, {"vertical_conductivity", 1e-9}};
    s.units[2].values = {{"conductivity", 1e-3}, {"vertical_conductivity", 1e-4}};
    s.units[3].values = {{"conductivity", 1e-7}};
    p.sequence = part(std::move(s));
    return p;
}

/// A site with a valley, a lens that pinches out and a dipping rock, by its holes.
inline Project unevenSite(unsigned seed, int holeCount = 25) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> east(1000, 1400), north(2000, 2300), wave(0, 6.28);
    const double a = wave(random), b = wave(random);
    const auto ground = [&](double x, double y) { return 30 + 3 * std::sin(x / 90 + a) + 0.01 * (y - 2000); };
    Project p;
    std::string survey;
    for (int i = 0; i <= 20; ++i)
        for (int j = 0; j <= 15; ++j)
            survey += fmt::format("{}{} {} {:.3f}", survey.empty() ? "" : ", ", 1000 + 20 * i, 2000 + 20 * j,
                                  ground(1000 + 20 * i, 2000 + 20 * j));
    p.ground = part(groundOf(survey));
    Holes holes;
    for (int i = 0; i < holeCount; ++i) {
        const double x = std::round(east(random)), y = std::round(north(random));
        const double sand = std::max(0.0, 3 + 4 * std::sin(x / 70 + b)), clay = sand + 2 + std::cos(y / 60), rock = clay + 5;
        const auto id = fmt::format("B{}", i + 1);
        if (sand > 0.05)
            holes.push_back(hole(id, x, y, ground(x, y), {{sand, "S"}, {clay, "C"}, {rock, "G"}, {rock + 3, "R"}}));
        else
            holes.push_back(hole(id, x, y, ground(x, y), {{clay, "C"}, {rock, "G"}, {rock + 3, "R"}}));
    }
    giveNames(holes);
    p.holes = part(std::move(holes));
    p.sequence = part(sequence({"S", "C", "G", "R"}));
    return p;
}

inline std::shared_ptr<const LayerProduct> layersOf(Project p, const LayerSpec& spec) {
    p.layeredGrids = part(std::vector{spec});
    return Products().of(p, {}, {ProductKind::Layers})->layers.front();
}

/// The flat site in four layers of 10 m cells, rock down to -10 m.
inline LayerSpec flatSpec() {
    LayerSpec spec;
    spec.name = "grid";
    spec.grid = PlanGrid({1000, 2100}, 0, std::vector<double>(20, 10), std::vector<double>(10, 10));
    spec.layers = {{"sand", {"S"}}, {"clay", {"C"}}, {"gravel", {"G"}}, {"rock", {"R"}}};
    spec.layers.back().bottom = FieldSource{FieldSource::From::Number, -10, ""};
    return spec;
}

} // namespace fox::test
