#include "formats/archive.h"

#include "base/text.h"
#include "formats/gdal_session.h"

#include <fmt/format.h>
#include <fstream>

#include <cpl_vsi.h>
#include <unistd.h>

// The archive is read through GDAL's file system for zip, which knows large archives and those with names in other encodings.
// Names are checked before anything is unpacked: a name that begins with "/", has "..", a drive or a backslash would lead out of
// the folder. Bytes are counted while they are unpacked: what the archive says of sizes is not relied on.
namespace fox {

namespace {

std::string inside(const std::filesystem::path& archive, const std::string& file) {
    return "/vsizip/{" + archive.string() + "}/" + file;
}

bool leadsOut(const std::string& name) {
    if (name.empty() || name.front() == '/' || name.find('\\') != name.npos || name.find('\0') != name.npos) return true;
    if (name.size() > 1 && name[1] == ':') return true;
    for (const auto part : split(name, '/'))
        if (part == ".." || part == ".") return true;
    return false;
}

struct CloseFile {
    void operator()(VSILFILE* f) const { VSIFCloseL(f); }
};

/// @throws FileError for a file that can't be unpacked
void unpack(const std::filesystem::path& archive, const std::string& file, const std::filesystem::path& to) {
    const std::unique_ptr<VSILFILE, CloseFile> from(VSIFOpenL(inside(archive, file).c_str(), "rb"));
    if (!from)
        throw FileError(fmt::format("{} in {} can't be unpacked. It may be locked by a password: save a copy without one.", file,
                                    archive.filename().string()));
    std::ofstream out(to, std::ios::binary);
    std::vector<char> block(1 << 20);
    std::uintmax_t bytes = 0;
    while (const auto n = VSIFReadL(block.data(), 1, block.size(), from.get())) {
        bytes += n;
        if (bytes > kArchiveBytes)
            throw FileError(fmt::format("{} in {} unpacks to more than {} MB.", file, archive.filename().string(),
                                        kArchiveBytes / 1'000'000));
        out.write(block.data(), std::streamsize(n));
    }
    out.close();
    if (!out) throw FileError(fmt::format("There is no room to unpack {}.", file));
}

std::string stemOf(const std::string& name) {
    const auto slash = name.rfind('/');
    const auto from = slash == name.npos ? 0 : slash + 1;
    return name.substr(0, std::min(name.find('.', from), name.size()));
}

} // namespace

bool isArchiveName(const std::filesystem::path& path) { return equalNoCase(path.extension().string(), ".zip"); }

ArchivePlace archivePlace(const std::filesystem::path& path) {
    std::filesystem::path so;
    for (auto part = path.begin(); part != path.end(); ++part) {
        so /= *part;
        std::error_code code;
        if (!isArchiveName(so) || !std::filesystem::is_regular_file(so, code)) continue;
        std::filesystem::path rest;
        for (++part; part != path.end(); ++part) rest /= *part;
        return {so, rest.generic_string()};
    }
    return {};
}

std::vector<ArchivedFile> filesInArchive(const std::filesystem::path& archive) {
    const GdalSession session;
    const auto name = archive.filename().string();
    VSIDIR* listing = VSIOpenDir(fmt::format("/vsizip/{{{}}}", archive.string()).c_str(), -1, nullptr);
    if (!listing) throw FileError(fmt::format("{} can't be read as a zip archive.", name));
    const std::unique_ptr<VSIDIR, void (*)(VSIDIR*)> close(listing, VSICloseDir);
    std::vector<ArchivedFile> out;
    std::size_t entries = 0;
    while (const auto* entry = VSIGetNextDirEntry(listing)) {
        if (++entries > 2 * kArchiveFiles || out.size() >= kArchiveFiles)
            throw FileError(fmt::format("{} holds more than {} files.", name, kArchiveFiles));
        if (VSI_ISDIR(entry->nMode)) continue;
        const std::string file = entry->pszName;
        if (leadsOut(file))
            throw FileError(fmt::format("{} has a file whose name leads out of the archive ({}): it is not to be trusted.", name,
                                        toUtf8(file)));
        out.push_back({file, std::uintmax_t(entry->nSize)});
    }
    if (out.empty()) throw FileError(fmt::format("{} is not a zip archive, or there is no file in it.", name));
    return out;
}

LocalFile::LocalFile(const std::filesystem::path& path) : m_path(path) {
    const auto place = archivePlace(path);
    if (place.archive.empty() || place.file.empty()) return;
    const GdalSession session;
    const auto files = filesInArchive(place.archive);
    const auto at = std::ranges::find(files, place.file, &ArchivedFile::name);
    if (at == files.end()) throw FileError(fmt::format("{} has no file {}.", place.archive.filename().string(), place.file));
    std::string wanted = (std::filesystem::temp_directory_path() / "fox-archive-XXXXXX").string();
    if (!::mkdtemp(wanted.data())) throw FileError(fmt::format("There is no room to unpack {}.", place.file));
    m_folder = wanted;
    try {
        for (const auto& f : files)
            if (stemOf(f.name) == stemOf(place.file))
                unpack(place.archive, f.name, m_folder / std::filesystem::path(f.name).filename());
    } catch (...) {
        std::error_code ignored; // the first fault is the one to tell
        std::filesystem::remove_all(m_folder, ignored);
        throw;
    }
    m_path = m_folder / std::filesystem::path(place.file).filename();
}

LocalFile::~LocalFile() {
    std::error_code ignored; // nothing can be done about it in a destructor
    if (!m_folder.empty()) std::filesystem::remove_all(m_folder, ignored);
}

std::size_t filesInFileFolder(const std::filesystem::path& path) {
    const auto isIn = [](const std::filesystem::path& file, const std::filesystem::path& parent) {
        const auto folder = file.parent_path();
        return equalNoCase(folder.filename().string(), "FILE") && folder.parent_path() == parent;
    };
    const auto place = archivePlace(path);
    std::size_t n = 0;
    if (!place.file.empty()) {
        const auto parent = std::filesystem::path(place.file).parent_path();
        for (const auto& f : filesInArchive(place.archive)) n += isIn(f.name, parent);
        return n;
    }
    std::error_code code;
    for (const auto& folder : std::filesystem::directory_iterator(path.parent_path(), code))
        if (equalNoCase(folder.path().filename().string(), "FILE") && folder.is_directory(code))
            for (const auto& f : std::filesystem::directory_iterator(folder.path(), code)) n += f.is_regular_file(code);
    return n;
}

bool fileExists(const std::filesystem::path& path) {
    std::error_code code;
    if (std::filesystem::exists(path, code)) return true;
    const auto place = archivePlace(path);
    if (place.archive.empty() || place.file.empty()) return false;
    try {
        const auto files = filesInArchive(place.archive);
        return std::ranges::find(files, place.file, &ArchivedFile::name) != files.end();
    } catch (const FileError&) {
        return false;
    }
}

} // namespace fox
