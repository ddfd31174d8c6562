// What blocks come to by unit, level and limits; and block models that are left out of date.
#include "base/text.h"
#include "blocks/block_judging.h"
#include "blocks/block_totals.h"
#include "layered_fixtures.h"
#include "products/block_product.h"
#include "project/block_edits.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

/// Three layers of four blocks of 2 x 2 x 1 m; the middle layer has one that is unknown, the lowest lies outside in part.
struct SmallModel {
    BlockModel model;
    Sequence sequence;
    SmallModel() {
        for (const char* code : {"A", "B"}) {
            Unit u;
            u.code = u.name = code;
            u.values["unit_weight"] = code[0] == 'A' ? 18.0 : 20.0;
            sequence.units.push_back(u);
        }
        model.spec.dx = model.spec.dy = 2, model.spec.dz = 1;
        model.corner = {0, 0, 10};
        model.count = {2, 2, 3};
        const double none = kNoValue;
        model.value = {1, 2, none, none, 3, 4, 5, none, 6, 7, 8, 9};
        model.unit = {1, 1, 1, -1, 1, 0, 0, 0, 0, 0, 0, 0};
    }
};

BlockSpec gammaOfFlatSite() {
    BlockSpec spec;
    spec.name = "depth", spec.of = BlockSpec::Of::Values, spec.quantity = "v";
    spec.dx = spec.dy = 20, spec.dz = 1, spec.fromLevel = 0, spec.toLevel = 10;
    return spec;
}

Project siteWithValues() {
    auto p = flatSite();
    p.site = part(Site{"", Frame{1000, 2000, 1200, 2100, 10}, {}});
    std::vector<ValuePoint> points;
    for (int i = 0; i < 10; ++i) points.push_back({{1010 + 18.0 * i, 2050, 1.0 + i % 7}, double(i)});
    p.valuePoints = part(std::vector{ValueSource{"v.csv", "v", "", SharedList<ValuePoint>(points)}});
    p.blockModels = part(std::vector{gammaOfFlatSite()});
    return p;
}

} // namespace

TEST_CASE("Totals by unit and by level add up to the whole", "[blocks]") {
    const SmallModel s;
    const auto all = totalOf(s.model, s.sequence);
    CHECK(all.blocks == 9);
    CHECK(all.volume == 36);
    CHECK(all.unknown == 2);
    CHECK(all.mean == Approx(5));
    CHECK(all.least == 1);
    CHECK(all.most == 9);
    const double g = 9.80665;
    CHECK(*all.mass == Approx(4 * (3 * 20 + 6 * 18) / g));
    const auto units = totalsByUnit(s.model, s.sequence);
    REQUIRE(units.size() == 2);
    CHECK(units[0].total.blocks == 6);
    CHECK(units[0].total.unknown == 1);
    CHECK(units[1].total.blocks == 3);
    CHECK(units[1].total.mean == Approx(2));
    const auto levels = totalsByLevel(s.model, s.sequence);
    REQUIRE(levels.size() == 3);
    CHECK(levels[0].from == 12);
    CHECK(levels[0].to == 13);
    CHECK(levels[0].total.blocks == 4);
    CHECK(levels[2].total.unknown == 1);
    double volume = 0, mass = 0;
    for (const auto& l : levels) volume += l.total.volume, mass += *l.total.mass;
    CHECK(volume == all.volume);
    CHECK(mass == Approx(*all.mass));
}

TEST_CASE("Limits are above, below, or between, and do not hold at the limit itself", "[blocks]") {
    const SmallModel s;
    CHECK(totalOf(s.model, s.sequence, {.above = 3}).blocks == 6);
    CHECK(totalOf(s.model, s.sequence, {.below = 3}).blocks == 2);
    CHECK(totalOf(s.model, s.sequence, {.above = 2, .below = 6}).blocks == 3);
    CHECK(totalOf(s.model, s.sequence, {.above = 6, .below = 2}).blocks == 0);
    CHECK_FALSE(ValueLimits{}.hold(kNoValue));
    CHECK(ValueLimits{}.hold(-1e300));
    const auto none = totalOf(s.model, s.sequence, {.above = 100});
    CHECK(none.mass == 0.0);
    CHECK(std::isnan(none.mean));
    auto light = s;
    light.sequence.units[1].values.clear();
    CHECK_FALSE(totalOf(light.model, light.sequence).mass);
    CHECK(totalOf(light.model, light.sequence, {.above = 5}).mass); // none of those is of the unit without a weight
}

