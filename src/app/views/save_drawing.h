#pragma once
#include "paper/drawing.h"

#include <QString>

namespace fox::app {

/// The kinds of files for a file dialog.
QString drawingKinds();
/// Writes a drawing as PDF or SVG if the name ends so, else as PNG. @throws FileError
void saveDrawing(const QString& path, const paper::Drawing&);

} // namespace fox::app
