#include "views/layers_model.h"

#include "base/errors.h"
#include "base/text.h"
#include "layers/proposed_layers.h"
#include "project/layer_edits.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/number_box.h"

#include <fmt/format.h>

namespace fox::app {

namespace {

struct LayerColumnWords {
    const char *title, *tip;
};
constexpr LayerColumnWords kLayerColumns[LayersModel::kColumns] = {
    {"No.", "Layers are counted from the top"},
    {"Layer", "Its name, as files have it"},
    {"Units", "Codes of the units, with commas; the layer ends at the base of the oldest. Units that no layer names go with the "
              "next older one"},
    {"Parts", "Into how many it is parted: 2, or proportions from the top: 1 : 3"},
    {"Upper", "Metres from its top that it takes; the rest is the next layer's, of the same units. Empty: all of it"},
    {"Bottom", "The level that it goes down to, m, in place of the units' base. The lowest layer needs one"},
    {"Least", "Thickness of its active cells, m"},
    {"Mean", "Thickness of its active cells, m"},
    {"Most", "Thickness of its active cells, m"},
    {"Active", "How many cells are active"}};

std::optional<double> numberOrNone(const QString& typed) {
    if (typed.trimmed().isEmpty()) return {};
    const auto v = typedNumber(typed);
    if (!v) throw Error("\"" + typed.toStdString() + "\" is not a number.");
    return v;
}

std::vector<std::string> codesIn(const QString& typed, const Sequence& sequence) {
    std::vector<std::string> out;
    for (const auto& part : typed.split(',', Qt::SkipEmptyParts)) {
        const auto code = part.trimmed().toStdString();
        if (!sequence.index(code)) throw Error("There is no unit " + code + " in the sequence.");
        out.push_back(code);
    }
    return out;
}

} // namespace

void LayersModel::setProducts(std::shared_ptr<const ProductSet> products, const LayerLook& look) {
    beginResetModel();
    m_products = std::move(products);
    m_look = look;
    m_figures.assign(rules() ? rules()->size() : 0, {});
    bool known = false;
    if (const auto* made = shownMesh(m_products.get(), m_look)) {
        if (made->mesh) addFigures(*made->mesh);
        known = made->mesh != nullptr;
    } else if (const auto* g = shownGrid(m_products.get(), m_look)) {
        addFigures(*g);
        known = true;
    }
    if (!known) m_figures.clear();
    endResetModel();
}

void LayersModel::Figures::add(double thickness) {
    least = std::fmin(least, thickness), most = std::fmax(most, thickness);
    mean = active == 0 ? thickness : mean + (thickness - mean) / double(active + 1);
    ++active;
}

void LayersModel::addFigures(const LayeredGrid& g) {
    for (std::size_t k = 0; k < g.layers.size(); ++k) {
        auto& f = m_figures[g.ruleOf[k]];
        if (f.count++ == 0) f.first = k;
        for (std::size_t c = 0; c < g.plan.cells(); ++c)
            if (const auto cell = g.index(k, c); g.state[cell] == CellState::Active) f.add(g.thickness(cell));
    }
}

void LayersModel::addFigures(const LayeredMesh& m) {
    std::size_t layer = 0;
    for (std::size_t r = 0; r < rules()->size(); ++r) {
        const auto& rule = (*rules())[r];
        auto& f = m_figures[r];
        f.first = layer;
        f.count = rule.evenly ? std::size_t(*rule.evenly) : rule.parts.size();
        for (std::size_t k = layer; k < layer + f.count; ++k)
            for (const auto& t : m.plan.triangles) {
                double thickness = 0;
                for (const int node : t) thickness += (m.level(k, node) - m.level(k + 1, node)) / 3;
                f.add(thickness);
            }
        layer += f.count;
    }
}

const std::vector<LayerRule>* LayersModel::rules() const {
    if (const auto* mesh = shownMesh(m_products.get(), m_look)) return &mesh->spec.layers;
    const auto* grid = shownLayers(m_products.get(), m_look);
    return grid ? &grid->spec.layers : nullptr;
}

std::string LayersModel::name() const {
    if (const auto* mesh = shownMesh(m_products.get(), m_look)) return mesh->spec.name;
    const auto* grid = shownLayers(m_products.get(), m_look);
    return grid ? grid->spec.name : "";
}

Edit LayersModel::changed(std::function<void(std::vector<LayerRule>&)> change, const std::string& words) const {
    if (shownMesh(m_products.get(), m_look))
        return [name = name(), change, words](const Project& p) {
            return changeMesh(
                p, name, [&](MeshSpec& s) { change(s.layers); }, words);
        };
    return [name = name(), change, words](const Project& p) {
        return changeLayeredGrid(
            p, name, [&](LayerSpec& s) { change(s.layers); }, words);
    };
}

std::optional<std::size_t> LayersModel::firstLayer(int row) const {
    if (row < 0 || std::size_t(row) >= m_figures.size()) return {};
    return m_figures[std::size_t(row)].first;
}

std::optional<int> LayersModel::rowOf(std::size_t layer) const {
    for (std::size_t r = 0; r < m_figures.size(); ++r)
        if (layer >= m_figures[r].first && layer < m_figures[r].first + m_figures[r].count) return int(r);
    return {};
}

int LayersModel::rowCount(const QModelIndex& parent) const { return parent.isValid() || !rules() ? 0 : int(rules()->size()); }

QString LayersModel::words(int row, int column) const {
    const auto& layer = (*rules())[std::size_t(row)];
    const auto* f = std::size_t(row) < m_figures.size() ? &m_figures[std::size_t(row)] : nullptr;
    const auto number = [](double v) { return std::isnan(v) ? QString(QChar(0x2013)) : QString::number(v, 'f', 1); };
    switch (column) {
    case Number:
        if (!f) return QString::number(row + 1);
        return f->count > 1 ? QString("%1–%2").arg(f->first + 1).arg(f->first + f->count) : QString::number(f->first + 1);
    case Name: return qt(layer.name);
    case Units:
        return layer.units.empty() && (layer.below || layer.isBetween()) ? qt(inWords(layer))
                                                                         : qt(fmt::format("{}", fmt::join(layer.units, ", ")));
    case Parts: return qt(partsInWords(layer));
    case Thickness: return layer.thickness ? QString::number(*layer.thickness) : QString();
    case Bottom:
        if (!layer.bottom) return {};
        return layer.bottom->from == FieldSource::From::Number ? QString::number(layer.bottom->number)
                                                               : qt(fox::words(layer.bottom->from));
    case Least: return f ? number(f->least) : QString();
    case Mean: return f ? number(f->mean) : QString();
    case Most: return f ? number(f->most) : QString();
    case Active: return f ? QString::number(f->active) : QString();
    }
    return {};
}

QVariant LayersModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || !rules() || index.row() >= rowCount()) return {};
    if (role == Qt::DisplayRole || role == Qt::EditRole) return words(index.row(), index.column());
    if (role == Qt::ToolTipRole) return tr(kLayerColumns[index.column()].tip);
    if (role == Qt::TextAlignmentRole && (index.column() == Number || index.column() >= Thickness))
        return int(Qt::AlignRight | Qt::AlignVCenter);
    if (role == Qt::DecorationRole && index.column() == Units) {
        const auto& layer = (*rules())[std::size_t(index.row())];
        if (const auto u = layer.units.empty() ? std::nullopt : m_products->project.sequence->index(layer.units.back()))
            return swatch(m_products->project.sequence->units[*u], 14);
    }
    return {};
}

