#include "base/errors.h"
#include "handover/export_files.h"
#include "output.h"
#include "store/store.h"
#include "verbs.h"

#include <fmt/format.h>
#include <iostream>
#include <set>

namespace fox::run {

std::string exportWords() {
    std::string out;
    for (const auto& k : exportKinds()) out += fmt::format("{}{} ({})", out.empty() ? "" : "; ", k.what, fmt::join(k.as, ", "));
    return out;
}

void exportProject(const Options& w) {
    std::set<std::string> what, as;
    for (const auto& k : exportKinds()) {
        what.insert(k.what);
        as.insert(k.as.begin(), k.as.end());
    }
    if (!what.contains(w.what)) throw UsageError(fmt::format("--what {}: there are {}.", w.what, fmt::join(what, ", ")));
    if (!as.contains(w.as)) throw UsageError(fmt::format("--as {}: there are {}.", w.as, fmt::join(as, ", ")));
    ExportOptions options;
    if (w.level) options.map = {MapSurface::Kind::Level, *w.level};
    if (w.depth) options.map = {MapSurface::Kind::Depth, *w.depth};
    options.exaggeration = w.exaggeration;
    options.patterns = w.patterns;
    const auto kind = std::ranges::find(exportKinds(), w.what, [](const ExportKind& k) { return std::string(k.what); });
    const auto set = Products().of(ProjectStore::read(w.file), {}, kind->neededAs(w.as));
    nlohmann::json files = nlohmann::json::array();
    for (const auto& file : exportFiles(*set, w.what, w.as, w.dir, options)) files.push_back(file.string());
    if (w.json) return print({{"files", files}}, true);
    for (const auto& file : files) std::cout << file.get<std::string>() << '\n';
}

} // namespace fox::run
