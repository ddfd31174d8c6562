#include "importing/file_edits.h"

#include "base/errors.h"
#include "base/text.h"
#include "importing/import.h"

#include <fmt/format.h>
#include <unordered_map>

namespace fox {

Edited setFileCells(const Project& project, const std::string& fileName, const std::vector<FileCell>& cells) {
    const auto file = std::ranges::find(*project.files, fileName, &SourceFile::name);
    if (file == project.files->end()) throw Error(fmt::format("There is no file {} in the project.", fileName));
    const auto ags = readAgs(*file->bytes, fileName);
    std::unordered_map<int, std::pair<const AgsGroup*, std::size_t>> rows; // by line
    for (const auto& g : ags.groups)
        for (std::size_t r = 0; r < g.rows.size(); ++r) rows.emplace(g.rows[r].line, std::pair(&g, r));
    std::map<std::pair<int, std::string>, std::optional<Correction>> changed; // none: as the file has it
    Correction last;
    bool readAgain = false;
    for (const auto& cell : cells) {
        const auto row = rows.find(cell.line);
        if (row == rows.end()) throw Error(fmt::format("{} has no row of data on line {}.", fileName, cell.line));
        const auto& [group, r] = row->second;
        Correction c{fileName, cell.line, group->name, cell.heading, "", "", cell.value, ""};
        if (const auto column = group->column(cell.heading)) c.before = trimmed(group->cell(r, *column));
        for (const char* id : {"LOCA_ID", "HOLE_ID"})
            if (const auto column = group->column(id)) c.hole = trimmed(group->cell(r, *column));
        c.why = fmt::format("Set {} of {} to {}", c.heading, c.hole.empty() ? c.group : c.hole,
                            c.after.empty() ? "nothing" : c.after);
        readAgain |= *feeds(c.group) != 0;
        last = c;
        changed[{cell.line, cell.heading}] = c.before != c.after ? std::optional(c) : std::nullopt;
    }
    Edited e{project, cells.size() == 1 ? last.why : fmt::format("Set {} values of {}", cells.size(), fileName)};
    auto corrections = *project.corrections;
    std::erase_if(corrections, [&](const Correction& c) { return c.file == fileName && changed.contains({c.line, c.heading}); });
    for (const auto& [at, c] : changed)
        if (c) corrections.push_back(*c);
    e.project.corrections = part(std::move(corrections));
    if (readAgain) {
        const auto again = rereadSource(e.project, fileName, file->settings);
        e.project.holes = again.project.holes;
        e.project.files = again.project.files;
    }
    return e;
}

} // namespace fox
