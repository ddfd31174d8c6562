#include "importing/point_units.h"

#include "formats/system_list.h"

#include <fmt/format.h>

namespace fox {

namespace {

double chosenUnit(const SourceSettings& s) {
    if (s.unit > 0) return s.unit;
    const double own = s.crs.empty() ? 1 : unitOfSystem(s.crs).metres;
    return own > 0 ? own : 1; // levels beside degrees are in metres
}

} // namespace

PointUnits::PointUnits(SourceFile& file, const SurveyColumns& named)
    : m_named(named), m_unit(chosenUnit(file.settings)), m_hasSystem(!file.settings.crs.empty()) {
    sayUnitOfSystem(file);
    sayUnitsOfColumns(file);
}

Point3 PointUnits::inMetres(const Point3& p) const {
    const double z = p.z * m_named.levelUnit.value_or(m_unit);
    if (m_hasSystem) return {p.x, p.y, z};
    return {p.x * m_named.eastingUnit.value_or(m_unit), p.y * m_named.northingUnit.value_or(m_unit), z};
}

void PointUnits::sayUnitOfSystem(SourceFile& file) const {
    if (!m_hasSystem) return;
    const auto unit = unitOfSystem(file.settings.crs);
    if (unit.isMetre() || unit.metres == 0) return;
    file.findings.push_back({Severity::Note, "FC-UNIT", file.name, 0, "", "", "",
                             fmt::format("{} is in units of a {}: coordinates are converted at {:.9g} m each; levels are {}.",
                                         file.settings.crs, unit.name, unit.metres,
                                         m_unit != 1 ? fmt::format("converted at {:.9g} m each", m_unit) : "taken as metres")});
}

void PointUnits::sayUnitsOfColumns(SourceFile& file) const {
    const auto differs = [&](const std::optional<double>& u) { return u && *u != 1; };
    if (!differs(m_named.eastingUnit) && !differs(m_named.northingUnit) && !differs(m_named.levelUnit)) return;
    file.findings.push_back(
        {Severity::Note, "FC-UNIT", file.name, 0, "", "", "",
         fmt::format("By the headings of the columns, eastings are converted at {:.9g} m each, northings at {:.9g} m, levels "
                     "at {:.9g} m.",
                     m_named.eastingUnit.value_or(m_unit), m_named.northingUnit.value_or(m_unit),
                     m_named.levelUnit.value_or(m_unit))});
}

} // namespace fox
