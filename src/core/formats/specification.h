#pragma once
// What specifications in JSON have in common: grids, meshes, blocks, excavations.
#include "base/errors.h"
#include "base/point.h"

#include <nlohmann/json.hpp>
#include <string>
#include <string_view>

namespace fox {

/// The document, if its "format" is this and its version is 1. @throws FileError
nlohmann::json specDocument(std::string_view text, const char* format);
/// Runs `read` and turns what the library throws for keys that are missing or of another type into an error. @throws FileError
template <typename Read>
auto readSpec(Read&& read, const char* what) {
    try {
        return read();
    } catch (const nlohmann::json::exception& e) {
        throw FileError(std::string(what) + " has a key that is missing or is not what it must be: " + e.what() + ".");
    }
}

/// A number that is finite, or "`key` must be a number". @throws UsageError
double numberIn(const nlohmann::json&, const char* key);
double positiveIn(const nlohmann::json&, const char* key);
Polyline2 placesIn(const nlohmann::json&, const char* what); ///< [[E, N], ...]

} // namespace fox
