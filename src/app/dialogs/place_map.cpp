#include "dialogs/place_map.h"

#include "base/limits.h"
#include "model/section.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/view.h"

#include <QContextMenuEvent>
#include <QHelpEvent>
#include <QInputDialog>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QToolTip>

namespace fox::app {

Box2 PlacePreview::box() const {
    Box2 box;
    for (const auto& p : dots) box.include(p);
    for (const auto& line : lines)
        for (const auto& p : line) box.include(p);
    for (const auto& area : areas)
        for (const auto& p : area.front()) box.include(p);
    for (const auto& object : objects)
        for (const auto& part : object.parts)
            for (const auto& p : part) box.include(p);
    if (!image.isNull() && imagePlaced)
        for (const double x : {0.0, double(image.width())})
            for (const double y : {0.0, double(image.height())}) box.include(placing.toPlan({x, y}));
    return box;
}

void PlaceMap::setPlaces(std::vector<Point2> there, PlacePreview coming) {
    m_there = std::move(there);
    m_coming = std::move(coming);
    m_box = m_coming.box();
    if (!m_box.empty())
        for (const auto& p : m_there) m_box.include(p);
    setCursor(m_coming.objects.empty() ? Qt::ArrowCursor : Qt::PointingHandCursor);
    update();
}

PlaceMap::View PlaceMap::view() const {
    const QRectF room = QRectF(rect()).adjusted(15, 10, -15, -26);
    return {m_box.centre(), std::min(room.width() / std::max(1.0, m_box.width()), room.height() / std::max(1.0, m_box.height())),
            room.center()};
}

QPointF PlaceMap::pixelOf(Point2 p) const {
    const auto seen = view();
    return {seen.middle.x() + (p.x - seen.centre.x) * seen.scale, seen.middle.y() - (p.y - seen.centre.y) * seen.scale};
}

const GroundLines::Object* PlaceMap::objectAt(QPointF at) const {
    constexpr double kNear = 6; // pixels
    const auto seen = view();
    const Point2 place{seen.centre.x + (at.x() - seen.middle.x()) / seen.scale,
                       seen.centre.y - (at.y() - seen.middle.y()) / seen.scale};
    const GroundLines::Object* nearest = nullptr;
    double least = kNear / seen.scale;
    for (const auto& object : m_coming.objects)
        for (const auto& part : object.parts) {
            const double away = part.size() > 1 ? project(part, place).distance : distance(part.front(), place);
            if (away <= least) least = away, nearest = &object;
        }
    return nearest;
}

void PlaceMap::mouseReleaseEvent(QMouseEvent* e) {
    const auto* object = e->button() == Qt::LeftButton ? objectAt(e->position()) : nullptr;
    if (!object) return;
    auto choice = object->choice;
    choice.isOut = !choice.isOut;
    emit objectChanged(choice);
}

void PlaceMap::contextMenuEvent(QContextMenuEvent* e) {
    const auto* object = objectAt(e->pos());
    if (!object) return;
    auto choice = object->choice;
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->setObjectName("objectMenu");
    menu->addAction(choice.isOut ? tr("Use it again") : tr("Skip it"), this, [this, choice]() mutable {
        choice.isOut = !choice.isOut;
        emit objectChanged(choice);
    });
    menu->addAction(tr("Give it a level…"), this, [this, choice] { askLevel(choice); });
    if (choice.level)
        menu->addAction(tr("Level from the file"), this, [this, choice]() mutable {
            choice.level.reset();
            emit objectChanged(choice);
        });
    menu->popup(e->globalPos());
}

void PlaceMap::askLevel(const ObjectChoice& of) {
    QInputDialog dialog(this);
    dialog.setObjectName("objectLevel");
    dialog.setWindowTitle(tr("Level of the object"));
    dialog.setLabelText(tr("Level of all its vertices, m"));
    dialog.setInputMode(QInputDialog::DoubleInput);
    dialog.setDoubleRange(-limits::kLevel, limits::kLevel);
    dialog.setDoubleDecimals(2);
    dialog.setDoubleValue(of.level.value_or(0));
    if (dialog.exec() != QDialog::Accepted) return;
    auto choice = of;
    choice.level = dialog.doubleValue();
    emit objectChanged(choice);
}

bool PlaceMap::event(QEvent* e) {
    if (e->type() != QEvent::ToolTip) return QWidget::event(e);
    const auto* help = static_cast<QHelpEvent*>(e);
    const auto* object = objectAt(help->pos());
    if (!object) {
        QToolTip::hideText();
        return true;
    }
    const auto& choice = object->choice;
    auto words = tr("Layer %1, object %2").arg(QString::fromStdString(choice.layer)).arg(choice.id);
    if (choice.level) words += tr(", level %1 m by hand").arg(*choice.level, 0, 'f', 2);
    words += "\n"
             + (choice.isOut ? tr("Click to use it again; right-click for its level")
                             : tr("Click to skip it; right-click for its level"));
    QToolTip::showText(help->globalPos(), words, this);
    return true;
}

void PlaceMap::paintObjects(QPainter& painter) const {
    for (const auto& object : m_coming.objects) {
        const auto& choice = object.choice;
        const auto colour = choice.isOut ? colour::muted : choice.level ? colour::slate : colour::fox;
        painter.setPen(QPen(colour, choice.isOut ? 1 : 1.4, choice.isOut ? Qt::DotLine : Qt::SolidLine));
        painter.setBrush(Qt::NoBrush);
        for (const auto& part : object.parts) {
            QPolygonF line;
            for (const auto& p : part) line << pixelOf(p);
            if (object.kind == GeometryKind::Point) {
                painter.setBrush(choice.isOut ? QBrush() : QBrush(colour));
                painter.drawEllipse(line.front(), 2.5, 2.5);
            } else if (object.kind == GeometryKind::Polygon) {
                painter.drawPolygon(line);
            } else {
                painter.drawPolyline(line);
            }
        }
    }
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
    if (m_box.empty())
        return paintEmpty(painter, rect(), m_coming.emptyWords.isEmpty() ? tr("No places in this file.") : m_coming.emptyWords);
    const auto at = [&](Point2 p) { return pixelOf(p); };
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
    paintObjects(painter);
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour::fox);
    constexpr std::size_t kFew = 100; // of more, each is a speck
    const double size = m_coming.dots.size() > kFew ? 1 : 4;
    for (const auto& p : m_coming.dots) painter.drawEllipse(at(p), size, size);
    auto file = m_coming.image.isNull() ? tr("this file in orange") : tr("this file as an image");
    const auto out = std::ranges::count_if(m_coming.objects, [](const auto& o) { return o.choice.isOut; });
    if (out > 0) file += tr(", %1 skipped").arg(counted(qint64(out), "object"));
    auto words = m_there.empty() ? file : tr("%1, the project's holes in grey").arg(file);
    if (out == 0 && !m_coming.objects.empty()) words += tr("; click an object to skip it");
    say(words);
}

} // namespace fox::app
