#pragma once
#include "model/ground_shape.h"
#include "sequence/contacts.h"
#include "surfaces/plane.h"

#include <functional>

namespace fox {

/// Who says something of a base.
struct DataPoint {
    enum class Kind { Contact, Bound, Guide };
    Point2 place;
    std::string hole; ///< or the file and line of a contact point; empty for guides
    Kind kind = Kind::Contact;
    bool operator==(const DataPoint&) const = default;
};

/// One hole by which a way to make a base is judged: it is left out, and the unit's thickness there told from the others.
struct ValidationPoint {
    std::size_t index = 0; ///< of points, or of bounds
    bool isBound = false;
    double thickness = 0; ///< of the unit in the hole, metres; 0 where it is absent
    bool operator==(const ValidationPoint&) const = default;
};

/// What one base is fitted to, in values v of its reference: Level v = z, Plane v = z - plane, Depth v = smoothed ground - z,
/// Thickness v = top - z (of the unit), or v = other base - z, Trend v = z - share * (smoothed ground, or other base).
struct BaseInputs {
    BaseReference reference = BaseReference::Level;
    std::vector<Point3> points; ///< contacts, then guides, then assumed
    std::size_t contacts = 0, guides = 0;
    /// Of the unit's own thickness: holes without the unit count as having minus the thickness of the holes with it about
    /// them, so that the unit ends halfway to the first hole without it and does not come back beyond.
    std::size_t assumed = 0;
    std::vector<Bound> bounds;
    std::vector<DataPoint> speakers;
    std::vector<ValidationPoint> validationPoints;
    std::vector<Fault> faults;
    std::optional<Plane> plane;
    std::string against;
    std::shared_ptr<const GroundShape> shape; ///< of the smoothed ground; null: the ground as it is
    double share = 0;                         ///< of Trend, by least squares; 0 with too few contacts to fit it
    std::vector<std::string> outside;         ///< holes that have no value because what it is measured from has no level there
    bool absentEverywhere = false;            ///< no hole has the unit, and some hole says so
    /// Values of the other bases of its series, a set a base; the variogram is fitted to these too.
    std::vector<std::vector<Point3>> series;
    bool operator==(const BaseInputs&) const = default;

    bool ownThickness() const { return reference == BaseReference::Thickness && against.empty(); }
    bool fromBase() const {
        return (reference == BaseReference::Thickness || reference == BaseReference::Trend) && !against.empty();
    }
    /// Level of a value at a place; `from` is the level that it is measured from.
    double levelOf(double value, Point2 place, double from) const;
};

/// Levels that values can be measured from, kNoValue where they are not known.
struct MeasuredFrom {
    std::function<double(Point2)> ground;
    std::shared_ptr<const GroundShape> shape; ///< null: there is no ground to be smoothed
    std::function<double(Point2)> top;        ///< of the unit: the lowest base over it; empty if it can't be known yet
    std::function<double(Point2)> against;    ///< another base; empty if the recipe names none
    bool againstIsOlder = false;
};

/// Contacts are raw ones, see rawContactsOf().
BaseInputs inputsOf(BaseReference, const Unit&, const std::vector<Contact>&, const std::vector<Guide>&, const std::vector<Fault>&,
                    const MeasuredFrom&);

} // namespace fox
