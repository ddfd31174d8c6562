#include "holes/file_check.h"

#include "base/files.h"
#include "base/parallel.h"
#include "base/text.h"
#include "formats/ags_check.h"
#include "formats/workbook.h"
#include "holes/ags_holes.h"
#include "holes/hole_checks.h"
#include "holes/las_holes.h"
#include "holes/table_holes.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>

namespace fox {

namespace {

void append(Findings& to, Findings more) {
    to.insert(to.end(), std::make_move_iterator(more.begin()), std::make_move_iterator(more.end()));
}

FileCheck checkTables(const std::vector<Table>& tables, const char* format) {
    FileCheck out{format, "", {}};
    for (const auto& table : tables) {
        const auto mapping = guessMapping(table);
        if (whatItHolds(mapping).empty()) continue;
        auto read = holesOf(table, mapping, table.name);
        append(out.findings, std::move(read.findings));
        if (mapping.has(ColumnRole::Easting)) append(out.findings, checkHoles(read.holes));
    }
    return out;
}

std::set<std::string> edition3Files(const AgsFile& file) {
    return file.edition == AgsEdition::Ags3 ? std::set<std::string>{file.name} : std::set<std::string>{};
}

} // namespace

void addUnlessKnown(Findings& checked, Findings read) {
    std::map<int, std::vector<std::pair<std::string, std::string>>> known; // rules and headings by line
    for (const auto& f : checked)
        if (f.rule.starts_with("AGS")) known[f.line].push_back({f.rule, f.heading});
    std::erase_if(read, [&](const Finding& f) {
        const auto at = f.rule.starts_with("AGS") ? known.find(f.line) : known.end();
        return at != known.end() && std::ranges::any_of(at->second, [&](const auto& k) {
                   return k.first == f.rule || (!f.heading.empty() && k.second == f.heading);
               });
    });
    append(checked, std::move(read));
}

FileCheck checkFile(const std::filesystem::path& path, const Progress& progress) {
    auto bytes = readBytes(path);
    const auto name = path.filename().string();
    FileCheck out;
    if (looksLikeAgs(bytes)) {
        const auto file = readAgs(std::move(bytes), name, progress);
        out = {"AGS", file.version, {}};
        AgsHoles content;
        parallelFor(2, 1, [&](std::size_t part, std::size_t) {
            part == 0 ? void(out.findings = checkAgs(file, path.parent_path(), progress)) : void(content = holesOf(file));
        });
        addUnlessKnown(out.findings, std::move(content.findings));
        append(out.findings, checkHoles(content.holes, edition3Files(file)));
    } else if (looksLikeLas(bytes)) {
        const auto file = readLas(bytes, name, progress);
        auto hole = holeOf(file);
        out = {"LAS", file.version, file.findings};
        append(out.findings, std::move(hole.findings));
    } else if (isWorkbookName(name)) {
        out = checkTables(readWorkbook(bytes, name), lower(path.extension().string()) == ".ods" ? "ODS" : "XLSX");
    } else if (const auto ending = lower(path.extension().string()); ending == ".csv" || ending == ".txt" || ending == ".tsv") {
        out = checkTables({readTable(bytes, name)}, "CSV");
    } else {
        throw FileError(fmt::format("{} is neither AGS, LAS nor a table: there are no rules to check it by.", path.string()));
    }
    std::ranges::stable_sort(out.findings, {}, &Finding::line);
    return out;
}

} // namespace fox
