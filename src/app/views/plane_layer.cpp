#include "views/plane_layer.h"

#include "sheets/scale.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/plane_line.h"

#include <QPainter>
#include <set>

namespace fox::app {

namespace {

Box2 boxOfHoles(const ProductSet& products) {
    Box2 box;
    for (const auto& read : products.reading->holes)
        if (const auto path = HolePath::of(*read.hole)) box.include(path->at({}).plan());
    return box;
}

/// Where a plane has a level within a box: the two places on its edge; none if it has it nowhere.
std::optional<std::pair<Point2, Point2>> levelLine(const Plane& plane, const Box2& box, double level) {
    const Point2 corners[] = {{box.xmin, box.ymin}, {box.xmax, box.ymin}, {box.xmax, box.ymax}, {box.xmin, box.ymax}};
    std::vector<Point2> hits;
    for (std::size_t i = 0; i < 4; ++i) {
        const auto &a = corners[i], &b = corners[(i + 1) % 4];
        const double za = plane.at(a) - level, zb = plane.at(b) - level;
        if ((za < 0) == (zb < 0)) continue;
        const double t = za / (za - zb);
        hits.push_back({a.x + t * (b.x - a.x), a.y + t * (b.y - a.y)});
    }
    if (hits.size() != 2) return {};
    return std::pair(hits[0], hits[1]);
}

} // namespace

void paintPlane(QPainter& painter, const PlanTransform& t, const ProductSet& products, const PlaneAssignment& how,
                const AssignedByPlane& assigned) {
    const auto box = boxOfHoles(products);
    if (box.empty()) return;
    double low = kNoValue, high = kNoValue;
    for (const double x : {box.xmin, box.xmax})
        for (const double y : {box.ymin, box.ymax})
            low = std::fmin(low, how.plane.at({x, y})), high = std::fmax(high, how.plane.at({x, y}));
    painter.save();
    painter.setFont(bodyFont(11, true));
    const double slope = std::hypot(how.plane.east, how.plane.north);
    constexpr double kLeastPixels = 24; // between two level lines, so that their figures stand apart
    if (high - low > 0.1 && slope > 0) {
        const double interval = labelStep(slope * kLeastPixels / t.pixelsPerMetre);
        for (double k = std::ceil(low / interval); k * interval <= high; ++k) {
            const auto line = levelLine(how.plane, box, k * interval);
            if (!line) continue;
            const auto a = t.toScreen(line->first.x, line->first.y), b = t.toScreen(line->second.x, line->second.y);
            painter.setPen(QPen(colour::fox, 1.3, Qt::DashLine));
            painter.drawLine(a, b);
            const auto left = a.x() < b.x() ? a : b;
            painter.drawText(QRectF(left + QPointF(-52, -8), QSizeF(48, 16)), Qt::AlignRight | Qt::AlignVCenter,
                             metres(k * interval, interval < 1 ? 1 : 0));
        }
    }
    // which way it falls: a stroke along the strike, a tick down the dip
    const auto centre = t.toScreen(box.centre().x, box.centre().y);
    painter.setPen(QPen(colour::fox, 2.2));
    if (slope > 0) {
        const QPointF down(-how.plane.east / slope, how.plane.north / slope); // on the screen north is up
        const QPointF along(-down.y(), down.x());
        painter.drawLine(centre - along * 14, centre + along * 14);
        painter.drawLine(centre, centre + down * 12);
    }
    const auto fall = slopeInWords(how.plane);
    const QRectF label(centre + QPointF(16, -20), QSizeF(QFontMetricsF(painter.font()).horizontalAdvance(fall) + 6, 15));
    painter.fillRect(label, colour::veil(215));
    painter.drawText(label, Qt::AlignCenter, fall);
    std::set<std::string> taken, conflicts;
    for (const auto* list : {&assigned.whole, &assigned.parts})
        for (const auto& i : *list) taken.insert(i.hole);
    for (const auto& c : assigned.conflicts) conflicts.insert(c.hole);
    painter.setBrush(Qt::NoBrush);
    for (const auto& read : products.reading->holes) {
        const auto path = HolePath::of(*read.hole);
        if (!path || (!taken.contains(read.name) && !conflicts.contains(read.name))) continue;
        const auto p = path->at({}).plan();
        const bool isWrong = conflicts.contains(read.name);
        painter.setPen(QPen(isWrong ? colour::amber : colour::fox, 2.4, isWrong ? Qt::DashLine : Qt::SolidLine));
        painter.drawEllipse(t.toScreen(p.x, p.y), 10, 10);
    }
    painter.restore();
}

} // namespace fox::app
