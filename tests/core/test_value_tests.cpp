// Values of tests by unit, water by time, and the plots of both.
#include "fixtures.h"
#include "holes/water_levels.h"
#include "sequence/hole_values.h"
#include "sequence/test_values.h"
#include "sheets/plots.h"

#include <catch2/catch.hpp>
#include <random>

using namespace fox;
using namespace fox::test;

namespace {

struct ProbedSite {
    Holes holes;
    Sequence sequence;
    InterpretedLogs logs;
};

/// Two holes of a sand on a clay, with tests.
ProbedSite probedSite() {
    ProbedSite s;
    s.sequence.units = {{}, {}};
    s.sequence.units[0].code = "SA", s.sequence.units[0].name = "Sand";
    s.sequence.units[1].code = "CL", s.sequence.units[1].name = "Clay";
    s.sequence.unitHeading = "GEOL_GEOL";
    for (int i = 0; i < 2; ++i) {
        Hole h;
        h.id = h.name = i == 0 ? "A" : "B";
        h.easting = 480500 + 50 * i, h.northing = 6120500, h.level = Level{30.0 + i}, h.finalDepth = Depth{10};
        h.intervals = {{Depth{0}, Depth{4}, "", {{"GEOL_GEOL", "SA"}}, 1}, {Depth{4}, Depth{10}, "", {{"GEOL_GEOL", "CL"}}, 2}};
        h.blowCounts = {{Depth{1}, 10.0 + i}, {Depth{3}, 14.0 + i}, {Depth{6}, 30}, {Depth{8}, 50, 75.0}};
        h.coreRuns = {{Depth{5}, Depth{7}, 90, 80, 40}};
        Curve moisture{
            "moisture content", "%", "", true,
            std::make_shared<const std::vector<Curve::Reading>>(std::vector<Curve::Reading>{{2, 12}, {5, 30}, {7, kNoValue}})};
        moisture.written = {{1, "<30"}, {2, "NP"}};
        h.curves = {moisture};
        s.holes.push_back(h);
    }
    s.logs = readHoles(s.holes, s.sequence);
    return s;
}

const TestStatistics* of(const std::vector<TestStatistics>& all, std::optional<std::size_t> unit) {
    const auto at = std::ranges::find(all, unit, &TestStatistics::unit);
    return at == all.end() ? nullptr : &*at;
}

} // namespace

TEST_CASE("Tests of a site by what they tell, with their values by unit", "[sequence][values]") {
    const auto s = probedSite();
    const auto all = testQuantities(s.holes);
    REQUIRE(all.size() == 6);
    CHECK(all[0].name == "SPT N");
    CHECK(all[0].values == 8);
    CHECK(all[1].name == "SPT N, stopped tests extrapolated"); // only where it is asked for
    const auto extrapolated = testValues(all[1], s.holes, s.logs);
    REQUIRE(extrapolated.size() == 8);
    CHECK(extrapolated[3].value == 200);
    CHECK(extrapolated[3].kind == TestValueKind::Value);
    const auto values = testValues(all[0], s.holes, s.logs);
    REQUIRE(values.size() == 8);
    CHECK(values[0].level == 29.0);
    CHECK(values[0].unit == std::size_t(0));
    CHECK(values[3].kind == TestValueKind::Limit);
    CHECK(values[3].written == "50/75");
    const auto statistics = statisticsByUnit(values);
    REQUIRE(statistics.size() == 2);
    CHECK(statistics[0].values == 4);
    CHECK(statistics[0].mean == Approx(12.5));
    CHECK(statistics[0].median == Approx(12.5));
    CHECK(statistics[0].least == 10);
    CHECK(statistics[0].most == 15);
    CHECK(statistics[0].deviation == Approx(std::sqrt((2.5 * 2.5 + 1.5 * 1.5 + 1.5 * 1.5 + 2.5 * 2.5) / 3)));
    CHECK(statistics[1].values == 2); // the two that were stopped are in no figure
    CHECK(statistics[1].others == 2);
    CHECK(statistics[1].mean == 30);
}

