// The tool when something is wrong: which status, which words, and what it leaves behind.
#include "../core/fixtures.h"
#include "call.h"
#include "formats/raster.h"
#include "project/sequence_edits.h"
#include "store/store.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <catch2/catch.hpp>
#include <csignal>
#include <fcntl.h>
#include <fmt/format.h>
#include <sys/wait.h>
#include <unistd.h>

using namespace fox;
using namespace fox::test;

namespace {

const std::string kFrame = " --frame 0,0,100,100 --cell 10 --out ";

std::string survey(const TemporaryFolder& folder, const std::string& header = "easting,northing,level,code") {
    return folder.write("survey.csv", header + "\n0,0,10,G\n100,0,20,G\n0,100,30,G\n100,100,40,G\n50,50,20,G\n").string();
}

std::size_t filesIn(const TemporaryFolder& folder) {
    return std::size_t(std::distance(std::filesystem::directory_iterator(folder.path()), {}));
}

} // namespace

TEST_CASE("terrain refuses columns that it does not know, naming them", "[run][failure]") {
    const TemporaryFolder folder;
    const auto out = kFrame + (folder / "g.tif").string();
    for (const char* columns : {"easting,northing,heigth,code", "easting,northing,code", "a,b,c", "level"}) {
        CAPTURE(columns);
        const auto a = call("terrain --points " + survey(folder) + " --columns " + columns + out);
        CHECK(a.status == 2);
        CHECK(a.oneErrorLine());
        CHECK(a.error.find("--columns") != std::string::npos);
    }
    CHECK(call("terrain --points " + survey(folder) + " --columns easting,northing,heigth,code" + out).error.find("heigth")
          != std::string::npos);
    CHECK_FALSE(std::filesystem::exists(folder / "g.tif"));
    CHECK(call("terrain --points " + survey(folder) + " --columns easting,northing,level,-" + out).status == 0);
}

TEST_CASE("Lists of numbers have just as many as the option takes", "[run][failure]") {
    const TemporaryFolder folder;
    const auto start = "surface --points " + survey(folder) + " --method linear --out " + (folder / "g.tif").string();
    for (const char* rest : {" --frame 0,0,100 --cell 10", " --frame 0,0,100,100,7 --cell 10", " --frame 0,0,100,1e --cell 10",
                             " --frame 0,0,100,100 --cell 10 --anisotropy 30,2,5"}) {
        CAPTURE(rest);
        const auto a = call(start + rest);
        CHECK(a.status == 2);
        CHECK(a.oneErrorLine());
    }
    CHECK(call(start + " --frame 0,0,100,100 --cell 10").status == 0);
}

TEST_CASE("Errors of points name their file", "[run][failure]") {
    const TemporaryFolder folder;
    const auto line = folder.write("line.csv", "easting,northing,level\n0,0,1\n10,10,2\n20,20,3\n").string();
    const auto none = folder.write("none.csv", "easting,northing,level\n").string();
    for (const auto& words :
         {"terrain --points " + line, "terrain --points " + none, "surface --method linear --points " + none}) {
        CAPTURE(words);
        const auto a = call(words + kFrame + (folder / "g.tif").string());
        CHECK(a.status == 1);
        CHECK(a.oneErrorLine());
        CHECK(a.error.find(words.substr(words.rfind(' ') + 1)) != std::string::npos);
    }
    const auto places = folder.write("places.csv", "a,b\n5,5\n").string();
    const auto a =
        call("surface --points " + survey(folder) + " --method linear --at " + places + " --out " + (folder / "v.csv").string());
    CHECK(a.status == 1); // which of the two is the easting is not guessed
    CHECK(a.error.find("places.csv") != std::string::npos);
    CHECK(filesIn(folder) == 4);
}

