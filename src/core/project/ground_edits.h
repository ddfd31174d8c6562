#pragma once
#include "project/edits.h"

namespace fox {

// Edits of the ground and of the pictures behind it. All throw Error if what they speak of is not there.

/// What of a file: a drawing may bring points and lines, which are used or not apart from one another.
enum class GroundPart { Points, Lines, Grid };
Edited setSourceUsed(const Project&, const std::string& file, GroundPart, bool used);
/// Takes a file of ground data or contacts, or a picture, out of the project.
Edited removeSource(const Project&, const std::string& file);
/// Lines only to look at: colour, width, whether they are drawn. @throws Error if there are none of that file and layer
Edited changeBackground(const Project&, const std::string& file, const std::string& layer,
                        const std::function<void(BackgroundLines&)>&, const std::string& what);
Edited setCodeUsed(const Project&, const std::string& code, bool used);
/// Points of the code (without its number) are joined as breaklines, or no longer.
Edited setCodeJoined(const Project&, const std::string& code, bool joined);
/// The outline of this name, file and ring, whatever it is used for.
Edited setOutlineUse(const Project&, const GroundSources::Outline&, GroundSources::Outline::Use);
Edited addOutline(const Project&, const std::string& name, const Polygon2&, GroundSources::Outline::Use);
Edited removeOutline(const Project&, const GroundSources::Outline&);
/// A breakline that was drawn; levels kNoValue: the ground's there. They are kept as if a file kDrawnLines had brought them.
Edited addBreakline(const Project&, const Polyline3&);
inline constexpr const char* kDrawnLines = "drawn breaklines";
/// Something mended by hand: at a place that was mended the same way before, it takes its place.
Edited mend(const Project&, const TinEdit&);
Edited removeMending(const Project&, const TinEdit&);
Edited setHoleLevels(const Project&, bool used);
Edited setMendFlats(const Project&, bool mend);
Edited setCutAtOutlines(const Project&, bool cut);
Edited setReach(const Project&, double metres);       ///< 0: any distance
Edited setLongestEdge(const Project&, double metres); ///< 0: no limit
Edited setBlend(const Project&, double metres);
Edited changeContours(const Project&, const std::function<void(ContourChoices&)>&);

/// @throws Error if there is no picture of that file
Edited changePicture(const Project&, const std::string& file, const std::function<void(PlacedPicture&)>&);
/// By marks. @throws Error as fitGeoreference does
Edited placePicture(const Project&, const std::string& file, const std::vector<ControlPoint>&);

} // namespace fox
