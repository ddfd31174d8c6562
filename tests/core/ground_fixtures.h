#pragma once
// Ground data as the import understands it, and projects that take it.
#include "fixtures.h"
#include "importing/ground_import.h"

namespace fox::test {

inline ImportPreview grounded(const std::filesystem::path& path, SourceSettings settings = {},
                              const std::string& crs = "EPSG:25831") {
    SourceFile file{path.filename().string(), "", {}, 0, {}, std::move(settings), path.string()};
    loadBytes(file);
    return readSource(std::move(file), crs);
}

inline Project inUtm() {
    Project p;
    Site site;
    site.crs = "EPSG:25831";
    p.site = part(site);
    return p;
}

inline Project with(Project p, const std::filesystem::path& path, SourceSettings settings = {}) {
    return importSource(p, grounded(path, std::move(settings))).project;
}

} // namespace fox::test
