#include "project/sheet_edits.h"

#include "project/spec_edits.h"

namespace fox {

namespace {

constexpr const char* kSheet = "sheet";

const SheetTemplate* shipped(std::string_view name) {
    const auto& all = shippedTemplates();
    const auto at = std::ranges::find(all, name, &SheetTemplate::name);
    return at == all.end() ? nullptr : &*at;
}

} // namespace

Edited addSheet(const Project& project, ReportEntry sheet, const std::string& behind) {
    auto e = spec_edits::add(project, &Project::sheets, std::move(sheet), kSheet, "Sheet");
    auto sheets = *e.project.sheets;
    const auto before = std::ranges::find(sheets, behind, &ReportEntry::name);
    if (before == sheets.end()) return e;
    std::rotate(before + 1, sheets.end() - 1, sheets.end());
    e.project.sheets = part(std::move(sheets));
    return e;
}

Edited removeSheet(const Project& project, const std::string& name) {
    return spec_edits::remove(project, &Project::sheets, name, kSheet);
}

Edited renameSheet(const Project& project, const std::string& name, const std::string& wanted) {
    return spec_edits::rename(project, &Project::sheets, name, wanted, kSheet);
}

Edited moveSheet(const Project& project, const std::string& name, std::size_t to) {
    auto sheets = *project.sheets;
    auto moved = spec_edits::named(sheets, name, kSheet);
    std::erase_if(sheets, [&](const ReportEntry& s) { return s.name == name; });
    sheets.insert(sheets.begin() + std::ptrdiff_t(std::min(to, sheets.size())), std::move(moved));
    return spec_edits::with(project, &Project::sheets, std::move(sheets), fmt::format("Move the sheet {}", name));
}

Edited changeSheet(const Project& project, const std::string& name, const std::function<void(ReportEntry&)>& change,
                   const std::string& words) {
    return spec_edits::change(project, &Project::sheets, name, change, words, kSheet);
}

Edited addUsualSheets(const Project& project) {
    auto e = project;
    const auto add = [&](std::string_view name) {
        const auto* t = shipped(name);
        if (!t) return;
        auto sheet = reportEntry(*t);
        if (std::ranges::count(*e.sheets, sheet.name, &ReportEntry::name) == 0) e = addSheet(e, std::move(sheet)).project;
    };
    const auto any = [&](auto&& holds) { return std::ranges::any_of(*project.holes, holds); };
    add("title page");
    if (!project.sequence->units.empty()) add("key to units");
    if (!project.holes->empty()) add("plan");
    if (project.sequence->units.size() > 1) add("geological map");
    if (!project.sections->empty()) add("section");
    if (any([](const Hole& h) { return !h.intervals.empty(); })) add("borehole log");
    if (project.sequence->units.size() > 1) add("contour map"), add("unit summary");
    return {std::move(e), "The usual sheets"};
}

} // namespace fox
