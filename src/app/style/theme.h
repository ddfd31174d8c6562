#pragma once
#include "paper/colour_scale.h"
#include "paper/render.h"
#include "sequence/unit.h"

#include <QBrush>
#include <QColor>
#include <QFont>
#include <QImage>
#include <QPixmap>
#include <QStringList>
#include <span>

namespace fox::app {

enum class Theme { Light, Dark };

/// The colours of the interface by their role, as the theme in force has them: applyTheme() sets them.
namespace colour {
inline QColor paper, desk, line, ink, muted, fox, green, amber, red, slate, water, stage, chosen, contour, contourMajor,
    amberText;
/// Paper that lets through what lies behind words; 0 to 255.
QColor veil(int alpha);
} // namespace colour
/// Every role with its name, to test that words can be read on it.
struct ColourRole {
    const char* name;
    QColor* colour;
    const char *light, *dark; ///< "#rrggbb"
};
std::span<const ColourRole> colourRoles();

/// Loads the shipped fonts and sets font, palette and style sheet; may be called again to change theme or size of text. After
/// QApplication is made.
void applyTheme(Theme = Theme::Light, double textScale = 1);
Theme themeInForce();
Theme systemTheme(); ///< what the desktop asks for
/// As the user chose: "system", "light" or "dark", and the size of text, from the settings.
void applyChosenTheme();
double textScale();

QFont bodyFont(int pixels = 13, bool strong = false);
/// Figures that stand under one another.
QFont figureFont(int pixels = 13);

QColor unitColour(const Unit&);
/// The hand-drawn sign for the kind of ground that the unit's name speaks of: dashes for clay, dots for sand,
/// rings for gravel, bricks for limestone and so on. Transparent between; nothing for a name that says nothing.
QBrush hatch(const Unit&);
/// The same pixels as a picture of Qt.
QImage imageOf(const paper::Bitmap&);
/// The kinds of ground that have a sign, for choosing one.
QStringList groundsWithSign();
/// Fill and sign of a unit as a small square.
QPixmap swatch(const Unit&, int size = 16);
/// Where a value lies between low and high: slate, sand, fox.
QColor valueColour(double share);
QColor qColour(const paper::Colour&);

/// "480 377.02": two decimals and thin spaces.
QString coordinate(double metres);
/// "12.30 m", or an en dash for no value.
QString metres(double value, int decimals = 2);
/// "0.34 Mm³" or "12 300 m³".
QString volume(double cubicMetres);
QString severityColourName(Severity);
QColor severityColour(Severity);

} // namespace fox::app
