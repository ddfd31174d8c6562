#pragma once
#include "products/products.h"

namespace fox::app {

/// A round level a little under the mean ground, metres: where a map or a cut shows something. 0 without ground.
inline double typicalLevel(const ProductSet& products) {
    constexpr double kUnder = 3; // metres
    double sum = 0;
    int n = 0;
    if (products.ground)
        for (const double z : products.ground->values)
            if (!std::isnan(z)) sum += z, ++n;
    return n > 0 ? std::round(sum / n - kUnder) : 0;
}

} // namespace fox::app
