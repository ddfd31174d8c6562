#include "formats/gdal_session.h"

#include "base/text.h"

#include <cpl_vsi.h>
#include <fmt/format.h>
#include <mutex>

namespace fox {

GdalSession::GdalSession() {
    static std::once_flag once;
    std::call_once(once, GDALAllRegister);
    CPLPushErrorHandler(CPLQuietErrorHandler);
    CPLErrorReset();
}

GdalSession::~GdalSession() { CPLPopErrorHandler(); }

std::string GdalSession::lastMessage() const { return std::string(trimmed(CPLGetLastErrorMsg())); }

MemoryFile::MemoryFile(std::string_view bytes, const std::string& name)
    : m_path(fmt::format("/vsimem/fox_{}/{}", static_cast<const void*>(this), name)) {
    VSIFCloseL(
        VSIFileFromMemBuffer(m_path.c_str(), reinterpret_cast<GByte*>(const_cast<char*>(bytes.data())), bytes.size(), FALSE));
}
MemoryFile::~MemoryFile() { VSIUnlink(m_path.c_str()); }

DatasetPtr openWithListedDrivers(const std::string& path, GdalKind kind) {
    static const char* const kRasters[] = {"GTiff", "AAIGrid", "XYZ", "GPKG", "PNG", "JPEG", "BMP", "GIF", nullptr};
    static const char* const kVectors[] = {"GPKG", "ESRI Shapefile", "GeoJSON", "DXF", nullptr};
    const bool raster = kind == GdalKind::Raster;
    // a name such as "/vsicurl/https://..." or "<VRTDataset>" is not a file; those in memory are our own
    if (path.starts_with("/vsi") && !path.starts_with("/vsimem/")) return nullptr;
    return DatasetPtr(GDALDataset::Open(path.c_str(), (raster ? GDAL_OF_RASTER : GDAL_OF_VECTOR) | GDAL_OF_READONLY,
                                        raster ? kRasters : kVectors));
}

OGRSpatialReference spatialReference(const std::string& crs) {
    OGRSpatialReference reference;
    if (!crs.empty() && reference.SetFromUserInput(crs.c_str()) != OGRERR_NONE) reference.Clear();
    reference.SetAxisMappingStrategy(OAMS_TRADITIONAL_GIS_ORDER);
    return reference;
}

std::string crsName(const OGRSpatialReference* reference) {
    if (!reference) return {};
    const char* authority = reference->GetAuthorityName(nullptr);
    const char* code = reference->GetAuthorityCode(nullptr);
    return authority && code ? std::string(authority) + ":" + code : std::string();
}

} // namespace fox
