#pragma once
#include "ground/contours.h"
#include "paper/colour_scale.h"
#include "views/block_scene.h"

namespace fox::app {

/// A surface that stands by itself in a block view: levels at cells, and what colours them.
struct DrawnSurface {
    Grid levels, values; ///< values are empty where it has one colour
    QColor plain;
    paper::ValueColours colours;
    std::vector<ContourLine> contours;
    QColor colourAt(int column, int row) const;
};
/// Empty levels if the project has not that surface, or nothing of it is worked out. Cells are taken larger where there would be
/// more than a picture can show; fewer if `coarse`.
DrawnSurface sceneSurface(const SceneSurface&, const ProductSet&, bool coarse, const Progress&);

/// All that can be shown, with words for each: the ground, bases and tops of units, named and water surfaces.
std::vector<std::pair<SceneSurface, QString>> sceneSurfaces(const Project&);

} // namespace fox::app
