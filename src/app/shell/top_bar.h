#pragma once
#include <QFrame>

class QAction;
class QLabel;

namespace fox::app {

class FindBox;

/// Project, when it was saved, Undo, Redo, find, Export, Import.
class TopBar : public QFrame {
    Q_OBJECT
public:
    TopBar(QAction* undo, QAction* redo, QAction* exportFiles, QAction* import, QWidget* parent);
    void setProject(const QString& name);
    void setSaved(const QString& words);
    FindBox* find() const { return m_find; }

private:
    QLabel *m_name, *m_saved;
    FindBox* m_find;
};

} // namespace fox::app
