#include "views/layer_values.h"

#include "style/theme.h"
#include "style/words.h"

#include <QCoreApplication>

namespace fox::app {

namespace {
QString say(const char* text) { return QCoreApplication::translate("fox::app::Layers", text); }
} // namespace

const MeshProduct* shownMesh(const ProductSet* products, const LayerLook& look) {
    if (!products || look.mesh.empty()) return nullptr;
    const auto& specs = *products->project.meshes;
    const auto at = std::ranges::find(specs, look.mesh, &MeshSpec::name);
    if (at == specs.end() || products->meshes.size() != specs.size()) return nullptr;
    return products->meshes[std::size_t(at - specs.begin())].get();
}

const LayerProduct* shownLayers(const ProductSet* products, const LayerLook& look) {
    if (!products) return nullptr;
    const auto& specs = *products->project.layeredGrids;
    if (products->layers.size() != specs.size() || specs.empty()) return nullptr;
    const auto at = std::ranges::find(specs, look.grid, &LayerSpec::name);
    return products->layers[at == specs.end() ? 0 : std::size_t(at - specs.begin())].get();
}

const LayeredGrid* shownGrid(const ProductSet* products, const LayerLook& look) {
    const auto* made = shownLayers(products, look);
    return made ? made->grid.get() : nullptr;
}

int shownLine(const LayeredGrid& g, const LayerLook& look) {
    const int count = look.byColumn ? g.plan.columns() : g.plan.rows();
    return look.line < 0 ? count / 2 : std::min(look.line, count - 1);
}

std::vector<LayerValueKind> layerValueKinds(const LayeredGrid& g) {
    std::vector<LayerValueKind> out{{"thickness", say("Thickness, m")},
                                    {"top", say("Top, m")},
                                    {"bottom", say("Bottom, m")},
                                    {"unit", say("Unit")},
                                    {"checks", say("Checks")}};
    if (g.values.contains("starting_head")) {
        out.push_back({"saturated", say("Saturated thickness, m")});
        if (g.values.contains("conductivity")) out.push_back({"transmissivity", say("Transmissivity, m\u00B2/s")});
    }
    for (const auto& kind : cellValueKinds())
        if (g.values.contains(kind.key))
            out.push_back({kind.key, *kind.unit ? qt(kind.words) + ", " + qt(kind.unit) : qt(kind.words)});
    return out;
}

QString layerValueWords(const LayeredGrid& g, const std::string& key) {
    for (const auto& kind : layerValueKinds(g))
        if (kind.key == key) return kind.words;
    return say("Thickness, m");
}

double layerValue(const LayeredGrid& g, const std::string& key, std::size_t cell) {
    if (g.state[cell] == CellState::Outside || key == "unit" || key == "checks") return kNoValue;
    if (key == "top") return g.top[cell];
    if (key == "bottom") return g.bottom[cell];
    if ((key == "saturated" || key == "transmissivity") && g.values.contains("starting_head")) {
        const double wet = std::clamp(g.values.at("starting_head")[cell] - g.bottom[cell], 0.0, g.thickness(cell));
        return key == "saturated" ? wet : wet * g.values.at("conductivity")[cell];
    }
    const auto at = g.values.find(key);
    return at == g.values.end() ? g.thickness(cell) : at->second[cell];
}

paper::ValueColours layerColours(const LayeredGrid& g, const LayerLook& look, std::optional<std::size_t> layer) {
    paper::ValueColours out{paper::ColourScale::Earth, kNoValue, kNoValue, {}};
    const auto begin = layer ? g.index(*layer, 0) : 0, end = layer ? g.index(*layer + 1, 0) : g.cells();
    for (auto cell = begin; cell < end; ++cell) {
        if (g.state[cell] != CellState::Active) continue;
        const double v = layerValue(g, look.value, cell);
        out.low = std::fmin(out.low, v), out.high = std::fmax(out.high, v);
    }
    return out;
}

std::optional<QColor> layerColour(const LayeredGrid& g, const Sequence& sequence, const LayerLook& look, std::size_t cell,
                                  const paper::ValueColours& colours) {
    if (g.state[cell] == CellState::Outside) return {};
    const bool passive = g.state[cell] == CellState::Passive;
    if (look.value == "checks") return g.marks[cell] ? colour::fox : passive ? colour::stage : colour::veil(200);
    if (look.value == "unit") {
        if (g.unit[cell] < 0) return {};
        auto c = unitColour(sequence.units[std::size_t(g.unit[cell])]);
        if (passive) c.setAlpha(90);
        return c;
    }
    if (passive) return colour::stage;
    const double v = layerValue(g, look.value, cell);
    if (std::isnan(v)) return {};
    return qColour(colours.of(v));
}

QString cellWords(const LayeredGrid& g, const Sequence& sequence, std::size_t cell) {
    const auto column = cell % g.plan.cells();
    auto out = say("layer %1, row %2, column %3")
                   .arg(cell / g.plan.cells() + 1)
                   .arg(column / std::size_t(g.plan.columns()) + 1)
                   .arg(column % std::size_t(g.plan.columns()) + 1);
    if (g.state[cell] == CellState::Outside) return out + say(": outside");
    out += say(": %1 to %2 m").arg(g.bottom[cell], 0, 'f', 2).arg(g.top[cell], 0, 'f', 2);
    if (g.state[cell] == CellState::Passive) out += say(", inactive");
    if (g.unit[cell] >= 0) out += ", " + qt(sequence.units[std::size_t(g.unit[cell])].name);
    QStringList marks;
    for (const auto mark : cellMarks())
        if (g.has(cell, mark)) marks << qt(words(mark)).toLower();
    return marks.isEmpty() ? out : out + " · " + marks.join(", ");
}

} // namespace fox::app