TEST_CASE("N60 is a quantity of its own where the energy ratio is known", "[sequence][values]") {
    auto s = probedSite();
    s.holes.change(0).blowCounts[0].energyRatio = 72;
    s.logs = readHoles(s.holes, s.sequence);
    const auto all = testQuantities(s.holes);
    const auto at = std::ranges::find(all, "SPT N60", &TestQuantity::name);
    REQUIRE(at != all.end());
    CHECK(at->values == 1);
    CHECK(testValues(*at, s.holes, s.logs)[0].value == Approx(12));
}

TEST_CASE("Limits and words are counted apart", "[sequence][values]") {
    const auto s = probedSite();
    const auto values = testValues({"moisture content", "%", 0}, s.holes, s.logs);
    REQUIRE(values.size() == 6);
    CHECK(values[1].kind == TestValueKind::Limit);
    CHECK(values[2].kind == TestValueKind::Word);
    const auto statistics = statisticsByUnit(values);
    CHECK(of(statistics, 0)->values == 2);
    CHECK(of(statistics, 0)->deviation == 0);
    CHECK(of(statistics, 1)->values == 0);
    CHECK(of(statistics, 1)->others == 4);
    CHECK(std::isnan(of(statistics, 1)->mean));
    const auto csv = statisticsCsv({"moisture content", "%", 0}, statistics, s.sequence);
    CHECK(csv.find("moisture content,%,SA,2,0,12,12,12,12,0\n") != csv.npos);
    CHECK(csv.find("moisture content,%,CL,0,4,,,,,\n") != csv.npos);
    const auto rows = testValuesCsv({"moisture content", "%", 0}, values, s.holes, s.sequence);
    CHECK(rows.find("moisture content,%,A,5.00,25.00,30,<30,CL\n") != rows.npos);
    const auto core = testValues({"RQD", "%", 0}, s.holes, s.logs);
    REQUIRE(core.size() == 2);
    CHECK(core[0].depth.metres == 6);
}

TEST_CASE("Values in no unit and in holes without a level are kept", "[sequence][values]") {
    auto s = probedSite();
    auto& h = s.holes.change(0);
    h.level.reset();
    h.blowCounts.push_back({Depth{12}, 5});
    s.logs = readHoles(s.holes, s.sequence);
    const auto values = testValues(testQuantities(s.holes)[0], s.holes, s.logs);
    CHECK_FALSE(values[0].level);
    const auto statistics = statisticsByUnit(values);
    REQUIRE(of(statistics, std::nullopt));
    CHECK(of(statistics, std::nullopt)->values == 1);
    CHECK_FALSE(statistics.back().unit); // behind all units
}

TEST_CASE("Statistics by unit are those of the plain definition", "[sequence][values][property]") {
    std::mt19937 random(17);
    std::normal_distribution<double> value(20, 6);
    for (int round = 0; round < 30; ++round) {
        std::vector<TestValue> values;
        std::vector<double> plain;
        for (unsigned i = 0; i < 1 + random() % 40; ++i) {
            TestValue v;
            v.value = value(random), v.unit = 0;
            v.kind = random() % 5 == 0 ? TestValueKind::Limit : TestValueKind::Value;
            if (v.kind == TestValueKind::Value) plain.push_back(v.value);
            values.push_back(v);
        }
        const auto s = statisticsByUnit(values)[0];
        CHECK(s.values == plain.size());
        CHECK(s.values + s.others == values.size());
        if (plain.empty()) continue;
        double sum = 0;
        std::size_t below = 0, above = 0;
        for (const double v : plain) sum += v, below += v<s.median, above += v> s.median;
        CHECK(s.mean == Approx(sum / double(plain.size())));
        CHECK(below <= plain.size() / 2);
        CHECK(above <= plain.size() / 2);
        CHECK(s.least == *std::ranges::min_element(plain));
        CHECK(s.most == *std::ranges::max_element(plain));
    }
}

