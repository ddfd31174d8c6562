#pragma once
#include <filesystem>
#include <fstream>
#include <string>
#include <string_view>

#include <unistd.h>

/// A file for readers that ask for a path: in the system's temporary folder, named by the process, removed at its end.
class ScratchFile {
public:
    explicit ScratchFile(std::string_view ending)
        : m_path(std::filesystem::temp_directory_path() / ("fox-fuzz-" + std::to_string(getpid()) + "." + std::string(ending))) {}
    ScratchFile(const ScratchFile&) = delete;
    ScratchFile& operator=(const ScratchFile&) = delete;
    ~ScratchFile() {
        std::error_code ignored;
        std::filesystem::remove(m_path, ignored);
    }
    const std::filesystem::path& path() const { return m_path; }
    void write(std::string_view bytes) const { std::ofstream(m_path, std::ios::binary).write(bytes.data(), long(bytes.size())); }

private:
    std::filesystem::path m_path;
};
