#pragma once
#include "base/point.h"

#include <cstdint>
#include <span>
#include <string>

namespace fox {

/// What can be said of a cell; several of one cell are added up.
enum class CellMark : std::uint8_t {
    Crossing = 1, ///< its bottom, as given, lay above its top
    Thin = 2,     ///< thinner than asked for, before that was mended
    NoValue = 4,  ///< active, and one of its values is not known
    Alone = 8,    ///< active, and none of its six neighbours is
    Missing = 16, ///< passive, and its four neighbours in the layer are active
    Ratio = 32    ///< active, and over kThicknessRatio times as thick as the active cell over or under it, or the other way round
};
inline constexpr double kThicknessRatio = 5;
std::span<const CellMark> cellMarks();
const char* words(CellMark); ///< "Bases cross"
const char* name(CellMark);  ///< for files: "crossing"

/// What becomes of cells that a check found.
enum class CellAnswer {
    Leave,   ///< as they are
    Passive, ///< inactive, water passes through; true thickness
    Thicken, ///< their bottom is lowered until they are thick enough
    Join     ///< their thickness goes to the layer above
};
const char* words(CellAnswer); ///< "made thick enough"
const char* name(CellAnswer);  ///< for files: "thicken"
/// The answers that there are to a check; none where cells can't be mended by themselves.
std::span<const CellAnswer> answersTo(CellMark);

/// The answer for one group of cells of a layer that touch one another and have the same mark, in place of the one for all.
struct GroupAnswer {
    CellMark mark = CellMark::Thin;
    std::size_t layer = 0; ///< from the top
    Point2 at;             ///< the group is the one that has the cell there
    CellAnswer answer = CellAnswer::Leave;
    bool operator==(const GroupAnswer&) const = default;
};

/// A value that somebody gave some cells, over what they have from elsewhere.
struct TypedValue {
    std::string key; ///< CellValueKind::key
    double number = 0;
    std::size_t first = 0, last = 0; ///< layers, from the top
    Polygon2 ring = {};              ///< cells with their middle inside; if there are none, the one that holds the ring's middle
    bool operator==(const TypedValue&) const = default;
};

} // namespace fox
