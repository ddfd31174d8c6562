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
class ImportHoles;
class PlaceMap;
class SystemEdit;

/// One file of the import sheet: what was understood of it, how it is read, and what importing it would change.
class ImportDetails : public QWidget {
    Q_OBJECT
public:
    explicit ImportDetails(QWidget* parent);
    /// `ofItsKind` other files could be read with the same settings.
    void show(const ImportEntry&, const Project&, int ofItsKind);
    void setOfItsKind(int);
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
    QWidget* roleBox(const std::string& layer);
    void showUnitHeadings(const Project&);
    void showFindings();
    void showRow(QWidget* field, bool visible);
    void again(); ///< reads the settings off the fields and asks for another reading
    void answerLayers();
    void takeSettings();
    void takeChoices();

    ImportEntry m_entry;
    SourceSettings m_settings;
    Box2 m_projectData; ///< around the project's holes, or its ground if it has none
    bool m_filling = false;
    QLabel *m_title, *m_facts, *m_findingsTitle, *m_progressWords;
    QTreeWidget* m_tables;
    ImportHoles* m_holes;
    QListWidget* m_findings;
    ColumnPreview* m_preview;
    QComboBox *m_unit, *m_existing, *m_as;
    SystemEdit* m_crs;
    QLineEdit* m_columns;
    QLineEdit* m_control[8];
    QCheckBox *m_idFromName, *m_local, *m_gone, *m_otherSpelling;
    QWidget *m_unitRow, *m_tableRow, *m_localRow, *m_contents;
    QFormLayout* m_form;
    QProgressBar* m_progress;
    QPointer<QWidget> m_hadFocus; ///< before reading began
    QPushButton *m_stop, *m_toAll, *m_layersAnswer;
    std::vector<QPushButton*> m_answers; ///< to what the rows are, where that is asked
    PlaceMap* m_map;
    GroundSettings* m_ground;
};

} // namespace fox::app
