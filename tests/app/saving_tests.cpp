// Saving and starting: what cannot be written is said until it can, two windows do not write to one file.
#include "harness.h"

#include "project/sequence_edits.h"
#include "shell/banner.h"

#include <QAbstractButton>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
#include <QPushButton>
#include <QTimer>
#include <QtTest>
#include <catch2/catch.hpp>
#include <csignal>
#include <cstdio>
#include <sys/resource.h>

using namespace fox;
using namespace fox::app;
using namespace fox::test;

namespace {

/// No file of this process grows beyond so many bytes, as on a full disk; until it goes.
class FullDisk {
public:
    explicit FullDisk(rlim_t bytes) {
        m_signal = std::signal(SIGXFSZ, SIG_IGN);
        getrlimit(RLIMIT_FSIZE, &m_before);
        const rlimit now{bytes, m_before.rlim_max};
        REQUIRE(setrlimit(RLIMIT_FSIZE, &now) == 0);
    }
    ~FullDisk() {
        setrlimit(RLIMIT_FSIZE, &m_before);
        std::signal(SIGXFSZ, m_signal);
    }

private:
    rlimit m_before{};
    void (*m_signal)(int) = nullptr;
};

Project onDisk(DemoWindow& window) { return ProjectStore::read(window->session().path().toStdString()); }

void merge(DemoWindow& window, const char* from, const char* to) {
    REQUIRE(window->session().apply([=](const Project& p) { return mergeCode(p, from, to); }));
}

} // namespace

TEST_CASE("On a full disk the banner stays until the edits are written, and none is lost", "[saving]") {
    DemoWindow window;
    auto* banner = child<Banner>(&*window, "banner");
    CHECK_FALSE(banner->isVisible());
    {
        const FullDisk full(4096);
        merge(window, "M.G.", "MG");
        waitFor("the banner", [&] { return banner->isVisible(); });
        CHECK(child<QLabel>(banner, "bannerWords")->text().contains("Not saved"));
        CHECK(window.project().sequence->aliases.at("M.G.") == "MG");
        child<QPushButton>(banner, "bannerSaveAgain")->click(); // still full
        window.settle();
        CHECK(banner->isVisible());
        CHECK_FALSE(onDisk(window).sequence->aliases.contains("M.G."));
    }
    picture(&*window, "not-saved");
    child<QPushButton>(banner, "bannerSaveAgain")->click();
    waitFor("the banner to go", [&] { return !banner->isVisible(); });
    window.settle();
    CHECK(sameValue(onDisk(window), window.project()));
}

TEST_CASE("The next edit is a try too, and writes what was left", "[saving]") {
    DemoWindow window;
    {
        const FullDisk full(4096);
        merge(window, "M.G.", "MG");
        waitFor("the sentence", [&] { return !window->session().notSavedBecause().isEmpty(); });
    }
    window->session().apply([](const Project& p) { return setHoleLevel(p, "QB101", Level{31.5}); });
    waitFor("the save", [&] { return window->session().notSavedBecause().isEmpty(); });
    window.settle();
    CHECK(sameValue(onDisk(window), window.project()));
}

TEST_CASE("A window with edits that can't be saved asks before it closes", "[saving]") {
    DemoWindow window;
    const FullDisk full(4096);
    merge(window, "M.G.", "MG");
    waitFor("the sentence", [&] { return !window->session().notSavedBecause().isEmpty(); });
    bool asked = false;
    const auto answer = [&asked](const QString& words) {
        QTimer::singleShot(0, [&asked, words] {
            auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
            if (!box) return; // the check of `asked` says so
            for (auto* button : box->buttons())
                if (button->text().remove('&') == words) {
                    asked = true;
                    return button->click();
                }
            box->reject();
        });
    };
    answer("Cancel");
    CHECK_FALSE(window->close());
    CHECK(asked);
    CHECK(window->isVisible());
    asked = false;
    answer("Close without saving");
    CHECK(window->close());
    CHECK(asked);
}

TEST_CASE("A second window on a project looks and does not write", "[saving]") {
    QTemporaryDir folder;
    DemoWindow first("site", folder.filePath("p.gpkg"));
    MainWindow second;
    second.projects()->open(folder.filePath("p.gpkg"));
    second.show();
    waitFor("the second window", [&] { return second.settled() && second.session().products(); });
    auto* banner = child<Banner>(&second, "banner");
    CHECK(banner->isVisible());
    CHECK_FALSE(second.session().readOnlyBecause().isEmpty());
    CHECK_FALSE(child<QPushButton>(banner, "bannerSaveAgain")->isVisible());
    picture(&second, "read-only");
    CHECK_FALSE(second.session().apply([](const Project& p) { return mergeCode(p, "M.G.", "MG"); }));
    CHECK(second.session().project().sequence->aliases.empty());
    merge(first, "M.G.", "MG");
    first.settle();
    CHECK(onDisk(first).sequence->aliases.size() == 1);
    // under another name it can be edited
    second.session().saveAs(folder.filePath("q.gpkg"));
    waitFor("the copy", [&] { return second.session().path().endsWith("q.gpkg") && second.settled(); });
    CHECK_FALSE(banner->isVisible());
    CHECK(second.session().apply([](const Project& p) { return mergeCode(p, "M.G.", "MG"); }));
    waitFor("the save", [&] { return second.settled(); });
    CHECK(ProjectStore::read(folder.filePath("q.gpkg").toStdString()).sequence->aliases.size() == 1);
}

TEST_CASE("The window's program tells its version and its options without a display", "[shell]") {
    for (const char* option : {"--help", "--version"}) {
        FILE* pipe = popen((std::string("env -u DISPLAY -u WAYLAND_DISPLAY " FOX_APP " ") + option + " 2>&1").c_str(), "r");
        REQUIRE(pipe);
        std::string out;
        char block[4096];
        for (std::size_t n; (n = fread(block, 1, sizeof block, pipe)) > 0;) out.append(block, n);
        CHECK(pclose(pipe) == 0);
        CHECK(out.find("Fox Cellar") != std::string::npos);
    }
}

TEST_CASE("What was typed last is in the file when the window closes", "[saving]") {
    QTemporaryDir folder;
    DemoWindow window("site", folder.filePath("p.gpkg"));
    auto* system = child<QLineEdit>(&*window, "systemEdit");
    system->setFocus();
    system->selectAll();
    QTest::keyClicks(system, "25832"); // no Enter
    const ModalAnswers box("systemBox", [](QWidget* asked) { answer(asked, "Only the name was wrong"); });
    CHECK(window->close());
    CHECK(box.count() == 1);
    CHECK(onDisk(window).site->crs == "EPSG:25832");
}
