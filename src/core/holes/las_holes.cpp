#include "holes/las_holes.h"

#include "base/point.h"
#include "base/text.h"

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <fmt/format.h>

namespace fox {

namespace {

constexpr double kFoot = 0.3048;
bool isFeet(std::string_view unit) {
    const auto u = lower(unit);
    return u == "f" || u == "ft" || u == "feet" || u == "foot";
}

/// The first header item of these names that is a number, in metres.
std::optional<double> metresOf(const LasFile& file, std::initializer_list<const char*> names) {
    for (const auto* list : {&file.well, &file.parameters})
        for (const char* name : names)
            for (const auto& item : *list)
                if (equalNoCase(item.name, name))
                    if (const auto value = parseNumber(item.value)) return isFeet(item.unit) ? *value * kFoot : *value;
    return {};
}

} // namespace

LasHole holeOf(const LasFile& file, const std::vector<std::string>& wanted) {
    LasHole out;
    auto& hole = out.hole;
    for (const char* name : {"WELL", "UWI"})
        if (const auto* item = file.wellItem(name); item && hole.id.empty()) hole.id = item->value;
    if (hole.id.empty()) hole.id = std::filesystem::path(file.name).stem().string();
    hole.file = file.name;
    hole.line = 1;
    hole.type = "LAS";
    hole.easting = metresOf(file, {"XCOORD", "EASTING", "EAST", "X", "XLOC"});
    hole.northing = metresOf(file, {"YCOORD", "NORTHING", "NORTH", "Y", "YLOC"});
    if (const auto level = metresOf(file, {"EGL", "GL", "ELEV", "LEVEL", "EREF"})) hole.level = Level{*level};
    const auto say = [&](Severity severity, int line, std::string words) {
        out.findings.push_back({severity, "FC-LAS", file.name, line, "", "", hole.id, std::move(words)});
    };
    if (file.values.empty() || file.values[0].empty()) {
        say(Severity::Warning, 1, "The file has no readings.");
        return out;
    }
    const auto* depthCurve = file.curves.empty() ? nullptr : &file.curves.front();
    const bool feet = depthCurve && isFeet(depthCurve->unit);
    if (feet) say(Severity::Note, depthCurve->line, "Depths are given in feet; they were turned into metres.");
    const double scale = feet ? kFoot : 1;
    std::vector<std::size_t> order(file.values[0].size());
    for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
    const auto& depths = file.values[0];
    if (!std::ranges::is_sorted(depths)) {
        std::ranges::stable_sort(order, {}, [&](std::size_t i) { return depths[i]; });
        say(Severity::Note, 1, "The readings run upwards or out of order; they were put in order of depth.");
    }
    for (std::size_t c = 1; c < file.curves.size() && c < file.values.size(); ++c) {
        const auto& item = file.curves[c];
        if (!wanted.empty() && !std::ranges::count(wanted, item.name)) continue;
        std::vector<Curve::Reading> readings;
        readings.reserve(order.size());
        bool any = false;
        for (const auto i : order) {
            readings.push_back({depths[i] * scale, file.values[c][i]});
            any |= !std::isnan(file.values[c][i]);
        }
        if (!any) say(Severity::Note, item.line, fmt::format("Curve {} has no value at any depth.", item.name));
        hole.curves.push_back({item.name, item.unit, item.description, false,
                               std::make_shared<const std::vector<Curve::Reading>>(std::move(readings))});
    }
    hole.finalDepth = Depth{std::ranges::max(depths) * scale};
    return out;
}

} // namespace fox
