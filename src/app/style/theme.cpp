#include "style/theme.h"

#include "sheets/unit_style.h"

#include <QApplication>
#include <QFile>
#include <QFontDatabase>
#include <QLocale>
#include <QPainter>
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
    const auto c = colourOf(unit);
    return QColor(c.red, c.green, c.blue);
}

QBrush hatch(const Unit& unit) {
    const auto pattern = patternOf(unit);
    if (pattern == paper::Pattern::None) return Qt::NoBrush;
    constexpr int kSide = 20; // pixels: a tile's side at the usual 96 dots per inch
    const auto tile = paper::patternBitmap(pattern, colourOf(unit).darker(kPatternDarker), kSide);
    return QBrush(QPixmap::fromImage(imageOf(tile)));
}

QImage imageOf(const paper::Bitmap& bitmap) {
    const auto* bytes = reinterpret_cast<const uchar*>(bitmap.pixels.data());
    return QImage(bytes, bitmap.width, bitmap.height, bitmap.width * 4, QImage::Format_ARGB32_Premultiplied).copy();
}

QStringList groundsWithSign() {
    QStringList out;
    for (const auto& word : paper::groundsWithPattern()) out << QString::fromStdString(word);
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
