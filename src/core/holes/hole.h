#pragma once
#include "base/finding.h"
#include "base/point.h"
#include "base/units.h"

#include <compare>
#include <initializer_list>
#include <iterator>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace fox {

/// A logged stretch of a hole, depths along it.
struct Interval {
    Depth top, base;
    std::string description;
    std::map<std::string, std::string> codes; ///< "GEOL_GEOL" -> "RG"; only filled ones
    int line = 0;                             ///< in the hole's file
    bool usable() const { return base > top; }
    bool operator==(const Interval&) const = default;
};

/// Direction of a hole from this depth on.
struct PathStation {
    Depth depth;
    double inclination = 90; ///< degrees below horizontal; 90 is straight down
    double azimuth = 0;      ///< degrees clockwise from north
    int line = 0;            ///< in the hole's file; 0: it is in none
    bool operator==(const PathStation&) const = default;
};

/// A standard penetration test.
struct BlowCount {
    /// Blows for a part of the drive.
    struct Increment {
        double blows = 0;
        std::optional<double> penetration; ///< millimetres; none: the usual 75
        bool operator==(const Increment&) const = default;
    };
    Depth depth;
    double blows = 0; ///< N, for 300 mm; of a test that was stopped earlier, those of the main drive until then
    std::optional<double> penetration = {}; ///< millimetres of the main drive, if the test was stopped before 300
    std::vector<Increment> seating = {}, main = {};
    std::string reported = {};                    ///< as the file has it: "50/75"
    std::string type = {};                        ///< "S" split spoon, "C" solid cone
    std::optional<double> energyRatio = {};       ///< per cent
    std::optional<Depth> water = {}, casing = {}; ///< at the time
    bool operator==(const BlowCount&) const = default;

    bool refused() const { return penetration.has_value(); }
    double forWholeDrive() const; ///< N; of a stopped test extrapolated to 300 mm
    /// N for 60 % of the energy of the free-falling hammer, N Er / 60 (EN ISO 22476-3); none without the energy ratio, or of a
    /// stopped test.
    std::optional<double> n60() const;
};
/// "23", "50/75": as a log shows it.
std::string words(const BlowCount&);

/// A remark on a part of the ground, finer than the intervals.
struct Detail {
    Depth top, base;
    std::string words;
    bool operator==(const Detail&) const = default;
};

struct Sample {
    Depth top;
    std::optional<Depth> base;
    std::string type, reference;
    bool operator==(const Sample&) const = default;
};

struct WaterStrike {
    Depth depth;
    std::optional<Depth> roseTo; ///< the highest that the water stood afterwards
    bool operator==(const WaterStrike&) const = default;
};

/// A level of the water in a hole or a pipe on some day: a dip.
struct WaterLevel {
    std::string measured; ///< when, as the file has it: "2025-03-14T10:30"
    Depth depth;
    std::string pipe;       ///< of the monitoring point
    bool dry = false;       ///< no water down to `depth`
    std::string given = {}; ///< the reading if it was no depth: "level 12.31", "pressure 23.5 kPa"
    bool operator==(const WaterLevel&) const = default;
};

/// A part of an installation: of its pipe, of what the hole is filled with beside it, or where it lets water in.
struct Installation {
    enum class Part { PlainPipe, SlottedPipe, ResponseZone, Pipe, Backfill, Tip };
    Part part = Part::PlainPipe;
    Depth top, base;
    std::string name; ///< of the monitoring point; of backfill, the material
    bool operator==(const Installation&) const = default;
};

struct CoreRun {
    Depth top, base;
    std::optional<double> recovery, solid, rqd; ///< per cent
    bool operator==(const CoreRun&) const = default;
};

/// A push of a cone from this place; its readings are curves.
struct Sounding {
    std::string push;                     ///< "1", "1A": two of a hole differ
    std::string cone = {};                ///< type and reference, as the file has them
    std::optional<double> areaRatio = {}; ///< a in qt = qc + u2 (1 - a)
    std::optional<Depth> water = {};      ///< depth to it, at the time
    // what the user states where the file does not: see SoundingAssumptions
    std::optional<double> statedUnitWeight = {}; ///< of the ground, kN/m3
    std::optional<Depth> statedWater = {};
    bool operator==(const Sounding&) const = default;
};

/// Readings down a hole: a geophysical log, a sounding, or single values such as test results.
struct Curve {
    struct Reading {
        double depth = 0; ///< metres along the hole
        double value = 0; ///< kNoValue where there is none
    };
    /// A reading that is not just its number, as the file has it: "<0.5", "NP".
    struct Written {
        std::size_t reading = 0; ///< which of the readings
        std::string text;
        bool operator==(const Written&) const = default;
    };
    std::string name, unit, words;
    bool single = false; ///< single values, not a line
    std::shared_ptr<const std::vector<Reading>> readings;
    std::vector<Written> written = {};   ///< by reading
    std::string push = {};               ///< of the sounding that it belongs to; empty: of none
    bool operator==(const Curve&) const; ///< by values; kNoValue equals itself
};

