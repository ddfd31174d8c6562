#pragma once
// Files in zip archives, read without unpacking the archive as a whole.
#include "base/errors.h"

#include <cstdint>
#include <filesystem>
#include <string>
#include <vector>

namespace fox {

// What an archive may hold, at most; what is beyond is refused before it is unpacked.
inline constexpr std::size_t kArchiveFiles = 5000;
inline constexpr std::uintmax_t kArchiveBytes = 4'000'000'000; ///< of one file, unpacked

/// By its ending.
bool isArchiveName(const std::filesystem::path&);

/// A file in an archive is named as if the archive were a folder: /data/site.zip/survey/points.csv.
struct ArchivePlace {
    std::filesystem::path archive;
    std::string file; ///< in the archive, folders separated by "/"; empty: the archive itself
};
/// Where a path leads into an archive; an empty archive if it leads into none.
ArchivePlace archivePlace(const std::filesystem::path&);

struct ArchivedFile {
    std::string name;         ///< with its folders
    std::uintmax_t bytes = 0; ///< unpacked
};
/// All files in an archive, in its order. @throws FileError if it can't be read, is locked by a password, holds too many files,
/// or one whose name leads out of it
std::vector<ArchivedFile> filesInArchive(const std::filesystem::path& archive);

/// A file on the disk, wherever it lies: one in an archive is unpacked into a folder of its own, with the files that go with it
/// (of the same name with other endings), and is gone with this.
class LocalFile {
public:
    /// @throws FileError for a file that the archive has not, or that is too large
    explicit LocalFile(const std::filesystem::path&);
    ~LocalFile();
    LocalFile(const LocalFile&) = delete;
    LocalFile& operator=(const LocalFile&) = delete;
    const std::filesystem::path& path() const { return m_path; }

private:
    std::filesystem::path m_path, m_folder; ///< the folder is empty if nothing was unpacked
};

/// How many files lie in the folder FILE beside a data file, where AGS has those that it names.
std::size_t filesInFileFolder(const std::filesystem::path&);

/// Whether there is such a file, in an archive too.
bool fileExists(const std::filesystem::path&);

} // namespace fox
