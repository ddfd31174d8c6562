#pragma once
#include "sheets/log_drawing.h"
#include "views/paper_image.h"

#include <QRectF>

namespace fox::app {

/// The log of one hole in a part of the view: the drawing that goes on paper too, and where depths are. Lengths in pixels.
class LogPanel {
public:
    LogPanel(LogContent content, const QRectF& area, double deepest);

    double yOf(double depth) const { return m_layout.yOf(depth) / kMillimetresPerPixel; }
    double depthAt(double y) const { return m_layout.depthAt(y * kMillimetresPerPixel); }
    double columnLeft() const { return m_layout.columnLeft() / kMillimetresPerPixel; }
    double columnRight() const { return m_layout.columnRight() / kMillimetresPerPixel; }
    const QRectF& area() const { return m_area; }
    const LogContent& content() const { return m_content; }
    /// With a boundary that is being dragged.
    paper::Drawing drawing(const std::optional<MovedBoundary>&) const;

private:
    LogContent m_content;
    QRectF m_area;
    LogLayout m_layout;
};

} // namespace fox::app
