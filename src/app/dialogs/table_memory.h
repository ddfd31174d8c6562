#pragma once
#include "importing/import.h"

namespace fox::app {

// How tables with certain columns were read last time, kept in the user's settings.
void remember(const TableMapping&);
std::optional<TableMapping> remembered(const std::vector<std::string>& columns);

/// What the rows of a table with these columns are, and how they are read, of a table of points with a header.
void rememberPoints(const std::vector<std::string>& columns, const SourceSettings&);
/// Takes that into the settings. False if nothing is remembered.
bool takeRememberedPoints(const std::vector<std::string>& columns, SourceSettings&);

} // namespace fox::app
