#pragma once
#include "holes/path.h"
#include "sequence/interpretation.h"
#include "sequence/unit.h"

namespace fox {

/// What a hole says of a unit's base.
enum class ContactKind {
    Observed,   ///< something older lies below: the base is at this point
    NotReached, ///< the hole stops in the unit: at or below this point
    Absent,     ///< an older unit lies where this one would be: at or above this point
    TooShort,   ///< the hole stops in something younger: at or below this point, a weak bound
    Gap,        ///< unread ground lies below the unit: at or below this point, at or above `lowest`
};
const char* words(ContactKind); ///< "observed", "base not reached"

struct Contact {
    std::string hole; ///< display name; empty for a contact point in space
    ContactKind kind = ContactKind::Observed;
    Point3 place;                                ///< along the hole's path
    std::optional<Point3> lowest = std::nullopt; ///< Gap only
    bool byHand = false;                         ///< the geologist said so, see ContactChoice
    /// Of TooShort: the unit in which the hole stops, by its place in the sequence.
    std::size_t endsIn = 0;
    bool atSurface = false; ///< of Absent: the log begins here at the surface, so that the ground itself is the bound
    std::string file = {};  ///< of a contact point, see ContactSource
    int line = 0;           ///< in that file
    int trace = -1;         ///< of a contact point, see ContactPoint
    double accuracy = 0;    ///< of a contact point, see ContactSource; metres
    /// Of Absent: the hole stops in a code that stands for this unit too. It is read as the older one, and says nothing of the
    /// ground around.
    bool undecided = false;
    bool operator==(const Contact&) const = default;
    /// Who says so: "BH01", or "tops.csv, line 12".
    std::string source() const;
    bool isPoint() const { return hole.empty(); } ///< in no hole
    /// It is joined to the contact before it by a line.
    bool follows(const Contact& before) const { return trace >= 0 && trace == before.trace && file == before.file; }
};

/// Metres: depths that differ by less are one. They are logged to the centimetre.
inline constexpr double kTouch = 0.005;

/// A logged interval with the unit that it is understood to be.
struct InterpretedInterval {
    std::size_t unit; ///< in the sequence
    Depth top, base;
    bool returned = false; ///< a younger unit under an older one: named in a finding, not used
    bool byHand = false;   ///< the geologist said which unit it is
    bool several = false;  ///< its code could be another unit too
    /// The youngest that it could be, in the sequence; in a hole's last interval only if that one is as thick elsewhere.
    std::size_t youngest = 0;
    /// Whether it could be a younger unit than the one that it is read as.
    bool couldBe(std::size_t u) const { return several && !byHand && u >= youngest && u < unit; }
};

/// How one hole is read against the sequence: usable intervals that have a unit.
struct InterpretedHole {
    std::string name;
    const Hole* hole = nullptr;
    std::vector<InterpretedInterval> intervals; ///< by depth; neighbours of one unit are joined
    std::vector<Interval> parts;                ///< of the log where an interval is split; empty: it is as logged
    double loggedLength = 0;                    ///< metres of usable intervals, read or not
    std::size_t index = 0;                      ///< of the hole in the list that was read
    /// The log, split where the geologist parted it; each part has the words, codes and line of its interval.
    const std::vector<Interval>& logged() const { return parts.empty() ? hole->intervals : parts; }
};

/// The unit that a stretch of the hole's log is read as; none if it is in no unit, or in several.
std::optional<std::size_t> unitOf(const InterpretedHole&, const Interval&);

struct InterpretedLogs {
    std::vector<InterpretedHole> holes; ///< every hole with geology, picks or a geophysical log, placed or not
    Findings findings;                  ///< codes without a unit, units that return, choices that no longer fit
};

/// What the geologist chose for an interval wins. Else a code that stands for several units becomes the oldest one that keeps
/// the hole in order, judged from the bottom of the hole upwards. Codes that look like a spelling of a unit's code or name
/// get a remedy.
InterpretedLogs readHoles(const Holes&, const Sequence&, const Interpretation& = {});

/// Contacts of each unit but the oldest, from holes with a place and a level that are not left
/// out; others speak of nothing. What the geologist chose wins over the log.
/// `points` are contacts from elsewhere, see placedContacts(): one in a hole takes the place of what its log says.
std::vector<std::vector<Contact>> contactsOf(const InterpretedLogs&, const Sequence&, const Interpretation& = {},
                                             const std::vector<std::vector<Contact>>& points = {});

/// The unit whose code or name this logged code looks like a spelling of ("M.G.", "made gr"), if one does.
std::optional<std::size_t> looksLike(const std::string& loggedCode, const Sequence&);

} // namespace fox
