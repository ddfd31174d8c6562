#pragma once
#include "project/project.h"

namespace fox {

/// All values at points in space, as points: quantity, unit_of_measure, value, sign ("<" or ">", empty: the value itself), used,
/// source file and line, level.
FeatureLayer valueLayer(const Project&);
/// The same as a table: quantity,unit_of_measure,easting,northing,level,sign,value,used,file,line.
std::string valuesCsv(const Project&);

} // namespace fox
