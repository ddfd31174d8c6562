#pragma once
#include <QDialog>

class QAction;
class QLineEdit;
class QTableWidget;

namespace fox::app {

/// Every shortcut of the window and its views, to search.
class ShortcutSheet : public QDialog {
    Q_OBJECT
public:
    /// Actions of the window; those without a shortcut are left out.
    ShortcutSheet(const QList<QAction*>&, QWidget* parent);

private:
    void add(const QString& keys, const QString& words, const QString& where);
    void filter(const QString&);

    QLineEdit* m_search;
    QTableWidget* m_table;
};

} // namespace fox::app
