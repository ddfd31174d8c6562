#include "surfaces/truncated_normal.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace fox::detail {

namespace {

// Each way of drawing is taken only where it is accepted often; should one still not be within kTries, which numbers that are
// not finite would do, the nearest value that may be is taken.
constexpr int kTries = 100'000;

} // namespace

double normalAbove(double low, Random& random) {
    std::normal_distribution<double> normal;
    constexpr double kFar = 1e6; // deviations: what is drawn lies within 1/kFar of it
    if (!(low < kFar)) return low;
    if (low < 0.5)
        for (int i = 0; i < kTries; ++i)
            if (const double x = normal(random); x >= low) return x;
    std::uniform_real_distribution<double> uniform;
    const double rate = (low + std::sqrt(low * low + 4)) / 2;
    for (int i = 0; i < kTries; ++i) {
        const double x = low - std::log(1 - uniform(random)) / rate;
        if (uniform(random) <= std::exp(-(x - rate) * (x - rate) / 2)) return x;
    }
    return low;
}

double normalBetween(double low, double high, Random& random) {
    if (!(low < high)) return low == high || !std::isfinite(high) ? low : (low + high) / 2; // bounds that cross
    if (std::isinf(high)) return std::isinf(low) ? std::normal_distribution<double>()(random) : normalAbove(low, random);
    if (std::isinf(low)) return -normalAbove(-high, random);
    if (high - low > 2 && low < 1 && high > -1)
        for (int i = 0; i < kTries; ++i)
            if (const double x = std::normal_distribution<double>()(random); x >= low && x <= high) return x;
    if (high <= 0) return -normalBetween(-high, -low, random);
    if (low > 0 && (high - low) * low > 1) // over half of the tail lies below `high`
        for (int i = 0; i < kTries; ++i)
            if (const double x = normalAbove(low, random); x <= high) return x;
    // evenly between them, kept as often as the density is near its highest there
    std::uniform_real_distribution<double> uniform;
    const double likeliest = std::clamp(0.0, low, high);
    for (int i = 0; i < kTries; ++i) {
        const double x = low + (high - low) * uniform(random);
        if (uniform(random) <= std::exp((likeliest * likeliest - x * x) / 2)) return x;
    }
    return likeliest;
}

} // namespace fox::detail
