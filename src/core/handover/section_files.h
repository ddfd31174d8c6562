#pragma once
#include "formats/vector.h"
#include "model/section.h"
#include "sequence/unit.h"

namespace fox {

/// A section as a drawing in its own plane: chainage to the right, level upwards, metres. Layers: ground, base_CODE for each
/// base, holes (their paths), contacts, names (points with a label).
std::vector<FeatureLayer> sectionInItsPlane(const Section&, const Sequence&);

/// A section where it lies: layers "surfaces" (lines with levels; unit and surface) and "holes" (points; chainage, offset).
std::vector<FeatureLayer> sectionLayers(const Section&, const Sequence&, const std::string& name, const std::string& crs);

/// A row a place: chainage, easting, northing, ground, base_CODE and sd_CODE of each base. Empty where not known.
std::string sectionCsv(const Section&, const Sequence&);

} // namespace fox
