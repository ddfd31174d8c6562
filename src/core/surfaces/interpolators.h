#pragma once
// The methods, for fitSurface only. Places are squeezed already, so that plain distance is anisotropic distance.
#include "surfaces/surface.h"

namespace fox::detail {

class KrigingSystem;

/// A surface with what fitting it under bounds needs.
class Interpolator : public Surface {
public:
    /// predicted - observed at point i from the others; kNoValue if they give none
    virtual double leaveOneOut(std::size_t i) const = 0;
    /// The equations, where all points are in one system: then bounds are kept by a quadratic programme.
    virtual const KrigingSystem* system() const { return nullptr; }
};

/// Which points a kriging estimate takes.
enum class Reach { All, Neighbours };

std::unique_ptr<Interpolator> makeLinear(std::vector<Point3>);
std::unique_ptr<Interpolator> makeNaturalNeighbour(const std::vector<Point3>&);
std::unique_ptr<Interpolator> makeInverseDistance(std::vector<Point3>, const SurfaceSettings&);
std::unique_ptr<Interpolator> makeNearest(std::vector<Point3>, const SurfaceSettings&);
/// Ordinary, universal and thin plate. settings.variogram must be set but for the thin plate.
std::unique_ptr<Interpolator> makeKriging(std::vector<Point3>, const SurfaceSettings&, Reach);

/// Data nearer than this to a place are at it, metres.
inline constexpr double kSamePlace = 1e-6;

} // namespace fox::detail
