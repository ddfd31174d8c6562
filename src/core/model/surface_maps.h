#pragma once
#include "model/model.h"

namespace fox {

/// What a map of one unit's base shows.
enum class SurfaceValue {
    Level,       ///< of the base, after the rules, metres
    Thickness,   ///< of the unit, metres
    Depth,       ///< of the base below ground, metres
    Uncertainty, ///< standard deviation of the base, metres
    Chance,      ///< that the unit is there, 0 to 1
    Distance,    ///< to the nearest hole that speaks of the base, metres
    Top,         ///< level of the unit's top, metres
};
const char* words(SurfaceValue); ///< "level of the base"

struct SurfaceMap {
    Grid values;
    /// Confidence in the base at each cell, 1 at a hole that speaks, towards 0 far from all: by its standard deviation against
    /// that far from all holes; by the distance, against a typical one between holes, for methods that have none.
    Grid confidence;
    Grid presence; ///< probability that the unit is there
};
/// The usual distance from a data point of the base to the nearest other, metres.
double typicalSpacing(const BaseSurface&);

/// Evaluated at the frame's cell centres. Where the unit is absent Level, Thickness, Depth and Top have no value.
SurfaceMap mapOf(const Model&, std::size_t unit, SurfaceValue, const Frame&, const Progress& = {});
/// Levels of the base alone, as mapOf has them: many times as fast, as no deviations are worked out.
Grid levelsOf(const Model&, std::size_t unit, const Frame&, const Progress& = {});

/// What is known of a unit's base at a place: "base of Till 27.4 m, ± 1.1 m; nearest hole BH07, 84 m".
/// Empty for the oldest unit and where there is no base.
std::string baseInWords(const Model&, std::size_t unit, Point2);

/// What the unit's base, before the rules, does across a fault, every `step` metres along its trace.
std::vector<FaultThrow> throwOf(const Model&, std::size_t unit, const Fault&, double step);

/// The model with another base in one unit's place.
Model withBase(Model, std::size_t unit, BaseSurface);

/// One method's word on the same contacts.
struct MethodResult {
    BaseMethod method;
    BaseSurface base;
    std::string worstHole; ///< of the leave-one-out errors; empty if there is none
    double worst = kNoValue, milliseconds = 0;
    int rankedOn = 0;            ///< holes at which every method that is ranked gives a value
    double rankError = kNoValue; ///< root-mean-square leave-one-out error at those, metres; none: it is not ranked
};
/// The unit's base by every method, all else in its recipe as it is, the simplest method first, the automatic one last if
/// `average` says what it would be made from. The others are made from the same reference, that of `now`. They are ranked at the
/// same holes: those at which all of them give a value. A method that gives one at fewer than half of the contacts is not ranked,
/// and does not narrow the comparison of the others.
std::vector<MethodResult> compareMethods(const Unit&, const BaseSurface& now, const AutomaticInputs* average,
                                         const Progress& = {});
/// Index of the smallest rankError; of those within kTie of it the simplest. None if no method has one.
std::optional<std::size_t> bestOf(const std::vector<MethodResult>&);

} // namespace fox
