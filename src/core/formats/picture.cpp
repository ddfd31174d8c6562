#include "formats/picture.h"

#include "base/errors.h"
#include "base/files.h"
#include "base/text.h"
#include "formats/gdal_session.h"

#include <fmt/format.h>

namespace fox {

Picture readPicture(const std::string& bytes, const std::string& name) {
    const GdalSession session;
    const MemoryFile file(bytes, name);
    auto set = openWithListedDrivers(file.path(), GdalKind::Raster);
    if (!set || set->GetRasterCount() < 1)
        throw FileError(fmt::format("{} can't be read as a picture. {}", name, session.lastMessage()));
    Picture out;
    out.width = set->GetRasterXSize(), out.height = set->GetRasterYSize();
    if (double(out.width) * out.height > kMostPixels)
        throw FileError(fmt::format("{} has {} x {} pixels; {:.0f} are the most that can be used.", name, out.width, out.height,
                                    kMostPixels));
    out.rgba.assign(std::size_t(out.width) * std::size_t(out.height) * 4, 255);
    const int bands = set->GetRasterCount();
    const auto* palette = bands == 1 ? set->GetRasterBand(1)->GetColorTable() : nullptr;
    // grey once into each colour; opacity is the second band of two, or the fourth of four
    for (int c = 0; c < 4; ++c) {
        const int band = bands >= 3 ? (c < bands ? c + 1 : 0) : c < 3 ? 1 : (bands == 2 ? 2 : 0);
        if (band == 0) continue;
        if (set->GetRasterBand(band)->RasterIO(GF_Read, 0, 0, out.width, out.height, out.rgba.data() + c, out.width, out.height,
                                               GDT_Byte, 4, GSpacing(4) * out.width)
            != CE_None)
            throw FileError(fmt::format("{} could not be read to its end. {}", name, session.lastMessage()));
    }
    if (palette)
        for (std::size_t i = 0; i < out.rgba.size(); i += 4) {
            GDALColorEntry entry{};
            palette->GetColorEntryAsRGB(out.rgba[i], &entry);
            out.rgba[i] = std::uint8_t(entry.c1), out.rgba[i + 1] = std::uint8_t(entry.c2);
            out.rgba[i + 2] = std::uint8_t(entry.c3), out.rgba[i + 3] = std::uint8_t(entry.c4);
        }
    std::array<double, 6> t{};
    if (set->GetGeoTransform(t.data()) == CE_None) out.georeference = t;
    out.crs = crsName(set->GetSpatialRef());
    return out;
}

void writePicture(const std::filesystem::path& path, const Picture& picture) {
    const bool tif = equalNoCase(path.extension().string(), ".tif"), png = equalNoCase(path.extension().string(), ".png");
    if (!tif && !png) throw UsageError(fmt::format("{}: pictures are written as .tif or .png.", path.string()));
    const GdalSession session;
    DatasetPtr memory(
        GetGDALDriverManager()->GetDriverByName("MEM")->Create("", picture.width, picture.height, 4, GDT_Byte, nullptr));
    auto values = picture.rgba;
    for (int c = 0; c < 4; ++c) {
        auto* band = memory->GetRasterBand(c + 1);
        band->SetColorInterpretation(GDALColorInterp(GCI_RedBand + c));
        if (band->RasterIO(GF_Write, 0, 0, picture.width, picture.height, values.data() + c, picture.width, picture.height,
                           GDT_Byte, 4, GSpacing(4) * picture.width)
            != CE_None)
            throw FileError("The picture does not fit in memory.");
    }
    if (picture.georeference) {
        auto t = *picture.georeference;
        memory->SetGeoTransform(t.data());
    }
    if (const auto reference = spatialReference(picture.crs); !reference.IsEmpty()) memory->SetSpatialRef(&reference);
    ReplaceFile replace(path);
    DatasetPtr written(GetGDALDriverManager()
                           ->GetDriverByName(tif ? "GTiff" : "PNG")
                           ->CreateCopy(replace.scratch().c_str(), memory.get(), FALSE, nullptr, nullptr, nullptr));
    if (!written) throw FileError(fmt::format("{} can't be written. {}", path.string(), session.lastMessage()));
    written.reset();
    replace.commit();
}

bool isPictureName(const std::string& name) {
    const auto n = lower(name);
    for (const char* ending : {".png", ".jpg", ".jpeg"})
        if (n.ends_with(ending)) return true;
    return false;
}

bool looksLikePicture(const std::filesystem::path& path) {
    if (isPictureName(path.string())) return true;
    const GdalSession session;
    auto set = openWithListedDrivers(path.string(), GdalKind::Raster);
    if (!set || set->GetRasterCount() < 1) return false;
    auto* band = set->GetRasterBand(1);
    return band->GetRasterDataType() == GDT_Byte && (set->GetRasterCount() >= 3 || band->GetColorTable());
}

} // namespace fox
