#include "products/file_products.h"

#include "base/errors.h"
#include "formats/ags_changes.h"

namespace fox {

namespace {

std::size_t bytesOf(const AgsFile& file) {
    std::size_t bytes = sizeof(file) + fox::bytesOf(file.findings);
    for (const auto& g : file.groups) bytes += sizeof(g) + fox::bytesOf(g.rows) + fox::bytesOf(g.cells);
    return bytes;
}

} // namespace

std::vector<std::shared_ptr<const AgsFile>> importedTables(const Making& making) {
    const auto& p = making.project;
    std::vector<std::shared_ptr<const AgsFile>> out;
    making.progress.report(0.62, "Reading imported tables");
    for (const auto& f : *p.files) {
        out.emplace_back();
        if (!f.format.starts_with("AGS")) continue;
        std::vector<CellChange> changes;
        for (const auto& c : *p.corrections)
            if (c.file == f.name) changes.push_back({c.line, c.heading, c.after});
        const auto key = changes.empty() ? ProductKey{f.bytes.text} : ProductKey{f.bytes.text, p.corrections};
        out.back() = making.cache.get(
            "tables of " + f.name, key,
            [&] {
                auto file = readAgs(*f.bytes, f.name, making.progress.silent());
                change(file, changes);
                return file;
            },
            [&](const AgsFile& file) { return bytesOf(file) + f.bytes.text->size(); });
    }
    return out;
}

std::vector<std::shared_ptr<const Picture>> pictures(const Making& making) {
    const auto& p = making.project;
    std::vector<std::shared_ptr<const Picture>> out;
    for (const auto& placed : *p.pictures) {
        out.emplace_back();
        const auto file = std::ranges::find(*p.files, placed.file, &SourceFile::name);
        if (file == p.files->end()) continue;
        making.progress.report(0.63, "Reading " + placed.file);
        try {
            out.back() = making.cache.get(
                "picture " + placed.file, {file->bytes.text}, [&] { return readPicture(*file->bytes, file->name); },
                [](const Picture& picture) { return sizeof(picture) + bytesOf(picture.rgba); });
        } catch (const Error&) { // it was said when it was imported
        }
    }
    return out;
}

} // namespace fox
