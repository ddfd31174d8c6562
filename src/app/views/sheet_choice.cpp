#include "views/sheet_choice.h"

#include <QDate>

namespace fox::app {

const ReportEntry* reportSheetOf(const Selection& s, const Project& project) {
    const auto at = std::ranges::find(*project.sheets, s.reportSheet(), &ReportEntry::name);
    return at == project.sheets->end() ? nullptr : &*at;
}

const SheetTemplate& templateOf(const Selection& s, const Project& project) {
    if (const auto* sheet = reportSheetOf(s, project)) return sheet->layout;
    return s.sheetTemplate() ? *s.sheetTemplate() : shippedTemplates().front();
}

std::vector<std::string> sheetItemsOf(const Selection& s, const Project& project) {
    auto out = itemsFor(templateOf(s, project), project);
    if (const auto* sheet = reportSheetOf(s, project); sheet && !sheet->all)
        std::erase_if(out, [&](const std::string& item) { return std::ranges::count(sheet->items, item) == 0; });
    return out;
}

std::optional<std::string> sheetItemOf(const Selection& selection, const Project& project) {
    const auto items = sheetItemsOf(selection, project);
    if (items.empty()) return {};
    const std::string of = itemOf(templateOf(selection, project).kind);
    std::string wanted;
    if (of == "hole")
        if (const auto* hole = findHole(*project.holes, selection.hole().toStdString()))
            wanted = displayName(*project.holes, *hole);
    if (of == "section") wanted = selection.sectionOf(project)->name;
    if (of == "unit") wanted = selection.unit().toStdString();
    return std::ranges::count(items, wanted) > 0 ? wanted : items.front();
}

LayoutEdit changeLayout(const Selection& s, const Project& project, const SheetTemplate& layout, const std::string& words) {
    if (const auto* sheet = reportSheetOf(s, project))
        return {[name = sheet->name, layout, words](const Project& p) {
                    return changeSheet(
                        p, name, [&](ReportEntry& changed) { changed.layout = layout; }, words);
                },
                sheet->name};
    const auto added = reportEntry(layout);
    return {[added](const Project& p) { return addSheet(p, added); }, addSheet(project, added).project.sheets->back().name};
}

QString today() { return QDate::currentDate().toString(Qt::ISODate); }

} // namespace fox::app