TEST_CASE("A time is read from a date in either order, with or without hours", "[holes][water]") {
    CHECK(*timeOf("1970-01-02") == 86400);
    CHECK(*timeOf("1970-01-01T01:30:15") == 5415);
    CHECK(*timeOf("01/02/1970") == 31 * 86400);
    CHECK(*timeOf("2026-03-14 10:30") == *timeOf("14/03/2026 10:30"));
    CHECK(*timeOf("2024-02-29") + 86400 == *timeOf("2024-03-01"));
    for (const char* wrong : {"", "soon", "2026-13-01", "2026-02-30", "2026-01-01T25:00:00x", "14-03", "2026/03/99"})
        CHECK_FALSE(timeOf(wrong));
    CHECK(dayInWords(*timeOf("2026-03-14T23:59")) == "2026-03-14");
}

TEST_CASE("Readings of water become series of levels", "[holes][water]") {
    Holes holes = probedSite().holes;
    holes.change(0).waterLevels = {{"2026-03-01", Depth{3}, "P1"},
                                   {"2026-01-01", Depth{2}, "P1"},
                                   {"2026-02-01", Depth{9}, "P2", true},
                                   {"some day", Depth{1}, "P1"},
                                   {"2026-05-01", Depth{5}, "P1"}};
    const auto series = waterSeries(holes);
    REQUIRE(series.size() == 2);
    const auto& p1 = series[0];
    REQUIRE(p1.readings.size() == 3); // one has no date
    CHECK(p1.readings[0].level == 28);
    CHECK(*levelOf(p1, {WaterStatistic::Highest, {}}) == 28);
    CHECK(*levelOf(p1, {WaterStatistic::Lowest, {}}) == 25);
    CHECK(*levelOf(p1, {}) == 25);
    CHECK(*levelOf(p1, {WaterStatistic::Mean, {}}) == Approx((28 + 27 + 25) / 3.0));
    CHECK_FALSE(levelOf(series[1], {})); // dry
    CHECK(*levelAt(p1, *timeOf("2026-01-01")) == 28);
    CHECK(*levelAt(p1, (*timeOf("2026-01-01") + *timeOf("2026-03-01")) / 2) == Approx(27.5));
    CHECK_FALSE(levelAt(p1, *timeOf("2025-12-31")));
    CHECK_FALSE(levelAt(p1, *timeOf("2026-06-01")));
    const auto csv = waterCsv(holes);
    CHECK(csv.find("A,P1,2026-03-01,3.00,27.00,,\n") != csv.npos);
    CHECK(csv.find("A,P2,2026-02-01,9.00,21.00,dry,\n") != csv.npos);
}

TEST_CASE("Holes on a plan by their water", "[sequence][water]") {
    auto s = probedSite();
    s.holes.change(0).waterLevels = {
        {"2026-01-01", Depth{2}, "P1"}, {"2026-03-01", Depth{3}, "P1"}, {"2026-02-01", Depth{6}, "P2"}};
    const auto by = [](WaterStatistic which, const std::string& date = {}) {
        HoleValue value{HoleValue::Kind::Water};
        value.water = {which, date};
        return value;
    };
    const auto of = [&](const HoleValue& value) { return valuesOf(value, s.holes, s.logs); };
    CHECK(of(by(WaterStatistic::Latest))[0] == 27.0); // the higher of two points
    CHECK(of(by(WaterStatistic::Highest))[0] == 28.0);
    CHECK(of(by(WaterStatistic::Lowest))[0] == 24.0);
    CHECK(*of(by(WaterStatistic::AtDate, "2026-02-01"))[0] == Approx(28 - 31.0 / 59));
    CHECK_FALSE(of(by(WaterStatistic::Latest))[1]);
    CHECK(words(by(WaterStatistic::Highest), s.sequence) == "highest level of water, m");
    CHECK(words(by(WaterStatistic::AtDate, "2026-02-01"), s.sequence) == "level of water on 2026-02-01, m");
}

