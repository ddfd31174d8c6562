#pragma once
#include "project/edits.h"

namespace fox {

/// A line of a project that can be changed on the plan.
struct ProjectLine {
    enum class Kind { Section, Fault, Guide, Breakline, Outline, SiteLimit, Presence, Extent };
    Kind kind = Kind::Section;
    std::string name;  ///< of sections, faults and outlines; the unit of guides and presence; the file of breaklines
    Polyline3 corners; ///< levels of guides and breaklines; else kNoValue. A ring does not repeat its first corner
    bool isClosed() const {
        return kind == Kind::Outline || kind == Kind::SiteLimit || kind == Kind::Presence || kind == Kind::Extent;
    }
    bool hasLevels() const { return kind == Kind::Guide; } ///< of breaklines they may be kNoValue: the ground's
    bool operator==(const ProjectLine&) const;             ///< levels that are kNoValue are equal
};
const char* words(ProjectLine::Kind); ///< "section line", "fault"
/// "section line A", "outline of the culvert"
std::string describe(const ProjectLine&);

/// Every line that can be changed by hand: sections, faults, guide lines, breaklines that were drawn, outlines, the site limit,
/// areas of presence, and the extent, which stays a rectangle.
std::vector<ProjectLine> linesOf(const Project&);

// Edits. Each finds the line by what it is and its corners, and throws Error if it is no longer there.

/// Units that do not leave an outline follow it. Of the extent, the corner that moved and the one opposite are what counts.
/// @throws Error also for too few corners, or no length or area
Edited setCorners(const Project&, const ProjectLine&, const Polyline3& corners);
Edited removeLine(const Project&, const ProjectLine&);
Edited reverseLine(const Project&, const ProjectLine&);
/// Two lines of one that is open, both with the corner. The second has a name of its own. @throws Error at an end
Edited splitLine(const Project&, const ProjectLine&, std::size_t corner);
/// The two lines of one kind as one, ends that are nearest joined, under the first one's name. @throws Error for rings
Edited joinLines(const Project&, const ProjectLine& first, const ProjectLine& second);
/// Sections beside one: `each` metres apart, so many to its left and right, named "A +25", "A -25" (right is +).
/// @throws Error if that is not a section, or for no distance
Edited addParallelSections(const Project&, const std::string& section, double each, int left, int right);

// Geometry of what is drawn.

/// A line moved sideways in plan, metres to the right of its direction; corners are mitred, and cut off where they would reach
/// farther than twice the distance.
Polyline2 offsetLine(const Polyline2&, double metres);

/// Where a corner that is dragged catches.
struct SnapTarget {
    Point2 place;
    std::string what; ///< "BH01", "section A"
};
/// The nearest of: a hole within the distance; else a corner of another line; else the nearest place on another line. None if
/// nothing is so near.
std::optional<SnapTarget> snapTarget(const Project&, const std::vector<ProjectLine>&, const ProjectLine* except, Point2,
                                     double within);

} // namespace fox
