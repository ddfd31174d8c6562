#pragma once
#include "formats/vector.h"
#include "ground/area.h"
#include "ground/survey.h"

namespace fox {

/// What the features of a vector file are to the ground.
enum class LineRole { Breaklines, Contours, Outlines, Points };
const char* words(LineRole); ///< "breaklines"
std::optional<LineRole> lineRole(std::string_view);

/// How a vector file is read.
struct LineChoices {
    std::optional<LineRole> role; ///< none: what it looks like
    std::string levelField;       ///< column with the level; empty: the geometry's
    double thin = 0;              ///< metres; see thinned()
    Area keep;                    ///< only what lies inside, cut at its edge, before anything else
    std::vector<std::string> layersOut;
};

/// What a vector file gives.
struct GroundLines {
    LineRole role = LineRole::Breaklines;
    std::string levelField;          ///< as chosen or proposed
    std::vector<std::string> fields; ///< columns that hold numbers, the one most like a level first
    std::string crs;
    std::vector<std::pair<std::string, std::size_t>> layers; ///< name and features
    std::vector<Polyline3> lines;                            ///< kNoValue where there is no level
    std::vector<Point3> points;                              ///< points, and inserted blocks that have a level
    struct Outline {
        std::string name; ///< from an attribute if one is there
        RingWithHoles shape;
    };
    std::vector<Outline> outlines;
    std::size_t verticesRead = 0, verticesKept = 0; ///< before and after keeping and thinning
    Findings findings;
};

/// Layers become lines, points and outlines by the choices. Without a level field one is proposed where the geometry is
/// flat at 0 and a column's name says level, unless the role is breaklines: these may well have none. Empty layers, lines of one
/// point, no levels at all, coordinates that are no numbers: findings with the file's name. @throws FileError if a level field is
/// named that is not there
GroundLines groundLinesOf(const std::vector<FeatureLayer>&, const LineChoices&, const std::string& file);

/// Lines through survey points that carry a string's code: the code alone ("TB"), or with a number ("TB1", "TB 2").
/// Points of one string are joined in the survey's order. Codes with fewer than two points give none.
std::vector<Polyline3> stringsOf(const std::vector<SurveyPoint>&, const std::string& code);
/// Codes that look like strings: those that are numbered.
std::vector<std::string> stringCodes(const std::vector<SurveyPoint>&);
/// "TB1" to "TB", "GL" to "GL".
std::string codeWithoutNumber(std::string_view);

} // namespace fox
