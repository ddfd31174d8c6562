#pragma once
#include "project/project_lines.h"

#include <QDialog>

class QLabel;
class QTableWidget;

namespace fox::app {

/// The corners of a line as a small table of coordinates to type; each change is an edit of its own.
class CornerTable : public QDialog {
    Q_OBJECT
public:
    CornerTable(ProjectLine, QWidget* parent);

signals:
    void editMade(const fox::Edit&);
    void lineChanged(const fox::ProjectLine&); ///< what it is once the edit is made

private:
    void fill();
    void take(int row, int column);
    void change(Polyline3 corners);

    ProjectLine m_line;
    QTableWidget* m_table;
    QLabel* m_words;
    bool m_filling = false;
};

} // namespace fox::app
