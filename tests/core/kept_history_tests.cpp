// The steps that a project's file keeps, so that undo goes on after it is opened again.
#include "layered_fixtures.h"
#include "project/interval_edits.h"
#include "project/surface_edits.h"
#include "store/store.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

/// A project that is edited as a window does: each edit is saved as a step of its history.
class Edits {
public:
    explicit Edits(const std::filesystem::path& path)
        : m_store(ProjectStore::open(path)), history(m_store.saved(), m_store.history()) {}
    void make(Edited edited) {
        history.add(std::move(edited));
        save();
    }
    void undo() { history.undo(), save(); }
    void redo() { history.redo(), save(); }
    void save() { m_store.save(history.now(), KeptStep{history.state(), history.undoLabel()}); }
    const ProjectStore& store() const { return m_store; }

private:
    ProjectStore m_store;

public:
    History history;
};

/// Edits that touch tables of every kind, one after another; the versions that they make, the first as it was.
std::vector<Project> editedVersions(Edits& edits) {
    std::vector<Project> out{edits.history.now()};
    const std::vector<std::function<Edited(const Project&)>> all{
        [](const Project& p) { return setUnitName(p, "C", "Stiff clay"); },
        [](const Project& p) { return moveBoundary(p, "B2", Depth{4}, Depth{4.5}); },
        [](const Project& p) {
            return addSection(p, {{1010, 2010}, {1190, 2090}});
        },
        [](const Project& p) {
            return addGuide(p, "G", {{1050, 2050, 1}, {1090, 2060, 2}});
        },
        [](const Project& p) {
            Edited e{p, "Points added"};
            e.project.ground = part(groundOf("1000 2000 10, 1200 2000 10, 1200 2100 10, 1000 2100 10, 1100 2050 11"));
            return e;
        },
        [](const Project& p) { return setSystem(p, "25832"); },
        [](const Project& p) { return removeSection(p, "A"); },
    };
    for (const auto& edit : all) {
        edits.make(edit(edits.history.now()));
        out.push_back(edits.history.now());
    }
    return out;
}

std::vector<std::string> labelsOf(const KeptHistory& kept) {
    std::vector<std::string> out;
    for (const auto& s : kept.steps) out.push_back(s.label);
    return out;
}

} // namespace

TEST_CASE("Every version of an earlier session can be read again, and is what it was", "[store][history]") {
    const TemporaryFolder folder;
    const auto path = folder / "p.gpkg";
    ProjectStore::create(path, flatSite());
    std::vector<Project> versions;
    {
        Edits edits(path);
        CHECK(edits.store().history() == KeptHistory{});
        versions = editedVersions(edits);
    }
    const auto kept = ProjectStore::open(path).history();
    REQUIRE(kept.steps.size() == versions.size());
    CHECK(kept.at == versions.size() - 1);
    CHECK(labelsOf(kept)[1] == setUnitName(versions[0], "C", "Stiff clay").label);
    CHECK(labelsOf(kept)[5] == "Points added");
    const auto before = readBytes(path);
    for (std::size_t i = 0; i < versions.size(); ++i) {
        CAPTURE(i);
        CHECK(sameValue(ProjectStore::version(path, kept.steps[i].state), versions[i]));
    }
    CHECK(readBytes(path) == before); // looking back changes nothing
    CHECK_THROWS_AS(ProjectStore::version(path, 99), FileError);
}

TEST_CASE("What was undone before a project was closed can be done again, until there is another edit", "[store][history]") {
    const TemporaryFolder folder;
    const auto path = folder / "p.gpkg";
    ProjectStore::create(path, flatSite());
    std::vector<Project> versions;
    {
        Edits edits(path);
        versions = editedVersions(edits);
        for (int i = 0; i < 3; ++i) edits.undo();
        edits.redo();
    }
    const auto goTo = [&](Edits& edits, History::Way way) {
        if (const auto state = edits.history.toRead(way)) edits.history.give(*state, ProjectStore::version(path, *state));
        way == History::Way::Undo ? edits.undo() : edits.redo();
    };
    {
        Edits edits(path);
        CHECK(sameValue(edits.history.now(), versions[5]));
        CHECK(edits.history.undoLabel() == "Points added");
        goTo(edits, History::Way::Redo);
        CHECK(sameValue(edits.history.now(), versions[6]));
        for (int i = 0; i < 4; ++i) goTo(edits, History::Way::Undo);
        CHECK(sameValue(edits.history.now(), versions[2]));
    }
    {
        Edits edits(path); // closed in the middle
        CHECK(sameValue(edits.history.now(), versions[2]));
        CHECK(edits.history.canRedo());
        edits.make(setUnitName(edits.history.now(), "S", "Fine sand"));
        CHECK_FALSE(edits.history.canRedo());
    }
    Edits edits(path);
    CHECK_FALSE(edits.history.canRedo());
    CHECK(edits.store().history().steps.size() == 4); // where it began, two of before, the new one
    goTo(edits, History::Way::Undo);
    CHECK(sameValue(edits.history.now(), versions[2]));
    for (int i = 0; i < 2; ++i) goTo(edits, History::Way::Undo);
    CHECK_FALSE(edits.history.canUndo());
    CHECK(sameValue(edits.history.now(), versions[0]));
}

