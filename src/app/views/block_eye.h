#pragma once
#include "base/point.h"

#include <QPointF>
#include <QSizeF>
#include <array>
#include <optional>

namespace fox::app {

/// From where a block scene is looked at, in perspective. Lengths are metres of the scene; the picture's upright is up.
struct BlockEye {
    std::array<double, 3> focus{};       ///< what is in the middle of the picture
    double away = 1;                     ///< from there
    double azimuth = 0;                  ///< degrees: 0 from the south, 90 from the east
    double elevation = 0;                ///< degrees above the horizon
    static constexpr double kAngle = 32; ///< degrees: of the picture's height
    bool operator==(const BlockEye&) const = default;

    /// Directions of length 1.
    struct Axes {
        std::array<double, 3> toViewer, right, up;
    };
    Axes axes() const;
    std::array<double, 3> position() const;
    /// Where a point of the scene is in a picture of this size; far outside if it is behind the viewer.
    QPointF onScreen(const double at[3], QSizeF) const;
    /// Where the ray through a point of the picture is at a height of the scene; none if it runs level.
    std::optional<Point2> placeUnder(QPointF, double height, QSizeF) const;
};

} // namespace fox::app
