#include "project/finding_rules.h"

#include <algorithm>

namespace fox {

const std::vector<FindingRule>& findingRules() {
    using enum Stage;
    using enum Severity;
    static const std::vector<FindingRule> kRules{
        {"FC-PROJECT-FILE", Site, Warning,
         "a table or row of the project file that can't be read, or was changed by another program"},
        {"FC-EXTENT", Site, Note, "ground beyond the extent of the model"},
        {"FC-SYSTEM", Holes, Error, "positions outside their coordinate system"},
        {"FC-FORM", Holes, Warning, "a fault of form that no rule of the standard has"},
        {"FC-UNIT", Holes, Note, "lengths that were turned into metres"},
        {"FC-ID", Holes, Warning, "a hole whose id is written in another way elsewhere in its file"},
        {"FC-FILES", Holes, Note, "files beside a data file that are not imported"},
        {"FC-LAS", Holes, Warning, "a fault of a LAS file"},
        {"FC-TABLE", Holes, Warning, "a fault of a table of holes"},
        {"FC-PLACE", Holes, Warning, "no coordinates, or 0, 0"},
        {"FC-SWAPPED", Holes, Warning, "easting and northing look swapped"},
        {"FC-FAR-OFF", Holes, Warning, "a hole far from all others"},
        {"FC-TWIN", Holes, Warning, "a hole on the spot of another one"},
        {"FC-LEVEL", Holes, Warning, "no ground level"},
        {"FC-ZERO-LEVEL", Holes, Warning, "a ground level of 0 where others are far from it"},
        {"FC-OFF-TERRAIN", Holes, Warning, "a ground level far off the terrain made without it"},
        {"FC-UPSIDE-DOWN", Holes, Warning, "an interval whose base is at or above its top"},
        {"FC-OVERLAP", Holes, Warning, "intervals that overlap"},
        {"FC-GAP", Holes, Warning, "a part of a hole that is not logged"},
        {"FC-BELOW-END", Holes, Warning, "geology, samples, tests or water below the final depth"},
        {"FC-FINAL-DEPTH", Holes, Warning, "no final depth"},
        {"FC-FEET", Holes, Warning, "depths that look like feet"},
        {"FC-FORMAT", Holes, Error, "a file that is empty or of no known format"},
        {"FC-NUMBER", Holes, Warning, "a number with thousands or a decimal comma, and what it was read as"},
        {"FC-DEPTH", Holes, Warning, "an interval without depths, or whose base was taken from what follows"},
        {"FC-LOG", Holes, Warning, "no geology"},
        {"FC-PATH", Holes, Warning, "a hole's path without depth or inclination, or one that rises or lies flat"},
        {"FC-LOCAL-GRID", Holes, Warning, "holes on the site's own grid only, or control points that stretch it"},
        {"FC-SPELLING", Holes, Warning, "a code of which a file has several spellings"},
        {"FC-WATER", Holes, Warning, "a reading of water that can't be turned into a depth"},
        {"FC-VALUE", Holes, Error, "a value at a point in space that can't be read"},
        {"FC-CORRECTION", Holes, Note, "a correction that a newer issue of the file made void"},
        {"FC-SURVEY", Ground, Error, "survey rows that can't be read"},
        {"FC-TWO-LEVELS", Ground, Warning, "places with two levels"},
        {"FC-CROSSING", Ground, Warning, "breaklines that disagree where they cross"},
        {"FC-NO-LEVEL", Ground, Warning, "lines without levels outside the ground or their search distance"},
        {"FC-POINT-OFF", Ground, Warning, "a ground point far off its neighbours"},
        {"FC-MENDED", Ground, Warning, "a manual edit that the data no longer has a place for"},
        {"FC-LINES", Ground, Warning, "empty layers, lines of one vertex, no levels"},
        {"FC-OUTLINE", Ground, Warning, "an outline that crosses itself"},
        {"FC-NOT-FINITE", Ground, Error, "coordinates that are not numbers"},
        {"FC-GRID", Ground, Warning, "a grid without a coordinate system or values, or one that was reprojected"},
        {"FC-PICTURE", Ground, Warning, "a background image without a position"},
        {"FC-SENSE", Ground, Warning, "coordinates outside the area that the system is meant for"},
        {"FC-CODE", Sequence, Warning, "a logged code that is not a unit"},
        {"FC-CONTACT", Sequence, Error, "a contact that is in no log and can't be used: no unit, no level, no such hole"},
        {"FC-ORDER", Sequence, Warning, "a unit out of the sequence's order"},
        {"FC-DEEPER", Sequence, Warning, "a log that goes on below all units"},
        {"FC-CHOICE", Sequence, Warning, "a choice for an interval that the log no longer has"},
        {"FC-READING", Sequence, Warning, "a row of a table of unit assignments that can't be used"},
        {"FC-MANY", Model, Note, "a base with more contact data than the automatic average takes"},
        {"FC-BOUND", Model, Warning, "a limit that contradicts data or another limit"},
        {"FC-OUTSIDE", Model, Warning, "contacts that lie where what they are measured from has no level"},
        {"FC-FAULT", Model, Warning, "a side of a fault without a hole"},
        {"FC-SMOOTH", Model, Note, "a nugget that the equations needed"},
        {"FC-NO-BASE", Model, Warning, "no hole shows the base"},
        {"FC-CROSSES", Model, Note, "where a base rises above what lies over it"},
        {"FC-NAMED", Ground, Warning, "a named surface of which nothing is left to be made from"},
        {"FC-LAYERS", Model, Warning, "points of a layered grid or mesh without a number where one is needed"},
        {"FC-BLOCKS", Model, Warning, "values that can't be used for blocks"},
        {"FC-WHERE", Model, Warning, "a row without a place, of a file of places"},
        {"FC-MISSED", Model, Warning, "a contact that the model does not have within a centimetre, and what moved the base"},
        {"FC-THIN", Model, Note, "where a unit is taken as absent because it would be too thin"},
        {"FC-RANGE", Model, Warning, "a model's volume outside the range of its realisations"},
        {"FC-CLIPPED", Model, Note, "where a unit is taken as absent because it would lie outside its outline"},
    };
    return kRules;
}

Stage stageOf(std::string_view rule) {
    const auto& rules = findingRules();
    const auto at = std::ranges::find(rules, rule, [](const FindingRule& r) { return std::string_view(r.code); });
    return at == rules.end() ? Stage::Holes : at->stage;
}

} // namespace fox
