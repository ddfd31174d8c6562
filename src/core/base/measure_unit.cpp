#include "base/measure_unit.h"

#include "base/text.h"

#include <algorithm>
#include <string>

namespace fox {

namespace {

enum class Measure { Pressure, Density, InWater, InSoil, Speed, Share };

struct Unit {
    std::string_view name; ///< small letters, without blanks, signs and powers: "kn/m2"
    Measure measure;
    double factor; ///< of the first unit of its measure
};

constexpr Unit kMeasureUnits[] = {{"kpa", Measure::Pressure, 1},
                                  {"kn/m2", Measure::Pressure, 1},
                                  {"pa", Measure::Pressure, 1e-3},
                                  {"n/m2", Measure::Pressure, 1e-3},
                                  {"mpa", Measure::Pressure, 1e3},
                                  {"mn/m2", Measure::Pressure, 1e3},
                                  {"n/mm2", Measure::Pressure, 1e3},
                                  {"gpa", Measure::Pressure, 1e6},
                                  {"gn/m2", Measure::Pressure, 1e6},
                                  {"bar", Measure::Pressure, 100},
                                  {"kgf/cm2", Measure::Pressure, 98.0665},
                                  {"psi", Measure::Pressure, 6.894757293168},
                                  {"mg/m3", Measure::Density, 1},
                                  {"t/m3", Measure::Density, 1},
                                  {"g/cm3", Measure::Density, 1},
                                  {"kg/m3", Measure::Density, 1e-3},
                                  {"mg/l", Measure::InWater, 1},
                                  {"ug/l", Measure::InWater, 1e-3},
                                  {"ng/l", Measure::InWater, 1e-6},
                                  {"g/l", Measure::InWater, 1e3},
                                  {"mg/kg", Measure::InSoil, 1},
                                  {"ug/kg", Measure::InSoil, 1e-3},
                                  {"g/kg", Measure::InSoil, 1e3},
                                  {"m/s", Measure::Speed, 1},
                                  {"cm/s", Measure::Speed, 1e-2},
                                  {"mm/s", Measure::Speed, 1e-3},
                                  {"m/d", Measure::Speed, 1.0 / 86400},
                                  {"m/day", Measure::Speed, 1.0 / 86400},
                                  {"%", Measure::Share, 1}};

/// "MN/m²" as "mn/m2".
std::string plainUnit(std::string_view unit) {
    std::string out;
    for (std::size_t i = 0; i < unit.size(); ++i) {
        const auto rest = unit.substr(i);
        if (rest.starts_with("\xC2\xB2"))
            out += '2', ++i; // superscript two
        else if (rest.starts_with("\xC2\xB3"))
            out += '3', ++i; // superscript three
        else if (rest.starts_with("\xC2\xB5"))
            out += 'u', ++i; // micro sign
        else if (rest.starts_with("\xCE\xBC"))
            out += 'u', ++i; // Greek mu
        else if (unit[i] != ' ' && unit[i] != '^')
            out += unit[i];
    }
    return lower(out);
}

const Unit* find(std::string_view unit) {
    const auto name = plainUnit(unit);
    const auto at = std::ranges::find(kMeasureUnits, std::string_view(name), &Unit::name);
    return at == std::end(kMeasureUnits) ? nullptr : at;
}

} // namespace

std::optional<double> measureFactor(std::string_view from, std::string_view to) {
    if (plainUnit(from) == plainUnit(to)) return 1;
    const auto *a = find(from), *b = find(to);
    if (!a || !b || a->measure != b->measure) return {};
    return a->factor / b->factor;
}

} // namespace fox
