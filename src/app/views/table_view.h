#pragma once
#include "views/hole_table_model.h"
#include "views/view.h"

class QSortFilterProxyModel;
class QTableView;
class QLineEdit;

namespace fox::app {

/// The holes as a table: sorts, filters as one types, copies to a spreadsheet.
class TableView : public View {
    Q_OBJECT
public:
    explicit TableView(Selection*, QWidget* parent = nullptr);
    QString title() const override { return tr("Table"); }
    QString summary() const override;
    QList<QAction*> tools() override { return {m_filterAction, m_copy}; }
    QSize sizeHint() const override { return {600, 230}; }
    QTableView* table() const { return m_table; }

protected:
    void productsChanged() override;

private:
    void copy();
    void showSelected();

    HoleTableModel* m_model;
    QSortFilterProxyModel* m_proxy;
    QTableView* m_table;
    QLineEdit* m_filter;
    QAction *m_filterAction, *m_copy;
    bool m_following = false; ///< the selection is being set from outside
};

} // namespace fox::app
