#pragma once
#include "blocks/block_spec.h"
#include "blocks/excavation_spec.h"
#include "blocks/value_points.h"
#include "ground/background_lines.h"
#include "holes/ags_holes.h"
#include "holes/local_grid.h"
#include "holes/table_holes.h"
#include "layers/layer_spec.h"
#include "layers/mesh_spec.h"
#include "model/named_surface.h"
#include "model/section.h"
#include "model/water_surface.h"
#include "paper/sheet_template.h"
#include "project/ground_sources.h"
#include "sequence/contact_points.h"
#include "sequence/interpretation.h"
#include "sequence/unit.h"

#include <filesystem>
#include <set>
#include <tuple>

namespace fox {

/// Bytes that versions share; compared by content.
struct SharedBytes {
    std::shared_ptr<const std::string> text = std::make_shared<const std::string>();
    SharedBytes() = default;
    SharedBytes(std::string bytes) : text(std::make_shared<const std::string>(std::move(bytes))) {}
    const std::string& operator*() const { return *text; }
    bool operator==(const SharedBytes& o) const { return text == o.text || *text == *o.text; }
};

/// How a file is to be read: the choices of the import.
struct SourceSettings {
    std::string crs;                              ///< of the file's coordinates; empty: the project's
    std::optional<LocalGrid> localGrid;           ///< take places from the file's local grid, by two known points
    std::vector<std::string> groupsOut;           ///< AGS groups, or layers, that are left out for now
    std::vector<std::string> holesOut;            ///< ids of holes that are left in the file for now
    bool otherSpelling = true;                    ///< ids that differ in case and blanks only are one hole's
    bool idFromFileName = false;                  ///< a LAS file's well is named after the file, not by its header
    std::vector<std::string> curves;              ///< of a LAS file; empty: all
    std::map<std::string, TableMapping> mappings; ///< of tables, by the sheet's name; guessed where there is none
    std::vector<std::string> columns;             ///< names of a table's columns in order, if not in its first row
    enum class As { Guess, HoleTable, SurveyPoints, Contacts, Values };
    As as = As::Guess;                             ///< what a table is, or points and lines of a layer
    ContactSurface surface = ContactSurface::Base; ///< on which contacts lie
    std::string unitField;                         ///< column of layers with the unit, for contacts
    // of ground data
    std::optional<LineRole> role;               ///< of lines; none: what they look like
    std::map<std::string, LineRole> layerRoles; ///< of layers that are something else than `role`
    std::string levelField;                     ///< column of lines with their level
    std::string numberField, codeField;         ///< columns of points with their number and code, of guide lines with the unit
    AttributeFilter filter;                     ///< of layers: only objects with these values
    std::vector<ObjectChoice> objects;          ///< objects of layers that are left out, or have a level by hand
    double thin = 0;                            ///< metres
    Polygon2 keep;                              ///< only what lies inside; empty: all
    std::optional<double> cell;                 ///< metres; a grid sampled finer or coarser
    /// Metres in a unit of coordinates and levels of points: 0.3048 for feet; 0: that of the file's system, else metres. Where
    /// the file has a system of its own, coordinates are in that one's unit anyhow.
    double unit = 0;
    bool operator==(const SourceSettings&) const = default;
};

/// An imported file, whole, so that a hole can always show the line it came from.
struct SourceFile {
    std::string name;   ///< without folders; no two files of a project have the same
    std::string format; ///< "AGS 4.1", "LAS 2.0", "CSV", "XLSX", "survey points", "breaklines", "grid"
    SharedBytes bytes;
    int holes = 0;     ///< how many it brought
    Findings findings; ///< of reading it
    SourceSettings settings = {};
    std::string path = {}; ///< where it was read from, to look for a newer issue; empty if it is not known
    bool operator==(const SourceFile&) const = default;
};

/// A value that was changed after it came: what stood in the contractor's file, and what stands now.
struct Correction {
    std::string file; ///< SourceFile::name
    int line = 0;
    std::string group, heading; ///< as the file has them
    std::string hole;           ///< display name when it was made
    std::string before, after;
    std::string why; ///< the edit's label
    bool operator==(const Correction&) const = default;
};

/// Coordinate system, extent and grid.
struct Site {
    std::string crs;            ///< "EPSG:25831", or empty if it is not known
    std::optional<Frame> frame; ///< none: around what there is
    Polygon2 limit;             ///< empty: none
    bool operator==(const Site&) const = default;
};

struct SectionLine {
    std::string name;
    Polyline2 line;
    double reach = kSectionHoles; ///< metres; holes within it are drawn
    bool operator==(const SectionLine&) const = default;
};

/// Holes that are looked at together.
struct HoleSet {
    std::string name;               ///< no two of a project have the same
    std::vector<std::string> holes; ///< display names
    bool operator==(const HoleSet&) const = default;
};

/// A place where the geologist wants to know what a hole would find.
struct TrialColumn {
    std::string name; ///< "T1"
    Point2 place;
    bool operator==(const TrialColumn&) const = default;
};

/// What the model's report has beside what is worked out; chapters by their keys, see reportChapters().
struct ReportChoices {
    std::set<std::string> excluded;           ///< chapters that it does not have
    std::map<std::string, std::string> texts; ///< words of one's own at the head of a chapter
    bool operator==(const ReportChoices&) const = default;
};

/// A part of a project: shared between the versions that have it in common, and told apart by its address.
template <typename T>
using Part = std::shared_ptr<const T>;
template <typename T>
Part<T> part(T value) {
    return std::make_shared<const T>(std::move(value));
}

/// Everything that the user gave; all else is worked out from it. A value: copying it is cheap.
struct Project {
    std::string name = "New project";
    Part<Site> site = part(Site{});
    Part<std::vector<SourceFile>> files = part(std::vector<SourceFile>{});
    Part<Holes> holes = part(Holes{});
    Part<std::vector<Correction>> corrections = part(std::vector<Correction>{}); ///< one a cell, oldest first
    Part<std::map<std::string, std::string>> codeNames = part(std::map<std::string, std::string>{});
    Part<GroundSources> ground = part(GroundSources{});
    Part<ContourChoices> contours = part(ContourChoices{});
    Part<std::vector<PlacedPicture>> pictures = part(std::vector<PlacedPicture>{});       ///< the lowest first
    Part<std::vector<BackgroundLines>> background = part(std::vector<BackgroundLines>{}); ///< the lowest first
    Part<std::vector<ContactSource>> contactPoints = part(std::vector<ContactSource>{});
    Part<std::vector<ValueSource>> valuePoints = part(std::vector<ValueSource>{});
    Part<Sequence> sequence = part(Sequence{});
    Part<Interpretation> interpretation = part(Interpretation{});
    /// Bases that are not made from holes, by their unit's code.
    Part<std::map<std::string, FixedBase>> fixedBases = part(std::map<std::string, FixedBase>{});
    Part<std::vector<SectionLine>> sections = part(std::vector<SectionLine>{});
    Part<std::vector<TrialColumn>> trialColumns = part(std::vector<TrialColumn>{});
    Part<WaterChoice> shownWater = part(WaterChoice{}); ///< the levels of water on logs and sections
    Part<std::vector<WaterSurface>> waterSurfaces = part(std::vector<WaterSurface>{});
    Part<std::vector<NamedSurface>> namedSurfaces = part(std::vector<NamedSurface>{});
    Part<std::vector<LayerSpec>> layeredGrids = part(std::vector<LayerSpec>{});          ///< no two have the same name
    Part<std::vector<MeshSpec>> meshes = part(std::vector<MeshSpec>{});                  ///< no two have the same name
    Part<std::vector<BlockSpec>> blockModels = part(std::vector<BlockSpec>{});           ///< no two have the same name
    Part<std::vector<ExcavationSpec>> excavations = part(std::vector<ExcavationSpec>{}); ///< no two have the same name
    Part<std::vector<HoleSet>> holeSets = part(std::vector<HoleSet>{});
    Part<ReportChoices> report = part(ReportChoices{});
    Part<std::vector<ReportEntry>> sheets = part(std::vector<ReportEntry>{}); ///< that go out on paper, in their order

private:
    template <typename P>
    static auto partsOf(P& p) {
        return std::tie(p.site, p.files, p.holes, p.corrections, p.codeNames, p.ground, p.contours, p.pictures, p.sequence,
                        p.interpretation, p.fixedBases, p.sections, p.trialColumns, p.background, p.contactPoints, p.valuePoints,
                        p.shownWater, p.waterSurfaces, p.namedSurfaces, p.layeredGrids, p.meshes, p.blockModels, p.excavations,
                        p.holeSets, p.report, p.sheets);
    }

public:
    /// All parts, to go through them without naming each.
    auto parts() const { return partsOf(*this); }
    auto parts() { return partsOf(*this); }
};
/// One and the same version: the same name and, by address, the same parts.
bool sameVersion(const Project&, const Project&);
/// Same values, part by part.
bool sameValue(const Project&, const Project&);
/// Takes the parts that have the same values as those of another version from that one, so that what was made from them serves.
void shareParts(Project&, const Project& with);

/// The frame of the site, or one around its holes (but those that lie far off the others), survey points and lines if none was
/// set; none if there is nothing.
std::optional<Frame> frameOf(const Project&);

} // namespace fox
