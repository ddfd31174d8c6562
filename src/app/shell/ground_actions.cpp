#include "shell/ground_actions.h"

#include "dialogs/compare_sheet.h"
#include "dialogs/picture_sheet.h"
#include "dialogs/tile_sheet.h"
#include "shell/main_window.h"
#include "views/plan_view.h"

#include <QDir>
#include <QStandardPaths>

namespace fox::app {

GroundActions::GroundActions(MainWindow* window) : QObject(window), m_window(window) {}

void GroundActions::connectShelf(Shelf* shelf) {
    connect(shelf, &Shelf::tileAsked, this, &GroundActions::openTiles);
    connect(shelf, &Shelf::compareAsked, this, &GroundActions::openCompare);
    connect(shelf, &Shelf::pictureAsked, this, &GroundActions::openPicture);
    connect(shelf, &Shelf::outlineAsked, this, [this] {
        if (auto* p = plan()) p->startDrawing(PlanView::Drawing::Outline);
    });
    connect(shelf, &Shelf::mendAsked, this, [this](TinEdit::Kind kind) {
        if (auto* p = plan()) p->startMending(kind);
    });
}

void GroundActions::connectPlan(PlanView* p) {
    connect(p, &PlanView::rectangleDrawn, this, &GroundActions::rectangleDrawn);
    connect(p, &PlanView::spotPicked, this, &GroundActions::spotPicked);
}

PlanView* GroundActions::plan() {
    if (!m_window->page()->find<PlanView>()) m_window->showStage("ground");
    return m_window->page()->find<PlanView>();
}

void GroundActions::openTiles() {
    Box2 box;
    if (const auto frame = frameOf(m_window->session()->project())) {
        box = frame->box();
        constexpr double kAround = 600; // metres
        box.xmin -= kAround, box.ymin -= kAround, box.xmax += kAround, box.ymax += kAround;
    }
    const auto folder = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/tiles";
    m_tiles = new TileSheet(m_window->session()->project(), box, folder, m_window);
    m_tiles->setAttribute(Qt::WA_DeleteOnClose);
    connect(m_tiles, &TileSheet::tileMade, m_window, [this](const QString& path) { m_window->importFiles({path}); });
    connect(m_tiles, &TileSheet::rectangleAsked, this, [this] {
        if (auto* p = plan()) {
            m_tiles->hide();
            p->startDrawing(PlanView::Drawing::Rectangle);
            emit said(tr("Click two corners of the rectangle on the plan; Esc gives up."));
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
    if (!m_window->session()->products()) return;
    auto* sheet = new CompareSheet(m_window->session()->products(), m_window);
    sheet->setAttribute(Qt::WA_DeleteOnClose);
    sheet->show();
}

void GroundActions::openPicture(const QString& file) {
    if (!m_window->session()->products()) return;
    m_picture = new PictureSheet(m_window->session()->products(), file, m_window);
    m_picture->setAttribute(Qt::WA_DeleteOnClose);
    connect(m_picture, &PictureSheet::editMade, m_window->session(), &Session::apply);
    connect(m_picture, &PictureSheet::placeAsked, this, [this] {
        if (auto* p = plan()) {
            m_picture->hide();
            p->startDrawing(PlanView::Drawing::Spot);
            emit said(tr("Click on the plan where the mark is; Esc gives up."));
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
