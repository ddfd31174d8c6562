#pragma once
#include "base/progress.h"
#include "sequence/plane_assignment.h"
#include "views/block_lattice.h"
#include "views/selection.h"

#include <QColor>
#include <QSet>
#include <QString>
#include <memory>

class vtkRenderer;

namespace fox::app {

/// A surface that stands by itself.
struct SceneSurface {
    enum class Of { Ground, Base, Top, Named, Water };
    enum class Colouring { Plain, Level, Thickness, Deviation };
    Of of = Of::Base;
    std::string key; ///< the unit's code, or the surface's name
    Colouring colouring = Colouring::Plain;
    double opacity = 1;
    bool contours = false;
    bool isSame(const SceneSurface& o) const { return of == o.of && key == o.key; }
    bool operator==(const SceneSurface&) const = default;
};

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
        bool block = true; ///< the units as a block; else sticks alone under the ground
        /// What upright faces of the block show: units with the signs of their ground, or in plain colours, or with the values of
        /// the block model over them.
        enum class Faces { Signs, Colours, Values } faces = Faces::Signs;
        BlockLook faceValues; ///< which block model, and how it is coloured
        bool terrain = false; ///< the ground alone, triangle by triangle, with contours; no block, no sticks
        AlongLook along;      ///< what sticks show
        std::optional<std::set<std::string>> shownHoles; ///< none: all
        std::optional<BlockLook> blocks;                 ///< values in blocks and an excavation, in place of the block of units
        std::optional<LayerLook> layers;                 ///< a layered grid or mesh, in place of the block of units
        std::vector<SceneSurface> surfaces;              ///< over and in the block
        bool frame = true;                               ///< of coordinates around the block
        bool names = true;                               ///< of holes
        QSet<QString> hidden;                            ///< units that are not shown
        QString hole, unit;                              ///< selected
        int section = 0;
        std::optional<PlaneAssignment> plane; ///< above which units are being assigned: a sheet with handles
        bool operator==(const Look&) const = default;
    };
    /// Middle and size of the block, as drawn.
    struct Extent {
        double centre[3] = {0, 0, 0};
        double radius = 100;
        double half[3] = {50, 50, 50}; ///< of its box
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

    BlockScene() = default; ///< nothing
    explicit BlockScene(std::shared_ptr<const Shapes> shapes) : m_shapes(std::move(shapes)) {}
    const std::shared_ptr<const Shapes>& shapes() const { return m_shapes; }
    /// Takes the place of all that the renderer has; null: nothing does. On the thread that draws.
    static void fill(vtkRenderer&, const Shapes*);
    Extent extent() const;
    const std::vector<Top>& tops() const; ///< of the holes that are shown
    /// Handles of the plane's sheet: its middle, by an empty name, then its corners round it, with their places.
    struct PlaneHandle {
        Point2 place;
        double at[3]; ///< as drawn
    };
    const std::vector<PlaneHandle>& planeHandles() const;
    /// Words of the frame of coordinates. Those of a side are to be seen from that side only: 0 from the south, 1 from the east,
    /// 2 from the north, 3 from the west; 4 to 7 stand on the corners between, from the south-west round by the south-east.
    struct Label {
        QString words;
        double at[3];
        int side = -1;
    };
    const std::vector<Label>& labels() const;
    /// Handles of the upright cuts, in their order: the middle moves one, the end turns it.
    struct CutHandle {
        std::size_t cut = 0;
        bool turns = false;
        double at[3];
    };
    const std::vector<CutHandle>& cutHandles() const;
    std::size_t nodes() const; ///< cells that are drawn; a coarse picture has fewer
    std::size_t actors() const;
    static constexpr std::size_t kMostNodes = 60000,
                                 kCoarseNodes = 9000; ///< without a graphics card a picture takes 0.2 s, 0.03 s

private:
    std::shared_ptr<const Shapes> m_shapes;
};

} // namespace fox::app
