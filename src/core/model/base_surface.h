#pragma once
#include "base/grid.h"
#include "model/base_inputs.h"

namespace fox {

class NearestPoints;

/// A base that is not made from the holes: kept as it was, or brought in as a grid.
struct FixedBase {
    enum class Origin { Frozen, Imported };
    Origin origin = Origin::Frozen;
    std::string from; ///< "2026-11-25", or the file's name
    std::shared_ptr<const Grid> levels;
    bool operator==(const FixedBase&) const;
};

/// How well one way to make a base tells what left-out holes have.
struct CrossValidation {
    BaseReference reference = BaseReference::Level;
    int validationPoints = 0;
    double error = kNoValue; ///< root-mean-square error of the unit's thickness, metres; 0 counts where it is absent
    int presenceWrong = 0;   ///< of the validationPoints
};

/// Where the nearest word about a base comes from.
struct NearestWord {
    double distance = kNoValue; ///< metres
    std::string hole;           ///< empty for a guide
};

/// One unit's base before the rules of the stack: a fitted surface of values (see BaseInputs) or a fixed one.
struct BaseSurface {
    BaseInputs in;
    FittedSurface fit; ///< of the values
    BaseReference reference = BaseReference::Level;
    std::shared_ptr<const FixedBase> fixed;
    int contacts = 0;                    ///< holes that show the base
    int bounds = 0;                      ///< holes that only limit it
    bool absentEverywhere = false;       ///< no hole has the unit: it has no thickness anywhere
    std::vector<CrossValidation> judged; ///< the references that were tried, the chosen one first
    LeaveOneOut leaveOneOut;             ///< of the contacts alone, in levels: modelled - observed, as in.points begins
    std::shared_ptr<const NearestPoints> nearSpeakers, nearPresence; ///< in.speakers; holes that tell whether the unit is there

    /// Levels, and variances unless that span is empty. `from` are the levels at the places that values are measured from:
    /// the ground's, the unit's top's or another base's; their own variance is not in it.
    void evaluate(std::span<const Point2> places, std::span<const double> from, std::span<double> levels,
                  std::span<double> variances) const;
    bool measuredFromTop() const { return !fixed && !absentEverywhere && in.ownThickness(); }
    bool measuredFromBase() const { return !fixed && reference == BaseReference::Thickness && !in.against.empty(); }
    NearestWord nearestWord(Point2) const;
    /// The leave-one-out error of a hole's contact, modelled - observed in metres; none if it gives no contact.
    std::optional<double> leaveOneOutAt(const std::string& hole) const;
};

/// Of several candidates, each with another reference, the one whose left-out thicknesses are nearest to the holes'; with
/// fewer than kFewest validationPoints, too few to judge by that, the one in which the contacts spread least. The first
/// candidate if they tie within kTie. `candidates` must not be empty.
BaseSurface fitBase(const Unit&, const std::vector<BaseInputs>& candidates, const Progress& = {});
/// A base that is given. It may hide where the unit would be.
BaseSurface fixedBase(const Unit&, std::shared_ptr<const FixedBase>, const std::vector<Contact>&);
inline constexpr int kFewest = 5;
inline constexpr double kTie = 0.02; ///< of the error

/// The values that the base's variogram is fitted to; without `squeezed` at their true places, to look at directions.
std::vector<Point3> variogramPoints(const BaseSurface&, bool squeezed = true);

/// The unit is not taken to be there where so many of the nearest holes that tell say that it is not.
inline constexpr std::size_t kAbsentNeighbours = 3;

} // namespace fox
