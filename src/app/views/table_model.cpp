#include "views/table_model.h"

#include "style/theme.h"
#include "style/words.h"

#include <QBrush>

namespace fox::app {

namespace {

/// Less by runs of digits as numbers, other letters without case.
bool countsBefore(const QString& a, const QString& b) {
    qsizetype i = 0, k = 0;
    while (i < a.size() && k < b.size()) {
        if (a[i].isDigit() && b[k].isDigit()) {
            const auto run = [](const QString& s, qsizetype& at) {
                while (at < s.size() && s[at] == '0') ++at;
                const auto from = at;
                while (at < s.size() && s[at].isDigit()) ++at;
                return QStringView(s).mid(from, at - from);
            };
            const auto x = run(a, i), y = run(b, k);
            if (x.size() != y.size()) return x.size() < y.size();
            if (const int c = x.compare(y)) return c < 0;
            continue;
        }
        const auto x = a[i].toLower(), y = b[k].toLower();
        if (x != y) return x < y;
        ++i, ++k;
    }
    return a.size() - i < b.size() - k;
}

constexpr int kSmall = 2000; ///< rows that are put in order at once

} // namespace

std::vector<int> orderOf(const TableContent& content, int column, Qt::SortOrder direction, const QString& filter,
                         const Progress& progress) {
    std::vector<int> rows;
    const int columns = int(content.columns().size());
    for (int r = 0; r < content.rows(); ++r) {
        if (r % 256 == 0) progress.check();
        bool in = filter.isEmpty();
        for (int c = 0; c < columns && !in; ++c) in = content.text(r, c).contains(filter, Qt::CaseInsensitive);
        if (in) rows.push_back(r);
    }
    if (column < 0 || column >= columns) return rows;
    const bool down = direction == Qt::DescendingOrder;
    if (content.columns()[std::size_t(column)].numeric) {
        std::vector<std::pair<double, int>> keys;
        std::vector<int> blank;
        for (const int r : rows)
            if (const auto v = content.number(r, column))
                keys.emplace_back(*v, r);
            else
                blank.push_back(r);
        std::ranges::stable_sort(keys,
                                 [&](const auto& a, const auto& b) { return down ? b.first < a.first : a.first < b.first; });
        rows.clear();
        for (const auto& [key, r] : keys) rows.push_back(r);
        rows.insert(rows.end(), blank.begin(), blank.end());
        return rows;
    }
    std::vector<std::pair<QString, int>> keys;
    keys.reserve(rows.size());
    for (const int r : rows) keys.emplace_back(content.text(r, column), r);
    progress.check();
    std::ranges::stable_sort(keys, [&](const auto& a, const auto& b) {
        return down ? countsBefore(b.first, a.first) : countsBefore(a.first, b.first);
    });
    for (std::size_t i = 0; i < keys.size(); ++i) rows[i] = keys[i].second;
    return rows;
}

TableModel::TableModel(QObject* parent) : QAbstractTableModel(parent), m_ordering(this) {}

void TableModel::setContent(TableContentPtr content) {
    m_next = std::move(content);
    order();
}

void TableModel::setFilter(const QString& words) {
    m_filter = words;
    order();
}

void TableModel::sort(int column, Qt::SortOrder direction) {
    if (m_sortColumn == column && m_direction == direction && !m_order.empty()) return;
    m_sortColumn = column;
    m_direction = direction;
    order();
}

void TableModel::order() {
    const auto content = m_next ? m_next : m_content;
    if (!content) return;
    if (content->rows() <= kSmall) {
        m_ordering.stop();
        return take(content, orderOf(*content, m_sortColumn, m_direction, m_filter));
    }
    m_ordering.start([content, column = m_sortColumn, direction = m_direction, filter = m_filter](
                         const Progress& progress) { return orderOf(*content, column, direction, filter, progress); },
                     [this, content](std::vector<int> rows) { take(content, std::move(rows)); }, [](const QString&) {});
}

void TableModel::take(TableContentPtr content, std::vector<int> rows) {
    beginResetModel();
    m_content = std::move(content);
    m_next.reset();
    m_order = std::move(rows);
    endResetModel();
    emit ordered();
}

int TableModel::rowOfHole(const QString& name) const {
    if (!m_content || name.isEmpty()) return -1;
    for (std::size_t i = 0; i < m_order.size(); ++i)
        if (m_content->hole(m_order[i]) == name) return int(i);
    return -1;
}

int TableModel::rowCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : int(m_order.size()); }
int TableModel::columnCount(const QModelIndex& parent) const {
    return parent.isValid() || !m_content ? 0 : int(m_content->columns().size());
}

