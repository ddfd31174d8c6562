#include "shell/sheet_actions.h"

#include "base/errors.h"
#include "style/words.h"
#include "views/ask_file.h"
#include "views/block_picture.h"
#include "views/kept_templates.h"
#include "views/paper_image.h"
#include "views/scene_drawer.h"
#include "views/sheet_choice.h"

#include <QDir>
#include <QFileDialog>
#include <QInputDialog>
#include <QPainter>
#include <QPrintDialog>
#include <QPrinter>
#include <QSettings>
#include <nlohmann/json.hpp>

namespace fox::app {

SheetActions::SheetActions(Workspace& workspace, QObject* parent)
    : QObject(parent), m_workspace(workspace), m_work(this, tr("Writing sheets")), m_printing(this, tr("Printing a sheet")) {}

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
    write(out, wantedFor(t, items),
          [renew = blockRenewal(), t, items, to = out.toStdString(), date = today().toStdString()](const ProductsPtr& products,
                                                                                                   const Progress& progress) {
              return std::make_shared<PreparedSheets>(
                  prepareSheets(renew(t, *products), items, *products, to, {"", 150, date}, progress));
          });
}

Wanted SheetActions::wantedFor(const SheetTemplate& t, const std::vector<std::string>& items) {
    auto out = wantedForSheets(t, items);
    if (hasBlockPicture(t)) out.add(wantedForBlockPicture());
    return out;
}

/// Takes pictures of the block again, beside the window; layouts without one stay as they are.
SheetActions::Renewal SheetActions::blockRenewal() const {
    return [drawer = SceneDrawer::shared(), look = pictureLook(m_workspace.selection(), m_workspace.session().project())](
               SheetTemplate now, const ProductSet& products) {
        if (hasBlockPicture(now)) renewBlockPictures(now, products, look, drawer.get());
        return now;
    };
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
    const auto& project = m_workspace.session().project();
    auto wanted = wantedForReport(project);
    const auto with = std::ranges::find_if(*project.sheets, [](const ReportEntry& s) {
        return hasBlockPicture(s.layout)
               || std::ranges::any_of(s.others, [](const auto& other) { return hasBlockPicture(other.second); });
    });
    if (with == project.sheets->end())
        return write(
            out, wanted,
            [to = out.toStdString(), date = today().toStdString()](const ProductsPtr& products, const Progress& progress) {
                return std::make_shared<PreparedSheets>(prepareReport(*products, to, {"", 150, date}, progress));
            });
    wanted.add(wantedForBlockPicture());
    write(out, wanted,
          [renew = blockRenewal(), to = out.toStdString(), date = today().toStdString()](const ProductsPtr& products,
                                                                                         const Progress& progress) {
              auto now = *products;
              auto sheets = *now.project.sheets;
              for (auto& s : sheets) {
                  s.layout = renew(s.layout, *products);
                  for (auto& [of, layout] : s.others) layout = renew(layout, *products);
              }
              now.project.sheets = part(std::move(sheets));
              return std::make_shared<PreparedSheets>(prepareReport(now, to, {"", 150, date}, progress));
          });
}

void SheetActions::askPrint() {
    if (itemsOf(SaveSheets::Which::This).empty()) return m_workspace.refuse(tr("There is no sheet to print."));
    auto printer = std::make_shared<QPrinter>(QPrinter::HighResolution);
    QPrintDialog dialog(printer.get(), m_workspace.dialogParent());
    dialog.setObjectName("printSheet");
    dialog.setWindowTitle(tr("Print the sheet"));
    if (dialog.exec() != QDialog::Accepted) return;
    if (printer->outputFormat() == QPrinter::PdfFormat) // as lines and words, not as a picture
        return save(itemsOf(SaveSheets::Which::This), printer->outputFileName());
    print(printer);
}

