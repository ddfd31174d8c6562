#include "sheets/sheet_values.h"

#include "formats/crs.h"
#include "sheets/scale.h"

#include <fmt/format.h>
#include <functional>
#include <set>

namespace fox {

namespace {

using Value = std::function<std::string(const SheetContext&)>;

struct KnownValue {
    SheetValue value;
    Value of;
};

std::string metresWritten(std::optional<double> v) { return v ? fmt::format("{:.2f}", *v) : std::string(); }

/// The first row of a group that is the hole's; of a group without holes, its first row.
std::string agsValue(const SheetContext& c, const std::string& group, const std::string& heading) {
    for (std::size_t f = 0; f < c.products->agsFiles.size(); ++f) {
        const auto& file = c.products->agsFiles[f];
        const auto* table = file ? file->group(group) : nullptr;
        if (!table) continue;
        const auto column = table->column(heading);
        if (!column) continue;
        const auto id = table->column(file->edition == AgsEdition::Ags3 ? "HOLE_ID" : "LOCA_ID");
        if (!id && !table->rows.empty()) return std::string(table->cell(0, *column));
        if (!id || !c.hole || file->name != c.hole->file) continue;
        for (std::size_t r = 0; r < table->rows.size(); ++r)
            if (table->cell(r, *id) == c.hole->id) return std::string(table->cell(r, *column));
    }
    return {};
}

std::string agsOfEither(const SheetContext& c, const char* heading) { return agsValue(c, "PROJ", heading); }

const std::vector<KnownValue>& knownValues() {
    static const std::vector<KnownValue> kAll{
        {{"hole.name", "name of the hole", "hole"}, [](const auto& c) { return c.hole ? c.item : std::string(); }},
        {{"hole.type", "type of the hole", "hole"},
         [](const auto& c) { return c.hole ? typeInWords(c.hole->type) : std::string(); }},
        {{"hole.easting", "easting", "hole"},
         [](const auto& c) { return c.hole && c.hole->place() ? metresWritten(c.hole->place()->x) : std::string(); }},
        {{"hole.northing", "northing", "hole"},
         [](const auto& c) { return c.hole && c.hole->place() ? metresWritten(c.hole->place()->y) : std::string(); }},
        {{"hole.level", "ground level", "hole"},
         [](const auto& c) { return c.hole && c.hole->level ? metresWritten(c.hole->level->metres) : std::string(); }},
        {{"hole.depth", "final depth", "hole"},
         [](const auto& c) { return c.hole ? metresWritten(c.hole->end().metres) : std::string(); }},
        {{"hole.file", "file that it came in", "hole"}, [](const auto& c) { return c.hole ? c.hole->file : std::string(); }},
        {{"item", "name of the section, unit or hole", "sheet"}, [](const auto& c) { return c.item; }},
        {{"unit.name", "name of the unit", "sheet"},
         [](const auto& c) {
             const auto u = c.products->project.sequence->index(c.item);
             return u ? c.products->project.sequence->units[*u].name : std::string();
         }},
        {{"project.name", "name of the project", "site"}, [](const auto& c) { return c.products->project.name; }},
        {{"project.crs", "coordinate system", "site"}, [](const auto& c) { return c.products->project.site->crs; }},
        {{"project.client", "client", "site"}, [](const auto& c) { return agsOfEither(c, "PROJ_CLNT"); }},
        {{"project.contractor", "contractor", "site"}, [](const auto& c) { return agsOfEither(c, "PROJ_CONT"); }},
        {{"project.location", "location", "site"}, [](const auto& c) { return agsOfEither(c, "PROJ_LOC"); }},
        {{"project.holes", "number of holes", "site"},
         [](const auto& c) { return std::to_string(c.products->project.holes->size()); }},
        {{"scale", "scale", "sheet"}, [](const auto& c) { return c.scale > 0 ? "1:" + labelWords(c.scale) : std::string(); }},
        {{"vertical-scale", "scale of levels", "sheet"},
         [](const auto& c) { return c.verticalScale > 0 ? "1:" + labelWords(c.verticalScale) : std::string(); }},
        {{"date", "date of printing", "page"}, [](const auto& c) { return c.date; }},
        {{"page", "page", "page"}, [](const auto& c) { return std::to_string(c.page); }},
        {{"pages", "number of pages", "page"}, [](const auto& c) { return std::to_string(c.pages); }},
    };
    return kAll;
}

} // namespace

std::vector<SheetValue> sheetValues(SheetKind kind, const ProductSet& products) {
    std::vector<SheetValue> out;
    for (const auto& known : knownValues())
        if (known.value.of != "hole" || kind == SheetKind::Log) out.push_back(known.value);
    std::set<std::string> seen;
    for (const auto& file : products.agsFiles)
        if (file)
            for (const auto& group : file->groups) {
                static const std::set<std::string> kLists{"ABBR", "CODE", "DICT", "TYPE", "UNIT"}; // of words, not of the site
                const bool isOfHole = group.column("LOCA_ID") || group.column("HOLE_ID");
                if (isOfHole ? kind != SheetKind::Log : kLists.contains(group.name)) continue;
                for (const auto& h : group.headings)
                    if (const auto key = fmt::format("ags:{}.{}", group.name, h); seen.insert(key).second)
                        out.push_back({key, h, group.name});
            }
    return out;
}

std::string valueOf(const std::string& key, const SheetContext& context) {
    if (key.starts_with("ags:")) {
        const auto dot = key.find('.');
        return dot == key.npos ? std::string() : agsValue(context, key.substr(4, dot - 4), key.substr(dot + 1));
    }
    for (const auto& known : knownValues())
        if (known.value.key == key) return known.of(context);
    return {};
}

std::string textOf(const TextRuns& runs, const SheetContext& context) {
    std::string out;
    for (const auto& r : runs) {
        const auto value = r.value.empty() ? r.words : valueOf(r.value, context);
        out += value.empty() ? r.none : value;
    }
    return out;
}

} // namespace fox
