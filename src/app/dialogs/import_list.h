#pragma once
#include "dialogs/import_entry.h"

#include <QListWidget>

namespace fox::app {

/// The files of the import sheet, those that need an answer first. A click chooses one; Delete, or its Skip, takes it off.
class ImportList : public QListWidget {
    Q_OBJECT
public:
    explicit ImportList(QWidget* parent);
    void setEntries(const std::vector<ImportEntry>&, int current);
    QRect skipRect(const QString& name) const; ///< where the Skip of a file is, for pointers and tests

signals:
    void chosen(int id);
    void skipAsked(int id);

protected:
    void keyPressEvent(QKeyEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;

private:
    void addHeading(const QString& words, std::ptrdiff_t count);
    void addEntry(const ImportEntry&, bool isCurrent);
    int currentId() const;    ///< 0: none
    int skipAt(QPoint) const; ///< the file whose Skip is there; 0: none
    int m_pressed = 0;        ///< the file whose Skip is held down
    bool m_filling = false;
};

} // namespace fox::app
