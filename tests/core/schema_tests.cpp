// Project files of earlier versions: each was written by the program of its time from the same data, and opens in this one.
#include "fixtures.h"
#include "handover/build_file.h"
#include "store/store.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

const std::filesystem::path kSchemas = std::filesystem::path(FOX_FIXTURES) / "schemas";

int schemaOf(const std::filesystem::path& path) {
    SQLite::Database db(path.string(), SQLite::OPEN_READONLY);
    return std::stoi(db.execAndGet("SELECT value FROM settings WHERE key = 'schema_version'").getString());
}

} // namespace

TEST_CASE("Project files of earlier schemas open with all that they have, and are saved in this one", "[store][schema]") {
    const int schema = GENERATE(1, 2, 3, 4, 5, 6, 7, 8, 9, 10);
    CAPTURE(schema);
    const TemporaryFolder folder;
    const auto path = folder / "p.gpkg";
    std::filesystem::copy_file(kSchemas / fmt::format("schema_{}.gpkg", schema), path);
    CHECK(schemaOf(path) == schema);
    const auto built = buildProject(kSchemas / "fixture.build.json").project;

    auto store = ProjectStore::open(path);
    CHECK(store.findings().empty());
    const auto opened = store.saved();
    CHECK(*opened.site == *built.site);
    REQUIRE(opened.holes->size() == built.holes->size());
    for (std::size_t i = 0; i < built.holes->size(); ++i) {
        const auto &was = (*opened.holes)[i], &is = (*built.holes)[i];
        CHECK(was.id == is.id);
        CHECK(was.place() == is.place());
        CHECK(was.level == is.level);
        CHECK(was.intervals == is.intervals);
    }
    CHECK(opened.sequence->aliases == built.sequence->aliases);
    REQUIRE(opened.sequence->units.size() == built.sequence->units.size());
    for (std::size_t u = 0; u < built.sequence->units.size(); ++u)
        CHECK(opened.sequence->units[u].recipe.settings.method == built.sequence->units[u].recipe.settings.method);

    const auto volumes = *Products().of(opened)->volumes, expected = *Products().of(built)->volumes;
    REQUIRE(volumes.units.size() == expected.units.size());
    for (std::size_t u = 0; u < expected.units.size(); ++u) CHECK(volumes.units[u].volume == Approx(expected.units[u].volume));

    store.save(setSystem(opened, "25832").project);
    CHECK(schemaOf(path) == 11);
    Findings findings;
    CHECK(ProjectStore::read(path, findings).site->crs == "EPSG:25832");
    CHECK(findings.empty());
}
