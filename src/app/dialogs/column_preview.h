#pragma once
#include "importing/import.h"

#include <QWidget>

class QComboBox;
class QHBoxLayout;
class QTableWidget;

namespace fox::app {

/// The first rows of a table, with a role over each column, and, for a survey or contacts, the usual orders to choose by a click.
class ColumnPreview : public QWidget {
    Q_OBJECT
public:
    explicit ColumnPreview(QWidget* parent);
    /// Nothing is shown of what is not a table.
    void show(const ImportPreview&);

signals:
    void mappingChanged(const std::string& sheet, const fox::TableMapping&); ///< of a table of holes
    void orderChosen(const std::vector<std::string>& columns);               ///< of a survey, or of contacts

private:
    void showSheet();
    void showOrders();
    void showRows(const Table&);
    int roleOf(const Table&, std::size_t column) const;
    QComboBox* unitBox(const QString& column, std::string_view chosen);
    std::string unitOf(int column) const; ///< key of the unit that is chosen; empty: the file's, or no length
    QComboBox* roleBox(const QStringList& roles, int chosen, const QString& column);
    void rolesChanged();
    std::vector<std::string> order() const; ///< as the boxes over the columns say

    ImportPreview m_shown; ///< sheets and settings of it
    bool m_isSurvey = false, m_isContacts = false;
    QWidget* m_orders;
    QHBoxLayout* m_orderLine;
    QComboBox* m_sheet;
    QTableWidget* m_table;
};

} // namespace fox::app
