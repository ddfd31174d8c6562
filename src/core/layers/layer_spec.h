#pragma once
#include "layers/cell_answers.h"
#include "layers/plan_grid.h"
#include "surfaces/surface.h"

#include <filesystem>
#include <map>

namespace fox {

/// Where a level or a value comes from.
struct FieldSource {
    enum class From {
        None,
        Units,   ///< the values of the units that are there
        Number,  ///< the same everywhere
        Ground,  ///< the model's ground
        Base,    ///< the base of the unit `name`, after the rules of the stack
        Grid,    ///< the file `name`, linear between the middles of its cells
        Points,  ///< column `column` of the table `name`, by the method of `settings`
        Surface, ///< the project's named surface `name`
        Water,   ///< the project's water surface `name`
        Line     ///< cells under `line`, highest active layer only; its levels are the value
    };
    From from = From::None;
    double number = 0;
    std::string name = {}, column = {};
    SurfaceSettings settings = {};
    bool logarithmic = false; ///< the logarithms of the points' values are interpolated
    Polyline3 line = {};
    bool operator==(const FieldSource&) const = default;
};
const char* words(FieldSource::From); ///< "grid"

/// One layer of a table of layers, or several where it is parted.
struct LayerRule {
    std::string name;
    std::vector<std::string> units = {};    ///< codes; see batch.md: its bottom is the base of the oldest of them
    std::vector<double> parts = {1};        ///< in proportion, the uppermost first
    std::optional<double> thickness = {};   ///< metres, from the top of what is left of its units
    std::optional<FieldSource> bottom = {}; ///< in place of the units' base
    std::optional<double> below = {};       ///< its bottom lies so many metres below its top
    std::optional<double> above = {};       ///< its bottom lies so many metres above the next one that is given
    std::optional<int> evenly = {};         ///< so many layers between its top and the next bottom that is given
    /// Whether its bottom follows from the one that is given next.
    bool isBetween() const { return above || evenly; }
    bool operator==(const LayerRule&) const = default;
};

/// What becomes of cells that are thinner than `metres`: left passive, made thick enough, joined.
struct ThinRule {
    double metres = 0.01;
    CellAnswer then = CellAnswer::Passive;
    bool operator==(const ThinRule&) const = default;
};

/// What becomes of cells that a flow program would stumble over, beside thin ones.
struct CellAnswers {
    bool fillMissing = false; ///< passive cells among four active neighbours are made thick enough (ThinRule::metres)
    bool dropAlone = false;   ///< active cells without an active neighbour become passive
    std::vector<GroupAnswer> groups = {};
    bool operator==(const CellAnswers&) const = default;
};

/// A layered grid as it is asked for.
struct LayerSpec {
    std::string name;
    PlanGrid grid; ///< before it is made finer
    std::vector<FinerPart> finer = {};
    std::string areaFile = {}; ///< outlines; empty: areaRing
    Polygon2 areaRing = {};    ///< empty: everywhere
    FieldSource top = {FieldSource::From::Ground, 0, ""};
    std::vector<LayerRule> layers = {};
    ThinRule thin = {};
    CellAnswers answers = {};
    std::map<std::string, FieldSource> values = {}; ///< by name: "conductivity"
    std::vector<TypedValue> typed = {};             ///< the last one holds
    /// The answer to a check of all groups that have none of their own.
    CellAnswer answerForAll(CellMark) const;
    bool operator==(const LayerSpec&) const = default;
};

/// Reads the JSON of batch.md and of docs/formats.md; files are relative to `folder`, and have it in front afterwards.
/// @throws FileError if it is not JSON of this kind, UsageError for a number or word that can't be
LayerSpec layerSpecOf(std::string_view json, const std::filesystem::path& folder);
std::string toJson(const LayerSpec&);

/// Values that a layered grid can have, with what they are measured in: those of units, recharge and heads.
struct CellValueKind {
    const char *key, *words, *unit;
};
std::span<const CellValueKind> cellValueKinds();

} // namespace fox
