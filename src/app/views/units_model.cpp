#include "views/units_model.h"

#include "base/errors.h"
#include "base/text.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/number_box.h"

#include <QMimeData>

namespace fox::app {

namespace {

constexpr const char* kMime = "application/x-fox-cellar-unit";

struct ColumnWords {
    const char *title, *tip;
};
constexpr ColumnWords kColumnWords[UnitsModel::kFixedColumns] = {
    {"Code", "As the model and files call it. Drag a row up or down to change the order, youngest first"},
    {"Name", "In words"},
    {"Colour", "#rrggbb"},
    {"Pattern", "Which pattern is drawn; empty: by its name"},
    {"Logged as",
     "Codes that logs may have for it, or materials of their descriptions (clay, sand), with commas; empty: its own code. "
     "One code may stand for several units"},
    {"Base", "cuts: takes older units away; onlaps: stops against them"},
    {"Minimum thickness, m", "Where it would be thinner than this the unit is taken as absent"},
    {"Where it crosses",
     "What becomes of the base where it rises above what lies over it: absent; halfway; 0.5 m (a thickness is "
     "kept); below RG; above MW"},
    {"Outline", "The unit does not leave this area; choose an outline that was imported"},
    {"Water", "What it is to groundwater"}};

QString inWords(const CrossingRemedy& c) {
    using Kind = CrossingRemedy::Kind;
    const auto by = c.metres > 0 ? QString(" %1 m").arg(c.metres) : QString();
    switch (c.kind) {
    case Kind::None: return "absent";
    case Kind::Halfway: return "halfway";
    case Kind::Thickness: return QString("%1 m").arg(c.metres);
    case Kind::Below: return "below " + (c.unit.empty() ? QString("ground") : qt(c.unit)) + by;
    case Kind::Above: return "above " + (c.unit.empty() ? QString("ground") : qt(c.unit)) + by;
    }
    return {};
}

/// @throws Error for words that mean nothing
CrossingRemedy crossingOf(const QString& typed, const Sequence& sequence) {
    using Kind = CrossingRemedy::Kind;
    const auto words = typed.simplified().split(' ', Qt::SkipEmptyParts);
    if (words.isEmpty() || words[0] == "absent") return {};
    if (words[0] == "halfway") return {Kind::Halfway, 0, ""};
    if (const auto metres = typedNumber(words[0]); metres && *metres > 0) return {Kind::Thickness, *metres, ""};
    if ((words[0] == "below" || words[0] == "above") && words.size() > 1) {
        const auto unit = words[1].toStdString();
        if (unit != "ground" && !sequence.index(unit)) throw Error("There is no unit " + unit + " in the sequence.");
        return {words[0] == "below" ? Kind::Below : Kind::Above, words.size() > 2 ? typedNumber(words[2]).value_or(0) : 0,
                unit == "ground" ? "" : unit};
    }
    throw Error("Where a base crosses there is: absent, halfway, 0.5 m, below RG, above MW.");
}

/// Empty: none. @throws Error if it is not a number
std::optional<double> numberOf(const QString& typed) {
    if (typed.trimmed().isEmpty()) return {};
    const auto v = typedNumber(typed);
    if (!v) throw Error("\"" + typed.toStdString() + "\" is not a number.");
    return v;
}

} // namespace

void UnitsModel::setProducts(std::shared_ptr<const ProductSet> products) {
    // an open editor stays while other parts of the project change; edits are made of the newest project all the same
    if (m_products && products && m_products->project.sequence == products->project.sequence) {
        m_products = std::move(products);
        return;
    }
    beginResetModel();
    m_products = std::move(products);
    m_kinds = m_products ? m_products->project.sequence->valueKinds() : std::vector<UnitValueKind>{};
    endResetModel();
}

int UnitsModel::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : int(kFixedColumns) + int(m_kinds.size());
}

const UnitValueKind* UnitsModel::valueKind(int column) const {
    const int at = column - int(kFixedColumns);
    return at >= 0 && at < int(m_kinds.size()) ? &m_kinds[std::size_t(at)] : nullptr;
}

int UnitsModel::rowCount(const QModelIndex& parent) const { return parent.isValid() || !m_products ? 0 : int(units().size()); }

QStringList UnitsModel::choices(int column) const {
    switch (column) {
    case Sign: return QStringList{QString()} + groundsWithSign();
    case Base: return {"cuts", "laps"};
    case Water: return {QString(), "aquifer", "aquitard"};
    case Outline: {
        QStringList out{tr("anywhere")};
        for (const auto& o : m_products->project.ground->outlines) out << qt(o.name);
        return out;
    }
    default: return {};
    }
}

QString UnitsModel::words(const Unit& u, int column) const {
    switch (column) {
    case Code: return qt(u.code);
    case Name: return qt(u.name);
    case Colour: return qt(u.colour);
    case Sign: return qt(u.hatch);
    case Logged: {
        QStringList all;
        for (const auto& l : u.logged) all << qt(l);
        return all.join(", ");
    }
    case Base: return u.base == BaseRule::Cuts ? "cuts" : "laps";
    case Least: return u.leastThickness > 0 ? QString::number(u.leastThickness) : QString();
    case Crossing: return inWords(u.crossing);
    case Outline: {
        if (u.outlines.empty()) return tr("anywhere");
        QStringList names;
        for (const auto& outline : u.outlines) {
            const auto& known = m_products->project.ground->outlines;
            const auto at = std::ranges::find(known, outline.ring, &GroundSources::Outline::ring);
            names << (at == known.end() ? counted(qint64(outline.ring.size()), "corner") : qt(at->name));
        }
        return names.join(", ");
    }
    case Water: return fox::name(u.water);
    default: break;
    }
    const auto* kind = valueKind(column);
    const auto value = kind ? u.values.find(kind->key) : u.values.end();
    return value == u.values.end() ? QString() : QString::number(value->second, 'g', 6);
}

