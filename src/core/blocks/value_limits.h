#pragma once
#include <cmath>
#include <optional>

namespace fox {

/// Which values are meant: those over one, those under one, or with both those between them. Without either all.
struct ValueLimits {
    std::optional<double> above = {}, below = {};
    bool hold(double value) const { return !std::isnan(value) && (!above || value > *above) && (!below || value < *below); }
    bool operator==(const ValueLimits&) const = default;
};

} // namespace fox
