#include "shell/sheet_actions.h"

#include "base/errors.h"
#include "style/words.h"
#include "views/ask_file.h"
#include "views/sheet_choice.h"

#include <QDir>
#include <QFileDialog>
#include <QSettings>
#include <nlohmann/json.hpp>

namespace fox::app {

SheetActions::SheetActions(Workspace& workspace, QObject* parent)
    : QObject(parent), m_workspace(workspace), m_work(this, tr("Writing sheets")) {}

std::vector<std::string> SheetActions::itemsOf(SaveSheets::Which which) const {
    const auto& selection = m_workspace.selection();
    const auto& project = m_workspace.session().project();
    if (which == SaveSheets::Which::This) {
        const auto item = sheetItemOf(selection, project);
        return item ? std::vector{*item} : std::vector<std::string>{};
    }
    auto items = sheetItemsOf(selection, project);
    if (which == SaveSheets::Which::ShownHoles)
        std::erase_if(items, [&](const std::string& hole) { return !selection.isShown(hole); });
    return items;
}

void SheetActions::askSave(const SaveSheets& asked) {
    const auto& t = templateOf(m_workspace.selection(), m_workspace.session().project());
    const auto items = itemsOf(asked.which);
    if (items.empty())
        return m_workspace.refuse(tr("The project has no %1 to fill this template with.").arg(QString(itemOf(t.kind))));
    if (asked.apart) {
        const auto folder = QFileDialog::getExistingDirectory(m_workspace.dialogParent(),
                                                              tr("Folder for %1").arg(counted(qint64(items.size()), "sheet")),
                                                              QSettings().value("folderOf/sheets", QDir::homePath()).toString());
        if (folder.isEmpty()) return;
        QSettings().setValue("folderOf/sheets", folder);
        return save(items, folder);
    }
    auto start = qt(items.size() == 1 && !items[0].empty() ? items[0] : t.name);
    start.replace(' ', '_').replace('/', '-');
    const auto kinds =
        items.size() == 1
            ? tr("PDF (*.pdf);;PNG, one page (*.png);;SVG, one page (*.svg);;DXF, one page (*.dxf);;GeoTIFF, one page (*.tif)")
            : tr("One PDF (*.pdf)");
    const auto path = askSaveFile(m_workspace.dialogParent(), tr("Save %1").arg(counted(qint64(items.size()), "sheet")), "sheets",
                                  start + ".pdf", kinds, "pdf");
    if (!path.isEmpty()) save(items, path);
}

void SheetActions::save(const std::vector<std::string>& items, const QString& out) {
    const auto t = templateOf(m_workspace.selection(), m_workspace.session().project());
    write(
        out, wantedForSheets(t, items),
        [t, items, to = out.toStdString(), date = today().toStdString()](const ProductsPtr& products, const Progress& progress) {
            return std::make_shared<PreparedSheets>(prepareSheets(t, items, *products, to, {"", 150, date}, progress));
        });
}

void SheetActions::askSaveReport() {
    const auto& project = m_workspace.session().project();
    if (std::ranges::none_of(*project.sheets, &ReportEntry::isOut))
        return m_workspace.refuse(project.sheets->empty()
                                      ? tr("The report has no sheets yet: add some, or the usual ones, over its list.")
                                      : tr("No sheet of the report is ticked."));
    auto start = qt(project.name);
    start.replace(' ', '_').replace('/', '-');
    const auto path = askSaveFile(m_workspace.dialogParent(), tr("Save the report"), "sheets", start + "_report.pdf",
                                  tr("One PDF (*.pdf)"), "pdf");
    if (!path.isEmpty()) saveReport(path);
}

void SheetActions::saveReport(const QString& out) {
    write(out, wantedForReport(m_workspace.session().project()),
          [to = out.toStdString(), date = today().toStdString()](const ProductsPtr& products, const Progress& progress) {
              return std::make_shared<PreparedSheets>(prepareReport(*products, to, {"", 150, date}, progress));
          });
}

/// Beside the window, once there is all that it asks for.
void SheetActions::write(const QString& out, const Wanted& wanted,
                         const std::function<Prepared(const ProductsPtr&, const Progress&)>& prepare) {
    m_isWaiting = true;
    m_workspace.say(tr("Writing %1…").arg(QFileInfo(out).fileName()));
    m_workspace.session().ask(wanted, [this, prepare, out](const ProductsPtr& products) {
        m_isWaiting = false;
        if (!products) return m_workspace.refuse(tr("Nothing was written: the work was stopped."));
        m_work.start([prepare, products](const Progress& progress) { return prepare(products, progress); },
                     [this, out](const Prepared& prepared) {
                         // of a single file it was asked before
                         if (QFileInfo(out).isDir() && !mayReplace(prepared->files.targets(), m_workspace.dialogParent()))
                             return m_workspace.say(tr("Nothing was written, nothing was replaced."));
                         try {
                             prepared->files.commit();
                         } catch (const Error& e) {
                             return m_workspace.refuse(qt(e.what()));
                         }
                         std::size_t overfull = 0;
                         for (const auto& s : prepared->sheets) overfull += s.overfull;
                         auto words =
                             tr("%1 written to %2.").arg(counted(qint64(prepared->pages), "page"), QDir::toNativeSeparators(out));
                         if (overfull > 0) words += " " + tr("%1 found no room.").arg(counted(qint64(overfull), "text"));
                         m_workspace.say(words);
                     },
                     [this](const QString& why) { m_workspace.refuse(why); });
    });
}

void SheetActions::askOpenTemplate() {
    const auto path =
        QFileDialog::getOpenFileName(m_workspace.dialogParent(), tr("Open a template"),
                                     QSettings().value("templateFolder", QDir::homePath()).toString(), tr("Templates (*.json)"));
    if (path.isEmpty()) return;
    QSettings().setValue("templateFolder", QFileInfo(path).absolutePath());
    openTemplate(path);
}

void SheetActions::openTemplate(const QString& file) {
    try {
        m_workspace.selection().setReportSheet("");
        m_workspace.selection().setSheetTemplate(std::make_shared<const SheetTemplate>(sheetTemplate(file.toStdString())));
    } catch (const Error& e) {
        m_workspace.refuse(qt(e.what()));
    }
}

void SheetActions::askSaveTemplate() {
    const auto& t = templateOf(m_workspace.selection(), m_workspace.session().project());
    auto start = qt(t.name);
    start.replace(' ', '_');
    const auto path = askSaveFile(m_workspace.dialogParent(), tr("Save the template"), "templates", start + ".json",
                                  tr("Templates (*.json)"), "json");
    if (path.isEmpty()) return;
    try {
        saveTemplate(t, path.toStdString());
        m_workspace.say(tr("The template is in %1. Change it with any editor of text, and open it here.")
                            .arg(QDir::toNativeSeparators(path)));
    } catch (const Error& e) {
        m_workspace.refuse(qt(e.what()));
    }
}

} // namespace fox::app
