// Sheets by the tool.
#include "call.h"

using namespace fox;
using namespace fox::test;

TEST_CASE("sheet lists its templates, and writes one PDF or a file an item", "[run]") {
    const TemporaryFolder folder;
    const auto listed = call("sheet --list --json").parsed();
    REQUIRE(listed.size() >= 12);
    std::set<std::string> kinds;
    for (const auto& t : listed) {
        CHECK(keys(t) == std::set<std::string>{"name", "kind", "width_mm", "height_mm"});
        kinds.insert(t["kind"]);
    }
    CHECK(kinds.size() == 10);

    const auto pdf = (folder / "all.pdf").string();
    const auto all = call("sheet " + demoProject() + " --template \"borehole log\" --all --out " + pdf + " --json").parsed();
    CHECK(keys(all) == std::set<std::string>{"files", "pages", "sheets"});
    CHECK(all["files"] == nlohmann::json{pdf});
    CHECK(all["sheets"].size() > 30);
    for (const auto& s : all["sheets"]) {
        CHECK(s["overfull"] == 0);
        CHECK(s["scale"] > 0);
        CHECK(s["width_mm"] == 210);
    }
    const auto one =
        call("sheet " + demoProject() + " --template section --item A --out " + (folder / "s").string() + " --as svg --json")
            .parsed();
    CHECK(one["sheets"][0]["vertical_scale"] <= one["sheets"][0]["scale"]);
    CHECK(std::filesystem::exists(folder / "s/A.svg"));
    for (const std::string kind : {"plan", "\"geological map\"", "\"key to units\"", "\"unit summary\"", "\"title page\""})
        CHECK(call("sheet " + demoProject() + " --template " + kind + " --out " + (folder / "one.pdf").string()).status == 0);
}

TEST_CASE("sheet says what is wrong with its words, and writes nothing", "[run]") {
    const TemporaryFolder folder;
    const auto out = (folder / "x.pdf").string();
    for (const auto& [words, status, said] : {std::tuple{std::string("--template nothing --all --out ") + out, 1, "no template"},
                                              {"--template section --item ZZ --out " + out, 1, "no section ZZ"},
                                              {"--template section --out " + out, 1, "needs a section"},
                                              {"--template plan --item A --out " + out, 1, "takes no item"},
                                              {"--template section --all --out " + out + ".doc", 1, ".doc"},
                                              {"--template section --all --as bmp --out " + out, 1, "bmp"},
                                              {"--template section --all", 2, "--out"},
                                              {"--all --out " + out, 2, "--template"}}) {
        const auto a = call("sheet " + demoProject() + " " + words);
        CAPTURE(words, a.error);
        CHECK(a.status == status);
        CHECK(a.out.empty());
        CHECK(a.oneErrorLine());
        CHECK(a.error.find(said) != a.error.npos);
        CHECK_FALSE(std::filesystem::exists(out));
    }
}

TEST_CASE("sheet --report writes the project's own report, and says so where it has none", "[run]") {
    const TemporaryFolder folder;
    auto build = nlohmann::json::parse(readBytes(FOX_DEMO "/quernbeck.build.json"));
    const auto none = call("sheet " + demoProject() + " --report --out " + (folder / "none.pdf").string());
    CHECK(none.status == 1);
    CHECK(none.oneErrorLine());
    CHECK(none.error.find("No sheet") != none.error.npos);
    CHECK_FALSE(std::filesystem::exists(folder / "none.pdf"));
    const auto layout = [&](const char* kind, const char* name) {
        return nlohmann::json{
            {"format", "fox-cellar-template"},
            {"version", 1},
            {"name", name},
            {"kind", kind},
            {"elements",
             {{{"type", "body"}, {"box", {15, 15, 180, 260}}},
              {{"type", "text"}, {"box", {15, 280, 100, 5}}, {"text", {{{"value", "page"}}, " of ", {{"value", "pages"}}}}}}},
            {"columns", {{{"kind", "depth"}, {"width", 20}}, {{"kind", "units"}, {"width", 30}}}}};
    };
    build["sheets"] = {{{"name", "Key"}, {"template", layout("key", "key")}},
                       {{"name", "Two logs"}, {"template", layout("log", "log")}, {"items", {"QB102", "QB119"}}},
                       {{"name", "Not out"}, {"template", layout("summary", "sum")}, {"out", false}}};
    // beside the files that it names
    const auto path = std::filesystem::path(FOX_DEMO);
    for (const auto& f : std::filesystem::directory_iterator(path))
        if (f.is_regular_file()) std::filesystem::copy_file(f.path(), folder / f.path().filename().c_str());
    if (std::filesystem::exists(path / "supply_wells"))
        std::filesystem::copy(path / "supply_wells", folder / "supply_wells", std::filesystem::copy_options::recursive);
    writeBytes(folder / "own.json", build.dump());
    const auto project = (folder / "own.gpkg").string();
    REQUIRE(call("build " + (folder / "own.json").string() + " --out " + project).status == 0);
    const auto done = call("sheet " + project + " --report --out " + (folder / "all.pdf").string() + " --json").parsed();
    CHECK(done["pages"] == 3);
    CHECK(readBytes(folder / "all.pdf").starts_with("%PDF"));
    const auto apart = call("sheet " + project + " --report --as svg --out " + (folder / "apart").string() + " --json").parsed();
    REQUIRE(apart["files"].size() == 3);
    CHECK(apart["files"][1].get<std::string>().find("002_Two_logs") != std::string::npos);
    CHECK(readBytes(apart["files"][1].get<std::string>()).size() > 1000);
}
