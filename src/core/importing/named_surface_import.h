#pragma once
#include "importing/import.h"
#include "model/named_surface.h"

namespace fox {

/// A surface from a file, brought to the site's system: triangles (the first surface of LandXML, OBJ, PLY), a grid, or the levels
/// of points and lines of a survey, a drawing or a layer. Named after the file; `findings` has what reading it had to assume.
/// @throws FileError if it has no levels, Error if triangles overlap
NamedSurface readNamedSurface(const std::filesystem::path&, const SiteContext&, Findings& findings, const Progress& = {});

} // namespace fox
