#pragma once
#include "base/progress.h"
#include "surfaces/surface.h"

#include <cstdint>
#include <memory>

namespace fox {

/// Equally likely surfaces through the same data and within the same bounds: conditional simulation. The field is a sum of
/// waves whose lengths and directions follow the variogram's spectrum (Shinozuka & Jan 1972), corrected by kriging to the
/// data (Journel 1974); values at the bounds are drawn first, by Gibbs sampling of the normal distribution that they cut
/// off (Geweke 1991). Same seed, same surfaces, any thread count.
/// Takes ordinary or universal kriging's own settings, with a variogram; a linear one is simulated as a spherical one of
/// the same slope that reaches four times the extent. A nugget is taken as error of the data: the surfaces do not have it.
class Realisations {
public:
    /// Of no points: no value anywhere. @throws Error if the equations can't be solved, Stopped
    Realisations(std::span<const Point3> points, std::span<const Bound> bounds, const SurfaceSettings&, int count,
                 std::uint64_t seed, const Progress& = {});
    ~Realisations();
    Realisations(Realisations&&) noexcept;

    int count() const;
    /// values[i * count() + r] is realisation r's at places[i].
    void evaluate(std::span<const Point2> places, std::span<double> values) const;

private:
    struct Parts;
    std::unique_ptr<const Parts> m_parts;
};

/// The value that a share of the values lies below, 0 to 1; between two of them in proportion. kNoValue of none.
double quantile(std::span<const double> sorted, double share);

} // namespace fox
