#include "views/contour_lines.h"

#include "style/theme.h"

#include <QPainter>

namespace fox::app {

void paintContourLines(QPainter& painter, const PlanTransform& t, const std::vector<ContourLine>& lines, Occupied& occupied) {
    painter.setBrush(Qt::NoBrush);
    painter.setFont(bodyFont(10));
    const QFontMetricsF metrics(painter.font());
    for (const auto& contour : lines) {
        QPolygonF line;
        for (const auto& p : contour.line) line << t.toScreen(p.x, p.y);
        auto stroke = colour::ink;
        stroke.setAlpha(130);
        painter.setPen(QPen(stroke, 0.9));
        painter.drawPolyline(line);
        if (line.size() < 12) continue;
        const auto text = QString::number(contour.level, 'g', 5);
        const QRectF label(line[line.size() / 2] - QPointF(metrics.horizontalAdvance(text) / 2, 7),
                           QSizeF(metrics.horizontalAdvance(text), 14));
        if (!QRectF(QPointF(), QSizeF(t.size)).contains(label) || !occupied.free(label)) continue;
        occupied.take(label);
        painter.fillRect(label.adjusted(-2, 2, 2, -2), colour::veil(215));
        painter.setPen(colour::ink);
        painter.drawText(label, Qt::AlignCenter, text);
    }
}

paper::ValueColours coloursFor(std::span<const double> values, const PlanLook& look) {
    paper::ValueColours out{look.scale, kNoValue, kNoValue, paper::classLimits(look.classes, values)};
    for (const double v : values) out.low = std::fmin(out.low, v), out.high = std::fmax(out.high, v);
    return out;
}

QImage valueImage(const Grid& grid, const paper::ValueColours& colours) {
    QImage image(grid.frame.columns(), grid.frame.rows(), QImage::Format_ARGB32);
    for (int r = 0; r < image.height(); ++r) {
        auto* line = reinterpret_cast<QRgb*>(image.scanLine(r));
        for (int c = 0; c < image.width(); ++c) {
            const double v = grid.at(c, r);
            line[c] = std::isnan(v) ? 0 : qColour(colours.of(v)).rgb();
        }
    }
    return image;
}

QImage valueImage(const Grid& grid, double& low, double& high) {
    const bool ownLow = std::isnan(low), ownHigh = std::isnan(high);
    for (const double v : grid.values) {
        if (ownLow) low = std::fmin(low, v);
        if (ownHigh) high = std::fmax(high, v);
    }
    return valueImage(grid, {paper::ColourScale::Earth, low, high, {}});
}

} // namespace fox::app
