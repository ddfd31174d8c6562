#include "style/theme.h"

#include "paper/fonts.h"

#include "sheets/unit_style.h"

#include <QApplication>
#include <QFile>
#include <QFontDatabase>
#include <QLocale>
#include <QPainter>
#include <QPalette>
#include <QRegularExpression>
#include <QSettings>
#include <array>
#include <cmath>

// The resources are in a static library: the linker keeps them only if somebody asks. Outside any namespace.
static void keepResources() { Q_INIT_RESOURCE(style); }

namespace fox::app {

namespace {

Theme s_theme = Theme::Light;
double s_textScale = 1;

constexpr int kRoles = 16;
const std::array<ColourRole, kRoles>& roles() {
    using namespace colour;
    static const std::array<ColourRole, kRoles> kAll{{{"paper", &paper, "#FFFDF9", "#24211D"},
                                                      {"desk", &desk, "#F7F3EC", "#1B1916"},
                                                      {"line", &line, "#DDD4C6", "#453F37"},
                                                      {"ink", &ink, "#25211C", "#EEE7DB"},
                                                      {"muted", &muted, "#6F665C", "#B7AC9D"},
                                                      {"fox", &fox, "#C4541A", "#EE8E57"},
                                                      {"green", &green, "#5C7A4A", "#A3C48C"},
                                                      {"amber", &amber, "#C8932B", "#E0B45C"},
                                                      {"red", &red, "#A8322A", "#F08F85"},
                                                      {"slate", &slate, "#3E5C76", "#A2BFD8"},
                                                      {"water", &water, "#B5C9D3", "#37525F"},
                                                      {"stage", &stage, "#EFE7DC", "#2D2923"},
                                                      {"chosen", &chosen, "#FBE9DE", "#4D301F"},
                                                      {"contour", &contour, "#C9BDA4", "#6E6349"},
                                                      {"contourMajor", &contourMajor, "#A58C5E", "#AD9463"},
                                                      {"amberText", &amberText, "#8A6110", "#E3BD6C"}}};
    return kAll;
}

/// Colours of the style sheet that are no role of their own.
constexpr std::pair<const char*, const char*> kSheetColours[] = {{"#A79D91", "#857C70"}, {"#8C8175", "#8F8679"},
                                                                 {"#A94413", "#F2A274"}, {"#F0C9AE", "#6B452E"},
                                                                 {"#FBF7F0", "#292520"}, {"#FFF4EC", "#3A2620"}};

/// The sheet is written for the light theme; rules of what is dark in both keep their colours.
QString sheetFor(Theme theme, double scale, const QString& light) {
    QStringList out;
    static const QRegularExpression size("font-size: (\\d+)px");
    for (auto rule : light.split('\n')) {
        if (theme == Theme::Dark) {
            if (rule.startsWith("#status") || rule.startsWith("QToolTip") || rule.startsWith("QProgressBar")) {
                rule.replace("#25211C", "#12100E");
            } else {
                for (const auto& r : roles()) rule.replace(r.light, r.dark, Qt::CaseInsensitive);
                for (const auto& [from, to] : kSheetColours) rule.replace(from, to, Qt::CaseInsensitive);
            }
        }
        if (const auto found = size.match(rule); found.hasMatch() && scale != 1)
            rule.replace(found.captured(0), QString("font-size: %1px").arg(int(std::lround(found.captured(1).toInt() * scale))));
        out << rule;
    }
    return out.join('\n');
}

} // namespace

namespace colour {
QColor veil(int alpha) {
    auto out = paper;
    out.setAlpha(alpha);
    return out;
}
} // namespace colour

std::span<const ColourRole> colourRoles() { return roles(); }
Theme themeInForce() { return s_theme; }
double textScale() { return s_textScale; }

void applyTheme(Theme theme, double scale) {
    static bool isFirst = true;
    if (std::exchange(isFirst, false)) {
        (void)systemTheme(); // the desktop's own palette, before it is replaced
        keepResources();
        for (const auto& file : paper::shippedFonts()) QFontDatabase::addApplicationFont(QString::fromStdString(file.string()));
        QApplication::setStyle("Fusion"); // the same look on every desktop
    }
    s_theme = theme, s_textScale = scale;
    for (const auto& r : roles()) *r.colour = QColor(theme == Theme::Light ? r.light : r.dark);
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
    palette.setColor(QPalette::Link, colour::fox);
    palette.setColor(QPalette::ToolTipBase, QColor("#25211C"));
    palette.setColor(QPalette::ToolTipText, QColor("#FFFDF9"));
    QApplication::setPalette(palette);
    QFile sheet(":/fox-cellar.qss");
    if (sheet.open(QIODevice::ReadOnly)) qApp->setStyleSheet(sheetFor(theme, scale, QString::fromUtf8(sheet.readAll())));
}

Theme systemTheme() {
    static const bool isDark = [] {
        const auto palette = QGuiApplication::palette();
        return palette.color(QPalette::Window).lightness() < palette.color(QPalette::WindowText).lightness();
    }();
    return isDark ? Theme::Dark : Theme::Light;
}

void applyChosenTheme() {
    (void)systemTheme();
    const QSettings settings;
    const auto chosen = settings.value("theme", "system").toString();
    const double scale = std::clamp(settings.value("textScale", 1.0).toDouble(), 0.8, 2.0);
    applyTheme(chosen == "dark" || (chosen == "system" && systemTheme() == Theme::Dark) ? Theme::Dark : Theme::Light, scale);
}

QFont bodyFont(int pixels, bool strong) {
    QFont font("Inter");
    font.setPixelSize(int(std::lround(pixels * s_textScale)));
    font.setWeight(strong ? QFont::DemiBold : QFont::Normal);
    return font;
}

QFont figureFont(int pixels) {
    // Qt 6.4 can't switch on a font's tabular figures; Inter's default figures differ little but for the 1
    return bodyFont(pixels);
}

QColor unitColour(const Unit& unit) { return qColour(colourOf(unit)); }

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

QColor valueColour(double share) { return qColour(paper::scaleColour(paper::ColourScale::Earth, share)); }

QColor qColour(const paper::Colour& c) { return QColor(c.red, c.green, c.blue, c.alpha); }

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
    return s == Severity::Error ? colour::red : s == Severity::Warning ? colour::amber : colour::green;
}
QString severityColourName(Severity s) { return severityColour(s).name(); }

} // namespace fox::app
