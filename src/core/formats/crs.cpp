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

bool makesSense(const std::string& crs, Point2 p) {
    const GdalSession session;
    const auto reference = spatialReference(crs);
    double west = 0, south = 0, east = 0, north = 0;
    if (reference.IsEmpty() || !reference.GetAreaOfUse(&west, &south, &east, &north, nullptr) || west > east) return true;
    const auto place = CoordinateChange(crs, "EPSG:4326").forward(p);
    if (!place) return false;
    const double wide = 0.1 * (east - west), high = 0.1 * (north - south);
    return place->x >= west - wide && place->x <= east + wide && place->y >= south - high && place->y <= north + high;
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

} // namespace fox
