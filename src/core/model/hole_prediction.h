#pragma once
#include "model/model.h"

namespace fox {

/// What a model that does not know a hole says of a unit there, and what the hole found.
struct HolePrediction {
    std::string hole;
    std::size_t unit = 0;
    bool isPresent = false;        ///< the hole found the unit
    double found = kNoValue;       ///< level of its base, metres; kNoValue where it is absent or its base was not reached
    double predicted = kNoValue;   ///< level of its base, metres
    double deviation = kNoValue;   ///< its standard deviation, metres
    double probability = kNoValue; ///< of the unit's presence
    double error() const { return predicted - found; } ///< metres; kNoValue where nothing was found
};

/// Of the contacts of these holes, those that tell whether a unit is there; by hole and unit.
std::vector<HolePrediction> predictionsOf(const Model& withoutThem, const std::vector<std::vector<Contact>>& contacts,
                                          const std::vector<std::string>& holes);

/// How good predictions were.
struct PredictionSummary {
    int bases = 0;                           ///< that were found
    double bias = kNoValue, rmse = kNoValue; ///< metres, of predicted - found
    double within = kNoValue;                ///< share of the bases within 1.28 deviations: 0.8 if these are right
    int presences = 0, presenceRight = 0;    ///< probability over a half where it is there, and not over it where it is not
};
PredictionSummary summaryOf(std::span<const HolePrediction>);
/// hole, unit, found, predicted, sd, error, probability, present
std::string predictionsCsv(std::span<const HolePrediction>, const Sequence&);

} // namespace fox
