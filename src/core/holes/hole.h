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
    bool operator==(const PathStation&) const = default;
};

struct BlowCount {
    Depth depth;
    double blows = 0; ///< SPT N, blows for 300 mm
    bool operator==(const BlowCount&) const = default;
};

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
    std::string pipe; ///< of the monitoring point
    bool operator==(const WaterLevel&) const = default;
};

/// A pipe or a response zone of an installation.
struct Installation {
    enum class Part { PlainPipe, SlottedPipe, ResponseZone };
    Part part = Part::PlainPipe;
    Depth top, base;
    std::string name; ///< of the monitoring point
    bool operator==(const Installation&) const = default;
};

struct CoreRun {
    Depth top, base;
    std::optional<double> recovery, solid, rqd; ///< per cent
    bool operator==(const CoreRun&) const = default;
};

/// Readings down a hole: a geophysical log, or single values such as test results.
struct Curve {
    struct Reading {
        double depth = 0; ///< metres along the hole
        double value = 0; ///< kNoValue where there is none
    };
    std::string name, unit, words;
    bool single = false; ///< single values, not a line
    std::shared_ptr<const std::vector<Reading>> readings;
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
