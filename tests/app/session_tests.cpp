#include "harness.h"

#include "handover/build_file.h"
#include "project/sequence_edits.h"
#include "project/site_edits.h"
#include "shell/findings_strip.h"
#include "shell/stage_column.h"
#include "shell/status_line.h"
#include "stages/stages.h"
#include "style/theme.h"

#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QSignalSpy>
#include <QTemporaryDir>
#include <QtTest>
#include <catch2/catch.hpp>
#include <fstream>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

/// A session on a demo project of its own.
struct OpenSession {
    QTemporaryDir folder;
    Session session;
    OpenSession() {
        copyDemoProject(folder.filePath("p.gpkg"));
        session.setWanted({ProductKind::Grids, ProductKind::AllFindings}); // as if the model were in sight
        session.open(folder.filePath("p.gpkg"));
        settle();
    }
    void settle() {
        waitFor("the work to be done", [this] { return session.products() && !session.outOfDate(); });
    }
    Project onDisk() { return ProjectStore::read(folder.filePath("p.gpkg").toStdString()); }
};

} // namespace

TEST_CASE("Of many edits in a hurry the last one is shown and saved", "[session]") {
    OpenSession open;
    for (int i = 1; i <= 40; ++i)
        open.session.apply([&](const Project& p) { return setHoleLevel(p, "QB101", Level{30 + i * 0.01}); });
    open.settle();
    CHECK(findHole(open.session.products()->project.holes.operator*(), "QB101")->level == Level{30.4});
    CHECK(sameValue(open.onDisk(), open.session.project()));
    for (int i = 0; i < 40; ++i) open.session.undo();
    CHECK_FALSE(open.session.history().canUndo());
    open.settle();
    CHECK(sameValue(open.onDisk(), open.session.project()));
    open.session.undo(); // nothing left: nothing happens
    CHECK_FALSE(open.session.outOfDate());
}

TEST_CASE("Stopped work keeps the last good surfaces, and can be taken up again", "[session]") {
    OpenSession open;
    const auto good = open.session.products();
    // asked to stop as soon as it speaks
    QObject::connect(
        &open.session, &Session::progressed, &open.session, [&] { open.session.stopWork(); }, Qt::SingleShotConnection);
    open.session.apply([&](const Project& p) { return setCell(p, 2); });
    waitFor("the work to end", [&] { return !open.session.outOfDate(); });
    // whether the stop came in time or not, what is shown is whole: the old version or the new one
    const double cell = open.session.products()->frame->cell;
    CHECK(cell == (open.session.products() == good ? 10 : 2));
    CHECK(open.session.products()->modelGrid->ground.frame.cell == cell);
    open.session.workAgain();
    open.settle();
    CHECK(open.session.products()->frame->cell == 2);
}

TEST_CASE("A save that fails is said, and the work goes on", "[session]") {
    OpenSession open;
    QDir(open.folder.path()).removeRecursively();
    open.session.apply([&](const Project& p) { return mergeCode(p, "M.G.", "MG"); });
    waitFor("the sentence", [&] { return !open.session.notSavedBecause().isEmpty(); });
    waitFor("the work to end", [&] { return !open.session.outOfDate(); });
    CHECK(open.session.notSavedBecause().contains("p.gpkg"));
    CHECK_FALSE(open.session.finishSaving());
    CHECK(open.session.project().sequence->aliases.size() == 1);
    CHECK(open.session.products()->project.sequence->aliases.size() == 1);
}

TEST_CASE("An edit made just before another project is opened is not lost", "[session]") {
    OpenSession open;
    const auto other = open.folder.filePath("other.gpkg");
    ProjectStore::create(other.toStdString(), Project{});
    open.session.apply([&](const Project& p) { return mergeCode(p, "M.G.", "MG"); });
    open.session.open(other);
    open.settle();
    CHECK(open.onDisk().sequence->aliases.at("M.G.") == "MG");
    open.settle();
    CHECK(open.session.products()->project.holes->empty());
}

