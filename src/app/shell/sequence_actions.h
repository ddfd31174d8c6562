#pragma once
#include "stages/shelf.h"

#include <QPointer>

namespace fox::app {

class CorrelationView;
class MainWindow;
class PlanView;
class SequenceSheet;
class VolumesSheet;

/// What the Site, Sequence and Model stages ask for that needs a sheet, a file or the plan: which layer is which, an
/// interpretation as a table, volumes, the extent of what is in sight.
class SequenceActions : public QObject {
    Q_OBJECT
public:
    explicit SequenceActions(MainWindow*);
    void connectShelf(Shelf*);
    void connectCorrelation(CorrelationView*);
    /// A page as SequenceSheet::Page has them.
    void openSheet(int page);
    SequenceSheet* sheet() const; ///< null if it is closed
    void openVolumes();
    VolumesSheet* volumes() const; ///< null if it is closed
    /// Takes units of intervals and picks from a table. @throws FileError
    void takeInterpretation(const QString& file);
    /// Takes the lines of a vector file as sections. @throws Error
    void takeSections(const QString& file);

signals:
    void said(const QString& sentence);

private:
    void askFile(const QString& title, const QString& kinds, void (SequenceActions::*take)(const QString&));
    void takeExtentInSight();
    PlanView* plan();

    MainWindow* m_window;
    QPointer<SequenceSheet> m_sheet;
    QPointer<VolumesSheet> m_volumes;
};

} // namespace fox::app
