#pragma once
#include "ground/area.h"
#include "model/model.h"
#include "surfaces/realisations.h"

namespace fox {

struct EnsembleSettings {
    int count = 100;
    std::uint64_t seed = 1;
    bool operator==(const EnsembleSettings&) const = default;
};

/// P10, P50 and P90: that a tenth, a half, nine tenths of the realisations lie below.
struct Range {
    double p10 = kNoValue, p50 = kNoValue, p90 = kNoValue;
    bool contains(double v) const { return !(v < p10 || v > p90); } ///< from P10 to P90; true if there is no range
};
/// That a model's own volume (cubic metres) of a unit lies outside the range of its realisations; none if it lies in it.
std::optional<Finding> outsideRange(const std::string& unitCode, double volume, const Range&);
Range rangeOf(std::vector<double> values); ///< of those that are values

/// What many equally likely models have in common.
struct Ensemble {
    int count = 0;
    struct UnitRange {
        Grid chance;                    ///< that the unit is there, 0 to 1
        Grid base10, base50, base90;    ///< levels after the rules
        Grid thick10, thick50, thick90; ///< metres
        std::vector<double> volumes;    ///< cubic metres, a realisation
        bool simulated = true;          ///< false: the base is fixed, the same in all
        bool byOrdinaryKriging = false; ///< the unit's own method has no variogram
    };
    std::vector<UnitRange> units;      ///< all but the oldest
    std::vector<double> oldestVolumes; ///< a realisation; only of those above a surface, or where it has a floor
};

/// Realisations of every base, put under the rules of the stack one by one, at the cells of `ground`, within `area` for
/// volumes. A base made by a method without a variogram takes part as ordinary kriging of the same contacts. Where thickness
/// decides presence, a hole without the unit is a bound at 0 here, not an assumed value. Faults part wholly here, also beyond
/// their ends. A unit counts as there over 0.05 m. With `above`, on the ground's frame, only what lies above it has volume;
/// cells where it has no value have none.
Ensemble simulate(const Model&, const Grid& ground, const EnsembleSettings&, const Area& area = {}, const Progress& = {},
                  const Grid* above = nullptr);

/// The realisations themselves, at any places. The model must outlive them.
class ModelRealisations {
public:
    ModelRealisations(const Model&, const EnsembleSettings&, const Progress& = {});
    int count() const;
    /// bases[unit][place * count() + realisation] after the rules; `ground` has the levels at the places.
    std::vector<std::vector<double>> basesAt(std::span<const Point2>, std::span<const double> ground) const;

private:
    struct Parts;
    std::shared_ptr<const Parts> m_parts;
};

/// The levels of all bases at one place, a vector a unit with a value a realisation, after the rules.
std::vector<std::vector<double>> simulateAt(const Model&, Point2, const EnsembleSettings&);

} // namespace fox
