#pragma once
#include "shell/workspace.h"
#include "store/restore_points.h"
#include "views/background.h"

#include <QPointer>

class QMenu;

namespace fox::app {

class ReportSheet;

/// Opening, starting and saving whole projects, with the questions that this needs.
class ProjectActions : public QObject {
    Q_OBJECT
public:
    ProjectActions(Workspace&, QObject* parent);
    /// Opens a project file beside the window; a failure is said in a box.
    void open(const QString& path);
    /// The demo site: as it was left, or made again from its files.
    void openDemo(bool anew);
    /// The project that was open last, or an empty one.
    void openLast();
    /// After a run that did not end properly: asks whether what was open then is opened again, which may be why it ended.
    void offerAfterCrash(const QString& path);
    /// Whether a file that was given as data is a project; then it is offered to open it.
    bool takeProject(const QString& path);
    /// Says that the project has data and no name of its own yet; empty if it has a name, or no data.
    QString unnamedBecause() const;
    void askOpen();
    void askNew();
    void askSaveAs();
    void askSaveCopy(); ///< and goes on in this file
    /// Offers the projects that were open last, newest first, but those that are gone.
    void fillRecent(QMenu*);
    QStringList recent() const; ///< paths that are still there, newest first
    /// Offers the states of this project's file that were kept; one that is chosen becomes the project, as an edit.
    void fillRestorePoints(QMenu*);
    /// What changed from another state of a project to this one, as a PDF; asks where to.
    void askCompare(const QString& before, const QString& words);
    void compareTo(const QString& before, const QString& words, const QString& pdf);
    void askCompareFile();
    /// What the model's report has, and writing it.
    void openReport();
    void writeReport(const QString& pdf);
    bool settled() const { return !m_isWaiting && !m_copying.busy() && !m_restoring.busy() && !m_writing.busy(); }
    /// Before the project is left: true if all is saved, or the user leaves it all the same.
    bool mayLeave();

private:
    Session& session() const;
    void remember(const QString& path);
    void openUnnamed();
    /// Has something written as a PDF beside the window, from products with all of this; it says what it wrote.
    void writePdf(const Wanted&, std::function<QString(const ProductSet&, const Progress&)>);
    void restore(const RestorePoint&);
    void askKeepPoint();
    void lookAt(const RestorePoint&); ///< in a window of its own, which can't change it
    Workspace& m_workspace;
    Background<QString> m_copying; // last: they use the above
    Background<std::shared_ptr<const Project>> m_restoring;
    bool m_isWaiting = false; ///< for products
    QPointer<ReportSheet> m_report;
    Background<QString> m_writing;
};

} // namespace fox::app
