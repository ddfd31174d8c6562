#include "shell/sequence_actions.h"

#include "base/errors.h"
#include "base/files.h"
#include "dialogs/sequence_sheet.h"
#include "dialogs/volumes_sheet.h"
#include "project/interpretation_csv.h"
#include "shell/main_window.h"
#include "views/correlation_view.h"
#include "views/plan_view.h"

#include <QFileDialog>
#include <cmath>

namespace fox::app {

SequenceActions::SequenceActions(MainWindow* window) : QObject(window), m_window(window) {
    connect(window->session(), &Session::productsChanged, this, [this] {
        if (m_sheet) m_sheet->setProducts(m_window->session()->products());
        if (m_volumes) m_volumes->setProducts(m_window->session()->products());
    });
    connect(window->selection(), &Selection::unitChanged, this, [this] {
        if (m_sheet) m_sheet->setUnit(m_window->selection()->unit());
    });
}

SequenceSheet* SequenceActions::sheet() const { return m_sheet; }
VolumesSheet* SequenceActions::volumes() const { return m_volumes; }

void SequenceActions::connectShelf(Shelf* shelf) {
    connect(shelf, &Shelf::sequenceAsked, this, &SequenceActions::openSheet);
    connect(shelf, &Shelf::volumesAsked, this, &SequenceActions::openVolumes);
    connect(shelf, &Shelf::interpretationAsked, this, [this] {
        askFile(tr("Units of intervals from a table"), tr("Tables (*.csv *.txt *.tsv)"), &SequenceActions::takeInterpretation);
    });
    connect(shelf, &Shelf::sectionsAsked, this, [this] {
        askFile(tr("Section lines from a file"), tr("Lines (*.gpkg *.shp *.geojson *.json *.dxf)"),
                &SequenceActions::takeSections);
    });
    connect(shelf, &Shelf::extentInSightAsked, this, &SequenceActions::takeExtentInSight);
    connect(shelf, &Shelf::trialAsked, this, [this] {
        if (auto* p = plan()) p->startDrawing(PlanView::Drawing::Trial);
        emit said(tr("Click on the plan where you want to know what a hole would find; Esc gives up."));
    });
}

void SequenceActions::connectCorrelation(CorrelationView* view) {
    connect(view, &CorrelationView::proposalAsked, this, [this] { openSheet(0); });
}

PlanView* SequenceActions::plan() {
    if (!m_window->page()->find<PlanView>()) m_window->showStage("model");
    return m_window->page()->find<PlanView>();
}

void SequenceActions::openSheet(int page) {
    const auto products = m_window->session()->products();
    if (!products || products->reading->holes.empty()) return emit said(tr("There are no logged holes yet: import them first."));
    if (!m_sheet) {
        m_sheet = new SequenceSheet(products, m_window->selection()->unit(), m_window);
        m_sheet->setAttribute(Qt::WA_DeleteOnClose);
        connect(m_sheet, &SequenceSheet::editMade, m_window->session(), &Session::apply);
        connect(m_sheet, &SequenceSheet::failed, this, &SequenceActions::said);
        connect(m_sheet, &SequenceSheet::holeChosen, m_window->selection(), &Selection::setHole);
    }
    m_sheet->showPage(SequenceSheet::Page(page));
    m_sheet->show();
    m_sheet->raise();
}

void SequenceActions::openVolumes() {
    const auto products = m_window->session()->products();
    if (!products || !products->modelGrid) return emit said(tr("There is no model yet to take volumes of."));
    if (!m_volumes) {
        m_volumes = new VolumesSheet(products, m_window);
        m_volumes->setAttribute(Qt::WA_DeleteOnClose);
        connect(m_volumes, &VolumesSheet::failed, this, &SequenceActions::said);
    }
    m_volumes->show();
    m_volumes->raise();
}

void SequenceActions::askFile(const QString& title, const QString& kinds, void (SequenceActions::*take)(const QString&)) {
    const auto path = QFileDialog::getOpenFileName(m_window, title, {}, kinds + tr(";;All files (*)"));
    if (path.isEmpty()) return;
    try {
        (this->*take)(path);
    } catch (const Error& e) {
        emit said(QString::fromStdString(e.what()));
    }
}

void SequenceActions::takeSections(const QString& file) {
    const auto before = m_window->session()->project().sections->size();
    m_window->session()->apply(
        addSections(m_window->session()->project(), readVector(file.toStdString()), QFileInfo(file).fileName().toStdString()));
    m_window->selection()->setSection(int(before));
}

void SequenceActions::takeInterpretation(const QString& file) {
    const auto in = importInterpretation(m_window->session()->project(), readBytes(file.toStdString()),
                                         QFileInfo(file).fileName().toStdString());
    if (in.intervals + in.picks > 0) m_window->session()->apply(in.edited);
    auto words = tr("%1 intervals and %2 picks taken, %3 were so already.").arg(in.intervals).arg(in.picks).arg(in.same);
    if (!in.findings.empty())
        words += tr(" %1 rows could not be used; the first: %2")
                     .arg(in.findings.size())
                     .arg(QString::fromStdString(describe(in.findings.front())));
    emit said(words);
}

void SequenceActions::takeExtentInSight() {
    auto* p = m_window->page()->find<PlanView>();
    const auto products = m_window->session()->products();
    if (!p || !products || !products->frame) return emit said(tr("There is no plan in sight to take the extent from."));
    const auto w = p->world();
    const double cell = products->frame->cell;
    // whole cells, counted from 0, so that a little pan gives the same grid again
    const auto down = [&](double v) { return std::floor(v / cell) * cell; };
    const auto up = [&](double v) { return std::ceil(v / cell) * cell; };
    try {
        m_window->session()->apply(
            setFrame(m_window->session()->project(), Frame{down(w.left()), down(w.top()), up(w.right()), up(w.bottom()), cell}));
    } catch (const Error& e) {
        emit said(QString::fromStdString(e.what()));
    }
}

} // namespace fox::app