TEST_CASE("Products come through their steps in words", "[session]") {
    OpenSession open;
    open.session.setWanted(Wanted::everything());
    open.settle();
    QSignalSpy steps(&open.session, &Session::progressed), busy(&open.session, &Session::busyChanged),
        saved(&open.session, &Session::saved);
    open.session.apply([&](const Project& p) { return setMethod(p, "RG", Method::InverseDistance); });
    open.settle();
    waitFor("the last word", [&] { return busy.size() >= 2; });
    QStringList words;
    for (const auto& s : steps) words << s.at(1).toString();
    CHECK(words.contains("Base of River Gravel, Inverse distance"));
    CHECK(words.contains("Section A"));
    CHECK(busy.front().front().toBool());
    CHECK_FALSE(busy.back().front().toBool());
    CHECK(saved.size() >= 1);
}

TEST_CASE("The strip shows the worst finding, its remedy, and hides what there is not", "[shell]") {
    FindingsStrip strip;
    strip.resize(900, 40);
    strip.show();
    auto* counts = child<QPushButton>(&strip, "findingCounts");
    auto* remedy = child<QPushButton>(&strip, "remedy");
    auto* show = child<QPushButton>(&strip, "showFinding");
    strip.setFindings(std::make_shared<const Findings>());
    CHECK(counts->text() == "no findings");
    CHECK_FALSE(remedy->isVisible());
    Finding level{Severity::Error, "FC-LEVEL", "a.ags", 4, "LOCA", "", "BH1", "No level."};
    level.remedy = Remedy{"Take the terrain's level", SetGroundLevel{"BH1", Level{12.3}}};
    const Finding note{Severity::Note, "FC-CROSSES", "", 0, "", "", "", "Crosses."};
    strip.setFindings(std::make_shared<const Findings>(Findings{level, note}));
    CHECK(counts->text().startsWith("1 error"));
    CHECK(remedy->text() == "Take the terrain's level");
    QString shown;
    std::optional<Remedy> taken;
    QObject::connect(&strip, &FindingsStrip::remedyAsked, [&](const Remedy& r) { taken = r; });
    QObject::connect(&strip, &FindingsStrip::showAsked, [&](const Finding& f) { shown = QString::fromStdString(f.hole); });
    click(remedy, {8, 8});
    click(show, {8, 8});
    CHECK(taken == level.remedy);
    CHECK(shown == "BH1");
}

TEST_CASE("The stage column goes by mouse and arrow keys", "[shell]") {
    std::vector<StageColumn::Band> bands(3, {"A", Qt::gray, Qt::NoBrush, "", Severity::Note, 0});
    StageColumn column(bands);
    column.resize(92, 300);
    column.show();
    QObject::connect(&column, &StageColumn::chosen, &column, &StageColumn::setCurrent);
    click(&column, column.bandRect(2).center());
    CHECK(column.current() == 2);
    press(&column, Qt::Key_Down);
    CHECK(column.current() == 2);
    press(&column, Qt::Key_Up);
    CHECK(column.current() == 1);
    const auto before = column.grab().toImage();
    column.setFigure(0, "42", Severity::Error, 7);
    CHECK(column.grab().toImage() != before);
}

TEST_CASE("What the status line was told stays until other work begins", "[shell]") {
    StatusLine status;
    auto* words = child<QLabel>(&status, "workWords");
    auto* cursor = child<QLabel>(&status, "cursorPlace");
    status.setBusy(true);
    status.setProgress(0.4, "Base of Till");
    CHECK(words->text() != "Base of Till"); // work that is soon done is not shown at all
    status.show();
    waitFor("work that goes on", [&] { return words->text() == "Base of Till"; });
    status.say("The disk is full.");
    status.setBusy(false);
    CHECK(words->text() == "The disk is full.");
    status.setBusy(true);
    status.setBusy(false);
    CHECK(words->text() == "Up to date");
    CHECK_FALSE(status.findChild<QProgressBar*>()->isVisible());
    status.setPointed(480377.023, 6120000.5, 31.92, "Till");
    CHECK(cursor->text().contains("level 31.9 m  Till"));
    status.setPointed(kNoValue, kNoValue, kNoValue, {});
    CHECK(cursor->text().startsWith("Move the cursor"));
}

TEST_CASE("Numbers are written as the trade reads them", "[style]") {
    const QString thin(QChar(0x2009));
    CHECK(coordinate(6120377.026) == "6" + thin + "120" + thin + "377.03");
    CHECK(coordinate(-1234.5) == "-1" + thin + "234.50");
    CHECK(coordinate(12) == "12.00");
    CHECK(metres(3.14159) == "3.14 m");
    CHECK(metres(kNoValue) == QString(QChar(0x2013)));
    CHECK(volume(2410473) == QString::fromUtf8("2.41 Mm³"));
    CHECK(volume(950) == QString::fromUtf8("950 m³"));
}

