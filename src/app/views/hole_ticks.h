#pragma once
#include "views/selection.h"

#include <QDialog>

class QLineEdit;
class QListWidget;
class QListWidgetItem;

namespace fox::app {

/// Holes to tick: those that are ticked are shown, at once.
class HoleTicks : public QDialog {
    Q_OBJECT
public:
    HoleTicks(const std::vector<std::string>& holes, Selection*, QWidget* parent);

private:
    void tickFiltered(Qt::CheckState);
    void take(); ///< from the list to the selection
    void showSelection();

    Selection* m_selection;
    QLineEdit* m_filter;
    QListWidget* m_list;
    bool m_taking = false;
};

} // namespace fox::app
