#pragma once
#include "model/geological_map.h"
#include "paper/colour_scale.h"

#include <string>

namespace fox::app {

/// What of the ground the plan shows. One for all plans, as the selection is.
struct PlanLook {
    enum class Shading { None, Level, Slope, Light };
    Shading shading = Shading::None;
    bool contours = true;
    bool triangles = false;
    bool points = false; ///< survey points
    enum class PointLabel { None, Number, Level, Code };
    PointLabel pointLabel = PointLabel::Level;
    bool pictures = true;
    /// Of the chosen unit's base; in the order of SurfaceValue.
    enum class Surface { None, Level, Thickness, Depth, Uncertainty, Chance, Distance, Top };
    Surface surface = Surface::None;
    /// A water surface by name; it takes the place of the base.
    struct Water {
        std::string name;
        bool depth = false; ///< how deep below the ground, else levels
        bool operator==(const Water&) const = default;
    };
    std::optional<Water> water;
    std::optional<std::string> named;                     ///< a named surface; it takes the place of the base too
    paper::ColourScale scale = paper::ColourScale::Earth; ///< of surfaces
    paper::ClassChoice classes;                           ///< in bands, else the colours are spread evenly
    std::optional<MapSurface> map; ///< a geological map; it takes the place of the base and of the ground's shading
    bool grid = false;             ///< the model's cells
    bool operator==(const PlanLook&) const = default;
};

} // namespace fox::app
