#pragma once
#include "model/ground_shape.h"
#include "surfaces/faults.h"
#include "surfaces/gaussian_field.h"

namespace fox {

/// Levels at places that a base may be measured from; a span is empty where nothing is measured from it.
struct ReferenceLevels {
    std::span<const double> from;    ///< of a base by one method: what its values are measured from
    std::span<const double> top;     ///< the lowest of the ground and the raw bases of all younger units
    std::span<const double> younger; ///< the raw base of the next younger unit that is anywhere; empty if there is none
};

/// Ways to think of a base, of which the automatic one is an average.
enum class BaseConcept {
    Level,             ///< levels about a plane
    Depth,             ///< depth below the smoothed ground
    UnderYounger,      ///< distance below the next younger base
    UnderTop,          ///< thickness, by how high the ground stands over the low ground around
    PresenceDepth,     ///< where the unit is by what the ground tells, and how deep its base is there
    PresenceThickness, ///< the same with its thickness
};
const char* name(BaseConcept);  ///< for files: "under-younger"
const char* words(BaseConcept); ///< "distance below the next younger base"

/// What an automatic base is made from. Equal inputs make equal bases.
struct AutomaticInputs {
    struct Datum {
        Point2 place;
        double low = 0, high = 0; ///< levels that the base lies between; equal: the base itself; infinite: no limit
        double top = kNoValue, younger = kNoValue; ///< levels there
        double accuracy = 0;                       ///< standard deviation of a known level, metres; 0: the base goes through it
        bool hereOnly = false;                     ///< limits that say nothing of the ground around
        bool operator==(const Datum&) const;       ///< kNoValue equals itself
    };
    std::vector<Datum> data;
    std::vector<std::size_t> contacts; ///< for each contact of the unit, the datum that it is in
    std::vector<BaseConcept> concepts; ///< those that can be thought of here
    std::vector<Fault> faults;
    Anisotropy anisotropy;
    std::shared_ptr<const GroundShape> shape; ///< null if there is no ground
    Box2 extent;
    double spacing = 1;                 ///< usual distance between holes, metres
    bool underLapping = false;          ///< the next younger unit laps
    std::optional<std::size_t> younger; ///< the unit of whose raw base Datum::younger are levels
    bool operator==(const AutomaticInputs&) const = default;
};

/// A base before the rules as an average over concepts, each a Gaussian field (see GaussianField) fitted to contacts and limits,
/// weighted by exp(0.3 S), S the sum of ln of its left-out densities (averaging of models: Hoeting and others 1999).
/// Where the chance that the base lies below the unit's top is over a half, it is the mean of the base given that; elsewhere
/// the unit is not there and its base at or above the top. Under a unit that laps it is the plain mean.
class AutomaticBase {
public:
    /// One concept with its weight in the average.
    struct Part {
        BaseConcept kind = BaseConcept::Level;
        double weight = 0;
        double range = 0, deviation = 0; ///< metres, of the field
    };
    /// @throws Error if no concept can be fitted, Stopped
    explicit AutomaticBase(AutomaticInputs, const Progress& = {});
    /// This base with other levels at the same places, weights, ranges and drawn limits held (see GaussianField::withLimits):
    /// for showing while a contact is dragged. None if more than levels differs; then it has to be fitted again.
    std::optional<AutomaticBase> held(const AutomaticInputs&) const;

    const AutomaticInputs& inputs() const;
    std::vector<Part> parts() const; ///< the heaviest first
    /// Levels, their variances, and chances that the base lies below the top; the latter two may be empty.
    void evaluate(std::span<const Point2>, const ReferenceLevels&, std::span<double> levels, std::span<double> variances,
                  std::span<double> chances) const;
    /// What the other data give for each contact, less its own level, metres.
    std::vector<double> leaveOneOut() const;
    double farDeviation() const; ///< standard deviation where nothing is near, metres
    std::size_t bytes() const;

private:
    friend class AutomaticRealisations;
    struct Fitted;
    explicit AutomaticBase(std::shared_ptr<const Fitted> fitted) : m_fitted(std::move(fitted)) {}
    std::shared_ptr<const Fitted> m_fitted;
};

/// Equally likely bases before the rules, from the same concepts, weights and data.
class AutomaticRealisations {
public:
    AutomaticRealisations(const AutomaticBase&, int count, std::uint64_t seed, const Progress& = {});
    /// levels[i * count + r]; the references are laid out the same way.
    void evaluate(std::span<const Point2>, const ReferenceLevels&, std::span<double> levels) const;

private:
    struct Parts;
    std::shared_ptr<const Parts> m_parts;
};

} // namespace fox
