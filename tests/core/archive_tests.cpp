// Files in zip archives: found, read in place, and nothing else.
#include "formats/archive.h"
#include "ground_fixtures.h"

#include <catch2/catch.hpp>
#include <cpl_vsi.h>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

constexpr const char* kSurvey = "point,easting,northing,level,code\n1,480100,6120100,12.5,GL\n2,480200,6120150,12.9,GL\n"
                                "3,480150,6120250,13.5,GL\n";

/// An archive with these files, by name.
std::filesystem::path zipped(const TemporaryFolder& folder, const std::vector<std::pair<std::string, std::string>>& files) {
    const auto path = folder / "site.zip";
    for (const auto& [name, bytes] : files) {
        VSILFILE* f = VSIFOpenL(fmt::format("/vsizip/{}/{}", path.string(), name).c_str(), "wb");
        REQUIRE(f);
        VSIFWriteL(bytes.data(), 1, bytes.size(), f);
        VSIFCloseL(f);
    }
    return path;
}

} // namespace

TEST_CASE("Files in an archive are listed and read where they lie", "[archive]") {
    const TemporaryFolder folder;
    const auto zip = zipped(folder, {{"survey/may.csv", kSurvey}, {"readme.txt", "nothing"}});
    const auto files = filesInArchive(zip);
    REQUIRE(files.size() == 2);
    CHECK(files[0].name == "survey/may.csv");
    CHECK(files[0].bytes == std::string(kSurvey).size());
    const auto place = archivePlace(zip / "survey" / "may.csv");
    CHECK((place.archive == zip && place.file == "survey/may.csv"));
    CHECK(archivePlace(folder / "may.csv").archive.empty());
    const auto u = grounded(zip / "survey" / "may.csv");
    REQUIRE(u.survey);
    CHECK(u.survey->points.size() == 3);
    CHECK(u.file.name == "may.csv");
    CHECK(u.file.path == (zip / "survey" / "may.csv").string());
    std::filesystem::path unpacked;
    {
        const LocalFile local(zip / "survey" / "may.csv");
        unpacked = local.path();
        CHECK(readBytes(unpacked) == kSurvey);
    }
    CHECK_FALSE(std::filesystem::exists(unpacked.parent_path()));
    const auto p = importSource(inUtm(), u).project;
    CHECK(rereadSource(p, "may.csv", p.files->at(0).settings).project.ground->points[0].points.size() == 3);
}

TEST_CASE("A shapefile in an archive is read with its parts", "[archive]") {
    const TemporaryFolder folder;
    FeatureLayer layer{"bank", "EPSG:25831", {}};
    layer.features.push_back({GeometryKind::Line, {{{480000, 6120000, 10}, {480100, 6120050, 11}}}, true, {}});
    writeVector(folder / "bank.shp", {layer});
    std::vector<std::pair<std::string, std::string>> parts;
    for (const char* ending : {".shp", ".shx", ".dbf", ".prj"})
        if (const auto part = (folder / "bank").concat(ending); std::filesystem::exists(part))
            parts.emplace_back(std::string("lines/bank") + ending, readBytes(part));
    REQUIRE(parts.size() >= 3);
    const auto u = grounded(zipped(folder, parts) / "lines" / "bank.shp");
    REQUIRE(u.lines);
    CHECK(u.lines->lines.size() == 1);
    CHECK(u.lines->lines[0][1].z == 11);
}

TEST_CASE("What an archive must not do is refused: lead out, be another kind of file, hold archives", "[archive]") {
    const TemporaryFolder folder;
    auto bytes = readBytes(zipped(folder, {{"aa/may.csv", kSurvey}}));
    for (auto at = bytes.find("aa/may"); at != bytes.npos; at = bytes.find("aa/may", at)) bytes.replace(at, 6, "../may");
    folder.write("out.zip", bytes);
    try { // either it is refused as a whole, or what leads out is not there
        for (const auto& f : filesInArchive(folder / "out.zip")) CHECK(f.name.find("..") == std::string::npos);
    } catch (const FileError& e) {
        CHECK(std::string(e.what()).find("out.zip") != std::string::npos);
    }
    CHECK_THROWS_AS(LocalFile(folder / "out.zip" / "../may.csv"), FileError);
    CHECK_THROWS_AS(filesInArchive(folder.write("no.zip", "this is not an archive")), FileError);
    CHECK_THROWS_AS(grounded(folder / "no.zip"), FileError);
    const TemporaryFolder other;
    const auto nested = zipped(other, {{"inner.zip", bytes}});
    CHECK_THROWS_WITH(grounded(nested / "inner.zip"), Catch::Contains("is an archive"));
    CHECK_THROWS_WITH(grounded(nested / "none.csv"), Catch::Contains("has no file none.csv"));
    CHECK_FALSE(fileExists(nested / "none.csv"));
    CHECK(fileExists(nested / "inner.zip"));
}

TEST_CASE("Files that an AGS file has in its FILE folder are counted, not lost in silence", "[archive][import]") {
    const TemporaryFolder folder;
    const auto ags = readBytes(FOX_DEMO "/phase1_main.ags");
    const auto zip =
        zipped(folder, {{"sub/phase1.ags", ags}, {"sub/FILE/a.jpg", "x"}, {"sub/FILE/b.pdf", "y"}, {"FILE/c.pdf", "z"}});
    CHECK(filesInFileFolder(zip / "sub" / "phase1.ags") == 2);
    CHECK(mentions(grounded(zip / "sub" / "phase1.ags").file.findings, "FC-FILES", "2 files"));
    std::filesystem::create_directories(folder / "FILE");
    folder.write("FILE/photo.jpg", "x");
    CHECK(filesInFileFolder(folder.write("plain.ags", ags)) == 1);
}
