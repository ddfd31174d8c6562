#pragma once
#include "products/products.h"
#include "views/block_scene.h"

#include <QImage>
#include <QSize>

namespace fox::app {

class SceneDrawer;

/// How the block is seen in pictures that are kept on sheets.
BlockScene::Look pictureLook(const Selection&, const Project&);
/// What such a picture needs.
Wanted wantedForBlockPicture();
/// Drawn now; may be called on any thread but the drawer's. Null if there is no ground.
QImage blockPicture(const ProductSet&, const BlockScene::Look&, QSize pixels, SceneDrawer&);
/// PNG, in the letters that templates have pictures in.
std::string pictureLetters(const QImage&);
/// Pictures of the block in a layout, taken again as it is now; the layout as it was without OpenGL or ground.
void renewBlockPictures(SheetTemplate&, const ProductSet&, const BlockScene::Look&, SceneDrawer*);
bool hasBlockPicture(const SheetTemplate&);

} // namespace fox::app
