#pragma once
#include "formats/picture.h"
#include "ground/survey_guess.h"
#include "project/edits.h"

#include <set>

namespace fox {

/// A group, sheet or list of curves in a file.
struct SourceTable {
    std::string name;
    std::size_t rows = 0;
    std::string feeds; ///< "places", "geology", "tests"; "" if it is only kept
    std::vector<std::string> columns;
};

/// What reading a file gave, before anything enters the project.
struct ImportPreview {
    SourceFile file;            ///< with format and findings
    std::string system;         ///< "EPSG:25831", if an AGS file says so (LOCA_GREF)
    std::string project, title; ///< as an AGS file says; project is empty for other files
    std::vector<SourceTable> tables;
    Holes holes;
    std::map<std::string, std::string> codeNames;
    std::vector<Table> sheets;    ///< of a table or workbook, as read
    std::optional<Survey> survey; ///< if it is one
    /// What its columns are taken for, if nothing but their values tells it.
    std::optional<SurveyGuess> guess;
    std::optional<GroundLines> lines;
    std::optional<ContactRows> contacts; ///< if its rows or features are contacts in no log
    std::optional<ValueRows> values;     ///< if its rows are values at points in space
    std::shared_ptr<const Grid> grid;
    std::shared_ptr<const Picture> picture;
    /// Ground data, contacts in no log or values in space: no holes come of it.
    bool isGround() const { return survey || lines || contacts || values || grid || picture; }
    /// It is a survey, and which column is the easting has to be asked: settings.columns is the answer.
    bool asksForOrder() const { return guess && !survey && !contacts && !values; }
    /// Its rows look like survey points, but their codes are names of units: settings.as is the answer.
    bool asksWhetherContacts = false;
    /// Of a drawing of several layers of which nobody has said yet which are ground: what they are read as meanwhile. The answer
    /// is settings.layerRoles.
    std::map<std::string, LineRole> proposedRoles;
    bool asksForLayers() const { return !proposedRoles.empty(); }
    /// A table of which no column but the hole's means anything: settings.mappings is the answer.
    bool asksForRoles() const { return !sheets.empty() && holes.empty() && !isGround() && !guess; }
    bool asks() const { return asksForOrder() || asksWhetherContacts || asksForLayers() || asksForRoles(); }
    /// Only part of what a hole is (a sheet of places, a well log): it adds to holes that are there
    bool partial = false;
};

/// What is there, for a file that does not say all of itself.
struct SiteContext {
    std::string crs;                ///< the project's; empty if it is not set
    Box2 data;                      ///< around what it has; empty: nothing yet
    std::vector<std::string> units; ///< codes and names of its units
    SiteContext(std::string system) : crs(std::move(system)) {}
    SiteContext(const char* system) : crs(system) {}
    explicit SiteContext(const Project&);
};

/// Reads a file by its settings: AGS, LAS, workbooks and separated text by their content, ground data (lines, grids,
/// pictures, triangles) by their endings. Corrections made to
/// the file are applied first. Coordinates come out in the site's system. A table of points whose header says nothing is read by
/// what its values say (ground/survey_guess.h): settings.columns has the guess, unless it has to be asked.
/// @throws FileError for what is none of these or can't be read, Error for a system that is not known
ImportPreview readSource(SourceFile, const SiteContext&, const std::vector<Correction>& = {}, const Progress& = {});

/// What importing would do to a hole.
struct HoleChange {
    enum class Kind { New, Changed, Same, Gone };
    Kind kind;
    std::string hole;
    std::vector<std::string> facts; ///< "ground level 23.10 m to 24.05 m", "2 intervals more"
    std::string written = {};       ///< the id as the file has it, if the hole is called otherwise
    bool joins = false;             ///< so far only tables or logs without a project knew it: it becomes the file's hole
};
/// Hole by hole, in the file's order, then those that an earlier issue of the file had and this one has not.
/// A file is a newer issue if one of its name, or an AGS file of its project id with holes in common, is there. What
/// corrections hold back is not a change.
std::vector<HoleChange> changesBy(const Project&, const ImportPreview&);
/// The file in the project that this is a newer issue of, if any.
const SourceFile* earlierIssue(const Project&, const ImportPreview&);
/// The file in the project that is this one, byte for byte and read in the same way; null if there is none, or if its bytes
/// were not kept.
const SourceFile* sameFile(const Project&, const ImportPreview&);
/// How a file of this name was read when it came before; as it looks if none did.
SourceSettings settingsBefore(const Project&, const std::string& name);

struct ImportChoices {
    enum class Existing {
        Leave,  ///< holes that are there stay as they are
        Update, ///< they take what the file says
    };
    Existing existing = Existing::Leave;
    bool removeGone = false;             ///< holes that the newer issue no longer has are taken out
    std::string unitHeading;             ///< the column that carries the unit; empty: as it is, or the most sensible
    std::set<std::string> holesOut = {}; ///< ids of holes that stay in the file for now: rereadSource can bring them later
};
/// Adds what was understood. On an update, corrections made earlier are kept where the new issue still has the old
/// value in the row of the same key; the others are dropped, with a finding. The first holes bring a proposed
/// sequence.
Edited importSource(const Project&, const ImportPreview&, const ImportChoices& = {});
/// The same file once more with other settings: groups added later, other columns, another system. Ground data is read
/// where the file lies, if it is still there.
/// @throws Error if the project does not have that file, FileError as understand does
Edited rereadSource(const Project&, const std::string& file, const SourceSettings&, const Progress& = {});

/// The file as it goes out: byte for byte, but for the rows of AGS files that were corrected.
std::string correctedBytes(const Project&, const SourceFile&);

} // namespace fox
