#include "dialogs/table_memory.h"

#include "base/length_unit.h"

#include <QSettings>

namespace fox::app {

namespace {

/// Under which name the settings keep how a table with these columns was read.
QString rememberedKey(const std::vector<std::string>& columns) {
    QStringList names;
    for (const auto& c : columns) names << QString::fromStdString(c).toLower();
    return "tables/" + QString::number(qHash(names.join('\t')), 16);
}

} // namespace

void remember(const TableMapping& mapping) {
    QStringList roles;
    for (const auto r : mapping.roles) roles << QString::number(int(r));
    QStringList units;
    for (const auto& u : mapping.units) units << QString::fromStdString(u);
    QSettings().setValue(rememberedKey(mapping.columns), roles.join(',') + ";" + units.join(','));
}

std::optional<TableMapping> remembered(const std::vector<std::string>& columns) {
    const auto saved = QSettings().value(rememberedKey(columns)).toString();
    if (saved.isEmpty()) return {};
    TableMapping mapping{columns, {}, {}};
    for (const auto& r : saved.section(';', 0, 0).split(','))
        mapping.roles.push_back(ColumnRole(std::clamp(r.toInt(), 0, kColumnRoles - 1)));
    for (const auto& u : saved.section(';', 1, 1).split(','))
        mapping.units.push_back(lengthUnitNamed(u.toStdString()) ? u.toStdString() : std::string());
    mapping.units.resize(columns.size());
    return mapping.roles.size() == columns.size() ? std::optional(mapping) : std::nullopt;
}

void rememberPoints(const std::vector<std::string>& columns, const SourceSettings& s) {
    QSettings().setValue(
        "points/" + rememberedKey(columns),
        QStringList{QString::number(int(s.as)), QString::number(int(s.surface)), QString::number(s.unit, 'g', 17)});
}

bool takeRememberedPoints(const std::vector<std::string>& columns, SourceSettings& s) {
    const auto saved = QSettings().value("points/" + rememberedKey(columns)).toStringList();
    using As = SourceSettings::As;
    const bool known = saved.size() == 3 && saved[0].toInt() >= int(As::SurveyPoints) && saved[0].toInt() <= int(As::Values);
    if (!known) return false;
    s.as = As(saved[0].toInt());
    s.surface = saved[1].toInt() == 1 ? ContactSurface::Top : ContactSurface::Base;
    s.unit = std::clamp(saved[2].toDouble(), 0.0, 1000.0);
    return true;
}

void rememberOrder(const std::vector<std::string>& columns) {
    QStringList names;
    for (const auto& c : columns) names << QString::fromStdString(c);
    QSettings().setValue(QString("orders/%1").arg(columns.size()), names);
}

std::optional<std::vector<std::string>> rememberedOrder(std::size_t columns) {
    const auto saved = QSettings().value(QString("orders/%1").arg(columns)).toStringList();
    if (saved.isEmpty() || std::size_t(saved.size()) != columns) return {};
    std::vector<std::string> out;
    for (const auto& name : saved) out.push_back(name.toStdString());
    return out;
}

} // namespace fox::app
