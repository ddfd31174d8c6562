#include "base/files.h"

#include "base/errors.h"

#include <fmt/format.h>
#include <fstream>
#include <random>

namespace fox {

std::string readBytes(const std::filesystem::path& file) {
    std::error_code code;
    if (std::filesystem::is_directory(file, code)) throw FileError(fmt::format("{} is a folder, not a file.", file.string()));
    std::ifstream in(file, std::ios::binary);
    if (!in) throw FileError(fmt::format("{} can't be opened: is it there, and may you read it?", file.string()));
    std::string bytes;
    const auto size = std::filesystem::file_size(file, code);
    if (!code) bytes.reserve(size);
    char block[1 << 16];
    while (in.read(block, sizeof block) || in.gcount() > 0) bytes.append(block, std::size_t(in.gcount()));
    if (in.bad()) throw FileError(fmt::format("{} could not be read to its end.", file.string()));
    return bytes;
}

void writeBytes(const std::filesystem::path& file, std::string_view bytes) {
    ReplaceFile replace(file);
    {
        std::ofstream out(replace.scratch(), std::ios::binary);
        out.write(bytes.data(), std::streamsize(bytes.size()));
        out.flush();
        if (!out) throw FileError(fmt::format("{} can't be written: is the folder there, and is there room?", file.string()));
    }
    replace.commit();
}

ReplaceFile::ReplaceFile(std::filesystem::path target) : m_target(std::move(target)) {
    static thread_local std::mt19937 random{std::random_device{}()};
    m_scratch =
        m_target.parent_path() / fmt::format(".{}.{:08x}{}", m_target.stem().string(), random(), m_target.extension().string());
}

ReplaceFile::~ReplaceFile() {
    std::error_code ignored; // nothing can be done about it in a destructor
    std::filesystem::remove(m_scratch, ignored);
}

void ReplaceFile::commit() {
    std::error_code code;
    std::filesystem::rename(m_scratch, m_target, code);
    if (code) throw FileError(fmt::format("{} can't be written: {}.", m_target.string(), code.message()));
}

void ReplaceFiles::add(const std::filesystem::path& target, const std::function<void(const std::filesystem::path&)>& write) {
    write(m_files.emplace_back(target).scratch());
}

void ReplaceFiles::commit() {
    for (auto& f : m_files) f.commit();
}

std::vector<std::filesystem::path> ReplaceFiles::targets() const {
    std::vector<std::filesystem::path> out;
    for (const auto& f : m_files) out.push_back(f.target());
    return out;
}

} // namespace fox
