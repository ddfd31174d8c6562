#pragma once
#include "base/grid.h"
#include "model/automatic_base.h"
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

/// One unit's base before the rules of the stack: an automatic one, a fitted surface of values (see BaseInputs) or a fixed one.
struct BaseSurface {
    BaseInputs in;                                  ///< of an automatic one what a kriged one would be made from
    std::shared_ptr<const AutomaticBase> automatic; ///< null: by one method, `fit`
    std::optional<std::size_t> younger;             ///< unit from whose raw base an automatic one may be measured
    FittedSurface fit;                              ///< of the values
    BaseReference reference = BaseReference::Level;
    std::shared_ptr<const FixedBase> fixed;
    int contacts = 0;                    ///< holes that show the base
    int bounds = 0;                      ///< holes that only limit it
    bool absentEverywhere = false;       ///< no hole has the unit: it has no thickness anywhere
    std::vector<CrossValidation> judged; ///< the references that were tried, the chosen one first
    LeaveOneOut leaveOneOut;             ///< of the contacts alone, in levels: modelled - observed, as in.points begins
    std::shared_ptr<const NearestPoints> nearSpeakers, nearPresence; ///< in.speakers; holes that tell whether the unit is there

    /// Levels, and variances and chances that the base lies below the unit's top unless these are empty; chances are those of an
    /// automatic base, kNoValue of others. The doubt of what it is measured from is not in them.
    void evaluate(std::span<const Point2> places, const ReferenceLevels&, std::span<double> levels, std::span<double> variances,
                  std::span<double> chances = {}) const;
    bool isAutomatic() const { return automatic != nullptr; }
    bool measuredFromTop() const { return !fixed && !absentEverywhere && (isAutomatic() || in.ownThickness()); }
    bool measuredFromBase() const { return !fixed && !isAutomatic() && in.fromBase(); }
    NearestWord nearestWord(Point2) const;
    /// Of the unit's own thickness: whether the nearest holes that tell all say that the unit is absent here, see
    /// kAbsentNeighbours. The model and its realisations then have none.
    bool isTakenAsAbsent(Point2) const;
    /// The leave-one-out error of a hole's contact, modelled - observed in metres; none if it gives no contact.
    std::optional<double> leaveOneOutAt(const std::string& hole) const;
};

/// Of several candidates, each with another reference, the one whose left-out thicknesses are nearest to the holes'; with
/// fewer than kFewest validationPoints, too few to judge by that, the one in which the contacts spread least. The first
/// candidate if they tie within kTie. `candidates` must not be empty.
BaseSurface fitBase(const Unit&, const std::vector<BaseInputs>& candidates, const Progress& = {});
/// The average over concepts that `inputs` lead to, with what a kriged base of the candidates would be made from beside it.
BaseSurface fitAutomaticBase(const Unit&, const AutomaticInputs& inputs, const std::vector<BaseInputs>& candidates,
                             const Progress& = {});
/// A base that is given. It may hide where the unit would be.
BaseSurface fixedBase(const Unit&, std::shared_ptr<const FixedBase>, const std::vector<Contact>&);
inline constexpr int kFewest = 5;
inline constexpr double kTie = 0.02; ///< of the error

/// The values that the base's variogram is fitted to; without `squeezed` at their true places, to look at directions.
std::vector<Point3> variogramPoints(const BaseSurface&, bool squeezed = true);

/// The unit is not taken to be there where so many of the nearest holes that tell say that it is not.
inline constexpr std::size_t kAbsentNeighbours = 3;

} // namespace fox
