#include "base/errors.h"
#include "handover/report_pages.h"
#include "output.h"
#include "store/store.h"
#include "verbs.h"

#include <fmt/format.h>
#include <iostream>

namespace fox::run {

namespace {

nlohmann::json listed(const std::vector<SheetTemplate>& all) {
    auto out = nlohmann::json::array();
    for (const auto& t : all)
        out.push_back({{"name", t.name}, {"kind", name(t.kind)}, {"width_mm", t.width}, {"height_mm", t.height}});
    return out;
}

nlohmann::json written(const SheetFiles& done, const SheetTemplate& t) {
    auto files = nlohmann::json::array(), sheets = nlohmann::json::array();
    for (const auto& f : done.files) files.push_back(f.string());
    for (const auto& s : done.sheets) {
        nlohmann::json one{{"item", s.item},        {"pages", s.pages.size()},      {"width_mm", t.width},
                           {"height_mm", t.height}, {"overfull", s.overfull},       {"without_pattern", s.withoutPattern},
                           {"missing", s.missing},  {"without_unit", s.withoutUnit}};
        one["scale"] = s.scale > 0 ? nlohmann::json(s.scale) : nlohmann::json();
        if (s.verticalScale > 0) one["vertical_scale"] = s.verticalScale;
        sheets.push_back(std::move(one));
    }
    return {{"files", files}, {"pages", done.pages}, {"sheets", sheets}};
}

void sayNotes(const std::vector<FilledSheet>& sheets, const std::string& name) {
    for (const auto& note : notesOn(sheets, name)) std::cout << note << '\n';
}

/// All sheets of the project's own report.
void writeReport(const Options& w) {
    if (w.out.empty()) throw UsageError("sheet: --out is missing.");
    const auto project = ProjectStore::read(w.file);
    const auto set = Products().of(project, {}, wantedForReport(project));
    auto done = prepareReport(*set, w.out, {w.as, w.dotsPerInch, today()});
    done.files.commit();
    auto files = nlohmann::json::array();
    for (const auto& f : done.files.targets()) files.push_back(f.string());
    if (w.json) return print({{"files", files}, {"pages", done.pages}}, true);
    for (const auto& f : done.files.targets()) std::cout << f.string() << '\n';
    sayNotes(done.sheets, project.name);
}

} // namespace

void sheet(const Options& w) {
    if (w.list) return print(listed(shippedTemplates()), w.json);
    if (w.file.empty()) throw UsageError("sheet: PROJECT.gpkg is missing.");
    if (w.report) return writeReport(w);
    if (w.sheetTemplate.empty()) throw UsageError("sheet: --template is missing.");
    if (w.out.empty()) throw UsageError("sheet: --out is missing.");
    const auto t = sheetTemplate(w.sheetTemplate);
    const auto project = ProjectStore::read(w.file);
    auto items = w.items;
    if (items.empty() && (w.all || std::string_view(itemOf(t.kind)).empty())) items = itemsFor(t, project);
    if (items.empty() && !w.all) throw Error(fmt::format("\"{}\" needs a {}: give --item or --all.", t.name, itemOf(t.kind)));
    const auto set = Products().of(project, {}, wantedForSheets(t, items));
    const auto done = writeSheets(t, items, *set, w.out, {w.as, w.dotsPerInch, today()});
    if (w.json) return print(written(done, t), true);
    for (const auto& f : done.files) std::cout << f.string() << '\n';
    sayNotes(done.sheets, t.name);
}

} // namespace fox::run
