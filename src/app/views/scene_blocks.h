#pragma once
#include "paper/colour_scale.h"
#include "products/products.h"
#include "sheets/section_drawing.h"
#include "views/block_look.h"

#include <QColor>
#include <QString>
#include <functional>

namespace fox::app {

/// The block model that is looked at; null if there is none.
const BlockProduct* shownBlocks(const ProductSet*, const BlockLook&);
/// The excavation that is looked at; null if there is none.
const ExcavationProduct* shownExcavation(const ProductSet*, const BlockLook&);
/// "blocks of Lead above 300"
QString limitsInWords(const BlockLook&, const QString& model);
/// The colours of a block model's values, from the least to the most of them.
paper::ValueColours blockColours(const BlockModel&);
/// The simulation of this very model; null if there is none.
const BlockSimulation* simulationOf(const BlockModel&, const BlockLook&);
/// What colours the blocks, but for units: their values, variances, or the probability of lying beyond the cut-off.
struct BlockColouring {
    std::vector<double> values; ///< a block; empty: the model's own
    paper::ValueColours colours;
    const std::vector<double>& valuesOf(const BlockModel& m) const { return values.empty() ? m.value : values; }
};
BlockColouring colouringOf(const BlockModel&, const BlockLook&);

/// The room that the block model and the excavation take up which are looked at; none without both.
struct BlockRoom {
    Point3 low, high;
};
std::optional<BlockRoom> roomOf(const ProductSet&, const BlockLook&);

/// A face of a block that borders on none that is shown, in the project's coordinates.
struct BlockFace {
    std::array<Point3, 4> corners;
    QColor colour;
};
/// Which blocks a cut through the model leaves, by their centres; whole blocks go or stay.
struct BlocksLeft {
    std::function<bool(Point2)> column = {}; ///< none: all
    std::optional<double> below = {};        ///< metres
};
/// Of the blocks that the look shows and a cut leaves. Where these would be more than `most`, blocks are taken together, with the
/// mean of their values.
std::vector<BlockFace> blockFaces(const BlockModel&, const BlockLook&, const Sequence&, std::size_t most, const BlocksLeft& = {},
                                  const Progress& = {});

/// The blocks that a section passes through and the look shows.
std::vector<SectionCell> blockCells(const BlockModel&, const BlockLook&, const Sequence&, const Polyline2& line);
/// The dug surface along a line, where it is dug, NaN between its pieces: chainage and level. Empty without one.
std::vector<Point2> dugAlong(const ProductSet&, const BlockLook&, const Polyline2& line);

/// The dug surface of the excavation that is looked at, where it is dug; `colourAt` a place and a level. None without one.
std::vector<BlockFace> pitFaces(const ProductSet&, const BlockLook&, const std::function<QColor(Point2, double)>& colourAt);

/// What is dug of the units that an excavation is for, as blocks as wide as its cells; their values say nothing. `unitAt` a place
/// and a level. Requires made.dig.
BlockModel takenGround(const ExcavationProduct& made, const Sequence&, const std::function<std::size_t(Point2, double)>& unitAt);

} // namespace fox::app
