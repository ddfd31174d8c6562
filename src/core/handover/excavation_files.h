#pragma once
#include "base/files.h"
#include "blocks/excavation.h"

namespace fox {

/// Files of an excavation, waiting for their places: dug.tif, dug.xml (LandXML), bench.gpkg: lines of the dug floor at the levels
/// of benches, and the outline of what is dug. @throws FileError
ReplaceFiles prepareExcavationFiles(const Excavation&, const std::string& crs, const std::filesystem::path& folder);

/// What it comes to, under the keys of the headless tool.
std::string excavationSummary(const Excavation&, const Sequence&, const std::optional<ExcavationRange>& = {});

} // namespace fox
