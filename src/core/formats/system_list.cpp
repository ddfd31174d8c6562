#include "formats/system_list.h"

#include "base/errors.h"
#include "base/text.h"
#include "formats/gdal_session.h"

#include <algorithm>
#include <fmt/format.h>

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
