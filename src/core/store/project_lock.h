#pragma once
#include <filesystem>
#include <optional>

namespace fox {

/// The right to write to a project file, one holder at a time, also among processes. It goes with this object, and with the
/// process however that ends. (A lock of an open file description on a byte that SQLite does not use.)
class ProjectLock {
public:
    /// None if somebody else has it, or the file may not be written to.
    static std::optional<ProjectLock> take(const std::filesystem::path&);
    ProjectLock(ProjectLock&&) noexcept;
    ProjectLock& operator=(ProjectLock&&) noexcept;
    ~ProjectLock();

private:
    explicit ProjectLock(int descriptor) : m_descriptor(descriptor) {}
    int m_descriptor = -1;
};

} // namespace fox
