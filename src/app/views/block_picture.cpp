#include "views/block_picture.h"

#include "paper/sheet_template.h"
#include "style/words.h"
#include "views/block_eye.h"
#include "views/scene_drawer.h"

#include <QBuffer>

namespace fox::app {

namespace {

bool isBlockPicture(const SheetElement& e) { return e.kind == SheetElement::Kind::Picture && e.what == "block"; }

/// So far off that the block's corners fill the picture.
BlockEye eyeFor(const BlockScene::Extent& extent) {
    constexpr double kAzimuth = -24, kElevation = 33, kRadii = 2.9; // degrees; a usual way to look at a block
    return {{extent.centre[0], extent.centre[1], extent.centre[2]}, kRadii * extent.radius, kAzimuth, kElevation};
}

} // namespace

BlockScene::Look pictureLook(const Selection& selection, const Project& project) {
    BlockScene::Look look;
    look.exaggeration = selection.exaggeration();
    look.cut.planes = selection.cuts();
    if (look.cut.planes.empty()) look.cut.south = 0.35; // as the block view opens
    look.names = look.frame = false;
    for (const auto& u : project.sequence->units)
        if (selection.unitHidden(qt(u.code))) look.hidden.insert(qt(u.code));
    return look;
}

Wanted wantedForBlockPicture() { return {ProductKind::Grids}; }

QImage blockPicture(const ProductSet& products, const BlockScene::Look& look, QSize pixels, SceneDrawer& drawer) {
    if (!products.ground) return {};
    const BlockScene scene(BlockScene::prepare(products, look));
    auto picture = drawer.drawNow(drawer.makePlace(), {scene.shapes(), eyeFor(scene.extent()), pixels, Qt::white, true})
                       .convertToFormat(QImage::Format_ARGB32);
    for (int y = 0; y < picture.height(); ++y) { // the paper is seen around the block
        auto* line = reinterpret_cast<QRgb*>(picture.scanLine(y));
        std::replace(line, line + picture.width(), qRgba(255, 255, 255, 255), qRgba(255, 255, 255, 0));
    }
    return picture;
}

std::string pictureLetters(const QImage& image) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    image.save(&buffer, "PNG");
    return bytes.toBase64().toStdString();
}

void renewBlockPictures(SheetTemplate& t, const ProductSet& products, const BlockScene::Look& look, SceneDrawer* drawer) {
    if (!drawer) return;
    constexpr double kPixelsPerMillimetre = 150 / 25.4;
    for (auto& e : t.elements)
        if (isBlockPicture(e))
            if (const auto image = blockPicture(
                    products, look, (QSizeF(e.width, e.height) * kPixelsPerMillimetre).toSize().expandedTo({16, 16}), *drawer);
                !image.isNull())
                e.picture = pictureLetters(image);
}

bool hasBlockPicture(const SheetTemplate& t) { return std::ranges::any_of(t.elements, isBlockPicture); }

} // namespace fox::app
