#include "shell/project_actions.h"

#include "base/errors.h"
#include "base/files.h"
#include "dialogs/new_project.h"
#include "dialogs/report_sheet.h"
#include "handover/build_file.h"
#include "handover/model_report.h"
#include "handover/project_comparison.h"
#include "paper/render.h"
#include "style/words.h"
#include "views/ask_file.h"

#include <QCoreApplication>
#include <QDate>
#include <QDir>
#include <QFileDialog>
#include <QInputDialog>
#include <QLineEdit>
#include <QLocale>
#include <QMenu>
#include <QMessageBox>
#include <QProcess>
#include <QPushButton>
#include <QSettings>
#include <QStandardPaths>
#include <QTimer>

namespace fox::app {

namespace {

QString dataFolder() {
    const auto folder = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation);
    QDir().mkpath(folder);
    return folder;
}

/// Where a project is kept before it is given a name.
QString unnamedPath() { return dataFolder() + "/New project.gpkg"; }

QString demoBuildFile() {
    const auto installed = QCoreApplication::applicationDirPath() + "/../share/fox-cellar/demo/quernbeck/quernbeck.build.json";
    return QFile::exists(installed) ? installed : QString(FOX_DEMO_SOURCE "/quernbeck.build.json");
}

QString inWords(const RestorePoint& point) {
    return QLocale().toString(QDateTime::fromSecsSinceEpoch(point.time.time_since_epoch().count()), QLocale::ShortFormat);
}

} // namespace

ProjectActions::ProjectActions(Workspace& workspace, QObject* parent)
    : QObject(parent), m_workspace(workspace), m_copying(this), m_restoring(this), m_writing(this, tr("Writing a report")) {
    connect(&session(), &Session::opened, this, [this] { remember(session().path()); });
}

Session& ProjectActions::session() const { return m_workspace.session(); }

bool ProjectActions::mayLeave() {
    if (session().finishSaving()) return true;
    QMessageBox box(QMessageBox::Warning, tr("Fox Cellar"),
                    tr("The last edits are not in the project file. %1").arg(session().notSavedBecause()), QMessageBox::NoButton,
                    m_workspace.dialogParent());
    box.setObjectName("notSavedBox");
    box.setInformativeText(tr("Save the project to another file, or lose these edits."));
    auto* saveAs = box.addButton(tr("Save as…"), QMessageBox::AcceptRole);
    auto* leave = box.addButton(tr("Close without saving"), QMessageBox::DestructiveRole);
    box.addButton(QMessageBox::Cancel);
    box.setDefaultButton(saveAs);
    box.exec();
    if (box.clickedButton() == saveAs) askSaveAs(); // the window stays until it is written
    return box.clickedButton() == leave;
}

void ProjectActions::open(const QString& path) {
    if (!mayLeave()) return;
    m_workspace.say(tr("Opening %1").arg(QFileInfo(path).fileName()));
    session().open(path);
}

void ProjectActions::openDemo(bool anew) {
    const auto path = dataFolder() + "/Quernbeck flood bypass.gpkg";
    if (!anew && QFile::exists(path)) return open(path);
    if (!mayLeave()) return;
    QSettings().remove("selectionOf"); // nothing is left of before
    session().openNew(path, [file = demoBuildFile().toStdString()] { return buildProject(file).project; });
}

void ProjectActions::openLast() {
    const auto last = QSettings().value("lastProject").toString();
    if (!last.isEmpty() && QFile::exists(last)) return open(last);
    if (!last.isEmpty())
        QTimer::singleShot(0, this, [this, last] {
            m_workspace.say(tr("The last project, %1, is no longer there. This is another one.").arg(last));
        });
    openUnnamed();
}

void ProjectActions::openUnnamed() {
    const auto path = unnamedPath();
    if (QFile::exists(path)) return open(path);
    session().openNew(path, [] { return Project{}; });
}

void ProjectActions::offerAfterCrash(const QString& path) {
    const auto points = restorePointsOf(path.toStdString());
    QMessageBox box(
        QMessageBox::Question, tr("Fox Cellar"),
        tr("Fox Cellar did not end properly the last time. %1 was open then.").arg(QFileInfo(path).completeBaseName()),
        QMessageBox::NoButton, m_workspace.dialogParent());
    box.setObjectName("crashBox");
    auto words = tr("Every edit up to then is in its file:\n%1").arg(path);
    if (!points.empty())
        words += tr("\n\nIf it fails again, start without it: how it was on %1 is kept as a restore point beside it.")
                     .arg(inWords(points.front()));
    box.setInformativeText(words);
    auto* again = box.addButton(tr("Open it again"), QMessageBox::AcceptRole);
    auto* without = box.addButton(tr("Start without it"), QMessageBox::RejectRole);
    box.setDefaultButton(again);
    box.setEscapeButton(without);
    box.exec();
    if (box.clickedButton() == again) return open(path);
    if (path != unnamedPath()) return openUnnamed();
    session().openNew(path, [] { return Project{}; }); // what it was becomes a restore point
}