void SheetActions::print(const std::shared_ptr<QPrinter>& printer) {
    const auto& project = m_workspace.session().project();
    const auto t = templateOf(m_workspace.selection(), project);
    const auto items = itemsOf(SaveSheets::Which::This);
    if (items.empty()) return;
    m_isWaiting = true;
    m_workspace.session().ask(
        wantedFor(t, items), [this, printer, t, item = items.front(), renew = blockRenewal()](const ProductsPtr& products) {
            m_isWaiting = false;
            if (!products) return m_workspace.refuse(tr("Nothing was printed: the work was stopped."));
            m_printing.start(
                [products, t, item, renew, date = today().toStdString()](const Progress& progress) {
                    constexpr double kDotsPerInch = 300;
                    std::vector<QImage> pages;
                    for (const auto& page : fillSheet(renew(t, *products), item, *products, date).pages) {
                        progress.check();
                        pages.push_back(imageOf(page, kDotsPerInch / 25.4 * kMillimetresPerPixel));
                    }
                    return pages;
                },
                [this, printer, t](const std::vector<QImage>& pages) { putOnPaper(*printer, pages, QSizeF(t.width, t.height)); },
                [this](const QString& why) { m_workspace.refuse(why.isEmpty() ? tr("Nothing was printed.") : why); });
        });
}

void SheetActions::putOnPaper(QPrinter& printer, const std::vector<QImage>& pages, QSizeF millimetres) {
    const bool isWide = millimetres.width() > millimetres.height();
    printer.setPageSize(QPageSize(isWide ? millimetres.transposed() : millimetres, QPageSize::Millimeter));
    printer.setPageOrientation(isWide ? QPageLayout::Landscape : QPageLayout::Portrait);
    printer.setFullPage(true);
    QPainter painter;
    if (!painter.begin(&printer)) return m_workspace.refuse(tr("The printer can't be used."));
    for (std::size_t i = 0; i < pages.size(); ++i) {
        if (i > 0) printer.newPage();
        painter.drawImage(QRectF(QPointF(0, 0), printer.pageLayout().fullRectPixels(printer.resolution()).size()), pages[i]);
    }
    painter.end();
    m_workspace.say(tr("%1 printed.").arg(counted(qint64(pages.size()), "page")));
}

void SheetActions::askKeepTemplate() {
    auto t = templateOf(m_workspace.selection(), m_workspace.session().project());
    QInputDialog dialog(m_workspace.dialogParent());
    dialog.setObjectName("keepTemplate");
    dialog.setWindowTitle(tr("Keep the template"));
    dialog.setLabelText(tr("Its name, in all projects of yours:"));
    dialog.setTextValue(qt(t.name));
    if (dialog.exec() != QDialog::Accepted) return;
    const auto name = dialog.textValue().trimmed();
    if (name.isEmpty()) return m_workspace.refuse(tr("A template needs a name to be kept by."));
    t.name = name.toStdString();
    t.centre.reset(), t.area.clear(); // of this project's ground
    try {
        keepTemplate(t);
    } catch (const Error& e) {
        return m_workspace.refuse(qt(e.what()));
    }
    m_workspace.say(tr("%1 is kept, and is among the templates of all projects.").arg(name));
    m_workspace.selection().setReportSheet("");
    m_workspace.selection().setSheetTemplate(std::make_shared<const SheetTemplate>(t));
}

void SheetActions::dropTemplate(const std::string& name) {
    fox::app::dropTemplate(name);
    m_workspace.say(tr("%1 is no longer kept. Reports that have it keep it.").arg(qt(name)));
    emit m_workspace.selection().sheetTemplateChanged();
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
                         auto words =
                             tr("%1 written to %2.").arg(counted(qint64(prepared->pages), "page"), QDir::toNativeSeparators(out));
                         constexpr std::size_t kSaid = 3;
                         const auto notes = notesOn(prepared->sheets, QFileInfo(out).completeBaseName().toStdString());
                         for (std::size_t i = 0; i < std::min(kSaid, notes.size()); ++i) words += " " + qt(notes[i]);
                         if (notes.size() > kSaid)
                             words += " " + tr("And %1 more.").arg(counted(qint64(notes.size() - kSaid), "note"));
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
