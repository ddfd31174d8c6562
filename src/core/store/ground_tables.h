#pragma once
// The ground's side of the store.
#include "project/ground_sources.h"

namespace SQLite {
class Database;
}

namespace fox::ground_tables {

void create(SQLite::Database&);  ///< of schema 1: points, lines, outlines
void create3(SQLite::Database&); ///< what schema 3 added: codes and roles, grids, names and uses of outlines
/// All but the outlines. Grids that `before` had are not written again.
void write(SQLite::Database&, const GroundSources&, const GroundSources* before, int system);
void writeOutlines(SQLite::Database&, const Polygon2& siteLimit, const std::vector<GroundSources::Outline>&, int system);
/// Also from a project of an earlier schema.
GroundSources read(SQLite::Database&);
Polygon2 readLimit(SQLite::Database&);

std::string text(const ContourChoices&); ///< JSON
ContourChoices contoursOf(const std::string&);
std::string text(const std::vector<PlacedPicture>&);
std::vector<PlacedPicture> picturesOf(const std::string&);

} // namespace fox::ground_tables
