#pragma once
#include <span>
#include <string_view>

namespace fox {

/// A unit in which files give coordinates, levels and depths.
struct LengthUnit {
    const char* key;   ///< for files: "us-ft"
    const char* words; ///< "US survey feet"
    double metres;     ///< in one of it
};
/// Metres first.
std::span<const LengthUnit> lengthUnits();
/// By its key or the usual spellings in any case, with or without a datum behind it: "m", "ft bgl", "Feet", "US survey ft", "mm".
/// Null for anything else.
const LengthUnit* lengthUnitNamed(std::string_view);
/// Whether it says that values are degrees of an angle: "deg", "degrees", the degree sign.
bool isDegrees(std::string_view);

/// A heading without the unit in brackets or behind its last blank or underscore, and that unit: "Level (ft)" is "Level" and
/// "ft".
struct HeadingWithUnit {
    std::string_view name;
    std::string_view unit; ///< empty: the heading names none
};
HeadingWithUnit headingWithUnit(std::string_view heading);

} // namespace fox
