#include "shell/project_actions.h"

#include "handover/build_file.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileDialog>
#include <QMessageBox>
#include <QPushButton>
#include <QSettings>
#include <QStandardPaths>

namespace fox::app {

namespace {

QString dataFolder() {
    const auto folder = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation);
    QDir().mkpath(folder);
    return folder;
}

QString demoBuildFile() {
    const auto installed = QCoreApplication::applicationDirPath() + "/../share/fox-cellar/demo/quernbeck/quernbeck.build.json";
    return QFile::exists(installed) ? installed : QString(FOX_DEMO_SOURCE "/quernbeck.build.json");
}

} // namespace

ProjectActions::ProjectActions(Workspace& workspace, QObject* parent) : QObject(parent), m_workspace(workspace) {}

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
    const auto path = dataFolder() + "/New project.gpkg";
    if (QFile::exists(path)) return open(path);
    session().openNew(path, [] { return Project{}; });
}

void ProjectActions::askOpen() {
    const auto path =
        QFileDialog::getOpenFileName(m_workspace.dialogParent(), tr("Open project"), dataFolder(), tr("Projects (*.gpkg)"));
    if (!path.isEmpty()) open(path);
}

void ProjectActions::askNew() {
    auto path = QFileDialog::getSaveFileName(m_workspace.dialogParent(), tr("New project: where should its file be?"),
                                             QDir::homePath() + "/project.gpkg", tr("Projects (*.gpkg)"));
    if (path.isEmpty() || !mayLeave()) return;
    if (!path.endsWith(".gpkg")) path += ".gpkg";
    session().openNew(path, [name = QFileInfo(path).completeBaseName().toStdString()] {
        Project project;
        project.name = name;
        return project;
    });
}

void ProjectActions::askSaveAs() {
    const auto start = QFileInfo(session().path().isEmpty() ? QDir::homePath() + "/project.gpkg" : session().path());
    auto path =
        QFileDialog::getSaveFileName(m_workspace.dialogParent(), tr("Save the project as"),
                                     start.path() + "/" + start.completeBaseName() + " copy.gpkg", tr("Projects (*.gpkg)"));
    if (path.isEmpty()) return;
    if (!path.endsWith(".gpkg")) path += ".gpkg";
    session().saveAs(path);
}

} // namespace fox::app
