#pragma once
#include "importing/import.h"

#include <QWidget>
#include <span>

class QComboBox;
class QGridLayout;
class QTableWidget;

namespace fox::app {

/// The first rows of a table, with a role over each column, and, for points (a survey, contacts, values), the usual orders to
/// choose by a click.
class ColumnPreview : public QWidget {
    Q_OBJECT
public:
    explicit ColumnPreview(QWidget* parent);
    /// Nothing is shown of what is not a table.
    void show(const ImportPreview&);

signals:
    void mappingChanged(const std::string& sheet, const fox::TableMapping&); ///< of a table of holes
    void orderChosen(const std::vector<std::string>& columns);               ///< of points

private:
    /// What the rows are.
    enum class Rows { OfHoles, Survey, Contacts, Values };
    struct PointRole;
    std::span<const PointRole> pointRoles() const; ///< what a column can be; none for rows of holes
    std::vector<std::vector<std::string>> usualOrders() const;
    void showSheet();
    void showOrders();
    void showRows(const Table&);
    int roleOf(const Table&, std::size_t column) const;
    std::string_view pointRoleOf(const Table&, std::size_t column) const;
    QComboBox* unitBox(const QString& column, std::string_view chosen);
    std::string unitOf(int column) const; ///< key of the unit that is chosen; empty: the file's, or no length
    QComboBox* roleBox(const QStringList& roles, int chosen, const QString& column);
    void rolesChanged();
    std::vector<std::string> order() const; ///< as the boxes over the columns say

    ImportPreview m_shown; ///< sheets and settings of it
    Rows m_rows = Rows::OfHoles;
    QWidget* m_orders;
    QGridLayout* m_orderLines;
    QComboBox* m_sheet;
    QTableWidget* m_table;
};

} // namespace fox::app
