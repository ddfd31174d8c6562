#pragma once
// The invented ground under Quernbeck: ground and bases as formulas of easting and northing. The demo's files
// are made from it, and the benchmark measures the model against it.
#include "base/point.h"

#include <array>
#include <string>
#include <vector>

namespace quernbeck {

inline constexpr double kWest = 480000, kSouth = 6120000, kEast = 481500, kNorth = 6121000;

/// Youngest first. The till over and under the sand lens is one till in the logs.
enum Unit { TS, MG, AL, PT, RG, TU, SL, TL, MW, MS, kUnits };
const char* code(Unit);
/// What a logger writes: TL for both tills.
const char* loggedCode(Unit);
const char* name(Unit);

double ground(double easting, double northing);
/// Bases of TS to MW at a place, never above the one before.
std::array<double, kUnits - 1> bases(double easting, double northing);
/// Distance from the beck's middle, metres, positive north of it.
double fromBeck(double easting, double northing);
/// The northing of the beck's middle.
double beckNorthing(double easting);
/// Lead in the ground of the old gas works, mg/kg; it lies in the western tip, and thins out downwards.
double lead(double easting, double northing, double level);
/// Whether the place is south-west of the fault.
bool beyondFault(double easting, double northing);

} // namespace quernbeck
