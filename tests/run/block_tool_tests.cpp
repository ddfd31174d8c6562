// blocks and excavate, from outside.
#include "call.h"

using namespace fox;
using namespace fox::test;
using nlohmann::json;

TEST_CASE("blocks writes values in space, and says how many", "[blocks]") {
    const TemporaryFolder folder;
    json spec{{"format", "fox-cellar-blocks"}, {"version", 1},      {"name", "blows"}, {"value", {{"test", "SPT"}}},
              {"block", {100, 100, 2}},        {"from_level", -10}, {"to_level", 40},  {"composite", 0},
              {"method", "inverse-distance"},  {"neighbours", 8},   {"vertical", 20},  {"radius", 500}};
    const auto made = [&](const json& s, const std::string& out, const std::string& more = "") {
        return call("blocks " + demoProject() + " --spec " + folder.write("B.json", s.dump()).string() + " --out "
                    + (folder / out.c_str()).string() + " --json " + more);
    };
    const auto answer = made(spec, "b.csv", "--above 20");
    INFO(answer.error);
    REQUIRE(answer.status == 0);
    const auto j = answer.parsed();
    CHECK(int(j["blocks"]) > 500);
    CHECK(int(j["composites"]) > 50);
    int sum = 0;
    for (const auto& [code, n] : j["by_unit"].items()) sum += int(n);
    CHECK(sum == j["blocks"]);
    CHECK(double(j["selected"]["volume"]) == Approx(20000.0 * int(j["selected"]["blocks"])));
    const auto table = readTable(readBytes(folder / "b.csv"), "b.csv");
    CHECK(table.rows.size() == std::size_t(j["blocks"]));
    std::size_t above = 0;
    double mean = 0;
    for (std::size_t r = 0; r < table.rows.size(); ++r)
        above += *table.number(r, 4) > 20, mean += *table.number(r, 4) / double(table.rows.size());
    CHECK(above == j["selected"]["blocks"]);
    CHECK(mean == Approx(double(j["mean"])));
    const auto simulated = made(spec, "b.csv", "--above 20 --simulations 20");
    REQUIRE(simulated.status == 0);
    const auto chosen = simulated.parsed()["selected"];
    CHECK(double(chosen["p10"]) <= double(chosen["p50"]));
    CHECK(double(chosen["p50"]) <= double(chosen["p90"]));
    CHECK(double(chosen["p90"]) > 0);
    spec["method"] = "kriging";
    const auto kriged = made(spec, "b.nc");
    CHECK(kriged.status == 0);
    CHECK(kriged.parsed()["variogram"].contains("range"));
    spec["method"] = "magic";
    CHECK(made(spec, "c.csv").status == 2);
    spec["method"] = "nearest";
    CHECK(made(spec, "c.doc").status == 2);
    spec["value"] = {{"curve", "no such"}};
    const auto refused = made(spec, "c.csv");
    CHECK(refused.status == 1);
    CHECK(refused.oneErrorLine());
    CHECK_FALSE(std::filesystem::exists(folder / "c.csv"));
}

