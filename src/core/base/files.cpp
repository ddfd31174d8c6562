#include "base/files.h"

#include "base/errors.h"

#include <atomic>
#include <csignal>
#include <cstring>
#include <deque>
#include <fmt/format.h>
#include <fstream>
#include <random>
#include <unistd.h>

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

namespace {

/// Scratch files that are being written, for a signal handler: it may neither lock nor ask for memory.
struct ScratchFile {
    std::atomic<bool> taken = false, named = false;
    char path[4096];
};
constexpr std::size_t kMostScratchFiles = 256;
ScratchFile scratchFiles[kMostScratchFiles];

ScratchFile* registered(const std::string& path) {
    if (path.size() >= sizeof ScratchFile::path) return nullptr;
    for (auto& f : scratchFiles)
        if (!f.taken.exchange(true)) {
            std::memcpy(f.path, path.c_str(), path.size() + 1);
            f.named = true;
            return &f;
        }
    return nullptr; // more at once than anyone writes: these stay behind if the process is stopped
}

extern "C" void removeScratchFiles(int signal) {
    constexpr char kJournal[] = "-journal"; // of a database
    for (auto& f : scratchFiles)
        if (f.named) {
            ::unlink(f.path);
            const auto length = std::strlen(f.path);
            if (length + sizeof kJournal > sizeof f.path) continue;
            std::memcpy(f.path + length, kJournal, sizeof kJournal);
            ::unlink(f.path);
        }
    ::_exit(128 + signal);
}

} // namespace

void removeScratchFilesWhenStopped() {
    for (const int signal : {SIGINT, SIGTERM, SIGHUP}) std::signal(signal, removeScratchFiles);
}

ReplaceFile::ReplaceFile(std::filesystem::path target) : m_target(std::move(target)) {
    if (const auto folder = m_target.parent_path(); !folder.empty() && !std::filesystem::is_directory(folder))
        throw FileError(fmt::format("{} can't be written: there is no folder {}.", m_target.string(), folder.string()));
    static thread_local std::mt19937 random{std::random_device{}()};
    m_scratch =
        m_target.parent_path() / fmt::format(".{}.{:08x}{}", m_target.stem().string(), random(), m_target.extension().string());
    m_registered = registered(m_scratch.string());
}

ReplaceFile::~ReplaceFile() {
    std::error_code ignored; // nothing can be done about it in a destructor
    std::filesystem::remove(m_scratch, ignored);
    if (auto* f = static_cast<ScratchFile*>(m_registered)) f->named = false, f->taken = false;
}

void ReplaceFile::commit() {
    std::error_code code;
    std::filesystem::rename(m_scratch, m_target, code);
    if (code) throw FileError(fmt::format("{} can't be written: {}.", m_target.string(), code.message()));
}

void ReplaceFiles::add(const std::filesystem::path& target, const std::function<void(const std::filesystem::path&)>& write) {
    write(m_files.emplace_back(std::make_unique<ReplaceFile>(target))->scratch());
}

void ReplaceFiles::take(ReplaceFiles&& others) {
    for (auto& file : others.m_files) m_files.push_back(std::move(file));
    others.m_files.clear();
}

void ReplaceFiles::commit() {
    // what is there is put aside until all is in its place
    std::deque<ReplaceFile> aside;
    std::size_t done = 0;
    std::error_code code;
    try {
        for (auto& f : m_files) {
            aside.emplace_back(f->target());
            if (std::filesystem::is_regular_file(f->target(), code)) std::filesystem::rename(f->target(), aside.back().scratch());
            f->commit();
            ++done;
        }
    } catch (const std::exception& e) {
        for (std::size_t i = 0; i < aside.size(); ++i) {
            if (i < done) std::filesystem::remove(m_files[i]->target(), code);
            if (std::filesystem::exists(aside[i].scratch(), code))
                std::filesystem::rename(aside[i].scratch(), m_files[i]->target(), code);
        }
        throw FileError(e.what());
    }
}

std::vector<std::filesystem::path> ReplaceFiles::targets() const {
    std::vector<std::filesystem::path> out;
    for (const auto& f : m_files) out.push_back(f->target());
    return out;
}

} // namespace fox
