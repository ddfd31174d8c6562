#pragma once
#include "paper/colour.h"

#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace fox::paper {

/// Scales of colours for values. All but Earth grow lighter, or darker, from end to end, so that they can be read in grey and by
/// those who do not tell red from green.
enum class ColourScale {
    Earth,     ///< slate, sand, orange: where the middle matters
    DeepLight, ///< dark blue, green, light yellow
    LightDark, ///< nearly white to dark brown
    Grey,      ///< light to dark
};
inline constexpr ColourScale kColourScales[] = {ColourScale::Earth, ColourScale::DeepLight, ColourScale::LightDark,
                                                ColourScale::Grey};
const char* words(ColourScale);                ///< "dark blue to light yellow"
Colour scaleColour(ColourScale, double share); ///< share from 0 to 1; beyond, the ends

/// Which colour a value has: spread evenly from low to high, or one a class.
struct ValueColours {
    ColourScale scale = ColourScale::Earth;
    double low = 0, high = 1;
    /// Limits between classes, rising; empty: no classes. With n limits there are n + 1 classes, the outer ones open.
    std::vector<double> limits;
    bool operator==(const ValueColours&) const = default;
    Colour of(double value) const;
    std::size_t classOf(double value) const; ///< of classes: a limit belongs to the class above it
    /// Of a class, "2.5 to 5.0", "under 2.5", "5.0 and more".
    std::string classInWords(std::size_t) const;
};

/// How limits between classes are found.
enum class ClassKind { None, Equal, Quantile, Typed };
struct ClassChoice {
    ClassKind kind = ClassKind::None;
    int count = 5;             ///< classes, 2 to kMostClasses
    std::vector<double> typed; ///< limits
    bool operator==(const ClassChoice&) const = default;
};
inline constexpr int kMostClasses = 20;
/// None for ClassKind::None, and for values that are all one. Equal: as wide as one another from the least to the most value, at
/// round figures where these leave as many classes; quantile: as many values in each. Values that are not finite do not count.
std::vector<double> classLimits(const ClassChoice&, std::span<const double> values);
/// Numbers apart by blanks, commas with a blank, or semicolons, rising; none if one is not a number or does not rise.
std::vector<double> limitsWritten(std::string_view);

} // namespace fox::paper