TEST_CASE("blocks says what lies between two values, by unit and by level, and what it fitted", "[blocks]") {
    const TemporaryFolder folder;
    json spec{{"format", "fox-cellar-blocks"}, {"version", 1},      {"name", "blows"},        {"value", {{"test", "SPT"}}},
              {"block", {50, 50, 1}},          {"from_level", -10}, {"to_level", 40},         {"method", "kriging"},
              {"vertical", "fitted"},          {"radius", 300},     {"radius_vertical", 0.6}, {"per_hole", 3}};
    const auto made = [&](const std::string& more) {
        return call("blocks " + demoProject() + " --spec " + folder.write("B.json", spec.dump()).string() + " --out "
                    + (folder / "b.csv").string() + " --json " + more);
    };
    const auto answer = made("--above 10 --below 30 --table " + (folder / "t.csv").string());
    INFO(answer.error);
    REQUIRE(answer.status == 0);
    const auto j = answer.parsed();
    CHECK(double(j["vertical"]) >= 1);
    CHECK(int(j["unknown"]) > 0); // so far from all tests
    const auto blocks = readTable(readBytes(folder / "b.csv"), "b.csv");
    std::size_t between = 0;
    std::map<std::string, std::size_t> byUnit;
    for (std::size_t r = 0; r < blocks.rows.size(); ++r)
        if (const double v = *blocks.number(r, *blocks.column("value")); v > 10 && v < 30)
            ++between, ++byUnit[std::string(blocks.cell(r, *blocks.column("unit")))];
    CHECK(between > 100);
    CHECK(between == j["selected"]["blocks"]);
    const auto table = readTable(readBytes(folder / "t.csv"), "t.csv");
    std::size_t levels = 0;
    for (std::size_t r = 0; r < table.rows.size(); ++r) {
        const auto n = std::size_t(*table.number(r, *table.column("blocks")));
        const auto by = table.cell(r, 0);
        if (by == "all") CHECK(n == between);
        if (by == "unit") CHECK(n == byUnit[std::string(table.cell(r, 1))]);
        if (by == "level") levels += n;
    }
    CHECK(levels == between);
    // no block lies farther from all tests, in level, than was said
    spec["radius_vertical"] = 0;
    REQUIRE(made("").status == 0);
    CHECK(readTable(readBytes(folder / "b.csv"), "b.csv").rows.size() > blocks.rows.size());
    spec["per_hole"] = -1;
    CHECK(made("").status == 2);
}

TEST_CASE("excavate frees what is wanted, and says what that moves", "[excavation]") {
    const TemporaryFolder folder;
    json spec{
        {"format", "fox-cellar-excavation"},
        {"version", 1},
        {"wanted",
         {{"floor", {{"ring", {{480700, 6120400}, {480760, 6120400}, {480760, 6120440}, {480700, 6120440}}}, {"level", 15}}}}},
        {"slope", 35},
        {"cell", 2},
        {"bench", {{"height", 3}, {"berm", 2}}}};
    const auto made = [&](const json& s) {
        return call("excavate " + demoProject() + " --spec " + folder.write("X.json", s.dump()).string() + " --out "
                    + (folder / "dig").string() + " --json");
    };
    const auto answer = made(spec);
    INFO(answer.error);
    REQUIRE(answer.status == 0);
    const auto j = answer.parsed();
    CHECK(double(j["wanted"]) > 0);
    CHECK(double(j["waste"]) == Approx(double(j["excavated"]) - double(j["wanted"])));
    CHECK(double(j["ratio"]) == Approx(double(j["waste"]) / double(j["wanted"])));
    double units = 0, benches = 0;
    for (const auto& [code, v] : j["by_unit"].items()) units += double(v);
    for (const auto& b : j["by_bench"]) benches += double(b["volume"]);
    CHECK(units == Approx(double(j["excavated"])));
    CHECK(benches == Approx(double(j["excavated"])));
    CHECK(j["reaches_edge"] == false);
    for (const auto file : {"dig/dug.tif", "dig/dug.xml", "dig/bench.gpkg"}) CHECK(std::filesystem::exists(folder / file));
    spec["slope"] = {{"TL", 40}};
    CHECK(made(spec).status == 1);
    spec["slope"] = 35;
    spec["wanted"] = {{"units", {"XX"}}};
    CHECK(made(spec).status == 1);
    spec["wanted"] = {{"units", {"RG"}}};
    spec["inside"] = {{"ring", {{480700, 6120400}, {480760, 6120400}, {480760, 6120440}, {480700, 6120440}}}};
    spec.erase("bench");
    spec["cell"] = 5;
    spec["worth"] = {{"value", 0}, {"cost", 1}};
    const auto nothing = made(spec);
    CHECK(nothing.status == 0);
    CHECK(nothing.parsed()["excavated"] == 0);
    spec["worth"] = {{"value", 1000}, {"cost", 1}};
    const auto all = made(spec);
    CHECK(double(all.parsed()["profit"]) > 0);
    spec["slope"] = 120;
    CHECK(made(spec).status == 2);
}
