#include "base/errors.h"
#include "output.h"
#include "project/export_files.h"
#include "project/store.h"
#include "verbs.h"

#include <fmt/format.h>
#include <iostream>
#include <set>

namespace fox::run {

void exportProject(const Words& w) {
    static const std::set<std::string> kWhat{"ground", "bases", "tops", "thickness", "holes", "contours", "sections", "model"};
    static const std::set<std::string> kAs{"tif", "asc", "xyz", "gpkg", "landxml", "dxf", "obj", "ply", "vtu", "ags"};
    if (!kWhat.contains(w.what)) throw UsageError(fmt::format("--what {}: there are {}.", w.what, fmt::join(kWhat, ", ")));
    if (!kAs.contains(w.as)) throw UsageError(fmt::format("--as {}: there are {}.", w.as, fmt::join(kAs, ", ")));
    const auto set = Products().of(ProjectStore::read(w.file));
    nlohmann::json files = nlohmann::json::array();
    for (const auto& file : exportFiles(*set, w.what, w.as, w.dir)) files.push_back(file.string());
    if (w.json) return print({{"files", files}}, true);
    for (const auto& file : files) std::cout << file.get<std::string>() << '\n';
}

} // namespace fox::run
