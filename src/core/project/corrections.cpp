#include "project/corrections.h"

#include "base/length_unit.h"
#include "formats/crs.h"

#include <fmt/format.h>

namespace fox {

CorrectionBook::CorrectionBook(const Project& project) : m_project(project), m_corrections(*project.corrections) {}

const SourceFile* CorrectionBook::fileOf(const Hole& hole) const {
    for (const auto& f : *m_project.files)
        if (f.name == hole.file) return &f;
    return nullptr;
}

void CorrectionBook::record(const Hole& hole, int line, std::string heading, ColumnRole role, std::string before,
                            std::string after, const std::string& why) {
    const auto* file = fileOf(hole);
    if (line <= 0 || !file) return;
    if (file->format.starts_with("AGS 3") && heading.starts_with("LOCA_")) heading = "HOLE" + heading.substr(4);
    std::string group = heading.substr(0, 4);
    if (!file->format.starts_with("AGS")) {
        group.clear();
        for (const auto& [sheet, mapping] : file->settings.mappings)
            for (std::size_t c = 0; c < mapping.roles.size() && c < mapping.columns.size(); ++c)
                if (mapping.roles[c] == role) group = sheet, heading = mapping.columns[c];
    }
    const auto known = std::ranges::find_if(
        m_corrections, [&](const Correction& c) { return c.file == hole.file && c.line == line && c.heading == heading; });
    if (known == m_corrections.end())
        m_corrections.push_back(
            {hole.file, line, group, heading, displayName(*m_project.holes, hole), std::move(before), std::move(after), why});
    else if (known->before == after)
        m_corrections.erase(known);
    else { // what was done last stands last
        known->after = std::move(after), known->why = why;
        std::rotate(known, known + 1, m_corrections.end());
    }
}

/// Metres in a unit of the column of that role: corrections stand in the unit of their cell.
double CorrectionBook::unitOf(const Hole& hole, ColumnRole role) const {
    const auto* file = fileOf(hole);
    if (!file || file->format.starts_with("AGS")) return 1;
    const bool inPlan = role == ColumnRole::Easting || role == ColumnRole::Northing;
    if (inPlan && !file->settings.crs.empty()) return 1; // they are in that system's unit already
    for (const auto& [sheet, mapping] : file->settings.mappings)
        for (std::size_t c = 0; c < std::min(mapping.roles.size(), mapping.units.size()); ++c)
            if (mapping.roles[c] == role)
                if (const auto* unit = lengthUnitNamed(mapping.units[c])) return unit->metres;
    return 1;
}

void CorrectionBook::recordNumber(const Hole& hole, int line, const char* heading, ColumnRole role, std::optional<double> before,
                                  std::optional<double> after, const std::string& why) {
    const double unit = unitOf(hole, role);
    const int decimals = unit == 1 ? 2 : 4; // a hundredth of a foot is 3 mm
    const auto text = [&](std::optional<double> v) { return v ? fmt::format("{:.{}f}", *v / unit, decimals) : std::string(); };
    if (text(before) != text(after)) record(hole, line, heading, role, text(before), text(after), why);
}

void CorrectionBook::recordFacts(const Hole& before, const Hole& after, const std::string& why) {
    const auto* file = fileOf(before);
    const auto inFile = [&](const Hole& h) -> std::optional<Point2> {
        if (!h.easting || !h.northing) return {};
        const auto& crs = file ? file->settings.crs : std::string();
        if (crs.empty() || crs == m_project.site->crs || m_project.site->crs.empty()) return Point2{*h.easting, *h.northing};
        return CoordinateChange(crs, m_project.site->crs).back({*h.easting, *h.northing});
    };
    if (before.easting != after.easting || before.northing != after.northing) {
        const auto a = inFile(before), b = inFile(after);
        const auto axis = [](const std::optional<Point2>& p, double Point2::*part) {
            return p ? std::optional((*p).*part) : std::nullopt;
        };
        recordNumber(before, before.line, "LOCA_NATE", ColumnRole::Easting, axis(a, &Point2::x), axis(b, &Point2::x), why);
        recordNumber(before, before.line, "LOCA_NATN", ColumnRole::Northing, axis(a, &Point2::y), axis(b, &Point2::y), why);
    }
    const auto metres = [](const auto& v) { return v ? std::optional(v->metres) : std::nullopt; };
    recordNumber(before, before.line, "LOCA_GL", ColumnRole::GroundLevel, metres(before.level), metres(after.level), why);
    recordNumber(before, before.line, "LOCA_FDEP", ColumnRole::FinalDepth, metres(before.finalDepth), metres(after.finalDepth),
                 why);
    if (before.type != after.type) record(before, before.line, "LOCA_TYPE", ColumnRole::Kind, before.type, after.type, why);
}

void CorrectionBook::into(Project& project) && {
    if (m_corrections != *m_project.corrections) project.corrections = part(std::move(m_corrections));
}

} // namespace fox
