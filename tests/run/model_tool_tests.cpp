// What the tool says of a project's model beside its levels: where to drill, probabilities, the oldest unit's floor.
#include "call.h"

using namespace fox;
using namespace fox::test;

TEST_CASE("drill ranks places for the next hole, and says what is wrong with its words", "[run]") {
    const auto j = call("drill " + demoProject() + " --aim volume:RG --realisations 60 --json").parsed();
    REQUIRE(j.size() > 300);
    CHECK(keys(j[0]) == std::set<std::string>{"easting", "northing", "gain"});
    for (std::size_t i = 1; i < j.size(); ++i) CHECK(j[i]["gain"] <= j[i - 1]["gain"]);
    CHECK(j[0]["gain"] > 0.05);
    CHECK(j[0]["gain"] <= 1);
    const auto along = call("drill " + demoProject()
                            + " --aim base:TL --along 480300,6120400,481300,6120500 --depth 20 --realisations 60 --json")
                           .parsed();
    REQUIRE(along.size() == 100);
    for (const auto& p : along) CHECK(p["northing"] == Approx(6120400 + (p["easting"].get<double>() - 480300) / 10));
    const auto threads = call("drill " + demoProject() + " --aim presence:SL --realisations 60 --threads 1 --json").parsed();
    CHECK(threads == call("drill " + demoProject() + " --aim presence:SL --realisations 60 --json").parsed());
    for (const auto& [words, status, said] : {std::tuple{"--aim gold:RG", 2, "not an aim"},
                                              {"--aim volume", 2, "not an aim"},
                                              {"", 2, "--aim"},
                                              {"--aim volume:RG --along 1,2,3", 2, "--along"},
                                              {"--aim volume:RG --depth -1", 2, "--depth"},
                                              {"--aim volume:XX", 1, "has no unit XX"},
                                              {"--aim volume:MS", 1, "oldest unit"}}) {
        const auto a = call("drill " + demoProject() + " " + words);
        CAPTURE(words, a.error);
        CHECK(a.status == status);
        CHECK(a.out.empty());
        CHECK(a.error.find(said) != a.error.npos);
    }
}

TEST_CASE("column offers the probability of every unit, and a floor gives the oldest one a base", "[run]") {
    const TemporaryFolder folder;
    folder.write("h.csv", "hole,easting,northing,level,top,base,geology\nA,1020,2020,30,0,2,S\nA,1020,2020,30,2,10,R\n"
                          "B,1180,2030,30,0,3,S\nB,1180,2030,30,3,12,R\nC,1100,2170,30,0,2,S\nC,1100,2170,30,2,9,R\n");
    folder.write("b.json", R"({"format":"fox-cellar-build","version":1,"name":"x","holes":[{"file":"h.csv"}],)"
                           R"("sequence":[{"code":"S"},{"code":"R","floor":{"below_holes":2}}]})");
    const auto project = (folder / "p.gpkg").string();
    REQUIRE(call("build " + (folder / "b.json").string() + " --out " + project).status == 0);
    const auto column = call("column " + project + " --at 1100,2100 --json").parsed()[0];
    CHECK(column["probabilities"]["R"] == 1);
    CHECK(column["probabilities"]["S"] > 0.5);
    REQUIRE(column["units"].size() == 2);
    CHECK(column["units"][1]["base"] == Approx(16)); // 2 m under the end of B
    const auto volumes = call("volumes " + project + " --realisations 20 --json").parsed();
    REQUIRE(volumes["units"].size() == 2);
    CHECK(volumes["units"][1]["p10"] <= volumes["units"][1]["volume"].get<double>() * 1.01);
    CHECK(volumes["units"][1]["p90"] >= volumes["units"][1]["volume"].get<double>() * 0.99);
    CHECK(call("export " + project + " --what model --as obj --dir " + folder.path().string()).status == 0);
    CHECK(std::filesystem::exists(folder / "model_R.obj"));
}
