#pragma once
#include "base/progress.h"
#include "layers/cell_groups.h"
#include "layers/layer_stack.h"

namespace fox {

enum class CellState : std::uint8_t {
    Outside, ///< outside the area or the ground, or without a level
    Active,
    Passive ///< too thin: water passes through vertically
};

/// How many cells have a mark, and how much of the plan they cover, each column once.
struct CellCheck {
    std::size_t cells = 0;
    double area = 0; ///< square metres
    bool operator==(const CellCheck&) const = default;
};

/// A model as layers on a grid, for groundwater flow. Cells go layer by layer from the top, in each row by row.
struct LayeredGrid {
    PlanGrid plan;
    std::vector<std::string> layers; ///< names, from the top
    std::vector<std::size_t> ruleOf; ///< of each layer, in the specification
    std::vector<double> top, bottom; ///< a cell, metres; kNoValue where it is not known
    std::vector<CellState> state;    ///< a cell
    std::vector<std::int16_t> unit;  ///< a cell: where most of its thickness lies, by its place in the sequence; -1: none
    std::map<std::string, std::vector<double>> values; ///< by CellValueKind::key, a cell; kNoValue where there is none
    std::vector<std::uint8_t> marks;                   ///< a cell: CellMarks
    std::vector<CellGroup> groups;                     ///< that can be answered, as they were before they were
    std::vector<GroupAnswer> idle;                     ///< answers of the specification for which there is no group
    std::size_t noValues =
        0; ///< how many values of active cells are not known, cell by cell and value by value (but fixed heads)

    std::size_t cells() const { return state.size(); }
    std::size_t index(std::size_t layer, std::size_t column) const { return layer * plan.cells() + column; }
    double thickness(std::size_t cell) const { return top[cell] - bottom[cell]; }
    bool has(std::size_t cell, CellMark mark) const { return (marks[cell] & std::uint8_t(mark)) != 0; }
    CellCheck count(CellMark) const;
    std::size_t active() const;
    double volume(std::size_t layer) const; ///< cubic metres, of cells that are not outside
};

/// All that a layered grid is made from.
struct LayerInputs {
    std::shared_ptr<const Model> model;
    LayerSpec spec;
    Area area;
    Field top;
    std::vector<Field> bottoms;          ///< a rule of the specification; of those without `bottom` nothing
    std::map<std::string, Field> values; ///< as the specification has them
};

/// Levels and values are those at cells' centres; see batch.md, "layers", for what each word does.
/// The result does not depend on the number of threads.
/// @throws Error as LayerStack does, or for more than limits::kModelCells; Stopped
LayeredGrid makeLayeredGrid(const LayerInputs&, const Progress& = {});

/// How much ground would change its layer by one answer for all groups with a mark, cubic metres: what is added to thin cells, or
/// taken from them.
double volumeMoved(const LayeredGrid&, CellMark, CellAnswer);

/// The marks that follow from levels, states and values alone: all but Crossing and Thin, which are kept.
void markCells(LayeredGrid&);

} // namespace fox
