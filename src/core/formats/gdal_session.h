#pragma once
// For the sources of formats and project only: GDAL stays out of public headers.
#include <cpl_error.h>
#include <gdal_priv.h>
#include <ogrsf_frmts.h>

#include <memory>
#include <string>
#include <string_view>

namespace fox {

/// Registers GDAL's drivers once and, while it lives, keeps GDAL's messages off standard error.
class GdalSession {
public:
    GdalSession();
    ~GdalSession();
    GdalSession(const GdalSession&) = delete;
    GdalSession& operator=(const GdalSession&) = delete;
    /// GDAL's last message, for the end of a sentence of ours.
    std::string lastMessage() const;
};

/// Bytes as a file that GDAL can open, while this lives; the bytes must live as long.
class MemoryFile {
public:
    /// `name`'s ending tells GDAL the format.
    MemoryFile(std::string_view bytes, const std::string& name);
    ~MemoryFile();
    MemoryFile(const MemoryFile&) = delete;
    MemoryFile& operator=(const MemoryFile&) = delete;
    const std::string& path() const { return m_path; }

private:
    std::string m_path;
};

struct CloseDataset {
    void operator()(GDALDataset* d) const { GDALClose(d); }
};
using DatasetPtr = std::unique_ptr<GDALDataset, CloseDataset>;

enum class GdalKind { Raster, Vector };
/// Opens a file for reading with one of the drivers that are listed for it: those that read local files and nothing else.
/// None that reaches the network, none that names other files to be opened (.vrt). Null if none of them can.
DatasetPtr openWithListedDrivers(const std::string& path, GdalKind);

/// The coordinate system of a name such as "EPSG:25831", axes as easting, northing. An empty name, or one
/// that GDAL does not know, gives an empty one.
OGRSpatialReference spatialReference(const std::string& crs);
/// "EPSG:25831", or empty if it has no such name.
std::string crsName(const OGRSpatialReference*);

} // namespace fox
