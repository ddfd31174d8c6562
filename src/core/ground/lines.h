#pragma once
#include "formats/vector.h"
#include "ground/area.h"
#include "ground/survey.h"

namespace fox {

/// What the features of a vector file are to the ground.
enum class LineRole {
    Breaklines,
    Contours,
    Outlines,
    Points,
    Islands,  ///< areas without ground
    Faults,   ///< traces of faults
    Sections, ///< section lines
    LookOnly, ///< roads, rivers, buildings: no ground
    Guides,   ///< lines that the base of a unit goes through; the unit is named by LineChoices::codeField, or by the layer
};
inline constexpr int kLineRoles = int(LineRole::Guides) + 1;
const char* words(LineRole); ///< "breaklines", "only to look at"
std::optional<LineRole> lineRole(std::string_view);

/// What was said by hand of one object of a file.
struct ObjectChoice {
    std::string layer;
    std::int64_t id = -1;             ///< Feature::id
    bool isOut = false;               ///< not read
    std::optional<double> level = {}; ///< metres; in place of what the file says
    bool operator==(const ObjectChoice&) const = default;
};

/// Only objects with one of these values in a column; no column: all.
struct AttributeFilter {
    std::string field;
    std::vector<std::string> values;
    bool operator==(const AttributeFilter&) const = default;
};
/// As filters and choices call it: "12.5", "kerb", "" for none.
std::string valueInWords(const Feature&, const std::string& field);

/// How a vector file is read.
struct LineChoices {
    std::optional<LineRole> role; ///< none: what it looks like
    std::string levelField;       ///< column with the level; empty: the geometry's
    double thin = 0;              ///< metres; see thinned()
    Area keep;                    ///< only what lies inside, cut at its edge, before anything else
    std::vector<std::string> layersOut;
    std::map<std::string, LineRole> layerRoles;   ///< of layers that are something else than the rest
    std::string numberField = {}, codeField = {}; ///< columns with a point's number and its code; empty: none
    AttributeFilter filter = {};
    std::vector<ObjectChoice> objects = {};
};

/// What a vector file gives.
struct GroundLines {
    LineRole role = LineRole::Breaklines;
    std::string levelField;          ///< as chosen or proposed
    std::vector<std::string> fields; ///< columns that hold numbers, the one most like a level first
    /// Values of each column, with how many objects have each; of columns with more than kMostValues different ones, none.
    std::map<std::string, std::map<std::string, std::size_t>> values;
    static constexpr std::size_t kMostValues = 100;
    std::string crs;
    struct Layer {
        std::string name;
        std::size_t features = 0;
        LineRole role = LineRole::Breaklines;
        bool used = true;
    };
    std::vector<Layer> layers;      ///< in the file's order
    std::vector<Polyline3> lines;   ///< of `role`; kNoValue where there is no level
    std::vector<std::string> codes; ///< of each line, by LineChoices::codeField; empty: none
    /// Lines of layers that are something else.
    struct LayerLines {
        LineRole role;
        std::string layer;
        std::vector<Polyline3> lines;
        std::vector<std::string> codes; ///< of each line
    };
    std::vector<LayerLines> others;
    std::vector<SurveyPoint> points; ///< points, and inserted blocks that have a level
    /// Each object in plan, those too that are left out by hand, to be shown and chosen; none if there are more than
    /// kMostObjects.
    struct Object {
        ObjectChoice choice;
        GeometryKind kind = GeometryKind::Line;
        std::vector<Polyline2> parts;
    };
    std::vector<Object> objects;
    static constexpr std::size_t kMostObjects = 5000;
    struct Outline {
        std::string name; ///< from an attribute if one is there
        RingWithHoles shape;
        bool isIsland = false; ///< its layer is said to have islands
    };
    std::vector<Outline> outlines;
    std::size_t verticesRead = 0, verticesKept = 0; ///< before and after keeping and thinning
    Findings findings;
};

/// Layers become lines, points and outlines by the choices. Without a level field one is proposed where the geometry is
/// flat at 0 and a column's name says level, unless the role is breaklines: these may well have none. Empty layers, lines of one
/// point, no levels at all, coordinates that are no numbers: findings with the file's name. @throws FileError if a level field is
/// named that is not there
/// Closed lines are areas where a layer is said to have outlines or islands.
GroundLines groundLinesOf(const std::vector<FeatureLayer>&, const LineChoices&, const std::string& file);

/// What each layer of a drawing is likely to be, by its levels and its name: lines without levels are only to be looked at.
std::map<std::string, LineRole> proposedLayerRoles(const std::vector<FeatureLayer>&);

/// Lines through survey points that carry a string's code: the code alone ("TB"), or with a number ("TB1", "TB 2").
/// Points of one string are joined in the survey's order. Codes with fewer than two points give none.
std::vector<Polyline3> stringsOf(const std::vector<SurveyPoint>&, const std::string& code);
/// Codes that look like strings: those that are numbered.
std::vector<std::string> stringCodes(const std::vector<SurveyPoint>&);
/// "TB1" to "TB", "GL" to "GL".
std::string codeWithoutNumber(std::string_view);

} // namespace fox