TEST_CASE("volume names both grids that do not match", "[run][failure]") {
    const TemporaryFolder folder;
    writeRaster(folder / "a.tif", Grid(Frame{0, 0, 100, 100, 10}), "EPSG:25831");
    writeRaster(folder / "b.tif", Grid(Frame{0, 0, 100, 100, 20}), "EPSG:25831");
    const auto a = call("volume --upper " + (folder / "a.tif").string() + " --lower " + (folder / "b.tif").string());
    CHECK(a.status == 1);
    for (const char* words : {"a.tif", "b.tif", "10 m", "20 m"}) CHECK(a.error.find(words) != std::string::npos);
}

TEST_CASE("What could not be read of a project is said on standard error, and the rest answers", "[run][failure]") {
    const TemporaryFolder folder;
    const auto path = folder / "p.gpkg";
    Project p;
    p.site = part(Site{"EPSG:25831", Frame{0, 0, 100, 100, 10}, {}});
    Holes holes;
    for (int i = 0; i < 4; ++i)
        holes.push_back(hole(fmt::format("H{}", i), 20 + 20 * i, 30 + 10 * (i % 2), 20, {{2, "A"}, {6, "B"}}));
    p.holes = part(holes);
    p.ground = part(groundOf("0 0 20, 100 0 20, 100 100 20, 0 100 20"));
    p.sequence = part(sequence({"A", "B"}));
    ProjectStore::create(path, p);
    SQLite::Database(path.string(), SQLite::OPEN_READWRITE).exec("UPDATE intervals SET top = 'deep' WHERE fid = 1");
    const auto a = call("column --json --at 50,50 " + path.string());
    CHECK(a.status == 0);
    CHECK(a.error.find("intervals") != std::string::npos);
    CHECK(a.parsed().size() == 1);
}

TEST_CASE("build refuses a system that does not exist, and files without a hole, and leaves nothing behind", "[run][failure]") {
    const TemporaryFolder folder;
    folder.write("h.csv", "hole,easting,northing,level\nB1,480100,6120100,20\n");
    const auto build = [&](const char* name, const std::string& rest) {
        const auto file = folder.write(name, "{\"format\":\"fox-cellar-build\",\"version\":1," + rest + "}");
        return call("build " + file.string() + " --out " + (folder / "p.gpkg").string());
    };
    const auto nowhere = build("a.json", R"("crs":"EPSG:1","holes":[{"file":"h.csv"}])");
    CHECK(nowhere.status == 1);
    CHECK(nowhere.error.find("EPSG:1") != std::string::npos);
    const auto nothing = build("b.json", R"("crs":"EPSG:25831","holes":[])");
    CHECK(nothing.status == 1);
    CHECK(nothing.error.find("b.json") != std::string::npos);
    CHECK_FALSE(std::filesystem::exists(folder / "p.gpkg"));
    CHECK(build("c.json", R"("crs":"25831","holes":[{"file":"h.csv"}])").status == 0);
    CHECK(std::filesystem::exists(folder / "p.gpkg"));
}

TEST_CASE("A call that is ended by a signal leaves no half-written file", "[run][failure]") {
    const TemporaryFolder folder;
    const auto target = (folder / "q.gpkg").string();
    for (const int signal : {SIGINT, SIGTERM}) {
        const pid_t child = fork();
        if (child == 0) {
            const int nothing = ::open("/dev/null", O_WRONLY);
            ::dup2(nothing, 1), ::dup2(nothing, 2);
            ::execl(FOX_RUN, FOX_RUN, "build", FOX_DEMO "/quernbeck.build.json", "--out", target.c_str(), nullptr);
            ::_exit(127);
        }
        REQUIRE(child > 0);
        // as soon as the scratch file is there, or the call has ended by itself
        int status = 0;
        while (filesIn(folder) == 0 && ::waitpid(child, &status, WNOHANG) == 0) ::usleep(200);
        ::kill(child, signal);
        ::waitpid(child, &status, 0);
        for (const auto& entry : std::filesystem::directory_iterator(folder.path()))
            CHECK(entry.path() == target); // whole, if it was there before the signal
        std::filesystem::remove(target);
    }
}