struct Hole {
    std::string id;                          ///< as the file has it
    std::string project;                     ///< the file's project id; (project, id) is unique
    std::string type;                        ///< "RC", "CP", "TP": as the file has it
    std::optional<double> easting, northing; ///< metres
    std::optional<Level> level;              ///< ground level
    std::optional<Depth> finalDepth;
    std::vector<PathStation> stations; ///< none: taken as vertical
    std::vector<Interval> intervals;   ///< by depth
    std::vector<BlowCount> blowCounts; ///< by depth
    std::vector<Detail> details;
    std::vector<Sample> samples;
    std::vector<WaterStrike> strikes;
    std::vector<WaterLevel> waterLevels; ///< in the file's order
    std::vector<Installation> installations;
    std::vector<CoreRun> coreRuns;
    std::vector<Sounding> soundings;
    std::vector<Curve> curves;
    bool excluded = false; ///< by the user: it stays visible, and speaks of no surface
    std::string file;
    int line = 0;
    std::string name = {}; ///< what it is called in the project, as no other is; see displayName()
    bool operator==(const Hole&) const = default;

    /// A place that can be believed: both coordinates, and not 0, 0.
    std::optional<Point2> place() const;
    /// The deepest of the final depth and what is logged.
    Depth end() const;
    bool inclined() const;
};

enum class HoleKind { Drilled, Dug, Pushed, Other };
/// From the type's code, by the standard's abbreviations.
HoleKind kindOf(const Hole&);
const char* words(HoleKind); ///< "drilled"
/// "rotary cored", "trial pit": the type in words; the code itself if it is none of the usual.
std::string typeInWords(const std::string& type);

/// Holes in order, each shared by the versions that have it in common: copying the list copies addresses, and changing one
/// hole copies that hole. Reads like a vector of holes.
class Holes {
public:
    /// Over holes that can't be changed.
    class Iterator {
    public:
        using iterator_category = std::random_access_iterator_tag;
        using value_type = Hole;
        using difference_type = std::ptrdiff_t;
        using pointer = const Hole*;
        using reference = const Hole&;
        Iterator() = default;
        explicit Iterator(const std::shared_ptr<const Hole>* at) : m_at(at) {}
        reference operator*() const { return **m_at; }
        pointer operator->() const { return m_at->get(); }
        reference operator[](difference_type n) const { return *m_at[n]; }
        Iterator& operator++() { return ++m_at, *this; }
        Iterator operator++(int) { return Iterator(m_at++); }
        Iterator& operator--() { return --m_at, *this; }
        Iterator operator--(int) { return Iterator(m_at--); }
        Iterator& operator+=(difference_type n) { return m_at += n, *this; }
        Iterator& operator-=(difference_type n) { return m_at -= n, *this; }
        friend Iterator operator+(Iterator i, difference_type n) { return i += n; }
        friend Iterator operator+(difference_type n, Iterator i) { return i += n; }
        friend Iterator operator-(Iterator i, difference_type n) { return i -= n; }
        friend difference_type operator-(Iterator a, Iterator b) { return a.m_at - b.m_at; }
        auto operator<=>(const Iterator&) const = default;

    private:
        const std::shared_ptr<const Hole>* m_at = nullptr;
    };
    using value_type = Hole;
    using const_iterator = Iterator;
    using iterator = Iterator;

    Holes() = default;
    Holes(std::initializer_list<Hole>);
    std::size_t size() const { return m_holes.size(); }
    bool empty() const { return m_holes.empty(); }
    const Hole& operator[](std::size_t i) const { return *m_holes[i]; }
    const Hole& at(std::size_t i) const { return *m_holes.at(i); } ///< @throws std::out_of_range
    const Hole& front() const { return *m_holes.front(); }
    const Hole& back() const { return *m_holes.back(); }
    Iterator begin() const { return Iterator(m_holes.data()); }
    Iterator end() const { return Iterator(m_holes.data() + m_holes.size()); }
    /// The hole itself: the same address in two versions means the same hole, unchanged.
    const std::shared_ptr<const Hole>& shared(std::size_t i) const { return m_holes[i]; }

    void push_back(Hole hole) { m_holes.push_back(std::make_shared<Hole>(std::move(hole))); }
    /// The hole at this place to be written to; if another list has it too, a copy takes its place here.
    Hole& change(std::size_t i);
    template <typename F>
    void changeEach(F&& f) {
        for (std::size_t i = 0; i < size(); ++i) f(change(i));
    }
    /// Removes those for which `which(hole)` is true; how many.
    template <typename Which>
    std::size_t removeIf(Which which) {
        return std::erase_if(m_holes, [&](const auto& h) { return which(*h); });
    }
    bool operator==(const Holes&) const; ///< by address, then by value

private:
    std::vector<std::shared_ptr<const Hole>> m_holes;
};

/// The hole's name, or while it has none, its id, with the project's if another hole has the same one: "QB114 (P2)".
std::string displayName(const Holes&, const Hole&);
/// By its name, or, if no hole is called so, by its id where only one has it. Null if there is none.
const Hole* findHole(const Holes&, std::string_view name);
/// Of all holes at once, in their order: for lists.
std::vector<std::string> displayNames(const Holes&);
/// Gives a name to each hole that has none: its id, or, if another is called so or has the same id and no name either, its id
/// with the project's. Names that are there stay, whoever joins.
void giveNames(Holes&);

/// How full a column that may carry the unit is.
struct UnitHeading {
    std::string heading;
    double filled = 0; ///< share of the intervals, 0 to 1
    int codes = 0;     ///< different ones
};
/// The headings of the geology group that may carry the unit, the most sensible first: at least three
/// fifths filled, and then in the order geology code, second geology code, stratum, legend, others. A column of
/// free text (nearly every value another) is none.
std::vector<UnitHeading> unitHeadings(const Holes&);

} // namespace fox