TEST_CASE("The table by unit and level has a row for all, each unit, each layer", "[blocks]") {
    const SmallModel s;
    const auto text = totalsCsv(s.model, s.sequence, {.above = 2});
    const auto lines = split(text, '\n');
    REQUIRE(lines.size() == 1 + 1 + 2 + 3 + 1); // the last is empty
    CHECK(lines[0] == "by,unit,from_level,to_level,blocks,volume,mass,mean,least,most,unknown");
    CHECK(std::string(lines[1]).starts_with("all,,,,7,28,"));
    CHECK(std::string(lines[2]).starts_with("unit,A,,,6,24,"));
    CHECK(std::string(lines[4]).starts_with("level,,12,13,4,16,"));
    CHECK(std::string(lines[6]) == "level,,10,11,0,0,0,,,,1");
}

TEST_CASE("A histogram and errors of one unit leave the others out", "[blocks]") {
    const SmallModel s;
    Composites data;
    for (int i = 0; i < 6; ++i) data.values.push_back({{0, 0, 0}, double(i), std::size_t(i % 2), "B"});
    const auto all = histogramOf(s.model, data, 8), one = histogramOf(s.model, data, 8, 1);
    CHECK(all.limits.front() == 0);
    CHECK(all.limits.back() == 9);
    CHECK(one.limits.front() == 1);
    CHECK(one.limits.back() == 5); // its blocks 1 to 3, its readings 1, 3, 5
    double blocks = 0, readings = 0;
    for (std::size_t k = 0; k < 8; ++k) blocks += one.blocks[k], readings += one.composites[k];
    CHECK(blocks == Approx(1));
    CHECK(readings == Approx(1));
    const std::vector<BlockJudgement::Told> told{{1, 3, 0}, {2, 1, 0}};
    CHECK(errorsOf(told).bias == Approx(0.5));
    CHECK(errorsOf(told).mae == Approx(1.5));
    CHECK(errorsOf(told).rmse == Approx(std::sqrt(2.5)));
    CHECK(std::isnan(errorsOf({}).rmse));
}

TEST_CASE("Blocks that take long are left out of date until they are asked for", "[blocks][products]") {
    Products products;
    products.setPatience(0); // everything takes long
    const auto of = [&](const Project& p, Products::Slow slow = Products::Slow::Leave) {
        return products.of(p, {}, {ProductKind::Blocks}, nullptr, slow)->blocks.front();
    };
    auto p = siteWithValues();
    const auto first = of(p);
    REQUIRE(first->blocks); // what was never made is made
    CHECK_FALSE(first->outOfDate);
    CHECK(first->seconds > 0);
    CHECK(first->madeAt.time_since_epoch().count() > 0);
    const auto before = p;
    p = changeBlockModel(
            p, "depth", [](BlockSpec& s) { s.neighbours = 3; }, "neighbours")
            .project;
    const auto left = of(p);
    CHECK(left->outOfDate);
    CHECK(left->blocks == first->blocks);
    CHECK(left->spec.neighbours != 3); // what was made, not what is wanted
    CHECK(of(p) == left);              // the same, so that nothing that shows it is worked out again
    CHECK(of(before) == first);        // undone: up to date
    CHECK(of(p)->outOfDate);
    products.setAgain({"depth"});
    const auto again = of(p);
    CHECK_FALSE(again->outOfDate);
    CHECK(again->spec.neighbours == 3);
    p = changeBlockModel(
            p, "depth", [](BlockSpec& s) { s.neighbours = 5; }, "neighbours")
            .project;
    CHECK(of(p)->outOfDate); // once was asked for, not always
    CHECK_FALSE(of(p, Products::Slow::Make)->outOfDate);
    p = changeBlockModel(
            p, "depth", [](BlockSpec& s) { s.neighbours = 6; }, "neighbours")
            .project;
    CHECK(of(p)->outOfDate);
    products.forgetBlocks(); // another project
    CHECK_FALSE(of(p)->outOfDate);
    products.setPatience(3600);
    p = changeBlockModel(
            p, "depth", [](BlockSpec& s) { s.neighbours = 7; }, "neighbours")
            .project;
    CHECK_FALSE(of(p)->outOfDate);
    CHECK(of(p)->spec.neighbours == 7);
}
