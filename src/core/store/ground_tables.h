#pragma once
// The ground's side of the store.
#include "ground/background_lines.h"
#include "project/ground_sources.h"

#include <nlohmann/json_fwd.hpp>

namespace SQLite {
class Database;
}

namespace fox {
class RowFaults;
}

namespace fox::ground_tables {

/// All but the outlines. Grids that `before` had are not written again.
void write(SQLite::Database&, const GroundSources&, const GroundSources* before, int system);
void writeOutlines(SQLite::Database&, const Polygon2& siteLimit, const std::vector<GroundSources::Outline>&, int system);
/// Also from a project of an earlier schema. The site's limit, an outline of its own, is put into `siteLimit`.
GroundSources read(SQLite::Database&, RowFaults&, Polygon2& siteLimit);

void writeBackground(SQLite::Database&, const std::vector<BackgroundLines>&, int system);
std::vector<BackgroundLines> readBackground(SQLite::Database&, RowFaults&);

/// A grid as it is kept: frame as JSON, cells packed. @throws Error for too many cells, or not as many as the frame has
std::shared_ptr<const Grid> gridOf(const nlohmann::json& frame, const std::string& packedCells);

std::string text(const ContourChoices&); ///< JSON
ContourChoices contoursOf(const std::string&);
std::string text(const std::vector<PlacedPicture>&);
std::vector<PlacedPicture> picturesOf(const std::string&);

} // namespace fox::ground_tables
