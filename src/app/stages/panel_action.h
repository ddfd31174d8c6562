#pragma once
#include "ground/tin_edits.h"

#include <QString>
#include <string>
#include <variant>

namespace fox::app {

// What a side panel asks for that is not an edit by itself: a sheet, a file, a drawing on the plan.

struct ImportFiles {};
struct ExportFiles {};
struct ShowTable {
    QString key; ///< as tableKinds() has them
};
struct ShowSource {
    QString file;
};
struct PlaceHole {
    QString hole; ///< on the plan
};
struct SaveCorrections {}; ///< as a file
struct GetTiles {};        ///< an elevation grid or map of a service
struct CompareSurfaces {};
struct AddNamedSurface {}; ///< from a file
struct EditTriangles {
    TinEdit::Kind kind;
};
struct ShowPicture {
    QString file;
};
struct ShowSurface {
    int page; ///< as SurfaceSheet::Page has them, of the chosen unit's base
};
struct AddWater {
    QString unit; ///< code; empty: of none
};
struct ShowWater {
    QString surface; ///< by name
};
struct BaseFromGrid {
    QString unit;
};
struct ShowSequence {};         ///< what the program proposes
struct ImportInterpretation {}; ///< units of intervals from a table
struct ImportSections {};       ///< section lines from a file
struct ShowVolumes {};
struct SaveSheets {
    enum class Which { This, All, ShownHoles } which;
    bool apart = false; ///< a PDF an item, in a folder
};
struct SaveReport {}; ///< all sheets of the project's report
struct OpenTemplate {};
struct SaveTemplate {};
struct KeepTemplate {}; ///< for all projects
struct DropTemplate {
    std::string name;
};
struct PrintSheets {}; ///< the sheet that is looked at
struct DrawOnPlan {
    enum class What { Section, Outline, SiteLimit, TrialColumn, Present, Absent, Cells } what;
};
struct ShowPart {
    const char* stage; ///< id of a part of a stage
};
struct WriteLayers {
    std::string grid; ///< by name, into a folder
};
struct WriteMesh {
    std::string mesh; ///< by name, into a folder
};
struct ShowCellGroups {};    ///< what becomes of each group of cells that the checks of the layered grid found
struct WhereCells {};        ///< unit and values for the cells of somebody else's grid or mesh
struct AddLayersFromFile {}; ///< specifications of layered grids and meshes
struct WriteBlocks {
    std::string model; ///< by name
};
struct WriteBlockTable {
    std::string model; ///< by name: what its blocks come to by unit and level
};
struct MakeBlocksAgain {
    std::string model; ///< by name
};
struct WriteExcavation {
    std::string excavation; ///< by name, into a folder
};
struct AddBlocksFromFile {}; ///< specifications of block models and excavations
struct ShowOnPlan {
    Box2 area; ///< fills the plan
};
struct ExtentFromPlan {}; ///< the site's extent is what the plan shows

using PanelAction =
    std::variant<ImportFiles, ExportFiles, ShowTable, ShowSource, PlaceHole, SaveCorrections, GetTiles, CompareSurfaces,
                 AddNamedSurface, EditTriangles, ShowPicture, ShowSurface, AddWater, ShowWater, BaseFromGrid, ShowSequence,
                 ImportInterpretation, ImportSections, ShowVolumes, SaveSheets, SaveReport, OpenTemplate, SaveTemplate,
                 KeepTemplate, DropTemplate, PrintSheets, DrawOnPlan, ShowPart, WriteLayers, WriteMesh, ShowCellGroups,
                 WhereCells, AddLayersFromFile, WriteBlocks, WriteBlockTable, MakeBlocksAgain, WriteExcavation, AddBlocksFromFile,
                 ShowOnPlan, ExtentFromPlan>;

} // namespace fox::app
