#include "store/project_lock.h"

#include <fcntl.h>
#include <unistd.h>
#include <utility>

namespace fox {

std::optional<ProjectLock> ProjectLock::take(const std::filesystem::path& path) {
    const int descriptor = ::open(path.c_str(), O_RDWR | O_CLOEXEC);
    if (descriptor < 0) return {};
    struct flock range {};
    range.l_type = F_WRLCK;
    range.l_whence = SEEK_SET;
    range.l_start = 0x60000000; // SQLite's own locks are at 0x40000000 and the 511 bytes after it
    range.l_len = 1;
    if (::fcntl(descriptor, F_OFD_SETLK, &range) != 0) {
        ::close(descriptor);
        return {};
    }
    return ProjectLock(descriptor);
}

ProjectLock::ProjectLock(ProjectLock&& o) noexcept : m_descriptor(std::exchange(o.m_descriptor, -1)) {}

ProjectLock& ProjectLock::operator=(ProjectLock&& o) noexcept {
    std::swap(m_descriptor, o.m_descriptor);
    return *this;
}

ProjectLock::~ProjectLock() {
    if (m_descriptor >= 0) ::close(m_descriptor);
}

} // namespace fox
