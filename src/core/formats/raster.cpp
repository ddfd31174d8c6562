#include "formats/raster.h"

#include "base/files.h"
#include "base/limits.h"
#include "base/text.h"
#include "formats/gdal_session.h"
#include "formats/xyz.h"

#include <cmath>
#include <fmt/format.h>
#include <gdal_utils.h>

namespace fox {

namespace {

struct RasterFormat {
    const char* ending;
    const char* driver;
};
constexpr RasterFormat kRasterFormats[] = {{".tif", "GTiff"}, {".asc", "AAIGrid"}, {".xyz", "XYZ"}, {".gpkg", "GPKG"}};

const RasterFormat* rasterFormatOf(const std::filesystem::path& path) {
    for (const auto& f : kRasterFormats)
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

std::string projectionText(const std::string& crs) {
    const GdalSession session;
    auto reference = spatialReference(crs);
    if (reference.IsEmpty()) return {};
    char* text = nullptr;
    const char* const options[] = {"FORMAT=WKT1_ESRI", nullptr};
    std::string out;
    if (reference.exportToWkt(&text, options) == OGRERR_NONE) out = text;
    CPLFree(text);
    return out.empty() ? out : out + "\n";
}

static double cellsOf(GDALDataset& set) { return double(set.GetRasterXSize()) * set.GetRasterYSize(); }

/// Before anything of that size is asked for. @throws FileError
static void checkCells(GDALDataset& set, const std::filesystem::path& path) {
    const double cells = cellsOf(set);
    if (cells > limits::kGridCells)
        throw FileError(
            fmt::format("{} has {:.0f} cells; {:.0f} are the most that can be used.", path.string(), cells, limits::kGridCells));
    // a grid as text has a line a cell, but for gaps; a few points far apart span any number of them
    constexpr double kCellsAByte = 10;
    std::error_code code;
    const auto bytes = std::filesystem::file_size(path, code);
    if (EQUAL(set.GetDriverName(), "XYZ") && !code && cells > kCellsAByte * double(bytes) + 1000)
        throw FileError(
            fmt::format("{} is not a grid: its points would be {:.0f} cells, nearly all of them empty.", path.string(), cells));
}

constexpr double kMostCellsForOne = 10;

/// The first band of an upright grid.
static Grid gridOf(GDALDataset& set, const std::filesystem::path& path) {
    double t[6];
    set.GetGeoTransform(t);
    checkCells(set, path);
    const int columns = set.GetRasterXSize(), rows = set.GetRasterYSize();
    const Frame frame{t[0], t[3] - rows * t[1], t[0] + columns * t[1], t[3], t[1]};
    const bool finite =
        std::isfinite(frame.xmin) && std::isfinite(frame.xmax) && std::isfinite(frame.ymin) && std::isfinite(frame.ymax);
    // also if cells are so small against the coordinates that these do not tell them apart
    if (!finite || !(frame.cell > 0) || frame.columns() != columns || frame.rows() != rows)
        throw FileError(fmt::format("{} has cells of {:g} m, which can't be {} by {} cells at E {:g}, N {:g}.", path.string(),
                                    t[1], columns, rows, t[0], t[3]));
    Grid grid(frame);
    auto* band = set.GetRasterBand(1);
    if (band->RasterIO(GF_Read, 0, 0, columns, rows, grid.values.data(), columns, rows, GDT_Float64, 0, 0) != CE_None)
        throw FileError(fmt::format("{} could not be read to its end. {}", path.string(), CPLGetLastErrorMsg()));
    int has = 0;
    const double none = band->GetNoDataValue(&has);
    const double scale = band->GetScale(), offset = band->GetOffset(); // 1 and 0 where the file says none
    for (auto& v : grid.values) v = (has && v == none) ? kNoValue : v * scale + offset;
    return grid;
}

/// A grid that is worked out where it is read: how large it is can be seen before. Null if it can't be done.
static DatasetPtr warpedBy(GDALDataset& source, const std::vector<std::string>& words) {
    char** arguments = CSLAddString(nullptr, "-of");
    arguments = CSLAddString(arguments, "VRT");
    for (const auto& w : words) arguments = CSLAddString(arguments, w.c_str());
    auto* options = GDALWarpAppOptionsNew(arguments, nullptr);
    CSLDestroy(arguments);
    auto* handle = static_cast<GDALDatasetH>(&source);
    DatasetPtr warped(static_cast<GDALDataset*>(GDALWarp("", nullptr, 1, &handle, options, nullptr)));
    GDALWarpAppOptionsFree(options);
    return warped;
}

Grid movedGrid(const Grid& grid, const std::string& from, const std::string& to) {
    const GdalSession session;
    const auto source = inMemory(grid, from, kNoValue, GDT_Float64);
    const auto warped = warpedBy(*source, {"-ot", "Float64", "-dstnodata", "nan", "-r", "bilinear", "-t_srs", to});
    if (!warped) throw Error(fmt::format("A grid can't be brought from {} to {}. {}", from, to, session.lastMessage()));
    return gridOf(*warped, "The grid");
}

bool isRasterEnding(const std::filesystem::path& path) { return rasterFormatOf(path) != nullptr; }

Raster readRaster(const std::filesystem::path& path) {
    const GdalSession session;
    auto set = openWithListedDrivers(path.string(), GdalKind::Raster);
    if (!set || set->GetRasterCount() < 1)
        throw FileError(fmt::format("{} can't be read as a grid. {}", path.string(), session.lastMessage()));
    double t[6];
    if (set->GetGeoTransform(t) != CE_None || t[2] != 0 || t[4] != 0 || std::abs(t[1] + t[5]) > 1e-9 * std::abs(t[1]))
        throw FileError(fmt::format("{} is not a north-up grid of square cells.", path.string()));
    return {gridOf(*set, path), crsName(set->GetSpatialRef())};
}

Raster readRasterIn(const std::filesystem::path& path, const std::string& crs, std::optional<double> cell, Findings& findings) {
    const GdalSession session;
    auto set = openWithListedDrivers(path.string(), GdalKind::Raster);
    if (!set || set->GetRasterCount() < 1)
        throw FileError(fmt::format("{} can't be read as a grid. {}", path.string(), session.lastMessage()));
    double t[6];
    if (set->GetGeoTransform(t) != CE_None)
        throw FileError(fmt::format("{} does not say where it lies: it has no georeference.", path.string()));
    const auto name = crsName(set->GetSpatialRef());
    const bool none = set->GetSpatialRef() == nullptr;
    if (none)
        findings.push_back({Severity::Warning, "FC-GRID", path.filename().string(), 0, "", "", "",
                            crs.empty()
                                ? "The grid does not state its coordinate system."
                                : fmt::format("The grid does not state its coordinate system; it is taken to be in {}.", crs)});
    const bool upright = t[2] == 0 && t[4] == 0 && std::abs(t[1] + t[5]) <= 1e-9 * std::abs(t[1]);
    const auto target = spatialReference(crs);
    const bool other = !none && !crs.empty() && name != crs && !set->GetSpatialRef()->IsSame(&target);
    set.reset();
    if (upright && !other && !cell) {
        auto raster = readRaster(path);
        if (raster.crs.empty()) raster.crs = crs;
        return raster;
    }
    std::vector<std::string> words{"-ot", "Float64", "-dstnodata", "nan", "-r", cell ? "cubic" : "bilinear"};
    if (other) words.insert(words.end(), {"-t_srs", crs});
    if (none && !crs.empty()) words.insert(words.end(), {"-s_srs", crs, "-t_srs", crs});
    if (cell) {
        const auto size = fmt::format("{:.17g}", *cell);
        words.insert(words.end(), {"-tr", size, size});
    } else {
        const auto size = fmt::format("{:.17g}", std::min(std::hypot(t[1], t[4]), std::hypot(t[2], t[5])));
        if (!other) words.insert(words.end(), {"-tr", size, size});
    }
    const auto source = openWithListedDrivers(path.string(), GdalKind::Raster);
    checkCells(*source, path);
    const auto warped = warpedBy(*source, words);
    if (!warped) throw FileError(fmt::format("{} can't be brought to {}. {}", path.string(), crs, session.lastMessage()));
    // a turned grid has up to twice the cells when it is upright; many times as many come from coordinates far outside the
    // area that a system is meant for
    if (!cell && cellsOf(*warped) > kMostCellsForOne * cellsOf(*source) + 100)
        throw FileError(
            fmt::format("{} with its {:.0f} cells would have {:.0f} in {}: it does not lie where its coordinate system "
                        "is meant for.",
                        path.string(), cellsOf(*source), cellsOf(*warped), crs));
    auto grid = gridOf(*warped, path);
    if (other)
        findings.push_back(
            {Severity::Note, "FC-GRID", path.filename().string(), 0, "", "", "",
             fmt::format("The grid came in {} and was brought to {} with cells of {:.2f} m.", name, crs, grid.frame.cell)});
    return {std::move(grid), crs};
}

void writeRaster(const std::filesystem::path& path, const Grid& grid, const std::string& crs) {
    const auto* format = rasterFormatOf(path);
    if (!format) throw UsageError(fmt::format("{}: a grid is written as .tif, .asc, .xyz or .gpkg.", path.string()));
    const bool tif = format == &kRasterFormats[0], asc = format == &kRasterFormats[1], xyz = format == &kRasterFormats[2],
               gpkg = format == &kRasterFormats[3];
    if (xyz) return writeBytes(path, xyzText(grid)); // the library writes empty cells as points
    const GdalSession session;
    // the system of an ASCII grid stands in a file of its own, which would be named after the scratch file
    auto memory = inMemory(grid, asc ? "" : crs, tif ? kNoValue : kFileNoValue, gpkg ? GDT_Float32 : GDT_Float64);
    char** options = nullptr;
    if (tif) options = CSLSetNameValue(options, "COMPRESS", "DEFLATE");
    if (asc) options = CSLSetNameValue(options, "DECIMAL_PRECISION", "6");
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

void writeBands(const std::filesystem::path& path, const std::vector<std::pair<std::string, Grid>>& bands,
                const std::string& crs) {
    const GdalSession session;
    auto memory = inMemory(bands.front().second, crs, kNoValue, GDT_Float64);
    for (std::size_t i = 0; i < bands.size(); ++i) {
        const auto& [description, grid] = bands[i];
        if (i > 0) memory->AddBand(GDT_Float64);
        auto* band = memory->GetRasterBand(int(i) + 1);
        const int columns = grid.frame.columns(), rows = grid.frame.rows();
        auto values = grid.values; // GDAL wants to be able to write
        band->SetDescription(description.c_str());
        band->SetNoDataValue(kNoValue);
        if (band->RasterIO(GF_Write, 0, 0, columns, rows, values.data(), columns, rows, GDT_Float64, 0, 0) != CE_None)
            throw FileError(fmt::format("{} can't be written. {}", path.string(), session.lastMessage()));
    }
    CPLStringList options;
    options.SetNameValue("COMPRESS", "DEFLATE");
    ReplaceFile replace(path);
    auto* driver = GetGDALDriverManager()->GetDriverByName("GTiff");
    DatasetPtr written(driver->CreateCopy(replace.scratch().c_str(), memory.get(), FALSE, options.List(), nullptr, nullptr));
    const bool made = written != nullptr;
    written.reset();
    if (!made || CPLGetLastErrorType() >= CE_Failure)
        throw FileError(fmt::format("{} can't be written. {}", path.string(), session.lastMessage()));
    replace.commit();
}

void addGrids(const std::filesystem::path& gpkg, const std::vector<NamedGrid>& grids, const std::string& crs) {
    const GdalSession session;
    auto* driver = GetGDALDriverManager()->GetDriverByName("GPKG");
    for (const auto& g : grids) {
        auto memory = inMemory(g.grid, crs, kFileNoValue, GDT_Float32);
        CPLStringList options;
        options.SetNameValue("APPEND_SUBDATASET", "YES"), options.SetNameValue("RASTER_TABLE", g.name.c_str());
        const DatasetPtr written(driver->CreateCopy(gpkg.c_str(), memory.get(), FALSE, options.List(), nullptr, nullptr));
        if (!written || CPLGetLastErrorType() >= CE_Failure)
            throw FileError(fmt::format("{} can't be written. {}", gpkg.string(), session.lastMessage()));
    }
}

} // namespace fox