QString ProjectActions::unnamedBecause() const {
    const auto& p = session().project();
    if (session().path() != unnamedPath() || (p.holes->empty() && p.ground->empty())) return {};
    return tr("This project has no name and place of its own yet: it is kept as %1. Save it where you want it.")
        .arg(session().path());
}

bool ProjectActions::takeProject(const QString& path) {
    if (!path.endsWith(".gpkg", Qt::CaseInsensitive) || !ProjectStore::isProject(path.toStdString())) return false;
    QMessageBox box(QMessageBox::Question, tr("Fox Cellar"),
                    tr("%1 is a project, not data to import.").arg(QFileInfo(path).fileName()), QMessageBox::Cancel,
                    m_workspace.dialogParent());
    box.setObjectName("projectAsDataBox");
    box.setInformativeText(tr("Open it instead of the project that is open?"));
    auto* openIt = box.addButton(tr("Open it"), QMessageBox::AcceptRole);
    box.exec();
    if (box.clickedButton() == openIt) open(path);
    return true;
}

void ProjectActions::askOpen() {
    const auto path =
        QFileDialog::getOpenFileName(m_workspace.dialogParent(), tr("Open project"), dataFolder(), tr("Projects (*.gpkg)"));
    if (!path.isEmpty()) open(path);
}

void ProjectActions::askNew() {
    const auto path = askSaveFile(m_workspace.dialogParent(), tr("New project: where should its file be?"), "projects",
                                  "project.gpkg", tr("Projects (*.gpkg)"), "gpkg");
    if (path.isEmpty() || !mayLeave()) return;
    const auto system = askProjectSystem(m_workspace.dialogParent());
    if (!system) return;
    session().openNew(path, [name = QFileInfo(path).completeBaseName().toStdString(), crs = system->toStdString()] {
        Project project;
        project.name = name;
        return crs.empty() ? project : setSystem(project, crs).project;
    });
}

void ProjectActions::askSaveAs() {
    const auto start = QFileInfo(session().path().isEmpty() ? QDir::homePath() + "/project.gpkg" : session().path());
    const auto path = askSaveFile(m_workspace.dialogParent(), tr("Save the project as"), "projects",
                                  start.path() + "/" + start.completeBaseName() + " copy.gpkg", tr("Projects (*.gpkg)"), "gpkg");
    if (!path.isEmpty()) session().saveAs(path);
}

void ProjectActions::askSaveCopy() {
    const auto name = QFileInfo(session().path()).completeBaseName();
    const auto path =
        askSaveFile(m_workspace.dialogParent(), tr("Save a copy of the project"), "copies",
                    tr("%1 %2.gpkg").arg(name, QDate::currentDate().toString(Qt::ISODate)), tr("Projects (*.gpkg)"), "gpkg");
    if (path.isEmpty()) return;
    if (QFileInfo(path).canonicalFilePath() == QFileInfo(session().path()).canonicalFilePath() && QFile::exists(path))
        return m_workspace.refuse(tr("That is the file that is open. Choose another name for the copy."));
    m_copying.start(
        [path, project = session().project()](const Progress&) {
            ProjectStore::replace(path.toStdString(), project);
            return path;
        },
        [this](const QString& to) { m_workspace.say(tr("A copy is in %1.").arg(to)); },
        [this](const QString& why) { m_workspace.refuse(why); });
}

void ProjectActions::remember(const QString& path) {
    constexpr int kRemembered = 10;
    QSettings settings;
    auto recent = settings.value("recentProjects").toStringList();
    recent.removeAll(path);
    recent.prepend(path);
    settings.setValue("recentProjects", QStringList(recent.mid(0, kRemembered)));
}

QStringList ProjectActions::recent() const {
    auto out = QSettings().value("recentProjects").toStringList();
    out.removeIf([this](const QString& path) { return !QFile::exists(path) || path == session().path(); });
    return out;
}

void ProjectActions::fillRecent(QMenu* menu) {
    menu->clear();
    for (const auto& path : recent()) {
        auto* action = menu->addAction(QFileInfo(path).completeBaseName(), this, [this, path] { open(path); });
        action->setToolTip(path);
    }
    if (menu->isEmpty()) menu->addAction(tr("No other project yet"))->setEnabled(false);
}

void ProjectActions::fillRestorePoints(QMenu* menu) {
    menu->clear();
    menu->addAction(tr("Keep a restore point…"), this, &ProjectActions::askKeepPoint)->setEnabled(!session().path().isEmpty());
    menu->addSeparator();
    const auto points = restorePointsOf(session().path().toStdString());
    for (const auto& point : points) {
        const auto words = inWords(point);
        auto* one =
            menu->addMenu(point.name.empty() ? tr("As it was on %1").arg(words) : tr("%1, %2").arg(qt(point.name), words));
        one->addAction(tr("Go back to it"), this, [this, point] { restore(point); });
        one->addAction(tr("Look at it in a window of its own"), this, [this, point] { lookAt(point); });
        one->addAction(tr("What changed since…"), this,
                       [this, point, words] { askCompare(QString::fromStdString(point.file.string()), words); });
    }
    if (points.empty()) menu->addAction(tr("No restore point yet"))->setEnabled(false);
}

