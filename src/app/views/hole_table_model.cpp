#include "views/hole_table_model.h"

#include "style/theme.h"

namespace fox::app {

void HoleTableModel::setProducts(std::shared_ptr<const ProductSet> products) {
    beginResetModel();
    m_products = std::move(products);
    m_rows.clear();
    if (m_products) {
        const auto& holes = *m_products->project.holes;
        for (const auto& h : holes) m_rows.push_back({displayName(holes, h), {}, {}});
        // findings are sorted, so the first that names a hole is its worst
        for (const auto& f : *m_products->findings)
            for (auto& row : m_rows)
                if (!f.hole.empty() && row.name == f.hole && row.problem.empty())
                    row.problem = f.message, row.severity = f.severity;
    }
    endResetModel();
}

QString HoleTableModel::nameAt(int row) const {
    return row >= 0 && row < int(m_rows.size()) ? QString::fromStdString(m_rows[std::size_t(row)].name) : QString();
}

int HoleTableModel::rowOf(const QString& name) const {
    for (std::size_t i = 0; i < m_rows.size(); ++i)
        if (name == QString::fromStdString(m_rows[i].name)) return int(i);
    return -1;
}

int HoleTableModel::rowCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : int(m_rows.size()); }
int HoleTableModel::columnCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : Columns; }

QVariant HoleTableModel::headerData(int section, Qt::Orientation orientation, int role) const {
    static const char* kNames[] = {"Hole", "Kind", "Easting", "Northing", "Ground level", "Final depth", "Source", "Finding"};
    if (orientation != Qt::Horizontal) return {};
    if (role == Qt::DisplayRole) return tr(kNames[section]);
    if (role == Qt::TextAlignmentRole)
        return int((section >= Easting && section <= FinalDepth ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
    if (role == Qt::ToolTipRole && section >= Easting && section <= FinalDepth) return tr("metres");
    return {};
}

Qt::ItemFlags HoleTableModel::flags(const QModelIndex& index) const {
    auto flags = QAbstractTableModel::flags(index);
    if (index.column() >= Easting && index.column() <= GroundLevel) flags |= Qt::ItemIsEditable;
    return flags;
}

namespace {

std::optional<double> valueOf(const Hole& h, int column) {
    switch (column) {
    case HoleTableModel::Easting: return h.easting;
    case HoleTableModel::Northing: return h.northing;
    case HoleTableModel::GroundLevel: return h.level ? std::optional(h.level->metres) : std::nullopt;
    case HoleTableModel::FinalDepth: return h.finalDepth ? std::optional(h.finalDepth->metres) : std::nullopt;
    default: return {};
    }
}

} // namespace

QVariant HoleTableModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || !m_products) return {};
    const auto& row = m_rows[std::size_t(index.row())];
    const auto& h = (*m_products->project.holes)[std::size_t(index.row())];
    const int c = index.column();
    const bool numeric = c >= Easting && c <= FinalDepth;
    if (role == Qt::TextAlignmentRole) return int((numeric ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
    if (role == Qt::ForegroundRole && c == Problem)
        return QBrush(row.severity == Severity::Error     ? colour::red
                      : row.severity == Severity::Warning ? colour::amberText
                                                          : colour::muted);
    if (role == Qt::ToolTipRole && c == Problem) return QString::fromStdString(row.problem);
    if (role == Qt::ToolTipRole && c == Source) return tr("%1, line %2").arg(QString::fromStdString(h.file)).arg(h.line);
    if (role != Qt::DisplayRole && role != Qt::EditRole && role != kSortRole) return {};
    if (numeric) {
        const auto v = valueOf(h, c);
        if (role == kSortRole) return v ? QVariant(*v) : QVariant(-1e300); // blanks together, first
        if (!v) return {};
        if (role == Qt::EditRole) return QString::number(*v, 'f', 2);
        return coordinate(*v);
    }
    switch (c) {
    case Name: return QString::fromStdString(row.name);
    case Kind: return QString::fromStdString(typeInWords(h.type));
    case Source: return QString::fromStdString(h.file);
    case Problem: return QString::fromStdString(row.problem);
    default: return {};
    }
}

bool HoleTableModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role != Qt::EditRole || !m_products) return false;
    bool ok = false;
    const double number = value.toString().remove(QChar(0x2009)).remove(' ').toDouble(&ok);
    if (!ok) return false;
    const auto name = m_rows[std::size_t(index.row())].name;
    const auto& h = (*m_products->project.holes)[std::size_t(index.row())];
    if (valueOf(h, index.column()) == number) return false;
    if (index.column() == GroundLevel)
        emit editMade(setHoleLevel(m_products->project, name, Level{number}));
    else
        emit editMade(setHolePlace(m_products->project, name,
                                   {index.column() == Easting ? number : h.easting.value_or(0),
                                    index.column() == Northing ? number : h.northing.value_or(0)}));
    return true; // the new value comes with the new products
}

} // namespace fox::app