TEST_CASE("Parts that versions have in common are shared again, so that nothing is worked out twice", "[store][history]") {
    const TemporaryFolder folder;
    const auto path = folder / "p.gpkg";
    ProjectStore::create(path, flatSite());
    Edits edits(path);
    edits.make(setUnitName(edits.history.now(), "C", "Stiff clay"));
    auto earlier = ProjectStore::version(path, 0);
    CHECK(earlier.holes != edits.history.now().holes);
    shareParts(earlier, edits.history.now());
    CHECK(earlier.holes == edits.history.now().holes);
    CHECK(earlier.ground == edits.history.now().ground);
    CHECK(earlier.sequence != edits.history.now().sequence); // it differs
}

TEST_CASE("Steps that another program's change has made wrong are refused in words, and the file stays", "[store][history]") {
    const TemporaryFolder folder;
    const auto path = folder / "p.gpkg";
    ProjectStore::create(path, flatSite());
    {
        Edits edits(path);
        edits.make(setUnitName(edits.history.now(), "C", "Stiff clay"));
    }
    {
        SQLite::Database db(path.string(), SQLite::OPEN_READWRITE);
        db.exec("UPDATE units SET name = 'Soft clay' WHERE code = 'C'");
    }
    const auto before = readBytes(path);
    CHECK_THROWS_WITH(ProjectStore::version(path, 0), Catch::Contains("another program has changed"));
    CHECK(readBytes(path) == before);
    {
        SQLite::Database db(path.string(), SQLite::OPEN_READWRITE);
        db.exec("UPDATE undo_steps SET changes = x'00112233', before = state"); // damaged, and in a circle
    }
    CHECK(ProjectStore::open(path).history().steps.size() <= 3);
    CHECK_THROWS_AS(ProjectStore::version(path, 0), FileError);
    CHECK(ProjectStore::read(path).sequence->units[1].name == "Soft clay");
}

TEST_CASE("A file keeps the newest of many steps; a save that is no step starts its history anew", "[store][history]") {
    const TemporaryFolder folder;
    const auto path = folder / "p.gpkg";
    ProjectStore::create(path, flatSite());
    constexpr std::size_t kMost = 200; // kept_history::kMostSteps
    {
        Edits edits(path);
        for (std::size_t i = 0; i < kMost + 5; ++i) edits.make(setUnitName(edits.history.now(), "C", fmt::format("Clay {}", i)));
    }
    const auto kept = ProjectStore::open(path).history();
    CHECK(kept.steps.size() == kMost + 1);
    CHECK(ProjectStore::version(path, kept.steps.front().state).sequence->units[1].name == "Clay 4");
    {
        auto store = ProjectStore::open(path);
        store.save(setUnitName(store.saved(), "C", "Clay by a tool").project);
    }
    CHECK(ProjectStore::open(path).history().steps.size() == 1);
}

TEST_CASE("A table of steps that another program has made anew is dropped, and the next step is kept", "[store][history]") {
    const std::string made = GENERATE("CREATE TABLE undo_steps (fid INTEGER PRIMARY KEY, what TEXT NOT NULL)",
                                      "CREATE VIEW undo_steps AS SELECT 1 AS fid, 2 AS state",
                                      "CREATE TABLE undo_steps (fid INTEGER PRIMARY KEY, state, before, label, size)");
    const TemporaryFolder folder;
    const auto path = folder / "p.gpkg";
    ProjectStore::create(path, flatSite());
    {
        Edits edits(path);
        edits.make(setUnitName(edits.history.now(), "C", "Stiff clay"));
    }
    {
        SQLite::Database db(path.string(), SQLite::OPEN_READWRITE);
        db.exec("DROP TABLE undo_steps");
        db.exec(made);
    }
    {
        Edits edits(path);
        CHECK(edits.store().readOnlyBecause().empty());
        CHECK_FALSE(edits.history.canUndo());
        edits.make(setUnitName(edits.history.now(), "C", "Soft clay"));
    }
    auto store = ProjectStore::open(path);
    CHECK(labelsOf(store.history()).size() == 2);
    CHECK(store.saved().sequence->units[1].name == "Soft clay");
    CHECK(ProjectStore::version(path, store.history().steps[0].state).sequence->units[1].name == "Stiff clay");
}

TEST_CASE("Undo to a version from before Save as is no step of the new file", "[store][history]") {
    const TemporaryFolder folder;
    const auto path = folder / "p.gpkg", other = folder / "other.gpkg";
    ProjectStore::create(path, flatSite());
    Edits edits(path);
    edits.make(setUnitName(edits.history.now(), "C", "Stiff clay"));
    edits.make(setUnitName(edits.history.now(), "C", "Firm clay"));
    ProjectStore::create(other, edits.history.now(), edits.history.state());
    edits.history.undo();
    const auto saveCopy = [&] {
        auto copy = ProjectStore::open(other);
        REQUIRE(copy.readOnlyBecause().empty());
        copy.save(edits.history.now(), KeptStep{edits.history.state(), edits.history.undoLabel()});
    };
    saveCopy();
    {
        const auto reopened = ProjectStore::open(other);
        CHECK(reopened.saved().sequence->units[1].name == "Stiff clay");
        CHECK(labelsOf(reopened.history()) == std::vector<std::string>{""});
    }
    edits.make(setUnitName(edits.history.now(), "C", "Soft clay")); // and an edit is one again
    saveCopy();
    CHECK(ProjectStore::open(other).history().steps.size() == 2);
}
