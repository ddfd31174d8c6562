#pragma once
#include "base/point.h"

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace fox {

enum class VariogramModel { Linear, Spherical, Exponential, Gaussian }; // the simplest first
const char* name(VariogramModel);                                       ///< "spherical"
std::optional<VariogramModel> variogramModel(std::string_view name);

/// Half the mean squared difference of values a distance apart. gamma(0) = 0; beyond it,
/// nugget + partialSill * g(h / range), with g(t) = t (linear, no sill), 1.5 t - 0.5 t^3 up to 1 (spherical),
/// 1 - exp(-3 t) (exponential), 1 - exp(-3 t^2) (gaussian): `range` is the practical range, in metres.
struct Variogram {
    VariogramModel model = VariogramModel::Spherical;
    double nugget = 0, partialSill = 1; ///< square metres
    double range = 1;                   ///< metres, > 0
    double at(double distance) const;
    bool operator==(const Variogram&) const = default;
};

/// Reads "spherical,0.1,2,250": model, nugget, partial sill, range. None if it is not of this form, if the nugget or sill is
/// negative or both are 0, or if the range is not over 0.
std::optional<Variogram> variogramFrom(std::string_view);
std::string written(const Variogram&); ///< in the same form

/// The points' values less the plane that fits them best; as they are if they lie on one line or are under four.
std::vector<Point3> lessPlane(std::span<const Point3>);

/// One lag of the empirical variogram (Matheron's estimator).
struct VariogramLag {
    double distance = 0; ///< mean of the pairs', metres
    double gamma = 0;    ///< square metres
    int pairs = 0;
    bool operator==(const VariogramLag&) const = default;
};

/// Only pairs whose direction is within `tolerance` of the azimuth count.
struct DirectionSector {
    double azimuth = 0;    ///< degrees clockwise from north; a direction and its opposite are one
    double tolerance = 90; ///< degrees to either side, up to 90: all
    bool operator==(const DirectionSector&) const = default;
};

/// Lags of equal width up to half the largest distance. Over 2,000 points, evenly taken 2,000 of them.
inline constexpr int kLags = 12;
std::vector<VariogramLag> empiricalVariogram(std::span<const Point3>, int lags = kLags, const DirectionSector& = {});

enum class NuggetFit { Free, Zero };

/// From kManyPoints on: least squares weighted by pairs / distance^2 (near lags decide), nugget and sill not negative, each
/// model; of these the one by which kriging tells left-out points best, the simplest of those within 2 % of it. A gaussian one
/// only with a nugget: without it surfaces overshoot between points. For fewer points likelyVariogram(). Fewer than three lags:
/// spherical, the sill the values' variance, at least that of a centimetre, and 1 for a single one; range `fallbackRange`.
Variogram fitVariogram(std::span<const Point3>, NuggetFit, double fallbackRange);

/// The spherical or exponential model that fits lags best, by least squares weighted by pairs / distance^2; `otherwise` if there
/// are under three, or all are 0.
Variogram variogramOfLags(const std::vector<VariogramLag>&, NuggetFit, const Variogram& otherwise);

/// One model for two directions: nugget and sill in common, a range in each (geometric anisotropy).
struct TwoRanges {
    Variogram variogram; ///< of the first direction
    double ratio = 1;    ///< the first direction's range over the second's, 0.1 to 1,000
};
/// The spherical or exponential model that fits the lags of both best. Each direction counts as much as the other, near lags more
/// than far ones. None if one of them has under three lags, or if nothing varies.
std::optional<TwoRanges> variogramOfDirections(const std::vector<VariogramLag>& first, const std::vector<VariogramLag>& second,
                                               NuggetFit);

inline constexpr std::size_t kManyPoints = 30;

/// Restricted maximum likelihood (Patterson and Thompson 1971) with priors, spherical or exponential: ln of the range about ln of
/// 5 usual distances between points with a deviation of 0.8, small nuggets more likely. Pairs of so few points fill no lags that
/// a line could be drawn through. Requires two points that differ in place and in value.
Variogram likelyVariogram(std::span<const Point3>, NuggetFit);

/// One variogram for several sets of values, such as the bases of a series: only pairs within a set count, and each set has a
/// mean of its own. By likelihood for fewer than kManyPoints points in all, else by least squares of the lags. None if no set has
/// two points that differ in place and in value, or too few lags are filled.
std::optional<Variogram> sharedVariogram(std::span<const std::vector<Point3>>, NuggetFit);

} // namespace fox
