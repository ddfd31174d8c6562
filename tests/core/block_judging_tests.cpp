// How well blocks are told, and what is shown of it; edits of block models and excavations.
#include "blocks/block_judging.h"
#include "layered_fixtures.h"
#include "project/block_edits.h"
#include "sheets/block_plot.h"
#include "store/store.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

/// Readings of a field at holes, three a hole.
Composites readings(const std::function<double(Point3)>& field, int holes = 20) {
    Composites out;
    std::mt19937 random(5);
    std::uniform_real_distribution<double> at(0, 100);
    for (int h = 0; h < holes; ++h) {
        const double x = at(random), y = at(random);
        for (const double z : {0.0, -5.0, -10.0}) out.values.push_back({{x, y, z}, field({x, y, z}), {}, fmt::format("B{}", h)});
    }
    return out;
}

BlockModel modelOf(const std::vector<double>& values, std::array<int, 3> count) {
    BlockModel m;
    m.spec.dx = m.spec.dy = 10, m.spec.dz = 2;
    m.corner = {0, 0, 0};
    m.count = count;
    m.value = values;
    m.unit.assign(values.size(), 0);
    return m;
}

} // namespace

TEST_CASE("A hole that is left out is told by the others alone", "[blocks]") {
    BlockSpec spec;
    spec.method = BlockSpec::Method::Nearest;
    const auto data = readings([](Point3 p) { return p.x; });
    const auto judged = judgeBlocks(spec, data);
    CHECK(judged.holes == 20);
    CHECK(judged.holesTried == 20);
    REQUIRE(judged.told.size() == data.values.size());
    // by brute force: the value of the nearest reading of another hole
    double squares = 0;
    std::multiset<double> expected, found;
    for (const auto& c : data.values) {
        double nearest = 1e9, told = 0;
        for (const auto& o : data.values)
            if (o.hole != c.hole)
                if (const double d = std::hypot(o.place.x - c.place.x, o.place.y - c.place.y, o.place.z - c.place.z); d < nearest)
                    nearest = d, told = o.value;
        squares += (told - c.value) * (told - c.value);
        expected.insert(told);
    }
    for (const auto& t : judged.told) found.insert(t.predicted);
    CHECK(found == expected);
    CHECK(judged.errors.rmse == Approx(std::sqrt(squares / double(data.values.size()))));
    // one value everywhere is told without an error by every method
    const auto flat = readings([](Point3) { return 7.0; });
    for (const auto method : {BlockSpec::Method::InverseDistance, BlockSpec::Method::Kriging, BlockSpec::Method::Nearest}) {
        spec.method = method;
        CHECK(judgeBlocks(spec, flat).errors.rmse == Approx(0).margin(1e-9));
    }
    CHECK(judgeBlocks(spec, readings([](Point3) { return 1.0; }, 1)).told.empty());
    CHECK(std::isnan(judgeBlocks(spec, {}).errors.rmse));
}

TEST_CASE("Histogram, means in slices and the curve of the cut-off are those of the blocks", "[blocks]") {
    const auto m = modelOf({1, 2, kNoValue, 4, 5, 6, 7, 8}, {2, 2, 2});
    Composites data;
    data.values = {{{5, 5, 1}, 1, {}, "A"}, {{15, 5, 3}, 8, {}, "B"}};
    const auto h = histogramOf(m, data, 7);
    REQUIRE(h.limits.size() == 8);
    CHECK(h.limits.front() == 1);
    CHECK(h.limits.back() == Approx(8));
    double sum = 0, sumOfData = 0;
    for (const double s : h.blocks) sum += s;
    for (const double s : h.composites) sumOfData += s;
    CHECK(sum == Approx(1));
    CHECK(sumOfData == Approx(1));
    CHECK(h.blocks.back() == Approx(2.0 / 7)); // 7 and 8
    const auto east = swathOf(m, data, SwathAxis::East);
    REQUIRE(east.middle.size() == 2);
    CHECK(east.middle[0] == 5);
    CHECK(east.blocks[0] == Approx((1 + 5 + 7) / 3.0));
    CHECK(east.blocks[1] == Approx((2 + 4 + 6 + 8) / 4.0));
    CHECK(east.composites[1] == 8);
    const auto level = swathOf(m, data, SwathAxis::Level);
    CHECK(level.middle == std::vector<double>{1, 3});
    CHECK(level.blocks[1] == Approx(6.5));
    const auto curve = cutOffCurve(m, true, 70);
    for (std::size_t i = 0; i < curve.value.size(); ++i) {
        std::size_t n = 0;
        for (const double v : m.value) n += v > curve.value[i];
        CHECK(curve.volume[i] == Approx(200.0 * double(n)));
    }
    CHECK(cutOffCurve(m, false, 70).volume.front() == 0);
    CHECK(cutOffCurve(modelOf({kNoValue}, {1, 1, 1}), true).value.empty());
}

