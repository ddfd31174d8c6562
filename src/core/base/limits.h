#pragma once
#include <cstddef>
#include <cstdint>

/// What may be in a file, at most. Each is checked before memory is asked for, and what is beyond it is said.
namespace fox::limits {

// --- files in general
inline constexpr std::uintmax_t kFileBytes = 4'000'000'000; ///< read into memory as a whole
inline constexpr std::size_t kTextLength = 4'000'000;       ///< of one cell, description or attribute, bytes
inline constexpr std::size_t kColumns = 4096;               ///< of a table or AGS group
inline constexpr std::size_t kRows = 20'000'000;            ///< of a table or AGS group
inline constexpr std::size_t kXmlDepth = 200;
inline constexpr std::size_t kFindingsOfAKind = 100; ///< listed one by one; the rest are counted

// --- geometry
inline constexpr double kCoordinate = 1e9; ///< metres from 0, easting or northing
inline constexpr double kLevel = 1e6;      ///< metres from 0
inline constexpr std::size_t kVertices = 50'000'000;

// --- grids
inline constexpr double kGridCells = 2e8; ///< of one grid: 1.6 GB
/// Of a site, all of whose bases are gridded: 16 million cells are 128 MB a base.
inline constexpr double kSiteCells = 1.6e7;
inline constexpr double kModelCells = 1e8; ///< cells times bases: 800 MB

// --- project files
inline constexpr std::size_t kUnits = 500;
inline constexpr std::size_t kHoles = 1'000'000;
inline constexpr std::size_t kSources = 10'000;       ///< files of a project, of one kind
inline constexpr std::size_t kKeptFile = 512'000'000; ///< of an imported file kept in a project, unpacked, bytes
inline constexpr std::size_t kReadings = 50'000'000;  ///< of one curve

} // namespace fox::limits
