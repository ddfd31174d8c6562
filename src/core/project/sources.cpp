#include "project/sources.h"

#include <fmt/format.h>

namespace fox {

std::string uniqueName(const std::vector<SourceFile>& files, const std::string& wanted) {
    const auto taken = [&](const std::string& name) { return std::ranges::count(files, name, &SourceFile::name) > 0; };
    if (!taken(wanted)) return wanted;
    const std::filesystem::path path(wanted);
    for (int n = 2;; ++n)
        if (const auto name = fmt::format("{} ({}){}", path.stem().string(), n, path.extension().string()); !taken(name))
            return name;
}

} // namespace fox
