#pragma once
#include "project/import.h"
#include "views/background.h"

#include <QDialog>

class QLabel;
class QLineEdit;
class QPushButton;
class QTreeWidget;

namespace fox::app {

class GroundSettings;

/// A file that is in the project: its groups, of which those left out can be added and others left out, its coordinate
/// system, and the way to a newer issue of it.
class SourceSheet : public QDialog {
    Q_OBJECT
public:
    SourceSheet(const Project&, std::shared_ptr<const AgsFile> parsed, const QString& file, QWidget* parent);

signals:
    void editMade(const fox::Edited&);
    void newerAsked(const QString& path);
    void tableAsked(const QString& key);

private:
    void readAgain();

    Project m_project;
    QString m_name;
    QTreeWidget* m_groups;
    QLineEdit* m_crs;
    QLabel* m_words;
    QPushButton* m_again;
    GroundSettings* m_ground;
    Background<std::optional<Edited>> m_reading;
};

} // namespace fox::app
