#pragma once
#include "layers/layer_spec.h"
#include "model/ground_at.h"

namespace fox {

/// A source of levels or values, with what it is read from.
struct Field {
    FieldSource source = {};
    std::shared_ptr<const Surface> surface = {}; ///< of grids, points, named and water surfaces

    /// At the places of columns of a model; kNoValue where there is none. Units and lines have no single value at a place: none.
    std::vector<double> at(std::span<const Point2>, std::span<const ModelColumn>, const Sequence&) const;
};

/// The values of units under the keys that come from the units: a unit each, kNoValue where one has none.
std::map<std::string, std::vector<double>> valuesByUnit(const Sequence&, const std::map<std::string, Field>&);
/// A value by those of the units that are there: the mean by thickness, of conductivity across layers the harmonic one.
/// kNoValue if a unit that is there has none, or nothing is there.
double valueOfUnits(std::span<const double> thicknesses, std::span<const double> values, bool harmonic);

/// How the rules of a table of layers part one column of a model.
class LayerStack {
public:
    /// @throws Error for a unit that the sequence has not, units that are not in their order, a lowest layer without a bottom, or
    /// a layer between others where nothing below it is given
    LayerStack(const Sequence&, std::vector<LayerRule>, bool oldestHasFloor);

    std::size_t layers() const { return m_names.size(); }
    const std::vector<std::string>& names() const { return m_names; } ///< "till 1", "till 2" of parts
    const std::vector<LayerRule>& rules() const { return m_rules; }
    std::size_t ruleOf(std::size_t layer) const { return m_ruleOf[layer]; }

    /// Levels of one column: layers() + 1, the top first, none above the one before; kNoValue from where one is not known.
    /// `given`: what `bottom` of each rule says there. Returns how many bottoms, as given, lay above their tops by over 1e-9 m;
    /// `crossing`, if given, is set to true for these layers.
    int levels(double top, const ModelColumn&, std::span<const double> given, std::span<double> levels,
               std::span<char> crossing = {}) const;

private:
    struct Bottom {
        std::optional<std::size_t> unit; ///< whose base it is
    };
    double bottomOf(std::size_t rule, double top, const ModelColumn&, std::span<const double> given) const;

    std::vector<LayerRule> m_rules;
    std::vector<Bottom> m_bottoms; ///< a rule
    std::vector<std::string> m_names;
    std::vector<std::size_t> m_ruleOf;
};

/// By more than rounding.
inline bool isThinner(double thickness, double metres) { return thickness < metres - 1e-9; }
/// Applies a rule for thin layers to the levels of one column (layers + 1) and says which layers it leaves passive.
/// Thicken, from the top down, lowers a bottom until the layer has `metres`; Join gives a thin layer's thickness to the next one
/// above that has any, of the first to the one below. Returns how many layers were thin before.
int mendThin(const ThinRule&, std::span<double> levels, std::span<char> passive);
/// The same with an answer a layer.
int mendThin(double metres, std::span<const CellAnswer> answers, std::span<double> levels, std::span<char> passive);

} // namespace fox
