#pragma once
#include "formats/picture.h"
#include "ground/outliers.h"
#include "ground/point_grid.h"
#include "model/audit.h"
#include "model/section.h"
#include "project/project.h"

#include <mutex>

namespace fox {

/// What there is to say of the ground; counted once, as there may be millions of points.
struct GroundStatistics {
    Tin::Measures measures;
    std::map<std::string, int> codes; ///< of survey points
    std::set<std::string> joinable;   ///< codes, without number, that can be joined as strings
    bool linesWithoutLevels = false;
    Box2 extent;                            ///< of the triangles
    std::vector<const SurveyPoint*> points; ///< of sources that are used; they live as long as the project does
    PointGrid pointGrid;                    ///< of points
};

/// What is worked out from a project. Everything is shared and immutable; a part that an edit did not touch
/// is the same pointer as before.
struct ProductSet {
    Project project; ///< the version that it was worked out from
    std::optional<Frame> frame;
    std::vector<std::shared_ptr<const AgsFile>> agsFiles; ///< as project.files, corrected; null for other formats
    std::shared_ptr<const Findings> holeFindings;
    std::shared_ptr<const Terrain> terrain;
    std::shared_ptr<const Grid> ground;
    double contourInterval = 1; ///< metres
    std::shared_ptr<const std::vector<ContourLine>> contours;
    /// The same with fewer vertices, none off by more than `drawnTolerance` metres: to be looked at as a whole.
    std::shared_ptr<const std::vector<ContourLine>> drawnContours;
    double drawnTolerance = 0;
    std::shared_ptr<const std::vector<Outlier>> outliers; ///< of the terrain's vertices
    std::shared_ptr<const GroundStatistics> groundStatistics;
    std::vector<std::shared_ptr<const Picture>> pictures; ///< as project.pictures; null if its bytes can't be read
    std::shared_ptr<const InterpretedLogs> reading;       ///< points into project.holes
    std::vector<std::shared_ptr<const std::vector<Contact>>> contacts;
    std::shared_ptr<const Model> model;
    std::vector<std::shared_ptr<const Grid>> rawGrids; ///< bases before the rules of the stack
    std::shared_ptr<const ModelGrid> modelGrid;
    std::shared_ptr<const Volumes> volumes;
    double secondsPerCell = 0; ///< to sample all bases, as last measured; 0: not yet
    std::shared_ptr<const Audit> audit;
    std::vector<std::shared_ptr<const Section>> sections; ///< as project.sections
    std::shared_ptr<const Findings> findings;             ///< all of them, the worst first
};

/// Works products out, and remembers them by the identity of what they are made from: the last few versions of
/// each, so that undo costs nothing. One caller at a time; others wait.
class Products {
public:
    Products();
    ~Products();
    /// What is asked at places and along lines needs no grids: Model leaves model grid, volumes, audit and contours
    /// null, and findings without those of the grids.
    enum class Want { Model, Everything };
    /// @throws Stopped; what was finished by then is remembered
    std::shared_ptr<const ProductSet> of(const Project&, const Progress& = {}, Want = Want::Everything);

private:
    struct Memory;
    std::unique_ptr<Memory> m_memory;
    std::mutex m_mutex;
};

/// A hole's level is this far off the terrain made without it: a finding, and it is no ground point.
inline constexpr double kLevelOff = 0.5; ///< metres
/// A ground point is at least this far off its neighbours: a finding (see outliersOf).
inline constexpr double kPointOff = 0.75; ///< metres

} // namespace fox