bool LayersModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role != Qt::EditRole || !index.isValid() || !rules()) return false;
    const auto typed = value.toString();
    if (typed == words(index.row(), index.column())) return false;
    const auto row = std::size_t(index.row());
    try {
        auto layer = (*rules())[row];
        switch (index.column()) {
        case Name: layer.name = typed.trimmed().toStdString(); break;
        case Units: layer.units = codesIn(typed, *m_products->project.sequence); break;
        case Parts: layer.parts = partsWritten(typed.toStdString()); break;
        case Thickness:
            layer.thickness = numberOrNone(typed);
            if (layer.thickness && !(*layer.thickness > 0)) throw Error("A layer is thicker than 0 m.");
            break;
        case Bottom: {
            const auto level = numberOrNone(typed);
            layer.bottom = level ? std::optional(FieldSource{FieldSource::From::Number, *level, ""}) : std::nullopt;
            break;
        }
        default: return false;
        }
        emit editMade(changed(
            [row, was = (*rules())[row], layer](std::vector<LayerRule>& layers) {
                if (row >= layers.size() || !(layers[row] == was)) throw Error("The layer is another one by now.");
                layers[row] = layer;
            },
            "change layer " + layer.name));
        return true;
    } catch (const Error& e) {
        emit failed(qt(e.what()));
        return false;
    }
}

QVariant LayersModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation != Qt::Horizontal) return {};
    if (role == Qt::DisplayRole) return tr(kLayerColumns[section].title);
    if (role == Qt::ToolTipRole) return tr(kLayerColumns[section].tip);
    return {};
}

Qt::ItemFlags LayersModel::flags(const QModelIndex& index) const {
    auto out = QAbstractTableModel::flags(index);
    if (index.column() >= Name && index.column() <= Bottom) out |= Qt::ItemIsEditable;
    return out;
}

} // namespace fox::app
