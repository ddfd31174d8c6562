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

/// The order that was answered for the last table without a header of so many columns. It is offered, never taken unasked: the
/// next surveyor may well write northings first.
void rememberOrder(const std::vector<std::string>& columns);
std::optional<std::vector<std::string>> rememberedOrder(std::size_t columns);

} // namespace fox::app