QVariant UnitsModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || !m_products || index.row() >= int(units().size())) return {};
    const auto& u = units()[std::size_t(index.row())];
    if (role == Qt::DisplayRole || role == Qt::EditRole) return words(u, index.column());
    if (role == Qt::DecorationRole && index.column() == Code) return swatch(u);
    if (role == Qt::BackgroundRole && index.column() == Colour) return unitColour(u);
    if (role == Qt::ToolTipRole) return headerData(index.column(), Qt::Horizontal, role);
    if (role == Qt::TextAlignmentRole && (index.column() == Least || index.column() >= kFixedColumns))
        return int(Qt::AlignRight | Qt::AlignVCenter);
    return {};
}

QVariant UnitsModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation == Qt::Vertical) return role == Qt::DisplayRole ? QVariant(QString::number(section + 1)) : QVariant();
    if (const auto* kind = valueKind(section)) {
        const auto name = qt(kind->words);
        if (role == Qt::DisplayRole) return kind->unit.empty() ? name : name + ", " + qt(kind->unit);
        if (role == Qt::ToolTipRole) return tr("%1; goes with the model to those who use it").arg(name);
        return {};
    }
    if (section < 0 || section >= kFixedColumns) return {};
    if (role == Qt::DisplayRole) return QString::fromUtf8(kColumnWords[section].title);
    if (role == Qt::ToolTipRole) return tr(kColumnWords[section].tip);
    return {};
}

Qt::ItemFlags UnitsModel::flags(const QModelIndex& index) const {
    if (!index.isValid()) return Qt::ItemIsDropEnabled;
    return Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable | Qt::ItemIsDragEnabled;
}

namespace {

/// Puts what was typed into a column of a unit. @throws Error if it means nothing there
void take(Unit& u, int column, const QString& typed, const Project& project) {
    const auto text = typed.trimmed().toStdString();
    switch (column) {
    case UnitsModel::Name: u.name = text.empty() ? u.code : text; break;
    case UnitsModel::Colour:
        if (!QColor::isValidColor(typed.trimmed())) throw Error("A colour is written #rrggbb.");
        u.colour = QColor(typed.trimmed()).name().toStdString();
        break;
    case UnitsModel::Sign: u.hatch = text; break;
    case UnitsModel::Logged:
        u.logged.clear();
        for (const auto& code : typed.split(',', Qt::SkipEmptyParts)) u.logged.push_back(code.trimmed().toStdString());
        break;
    case UnitsModel::Base: u.base = text == "laps" ? BaseRule::Laps : BaseRule::Cuts; break;
    case UnitsModel::Least:
        u.leastThickness = numberOf(typed).value_or(0);
        if (u.leastThickness < 0) throw Error("A minimum thickness can't be negative.");
        break;
    case UnitsModel::Crossing: u.crossing = crossingOf(typed, *project.sequence); break;
    case UnitsModel::Outline:
        u.outlines.clear();
        for (const auto& o : project.ground->outlines) {
            const auto names = typed.split(',', Qt::SkipEmptyParts);
            if (std::ranges::any_of(names, [&](const QString& n) { return n.trimmed() == qt(o.name); }))
                u.outlines.push_back({o.ring, o.holes});
        }
        break;
    case UnitsModel::Water: u.water = waterRoleNamed(text).value_or(WaterRole::NotSet); break;
    default: break;
    }
}

} // namespace

bool UnitsModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role != Qt::EditRole || !index.isValid()) return false;
    const auto& u = units()[std::size_t(index.row())];
    const auto typed = value.toString();
    if (typed == words(u, index.column())) return false;
    if (const auto* kind = valueKind(index.column())) {
        emit editMade(
            [code = u.code, key = kind->key, typed](const Project& p) { return setUnitValue(p, code, key, numberOf(typed)); });
        return true;
    }
    emit editMade([code = u.code, column = index.column(), typed](const Project& p) {
        if (column == Code) return renameUnit(p, code, typed.trimmed().toStdString());
        return changeUnit(
            p, code, [&](Unit& unit) { take(unit, column, typed, p); }, lower(kColumnWords[column].title));
    });
    return true; // the new value comes with the new products
}

QStringList UnitsModel::mimeTypes() const { return {kMime}; }

QMimeData* UnitsModel::mimeData(const QModelIndexList& indexes) const {
    auto* data = new QMimeData;
    if (!indexes.isEmpty()) data->setData(kMime, QByteArray::fromStdString(units()[std::size_t(indexes.front().row())].code));
    return data;
}

bool UnitsModel::dropMimeData(const QMimeData* data, Qt::DropAction, int row, int, const QModelIndex& parent) {
    if (!data->hasFormat(kMime) || !m_products) return false;
    const auto code = data->data(kMime).toStdString();
    const auto from = m_products->project.sequence->index(code);
    if (!from) return false;
    int to = row >= 0 ? row : parent.isValid() ? parent.row() : rowCount();
    if (to > int(*from)) --to; // it leaves its place first
    if (to == int(*from)) return false;
    emit editMade([code, at = std::size_t(std::max(0, to))](const Project& p) { return moveUnit(p, code, at); });
    return false; // the edit brings the new order; the view is not to take rows away itself
}

} // namespace fox::app
