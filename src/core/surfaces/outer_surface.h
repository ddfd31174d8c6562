#pragma once
// What is done about a method from outside, for this module only.
#include "surfaces/interpolators.h"

namespace fox::detail {

/// Turns and squeezes the plan about a point so that plain distance is anisotropic distance along the long axis.
class AnisotropyTransform {
public:
    AnisotropyTransform(const Anisotropy&, Point2 about);
    Point2 operator()(Point2) const;
    Point3 operator()(Point3 p) const {
        const auto at = (*this)(p.plan());
        return {at.x, at.y, p.z};
    }
    bool none() const { return m_ratio == 1; }

private:
    Point2 m_about;
    double m_sin = 0, m_cos = 1, m_ratio = 1;
};

/// Outside the points' hull, the value at the nearest place of it.
std::unique_ptr<Interpolator> carriedOn(std::unique_ptr<Interpolator>, std::span<const Point3> points);

/// A surface of squeezed places as one of plain ones, with no value beyond `reach` from all the places that speak.
std::shared_ptr<const Surface> inPlainPlaces(std::shared_ptr<const Surface>, const AnisotropyTransform&,
                                             std::optional<double> reach, std::vector<Point2> speaking);

} // namespace fox::detail
