#pragma once
// The methods, for fitSurface only.
#include "surfaces/surface.h"

namespace fox::detail {

/// A surface with what fitting it under bounds needs.
class Interpolator : public Surface {
public:
    /// predicted - observed at point i from the others; kNoValue if they give none
    virtual double leftOut(std::size_t i) const = 0;
    /// The pull of point i on the surface: negative draws it down. None if the method has no such thing.
    virtual std::optional<double> pull(std::size_t) const { return {}; }
};

std::unique_ptr<Interpolator> makeLinear(std::vector<Point3>);
std::unique_ptr<Interpolator> makeInverseDistance(std::vector<Point3>, const SurfaceSettings&);
/// settings.variogram must be set
std::unique_ptr<Interpolator> makeKriging(std::vector<Point3>, const SurfaceSettings&);

/// Turns and squeezes the plan so that plain distance is anisotropic distance along the long axis.
class Squeeze {
public:
    explicit Squeeze(const Anisotropy&);
    Point2 operator()(Point2) const;
    bool none() const { return m_ratio == 1; }

private:
    double m_sin = 0, m_cos = 1, m_ratio = 1;
};

/// Data nearer than this to a place are at it, metres.
inline constexpr double kSamePlace = 1e-6;

} // namespace fox::detail
