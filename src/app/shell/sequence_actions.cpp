#include "shell/sequence_actions.h"

#include "base/errors.h"
#include "base/files.h"
#include "dialogs/hole_check_sheet.h"
#include "dialogs/sequence_sheet.h"
#include "dialogs/volumes_sheet.h"
#include "handover/interpretation_csv.h"
#include "project/site_edits.h"
#include "style/words.h"
#include "views/correlation_view.h"
#include "views/plan_view.h"

#include <QFileDialog>
#include <cmath>

namespace fox::app {

SequenceActions::SequenceActions(Workspace& workspace, QObject* parent) : QObject(parent), m_workspace(workspace) {
    connect(&workspace.session(), &Session::productsChanged, this, [this] {
        if (m_sheet) m_sheet->setProducts(m_workspace.session().products());
        if (m_volumes) m_volumes->setProducts(m_workspace.session().products());
        if (m_holeCheck) m_holeCheck->setProducts(m_workspace.session().products());
    });
    connect(&workspace.selection(), &Selection::unitChanged, this, [this] {
        if (m_sheet) m_sheet->setUnit(m_workspace.selection().unit());
    });
}

SequenceSheet* SequenceActions::sheet() const { return m_sheet; }
VolumesSheet* SequenceActions::volumes() const { return m_volumes; }

void SequenceActions::connectCorrelation(CorrelationView* view) {
    connect(view, &CorrelationView::proposalAsked, this, [this] { openSheet(); });
}

void SequenceActions::openSheet() {
    const auto products = m_workspace.session().products();
    if (!products || products->reading->holes.empty())
        return m_workspace.refuse(tr("There are no logged holes yet: import them first."));
    if (!m_sheet) {
        m_sheet = new SequenceSheet(products, m_workspace.selection().unit(), m_workspace.dialogParent());
        m_sheet->setAttribute(Qt::WA_DeleteOnClose);
        connect(m_sheet, &SequenceSheet::editMade, &m_workspace.session(), &Session::apply);
        connect(m_sheet, &SequenceSheet::failed, this, [this](const QString& sentence) { m_workspace.refuse(sentence); });
        connect(m_sheet, &SequenceSheet::holeChosen, &m_workspace.selection(), &Selection::setHole);
    }
    m_sheet->show();
    m_sheet->raise();
}

void SequenceActions::openVolumes() {
    m_workspace.session().ask({ProductKind::Grids}, [this](const ProductsPtr& products) {
        if (!products) return;
        if (!products->modelGrid) return m_workspace.refuse(tr("There is no model yet to take volumes of."));
        showVolumes(products);
    });
}

void SequenceActions::openHoleCheck() {
    m_workspace.session().ask({ProductKind::Audit}, [this](const ProductsPtr& products) {
        if (!products) return;
        if (!products->model || products->model->bases.empty())
            return m_workspace.refuse(tr("There is no model yet to hold the holes against."));
        if (!m_holeCheck) {
            m_holeCheck = new HoleCheckSheet(products, m_workspace.dialogParent());
            m_holeCheck->setAttribute(Qt::WA_DeleteOnClose);
            connect(m_holeCheck, &HoleCheckSheet::failed, this,
                    [this](const QString& sentence) { m_workspace.refuse(sentence); });
            connect(m_holeCheck, &HoleCheckSheet::holeChosen, &m_workspace.selection(), &Selection::setHole);
        }
        m_holeCheck->show();
        m_holeCheck->raise();
    });
}

HoleCheckSheet* SequenceActions::holeCheck() const { return m_holeCheck; }

void SequenceActions::showVolumes(const ProductsPtr& products) {
    if (!m_volumes) {
        m_volumes = new VolumesSheet(products, m_workspace.dialogParent());
        m_volumes->setAttribute(Qt::WA_DeleteOnClose);
        connect(m_volumes, &VolumesSheet::failed, this, [this](const QString& sentence) { m_workspace.refuse(sentence); });
    }
    m_volumes->show();
    m_volumes->raise();
}

void SequenceActions::askFile(const QString& title, const QString& kinds, void (SequenceActions::*take)(const QString&)) {
    const auto path = QFileDialog::getOpenFileName(m_workspace.dialogParent(), title, {}, kinds + tr(";;All files (*)"));
    if (!path.isEmpty()) takeSaying(path, take);
}

void SequenceActions::takeSaying(const QString& file, void (SequenceActions::*take)(const QString&)) {
    try {
        (this->*take)(file);
    } catch (const Error& e) {
        m_workspace.refuse(QString::fromStdString(e.what()));
    }
}

bool SequenceActions::takeIfInterpretation(const QString& file) {
    constexpr qint64 kBeginning = 4096; // bytes; its header is the first line
    QFile in(file);
    if (!in.open(QIODevice::ReadOnly) || !isInterpretationCsv(in.read(kBeginning).toStdString())) return false;
    takeSaying(file, &SequenceActions::takeInterpretation);
    return true;
}

void SequenceActions::importSections() {
    askFile(tr("Section lines from a file"), tr("Lines (*.gpkg *.shp *.geojson *.json *.dxf)"), &SequenceActions::takeSections);
}

void SequenceActions::importInterpretation() {
    askFile(tr("Units of intervals from a table"), tr("Tables (*.csv *.txt *.tsv)"), &SequenceActions::takeInterpretation);
}

void SequenceActions::takeSections(const QString& file) {
    const auto before = m_workspace.session().project().sections->size();
    const bool taken =
        m_workspace.session().apply([layers = readVector(file.toStdString()), name = QFileInfo(file).fileName().toStdString()](
                                        const Project& p) { return addSections(p, layers, name); });
    if (taken) m_workspace.selection().setSection(int(before));
}

void SequenceActions::takeInterpretation(const QString& file) {
    InterpretationImport in;
    const bool taken = m_workspace.session().apply(
        [&in, bytes = readBytes(file.toStdString()), name = QFileInfo(file).fileName().toStdString()](const Project& p) {
            in = fox::importInterpretation(p, bytes, name);
            return in.intervals + in.picks > 0 ? in.edited : Edited{p, ""};
        });
    if (!taken) return;
    auto words = tr("Taken: %1 and %2. Already so: %3.")
                     .arg(counted(in.intervals, "interval"), counted(in.picks, "pick"), counted(in.same, "row"));
    if (!in.findings.empty())
        words += tr(" Not used: %1; the first: %2")
                     .arg(counted(qint64(in.findings.size()), "row"))
                     .arg(QString::fromStdString(describe(in.findings.front())));
    m_workspace.say(words);
}

void SequenceActions::takeExtentInSight() {
    auto* p = m_workspace.planInSight();
    const auto products = m_workspace.session().products();
    if (!p || !products || !products->frame) return m_workspace.refuse(tr("There is no plan in sight to take the extent from."));
    const auto w = p->world();
    const double cell = products->frame->cell;
    // whole cells, counted from 0, so that a little pan gives the same grid again
    const auto down = [&](double v) { return std::floor(v / cell) * cell; };
    const auto up = [&](double v) { return std::ceil(v / cell) * cell; };
    m_workspace.session().apply([frame = Frame{down(w.left()), down(w.top()), up(w.right()), up(w.bottom()), cell}](
                                    const Project& now) { return setFrame(now, frame); });
}

} // namespace fox::app
