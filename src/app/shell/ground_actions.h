#pragma once
#include "stages/shelf.h"

#include <QPointer>

namespace fox::app {

class MainWindow;
class PictureSheet;
class PlanView;
class TileSheet;

/// What the Ground stage asks for that needs a sheet or the plan: tiles of a service, comparing, drawing, mending, placing
/// pictures.
class GroundActions : public QObject {
    Q_OBJECT
public:
    explicit GroundActions(MainWindow*);
    void connectShelf(Shelf*);
    void connectPlan(PlanView*);
    void openTiles();
    void openCompare();
    void openPicture(const QString& file);

signals:
    void said(const QString& sentence);

private:
    PlanView* plan(); ///< the one in sight, on the Ground stage if there is none
    void rectangleDrawn(Point2, Point2);
    void spotPicked(Point2);

    MainWindow* m_window;
    QPointer<TileSheet> m_tiles;
    QPointer<PictureSheet> m_picture;
};

} // namespace fox::app
