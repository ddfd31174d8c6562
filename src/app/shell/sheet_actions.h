#pragma once
#include "handover/sheet_files.h"
#include "shell/workspace.h"
#include "stages/panel_action.h"
#include "views/background.h"

namespace fox::app {

class PageView;

/// What the Sheets stage asks for: files of sheets, templates from files and to files.
class SheetActions : public QObject {
    Q_OBJECT
public:
    SheetActions(Workspace&, QObject* parent);
    void connectPage(PageView*);
    /// Asks for a file or a folder, and writes beside the window.
    void askSave(const SaveSheets&);
    /// One PDF if `out` ends with .pdf; see fox::writeSheets. @throws nothing: what fails is said
    void save(const std::vector<std::string>& items, const QString& out);
    std::vector<std::string> itemsOf(SaveSheets::Which) const; ///< empty: the project has none
    void askOpenTemplate();
    void openTemplate(const QString& file);
    void askSaveTemplate();
    bool settled() const { return !m_isWaiting && !m_work.busy(); }

private:
    Workspace& m_workspace;
    bool m_isWaiting = false;                           ///< for products
    Background<std::shared_ptr<PreparedSheets>> m_work; // last: it uses the above
};

} // namespace fox::app
