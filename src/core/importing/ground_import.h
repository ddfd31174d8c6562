#pragma once
#include "importing/import.h"

namespace fox {

/// What a file is to the ground, by its ending, and for images by what is in it.
enum class GroundKind {
    None,      ///< a table or holes: not by this
    Lines,     ///< lines, points and areas that GDAL reads
    Grid,      ///< levels on a grid
    Picture,   ///< a map or plan to lie behind
    Triangles, ///< LandXML, OBJ or PLY
};
GroundKind groundKindOf(const std::filesystem::path&);

/// Reads u.file by its settings into u.lines, u.contacts, u.grid or u.picture, brought to the site's system. The file is read
/// where it lies (u.file.path), pictures from the bytes. @throws FileError as the readers do
void readGround(ImportPreview&, GroundKind, const std::string& siteCrs, const Progress&);

/// Adds what was understood to the ground, or puts it in place of an earlier issue of the same file; edits made by
/// hand stay and are applied to the new data.
Edited importGround(const Project&, const ImportPreview&);

/// Adds contacts that are in no log, or puts them in place of those of an earlier issue of the same file: points that were
/// excluded by hand stay excluded.
Edited importContacts(const Project&, const ImportPreview&);

/// Adds values at points in space, or puts them in place of those of an earlier issue of the same file: points that were
/// excluded by hand stay excluded.
Edited importValues(const Project&, const ImportPreview&);

/// Reads a file's bytes, if they are to be kept: those of big ground files (kKeptBytes) stay on the disk.
void loadBytes(SourceFile&);
inline constexpr std::uintmax_t kKeptBytes = 16'000'000;

/// Places outside of where a coordinate system makes sense; none if it is not known. Degrees are told apart, and places that
/// would lie inside the other way round (FC-SWAPPED).
Findings outOfSense(const Box2& extent, const std::string& crs, const std::string& file);

} // namespace fox
