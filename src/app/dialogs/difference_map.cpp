#include "dialogs/difference_map.h"

#include "style/theme.h"
#include "views/view.h"

#include <QPainter>
#include <QPainterPath>

namespace fox::app {

void DifferenceMap::setDifference(const Grid& grid) {
    m_most = 0;
    for (const double v : grid.values)
        if (!std::isnan(v)) m_most = std::max(m_most, std::abs(v));
    const int columns = grid.frame.columns(), rows = grid.frame.rows();
    m_image = QImage(columns, rows, QImage::Format_ARGB32);
    const QColor up = colour::fox, down = colour::slate, none = colour::paper;
    for (int r = 0; r < rows; ++r) {
        auto* line = reinterpret_cast<QRgb*>(m_image.scanLine(r));
        for (int c = 0; c < columns; ++c) {
            const double v = grid.at(c, r);
            if (std::isnan(v)) {
                line[c] = 0;
                continue;
            }
            const double t = m_most > 0 ? std::sqrt(std::abs(v) / m_most) : 0; // small differences show too
            const auto& to = v > 0 ? up : down;
            const auto mix = [t](int a, int b) { return int(a + t * (b - a)); };
            line[c] = qRgb(mix(none.red(), to.red()), mix(none.green(), to.green()), mix(none.blue(), to.blue()));
        }
    }
    update();
}

void DifferenceMap::clear() {
    m_image = {};
    update();
}

void DifferenceMap::setWords(const QString& above, const QString& below) {
    m_above = above, m_below = below;
    update();
}

void DifferenceMap::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), colour::desk);
    if (m_image.isNull()) return paintEmpty(painter, rect(), tr("The map of the difference comes here."));
    const auto size = QSizeF(m_image.size()).scaled(QSizeF(width() - 8, height() - 30), Qt::KeepAspectRatio);
    painter.drawImage(QRectF(QPointF((width() - size.width()) / 2, 4), size), m_image);
    painter.setFont(bodyFont(11));
    painter.setPen(colour::fox);
    painter.drawText(rect().adjusted(8, 0, -8, -4), Qt::AlignBottom | Qt::AlignLeft,
                     tr("%1, up to %2").arg(m_above, metres(m_most)));
    painter.setPen(colour::slate);
    painter.drawText(rect().adjusted(8, 0, -8, -4), Qt::AlignBottom | Qt::AlignRight, m_below);
}

void ProfileChart::setProfile(const ComparedProfile& profile, const QString& first, const QString& second) {
    m_profile = profile;
    m_names[0] = first, m_names[1] = second;
    update();
}

void ProfileChart::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), colour::paper);
    double low = kNoValue, high = kNoValue;
    for (const auto* values : {&m_profile.first, &m_profile.second})
        for (const double v : *values) low = std::fmin(low, v), high = std::fmax(high, v);
    if (m_profile.chainage.size() < 2 || std::isnan(low))
        return paintEmpty(painter, rect(), tr("Choose a section line for a profile of both."));
    const QRectF box = QRectF(rect()).adjusted(46, 20, -10, -20);
    const double span = high > low ? high - low : 1, length = m_profile.chainage.back();
    const auto at = [&](double chainage, double level) {
        return QPointF(box.left() + chainage / length * box.width(), box.bottom() - (level - low) / span * box.height());
    };
    const std::pair<const std::vector<double>*, QColor> kLines[] = {{&m_profile.first, colour::fox},
                                                                    {&m_profile.second, colour::slate}};
    painter.setFont(bodyFont(11));
    int k = 0;
    for (const auto& [values, c] : kLines) {
        QPainterPath path;
        bool open = false;
        for (std::size_t i = 0; i < values->size(); ++i) {
            const double v = (*values)[i];
            if (std::isnan(v)) {
                open = false;
                continue;
            }
            open ? path.lineTo(at(m_profile.chainage[i], v)) : path.moveTo(at(m_profile.chainage[i], v));
            open = true;
        }
        painter.setPen(QPen(c, 1.6, k == 0 ? Qt::SolidLine : Qt::DashLine));
        painter.setBrush(Qt::NoBrush);
        painter.drawPath(path);
        painter.drawText(QRectF(box.left() + k * box.width() / 2, 2, box.width() / 2, 16), Qt::AlignLeft, m_names[k]);
        ++k;
    }
    painter.setPen(colour::muted);
    painter.drawText(QRectF(2, box.top() - 8, 42, 16), Qt::AlignRight, QString::number(high, 'f', 1));
    painter.drawText(QRectF(2, box.bottom() - 8, 42, 16), Qt::AlignRight, QString::number(low, 'f', 1));
    painter.drawText(QRectF(box.left(), box.bottom() + 2, box.width(), 16), Qt::AlignRight, metres(length, 0));
    painter.drawText(QRectF(box.left(), box.bottom() + 2, box.width(), 16), Qt::AlignLeft, "0 m");
}

} // namespace fox::app
