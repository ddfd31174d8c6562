#include "dialogs/place_map.h"

#include "style/theme.h"
#include "views/view.h"

#include <QPainter>
#include <QPainterPath>

namespace fox::app {

Box2 PlacePreview::box() const {
    Box2 box;
    for (const auto& p : dots) box.include(p);
    for (const auto& line : lines)
        for (const auto& p : line) box.include(p);
    for (const auto& area : areas)
        for (const auto& p : area.front()) box.include(p);
    if (!image.isNull() && imagePlaced)
        for (const double x : {0.0, double(image.width())})
            for (const double y : {0.0, double(image.height())}) box.include(placing.toPlan({x, y}));
    return box;
}

void PlaceMap::setPlaces(std::vector<Point2> there, PlacePreview coming) {
    m_there = std::move(there);
    m_coming = std::move(coming);
    update();
}

void PlaceMap::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    painter.fillRect(rect(), colour::desk);
    const QRectF room = QRectF(rect()).adjusted(15, 10, -15, -26);
    const auto say = [&](const QString& words) {
        painter.setPen(colour::muted);
        painter.setFont(bodyFont(11));
        painter.drawText(rect().adjusted(8, 4, -8, -4), Qt::AlignBottom | Qt::AlignLeft, words);
    };
    if (!m_coming.image.isNull() && !m_coming.imagePlaced) {
        const auto size = QSizeF(m_coming.image.size()).scaled(room.size(), Qt::KeepAspectRatio);
        painter.drawImage(QRectF(room.center() - QPointF(size.width(), size.height()) / 2, size), m_coming.image);
        return say(tr("not placed yet"));
    }
    Box2 box = m_coming.box();
    if (box.empty())
        return paintEmpty(painter, rect(), m_coming.emptyWords.isEmpty() ? tr("No places in this file.") : m_coming.emptyWords);
    for (const auto& p : m_there) box.include(p);
    const double scale = std::min(room.width() / std::max(1.0, box.width()), room.height() / std::max(1.0, box.height()));
    const auto at = [&](Point2 p) {
        return QPointF(room.center().x() + (p.x - box.centre().x) * scale, room.center().y() - (p.y - box.centre().y) * scale);
    };
    const auto onScreen = [&](const std::vector<Point2>& points) {
        QPolygonF out;
        for (const auto& p : points) out << at(p);
        return out;
    };
    if (!m_coming.image.isNull()) {
        const auto origin = at(m_coming.placing.toPlan({0, 0})), right = at(m_coming.placing.toPlan({1, 0})),
                   down = at(m_coming.placing.toPlan({0, 1}));
        painter.save();
        painter.setTransform(QTransform(right.x() - origin.x(), right.y() - origin.y(), down.x() - origin.x(),
                                        down.y() - origin.y(), origin.x(), origin.y()));
        painter.drawImage(0, 0, m_coming.image);
        painter.restore();
    }
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour::line.darker(125));
    for (const auto& p : m_there) painter.drawEllipse(at(p), 3, 3);
    auto fill = colour::fox;
    fill.setAlpha(40);
    painter.setBrush(fill);
    painter.setPen(QPen(colour::fox, 1.2));
    for (const auto& area : m_coming.areas) {
        QPainterPath path; // the even-odd rule takes holes out
        for (const auto& ring : area) path.addPolygon(onScreen(ring)), path.closeSubpath();
        painter.drawPath(path);
    }
    for (const auto& line : m_coming.lines) painter.drawPolyline(onScreen(line));
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour::fox);
    constexpr std::size_t kFew = 100; // of more, each is a speck
    const double size = m_coming.dots.size() > kFew ? 1 : 4;
    for (const auto& p : m_coming.dots) painter.drawEllipse(at(p), size, size);
    const auto file = m_coming.image.isNull() ? tr("this file in orange") : tr("this file as an image");
    say(m_there.empty() ? file : tr("%1, the project's holes in grey").arg(file));
}

} // namespace fox::app
