#pragma once
#include "formats/ags.h"
#include "holes/hole.h"

namespace fox {

/// The holes of an AGS file of either edition, in file order.
struct AgsHoles {
    std::string project; ///< PROJ_ID; the file's name if it has none
    std::string title;   ///< PROJ_NAME, or empty
    Holes holes;
    std::vector<std::optional<Point2>> localPlaces; ///< of each hole, on the site's own grid (LOCA_LOCX, LOCA_LOCY)
    std::map<std::string, std::string> codeNames;   ///< of geology codes, from ABBR
    Findings findings;                              ///< of what could not be understood; faults of sense come from checkHoles
};

/// A number with a unit behind it is taken, other text in a number column is a finding and counts as
/// missing. A second row of the same id becomes a hole of its own, named "BH01 #2". Rows of holes that
/// are not in the file are findings. HORN_TOP rows are stations; without, HOLE_ORNT and HOLE_INCL are one.
/// Lengths in feet (the unit row says so) are turned into metres, with a finding. Groups in `without` are passed
/// over; places and geology are always read.
AgsHoles holesOf(const AgsFile&, const std::vector<std::string>& without = {});

/// What a group brings to the project: "places", "paths", "geology", "tests"; "" if it is only kept in the file.
const char* feeds(std::string_view group);

} // namespace fox
