#pragma once
#include "paper/render.h"
#include "sequence/unit.h"

#include <QBrush>
#include <QColor>
#include <QFont>
#include <QImage>
#include <QPixmap>
#include <QStringList>

namespace fox::app {

/// The colours of the interface by their role.
namespace colour {
inline const QColor paper{"#FFFDF9"}, desk{"#F7F3EC"}, line{"#DDD4C6"}, ink{"#25211C"}, muted{"#6F665C"}, fox{"#C4541A"},
    moss{"#5C7A4A"}, amber{"#C8932B"}, red{"#A8322A"}, slate{"#3E5C76"}, water{"#B5C9D3"}, stage{"#EFE7DC"}, chosen{"#FBE9DE"},
    contour{"#C9BDA4"}, contourMajor{"#A58C5E"}, amberText{"#8A6110"};
}

/// Loads the shipped fonts and sets font, palette and style sheet. Once, after QApplication is made.
void applyTheme();

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

/// "480 377.02": two decimals and thin spaces.
QString coordinate(double metres);
/// "12.30 m", or an en dash for no value.
QString metres(double value, int decimals = 2);
/// "0.34 Mm³" or "12 300 m³".
QString volume(double cubicMetres);
QString severityColourName(Severity);
QColor severityColour(Severity);

} // namespace fox::app
