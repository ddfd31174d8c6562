#pragma once
#include "base/errors.h"

#include <filesystem>
#include <string>
#include <string_view>

namespace fox {

/// The bytes of a whole file. @throws FileError naming the file
std::string readBytes(const std::filesystem::path&);
/// Writes beside the target, then renames. @throws FileError, with the target untouched
void writeBytes(const std::filesystem::path&, std::string_view bytes);

/// Write to scratch(); commit() moves it over the target. Otherwise the target stays as it was.
class ReplaceFile {
public:
    explicit ReplaceFile(std::filesystem::path target);
    ReplaceFile(const ReplaceFile&) = delete;
    ReplaceFile& operator=(const ReplaceFile&) = delete;
    ~ReplaceFile(); ///< removes the scratch file
    /// In the target's folder, with the target's ending (libraries choose a format by it).
    const std::filesystem::path& scratch() const noexcept { return m_scratch; }
    const std::filesystem::path& target() const noexcept { return m_target; }
    void commit(); ///< @throws FileError, with the target untouched

private:
    std::filesystem::path m_target, m_scratch;
};

} // namespace fox