TEST_CASE("Every kind of ground that is named has a sign of its own", "[style]") {
    std::vector<QImage> signs;
    for (const char* name : {"Topsoil", "Made Ground", "Alluvium", "Peat", "River Gravel", "Till", "Sand Lens",
                             "Weathered Mudstone", "Mudstone", "Limestone"}) {
        Unit unit;
        unit.name = name;
        unit.colour = "#808080";
        CAPTURE(name);
        REQUIRE(hatch(unit).style() == Qt::TexturePattern);
        signs.push_back(hatch(unit).texture().toImage());
    }
    for (std::size_t i = 0; i < signs.size(); ++i)
        for (std::size_t k = 0; k < i; ++k) CHECK(signs[i] != signs[k]);
    Unit nameless;
    nameless.name = "X";
    CHECK(hatch(nameless).style() == Qt::NoBrush);
}

TEST_CASE("Every stage has a shelf and a figure, also for a project with nothing in it", "[stages]") {
    Selection selection;
    const auto empty = Products().of(Project{});
    const auto full = Products().of(buildProject(FOX_DEMO "/quernbeck.build.json").project);
    for (const auto& stage : stages()) {
        CAPTURE(stage.id);
        const std::unique_ptr<Shelf> shelf(stage.makeShelf(&selection, nullptr));
        for (const auto& products : {empty, full}) {
            shelf->setProducts(products);
            selection.setHole("QB102");
            selection.setUnit("RG");
            shelf->resize(320, 600);
            CHECK(coloursOf(shelf.get()) > 30); // there are words in it
            CHECK_FALSE(stage.figure(*products).words.isEmpty());
            selection.setHole({});
            selection.setUnit({});
        }
    }
    CHECK(stages()[1].figure(*full).state == Severity::Warning); // a hole at 0, 0
    CHECK(stages()[1].figure(*empty).count == 0);
}

TEST_CASE("What nobody looks at is not worked out again after an edit", "[session]") {
    DemoWindow window("holes");
    window.settle();
    auto& session = window->session();
    const auto move = [&](double level) {
        session.apply([level](const Project& p) { return setHoleLevel(p, "QB101", Level{level}); });
        window.settle();
    };
    CHECK(session.made("audit") == 1); // the findings name contacts that the model misses
    CHECK(session.made("section A") == 0);
    CHECK(session.made("contours") == 1); // the plan has them
    move(20.05);
    CHECK(session.made("audit") == 2);
    CHECK(session.made("section A") == 0);
    window->showStage("model");
    window.settle();
    CHECK(session.made("audit") == 2); // of this version there is one
    CHECK(session.made("section A") == 1);
    window->showStage("holes");
    move(20.06);
    CHECK(session.made("section A") == 1);
    window->showStage("model");
    window.settle();
    CHECK(session.made("audit") == 3);
    CHECK(session.made("section A") == 2);
}

TEST_CASE("Whoever asks gets products of the newest version, or hears that there are none", "[session]") {
    OpenSession open;
    auto& session = open.session;
    ProductsPtr got;
    session.apply([](const Project& p) { return setHoleLevel(p, "QB101", Level{20.5}); });
    session.ask({ProductKind::Audit}, [&](const ProductsPtr& made) { got = made; });
    CHECK_FALSE(got); // the work has just begun
    waitFor("the products", [&] { return bool(got); });
    CHECK(got->audit);
    CHECK(findHole(*got->project.holes, "QB101")->level == Level{20.5});
    open.settle();
    got.reset();
    session.ask({ProductKind::Grids}, [&](const ProductsPtr& made) { got = made; });
    CHECK(got); // they are there
    int answers = 0;
    session.holdWork(true);
    session.apply([](const Project& p) { // cells enough to take some seconds
        auto frame = *frameOf(p);
        frame.cell /= 10;
        return setFrame(p, frame);
    });
    session.ask({ProductKind::Contours}, [&](const ProductsPtr& made) { answers += made ? 1 : 100; });
    QObject::connect(&session, &Session::progressed, &session, [&] { session.stopWork(); });
    session.holdWork(false);
    waitFor("an answer", [&] { return answers != 0; });
    CHECK(answers == 100); // once, with null
    open.settle();
    CHECK(session.products()->frame->cell == frameOf(session.project())->cell * 10); // the last good ones
}
