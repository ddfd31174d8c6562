#pragma once
#include "views/block_placing.h"

namespace fox::app {

/// What stands on and in a block beside its units: holes, contacts that are in no hole, lines only to look at. In metres of the
/// scene.

struct SceneLine {
    Point3 from, to;
    QColor colour;
};

/// Lines that are drawn as tubes of one radius.
struct SceneTubes {
    std::vector<SceneLine> lines;
    double radius = 1;
    int sides = 6;
};

/// Holes as sticks in the colours of what they log or of values, and a ball over each, for finding and picking it from above.
struct SceneHoles {
    struct Head {
        BlockScene::Top top;
        double radius;
        QColor colour;
    };
    SceneTubes sticks, chosen;
    SceneTubes graphs; ///< of values, beside the sticks
    std::vector<Head> heads;
    std::vector<Head> signs; ///< samples to the west of a hole, water to the east
};
SceneHoles sceneHoles(const ProductSet&, const BlockScene::Look&, const BlockPlacing&);

/// The plane above which units are assigned, over the box of the holes: its corners round, with their places, a rim, and the
/// stretches of holes that it takes in the colour of their new unit. Without holes there is no corner.
struct ScenePlane {
    std::vector<std::pair<Point2, Point3>> corners;
    SceneTubes rim, taken;
};
ScenePlane scenePlane(const PlaneAssignment&, const ProductSet&, const BlockPlacing&);

/// Little bars across, as balls are the heads of holes; contacts that follow one another along a trace are a line.
SceneTubes sceneContacts(const ProductSet&, const BlockPlacing&);

/// Laid on the terrain, where there is one under them.
SceneTubes sceneLines(const BackgroundLines&, const ProductSet&, const BlockPlacing&);

} // namespace fox::app
