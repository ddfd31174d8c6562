#include "formats/system_list.h"

#include "base/errors.h"
#include "base/text.h"
#include "formats/crs.h"
#include "formats/gdal_session.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <tuple>

namespace fox {

namespace {

std::vector<SystemInfo> readList() {
    const GdalSession session;
    int count = 0;
    auto** list = OSRGetCRSInfoListFromDatabase("EPSG", nullptr, &count);
    std::vector<SystemInfo> out;
    for (int i = 0; list && i < count; ++i) {
        const auto& s = *list[i];
        const bool projected = s.eType == OSR_CRS_TYPE_PROJECTED;
        if (s.bDeprecated || (!projected && s.eType != OSR_CRS_TYPE_GEOGRAPHIC_2D)) continue;
        SystemInfo info{
            fmt::format("EPSG:{}", s.pszCode), s.pszName ? s.pszName : "", s.pszAreaName ? s.pszAreaName : "", projected, {}};
        if (s.bBboxValid && s.dfWestLongitudeDeg <= s.dfEastLongitudeDeg) {
            info.use.include({s.dfWestLongitudeDeg, s.dfSouthLatitudeDeg});
            info.use.include({s.dfEastLongitudeDeg, s.dfNorthLatitudeDeg});
        }
        out.push_back(std::move(info));
    }
    OSRDestroyCRSInfoList(list);
    return out;
}

const std::vector<SystemInfo>& allSystems() {
    static const auto kList = readList();
    return kList;
}

std::optional<SystemInfo> byCode(const std::string& code) {
    const GdalSession session;
    const auto reference = spatialReference(upper(code));
    const auto known = crsName(&reference);
    if (known.empty()) return {};
    SystemInfo info{known, reference.GetName() ? reference.GetName() : "", "", bool(reference.IsProjected()), {}};
    double west = 0, south = 0, east = 0, north = 0;
    const char* area = nullptr;
    if (reference.GetAreaOfUse(&west, &south, &east, &north, &area) && west <= east) {
        info.use.include({west, south});
        info.use.include({east, north});
    }
    if (area) info.area = area;
    return info;
}

double areaOf(const SystemInfo& s) { return s.use.empty() ? 1e9 : s.use.width() * s.use.height(); }

bool hasAll(const std::string& text, const std::vector<std::string>& words) {
    return std::ranges::all_of(words, [&](const std::string& w) { return text.find(w) != text.npos; });
}

} // namespace

std::vector<SystemInfo> systemsLike(const std::string& typed, std::size_t most) {
    const auto wanted = lower(trimmed(typed));
    std::vector<std::string> words;
    for (const auto word : split(wanted, ' '))
        if (!word.empty()) words.emplace_back(word);
    if (words.empty()) return {};
    std::vector<std::pair<std::pair<int, double>, const SystemInfo*>> found;
    for (const auto& s : allSystems()) {
        const auto code = lower(s.code), name = lower(s.name);
        if (!hasAll(code + " " + name + " " + lower(s.area), words)) continue;
        const bool begins = code.substr(5).starts_with(wanted) || code == wanted || name.starts_with(wanted);
        const int rank = code.substr(5) == wanted || code == wanted || name == wanted ? 0
                         : begins                                                     ? 1
                         : hasAll(name, words)                                        ? 2
                                                                                      : 3;
        found.push_back({{rank, s.projected ? areaOf(s) : 1e6 + areaOf(s)}, &s});
    }
    std::ranges::stable_sort(found, {}, [](const auto& f) { return f.first; });
    std::vector<SystemInfo> out;
    for (const auto& [rank, s] : found)
        if (out.size() < most) out.push_back(*s);
    return out;
}

namespace {

/// Kilometres between two places in degrees, on a sphere.
double kilometres(Point2 a, Point2 b) {
    constexpr double kRadian = 3.14159265358979323846 / 180, kEarth = 6371;
    const double s = std::sin((b.y - a.y) * kRadian / 2), c = std::sin((b.x - a.x) * kRadian / 2);
    const double h = s * s + std::cos(a.y * kRadian) * std::cos(b.y * kRadian) * c * c;
    return 2 * kEarth * std::asin(std::sqrt(std::min(1.0, h)));
}

/// Within where a system is meant for, with a tenth to spare; beside a zone too, whose neighbour is often used across its edge.
bool isIn(const Box2& use, Point2 p) {
    constexpr double kZone = 7; // degrees: no wider
    const double wide = (use.width() <= kZone ? 1 : 0.1) * use.width(), high = 0.1 * use.height();
    return !use.empty() && p.x >= use.xmin - wide && p.x <= use.xmax + wide && p.y >= use.ymin - high && p.y <= use.ymax + high;
}

} // namespace

std::vector<SystemInfo> systemsFitting(Point2 at, const SystemHints& hints, std::size_t most, const Progress& progress) {
    std::optional<Point2> near;
    if (!hints.nearSystem.empty()) near = CoordinateChange(hints.nearSystem, "EPSG:4326").forward(hints.near);
    struct Fit {
        double away; ///< kilometres from the neighbour; 0 without one
        bool isNew;  ///< not used before
        double area;
        const SystemInfo* system;
    };
    std::vector<Fit> fits;
    const auto country = lower(hints.country);
    for (const auto& s : allSystems()) {
        const bool used = std::ranges::count(hints.codes, s.code) > 0;
        const bool spokenFor =
            near ? isIn(s.use, *near) : used || (!country.empty() && lower(s.area).find(country) != std::string::npos);
        if (!s.projected || !spokenFor || s.use.empty()) continue;
        progress.check();
        const auto place = CoordinateChange(s.code, "EPSG:4326").forward(at);
        if (!place || !isIn(s.use, *place)) continue;
        const double away = near ? kilometres(*near, *place) : 0;
        if (away <= kNearby) fits.push_back({away, !used, areaOf(s), &s});
    }
    std::ranges::stable_sort(fits, {}, [](const Fit& f) { return std::tuple(f.away, f.isNew, f.area); });
    std::vector<SystemInfo> out;
    for (const auto& f : fits)
        if (out.size() < most) out.push_back(*f.system);
    return out;
}

std::optional<SystemInfo> systemNamed(const std::string& typed) {
    auto wanted = lower(trimmed(typed));
    if (parseNumber(wanted)) wanted = "epsg:" + wanted;
    if (wanted.starts_with("epsg:")) return byCode(wanted); // without the list of all, which takes a while to read
    for (const auto& s : allSystems())
        if (lower(s.name) == wanted) return s;
    return {};
}

SystemUnit unitOfSystem(const std::string& crs) {
    const GdalSession session;
    const auto reference = spatialReference(crs);
    if (reference.IsEmpty()) throw Error(fmt::format("\"{}\" is not a known coordinate system.", crs));
    if (!reference.IsProjected()) return {"degree", 0};
    const char* name = nullptr;
    const double metres = reference.GetLinearUnits(&name);
    return {name ? name : "metre", metres};
}

} // namespace fox
