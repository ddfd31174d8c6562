#pragma once
#include "layers/plan_grid.h"
#include "views/ground_layer.h"

#include <QString>

namespace fox::app {

/// The plan grid of layers on the plan, taken hold of: its corners stretch it, its middle moves it, a handle beyond its eastern
/// side turns it. What it would be is drawn until it is let go.
class GridEditor {
public:
    bool press(const PlanTransform&, const PlanGrid&, QPointF);
    bool isDragging() const { return m_held.has_value(); }
    void drag(Point2 world, bool wholeDegrees);
    /// The grid as it was dragged; none if it is as it was.
    std::optional<PlanGrid> release();
    void cancel() { m_held.reset(); }
    bool isOnHandle(const PlanTransform&, const PlanGrid&, QPointF) const;
    QString words() const; ///< of what is being dragged: "82 × 57, 4,674 cells a layer, turned 12.0°"
    void paint(QPainter&, const PlanTransform&, const PlanGrid&) const;

    enum class Hold { NorthWest, NorthEast, SouthEast, SouthWest, Middle, Turn };
    static QPointF handle(const PlanTransform&, const PlanGrid&, Hold);

private:
    static std::optional<Hold> holdAt(const PlanTransform&, const PlanGrid&, QPointF);

    std::optional<Hold> m_held;
    PlanGrid m_before, m_now;
};

} // namespace fox::app
