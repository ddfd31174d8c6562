// The model as a page, as glTF and IFC, everything in one file; the report and what changed, from outside.
#include "call.h"

#include <regex>

using namespace fox;
using namespace fox::test;
using nlohmann::json;

namespace {

/// The demo's data on large cells, with or without its second file of holes.
std::string coarseDemo(const TemporaryFolder& folder, bool withSecondFile) {
    auto build = json::parse(readBytes(FOX_DEMO "/quernbeck.build.json"));
    for (auto& h : build["holes"]) h["file"] = FOX_DEMO "/" + std::string(h["file"]);
    if (!withSecondFile) build["holes"].erase(1);
    for (const char* key : {"layered_grids", "meshes", "blocks", "excavations"}) build.erase(key);
    build["frame"]["cell"] = 50;
    const auto text =
        std::regex_replace(build.dump(), std::regex("\"file\":\"([a-z0-9_]+\\.(csv|gpkg))\""), "\"file\":\"" FOX_DEMO "/$1\"");
    const auto project = (folder / (withSecondFile ? "whole.gpkg" : "first.gpkg")).string();
    const auto made = call("build " + folder.write("b.json", text).string() + " --out " + project);
    INFO(made.error);
    REQUIRE(made.status == 0);
    return project;
}

} // namespace

TEST_CASE("export writes the model for others' programs, and all of a project in one file", "[export]") {
    const TemporaryFolder folder;
    const auto project = coarseDemo(folder, true);
    const auto exported = [&](const std::string& what, const std::string& as) {
        return call("export " + project + " --what " + what + " --as " + as + " --dir " + folder.path().string() + " --json");
    };
    for (const auto& [what, as, begins] : {std::tuple{"model", "glb", "glTF"},
                                           {"model", "ifc", "ISO-10303-21;"},
                                           {"model", "html", "<!DOCTYPE html>"},
                                           {"all", "gpkg", "SQLite format 3"},
                                           {"holes", "dxf", "  0"},
                                           {"report", "pdf", "%PDF"},
                                           {"report", "json", "{"}}) {
        CAPTURE(what, as);
        const auto answer = exported(what, as);
        INFO(answer.error);
        REQUIRE(answer.status == 0);
        const auto bytes = readBytes(std::string(answer.parsed()["files"][0]));
        CHECK(bytes.starts_with(begins));
        if (as == std::string("html")) {
            CHECK(bytes.size() < 6'000'000);
            CHECK(bytes.find("http://fonts") == bytes.npos);
            CHECK(bytes.find("src=\"http") == bytes.npos);
            CHECK(bytes.find('@' + std::string("FACTS@")) == bytes.npos); // each part found its place
        }
    }
    CHECK(exported("ground", "glb").status == 1);
    CHECK(exported("model", "docx").status == 2);
}

TEST_CASE("report says what the model is made from, as JSON and as a PDF", "[report]") {
    const TemporaryFolder folder;
    const auto project = coarseDemo(folder, true);
    const auto pdf = (folder / "r.pdf").string();
    const auto answer = call("report " + project + " --out " + pdf + " --json --realisations 20");
    INFO(answer.error);
    REQUIRE(answer.status == 0);
    CHECK(answer.parsed()["chapters"].size() == 9);
    CHECK(readBytes(pdf).starts_with("%PDF"));
    const auto one = call("report " + project + " --json --chapter volumes --realisations 20");
    REQUIRE(one.status == 0);
    const auto volumes = call("volumes " + project + " --json").parsed()["units"];
    const auto chapter = one.parsed()["chapters"][0];
    for (std::size_t i = 0; i < volumes.size(); ++i) CHECK(chapter["tables"][0]["rows"][i][2] == volumes[i]["volume"]);
    CHECK(call("report " + project).status == 2);
    CHECK(call("report " + project + " --out r.doc").status == 2);
    CHECK(call("report " + project + " --json --chapter nothing").status == 2);
    CHECK(call("report nothing.gpkg --json").status == 1);
    const auto nowhere = call("report " + project + " --out /no/such/folder/r.pdf --chapter data");
    CHECK(nowhere.status == 1);
}

TEST_CASE("compare finds what changed between two projects", "[report]") {
    const TemporaryFolder folder;
    const auto same = call("compare " + demoProject() + " " + demoProject() + " --json").parsed();
    CHECK(keys(same) == std::set<std::string>{"bases", "corrections", "holes", "settings", "units", "volumes"});
    for (const auto& b : same["bases"]) CHECK((double(b["largest"]) == 0 && b["easting"].is_null()));
    const auto first = coarseDemo(folder, false), whole = coarseDemo(folder, true);
    const auto pdf = (folder / "c.pdf").string();
    const auto answer = call("compare " + first + " " + whole + " --json --out " + pdf);
    REQUIRE(answer.status == 0);
    const auto j = answer.parsed();
    CHECK(j["holes"]["added"].size() == 14); // those of the second file
    CHECK(j["holes"]["removed"].empty());
    CHECK(std::ranges::any_of(j["bases"], [](const json& b) { return std::abs(double(b["largest"])) > 0.5; }));
    CHECK(readBytes(pdf).starts_with("%PDF"));
    const auto back = call("compare " + whole + " " + first + " --json").parsed();
    CHECK(back["holes"]["removed"] == j["holes"]["added"]);
}
