#pragma once
#include "sequence/unit.h"

namespace fox {

/// The principal soil or rock of a description by the terms of BS 5930 and ISO 14688: the word in capitals ("Stiff brown
/// slightly gravelly CLAY" is clay), else the last material that is a noun ("firm sandy clay with gravel" is clay: what
/// stands behind "with" or in brackets is secondary). "made ground", "peat", "topsoil", "mudstone" and so on. Empty if the
/// words name none.
std::string principalMaterial(std::string_view description);

/// A code as the logs have it.
struct LoggedCode {
    std::string code;
    int intervals = 0, holes = 0;
    double metres = 0;
    std::string material; ///< the commonest principal material of its descriptions
    std::string example;  ///< one description
};
/// All codes of a column, the commonest first. Intervals without a code are one entry with an empty code.
std::vector<LoggedCode> loggedCodes(const Holes&, const std::string& heading);

} // namespace fox
