// What is there again after the window was closed, or did not end properly.
#include "harness.h"
#include "shell/project_actions.h"
#include "shell/run_mark.h"

#include <QAction>
#include <QMessageBox>
#include <QProcess>
#include <QPushButton>
#include <QSettings>
#include <QTemporaryDir>
#include <catch2/catch.hpp>
#include <csignal>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

TEST_CASE("Edits of an earlier session are undone and done again after the project is opened anew", "[app][history]") {
    const QTemporaryDir folder;
    const auto path = folder.filePath("site.gpkg");
    Project before, after;
    {
        DemoWindow window("holes", path);
        before = window.project();
        window->session().apply([](const Project& p) { return setUnitName(p, "TL", "Stiff till"); });
        window->session().apply([](const Project& p) { return setUnitColour(p, "TL", "#AA5533"); });
        window.settle();
        after = window.project();
    }
    DemoWindow window("holes");
    window->projects()->open(path);
    window.settle();
    REQUIRE(sameValue(window.project(), after));
    const auto& history = window->session().history();
    REQUIRE(history.canUndo());
    CHECK(QString::fromStdString(history.undoLabel()).contains("TL"));
    const auto products = window->session().products();
    press(&*window, Qt::Key_Z, Qt::ControlModifier);
    window.settle();
    press(&*window, Qt::Key_Z, Qt::ControlModifier);
    window.settle();
    CHECK(sameValue(window.project(), before));
    CHECK_FALSE(history.canUndo());
    CHECK(window->session().products()->terrain == products->terrain); // what is the same is not worked out again
    press(&*window, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    press(&*window, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    window.settle();
    CHECK(sameValue(window.project(), after));
    // and an edit that comes after is one more step of the file
    window->session().apply([](const Project& p) { return setUnitName(p, "TL", "Till again"); });
    window.settle();
    window->session().finishSaving();
    CHECK(ProjectStore::version(path.toStdString(), 0).sequence->units == before.sequence->units);
}

TEST_CASE("A run that was killed is known to the next one, with the project that was open", "[app][history]") {
    const QTemporaryDir data;
    const auto runs = data.filePath("Fox Cellar/Fox Cellar/runs");
    CHECK(RunMark::takeCrashed(runs).isEmpty());
    QProcess program;
    auto environment = QProcessEnvironment::systemEnvironment();
    environment.insert("XDG_DATA_HOME", data.path());
    program.setProcessEnvironment(environment);
    program.start(FOX_APP, {"--demo"});
    REQUIRE(program.waitForStarted());
    const auto marked = [&] {
        const auto files = QDir(runs).entryInfoList({"*.run"}, QDir::Files);
        if (files.isEmpty()) return false;
        QFile file(files.front().absoluteFilePath());
        return file.open(QIODevice::ReadOnly) && file.readAll().contains("Quernbeck");
    };
    waitFor("the run to mark its project", marked);
    CHECK(RunMark::takeCrashed(runs).isEmpty()); // it is alive
    ::kill(pid_t(program.processId()), SIGKILL);
    REQUIRE(program.waitForFinished());
    const auto crashed = RunMark::takeCrashed(runs);
    REQUIRE(crashed.size() == 1);
    CHECK(crashed.front().endsWith("Quernbeck flood bypass.gpkg"));
    CHECK(RunMark::takeCrashed(runs).isEmpty()); // said once
    {
        RunMark mine(runs);
        mine.setProject("/somewhere/site.gpkg");
        CHECK(RunMark::takeCrashed(runs).isEmpty());
    }
    CHECK(RunMark::takeCrashed(runs).isEmpty()); // it ended properly
}

TEST_CASE("After a crash the project is opened again only if the user says so", "[app][history]") {
    const QTemporaryDir folder;
    const auto path = folder.filePath("site.gpkg");
    Project project;
    project.name = "Site";
    ProjectStore::create(path.toStdString(), project);
    DemoWindow window("site");
    {
        const ModalAnswers answers("crashBox", [&](QWidget* box) {
            CHECK(qobject_cast<QMessageBox*>(box)->informativeText().contains(path));
            press(box, Qt::Key_Escape);
        });
        window->projects()->offerAfterCrash(path);
        window.settle();
        CHECK(answers.count() == 1);
        CHECK(window->session().path() != path);
    }
    const ModalAnswers answers("crashBox", [](QWidget* box) { press(box, Qt::Key_Return); });
    window->projects()->offerAfterCrash(path);
    window.settle();
    CHECK(window->session().path() == path);
}
