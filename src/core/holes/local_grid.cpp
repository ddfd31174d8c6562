#include "holes/local_grid.h"

#include <complex>
#include <numbers>

namespace fox {

namespace {
using Complex = std::complex<double>;
Complex number(Point2 p) { return {p.x, p.y}; }
/// Scale and rotation as one complex factor.
Complex factor(const LocalGrid& g) {
    return (number(g.b.national) - number(g.a.national)) / (number(g.b.local) - number(g.a.local));
}
} // namespace

double LocalGrid::rotation() const { return std::arg(factor(*this)) * 180 / std::numbers::pi; }

Point2 LocalGrid::toNational(Point2 local) const {
    const auto at = number(a.national) + factor(*this) * (number(local) - number(a.local));
    return {at.real(), at.imag()};
}

} // namespace fox
