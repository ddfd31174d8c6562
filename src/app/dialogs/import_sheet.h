#pragma once
#include "dialogs/ground_words.h"
#include "views/background.h"

#include <QDialog>
#include <QPointer>
#include <deque>
#include <functional>
#include <optional>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QProgressBar;
class QPushButton;
class QStackedWidget;
class QTableWidget;
class QTreeWidget;

namespace fox::app {

class GroundSettings;
class PlaceMap;

/// Shows what was understood of the files to import, one after the other, before anything enters the project. Reading
/// runs beside the window and can be stopped.
class ImportSheet : public QDialog {
    Q_OBJECT
public:
    /// `project` gives the version to add to, asked anew for each file.
    ImportSheet(const QStringList& paths, std::function<Project()> project, QWidget* parent);
    /// Text that was pasted, as a table.
    struct PastedText {
        QString text;
    };
    ImportSheet(const PastedText&, std::function<Project()> project, QWidget* parent);
    ~ImportSheet() override;
    bool reading() const { return m_reading.busy() || m_importing.busy(); }

signals:
    void editMade(const fox::Edit&);

private:
    struct Read {
        ImportPreview understood;
        std::vector<HoleChange> changes;
        bool newerIssue = false;
        Findings sense;
        GroundCount ground;
    };
    explicit ImportSheet(std::function<Project()> project, QWidget* parent);
    void build();
    QWidget* buildContents();
    QWidget* buildSettings();
    void next();
    void readSource(); ///< with the settings as they are
    void show(Read);
    void showFailure(const QString&);     ///< it can't be read
    void showNotImported(const QString&); ///< it was read, and something went wrong afterwards
    void showFacts();
    void showGroundFacts();
    void showTables();
    void showUnitHeadings();
    void showChanges();
    void showFindings();
    void showPreview();
    void takeSettings();
    void rolesChanged();
    ImportChoices choices() const;
    void import();
    void importAll();
    void setBusy(bool, const QString& words = {});

    std::deque<QString> m_paths;
    std::function<Project()> m_project;
    Project m_now; ///< while a file is looked at
    SourceFile m_file;
    SourceSettings m_settings;
    std::shared_ptr<const Read> m_read; ///< null: nothing that could be imported
    bool m_filling = false;

    QLabel *m_title, *m_facts, *m_findingsTitle, *m_changesTitle, *m_progressWords;
    QTreeWidget* m_tables;
    QListWidget *m_changes, *m_findings;
    QTableWidget* m_preview;
    QComboBox *m_unit, *m_existing, *m_sheet, *m_as;
    QLineEdit *m_crs, *m_columns;
    QLineEdit* m_control[8];
    QCheckBox *m_local, *m_gone, *m_feet;
    QWidget *m_unitRow, *m_tableRow, *m_localRow, *m_contents, *m_settingsBox;
    QProgressBar* m_progress;
    QPointer<QWidget> m_hadFocus; ///< before reading began
    QPushButton *m_import, *m_skip, *m_all, *m_stop;
    PlaceMap* m_map;
    GroundSettings* m_ground;
    Background<Read> m_reading;
    Background<Edit> m_importing; // last: they use the above
};

} // namespace fox::app
