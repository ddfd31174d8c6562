#include "shell/ground_actions.h"

#include "dialogs/compare_sheet.h"
#include "dialogs/picture_sheet.h"
#include "dialogs/tile_sheet.h"
#include "importing/named_surface_import.h"
#include "project/named_surface_edits.h"
#include "views/plan_view.h"

#include <QDir>
#include <QFileDialog>
#include <QSettings>
#include <QStandardPaths>

namespace fox::app {

GroundActions::GroundActions(Workspace& workspace, QObject* parent) : QObject(parent), m_workspace(workspace), m_reading(this) {}

void GroundActions::connectPlan(PlanView* p) {
    connect(p, &PlanView::rectangleDrawn, this, &GroundActions::rectangleDrawn);
    connect(p, &PlanView::spotPicked, this, &GroundActions::spotPicked);
}

void GroundActions::openTiles() {
    Box2 box;
    if (const auto frame = frameOf(m_workspace.session().project())) {
        box = frame->box();
        constexpr double kAround = 600; // metres
        box.xmin -= kAround, box.ymin -= kAround, box.xmax += kAround, box.ymax += kAround;
    }
    const auto folder = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/tiles";
    m_tiles = new TileSheet(m_workspace.session().project(), box, folder, m_workspace.dialogParent());
    m_tiles->setAttribute(Qt::WA_DeleteOnClose);
    connect(m_tiles, &TileSheet::tileMade, this, [this](const QString& path) { m_workspace.importFiles({path}); });
    connect(m_tiles, &TileSheet::rectangleAsked, this, [this] {
        if (auto* p = m_workspace.planOn("ground")) {
            m_tiles->hide();
            p->startDrawing(PlanView::Drawing::Rectangle);
            m_workspace.say(tr("Click two corners of the rectangle on the plan; Esc cancels."));
            connect(
                p, &PlanView::drawingEnded, this,
                [this] {
                    if (m_tiles) m_tiles->show();
                },
                Qt::SingleShotConnection);
        }
    });
    m_tiles->show();
}

void GroundActions::rectangleDrawn(Point2 a, Point2 b) {
    if (!m_tiles) return;
    Box2 box;
    box.include(a);
    box.include(b);
    m_tiles->setRectangle(box);
    m_tiles->show();
}

void GroundActions::openCompare() {
    m_workspace.session().ask({ProductKind::NamedSurfaces}, [this](const ProductsPtr& products) {
        if (!products) return;
        auto* sheet = new CompareSheet(products, m_workspace.dialogParent());
        sheet->setAttribute(Qt::WA_DeleteOnClose);
        sheet->show();
    });
}

void GroundActions::askNamedSurface() {
    const auto path = QFileDialog::getOpenFileName(m_workspace.dialogParent(), tr("Surface from a file"),
                                                   QSettings().value("importFolder", QDir::homePath()).toString(),
                                                   tr("Surfaces (*.xml *.obj *.ply *.tif *.tiff *.asc *.xyz *.csv *.txt *.xlsx "
                                                      "*.dxf *.gpkg *.shp *.geojson);;All files (*)"));
    if (path.isEmpty()) return;
    QSettings().setValue("importFolder", QFileInfo(path).absolutePath());
    readNamedSurface(path);
}

void GroundActions::readNamedSurface(const QString& path) {
    m_workspace.say(tr("Reading %1").arg(QFileInfo(path).fileName()));
    m_reading.start(
        [path = path.toStdString(), site = SiteContext(m_workspace.session().project())](const Progress& progress) {
            Findings findings;
            return fox::readNamedSurface(path, site, findings, progress);
        },
        [this](NamedSurface surface) {
            const auto words = tr("%1 is a named surface now: the plan's and the 3D view's \"show\" have it.")
                                   .arg(QString::fromStdString(surface.name));
            if (m_workspace.session().apply([surface](const Project& p) { return addNamedSurface(p, surface); }))
                m_workspace.say(words);
        },
        [this](const QString& why) { m_workspace.refuse(why); });
}

void GroundActions::openPicture(const QString& file) {
    m_workspace.session().ask({ProductKind::Pictures}, [this, file](const ProductsPtr& products) {
        if (products) showPicture(products, file);
    });
}

void GroundActions::showPicture(const ProductsPtr& products, const QString& file) {
    m_picture = new PictureSheet(products, file, m_workspace.dialogParent());
    m_picture->setAttribute(Qt::WA_DeleteOnClose);
    connect(m_picture, &PictureSheet::editMade, &m_workspace.session(), &Session::apply);
    connect(&m_workspace.session(), &Session::projectChanged, m_picture,
            [this] { m_picture->follow(m_workspace.session().project()); });
    connect(m_picture, &PictureSheet::placeAsked, this, [this] {
        if (auto* p = m_workspace.planOn("ground")) {
            m_picture->hide();
            p->startDrawing(PlanView::Drawing::Spot);
            m_workspace.say(tr("Click on the plan where the control point is; Esc cancels."));
            connect(
                p, &PlanView::drawingEnded, this,
                [this] {
                    if (m_picture) m_picture->show();
                },
                Qt::SingleShotConnection);
        }
    });
    m_picture->show();
}

void GroundActions::spotPicked(Point2 p) {
    if (m_picture) m_picture->setPlace(p);
}

} // namespace fox::app
