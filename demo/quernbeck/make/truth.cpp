#include "truth.h"

#include "services/made_up_ground.h"

#include <cmath>

namespace quernbeck {

namespace {

using fox::made_up::beckMiddle;
using fox::made_up::bump;
using fox::made_up::channel;
using fox::made_up::rise;
using fox::made_up::valleyDistance;
using fox::made_up::valleyGround;

} // namespace

const char* code(Unit u) {
    static constexpr const char* kCodes[] = {"TS", "MG", "AL", "PT", "RG", "TU", "SL", "TL", "MW", "MS"};
    return kCodes[u];
}

const char* loggedCode(Unit u) { return u == TU ? "TL" : code(u); }

const char* name(Unit u) {
    static constexpr const char* kNames[] = {
        "Topsoil",   "Made Ground", "Alluvium",           "Peat",    "River Gravel", "Upper Till",
        "Sand Lens", "Till",        "Weathered Mudstone", "Mudstone"};
    return kNames[u];
}

double beckNorthing(double e) { return kSouth + beckMiddle(e - kWest); }
double fromBeck(double e, double n) { return valleyDistance(e - kWest, n - kSouth); }
bool beyondFault(double e, double n) { return (e - kWest) / 420 + (n - kSouth) / 330 < 1; }

double ground(double e, double n) {
    const double u = e - kWest, v = n - kSouth;
    return valleyGround(u, v) - channel(valleyDistance(u, v));
}

std::array<double, kUnits - 1> bases(double e, double n) {
    const double u = e - kWest, v = n - kSouth, d = valleyDistance(u, v), far = std::abs(d);
    const double top = ground(e, n), flood = valleyGround(u, v);
    std::array<double, kUnits - 1> b{};
    const double topsoil = (0.3 + 0.1 * std::sin(u / 70) * std::cos(v / 90)) * rise(far, 8, 11);
    b[TS] = top - topsoil;
    const double tips =
        std::max(0.0, 3.9 * bump(u, v, 420, 330, 75, 50) - 0.4) + std::max(0.0, 3.1 * bump(u, v, 1010, 560, 60, 45) - 0.4);
    b[MG] = b[TS] - tips;
    const double alluvium = 6.0 * std::pow(std::max(0.0, 1 - (d / 205) * (d / 205)), 1.2) * (0.8 + 0.2 * std::sin(u / 150));
    const double natural = flood - tips; // where the valley floor was
    const double alluviumFoot = natural - alluvium;
    const double peat =
        std::min(1.8 * std::max(0.0, 1.15 * bump(u, v, 640, beckMiddle(640) + 25, 240, 85) - 0.15), 0.55 * alluvium);
    b[AL] = std::min(b[MG], alluviumFoot + peat);
    b[PT] = std::min(b[AL], alluviumFoot);
    const double terrace = 8.0 * (1 - rise(far, 170, 360)) * (0.72 + 0.14 * std::sin(u / 190 + 0.6) + 0.08 * std::cos(v / 120));
    const double scour = 8.5 * bump(u, d, 430, 0, 130, 45);
    b[RG] = std::min(b[PT], alluviumFoot - terrace - scour);
    const double rockhead = 13.0 - 0.0045 * u + 0.0030 * v + 1.3 * std::sin(u / 230 + v / 310) - (beyondFault(e, n) ? 6 : 0);
    const double lens = std::max(0.0, 3.4 * bump(u, v, 1240, 620, 260, 260) - 0.5);
    const double middle = rockhead + 0.45 * std::max(0.0, b[RG] - rockhead);
    const double room = std::max(0.0, b[RG] - rockhead - 1.5);
    const double sand = std::min(lens, 0.6 * room);
    b[TU] = std::min(b[RG], middle + sand / 2);
    b[SL] = std::min(b[TU], middle - sand / 2);
    b[TL] = std::min(b[SL], rockhead);
    b[MW] = std::min(b[TL], rockhead - 2.2 - 0.9 * std::sin(u / 170) * std::cos(v / 210));
    return b;
}

double lead(double e, double n, double level) {
    const double u = e - kWest - 405, v = n - kSouth - 338, depth = std::max(0.0, ground(e, n) - level);
    return 30 + 1400 * std::exp(-(u / 28) * (u / 28) - (v / 20) * (v / 20) - depth / 2.5);
}

} // namespace quernbeck
