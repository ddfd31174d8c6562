#pragma once
#include "dialogs/import_entry.h"

#include <QPointer>
#include <QWidget>

class QCheckBox;
class QComboBox;
class QFormLayout;
class QLabel;
class QLineEdit;
class QListWidget;
class QProgressBar;
class QPushButton;
class QTreeWidget;

namespace fox::app {

class ColumnPreview;
class GroundSettings;
class PlaceMap;

/// One file of the import sheet: what was understood of it, how it is read, and what importing it would change.
class ImportDetails : public QWidget {
    Q_OBJECT
public:
    explicit ImportDetails(QWidget* parent);
    /// `ofItsKind` other files could be read with the same settings.
    void show(const ImportEntry&, const Project&, int ofItsKind);
    void setProgress(double fraction, const QString& words);

signals:
    void settingsChanged(const fox::SourceSettings&);
    void choicesChanged(const fox::ImportChoices&);
    void applyToAllAsked();
    void stopAsked();

private:
    QWidget* buildContents();
    QWidget* buildSettings();
    void buildLocalGrid(QFormLayout*);
    void setBusy(bool, const QString& words);
    void showFacts();
    void showChoices(int ofItsKind);
    void showSettings();
    void showTables();
    void showUnitHeadings(const Project&);
    void showChanges();
    void showFindings();
    void showRow(QWidget* field, bool visible);
    void again(); ///< reads the settings off the fields and asks for another reading
    void takeSettings();
    void takeChoices();

    ImportEntry m_entry;
    SourceSettings m_settings;
    bool m_filling = false;
    QLabel *m_title, *m_facts, *m_findingsTitle, *m_changesTitle, *m_progressWords;
    QTreeWidget* m_tables;
    QListWidget *m_changes, *m_findings;
    ColumnPreview* m_preview;
    QComboBox *m_unit, *m_existing, *m_as;
    QLineEdit *m_crs, *m_columns;
    QLineEdit* m_control[8];
    QCheckBox *m_local, *m_gone, *m_feet;
    QWidget *m_unitRow, *m_tableRow, *m_localRow, *m_contents;
    QFormLayout* m_form;
    QProgressBar* m_progress;
    QPointer<QWidget> m_hadFocus; ///< before reading began
    QPushButton *m_stop, *m_toAll;
    PlaceMap* m_map;
    GroundSettings* m_ground;
};

} // namespace fox::app
