#include "shell/surface_actions.h"

#include "base/errors.h"
#include "dialogs/surface_sheet.h"
#include "formats/raster.h"
#include "shell/main_window.h"

#include <QFileDialog>

namespace fox::app {

SurfaceActions::SurfaceActions(MainWindow* window) : QObject(window), m_window(window) {
    connect(window->session(), &Session::productsChanged, this, [this] {
        m_window->selection()->endDrag(); // what was dragged is made now
        if (m_sheet) m_sheet->setProducts(m_window->session()->products());
    });
    connect(window->selection(), &Selection::unitChanged, this, [this] {
        if (m_sheet) m_sheet->setUnit(m_window->selection()->unit());
    });
}

SurfaceSheet* SurfaceActions::sheet() const { return m_sheet; }

void SurfaceActions::connectShelf(Shelf* shelf) {
    connect(shelf, &Shelf::surfaceAsked, this, &SurfaceActions::openSheet);
    connect(shelf, &Shelf::baseGridAsked, this, &SurfaceActions::askGrid);
}

void SurfaceActions::openSheet(int page) {
    const auto products = m_window->session()->products();
    if (!products || !products->modelGrid) return;
    if (!m_sheet) {
        m_sheet = new SurfaceSheet(products, m_window->selection()->unit(), m_window);
        m_sheet->setAttribute(Qt::WA_DeleteOnClose);
        connect(m_sheet, &SurfaceSheet::editMade, m_window->session(), &Session::apply);
        connect(m_sheet, &SurfaceSheet::variogramDragged, m_window->selection(), &Selection::dragVariogram);
        connect(m_sheet, &SurfaceSheet::failed, this, &SurfaceActions::said);
    }
    m_sheet->showPage(SurfaceSheet::Page(page));
    m_sheet->show();
    m_sheet->raise();
}

void SurfaceActions::askGrid(const QString& unitCode) {
    const auto path = QFileDialog::getOpenFileName(m_window, tr("Base of %1 from a grid").arg(unitCode), {},
                                                   tr("Grids (*.tif *.tiff *.asc *.xyz *.gpkg);;All files (*)"));
    if (path.isEmpty()) return;
    try {
        takeBase(unitCode.toStdString(), path.toStdString());
    } catch (const Error& e) {
        emit said(QString::fromStdString(e.what()));
    }
}

void SurfaceActions::takeBase(const std::string& unitCode, const std::filesystem::path& path) {
    Findings findings;
    auto raster = readRasterIn(path, m_window->session()->project().site->crs, {}, findings);
    m_window->session()->apply(
        fixBase(m_window->session()->project(), unitCode,
                {FixedBase::Origin::Imported, path.filename().string(), std::make_shared<const Grid>(std::move(raster.grid))}));
    if (!findings.empty()) emit said(QString::fromStdString(findings.front().message));
}

} // namespace fox::app
