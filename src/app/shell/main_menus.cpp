#include "shell/find_box.h"
#include "shell/help_window.h"
#include "shell/main_window.h"
#include "shell/project_actions.h"
#include "shell/sequence_actions.h"
#include "shell/shortcut_sheet.h"
#include "shell/stage_column.h"
#include "shell/top_bar.h"
#include "style/theme.h"

#include <QMenuBar>
#include <QMessageBox>
#include <QSettings>

// The window's actions and menus.
namespace fox::app {

QAction* MainWindow::action(const char* objectName, const QString& text, const QKeySequence& keys, const QString& tip,
                            std::function<void()> go) {
    auto* a = new QAction(text, this);
    a->setObjectName(objectName);
    a->setShortcut(keys);
    a->setToolTip(keys.isEmpty() ? tip : QString("%1 (%2)").arg(tip, keys.toString(QKeySequence::NativeText)));
    connect(a, &QAction::triggered, this, go);
    addAction(a);
    return a;
}

void MainWindow::makeActions() {
    m_undo = action("undo", tr("Undo"), QKeySequence::Undo, tr("Take the last edit back"), [this] { m_session->undo(); });
    m_redo = action("redo", tr("Redo"), QKeySequence::Redo, tr("Do again what was taken back"), [this] { m_session->redo(); });
    m_import = action("import", tr("Import…"), QKeySequence("Ctrl+I"),
                      tr("Bring in holes (AGS, LAS, tables) or ground data (survey points, lines, grids, background images)"),
                      [this] { askImport(); });
    m_export = action("export", tr("Export…"), QKeySequence("Ctrl+E"), tr("Export surfaces and holes as files"),
                      [this] { askExport(); });
}

void MainWindow::makeMenus() {
    auto* file = menuBar()->addMenu(tr("&File"));
    file->addAction(
        action("new", tr("New project…"), QKeySequence::New, tr("Start an empty project"), [this] { m_projects->askNew(); }));
    file->addAction(
        action("open", tr("Open project…"), QKeySequence::Open, tr("Open a project file"), [this] { m_projects->askOpen(); }));
    auto* recent = file->addMenu(tr("Open recent"));
    recent->setObjectName("openRecent");
    recent->setToolTipsVisible(true);
    connect(recent, &QMenu::aboutToShow, this, [this, recent] { m_projects->fillRecent(recent); });
    file->addAction(action("demo", tr("Reset the demo project"), {}, tr("Open the Quernbeck demo as it was delivered"),
                           [this] { m_projects->openDemo(true); }));
    file->addAction(action("saveAs", tr("Save as…"), QKeySequence::SaveAs,
                           tr("Write the project to another file and go on there"), [this] { m_projects->askSaveAs(); }));
    file->addAction(action("saveCopy", tr("Save a copy…"), {}, tr("Write the project to another file and go on in this one"),
                           [this] { m_projects->askSaveCopy(); }));
    auto* points = file->addMenu(tr("Restore points"));
    points->setObjectName("restorePoints");
    connect(points, &QMenu::aboutToShow, this, [this, points] { m_projects->fillRestorePoints(points); });
    file->addAction(action("compareProject", tr("What changed…"), {},
                           tr("From an earlier file of this project to now, as a PDF: holes, units, settings, bases, volumes"),
                           [this] { m_projects->askCompareFile(); }));
    file->addSeparator();
    file->addAction(m_import);
    file->addAction(m_export);
    file->addAction(action("report", tr("Report…"), QKeySequence("Ctrl+Shift+R"),
                           tr("Chapters of the model's report, words of your own, and the PDF"),
                           [this] { m_projects->openReport(); }));
    file->addSeparator();
    file->addAction(action("quit", tr("Quit"), QKeySequence::Quit, tr("Close Fox Cellar"), [this] { close(); }));
    auto* edit = menuBar()->addMenu(tr("&Edit"));
    edit->addAction(m_undo);
    edit->addAction(m_redo);
    edit->addSeparator();
    edit->addAction(action("pasteTable", tr("Paste a table…"), QKeySequence("Ctrl+Shift+V"),
                           tr("Import rows copied from a spreadsheet: places, intervals, tops, survey points"),
                           [this] { pasteTable(); }));
    edit->addAction(action("saveCorrections", tr("Save data corrections…"), {},
                           tr("The list of corrections to the contractors' data, as CSV"), [this] { saveCorrections(); }));
    edit->addSeparator();
    edit->addAction(action("findAction", tr("Find…"), QKeySequence("Ctrl+K"), tr("Find a hole, a unit, a file or an action"),
                           [this] { m_top->find()->setFocus(); }));
    auto* view = menuBar()->addMenu(tr("&View"));
    for (int i = 0; i < int(stages().size()); ++i) {
        const auto& stage = stages()[std::size_t(i)];
        view->addAction(action("stage", tr(stage.title),
                               stage.partOf ? QKeySequence() : QKeySequence(QString("Alt+%1").arg(i + 1)), tr("Go to this stage"),
                               [this, i] { setStage(i); }));
    }
    view->addSeparator();
    view->addAction(action("higher", tr("More vertical exaggeration"), QKeySequence("Ctrl+Up"), tr("More vertical exaggeration"),
                           [this] { m_selection->setExaggeration(m_selection->exaggeration() + 1); }));
    view->addAction(action("lower", tr("Less vertical exaggeration"), QKeySequence("Ctrl+Down"), tr("Less vertical exaggeration"),
                           [this] { m_selection->setExaggeration(m_selection->exaggeration() - 1); }));
    view->addAction(action("trueScale", tr("No exaggeration (1:1)"), QKeySequence("Ctrl+1"), tr("No vertical exaggeration"),
                           [this] { m_selection->setExaggeration(1); }));
    view->addSeparator();
    view->addAction(action("drawSection", tr("Draw a section line"), QKeySequence("Ctrl+L"),
                           tr("Click the corners of a section line on the plan"), [this] { drawSection(); }));
    view->addAction(
        action("removeSection", tr("Remove the chosen section line"), {}, tr("Remove the section line that is shown"), [this] {
            const auto& lines = *m_session->project().sections;
            if (!lines.empty())
                m_session->apply([name = lines[std::size_t(std::clamp(m_selection->section(), 0, int(lines.size()) - 1))].name](
                                     const Project& p) { return removeSection(p, name); });
        }));
    view->addAction(action("volumes", tr("Volumes…"), QKeySequence("Ctrl+Shift+U"),
                           tr("Volumes by unit, inside an outline, above a level or surface"),
                           [this] { m_sequence->openVolumes(); }));
    view->addAction(action("checkHoles", tr("Holes against the model without them…"), {},
                           tr("What the holes of one file found, against the model that is made without them"),
                           [this] { m_sequence->openHoleCheck(); }));
    view->addAction(action("whichLayer", tr("Assign units…"), QKeySequence("Ctrl+Shift+Q"),
                           tr("What the program proposes for codes that could be several units"),
                           [this] { m_sequence->openSheet(); }));
    view->addAction(action("workAgain", tr("Recalculate"), QKeySequence::Refresh, tr("Recalculate what was stopped"),
                           [this] { m_session->workAgain(); }));
    addThemeMenus(*view);
    addHelpMenu();
}

void MainWindow::addThemeMenus(QMenu& view) {
    view.addSeparator();
    const auto add = [this](QMenu& to, const QString& words, const char* key, const QVariant& value, const QVariant& usual) {
        auto* a = to.addAction(words, this, [this, key, value] {
            QSettings().setValue(key, value);
            takeTheme();
        });
        a->setCheckable(true);
        connect(&to, &QMenu::aboutToShow, a, [a, key, value, usual] { a->setChecked(QSettings().value(key, usual) == value); });
    };
    auto& theme = *view.addMenu(tr("Theme"));
    theme.setObjectName("theme");
    add(theme, tr("As the desktop has it"), "theme", "system", "system");
    add(theme, tr("Light"), "theme", "light", "system");
    add(theme, tr("Dark"), "theme", "dark", "system");
    auto& text = *view.addMenu(tr("Size of text"));
    text.setObjectName("textSize");
    for (const int percent : {90, 100, 110, 125, 150}) add(text, tr("%1 %").arg(percent), "textScale", percent / 100.0, 1.0);
}

void MainWindow::addHelpMenu() {
    auto* help = menuBar()->addMenu(tr("&Help"));
    help->addAction(
        action("guide", tr("Guide"), QKeySequence::HelpContents, tr("The guide, at the chapter about what is shown"), [this] {
            auto* window = findChild<HelpWindow*>();
            if (!window) {
                window = new HelpWindow(this);
                window->setAttribute(Qt::WA_DeleteOnClose);
            }
            window->show();
            window->raise();
            window->showChapter(chapterOf(stages()[m_stage].id));
        }));
    help->addAction(
        action("shortcuts", tr("Keyboard shortcuts…"), QKeySequence("Ctrl+F1"), tr("Every shortcut, to search"), [this] {
            auto* sheet = new ShortcutSheet(actions(), this);
            sheet->setAttribute(Qt::WA_DeleteOnClose);
            sheet->show();
        }));
    help->addSeparator();
    help->addAction(action("about", tr("About Fox Cellar"), {}, tr("Version and licence"), [this] {
        QMessageBox::about(
            this, tr("Fox Cellar"),
            tr("<b>Fox Cellar %1</b><p>Ground models from boreholes and survey points.</p><p>Free software under the GNU General "
               "Public License, version 3 or later. The letters are Inter, under the SIL Open Font License.</p>")
                .arg(FOX_VERSION));
    }));
}

} // namespace fox::app
