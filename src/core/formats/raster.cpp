#include "formats/raster.h"

#include "base/files.h"
#include "base/text.h"
#include "formats/gdal_session.h"

#include <cmath>
#include <fmt/format.h>

namespace fox {

namespace {

struct RasterFormat {
    const char* ending;
    const char* driver;
};
constexpr RasterFormat kFormats[] = {{".tif", "GTiff"}, {".asc", "AAIGrid"}, {".xyz", "XYZ"}, {".gpkg", "GPKG"}};

const RasterFormat* formatOf(const std::filesystem::path& path) {
    for (const auto& f : kFormats)
        if (equalNoCase(path.extension().string(), f.ending)) return &f;
    return nullptr;
}

constexpr double kFileNoValue = -9999; // what the text formats need; GeoTIFF says NaN

DatasetPtr inMemory(const Grid& grid, const std::string& crs, double noValue, GDALDataType type) {
    auto* driver = GetGDALDriverManager()->GetDriverByName("MEM");
    const auto& f = grid.frame;
    DatasetPtr set(driver->Create("", f.columns(), f.rows(), 1, type, nullptr));
    double transform[6] = {f.xmin, f.cell, 0, f.ymax, 0, -f.cell};
    set->SetGeoTransform(transform);
    const auto reference = spatialReference(crs);
    if (!reference.IsEmpty()) set->SetSpatialRef(&reference);
    auto values = grid.values;
    for (auto& v : values)
        if (std::isnan(v)) v = noValue;
    auto* band = set->GetRasterBand(1);
    band->SetNoDataValue(noValue);
    if (band->RasterIO(GF_Write, 0, 0, f.columns(), f.rows(), values.data(), f.columns(), f.rows(), GDT_Float64, 0, 0) != CE_None)
        throw FileError("The grid does not fit in memory.");
    return set;
}

} // namespace

bool isRasterEnding(const std::filesystem::path& path) { return formatOf(path) != nullptr; }

Raster readRaster(const std::filesystem::path& path) {
    const GdalSession session;
    DatasetPtr set(GDALDataset::Open(path.c_str(), GDAL_OF_RASTER | GDAL_OF_READONLY));
    if (!set || set->GetRasterCount() < 1)
        throw FileError(fmt::format("{} can't be read as a grid. {}", path.string(), session.lastMessage()));
    double t[6];
    if (set->GetGeoTransform(t) != CE_None || t[2] != 0 || t[4] != 0 || std::abs(t[1] + t[5]) > 1e-9 * std::abs(t[1]))
        throw FileError(fmt::format("{} is not a north-up grid of square cells.", path.string()));
    const int columns = set->GetRasterXSize(), rows = set->GetRasterYSize();
    Raster raster{Grid({t[0], t[3] - rows * t[1], t[0] + columns * t[1], t[3], t[1]}), crsName(set->GetSpatialRef())};
    auto* band = set->GetRasterBand(1);
    if (band->RasterIO(GF_Read, 0, 0, columns, rows, raster.grid.values.data(), columns, rows, GDT_Float64, 0, 0) != CE_None)
        throw FileError(fmt::format("{} could not be read to its end. {}", path.string(), session.lastMessage()));
    int has = 0;
    const double none = band->GetNoDataValue(&has);
    if (has)
        for (auto& v : raster.grid.values)
            if (v == none) v = kNoValue;
    return raster;
}

void writeRaster(const std::filesystem::path& path, const Grid& grid, const std::string& crs) {
    const auto* format = formatOf(path);
    if (!format) throw UsageError(fmt::format("{}: a grid is written as .tif, .asc, .xyz or .gpkg.", path.string()));
    const GdalSession session;
    const bool tif = format == &kFormats[0], gpkg = format == &kFormats[3];
    auto memory = inMemory(grid, crs, tif ? kNoValue : kFileNoValue, gpkg ? GDT_Float32 : GDT_Float64);
    char** options = nullptr;
    if (tif) options = CSLSetNameValue(options, "COMPRESS", "DEFLATE");
    if (format == &kFormats[1]) options = CSLSetNameValue(options, "DECIMAL_PRECISION", "6");
    ReplaceFile replace(path);
    auto* driver = GetGDALDriverManager()->GetDriverByName(format->driver);
    DatasetPtr written(driver->CreateCopy(replace.scratch().c_str(), memory.get(), FALSE, options, nullptr, nullptr));
    CSLDestroy(options);
    const bool made = written != nullptr;
    written.reset();
    if (!made || CPLGetLastErrorType() >= CE_Failure)
        throw FileError(fmt::format("{} can't be written. {}", path.string(), session.lastMessage()));
    replace.commit();
}

} // namespace fox