QVariant TableModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation != Qt::Horizontal || !m_content || section >= int(m_content->columns().size())) return {};
    const auto& column = m_content->columns()[std::size_t(section)];
    if (role == Qt::DisplayRole) return column.name;
    if (role == Qt::TextAlignmentRole) return int((column.numeric ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
    if (role == Qt::ToolTipRole && !column.tip.isEmpty()) return column.tip;
    return {};
}

Qt::ItemFlags TableModel::flags(const QModelIndex& index) const {
    auto flags = QAbstractTableModel::flags(index);
    if (index.isValid() && m_content->columns()[std::size_t(index.column())].editable) flags |= Qt::ItemIsEditable;
    return flags;
}

QVariant TableModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid()) return {};
    const int row = m_order[std::size_t(index.row())], c = index.column();
    switch (role) {
    case Qt::DisplayRole: return m_content->text(row, c);
    case Qt::EditRole: return m_content->plain(row, c);
    case Qt::DecorationRole:
        if (const auto* unit = m_content->swatch(row, c)) return swatch(*unit, 14);
        return {};
    case Qt::TextAlignmentRole:
        return int((m_content->columns()[std::size_t(c)].numeric ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
    case Qt::ToolTipRole:
        if (const auto tip = m_content->tip(row, c); !tip.isEmpty()) return tip;
        return {};
    case Qt::ForegroundRole:
        if (const auto colour = m_content->colour(row, c); colour.isValid()) return QBrush(colour);
        return {};
    default: return {};
    }
}

bool TableModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role != Qt::EditRole || !index.isValid()) return false;
    const int row = m_order[std::size_t(index.row())];
    if (m_content->plain(row, index.column()) == value.toString()) return false;
    emit editMade(m_content->edit({{row, index.column(), value.toString()}}));
    return true; // the new value comes with the new products
}

void TableModel::paste(const QModelIndex& from, const QString& text) {
    if (!from.isValid()) return;
    std::vector<TableContent::Typed> cells;
    int skipped = 0;
    auto lines = text.split('\n');
    if (!lines.isEmpty() && lines.last().trimmed().isEmpty()) lines.removeLast();
    for (int r = 0; r < lines.size() && from.row() + r < rowCount(); ++r) {
        const auto values = lines[r].remove('\r').split('\t');
        for (int c = 0; c < values.size() && from.column() + c < columnCount(); ++c) {
            const auto at = index(from.row() + r, from.column() + c);
            const int row = m_order[std::size_t(at.row())];
            if (m_content->plain(row, at.column()) == values[c].trimmed()) continue;
            if (flags(at) & Qt::ItemIsEditable)
                cells.push_back({row, at.column(), values[c].trimmed()});
            else
                ++skipped;
        }
    }
    if (skipped > 0) emit failed(tr("Passed over, in columns that can't be edited: %1.").arg(counted(skipped, "pasted value")));
    if (cells.empty()) return;
    emit editMade([edit = m_content->edit(cells),
                   label = tr("Paste %1").arg(counted(qint64(cells.size()), "value")).toStdString()](const Project& p) {
        try {
            auto edited = edit(p);
            edited.label = label;
            return edited;
        } catch (const Error& e) {
            throw Error(tr("Nothing was pasted: %1").arg(QString::fromStdString(e.what())).toStdString());
        }
    });
}

} // namespace fox::app
