#include "handover/report_pages.h"

#include "base/errors.h"
#include "base/text.h"
#include "handover/file_word.h"
#include "handover/sheet_targets.h"
#include "paper/render.h"

#include <fmt/format.h>
#include <utility>

namespace fox {

namespace {

/// What a sheet can be filled with now, and what it was to be filled with that is gone.
struct Items {
    std::vector<std::string> there, gone;
};

Items itemsOf(const ReportEntry& sheet, const Project& project) {
    auto there = itemsFor(sheet.layout, project);
    if (sheet.all || std::string_view(itemOf(sheet.layout.kind)).empty()) return {std::move(there), {}};
    Items out;
    for (const auto& item : sheet.items) (std::ranges::count(there, item) > 0 ? out.there : out.gone).push_back(item);
    return out;
}

std::string titleOf(const FilledReportSheet& sheet, const FilledSheet& filled) {
    return filled.item.empty() ? sheet.name : sheet.name + ": " + filled.item;
}

/// What needs a word before a sheet goes out.
std::vector<std::string> notesOf(const ReportEntry& sheet, const Items& items, const std::vector<FilledSheet>& filled) {
    std::vector<std::string> out;
    const std::string of = itemOf(sheet.layout.kind);
    if (items.there.empty()) out.push_back(fmt::format("There is no {} to fill it with.", of.empty() ? "content" : of));
    for (const auto& item : items.gone) out.push_back(fmt::format("The {} {} is gone.", of, item));
    for (auto& note : notesOn(filled, sheet.name)) out.push_back(std::move(note));
    return out;
}

} // namespace

Wanted wantedForReport(const Project& project) {
    Wanted out{ProductKind::ImportedTables};
    for (const auto& s : *project.sheets) {
        out.add(wantedForSheets(s.layout, itemsOf(s, project).there));
        for (const auto& [of, layout] : s.others) out.add(wantedForSheet(layout, {}));
    }
    return out;
}

std::vector<FilledReportSheet> fillReport(const ProductSet& products, const std::string& date, const Progress& progress) {
    const auto& sheets = *products.project.sheets;
    std::vector<FilledReportSheet> out;
    const auto fillAll = [&](std::size_t pages, const std::vector<std::pair<std::string, std::size_t>>& listed) {
        out.clear();
        std::size_t next = 1;
        for (const auto& s : sheets) {
            progress.report(double(out.size()) / double(sheets.size()), "Filling " + s.name);
            progress.check();
            auto& filled = out.emplace_back();
            filled.name = s.name;
            filled.firstPage = s.isOut ? next : 0;
            const auto items = itemsOf(s, products.project);
            for (const auto& item : items.there) {
                filled.filled.push_back(fillSheet(layoutFor(s, item, products.project), item, products, date, listed,
                                                  s.isOut ? next : 0, s.isOut ? pages : 0));
                filled.pages += filled.filled.back().pages.size();
                if (s.isOut) next += filled.filled.back().pages.size();
            }
            filled.notes = notesOf(s, items, filled.filled);
        }
        return next - 1;
    };
    const auto listOf = [&] {
        std::vector<std::pair<std::string, std::size_t>> listed;
        for (const auto& s : out)
            if (s.firstPage > 0 && s.pages > 0) listed.emplace_back(s.name, s.firstPage);
        return listed;
    };
    // how many pages there are is known once they are filled, and a list of sheets may take a page more for what it lists
    auto pages = fillAll(0, {});
    constexpr int kTries = 3;
    for (int n = 0; n < kTries; ++n) {
        const auto listed = listOf();
        if (const auto now = fillAll(pages, listed); std::exchange(pages, now) == now && listOf() == listed) break;
    }
    return out;
}

PreparedSheets prepareReport(const ProductSet& products, const std::filesystem::path& out, const SheetFileOptions& options,
                             const Progress& progress) {
    const auto target = sheetTargetOf(out, options.as);
    auto report = fillReport(products, options.date, progress);
    std::erase_if(report, [](const FilledReportSheet& s) { return s.firstPage == 0 || s.pages == 0; });
    if (report.empty()) throw Error("No sheet of the report goes out: add sheets to it, or tick those that are there.");
    if (target.isFolder) std::filesystem::create_directories(out);
    PreparedSheets done;
    std::vector<paper::Drawing> pages;
    paper::PdfWords words{products.project.name, products.project.name, {}};
    for (auto& sheet : report)
        for (auto& filled : sheet.filled) {
            words.bookmarks.push_back({titleOf(sheet, filled), pages.size()});
            pages.insert(pages.end(), filled.pages.begin(), filled.pages.end());
            if (target.isFolder)
                for (std::size_t p = 0; p < filled.pages.size(); ++p) {
                    const auto name = fmt::format("{:03}_{}{}.{}", done.pages + p + 1,
                                                  fileWord(filled.item.empty() ? sheet.name : sheet.name + " " + filled.item),
                                                  p == 0 ? "" : fmt::format("_{}", p + 1), target.as);
                    addSheetPage(done.files, out / name, filled, p, target.as, options.dotsPerInch, products.project.site->crs);
                }
            done.pages += filled.pages.size();
            done.sheets.push_back(std::move(filled));
        }
    if (!target.isFolder) {
        if (target.as != "pdf") throw Error(fmt::format("A report of {} pages goes into a .pdf, or into a folder.", done.pages));
        done.files.add(out, [&](const auto& to) { writeBytes(to, paper::toPdf(pages, words)); });
    }
    return done;
}

} // namespace fox
