#pragma once
#include "views/table_model.h"
#include "views/view.h"

class QTableView;
class QLineEdit;
class QPushButton;

namespace fox::app {

/// A table of the project: the holes, any group of an imported file, the logged codes, what we changed. Sorts, filters as
/// one types, hides columns, edits in place, copies to and pastes from a spreadsheet.
class TableView : public View {
    Q_OBJECT
public:
    explicit TableView(Selection*, QWidget* parent = nullptr);
    QString title() const override { return tr("Table"); }
    QString summary() const override;
    Wanted wanted(const Project&) const override;
    QList<QAction*> tools() override { return {m_choose, m_columns, m_filterAction, m_copy}; }
    QSize sizeHint() const override { return {600, 230}; }
    QTableView* table() const { return m_table; }
    QString shown() const { return m_key; }
    bool settled() const { return !m_model->ordering(); }

public slots:
    void showTable(const QString& key); ///< as tableKinds() has them
    void showLine(int line);            ///< selects the row of that line of the file, once it is there

protected:
    void productsChanged() override;

private:
    void copy();
    void paste();
    void showSelected();
    void rowsChanged();
    void chooseTable();
    void chooseColumns();
    void layOutColumns();

    TableModel* m_model;
    QTableView* m_table;
    QLineEdit* m_filter;
    QPushButton* m_showRows;
    QAction *m_choose, *m_columns, *m_filterAction, *m_copy, *m_paste;
    QString m_key = "holes", m_laidOut;
    std::optional<int> m_wantedLine;
    bool m_following = false; ///< the selection is being set from outside
};

} // namespace fox::app
