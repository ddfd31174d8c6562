// layers, mesh and where, from outside.
#include "call.h"

using namespace fox;
using namespace fox::test;
using nlohmann::json;

namespace {

json layerSpecification() {
    return {{"format", "fox-cellar-layers"},
            {"version", 1},
            {"name", "Bypass"},
            {"grid",
             {{"corner", {480200, 6120800}},
              {"columns", {{"count", 50}, {"width", 20}}},
              {"rows", {{"count", 30}, {"width", 20}}},
              {"finer", {{{"place", {480700, 6120500}}, {"width", 5}, {"growth", 1.3}}}}}},
            {"layers",
             {{{"name", "soft"}, {"units", {"TS", "MG", "AL", "PT"}}},
              {{"name", "gravel"}, {"units", {"RG"}}, {"parts", 2}},
              {{"name", "till"}, {"units", {"TU", "SL", "TL"}}},
              {{"name", "rock"}, {"bottom", {{"level", -30}}}}}},
            {"thin", {{"metres", 0.2}, {"then", "inactive"}}},
            {"values", {{"conductivity", "unit"}, {"recharge", 1e-9}, {"starting_head", 20}}}};
}

std::string ofCode(const json& units, const char* code) {
    for (const auto& u : units)
        if (u["code"] == code) return u["base"].dump();
    return "";
}

} // namespace

TEST_CASE("layers writes a folder that --check finds clean", "[layers]") {
    const TemporaryFolder folder;
    const auto spec = folder.write("L.json", layerSpecification().dump()).string();
    const auto out = (folder / "out").string();
    const auto answer = call("layers " + demoProject() + " --spec " + spec + " --out " + out + " --json");
    INFO(answer.error);
    REQUIRE(answer.status == 0);
    const auto j = answer.parsed();
    CHECK(j["layers"] == 5);
    CHECK(j["cells"] == int(j["rows"]) * int(j["columns"]) * 5);
    CHECK(j["volume"].size() == 5);
    CHECK(keys(j["checks"]) == std::set<std::string>{"crossing", "thin", "no_value", "alone", "missing", "thickness_ratio"});
    CHECK(j["checks"]["crossing"] == 0);
    CHECK(j["checks"]["no_value"] == 0); // every unit of the demo has a conductivity
    const auto checked = call("layers --check " + out + " --json");
    CHECK(checked.status == 0);
    CHECK(checked.parsed() == j);
    // levels are those of the columns
    const auto cells = readTable(readBytes(folder / "out/cells.csv"), "cells.csv");
    for (const std::size_t row : {std::size_t(17), std::size_t(901)}) {
        const auto at = std::string(cells.cell(row, 3)) + "," + std::string(cells.cell(row, 4));
        const auto column = call("column " + demoProject() + " --at " + at + " --json").parsed()[0];
        CHECK(*cells.number(row, 5) == Approx(column["ground"].get<double>()));
        const auto gravel = readTable(readBytes(folder / "out/cells.csv"), "cells.csv")
                                .number(row + 2 * std::size_t(j["rows"]) * std::size_t(j["columns"]), 6);
        if (const auto base = ofCode(column["units"], "RG"); !base.empty()) CHECK(*gravel == Approx(std::stod(base)));
    }
    writeBytes(folder / "out/top_1.txt", "1 2 3\n");
    const auto spoilt = call("layers --check " + out + " --json");
    CHECK(spoilt.status == 1);
    CHECK(spoilt.oneErrorLine());
}