void ProjectActions::askKeepPoint() {
    bool ok = false;
    const auto name = QInputDialog::getText(m_workspace.dialogParent(), tr("Keep a restore point"), tr("What it shall be called"),
                                            QLineEdit::Normal, tr("before the next change"), &ok);
    if (!ok) return;
    session().finishSaving();
    try {
        const auto now = std::chrono::floor<std::chrono::seconds>(std::chrono::system_clock::now());
        const auto kept = keepRestorePoint(session().path().toStdString(), now, name.toStdString());
        m_workspace.say(tr("The restore point \"%1\" is kept.").arg(qt(kept.name)));
    } catch (const Error& e) {
        m_workspace.refuse(qt(e.what()));
    }
}

void ProjectActions::lookAt(const RestorePoint& point) {
    if (!QProcess::startDetached(QCoreApplication::applicationFilePath(), {QString::fromStdString(point.file.string())}))
        m_workspace.refuse(tr("Another window can't be opened."));
}

void ProjectActions::askCompareFile() {
    const auto path = QFileDialog::getOpenFileName(
        m_workspace.dialogParent(), tr("What changed: the earlier state of the project"), dataFolder(), tr("Projects (*.gpkg)"));
    if (!path.isEmpty()) askCompare(path, QFileInfo(path).completeBaseName());
}

void ProjectActions::askCompare(const QString& before, const QString& words) {
    const auto pdf = askSaveFile(m_workspace.dialogParent(), tr("What changed since %1").arg(words), "reports",
                                 tr("what changed.pdf"), tr("PDF (*.pdf)"), "pdf");
    if (!pdf.isEmpty()) compareTo(before, words, pdf);
}

namespace {

std::string dateOfToday() { return QDate::currentDate().toString(Qt::ISODate).toStdString(); }

} // namespace

void ProjectActions::writePdf(const Wanted& wanted, std::function<QString(const ProductSet&, const Progress&)> write) {
    m_isWaiting = true;
    session().ask(wanted, [this, write = std::move(write)](const ProductsPtr& products) {
        m_isWaiting = false;
        if (!products) return m_workspace.refuse(tr("Nothing was written: the work was stopped."));
        m_workspace.say(tr("Writing…"));
        m_writing.start([=](const Progress& progress) { return write(*products, progress); },
                        [this](const QString& said) { m_workspace.say(said); },
                        [this](const QString& why) { m_workspace.refuse(why); });
    });
}

void ProjectActions::compareTo(const QString& before, const QString& words, const QString& pdf) {
    writePdf({ProductKind::Grids}, [=](const ProductSet& products, const Progress& progress) {
        const auto then = Products().of(ProjectStore::read(before.toStdString()), progress.silent(), {ProductKind::Grids});
        const auto changes = compareProjects(*then, products);
        const auto document =
            comparisonReport(changes, *products.project.sequence, words.toStdString(), products.project.name, dateOfToday());
        writeBytes(pdf.toStdString(), paper::toPdf(layOut(document).pages, {document.title, document.subject, {}}));
        return changes.empty() ? tr("Nothing changed since %1; %2 says so.").arg(words, pdf)
                               : tr("What changed since %1 is in %2.").arg(words, pdf);
    });
}

void ProjectActions::openReport() {
    if (!m_report) {
        m_report = new ReportSheet(session().project(), m_workspace.dialogParent());
        m_report->setAttribute(Qt::WA_DeleteOnClose);
        connect(m_report, &ReportSheet::editMade, this, [this](const Edit& edit) { session().apply(edit); });
        connect(&session(), &Session::projectChanged, m_report, [this] { m_report->setProject(session().project()); });
        connect(m_report, &ReportSheet::pdfAsked, this, [this] {
            const auto pdf =
                askSaveFile(m_report, tr("Report of the model"), "reports", tr("report.pdf"), tr("PDF (*.pdf)"), "pdf");
            if (!pdf.isEmpty()) writeReport(pdf);
        });
    }
    m_report->show();
    m_report->raise();
}

void ProjectActions::writeReport(const QString& pdf) {
    writePdf(wantedForReport(), [=](const ProductSet& products, const Progress& progress) {
        ReportOptions options;
        options.date = dateOfToday();
        writeBytes(pdf.toStdString(), reportPdf(modelReport(products, options, progress), products, options.date));
        return tr("The report is in %1.").arg(pdf);
    });
}

void ProjectActions::restore(const RestorePoint& point) {
    const auto words = inWords(point);
    m_restoring.start([file = point.file](const Progress&) { return std::make_shared<const Project>(ProjectStore::read(file)); },
                      [this, words, path = session().path()](const std::shared_ptr<const Project>& then) {
                          if (session().path() != path) return; // another project was opened meanwhile
                          const auto label = tr("Restore the state of %1").arg(words).toStdString();
                          if (session().apply([&](const Project&) { return Edited{*then, label}; }))
                              m_workspace.say(tr("The project is as it was on %1. Undo takes that back.").arg(words));
                      },
                      [this](const QString& why) { m_workspace.refuse(why); });
}

} // namespace fox::app
