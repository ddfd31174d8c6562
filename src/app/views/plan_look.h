#pragma once

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
    enum class Surface { None, Level, Thickness, Depth, Doubt, Chance, Distance };
    Surface surface = Surface::None;
    bool operator==(const PlanLook&) const = default;
};

} // namespace fox::app