TEST_CASE("A section passes through the blocks that lie along it", "[blocks]") {
    const auto m = modelOf({1, 2, kNoValue, 4, 5, 6, 7, 8}, {2, 2, 2});
    // along the southern row, from outside to outside
    const auto south = blocksAlong(m, {{-5, 4}, {30, 4}});
    REQUIRE(south.size() == 4);
    double length = 0;
    for (const auto& b : south) {
        const auto c = m.centre(b.block);
        CHECK(c.y == 5);
        CHECK(b.from == Approx(c.x - 5 + 5).margin(1.01)); // its west face, 5 m after the line's start
        CHECK(b.high - b.low == 2);
        CHECK(c.z == Approx((b.low + b.high) / 2));
        length += b.to - b.from;
    }
    CHECK(length == Approx(2 * 20).margin(4.1));
    // across the block without a value
    const auto north = blocksAlong(m, {{0, 15}, {20, 15}});
    CHECK(north.size() == 3);
    CHECK(blocksAlong(m, {{100, 100}, {200, 100}}).empty());
    CHECK(blocksAlong(m, {}).empty());
}

TEST_CASE("Plots of blocks show what they are made from", "[blocks]") {
    const auto m = modelOf({1, 2, kNoValue, 4, 5, 6, 7, 8}, {2, 2, 2});
    Composites data;
    data.values = {{{5, 5, 1}, 1, {}, "A"}, {{15, 5, 3}, 8, 0, "B"}};
    const BlockJudgement judged{2, 2, {{1, 3, {}}, {8, 6, 0}}, {2, 2, 0}};
    const auto units = sequence({"S"});
    const BlockPlot plot{&m, &data, &judged, &units, "Gamma, API", {.above = 4.5}};
    const auto count = [](const paper::Drawing& d, const std::string& layer) {
        return std::ranges::count(d.items, layer, &paper::Item::layer);
    };
    CHECK(count(drawCutOffCurve(plot, 120, 80), "curve") == 1);
    CHECK(count(drawCutOffCurve(plot, 120, 80), "limit") == 1);
    CHECK(count(drawBlockHistogram(plot, 120, 80), "blocks") > 3);
    CHECK(count(drawSwath(plot, SwathAxis::North, 120, 80), "blocks") >= 2);
    CHECK(count(drawLeftOutHoles(plot, 120, 80), "values") == 2);
    auto part = plot;
    part.unit = 0, part.limits.below = 6;
    CHECK(count(drawLeftOutHoles(part, 120, 80), "values") == 1);
    CHECK(count(drawCutOffCurve(part, 120, 80), "limit") == 2); // between two values
    CHECK(count(drawBlockHistogram(part, 120, 80), "composites") == 1);
    const auto none = modelOf({kNoValue}, {1, 1, 1});
    const Composites noData;
    const BlockJudgement notJudged;
    const BlockPlot empty{&none, &noData, &notJudged, &units, "Gamma"};
    CHECK(count(drawCutOffCurve(empty, 120, 80), "curve") == 0);
    CHECK(count(drawBlockHistogram(empty, 120, 80), "blocks") == 0);
    CHECK(count(drawLeftOutHoles(empty, 120, 80), "values") == 0);
}

