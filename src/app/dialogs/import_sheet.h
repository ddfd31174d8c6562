#pragma once
#include "project/edits.h"

#include <QDialog>
#include <deque>
#include <functional>
#include <optional>

class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;

namespace fox::app {

/// Shows what was understood of the files to import, one after the other, before anything enters the project.
class ImportSheet : public QDialog {
    Q_OBJECT
public:
    /// `project` gives the version to add to, asked anew for each file.
    ImportSheet(const QStringList& paths, std::function<Project()> project, QWidget* parent);

signals:
    void editMade(const fox::Edited&);

private:
    class PlaceMap;
    void next();
    void understand();
    void showAgs();
    void showSurvey();
    void showFindings(const Findings&);
    void import();

    std::deque<QString> m_paths;
    std::function<Project()> m_project;
    std::string m_bytes, m_name;
    std::optional<ImportedAgs> m_ags;
    std::optional<ImportedSurvey> m_survey;
    QLabel *m_title, *m_facts, *m_findingsTitle;
    QListWidget *m_tables, *m_findings;
    QLineEdit* m_columns;
    QWidget* m_columnsRow;
    PlaceMap* m_map;
    QPushButton *m_import, *m_skip;
};

} // namespace fox::app
