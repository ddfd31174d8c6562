#include "sheets/scale.h"

#include <cmath>
#include <fmt/format.h>

namespace fox {

double labelStep(double least) {
    const double power = std::pow(10, std::floor(std::log10(least)));
    return power * (least / power < 2 ? 2 : least / power < 5 ? 5 : 10);
}

namespace {
constexpr double kUsual[] = {1.0, 1.25, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 7.5};
}

double usualScale(double least) {
    const double power = std::pow(10, std::floor(std::log10(least) + 1e-12));
    for (const double n : kUsual)
        if (n * power >= least * (1 - 1e-12)) return n * power;
    return 10 * power;
}

double usualScaleBelow(double n) {
    const double power = std::pow(10, std::floor(std::log10(n) + 1e-12));
    double best = 7.5 * power / 10;
    for (const double k : kUsual)
        if (k * power < n * (1 - 1e-9)) best = k * power;
    return best;
}

std::string labelWords(double value) { return fmt::format("{:g}", std::abs(value) < 1e-9 ? 0.0 : value); }

} // namespace fox
