#include "shell/surface_actions.h"

#include "base/errors.h"
#include "dialogs/surface_sheet.h"
#include "formats/raster.h"

#include <QFileDialog>

namespace fox::app {

SurfaceActions::SurfaceActions(Workspace& workspace, QObject* parent) : QObject(parent), m_workspace(workspace) {
    connect(&workspace.session(), &Session::productsChanged, this, [this] {
        m_workspace.selection().endDrag(); // what was dragged is made now
        if (m_sheet) m_sheet->setProducts(m_workspace.session().products());
    });
    connect(&workspace.selection(), &Selection::unitChanged, this, [this] {
        if (m_sheet) m_sheet->setUnit(m_workspace.selection().unit());
    });
}

SurfaceSheet* SurfaceActions::sheet() const { return m_sheet; }

void SurfaceActions::openSheet(int page) {
    const auto products = m_workspace.session().products();
    if (!products || !products->modelGrid) return;
    if (!m_sheet) {
        m_sheet = new SurfaceSheet(products, m_workspace.selection().unit(), m_workspace.dialogParent());
        m_sheet->setAttribute(Qt::WA_DeleteOnClose);
        connect(m_sheet, &SurfaceSheet::editMade, &m_workspace.session(), &Session::apply);
        connect(m_sheet, &SurfaceSheet::variogramDragged, &m_workspace.selection(), &Selection::dragVariogram);
        connect(m_sheet, &SurfaceSheet::failed, this, [this](const QString& sentence) { m_workspace.say(sentence); });
    }
    m_sheet->showPage(SurfaceSheet::Page(page));
    m_sheet->show();
    m_sheet->raise();
}

void SurfaceActions::askGrid(const QString& unitCode) {
    const auto path = QFileDialog::getOpenFileName(m_workspace.dialogParent(), tr("Base of %1 from a grid").arg(unitCode), {},
                                                   tr("Grids (*.tif *.tiff *.asc *.xyz *.gpkg);;All files (*)"));
    if (path.isEmpty()) return;
    try {
        takeBase(unitCode.toStdString(), path.toStdString());
    } catch (const Error& e) {
        m_workspace.say(QString::fromStdString(e.what()));
    }
}

void SurfaceActions::takeBase(const std::string& unitCode, const std::filesystem::path& path) {
    Findings findings;
    auto raster = readRasterIn(path, m_workspace.session().project().site->crs, {}, findings);
    m_workspace.session().apply([unitCode, base = FixedBase{FixedBase::Origin::Imported, path.filename().string(),
                                                            std::make_shared<const Grid>(std::move(raster.grid))}](
                                    const Project& p) { return fixBase(p, unitCode, base); });
    if (!findings.empty()) m_workspace.say(QString::fromStdString(findings.front().message));
}

} // namespace fox::app
