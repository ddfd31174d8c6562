#pragma once
#include "base/finding.h"
#include "base/point.h"
#include "formats/table.h"
#include "formats/vector.h"
#include "ground/area.h"

#include <string>

namespace fox {

struct SurveyPoint {
    std::string name;
    Point3 place;
    std::string code; ///< the surveyor's feature code
    bool operator==(const SurveyPoint&) const = default;
};

struct Survey {
    std::vector<SurveyPoint> points;
    Findings findings; ///< rows that could not be read, with their lines
    int withoutLevel = 0;
};

/// Which columns of a table hold what. Names are looked for in any case: easting, e, x; northing, n, y;
/// level, z, elevation, height, rl; point, name, id; code, feature. Headings may name a unit of length: "Level (ft)".
struct SurveyColumns {
    std::optional<std::size_t> name, easting, northing, level, code;
    /// Metres in a unit of each, where the heading names one.
    std::optional<double> eastingUnit = {}, northingUnit = {}, levelUnit = {};
    bool complete() const { return easting && northing && level; }
    bool namesUnits() const { return eastingUnit || northingUnit || levelUnit; }
};
SurveyColumns surveyColumns(const Table&);

/// Rows without a level are left out with a note, other bad rows with an error; the rest is read.
/// @throws FileError naming the columns that are not there
Survey surveyOf(const Table&);

/// Each part of a polygon in plan, as it stands.
std::vector<Polygon2> ringsOf(const Feature& polygon);
/// The first area in a file. @throws FileError if there is none
RingWithHoles firstOutline(const std::vector<FeatureLayer>&, const std::string& file);
/// All areas of the first layer that has any, with their holes. @throws FileError if there is none
Area outlineArea(const std::vector<FeatureLayer>&, const std::string& file);

} // namespace fox
