#include "dialogs/table_memory.h"

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
    QSettings().setValue(rememberedKey(mapping.columns), roles.join(',') + (mapping.feet ? ";feet" : ""));
}

std::optional<TableMapping> remembered(const std::vector<std::string>& columns) {
    const auto saved = QSettings().value(rememberedKey(columns)).toString();
    if (saved.isEmpty()) return {};
    TableMapping mapping{columns, {}, saved.endsWith(";feet")};
    for (const auto& r : saved.section(';', 0, 0).split(','))
        mapping.roles.push_back(ColumnRole(std::clamp(r.toInt(), 0, kColumnRoles - 1)));
    return mapping.roles.size() == columns.size() ? std::optional(mapping) : std::nullopt;
}

} // namespace fox::app