TEST_CASE("Block models and excavations are edited by name, and kept in the file", "[blocks]") {
    BlockSpec blocks;
    blocks.quantity = "GR", blocks.fromLevel = 0, blocks.toLevel = 10;
    auto p = addBlockModel(flatSite(), blocks).project;
    p = addBlockModel(p, blocks).project;
    REQUIRE(p.blockModels->size() == 2);
    CHECK((*p.blockModels)[0].name == "Blocks");
    CHECK((*p.blockModels)[1].name == "Blocks 2");
    ExcavationSpec dig;
    dig.name = "Pit", dig.wanted = ExcavationSpec::Wanted::Blocks, dig.blocks = "Blocks", dig.limit = 40;
    dig.slopes = {{"", 35}, {"G", 40}}, dig.bench = ExcavationSpec::Bench{3, 1}, dig.floor = -4, dig.cell = 2;
    dig.factors = {{"G", 1.2}}, dig.worth = ExcavationSpec::Worth{5, 1}, dig.insideRing = square(1010, 2010, 50);
    p = addExcavation(p, dig).project;
    ExcavationSpec floor;
    floor.name = "Floor", floor.wanted = ExcavationSpec::Wanted::Floor, floor.ring = square(1050, 2030, 20), floor.level = 5;
    floor.slopes = {{"", 45}};
    p = addExcavation(p, floor).project;
    const auto renamed = renameBlockModel(p, "Blocks", "Gamma");
    CHECK((*renamed.project.excavations)[0].blocks == "Gamma"); // it follows
    CHECK_THROWS_AS(renameBlockModel(p, "Blocks", "blocks 2"), Error);
    CHECK_THROWS_AS(renameExcavation(p, "Pit", " "), Error);
    CHECK_THROWS_AS(removeExcavation(p, "nothing"), Error);
    p = changeExcavation(
            p, "Floor", [](ExcavationSpec& e) { e.level = 4; }, "level")
            .project;
    const TemporaryFolder folder;
    ProjectStore::create(folder / "p.gpkg", p);
    const auto again = ProjectStore::read(folder / "p.gpkg");
    CHECK(*again.excavations == *p.excavations);
    CHECK(*again.blockModels == *p.blockModels);
    const auto set = Products().of(p, {}, {ProductKind::Excavations});
    REQUIRE(set->excavations.size() == 2);
    CHECK(set->excavations[0]->dig == nullptr);
    CHECK_FALSE(set->excavations[0]->problem.empty()); // no hole has gamma
    REQUIRE(set->excavations[1]->dig);
    CHECK(set->excavations[1]->dig->excavated > 20 * 20 * 5);
    p = removeExcavation(removeBlockModel(p, "Blocks").project, "Pit").project;
    CHECK(p.blockModels->size() == 1);
    CHECK(p.excavations->size() == 1);
}

TEST_CASE("Blocks of the demo's lead come near the truth, and their excavation frees it", "[blocks]") {
    const auto set = demoProducts();
    REQUIRE(set->blocks.size() == 1);
    INFO(set->blocks[0]->problem);
    REQUIRE(set->blocks[0]->blocks);
    const auto& m = *set->blocks[0]->blocks;
    double squares = 0, spread = 0, truth = 0;
    std::size_t n = 0;
    for (std::size_t b = 0; b < m.blocks(); ++b)
        if (!std::isnan(m.value[b])) {
            const auto c = m.centre(b);
            const double t = quernbeck::lead(c.x, c.y, c.z);
            squares += (m.value[b] - t) * (m.value[b] - t), spread += t * t, truth += t, ++n;
        }
    REQUIRE(n > 1000);
    const double mean = truth / double(n);
    CHECK(squares / double(n) < 0.25 * (spread / double(n) - mean * mean)); // over three quarters of its variance is told
    for (const auto& e : set->excavations) {
        INFO(e->spec.name << ": " << e->problem);
        REQUIRE(e->dig);
        CHECK(e->dig->wanted > 0);
        CHECK(e->dig->mass.has_value());
    }
}

TEST_CASE("Gamma of the demo's supply wells becomes blocks that tell gravel from clay", "[blocks][demo]") {
    auto p = demo().project;
    for (int i = 1; i <= 6; ++i) p = importSource(p, understood(fmt::format(FOX_DEMO "/supply_wells/SW{}.las", i))).project;
    p = importSource(p, understood(FOX_DEMO "/supply_wells/wells.xlsx"), {ImportChoices::Existing::Update, false, ""}).project;
    const auto spec =
        blockSpecOf(readBytes(FOX_DEMO "/supply_wells/gamma_blocks.json"), std::filesystem::path(FOX_DEMO) / "supply_wells");
    p.blockModels = part(std::vector{spec});
    const auto made = Products().of(p, {}, {ProductKind::Blocks})->blocks.front();
    INFO(made->problem);
    REQUIRE(made->blocks);
    std::map<std::string, std::pair<double, int>> byUnit;
    for (std::size_t b = 0; b < made->blocks->blocks(); ++b)
        if (const double v = made->blocks->value[b]; !std::isnan(v)) {
            auto& [sum, count] = byUnit[p.sequence->units[std::size_t(made->blocks->unit[b])].code];
            sum += v, ++count;
        }
    REQUIRE(byUnit.contains("RG"));
    REQUIRE(byUnit.contains("AL"));
    const auto mean = [&](const char* code) { return byUnit.at(code).first / byUnit.at(code).second; };
    CHECK(mean("RG") < 45);
    CHECK(mean("AL") > mean("RG") + 15);
    // what is farther than 400 m from every well is not known
    CHECK(made->blocks->known() < made->blocks->blocks() / 2);
}
