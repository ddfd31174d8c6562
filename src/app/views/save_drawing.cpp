#include "views/save_drawing.h"

#include "base/files.h"
#include "base/text.h"
#include "paper/render.h"

#include <QObject>

namespace fox::app {

QString drawingKinds() { return QObject::tr("PNG (*.png);;PDF (*.pdf);;SVG (*.svg)"); }

void saveDrawing(const QString& path, const paper::Drawing& drawing) {
    const std::filesystem::path target = path.toStdString();
    const auto ending = fox::lower(target.extension().string());
    if (ending == ".pdf") return writeBytes(target, paper::toPdf({&drawing, 1}));
    if (ending == ".svg") return writeBytes(target, paper::toSvg(drawing));
    writeBytes(target, paper::toPng(drawing));
}

} // namespace fox::app
