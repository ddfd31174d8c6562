#pragma once
#include <optional>
#include <string>
#include <vector>

namespace fox {

/// A value that goes with units to those who use the model: what it is called and measured in.
struct UnitValueKind {
    std::string key;   ///< as build files and project files have it: "specific_storage"
    std::string words; ///< "Specific storage"
    std::string unit;  ///< "1/m"; empty: a number without one
    double least = -1e300, most = 1e300;
    bool operator==(const UnitValueKind&) const = default;
};

/// Hydraulic conductivity along and across layers, specific storage and yield, porosity, unit weight.
const std::vector<UnitValueKind>& standardUnitValues();

/// The value, if it can be one of this kind. @throws UsageError saying what it may be
double checkedUnitValue(const UnitValueKind&, double);

} // namespace fox
