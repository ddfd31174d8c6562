#pragma once
#include "holes/hole.h"

namespace fox {

/// What is assumed where a sounding is judged; it is shown wherever the results are.
struct SoundingAssumptions {
    double unitWeight = 18; ///< of the ground, kN/m3
    Depth water;            ///< depth to the water, from where its pressure is taken as hydrostatic
    std::string waterFrom;  ///< in words: "measured with the sounding"
};
/// What is stated of the push; else, of water, that measured with the push, else the latest reading in the hole, else the
/// shallowest strike, else at the ground.
SoundingAssumptions assumedFor(const Hole&, const Sounding&);
/// "unit weight 18 kN/m3, water at 2.00 m (measured with the sounding)"
std::string words(const SoundingAssumptions&);

/// Soil behaviour by the index Ic.
struct SoilBehaviour {
    double below; ///< upper limit of the index
    const char* words;
    const char* colour; ///< "#RRGGBB"
};
/// From the lowest index to the highest, whose limit is infinite.
const std::vector<SoilBehaviour>& soilBehaviours();
const SoilBehaviour& soilBehaviour(double index);

/// What follows from the readings of one push: "friction ratio" (%) and "corrected cone resistance" (MPa) where the file has
/// none, "normalised resistance", "normalised friction ratio" (%) and "soil behaviour index". Corrected resistance qt = qc + u2
/// (1 - a), which needs the shoulder pore pressure and the area ratio, else it is taken as qc; Qt = (qt - sv) / sv', Fr = 100 fs
/// / (qt - sv), Ic = sqrt((3.47 - log Qt)^2 + (log Fr + 1.22)^2), as in EN ISO 22476-1 and usual practice. kNoValue where a
/// logarithm has none.
std::vector<Curve> derivedTracks(const Hole&, const Sounding&, const SoundingAssumptions&);

/// Stretches of one behaviour after another, those shorter than `least` metres joined to the one before.
struct BehaviourZone {
    Depth top, base;
    const SoilBehaviour* behaviour = nullptr;
};
std::vector<BehaviourZone> behaviourZones(const Curve& index, double least);

/// Readings for drawing: of each `step` metres of depth the first, the lowest, the highest and the last, so that no peak is lost.
/// Those without a value stay where they part the line.
std::vector<Curve::Reading> thinned(const std::vector<Curve::Reading>&, double step);

} // namespace fox
