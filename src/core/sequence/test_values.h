#pragma once
#include "sequence/contacts.h"

namespace fox {

/// Something that tests tell at depths of holes: "SPT N", "moisture content" in "%".
struct TestQuantity {
    std::string name, unit; ///< unit is empty for a number without one
    std::size_t values = 0; ///< how many there are
};
/// All that the holes have: SPT, core recovery and RQD, results of tests, and curves and soundings reading by reading. By name,
/// SPT first.
std::vector<TestQuantity> testQuantities(const Holes&);

/// What kind of statement a value is.
enum class TestValueKind {
    Value,
    Limit, ///< below detection, above what can be told, a test that was stopped: it is more, or less, than the number
    Word   ///< no number: "NP"
};

struct TestValue {
    std::size_t hole = 0;        ///< in the list of holes
    Depth depth;                 ///< of a core run, its middle
    std::optional<double> level; ///< metres; none if the hole has no place or no level
    double value = 0;            ///< kNoValue of a word
    TestValueKind kind = TestValueKind::Value;
    std::string written;             ///< as it is shown: "23", "50/75", "<0.5"
    std::optional<std::size_t> unit; ///< in which it lies, by the log; none: in none of the sequence
};

/// By hole and depth. Holes that are excluded are in it too: a test is a test.
std::vector<TestValue> testValues(const TestQuantity&, const Holes&, const InterpretedLogs&);

/// Of plain values of one unit.
struct TestStatistics {
    std::optional<std::size_t> unit; ///< none: values in no unit
    std::size_t values = 0;          ///< plain ones
    std::size_t others = 0;          ///< limits and words, which are in no figure
    double least = kNoValue, most = kNoValue, mean = kNoValue, median = kNoValue;
    double deviation = kNoValue; ///< standard deviation of a sample (n - 1); kNoValue of one value
};
/// Units in the order of the sequence, then values in none. Units without values are left out.
std::vector<TestStatistics> statisticsByUnit(const std::vector<TestValue>&);

/// unit,values,limits and words,least,most,mean,median,standard deviation
std::string statisticsCsv(const TestQuantity&, const std::vector<TestStatistics>&, const Sequence&);
/// quantity,unit of measure,hole,depth,level,value,written,unit
std::string testValuesCsv(const TestQuantity&, const std::vector<TestValue>&, const Holes&, const Sequence&);

} // namespace fox