TEST_CASE("layers does not depend on threads, and refuses what it can't do with one line and the right status", "[layers]") {
    const TemporaryFolder folder;
    const auto refused = [&](const json& spec, int status) {
        const auto file = folder.write("L.json", spec.dump()).string();
        const auto answer =
            call("layers " + demoProject() + " --spec " + file + " --out " + (folder / "never").string() + " --json");
        INFO(answer.error);
        CHECK(answer.status == status);
        CHECK(answer.oneErrorLine());
        CHECK(answer.out.empty());
        CHECK_FALSE(std::filesystem::exists(folder / "never"));
    };
    auto spec = layerSpecification();
    spec["layers"][0]["units"] = {"XX"};
    refused(spec, 1);
    spec = layerSpecification();
    spec["layers"][3].erase("bottom");
    refused(spec, 1);
    spec = layerSpecification();
    spec["top"] = {{"grid", "nowhere.tif"}};
    refused(spec, 1);
    spec = layerSpecification();
    spec["grid"]["columns"]["width"] = -20;
    refused(spec, 2);
    spec = layerSpecification();
    spec["thin"]["then"] = "vanish";
    refused(spec, 2);
    spec = layerSpecification();
    spec["grid"].erase("finer");
    spec["grid"]["columns"]["count"] = spec["grid"]["rows"]["count"] = 100000;
    refused(spec, 1);
    CHECK(call("layers " + demoProject()).status == 2);
    CHECK(call("layers --check " + (folder / "nothing").string()).status == 1);
    const auto file = folder.write("L.json", layerSpecification().dump()).string();
    for (const auto threads : {"1", "2"})
        CHECK(call("layers " + demoProject() + " --spec " + file + " --threads " + threads + " --out "
                   + (folder / threads).string())
                  .status
              == 0);
    CHECK(readBytes(folder / "1/cells.csv") == readBytes(folder / "2/cells.csv"));
}

TEST_CASE("mesh writes prisms whose files agree, and says what it can't do", "[mesh]") {
    const TemporaryFolder folder;
    json spec{{"format", "fox-cellar-mesh"},
              {"version", 1},
              {"outline", {{"ring", {{480100, 6120100}, {481400, 6120100}, {481400, 6120900}, {480100, 6120900}}}}},
              {"lines", {{{"name", "fault"}, {"line", {{480110, 6120500}, {480600, 6120110}}}, {"edge", 20}}}},
              {"places", {{{"name", "W1"}, {"at", {480700, 6120500}}, {"edge", 5}}}},
              {"edge", 80},
              {"origin", {480000, 6120000}},
              {"layers",
               {{{"units", {"RG"}}, {"name", "upper"}},
                {{"evenly", 2}, {"name", "mid"}},
                {{"name", "rock"}, {"bottom", {{"level", -30}}}}}},
              {"faces", {{{"line", "fault"}, {"layers", {1, 2}}, {"name", "F1"}, {"flow", "across"}}}}};
    const auto out = (folder / "out").string();
    const auto made = [&](const json& s) {
        return call("mesh " + demoProject() + " --spec " + folder.write("M.json", s.dump()).string() + " --out " + out
                    + " --json");
    };
    const auto answer = made(spec);
    INFO(answer.error);
    REQUIRE(answer.status == 0);
    const auto j = answer.parsed();
    CHECK(j["layers"] == 4);
    CHECK(j["elements"] == int(j["triangles"]) * 4);
    CHECK(double(j["smallest_angle"]) >= 20);
    CHECK(j["checks"]["inverted"] == 0);
    const auto elements = readTable(readBytes(folder / "out/elements.csv"), "e"),
               nodes = readTable(readBytes(folder / "out/nodes.csv"), "n"),
               faces = readTable(readBytes(folder / "out/faces.csv"), "f");
    CHECK(elements.rows.size() == std::size_t(j["elements"]));
    CHECK(nodes.rows.size() == std::size_t(j["nodes"]));
    CHECK(faces.rows.size() == std::size_t(j["faces"]["F1"]));
    CHECK(*nodes.number(0, 1) < 1500); // less the origin
    const auto back =
        call("where " + demoProject() + " --points " + out + "/mesh.vtu --origin 480000,6120000 --out " + out + "/w.vtu --json");
    CHECK(back.parsed()["points"] == j["elements"]);
    CHECK(back.parsed()["outside"] == 0);
    auto wrong = spec;
    wrong["places"][0]["at"] = {1, 2};
    CHECK(made(wrong).status == 1);
    CHECK(made(wrong).error.find("W1") != std::string::npos);
    wrong = spec;
    wrong["angle"] = 25;
    CHECK(made(wrong).status == 2);
    wrong = spec;
    wrong.erase("edge");
    wrong["elements"] = 40;
    CHECK(made(wrong).status == 1);
    wrong["elements"] = 12000;
    CHECK(std::abs(int(made(wrong).parsed()["elements"]) - 12000) <= 600);
}
