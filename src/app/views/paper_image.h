#pragma once
#include "paper/drawing.h"

class QImage;
class QPainter;

namespace fox::app {

/// A pixel of the usual screen, as paper has it.
inline constexpr double kMillimetresPerPixel = 25.4 / 96;

/// A drawing as pixels for a device with so many pixels to a logical one, transparent where nothing is drawn.
QImage imageOf(const paper::Drawing&, double devicePixelRatio);

} // namespace fox::app