TEST_CASE("The plot of values has every value in the colour of its unit, and its table", "[sheets][plots]") {
    const auto s = probedSite();
    ValuePlot plot{{"SPT N", "", 8}, testValues({"SPT N", "", 8}, s.holes, s.logs), &s.holes, &s.sequence, false, {}};
    const auto circles = [](const paper::Drawing& d) {
        return std::ranges::count_if(d.items, [](const paper::Item& i) {
            return i.layer == "values" && std::holds_alternative<paper::FilledArea>(i.shape);
        });
    };
    const auto says = [](const paper::Drawing& d, std::string_view words) {
        return std::ranges::any_of(d.items, [&](const paper::Item& i) {
            const auto* t = std::get_if<paper::Text>(&i.shape);
            return t && t->words == words;
        });
    };
    for (const auto& [w, h] : {std::pair{250.0, 160.0}, {120.0, 200.0}}) {
        const auto drawing = drawValuePlot(plot, w, h);
        CHECK(circles(drawing) == 8);
        CHECK(says(drawing, "50/75"));
        CHECK(says(drawing, "2 + 2"));
        CHECK(says(drawing, "SA"));
        CHECK(says(drawing, "level, m"));
        for (const auto& i : drawing.items)
            if (const auto* t = std::get_if<paper::Text>(&i.shape)) CHECK((t->at.x >= 0 && t->at.x <= w && t->at.y <= h + 1e-6));
    }
    plot.byDepth = true;
    CHECK(says(drawValuePlot(plot, 250, 160), "depth, m"));
    CHECK(drawValuePlot(plot, 10, 10).items.empty()); // no room
    plot.values.clear();
    CHECK(circles(drawValuePlot(plot, 250, 160)) == 0);
}

TEST_CASE("The plot of water joins levels and ends lines at dry readings", "[sheets][plots]") {
    Holes holes = probedSite().holes;
    holes.change(0).waterLevels = {{"2026-01-01", Depth{2}, "P1"},
                                   {"2026-02-01", Depth{2.5}, "P1"},
                                   {"2026-03-01", Depth{9}, "P1", true},
                                   {"2026-04-01", Depth{3}, "P1"},
                                   {"2026-05-01", Depth{3.2}, "P1"}};
    WaterPlot plot{waterSeries(holes), &holes, {}, timeOf("2026-02-10")};
    const auto drawing = drawWaterPlot(plot, 250, 120);
    const auto lines = std::ranges::count_if(drawing.items, [](const paper::Item& i) {
        const auto* line = std::get_if<paper::Line>(&i.shape);
        return i.layer == "levels" && line && line->points.size() == 2 && line->points[0].x != line->points[1].x;
    });
    CHECK(lines == 2);
    CHECK(std::ranges::count_if(drawing.items, [](const paper::Item& i) { return i.layer == "legend"; }) == 2);
    CHECK(drawWaterPlot({{}, &holes, {}, {}}, 250, 120).items.empty());
    // from a day to a century, there are labels and they stand apart
    for (const char* last : {"2026-01-02", "2026-06-01", "2040-01-01", "2100-01-01"}) {
        CAPTURE(last);
        holes.change(0).waterLevels = {{"2026-01-01", Depth{2}, ""}, {last, Depth{2.5}, ""}};
        const auto d = drawWaterPlot({waterSeries(holes), &holes, {}, {}}, 250, 120);
        std::vector<double> xs;
        for (const auto& i : d.items)
            if (const auto* t = std::get_if<paper::Text>(&i.shape);
                t && t->words.starts_with("2") && i.layer == "frame" && t->words.size() > 5)
                xs.push_back(t->at.x);
        CHECK(xs.size() >= 1);
        for (std::size_t k = 1; k < xs.size(); ++k) CHECK(xs[k] - xs[k - 1] > 15);
    }
}
