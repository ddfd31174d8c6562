#pragma once
#include "views/background.h"
#include "views/table_content.h"

#include <QAbstractTableModel>

namespace fox::app {

/// Shows a table's content, sorted and filtered. Large tables are put in order beside the window: the old order stays
/// until the new one is there.
class TableModel : public QAbstractTableModel {
    Q_OBJECT
public:
    explicit TableModel(QObject* parent = nullptr);
    void setContent(TableContentPtr);
    void setFilter(const QString& words);
    const TableContent* content() const { return m_content.get(); }
    int sourceRow(int row) const { return m_order[std::size_t(row)]; }
    int rowOfHole(const QString& name) const; ///< the first of it; -1 if there is none
    bool ordering() const { return m_ordering.busy(); }

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex&, int role) const override;
    QVariant headerData(int section, Qt::Orientation, int role) const override;
    Qt::ItemFlags flags(const QModelIndex&) const override;
    bool setData(const QModelIndex&, const QVariant&, int role) override;
    void sort(int column, Qt::SortOrder) override;
    /// Rows of tab-separated text from a cell on. Cells that can't be edited are passed over.
    void paste(const QModelIndex& from, const QString& text);

signals:
    void editMade(const fox::Edit&);
    void failed(const QString& sentence);
    void ordered(); ///< rows changed

private:
    void order();
    void take(TableContentPtr, std::vector<int>);

    TableContentPtr m_content, m_next;
    std::vector<int> m_order;
    int m_sortColumn = -1;
    Qt::SortOrder m_direction = Qt::AscendingOrder;
    QString m_filter;
    Background<std::vector<int>> m_ordering;
};

/// The rows that contain the words, in order of a column; -1 leaves them as they come. Numbers by value with blanks last,
/// text as people count ("BH2" before "BH10").
std::vector<int> orderOf(const TableContent&, int column, Qt::SortOrder, const QString& filter, const Progress& = {});

} // namespace fox::app
