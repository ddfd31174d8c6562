#pragma once
#include "views/ground_layer.h"
#include "views/selection.h"

namespace fox::app {

/// The upright planes that cut the block in 3D, as lines on the plan that are dragged and turned there.
class CutLayer {
public:
    explicit CutLayer(Selection* selection) : m_selection(selection) {}
    void paint(QPainter&, const PlanTransform&) const;
    bool press(const PlanTransform&, QPointF);
    bool isDragging() const { return m_drag.has_value(); }
    void drag(Point2 world);
    void release() { m_drag.reset(); }
    /// Where the handles of a cut are: its middle, and the end that turns it.
    static std::pair<QPointF, QPointF> handles(const PlanTransform&, const UprightCut&);

private:
    struct Drag {
        std::size_t cut = 0;
        bool turns = false;
    };
    Selection* m_selection;
    std::optional<Drag> m_drag;
};

} // namespace fox::app
