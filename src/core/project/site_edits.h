#pragma once
#include "project/edits.h"

namespace fox {

/// Another coordinate system, into which all places are brought: holes, ground, lines, areas, pictures, grids (sampled again).
/// Levels and files stay; files are known to be in the system that they came in.
/// @throws Error if either system is not known, or a place lies where the new one does not reach
Edited moveToSystem(const Project&, const std::string& crs);
/// No ground, and no model, outside it. Empty: no limit. @throws Error for a ring of one or two corners, or without area
Edited setSiteLimit(const Project&, const Polygon2&);
/// The limit is the ring of an outline, of which holes become islands. @throws Error as above
Edited setSiteLimitFrom(const Project&, const GroundSources::Outline&);
/// None: around what there is. @throws Error for an extent that is reversed, or too many cells
Edited setFrame(const Project&, std::optional<Frame>);
/// Changes the frame that there is. @throws Error as setFrame, and if there is nothing to have an extent
Edited changeFrame(const Project&, const std::function<void(Frame&)>&);
/// One edge of the extent. One that would pass the opposite edge takes it along, so that edges can be typed in any order when
/// the extent moves. @throws Error as setFrame
Edited setFrameEdge(const Project&, double Frame::*edge, double metres);

} // namespace fox
