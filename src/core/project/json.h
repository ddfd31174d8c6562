#pragma once
// How parts of a project look as JSON, in the store and in build files.
#include "project/project.h"

#include <nlohmann/json.hpp>

namespace fox {

nlohmann::json toJson(const Finding&);
Finding findingOf(const nlohmann::json&);
nlohmann::json toJson(const SurfaceRecipe&);
/// Keys: method, power, neighbours, radius, variogram {model, nugget, partial_sill, range},
/// anisotropy {azimuth, ratio}, from ("level" or "depth"), grid (a frame). Absent ones keep the value of `base`.
/// @throws UsageError for an unknown method, model or reference
SurfaceRecipe recipeOf(const nlohmann::json&, SurfaceRecipe base = {});
/// What a unit has beside code, name, colour, base, logged codes and recipe, under the keys of a build file: sign,
/// least_thickness, logging_accuracy, floor {level} or {below_holes}, outline [[E, N], ...], crossing {kind, metres, unit},
/// water, the keys of standardUnitValues(), values {name: number or {value, unit}} for others.
nlohmann::json detailsOf(const Unit&);
/// @throws UsageError for a word that is none of ours, or a negative thickness
void readDetails(Unit&, const nlohmann::json&);
/// The kinds of values beside the standard ones that the units of a build file have.
std::vector<UnitValueKind> ownValuesOf(const nlohmann::json& units);
/// Keys: reading ("latest", "at-date"), date.
nlohmann::json toJson(const WaterChoice&);
/// @throws UsageError for an unknown word, or a date that is none
WaterChoice waterChoiceOf(const nlohmann::json&);
/// Keys: excluded (chapters that the report does not have), texts {chapter: words of one's own at its head}.
nlohmann::json toJson(const ReportChoices&);
ReportChoices reportChoicesOf(const nlohmann::json&);
/// Keys: name, those of a WaterChoice, unit, points {name: used}, method, maximum_distance (metres).
nlohmann::json toJson(const WaterSurface&);
/// @throws UsageError as waterChoiceOf(), for an unknown method, or without a name
WaterSurface waterSurfaceOf(const nlohmann::json&);
nlohmann::json toJson(const Frame&);
/// @throws UsageError if it is reversed or its cell is not positive, Error for more than limits::kGridCells
Frame frameOf(const nlohmann::json&);
/// The same for a site, whose bases are all gridded. @throws Error for more than limits::kSiteCells
Frame siteFrameOf(const nlohmann::json&);
nlohmann::json toJson(const SourceSettings&);
SourceSettings settingsOf(const nlohmann::json&);
/// NaN and infinity have no form in JSON: null.
nlohmann::json number(double);

} // namespace fox
