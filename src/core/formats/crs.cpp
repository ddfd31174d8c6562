#include "formats/crs.h"

#include "base/errors.h"
#include "base/text.h"
#include "formats/gdal_session.h"

#include <cmath>
#include <fmt/format.h>

namespace fox {

std::optional<std::string> projectedSystem(const std::string& typed) {
    const GdalSession session;
    std::string name(trimmed(typed));
    if (parseNumber(name)) name = "EPSG:" + name;
    const auto reference = spatialReference(name);
    const auto known = crsName(&reference);
    return known.empty() || !reference.IsProjected() ? std::nullopt : std::optional(known);
}

struct CoordinateChange::Transforms {
    std::unique_ptr<OGRCoordinateTransformation> there, back;
};

namespace {
OGRSpatialReference known(const std::string& crs) {
    auto reference = spatialReference(parseNumber(crs) ? "EPSG:" + crs : crs);
    if (reference.IsEmpty()) throw Error(fmt::format("\"{}\" is not a known coordinate system.", crs));
    return reference;
}
std::optional<Point2> through(OGRCoordinateTransformation& t, Point2 p) {
    const GdalSession session;
    return t.Transform(1, &p.x, &p.y) && std::isfinite(p.x) && std::isfinite(p.y) ? std::optional(p) : std::nullopt;
}
} // namespace

CoordinateChange::CoordinateChange(const std::string& from, const std::string& to)
    : m_transforms(std::make_unique<Transforms>()) {
    const GdalSession session;
    const auto a = known(from), b = known(to);
    m_transforms->there.reset(OGRCreateCoordinateTransformation(&a, &b));
    m_transforms->back.reset(OGRCreateCoordinateTransformation(&b, &a));
    if (!m_transforms->there || !m_transforms->back) throw Error(fmt::format("There is no way from {} to {}.", from, to));
}

CoordinateChange::~CoordinateChange() = default;
std::optional<Point2> CoordinateChange::forward(Point2 p) const { return through(*m_transforms->there, p); }
std::optional<Point2> CoordinateChange::back(Point2 p) const { return through(*m_transforms->back, p); }

AreaOfUse::AreaOfUse(const std::string& crs) {
    const GdalSession session;
    const auto reference = spatialReference(crs);
    auto& b = m_degrees;
    if (reference.IsEmpty() || !reference.GetAreaOfUse(&b.xmin, &b.ymin, &b.xmax, &b.ymax, nullptr) || b.xmin > b.xmax) return;
    const double wide = 0.1 * b.width(), high = 0.1 * b.height();
    b = {b.xmin - wide, b.ymin - high, b.xmax + wide, b.ymax + high};
    m_toDegrees = std::make_unique<CoordinateChange>(crs, "EPSG:4326");
}

bool AreaOfUse::holds(Point2 p) const {
    if (!m_toDegrees) return true;
    const auto place = m_toDegrees->forward(p);
    const auto& b = m_degrees;
    return place && place->x >= b.xmin && place->x <= b.xmax && place->y >= b.ymin && place->y <= b.ymax;
}

} // namespace fox
