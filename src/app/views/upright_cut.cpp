#include "views/upright_cut.h"

#include <cmath>
#include <numbers>

namespace fox::app {

double UprightCut::rightOf(Point2 p) const {
    const double a = azimuth * std::numbers::pi / 180;
    return (p.x - through.x) * std::cos(a) - (p.y - through.y) * std::sin(a);
}

Point2 UprightCut::along(double metres) const {
    const double a = azimuth * std::numbers::pi / 180;
    return {through.x + metres * std::sin(a), through.y + metres * std::cos(a)};
}

} // namespace fox::app
