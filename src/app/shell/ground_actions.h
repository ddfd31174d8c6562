#pragma once
#include "shell/workspace.h"
#include "stages/panel_action.h"
#include "views/background.h"

#include <QPointer>

namespace fox::app {

class PictureSheet;
class PlanView;
class TileSheet;

/// What the Ground stage asks for that needs a sheet or the plan: tiles of a service, comparing, drawing, manual edits, placing
/// pictures.
class GroundActions : public QObject {
    Q_OBJECT
public:
    GroundActions(Workspace&, QObject* parent);
    void connectPlan(PlanView*);
    void openTiles();
    void openCompare();
    /// A surface of a file beside the ground: asks for the file and reads it beside the window.
    void askNamedSurface();
    void readNamedSurface(const QString& path);
    void openPicture(const QString& file);

private:
    void showPicture(const ProductsPtr&, const QString& file);
    void rectangleDrawn(Point2, Point2);
    void spotPicked(Point2);

    Workspace& m_workspace;
    QPointer<TileSheet> m_tiles;
    QPointer<PictureSheet> m_picture;
    Background<NamedSurface> m_reading; // last: it uses the above
};

} // namespace fox::app
