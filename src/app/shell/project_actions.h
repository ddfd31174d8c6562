#pragma once
#include "shell/workspace.h"

namespace fox::app {

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
    void askOpen();
    void askNew();
    void askSaveAs();
    /// Before the project is left: true if all is saved, or the user leaves it all the same.
    bool mayLeave();

private:
    Session& session() const;
    Workspace& m_workspace;
};

} // namespace fox::app
