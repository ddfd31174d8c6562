#pragma once
#include "base/errors.h"

#include <filesystem>
#include <fmt/format.h>

namespace fox::run {

/// What is wrong with a specification names its file.
template <typename Make>
auto ofSpecification(const std::filesystem::path& file, Make&& make) {
    try {
        return make();
    } catch (const UsageError& e) {
        throw UsageError(fmt::format("{}: {}", file.string(), e.what()));
    } catch (const FileError& e) {
        throw FileError(fmt::format("{}: {}", file.string(), e.what()));
    }
}

} // namespace fox::run
