#include "sequence/unit_values.h"

#include "base/errors.h"

#include <fmt/format.h>

namespace fox {

const std::vector<UnitValueKind>& standardUnitValues() {
    static const std::vector<UnitValueKind> kKinds{
        {"conductivity", "Hydraulic conductivity", "m/s", 0, 10},
        {"vertical_conductivity", "Vertical hydraulic conductivity", "m/s", 0, 10},
        {"specific_storage", "Specific storage", "1/m", 0, 1},
        {"specific_yield", "Specific yield", "", 0, 1},
        {"porosity", "Porosity", "", 0, 1},
        {"unit_weight", "Unit weight", "kN/m\u00B3", 0, 100},
    };
    return kKinds;
}

double checkedUnitValue(const UnitValueKind& kind, double value) {
    if (value >= kind.least && value <= kind.most) return value;
    throw UsageError(fmt::format("{} lies between {:g} and {:g}{}{}; {:g} can't be.", kind.words, kind.least, kind.most,
                                 kind.unit.empty() ? "" : " ", kind.unit, value));
}

} // namespace fox
