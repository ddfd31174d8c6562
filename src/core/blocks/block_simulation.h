#pragma once
#include "blocks/block_model.h"
#include "blocks/value_limits.h"
#include "model/ensemble.h"

#include <random>

namespace fox {

/// A random field in space with a mean of 0 and a given covariance, as a sum of waves in random directions.
/// Method: waves drawn from the spectral density of the covariance (Shinozuka and Jan, "Digital simulation of random processes
/// and its applications", Journal of Sound and Vibration 25, 1972): for an exponential one a t distribution with one degree of
/// freedom, for a gaussian one a normal one, for a spherical one that of a ball convolved with itself. The nugget is not in it:
/// it is different at each place.
class WaveField {
public:
    /// Of the variogram without its nugget; a linear one has no covariance and is taken as spherical over `longest`, metres.
    WaveField(const Variogram&, double longest, std::uint64_t seed, int waves = 300);
    double at(const Point3&) const;

private:
    struct Wave {
        double x, y, z, phase;
    };
    std::vector<Wave> m_waves;
    double m_amplitude = 0;
};

/// Equally likely values of the blocks, all equal to the composites where these lie, with the spread that kriging alone smooths
/// away: kriged values, and to them random fields less what kriging makes of these at the composites. Worked out on normal scores
/// of the composites and brought back through their distribution, so that no value is beyond the least or the most of them.
class BlockSimulation {
public:
    /// Of the blocks that have a value. The composites are those that the model was made from. With BlockSpec::within each unit
    /// is a field of its own; one with a single value has that value in all realisations.
    /// @throws Error for more than kMostSimulated values or without two different composites, Stopped
    BlockSimulation(std::shared_ptr<const BlockModel>, const Composites&, int count, std::uint64_t seed = 1,
                    const Progress& = {});
    static constexpr double kMostSimulated = 2e7; ///< blocks with a value, times `count`

    const std::shared_ptr<const BlockModel>& of() const { return m_model; }
    int count() const { return m_count; }
    /// A block: the share of realisations with a value within limits; kNoValue without a value.
    std::vector<double> probability(const ValueLimits&) const;
    /// Volume of the blocks with values within limits, cubic metres.
    Range volume(const ValueLimits&) const;
    /// A value of a realisation; kNoValue without one.
    double value(std::size_t block, int realisation) const;

private:
    std::shared_ptr<const BlockModel> m_model;
    int m_count;
    std::vector<std::size_t> m_known;  ///< blocks with a value
    std::vector<std::int32_t> m_place; ///< a block: which of those; -1: none
    std::vector<float> m_values;       ///< known block * count + realisation
};

} // namespace fox
