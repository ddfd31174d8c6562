#pragma once
#include "base/point.h"
#include "base/progress.h"

#include <cstdint>
#include <memory>
#include <span>
#include <vector>

namespace fox {

/// Places as a field sees them: coordinates in metres, two or more of them (a fault adds one, so that what it parts lies far
/// apart), and at each place the values of the drift's terms.
struct FieldPlaces {
    std::size_t dimensions = 2, terms = 0;
    std::vector<double> coordinates; ///< place by place
    std::vector<double> drift;       ///< place by place
    std::size_t size() const { return coordinates.size() / dimensions; }
};

/// What is known of a field's value at a place: equal, the value itself; infinite, no limit on that side.
struct FieldLimits {
    double low = 0, high = 0;
    bool known() const { return low == high; }
};

struct FieldSettings {
    double spacing = 1;                 ///< metres; the usual distance between holes
    std::vector<double> termDeviations; ///< prior standard deviation of each drift coefficient
    double typicalRange = 2.718281828;  ///< of the prior, in spacings; ln has a deviation of 0.7
    /// Standard deviations that are tried, metres; their ln has a mean of ln 1.5 and a deviation of 1 before the data speak.
    double leastDeviation = 0.15, mostDeviation = 12;
    int deviations = 12;
    double fineDeviation = 0.05; ///< of the finest variation, in place of a nugget, metres
    /// Of each datum, metres: standard deviation of what is known of it, a nugget that the field does not share. Empty: none.
    std::vector<double> accuracies;
    std::uint64_t seed = 1;
};

/// A Gaussian field with drift, known at some places and limited at others.
/// Covariance: the drift's terms with normal coefficients + s^2 m(h/a) + fine^2 m(4h/spacing), m the Matern covariance of
/// smoothness 3/2, (1 + sqrt(3) h) exp(-sqrt(3) h) (Rasmussen and Williams 2006, ch. 4). Range a and deviation s have the
/// largest posterior on a grid, first by the known values, then twice by all with limited ones drawn; limited values are drawn
/// by Gibbs sampling of truncated normals (Geweke 1991), kDraws states of the whole. Same seed, same field, any thread count.
class GaussianField {
public:
    /// @throws Error if the equations can't be solved, Stopped
    GaussianField(const FieldPlaces&, std::span<const FieldLimits>, const FieldSettings&, const Progress& = {});
    static constexpr int kDraws = 30;
    /// The same field with other values and limits at the same places: range, deviation, score and the draws of limited values
    /// are held, these moved into their limits. For what changes while somebody watches; a thousandth of the work.
    /// Requires as many limits as before, known where they were known.
    GaussianField withLimits(std::span<const FieldLimits>) const;

    double range() const;     ///< a, metres
    double deviation() const; ///< s
    /// Sum of ln of the density that the others give each known value, or of the probability of what a limit says. Over draws
    /// the harmonic mean, since these have seen the value, with the largest weights truncated (Ionides 2008).
    double score() const;
    /// What the others give for each datum, from the same factorisation (Dubrule 1983).
    std::span<const double> leftOut() const;

    /// Means and variances, and the chances that the value is over thresholds[i] unless these are empty.
    void evaluate(const FieldPlaces&, std::span<double> means, std::span<double> variances,
                  std::span<const double> thresholds = {}, std::span<double> chances = {}) const;

private:
    friend class FieldRealisations;
    struct Parts;
    explicit GaussianField(std::shared_ptr<const Parts> parts) : m_parts(std::move(parts)) {}
    std::shared_ptr<const Parts> m_parts;
};

/// Equally likely fields given the same data. Range and deviation are drawn from their posterior, limited values from their
/// Gibbs states, each field as a sum of waves whose lengths follow the covariance's spectrum (a multivariate t distribution with
/// three degrees of freedom), corrected to the data by kriging (Journel 1974).
class FieldRealisations {
public:
    FieldRealisations(const GaussianField&, int count, std::uint64_t seed, const Progress& = {});
    int count() const;
    /// values[i * count() + r] is realisation r's at place i.
    void evaluate(const FieldPlaces&, std::span<double> values) const;

private:
    struct Parts;
    std::shared_ptr<const Parts> m_parts;
};

double normalShare(double deviations);   ///< below a standard normal variable's value
double normalDensityOverShare(double x); ///< density over share, for the mean of what is cut off

} // namespace fox
