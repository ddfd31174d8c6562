#include "views/sheet_choice.h"

#include "views/kept_templates.h"

#include <QDate>

namespace fox::app {

const ReportEntry* reportSheetOf(const Selection& s, const Project& project) {
    const auto at = std::ranges::find(*project.sheets, s.reportSheet(), &ReportEntry::name);
    return at == project.sheets->end() ? nullptr : &*at;
}

const SheetTemplate& mainTemplateOf(const Selection& s, const Project& project) {
    if (const auto* sheet = reportSheetOf(s, project)) return sheet->layout;
    return s.sheetTemplate() ? *s.sheetTemplate() : shippedTemplates().front();
}

const SheetTemplate& templateOf(const Selection& s, const Project& project) {
    const auto* sheet = reportSheetOf(s, project);
    const auto item = sheet && !sheet->others.empty() ? sheetItemOf(s, project) : std::nullopt;
    return item ? layoutFor(*sheet, *item, project) : mainTemplateOf(s, project);
}

std::string layoutKeyOf(const Selection& s, const Project& project) {
    const auto* sheet = reportSheetOf(s, project);
    if (!sheet) return {};
    const auto& layout = templateOf(s, project);
    for (const auto& [key, other] : sheet->others)
        if (&other == &layout) return key;
    return {};
}

std::vector<SheetTemplate> logTemplates() {
    std::vector<SheetTemplate> out;
    for (const auto& t : shippedTemplates())
        if (t.kind == SheetKind::Log) out.push_back(t);
    for (auto& t : keptTemplates())
        if (t.kind == SheetKind::Log) out.push_back(std::move(t));
    return out;
}

std::vector<SheetTemplate> namedAreas(const Project& project) {
    std::vector<SheetTemplate> out;
    for (const auto& sheet : *project.sheets)
        if (const auto& t = sheet.layout;
            !t.area.empty() && t.centre && std::ranges::count(out, t.area, &SheetTemplate::area) == 0)
            out.push_back(t);
    return out;
}

std::vector<std::string> sheetItemsOf(const Selection& s, const Project& project) {
    auto out = itemsFor(mainTemplateOf(s, project), project);
    if (const auto* sheet = reportSheetOf(s, project); sheet && !sheet->all)
        std::erase_if(out, [&](const std::string& item) { return std::ranges::count(sheet->items, item) == 0; });
    return out;
}

std::optional<std::string> sheetItemOf(const Selection& selection, const Project& project) {
    const auto items = sheetItemsOf(selection, project);
    if (items.empty()) return {};
    const std::string of = itemOf(mainTemplateOf(selection, project).kind);
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
        return {[name = sheet->name, layout, words, key = layoutKeyOf(s, project)](const Project& p) {
                    return changeSheet(
                        p, name, [&](ReportEntry& changed) { (key.empty() ? changed.layout : changed.others[key]) = layout; },
                        words);
                },
                sheet->name};
    const auto added = reportEntry(layout);
    return {[added](const Project& p) { return addSheet(p, added); }, addSheet(project, added).project.sheets->back().name};
}

QString today() { return QDate::currentDate().toString(Qt::ISODate); }

} // namespace fox::app
