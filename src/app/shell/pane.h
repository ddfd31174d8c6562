#pragma once
#include "views/view_kinds.h"

#include <QFrame>

class QLabel;
class QHBoxLayout;
class QPushButton;
class QVBoxLayout;

namespace fox::app {

/// A frame for one view: a head with its name (press it for another view), a line of what is in it, and its tools.
class Pane : public QFrame {
    Q_OBJECT
public:
    Pane(ViewKind, Selection*, QWidget* parent);
    ViewKind kind() const { return m_kind; }
    View* view() const { return m_view; }
    void show(ViewKind);

signals:
    void viewMade(fox::app::View*); ///< connect it

private:
    void showSummary();
    void fillTools();
    void fitTools();
    bool eventFilter(QObject*, QEvent*) override;

    Selection* m_selection;
    ViewKind m_kind;
    View* m_view = nullptr;
    QPushButton *m_title, *m_more, *m_holes;
    QLabel* m_summary;
    QHBoxLayout* m_tools;
    QVBoxLayout* m_layout;
};

} // namespace fox::app
