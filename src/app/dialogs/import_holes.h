#pragma once
#include "dialogs/import_entry.h"

#include <QWidget>

class QLabel;
class QListWidget;
class QToolButton;

namespace fox::app {

/// The holes of a file, what importing would do to each, and a tick at each new one: those without stay in the file for now.
class ImportHoles : public QWidget {
    Q_OBJECT
public:
    explicit ImportHoles(QWidget* parent);
    /// Nothing is shown of a file without holes, or of one that the project has.
    void show(const ImportEntry&, const Project&);

signals:
    void leftOutChanged(const std::set<std::string>& ids);

private:
    void addItem(const HoleChange&, bool ticked);
    void buildMenu(const Project&);
    /// Ticks those of the new holes that `which` says, and no others.
    void tick(const std::function<bool(const Hole&)>& which);
    void tell();

    std::shared_ptr<const ReadFile> m_read;
    QLabel* m_title;
    QListWidget* m_list;
    QToolButton* m_which;
    bool m_filling = false;
};

} // namespace fox::app
