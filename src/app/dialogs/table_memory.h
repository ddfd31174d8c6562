#pragma once
#include "holes/table_holes.h"

namespace fox::app {

// How tables with certain columns were read last time, kept in the user's settings.
void remember(const TableMapping&);
std::optional<TableMapping> remembered(const std::vector<std::string>& columns);

} // namespace fox::app
