#pragma once
#include "shell/workspace.h"
#include "stages/panel_action.h"

#include <QPointer>

namespace fox::app {

class CorrelationView;
class PlanView;
class HoleCheckSheet;
class SequenceSheet;
class VolumesSheet;

/// What the Site, Sequence and Model stages ask for that needs a sheet, a file or the plan: which layer is which, an
/// interpretation as a table, volumes, the extent of what is in sight.
class SequenceActions : public QObject {
    Q_OBJECT
public:
    SequenceActions(Workspace&, QObject* parent);
    void connectCorrelation(CorrelationView*);
    /// What the program proposes.
    void openSheet();
    SequenceSheet* sheet() const; ///< null if it is closed
    void openVolumes();
    void openHoleCheck();
    HoleCheckSheet* holeCheck() const; ///< null if it is closed
    VolumesSheet* volumes() const;     ///< null if it is closed
    void takeExtentInSight();
    void importInterpretation(); ///< asks for the table
    void importSections();       ///< asks for the file
    /// Takes units of intervals and picks from a table. @throws FileError
    void takeInterpretation(const QString& file);
    /// Whether a file that was given as data is such a table, as this program writes it; then it is taken.
    bool takeIfInterpretation(const QString& file);
    /// Takes the lines of a vector file as sections. @throws Error
    void takeSections(const QString& file);

private:
    void showVolumes(const ProductsPtr&);
    void askFile(const QString& title, const QString& kinds, void (SequenceActions::*take)(const QString&));
    void takeSaying(const QString& file, void (SequenceActions::*take)(const QString&)); ///< errors are said

    Workspace& m_workspace;
    QPointer<SequenceSheet> m_sheet;
    QPointer<VolumesSheet> m_volumes;
    QPointer<HoleCheckSheet> m_holeCheck;
};

} // namespace fox::app
