#pragma once
#include "handover/report_pages.h"
#include "shell/workspace.h"
#include "stages/panel_action.h"
#include "views/background.h"

#include <QImage>

class QPrinter;

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
    /// Asks for a name, and keeps it for all projects.
    void askKeepTemplate();
    void dropTemplate(const std::string& name);
    /// The sheet that is looked at: asks for a printer.
    void askPrint();
    /// On the printer's pages, one each, in their own size.
    void print(const std::shared_ptr<QPrinter>&);
    bool settled() const { return !m_isWaiting && !m_work.busy() && !m_printing.busy(); }

private:
    using Prepared = std::shared_ptr<PreparedSheets>;
    /// What is printed and written has pictures of the block as it is then.
    using Renewal = std::function<SheetTemplate(const SheetTemplate&, const ProductSet&)>;
    Renewal blockRenewal() const;
    static Wanted wantedFor(const SheetTemplate&, const std::vector<std::string>& items);
    void putOnPaper(QPrinter&, const std::vector<QImage>& pages, QSizeF millimetres);
    void write(const QString& out, const Wanted&, const std::function<Prepared(const ProductsPtr&, const Progress&)>& prepare);

    Workspace& m_workspace;
    bool m_isWaiting = false;                           ///< for products
    Background<std::shared_ptr<PreparedSheets>> m_work; // last: they use the above
    Background<std::vector<QImage>> m_printing;
};

} // namespace fox::app
