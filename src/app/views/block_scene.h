#pragma once
#include "base/progress.h"
#include "sequence/plane_assignment.h"
#include "views/block_lattice.h"

#include <QColor>
#include <QSet>
#include <QString>
#include <memory>

class vtkRenderer;

namespace fox::app {

/// What the block view shows. Its shapes are prepared on any thread and become VTK actors on the one that draws. Coordinates
/// are metres from the frame's middle and the ground's lowest level, so that single precision is enough.
class BlockScene {
public:
    struct Look {
        double exaggeration = 5;
        BlockCut cut;
        bool contours = false; ///< of the ground, over the block
        bool fences = false;   ///< all sections, not only the chosen one
        double apart = 0;      ///< the gap between units of the exploded view, as a share of the block's height
        bool coarse = false;   ///< fewer cells, while it moves
        enum class Ground { Solid, SeeThrough, Hidden } ground = Ground::Solid;
        bool block = true;        ///< the units as a block; else sticks alone under the ground
        bool terrain = false;     ///< the ground alone, triangle by triangle, with contours; no block, no sticks
        std::string stickHeading; ///< sticks by the codes of this column; empty: by unit
        QSet<QString> hidden;     ///< units that are not shown
        QString hole, unit;       ///< selected
        int section = 0;
        std::optional<PlaneAssignment> plane; ///< above which units are being assigned: a sheet with handles
    };
    /// Middle and size of the block, as drawn.
    struct Extent {
        double centre[3] = {0, 0, 0};
        double radius = 100;
    };
    /// Tops of the holes, as drawn, for picking.
    struct Top {
        QString name;
        double at[3];
    };
    /// All that is shown, at one look. Holes are glyphs: one actor for all of their heads, two for their sticks.
    struct Shapes;
    /// Requires products.ground. @throws Stopped
    static std::shared_ptr<const Shapes> prepare(const ProductSet& products, const Look&, const Progress& = {});

    /// Takes the place of what was shown; null: nothing is. On the thread that draws.
    void show(vtkRenderer*, std::shared_ptr<const Shapes>);
    Extent extent() const;
    const std::vector<Top>& tops() const; ///< of the holes that are shown
    /// Handles of the plane's sheet: its middle, by an empty name, then its corners round it, with their places.
    struct PlaneHandle {
        Point2 place;
        double at[3]; ///< as drawn
    };
    const std::vector<PlaneHandle>& planeHandles() const;
    std::size_t nodes() const; ///< cells that are drawn; a coarse picture has fewer
    std::size_t actors() const;
    static constexpr std::size_t kMostNodes = 60000,
                                 kCoarseNodes = 9000; ///< without a graphics card a picture takes 0.2 s, 0.03 s

private:
    std::shared_ptr<const Shapes> m_shown;
};

} // namespace fox::app
