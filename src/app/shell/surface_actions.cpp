#include "shell/surface_actions.h"

#include "base/errors.h"
#include "dialogs/surface_sheet.h"
#include "dialogs/water_sheet.h"
#include "formats/raster.h"
#include "project/water_edits.h"

#include <QFileDialog>

namespace fox::app {

SurfaceActions::SurfaceActions(Workspace& workspace, QObject* parent) : QObject(parent), m_workspace(workspace), m_reading(this) {
    connect(&workspace.session(), &Session::productsChanged, this, [this] {
        m_workspace.selection().endDrag(); // what was dragged is made now
        if (m_sheet) m_sheet->setProducts(m_workspace.session().products());
        if (m_waterSheet) m_waterSheet->setProducts(m_workspace.session().products());
    });
    connect(&workspace.selection(), &Selection::unitChanged, this, [this] {
        if (m_sheet) m_sheet->setUnit(m_workspace.selection().unit());
    });
}

SurfaceSheet* SurfaceActions::sheet() const { return m_sheet; }

void SurfaceActions::openSheet(int page) {
    m_workspace.session().ask({ProductKind::Grids}, [this, page](const ProductsPtr& products) {
        if (!products) return;
        if (!products->modelGrid)
            return m_workspace.refuse(tr("There is no model yet: it needs holes with geology, and ground."));
        showSheet(products, page);
    });
}

void SurfaceActions::showSheet(const ProductsPtr& products, int page) {
    if (!m_sheet) {
        m_sheet = new SurfaceSheet(products, m_workspace.selection().unit(), m_workspace.dialogParent());
        m_sheet->setAttribute(Qt::WA_DeleteOnClose);
        connect(m_sheet, &SurfaceSheet::editMade, &m_workspace.session(), &Session::apply);
        connect(m_sheet, &SurfaceSheet::variogramDragged, &m_workspace.selection(), &Selection::dragVariogram);
        connect(m_sheet, &SurfaceSheet::drillRanked, &m_workspace.selection(), &Selection::setDrillPlaces);
        connect(m_sheet, &QObject::destroyed, &m_workspace.selection(), [this] { m_workspace.selection().setDrillPlaces({}); });
        connect(&m_workspace.selection(), &Selection::sectionChanged, m_sheet,
                [this] { m_sheet->setSection(m_workspace.selection().section()); });
        m_sheet->setSection(m_workspace.selection().section());
        connect(m_sheet, &SurfaceSheet::failed, this, [this](const QString& sentence) { m_workspace.refuse(sentence); });
    }
    m_sheet->showPage(SurfaceSheet::Page(page));
    m_sheet->show();
    m_sheet->raise();
}

WaterSheet* SurfaceActions::waterSheet() const { return m_waterSheet; }

void SurfaceActions::addWater(const QString& unitCode) {
    auto& session = m_workspace.session();
    if (session.apply([code = unitCode.toStdString()](const Project& p) { return addWaterSurface(p, code); }))
        openWater(QString::fromStdString(session.project().waterSurfaces->back().name));
}

void SurfaceActions::openWater(const QString& surface) {
    m_workspace.session().ask({ProductKind::WaterSurfaces}, [this, surface](const ProductsPtr& products) {
        if (!products) return;
        if (!m_waterSheet) {
            m_waterSheet = new WaterSheet(m_workspace.dialogParent());
            m_waterSheet->setAttribute(Qt::WA_DeleteOnClose);
            connect(m_waterSheet, &WaterSheet::editMade, &m_workspace.session(), &Session::apply);
            connect(m_waterSheet, &WaterSheet::holeChosen, &m_workspace.selection(), &Selection::setHole);
            connect(m_waterSheet, &WaterSheet::renamed, this, [this](const QString& from, const QString& to) {
                auto look = m_workspace.selection().planLook();
                if (!look.water || look.water->name != from.toStdString()) return;
                look.water->name = to.toStdString(); // it stays on the plan
                m_workspace.selection().setPlanLook(look);
            });
            connect(m_waterSheet, &WaterSheet::showAsked, this, [this](const QString& name, bool depth) {
                auto look = m_workspace.selection().planLook();
                look.water = PlanLook::Water{name.toStdString(), depth};
                look.map.reset();
                m_workspace.selection().setPlanLook(look);
            });
        }
        m_waterSheet->setSurface(surface);
        m_waterSheet->setProducts(products);
        m_waterSheet->show();
        m_waterSheet->raise();
    });
}

void SurfaceActions::askGrid(const QString& unitCode) {
    const auto path = QFileDialog::getOpenFileName(m_workspace.dialogParent(), tr("Base of %1 from a grid").arg(unitCode), {},
                                                   tr("Grids (*.tif *.tiff *.asc *.xyz *.gpkg);;All files (*)"));
    if (!path.isEmpty()) takeBase(unitCode.toStdString(), path.toStdString());
}

void SurfaceActions::takeBase(const std::string& unitCode, const std::filesystem::path& path) {
    m_workspace.say(tr("Reading %1").arg(QString::fromStdString(path.filename().string())));
    m_reading.start(
        [path, crs = m_workspace.session().project().site->crs](const Progress&) {
            ReadBase out;
            auto raster = readRasterIn(path, crs, {}, out.findings);
            out.base = {FixedBase::Origin::Imported, path.filename().string(),
                        std::make_shared<const Grid>(std::move(raster.grid))};
            return out;
        },
        [this, unitCode](const ReadBase& read) {
            m_workspace.session().apply([unitCode, base = read.base](const Project& p) { return fixBase(p, unitCode, base); });
            m_workspace.say(read.findings.empty() ? QString() : QString::fromStdString(read.findings.front().message));
        },
        [this](const QString& why) { m_workspace.refuse(why); });
}

} // namespace fox::app
