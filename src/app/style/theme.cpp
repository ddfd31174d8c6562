#include "style/theme.h"

#include <QApplication>
#include <QFile>
#include <QFontDatabase>
#include <QLocale>
#include <QPainter>
#include <QPainterPath>
#include <QPalette>
#include <cmath>

// The resources are in a static library: the linker keeps them only if somebody asks. Outside any namespace.
static void keepResources() { Q_INIT_RESOURCE(style); }

namespace fox::app {

void applyTheme() {
    keepResources();
    for (const char* file : {":/fonts/Inter-Regular.otf", ":/fonts/Inter-SemiBold.otf"}) QFontDatabase::addApplicationFont(file);
    QApplication::setStyle("Fusion"); // the same look on every desktop
    QApplication::setFont(bodyFont());
    QPalette palette;
    palette.setColor(QPalette::Window, colour::paper);
    palette.setColor(QPalette::Base, colour::paper);
    palette.setColor(QPalette::AlternateBase, colour::desk);
    palette.setColor(QPalette::Button, colour::paper);
    palette.setColor(QPalette::Text, colour::ink);
    palette.setColor(QPalette::WindowText, colour::ink);
    palette.setColor(QPalette::ButtonText, colour::ink);
    palette.setColor(QPalette::PlaceholderText, colour::muted);
    palette.setColor(QPalette::Highlight, colour::chosen);
    palette.setColor(QPalette::HighlightedText, colour::ink);
    palette.setColor(QPalette::ToolTipBase, colour::ink);
    palette.setColor(QPalette::ToolTipText, colour::paper);
    QApplication::setPalette(palette);
    QFile sheet(":/fox-cellar.qss");
    if (sheet.open(QIODevice::ReadOnly)) qApp->setStyleSheet(QString::fromUtf8(sheet.readAll()));
}

QFont bodyFont(int pixels, bool strong) {
    QFont font("Inter");
    font.setPixelSize(pixels);
    font.setWeight(strong ? QFont::DemiBold : QFont::Normal);
    return font;
}

QFont figureFont(int pixels) {
    // Qt 6.4 can't switch on a font's tabular figures; Inter's default figures differ little but for the 1
    return bodyFont(pixels);
}

QColor unitColour(const Unit& unit) {
    const QColor c(QString::fromStdString(unit.colour));
    return c.isValid() ? c : QColor("#c9bdae");
}

namespace {

using Draw = void (*)(QPainter&);

void dashes(QPainter& p) {
    p.drawLine(2, 4, 9, 4);
    p.drawLine(10, 12, 17, 12);
}
void dots(QPainter& p) {
    for (const auto& [x, y] : {std::pair{3, 3}, {11, 6}, {6, 12}, {15, 15}}) p.drawPoint(x, y);
}
void rings(QPainter& p) {
    p.drawEllipse(QPointF(5, 5), 3, 2.4);
    p.drawEllipse(QPointF(14, 13), 3.6, 2.8);
}
void fibres(QPainter& p) {
    for (const auto& [x, y] : {std::pair{3, 8}, {12, 16}}) {
        QPainterPath path(QPointF(x, y));
        path.quadTo(x + 3, y - 6, x + 6, y);
        p.drawPath(path);
        p.drawLine(x + 3, y - 3, x + 3, y - 7);
    }
}
void stones(QPainter& p) { // clay with stones
    p.drawLine(2, 5, 8, 5);
    p.drawLine(11, 15, 17, 15);
    p.drawPolygon(QPolygonF({QPointF(12, 6), QPointF(15, 3), QPointF(17, 7)}));
    p.drawPolygon(QPolygonF({QPointF(3, 15), QPointF(5, 11), QPointF(7, 15)}));
}
void roots(QPainter& p) {
    for (const int x : {4, 13}) {
        p.drawLine(x, 3, x, 9);
        p.drawLine(x, 9, x - 2, 13);
        p.drawLine(x, 9, x + 2, 13);
    }
}
void rubble(QPainter& p) {
    p.drawLine(2, 2, 7, 7);
    p.drawLine(7, 2, 2, 7);
    p.drawRect(11, 11, 6, 4);
}
void bricks(QPainter& p) {
    p.drawLine(0, 0, 20, 0);
    p.drawLine(0, 10, 20, 10);
    p.drawLine(5, 0, 5, 10);
    p.drawLine(15, 10, 15, 20);
}
void leaves(QPainter& p) { // laminated rock
    p.drawLine(0, 4, 20, 4);
    p.drawLine(0, 11, 12, 11);
    p.drawLine(8, 17, 20, 17);
}
void cracked(QPainter& p) {
    leaves(p);
    p.drawLine(13, 6, 16, 9);
    p.drawLine(4, 13, 2, 16);
}

constexpr std::pair<const char*, Draw> kByWord[] = {
    {"topsoil", roots}, {"made", rubble},       {"fill", rubble},      {"peat", fibres},  {"gravel", rings},
    {"till", stones},   {"sandstone", leaves},  {"siltstone", leaves}, {"sand", dots},    {"alluvi", dashes},
    {"silt", dashes},   {"weathered", cracked}, {"mudstone", leaves},  {"shale", leaves}, {"limestone", bricks},
    {"chalk", bricks},  {"clay", dashes}};

Draw drawingFor(const std::string& name) {
    QString said = QString::fromStdString(name).toLower();
    for (const auto& [word, draw] : kByWord)
        if (said.contains(word)) return draw;
    return nullptr;
}

} // namespace

QBrush hatch(const Unit& unit) {
    const auto draw = drawingFor(unit.hatch.empty() ? unit.name : unit.hatch);
    if (!draw) return Qt::NoBrush;
    QPixmap tile(20, 20);
    tile.fill(Qt::transparent);
    QPainter painter(&tile);
    painter.setRenderHint(QPainter::Antialiasing);
    auto ink = unitColour(unit).darker(165);
    painter.setPen(QPen(ink, draw == dots ? 1.8 : 1.1, Qt::SolidLine, Qt::RoundCap));
    draw(painter);
    return QBrush(tile);
}

QStringList groundsWithSign() {
    QStringList out;
    for (const auto& [word, draw] : kByWord)
        if (QString(word) != "made" && QString(word) != "alluvi" && QString(word) != "weathered") out << word;
    return out;
}

QPixmap swatch(const Unit& unit, int size) {
    QPixmap picture(size, size);
    picture.fill(unitColour(unit));
    QPainter painter(&picture);
    painter.fillRect(0, 0, size, size, hatch(unit));
    painter.setPen(colour::ink);
    painter.drawRect(0, 0, size - 1, size - 1);
    return picture;
}

QColor valueColour(double share) {
    static const QColor kStops[] = {QColor("#3E5C76"), QColor("#E2CF8F"), QColor("#C4541A")};
    const double at = std::clamp(share, 0.0, 1.0) * 2;
    const auto &a = kStops[at < 1 ? 0 : 1], &b = kStops[at < 1 ? 1 : 2];
    const float t = float(at < 1 ? at : at - 1);
    return QColor::fromRgbF(a.redF() + t * (b.redF() - a.redF()), a.greenF() + t * (b.greenF() - a.greenF()),
                            a.blueF() + t * (b.blueF() - a.blueF()));
}

QString coordinate(double value) {
    QString text = QString::number(value, 'f', 2);
    const int point = int(text.indexOf('.'));
    const int first = value < 0 ? 1 : 0;
    for (int i = point - 3; i > first; i -= 3) text.insert(i, QChar(0x2009));
    return text;
}

QString metres(double value, int decimals) {
    return std::isnan(value) ? QString(QChar(0x2013)) : QString::number(value, 'f', decimals) + " m";
}

QString volume(double v) {
    if (v >= 1e4) return QString::number(v / 1e6, 'f', v >= 1e7 ? 1 : v >= 1e5 ? 2 : 3) + QString::fromUtf8(" Mm³");
    return QString::number(v, 'f', 0) + QString::fromUtf8(" m³");
}

QColor severityColour(Severity s) {
    return s == Severity::Error ? colour::red : s == Severity::Warning ? colour::amber : colour::moss;
}
QString severityColourName(Severity s) { return severityColour(s).name(); }

} // namespace fox::app
