#pragma once
#include "importing/import.h"
#include "views/background.h"

#include <QDialog>
#include <functional>

class QLabel;
class QListWidget;
class QPushButton;
class QTreeWidget;

namespace fox::app {

class SystemEdit;

class GroundSettings;

/// A file that is in the project: its groups and holes, of which those left out can be added, its coordinate
/// system, and the way to a newer issue of it.
class SourceSheet : public QDialog {
    Q_OBJECT
public:
    /// `project` gives the newest version whenever the file is read again.
    SourceSheet(std::function<Project()> project, std::shared_ptr<const AgsFile> parsed, const QString& file, QWidget* parent);

signals:
    void editMade(const fox::Edit&);
    void newerAsked(const QString& path);
    void tableAsked(const QString& key);

private:
    void readAgain();

    std::function<Project()> m_project;
    QString m_name;
    QTreeWidget* m_groups;
    QListWidget* m_leftHoles; ///< in the file
    SystemEdit* m_crs;
    QLabel* m_words;
    QPushButton* m_again;
    GroundSettings* m_ground;
    Background<Edit> m_reading;
};

} // namespace fox::app
