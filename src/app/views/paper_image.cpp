#include "views/paper_image.h"

#include "style/theme.h"

namespace fox::app {

QImage imageOf(const paper::Drawing& drawing, double devicePixelRatio) {
    auto image = imageOf(paper::toBitmap(drawing, devicePixelRatio / kMillimetresPerPixel));
    image.setDevicePixelRatio(devicePixelRatio);
    return image;
}

} // namespace fox::app
