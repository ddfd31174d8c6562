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
