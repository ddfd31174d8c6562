#pragma once
#include "base/errors.h"

#include <filesystem>
#include <functional>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

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
    void* m_registered = nullptr; ///< so that it goes too if the process is stopped
};

/// From now on SIGINT, SIGTERM and SIGHUP remove the scratch files that are being written before the process ends.
void removeScratchFilesWhenStopped();

/// Several files that appear together or, if one can't be made, not at all.
class ReplaceFiles {
public:
    /// Calls write with a scratch path in the target's folder. @throws what write throws
    void add(const std::filesystem::path& target, const std::function<void(const std::filesystem::path& scratch)>& write);
    /// Takes in what another one has prepared, so that all of both or none is written.
    void take(ReplaceFiles&& others);
    void commit(); ///< @throws FileError
    std::vector<std::filesystem::path> targets() const;

private:
    std::vector<std::unique_ptr<ReplaceFile>> m_files;
};

} // namespace fox
