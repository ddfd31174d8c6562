#pragma once
#include "handover/report_pages.h"
#include "shell/workspace.h"
#include "stages/panel_action.h"
#include "views/background.h"

namespace fox::app {

/// What the Sheets stage asks for: files of sheets, templates from files and to files.
class SheetActions : public QObject {
    Q_OBJECT
public:
    SheetActions(Workspace&, QObject* parent);
    /// Asks for a file or a folder, and writes beside the window.
    void askSave(const SaveSheets&);
    /// One PDF if `out` ends with .pdf; see fox::writeSheets. @throws nothing: what fails is said
    void save(const std::vector<std::string>& items, const QString& out);
    std::vector<std::string> itemsOf(SaveSheets::Which) const; ///< empty: the project has none
    void askSaveReport();
    /// All sheets of the report that go out: one PDF if `out` ends with .pdf, else files in that folder.
    void saveReport(const QString& out);
    void askOpenTemplate();
    void openTemplate(const QString& file);
    void askSaveTemplate();
    bool settled() const { return !m_isWaiting && !m_work.busy(); }

private:
    using Prepared = std::shared_ptr<PreparedSheets>;
    void write(const QString& out, const Wanted&, const std::function<Prepared(const ProductsPtr&, const Progress&)>& prepare);

    Workspace& m_workspace;
    bool m_isWaiting = false;                           ///< for products
    Background<std::shared_ptr<PreparedSheets>> m_work; // last: it uses the above
};

} // namespace fox::app
