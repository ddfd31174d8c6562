#pragma once
#include "base/shared_list.h"
#include "ground/georeference.h"
#include "ground/lines.h"
#include "ground/terrain.h"

#include <set>

namespace fox {

/// What the ground is made of, as it was imported and chosen.
struct GroundSources {
    struct Points {
        std::string file;
        SharedList<SurveyPoint> points;
        bool used = true;
        bool operator==(const Points&) const = default;
    };
    struct Lines {
        std::string file;
        LineRole role = LineRole::Breaklines; ///< breaklines or contours
        SharedList<Polyline3> lines;          ///< levels kNoValue: the ground's there
        bool used = true;
        bool operator==(const Lines&) const = default;
    };
    struct Raster {
        std::string file;
        std::shared_ptr<const Grid> grid; ///< in the project's system
        bool used = true;
        bool operator==(const Raster& o) const {
            return file == o.file && used == o.used && (grid == o.grid || *grid == *o.grid);
        }
    };
    struct Outline {
        enum class Use {
            None,   ///< kept for volumes and to look at
            Limit,  ///< no ground outside (of all such)
            Island, ///< no ground inside
        };
        std::string name, file;
        Polygon2 ring;
        Use use = Use::None;
        std::vector<Polygon2> holes = {}; ///< rings inside it that are not a part of it
        Area area() const { return Area(RingWithHoles{ring, holes}); }
        bool operator==(const Outline&) const = default;
    };
    std::vector<Points> points;
    std::vector<Lines> lines;
    std::vector<Raster> rasters;
    std::vector<Outline> outlines;
    std::set<std::string> codesOut;    ///< codes of survey points that are no ground: wall tops, tree tops, inverts
    std::set<std::string> codesJoined; ///< codes, without number, whose points are joined as breaklines
    std::vector<TinEdit> edits;        ///< mended by hand, oldest first
    bool holeLevels = true;            ///< holes' ground levels are ground points too
    bool mendFlats = true;             ///< between contours
    bool cutAtOutlines = false;        ///< triangles follow limits and islands; else these only hide what is beyond
    double reach = 100;                ///< metres in which a line without levels finds ground points
    double longestEdge = 0;            ///< metres; outer triangles with a longer edge are dropped; 0: none
    double blend = 60;                 ///< metres over which a coarse grid is drawn to the survey
    bool operator==(const GroundSources&) const = default;
    bool empty() const { return points.empty() && lines.empty() && rasters.empty(); }
};

/// How contours are drawn and handed on.
struct ContourChoices {
    double interval = 0; ///< metres; 0: a round one that gives about a dozen lines
    int majorEvery = 5;
    bool smooth = false; ///< corners cut; else exactly as the triangles have them
    bool operator==(const ContourChoices&) const = default;
};

/// A picture placed on the plan.
struct PlacedPicture {
    std::string file;                ///< SourceFile::name, which has its bytes
    std::vector<ControlPoint> marks; ///< empty: by the picture's own georeference, if it has one
    Georeference placing;            ///< pixels to metres
    double opacity = 0.6;            ///< 0 to 1
    bool shown = true, draped = false;
    bool placed = true; ///< else nobody has said yet where it lies, and it is not drawn
    bool isDrawn() const { return shown && placed; }
    bool operator==(const PlacedPicture&) const = default;
};

/// What is triangulated, of sources that are used: codes left out, strings joined. The limit is the site's.
TerrainInput terrainInputOf(const GroundSources&, const Polygon2& limit, Findings&);

/// Codes of all survey points, with how many there are of each.
std::map<std::string, int> codesOf(const GroundSources&);

} // namespace fox
