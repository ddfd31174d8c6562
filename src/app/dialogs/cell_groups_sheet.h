#pragma once
#include "products/products.h"
#include "project/edits.h"
#include "views/selection.h"

#include <QDialog>

class QComboBox;
class QLabel;
class QTableWidget;

namespace fox::app {

/// The groups of cells that the checks of a layered grid found: how large they are, what each answer would move, and the answer
/// that is given, group by group or for all that are selected. It stays open, follows the grid, and a row leads to its cells.
class CellGroupsSheet : public QDialog {
    Q_OBJECT
public:
    enum Column { Check, Layer, Cells, Area, Thicken, Join, Answer, kColumns };
    CellGroupsSheet(Selection*, QWidget* parent);
    void setProducts(std::shared_ptr<const ProductSet>);

signals:
    void editMade(const fox::Edit&);
    void placeShown(fox::Point2); ///< on the plan

private:
    const LayerProduct* made() const;
    void fill();
    QComboBox* answerBox(const CellGroup&, int row);
    void answer(int row, int choice);
    void showCells(int row);

    Selection* m_selection;
    std::shared_ptr<const ProductSet> m_products;
    QLabel* m_words;
    QTableWidget* m_table;
    std::vector<CellGroup> m_groups; ///< a row
};

} // namespace fox::app
