#pragma once
#include "base/shared_list.h"
#include "formats/table.h"
#include "formats/vector.h"
#include "sequence/contacts.h"

namespace fox {

/// A contact that no log gives: from an old map, a seismic line, an outcrop, somebody's interpreted section, or a list of
/// depths in holes.
struct ContactPoint {
    std::string unit;      ///< as its file calls it: a unit's code or name, or another spelling of it
    Point3 place;          ///< of no meaning if `hole` is set
    std::string hole = {}; ///< id or name of the hole that it was found in; empty: it is a position in space
    Depth depth = {};      ///< in that hole
    int line = 0;          ///< of its file; of a layer, the number of the feature
    int trace = -1;        ///< points that are joined by a line share a number; -1: none
    bool excluded = false; ///< from surfaces
    bool operator==(const ContactPoint&) const = default;
};

/// What the points of a file lie on.
enum class ContactSurface { Base, Top };
const char* words(ContactSurface); ///< "base", "top"
std::optional<ContactSurface> contactSurface(std::string_view);

/// The contact points of one file.
struct ContactSource {
    std::string file;
    ContactSurface surface = ContactSurface::Base;
    SharedList<ContactPoint> points;
    bool used = true;
    double accuracy = 0; ///< metres: standard deviation of their levels; 0: surfaces go through them
    bool operator==(const ContactSource&) const = default;
};

/// Which columns of a table hold what, by name in any case: those of a survey; unit, stratum, formation, layer, or a code
/// where there is none of them; hole and depth.
struct ContactColumns {
    std::optional<std::size_t> easting, northing, level, unit, hole, depth;
    std::optional<double> depthUnit = {}; ///< metres in a unit of depth, where the heading names it
    bool inSpace() const { return easting && northing && level; }
    bool inHoles() const { return hole && depth; }
    bool complete() const { return unit && (inSpace() || inHoles()); }
};
ContactColumns contactColumns(const Table&);
/// Whether a column is named after what only contacts have: "unit", "stratum", "formation".
bool namesUnits(const Table&);

/// Orders of columns that are usual for contacts, for tables of so many columns, by the names that contactColumns() knows.
std::vector<std::vector<std::string>> usualContactOrders(std::size_t columns);

struct ContactRows {
    std::vector<ContactPoint> points;
    Findings findings; ///< rows that could not be read, with their lines
};
/// Rows without a number where one is needed, or without a unit, are errors and left out; the rest is read.
/// @throws FileError naming the columns that are not there
ContactRows contactPointsOf(const Table&);

/// Points, and vertices of lines, of all layers, with the unit in an attribute and levels from the geometry or, if it is
/// named, another attribute. Places without a unit or a level are errors and left out.
/// @throws FileError if no layer has the attribute
ContactRows contactPointsOf(const std::vector<FeatureLayer>&, const std::string& unitField, const std::string& levelField,
                            const std::string& file);
/// The attribute that is most like a unit's name: called unit, stratum, strata or formation; empty: none.
std::string proposedUnitField(const std::vector<FeatureLayer>&);

/// The unit that a file means: by its code, an alias of the sequence, or its name in any case.
std::optional<std::size_t> unitWritten(const Sequence&, const std::string& written);

/// Contact points as contacts: of the base of their unit or, for points on a top, of the unit before it in the sequence.
struct PlacedContacts {
    std::vector<std::vector<Contact>> ofUnits; ///< of each unit but the oldest
    Findings findings; ///< points whose unit the sequence has not, whose hole is not there, on the ground or under everything
};
/// A unit is found by unitWritten().
PlacedContacts placedContacts(const std::vector<ContactSource>&, const Holes&, const Sequence&);

} // namespace fox
