#include "formats/workbook.h"

#include "base/errors.h"
#include "base/text.h"
#include "formats/gdal_session.h"

#include <cpl_vsi.h>
#include <fmt/format.h>

namespace fox {

namespace {

/// GDAL gives numbers of a sheet with all digits of a double; a person typed fewer.
std::string asTyped(std::string cell) {
    const auto number = parseNumber(cell);
    return number && cell.size() > 12 ? fmt::format("{:.12g}", *number) : cell;
}

/// Config options for as long as this lives.
class Options {
public:
    Options() {
        for (const char* driver : {"XLSX", "ODS"}) {
            CPLSetThreadLocalConfigOption(fmt::format("OGR_{}_HEADERS", driver).c_str(), "DISABLE");
            CPLSetThreadLocalConfigOption(fmt::format("OGR_{}_FIELD_TYPES", driver).c_str(), "STRING");
        }
    }
    ~Options() {
        for (const char* driver : {"XLSX", "ODS"}) {
            CPLSetThreadLocalConfigOption(fmt::format("OGR_{}_HEADERS", driver).c_str(), nullptr);
            CPLSetThreadLocalConfigOption(fmt::format("OGR_{}_FIELD_TYPES", driver).c_str(), nullptr);
        }
    }
    Options(const Options&) = delete;
    Options& operator=(const Options&) = delete;
};

} // namespace

bool isWorkbookName(std::string_view fileName) {
    const auto name = lower(fileName);
    return name.ends_with(".xlsx") || name.ends_with(".ods");
}

std::vector<Table> readWorkbook(std::string_view bytes, const std::string& name) {
    const GdalSession session;
    const Options options;
    const MemoryFile file(bytes, lower(name).ends_with(".ods") ? "workbook.ods" : "workbook.xlsx");
    const char* const drivers[] = {"XLSX", "ODS", nullptr};
    const std::unique_ptr<GDALDataset> book(GDALDataset::Open(file.path().c_str(), GDAL_OF_VECTOR, drivers));
    if (!book) throw FileError(fmt::format("{} can't be read as a workbook (xlsx or ods).", name));
    std::vector<Table> tables;
    for (auto* layer : book->GetLayers()) {
        std::vector<Table::Row> rows;
        for (const auto& feature : *layer) {
            Table::Row row{int(feature->GetFID()), {}};
            bool any = false;
            for (int i = 0; i < feature->GetFieldCount(); ++i) {
                row.cells.push_back(feature->IsFieldSetAndNotNull(i) ? asTyped(feature->GetFieldAsString(i)) : "");
                any |= !row.cells.back().empty();
            }
            if (any) rows.push_back(std::move(row));
        }
        if (!rows.empty()) tables.push_back(tableOf(std::move(rows), fmt::format("{}, {}", name, layer->GetName())));
    }
    if (tables.empty()) throw FileError(fmt::format("{} has no sheet with anything in it.", name));
    return tables;
}

} // namespace fox
