#pragma once
#include "base/finding.h"
#include "base/grid.h"
#include "base/progress.h"
#include "surfaces/variogram.h"

#include <memory>

namespace fox {

enum class Method {
    Nearest,
    Linear,
    InverseDistance,
    NaturalNeighbour,
    ThinPlate,
    Kriging,
    UniversalKriging
}; // the simplest first
std::span<const Method> allMethods();
const char* name(Method);  ///< as the headless tool has it: "inverse-distance"
const char* words(Method); ///< "Ordinary kriging"
std::optional<Method> methodNamed(std::string_view);
/// "nearest, linear, inverse-distance, ..."
std::string methodNames();
/// Ordinary and universal kriging: they have a variogram, and so a variance.
bool hasVariogram(Method);

/// Geometric: distances across the long axis count `ratio` times. Defaults to none.
struct Anisotropy {
    double azimuth = 0; ///< of the long axis, degrees clockwise from north
    double ratio = 1;   ///< long / short, >= 1
    bool operator==(const Anisotropy&) const = default;
};

struct SurfaceSettings {
    Method method = Method::Kriging;
    double power = 2;                   ///< inverse distance
    int neighbours = 0;                 ///< 0: all; kriging and thin plate of over kMostAtOnce points: kNeighbourhood
    std::optional<double> radius;       ///< metres along the long axis; points farther off do not count
    std::optional<double> reach;        ///< metres; no value farther than this from all points and bounds
    bool carriedOn = false;             ///< linear and natural neighbour: outside the hull, the value at its nearest place
    std::optional<Variogram> variogram; ///< none: fitted
    NuggetFit nugget = NuggetFit::Free; ///< if fitted
    Anisotropy anisotropy;
    bool operator==(const SurfaceSettings&) const = default;
};
inline constexpr int kMostAtOnce = 2000;
inline constexpr int kNeighbourhood = 32;

/// A value for every place, or none.
class Surface {
public:
    virtual ~Surface() = default;
    /// values[i], and variances[i] unless that span is empty, for places[i]; kNoValue where there is none.
    virtual void evaluate(std::span<const Point2> places, std::span<double> values, std::span<double> variances) const = 0;
    virtual bool hasVariance() const { return false; }
    double at(Point2) const;
};

enum class Side { Upper, Lower };
/// The surface stays at or below (upper) or at or above (lower) `place.z` at this place.
struct Bound {
    Point3 place;
    Side side = Side::Upper;
    std::string name; ///< what findings call it
    bool operator==(const Bound&) const = default;
};

/// Each point predicted from all the others, the variogram and the bounds that hold kept as they are.
struct LeaveOneOut {
    int n = 0;                                               ///< points that the others give a value for
    double rmse = kNoValue, mae = kNoValue, bias = kNoValue; ///< metres; bias is mean(predicted - observed)
    std::vector<double> residuals;                           ///< predicted - observed, a point; kNoValue where there is none
    void summarise();                                        ///< all else from the residuals
};

struct FittedSurface {
    std::shared_ptr<const Surface> surface;
    SurfaceSettings settings;          ///< with the variogram used
    int points = 0;                    ///< given
    int merged = 0;                    ///< removed by merging points within a millimetre to their mean
    std::vector<Point3> data;          ///< after merging
    LeaveOneOut leaveOneOut;           ///< of data
    std::vector<Bound> bounds;         ///< without those that others make needless and those left out
    std::vector<std::size_t> active;   ///< which of them the surface lies on
    std::vector<double> activeLeftOut; ///< what all the others give at the place of each of those
    int upperBounds = 0, lowerBounds = 0;
    int activeBounds = 0;   ///< that the surface lies on
    int brokenBounds = 0;   ///< beyond kBoundSlack, afterwards
    double regularised = 0; ///< nugget that the equations needed, in parts of the sill
    Findings findings;      ///< bounds that contradict data or one another; they are the ones left out
};
inline constexpr double kBoundSlack = 1e-6; ///< metres

/// Fits a surface that honours the points exactly and keeps the bounds.
/// Bounds: an active set. Kriging and thin plate of all points end at the solution of the convex quadratic programme,
/// the smoothest surface in the method's own norm that keeps every bound (see active_set.h); the others, and kriging by
/// neighbourhoods, take the worst broken bound as a datum until none is broken. Nearest keeps no bounds.
/// No points: a surface without values. One point: its value everywhere. Two, or points on one line: the methods of
/// triangles have no value, universal kriging and thin plate a slope along the line and none across it. Over kMostAtOnce
/// points, kriging and thin plate are by neighbourhoods.
FittedSurface fitSurface(std::span<const Point3> points, std::span<const Bound> bounds, const SurfaceSettings&,
                         const Progress& = {});

/// What a variogram is fitted to: places squeezed by the anisotropy, values for universal kriging less their plane.
std::vector<Point3> variogramPoints(std::span<const Point3>, const SurfaceSettings&);
/// The variogram that fitSurface fits where none is given, to some of the points only: those that were not drawn by hand.
Variogram fittedVariogram(std::span<const Point3> samples, std::span<const Point3> points, std::span<const Bound>,
                          const SurfaceSettings&);

/// One value a cell, and variances if `variance` is given. On all allowed threads.
Grid sample(const Surface&, const Frame&, Grid* variance = nullptr, const Progress& = {});

} // namespace fox
