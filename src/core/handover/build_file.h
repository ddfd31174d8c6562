#pragma once
#include "products/products.h"

#include <nlohmann/json.hpp>

namespace fox {

/// A project made from a build file, step by step as the window would.
struct Built {
    Project project;
    nlohmann::json chosen; ///< what the file left out and was chosen
};

/// Format "fox-cellar-build", version 1; docs/formats.md has the keys. Paths are relative to the file.
/// @throws FileError naming the file that is missing or can't be read, UsageError for values that can't be,
/// Error for the same hole twice from one project or a key of a later version
Built buildProject(const std::filesystem::path& buildFile, const Progress& = {});

/// What the products leave out, from their findings: hole, file, line and why.
struct Exclusion {
    std::string hole, file;
    int line = 0;
    std::string reason;
};
std::vector<Exclusion> exclusionsOf(const Findings&);
/// The choices that show only once the surfaces are made: method, reference, variogram, leave-one-out error.
nlohmann::json chosenSurfaces(const ProductSet&);

} // namespace fox
