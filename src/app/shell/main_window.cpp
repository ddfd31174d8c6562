#include "shell/main_window.h"

#include "base/errors.h"
#include "base/files.h"
#include "dialogs/dropped_files.h"
#include "dialogs/export_dialog.h"
#include "dialogs/import_sheet.h"
#include "dialogs/source_sheet.h"
#include "project/finding_rules.h"
#include "shell/application.h"
#include "shell/banner.h"
#include "shell/block_actions.h"
#include "shell/find_box.h"
#include "shell/findings_strip.h"
#include "shell/ground_actions.h"
#include "shell/layer_actions.h"
#include "shell/project_actions.h"
#include "shell/refusal.h"
#include "shell/sequence_actions.h"
#include "shell/sheet_actions.h"
#include "shell/stage_column.h"
#include "shell/status_line.h"
#include "shell/surface_actions.h"
#include "shell/top_bar.h"
#include "shell/welcome.h"
#include "style/theme.h"
#include "views/ask_file.h"
#include "views/block_view.h"
#include "views/correlation_view.h"
#include "views/page_view.h"
#include "views/plan_view.h"
#include "views/section_view.h"
#include "views/table_view.h"

#include <QApplication>
#include <QClipboard>
#include <QCloseEvent>
#include <QDir>
#include <QFileDialog>
#include <QGuiApplication>
#include <QMessageBox>
#include <QMimeData>
#include <QSettings>
#include <QStackedWidget>
#include <QStandardPaths>
#include <QTimer>
#include <QVBoxLayout>

namespace fox::app {

namespace {

/// Which panes a stage opens with. Site shows the whole of the project at a glance.
Arrangement arrangementOf(const QString& id) {
    using enum ViewKind;
    if (id == "site")
        return beside({over({beside({only(Plan), only(Block)}, 4), beside({only(Section), only(Table)}, 3)}, 9), only(Log, 2)});
    if (id == "holes") return over({beside({only(Plan, 9), only(Log, 5)}, 2), only(Table)});
    if (id == "ground") return over({only(Plan, 5), only(Block, 4)});
    if (id == "sequence") return over({only(Correlation, 3), beside({only(Units, 7), only(Log, 3)}, 2)});
    if (id == "model") return over({beside({only(Plan), only(Block)}, 3), beside({only(Section, 7), only(Log, 2)}, 2)});
    if (id == "layers")
        return over({beside({only(Layers, 10), only(Plan, 7)}, 1), beside({only(GridSection, 3), only(Block, 2)}, 1)});
    if (id == "blocks")
        return over(
            {beside({only(Block, 5), only(BlockChart, 4)}, 3), beside({only(Plan, 3), only(Section, 4), only(Table, 4)}, 2)});
    return beside({only(Report, 3), only(Page, 8)});
}

/// The place of a stage on the column, also of one that is a part of another.
int columnOf(std::size_t stage) {
    const auto* of = stages()[stage].partOf;
    if (!of) return int(stage);
    return int(std::ranges::find_if(stages(), [&](const Stage& s) { return std::string_view(s.id) == of; }) - stages().begin());
}

} // namespace

MainWindow::MainWindow(QWidget* parent)
    : QMainWindow(parent),
      m_session(new Session(this)),
      m_selection(new Selection(this)),
      m_pages(new QStackedWidget(this)),
      m_shelves(new QStackedWidget(this)),
      m_banner(new Banner(this)),
      m_refusal(new Refusal(this)),
      m_findings(new FindingsStrip(this)),
      m_status(new StatusLine(this)),
      m_welcome(new Welcome(m_pages)),
      m_projects(new ProjectActions(*this, this)),
      m_ground(new GroundActions(*this, this)),
      m_surfaces(new SurfaceActions(*this, this)),
      m_sequence(new SequenceActions(*this, this)),
      m_sheets(new SheetActions(*this, this)),
      m_layers(new LayerActions(*this, this)),
      m_blocks(new BlockActions(*this, this)),
      m_stagePages(stages().size(), nullptr),
      m_stageShelves(stages().size(), nullptr) {
    setAcceptDrops(true);
    resize(1280, 800);
    makeActions();
    m_top = new TopBar(m_undo, m_redo, m_export, m_import, this);
    std::vector<StageColumn::Band> bands;
    for (std::size_t i = 0; i < stages().size(); ++i) {
        if (stages()[i].partOf) continue;
        Unit earth;
        earth.name = stages()[i].band;
        earth.colour = proposedColour(earth.name, {});
        bands.push_back({tr(stages()[i].title), unitColour(earth), hatch(earth), {}, Severity::Note, 0});
    }
    m_column = new StageColumn(bands, this);
    auto* middle = new QWidget(this);
    auto* middleRow = new QHBoxLayout(middle);
    auto* views = new QWidget(middle);
    auto* viewsColumn = new QVBoxLayout(views);
    for (QLayout* l : {static_cast<QLayout*>(middleRow), static_cast<QLayout*>(viewsColumn)})
        l->setContentsMargins(0, 0, 0, 0), l->setSpacing(0);
    auto* inner = new QHBoxLayout;
    inner->setSpacing(0);
    inner->addWidget(m_pages, 1);
    inner->addWidget(m_shelves);
    m_shelves->setFixedWidth(int(std::lround(316 * textScale())));
    connect(m_welcome, &Welcome::demoAsked, this, [this] { m_projects->openDemo(false); });
    connect(m_welcome, &Welcome::filesAsked, this, &MainWindow::askImport);
    connect(m_welcome, &Welcome::projectAsked, this, [this] { m_projects->askOpen(); });
    connect(m_welcome, &Welcome::recentAsked, this, [this](const QString& path) { m_projects->open(path); });
    viewsColumn->addLayout(inner, 1);
    viewsColumn->addWidget(m_findings);
    middleRow->addWidget(m_column);
    middleRow->addWidget(views, 1);
    auto* all = new QWidget(this);
    auto* column = new QVBoxLayout(all);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(m_top);
    column->addWidget(m_banner);
    column->addWidget(middle, 1);
    column->addWidget(m_status);
    setCentralWidget(all);
    makeMenus();
    connectSession();
    setStage(0);
    setMinimumSize(960, 640); // below it panes would overlap
    QSettings settings;
    if (const auto geometry = settings.value("window").toByteArray(); !geometry.isEmpty()) restoreGeometry(geometry);
}

MainWindow::~MainWindow() {
    hide(); // a field that is left may make an edit: while all that it reaches is still there
}

void MainWindow::connectSession() {
    connect(m_session, &Session::projectChanged, this, &MainWindow::projectChanged);
    connect(m_session, &Session::productsChanged, this, &MainWindow::productsChanged);
    connect(m_session, &Session::saved, this, &MainWindow::tellSaved);
    connect(m_session, &Session::busyChanged, m_status, &StatusLine::setBusy);
    connect(m_session, &Session::progressed, m_status, &StatusLine::setProgress);
    connect(m_session, &Session::failed, m_status, &StatusLine::say);
    connect(m_session, &Session::refused, this, [this](const QString& sentence) {
        refuse(sentence);
        m_stageShelves[m_stage]->refill(); // what a field shows is what the project has
    });
    connect(m_session, &Session::opened, this, &MainWindow::projectOpened);
    connect(m_session, &Session::openFailed, this, [this](const QString& sentence) {
        if (sentence.isEmpty()) return say(tr("Opening was stopped."));
        auto* box = new QMessageBox(QMessageBox::Warning, tr("Fox Cellar"), sentence, QMessageBox::Ok, this);
        box->setAttribute(Qt::WA_DeleteOnClose);
        box->open();
    });
    const auto tellState = [this] {
        m_banner->setState(m_session->notSavedBecause(), m_session->readOnlyBecause(), m_projects->unnamedBecause());
    };
    connect(m_session, &Session::projectChanged, this, tellState);
    connect(m_session, &Session::saveStateChanged, this, [this, tellState] {
        tellState();
        m_status->setNotSaved(!m_session->notSavedBecause().isEmpty());
        tellSaved();
    });
    connect(m_banner, &Banner::saveAgainAsked, m_session, &Session::saveAgain);
    connect(m_banner, &Banner::saveAsAsked, m_projects, &ProjectActions::askSaveAs);
    if (auto* application = qobject_cast<Application*>(qApp)) connect(application, &Application::caught, this, &MainWindow::say);
    connect(m_status, &StatusLine::stopAsked, m_session, [this] {
        m_session->stopWork();
        say(tr("Stopped: the views show the last good surfaces. F5 recalculates them."));
    });
    connect(m_selection, &Selection::exaggerationChanged, this,
            [this] { m_status->setExaggeration(m_selection->exaggeration()); });
    m_status->setExaggeration(m_selection->exaggeration());
    connect(m_selection, &Selection::holeChanged, this, [this] {
        const auto products = m_session->products();
        const auto* hole = products ? findHole(*products->project.holes, m_selection->hole().toStdString()) : nullptr;
        if (hole) m_selectedHole = {hole->project, hole->id};
    });
    connect(m_selection, &Selection::sectionChanged, this, &MainWindow::tellWanted);
    connect(m_selection, &Selection::planLookChanged, this, &MainWindow::tellWanted);
    connect(m_column, &StageColumn::chosen, this, &MainWindow::setStage);
    connect(m_findings, &FindingsStrip::showAsked, this, &MainWindow::showFinding);
    connect(m_findings, &FindingsStrip::remedyAsked, this, &MainWindow::applyRemedy);
    auto* minute = new QTimer(this); // "saved 12 s ago" grows older
    connect(minute, &QTimer::timeout, this, &MainWindow::tellSaved);
    minute->start(5000);
}

bool MainWindow::settled() const { return !m_session->outOfDate() && shown(); }

bool MainWindow::shown() const {
    const auto products = m_session->products();
    if (!products || m_session->opening() || !sameVersion(products->project, m_session->project())) return false;
    return std::ranges::all_of(page()->panes(), [](const Pane* p) { return p->view()->settled(); });
}

StagePage* MainWindow::page() const { return m_stagePages[m_stage]; }

void MainWindow::showStage(const QString& id) {
    for (std::size_t i = 0; i < stages().size(); ++i)
        if (id == stages()[i].id) setStage(int(i));
}

void MainWindow::setStage(int i) {
    const auto at = m_stage = std::size_t(i);
    m_column->setCurrent(columnOf(at));
    if (!m_stagePages[at]) {
        const QString id = stages()[at].id;
        auto* page = m_stagePages[at] = new StagePage(id, arrangementOf(id), m_selection, this);
        page->recall(m_session->path());
        m_pages->addWidget(page);
        if (id == "model") { // a chosen unit's base is what this stage's plan is for
            auto look = m_selection->planLook();
            look.surface = PlanLook::Surface::Level;
            m_selection->setPlanLook(look);
        }
        if (auto* block = id == "ground" ? page->find<BlockView>() : nullptr) {
            auto look = block->look();
            look.terrain = true;
            block->setLook(look);
        }
        if (auto* block = id == "blocks" ? page->find<BlockView>() : nullptr) {
            auto look = block->look();
            look.cut = {}; // blocks are whole until somebody cuts them
            block->setLook(look);
        }
        if (auto* table = id == "blocks" ? page->find<TableView>() : nullptr) table->showTable("excavations");
        for (auto* pane : page->panes()) {
            connect(pane, &Pane::viewMade, this, &MainWindow::connectView);
            connectView(pane->view());
        }
        auto* shelf = m_stageShelves[at] = stages()[at].makeShelf(m_selection, this);
        m_shelves->addWidget(shelf);
        connect(shelf, &Shelf::editMade, m_session, &Session::apply);
        connect(shelf, &Shelf::actionAsked, this, &MainWindow::act);
        connect(shelf, &Shelf::failed, this, &MainWindow::refuse);
    }
    auto layers = m_selection->layerLook();
    layers.onPlan = std::string_view(stages()[at].id) == "layers";
    m_selection->setLayerLook(layers);
    auto blocks = m_selection->blockLook();
    blocks.on = std::string_view(stages()[at].id) == "blocks";
    m_selection->setBlockLook(blocks);
    m_pages->setCurrentWidget(m_stagePages[at]);
    m_shelves->setCurrentWidget(m_stageShelves[at]);
    tellWanted();
    productsChanged();
}

void MainWindow::connectView(View* view) {
    view->setProducts(m_session->products());
    connect(view, &View::wantedChanged, this, &MainWindow::tellWanted);
    if (m_pages->currentWidget() == page()) tellWanted();
    connect(view, &View::editMade, m_session, &Session::apply);
    connect(view, &View::editPreviewed, m_session, &Session::preview);
    connect(view, &View::previewEnded, m_session, &Session::endPreview);
    connect(view, &View::pointed, m_status, &StatusLine::setPointed);
    connect(view, &View::failed, this, &MainWindow::refuse);
    if (auto* plan = qobject_cast<PlanView*>(view)) {
        m_ground->connectPlan(plan);
        connect(plan, &PlanView::cellsDrawn, m_layers, &LayerActions::askTyped);
    }
    if (auto* correlation = qobject_cast<CorrelationView*>(view)) m_sequence->connectCorrelation(correlation);
    if (auto* section = qobject_cast<SectionView*>(view))
        connect(section, &SectionView::drawLineAsked, this, &MainWindow::drawSection);
}

/// Only what is in sight is worked out, and what the findings and the stages' figures need.
void MainWindow::tellWanted() {
    const auto& project = m_session->project();
    Wanted wanted{ProductKind::AllFindings};
    for (auto* pane : page()->panes()) wanted.add(pane->view()->wanted(project));
    if (const auto* shelf = m_stageShelves[m_stage]) wanted.add(shelf->wanted()); // null while it is made
    if (m_layers->groups()) wanted.kinds.insert(ProductKind::Layers);
    if (m_surfaces->waterSheet()) wanted.kinds.insert(ProductKind::WaterSurfaces);
    if (m_surfaces->sheet() || m_sequence->sheet() || m_sequence->volumes()) wanted.kinds.insert(ProductKind::Grids);
    m_session->setWanted(wanted);
}

void MainWindow::projectChanged() {
    tellWanted();
    showWelcome();
    const auto& history = m_session->history();
    const auto name = QString::fromStdString(m_session->project().name);
    m_top->setProject(name);
    setWindowTitle(name + tr(" - Fox Cellar"));
    m_undo->setEnabled(history.canUndo());
    m_redo->setEnabled(history.canRedo());
    m_undo->setToolTip(history.canUndo() ? tr("Undo: %1 (Ctrl+Z)").arg(QString::fromStdString(history.undoLabel()))
                                         : tr("Nothing to undo"));
    m_redo->setToolTip(history.canRedo() ? tr("Redo: %1 (Ctrl+Shift+Z)").arg(QString::fromStdString(history.redoLabel()))
                                         : tr("Nothing to redo"));
    m_status->setSystem(QString::fromStdString(m_session->project().site->crs));
    tellSaved();
}

void MainWindow::productsChanged() {
    const auto products = m_session->products();
    if (!products) return;
    // only what is in sight: another stage gets them when it is shown
    const bool isPreview = m_session->showsPreview();
    for (auto* pane : page()->panes())
        if (!isPreview || pane->view()->followsDragging()) pane->view()->setProducts(products);
    if (isPreview) return;
    m_stageShelves[m_stage]->setProducts(products);
    m_findings->setFindings(withFileFindings(products->findings));
    for (std::size_t i = 0; i < stages().size(); ++i) {
        if (stages()[i].partOf) continue;
        const auto figure = stages()[i].figure(*products);
        m_column->setFigure(int(i), figure.words, figure.state, figure.count);
    }
    const auto& holes = *products->project.holes;
    if (!m_selection->hole().isEmpty()) {
        const auto* hole = findHole(holes, m_selection->hole().toStdString());
        if (!hole) // it may be called otherwise now
            for (const auto& h : holes)
                if (std::pair(h.project, h.id) == m_selectedHole) hole = &h;
        m_selection->setHole(hole ? QString::fromStdString(displayName(holes, *hole)) : QString());
    }
    if (m_firstProducts && m_selection->hole().isEmpty() && !products->sections.empty() && products->sections.front()
        && !products->sections.front()->holes.empty())
        m_selection->setHole(
            QString::fromStdString(products->sections.front()->holes.front().name)); // something to see in the log at once
    m_firstProducts = false;
    fillFind();
}

/// What is wrong with the project file comes before what is wrong with the data.
std::shared_ptr<const Findings> MainWindow::withFileFindings(const std::shared_ptr<const Findings>& found) const {
    const auto& ofFile = m_session->fileFindings();
    if (ofFile.empty()) return found;
    auto all = std::make_shared<Findings>(ofFile);
    all->insert(all->end(), found->begin(), found->end());
    std::ranges::stable_sort(*all, std::greater<>(), &Finding::severity);
    return all;
}

void MainWindow::fillFind() {
    std::vector<FindBox::Entry> entries;
    const auto products = m_session->products();
    for (const auto& holeName : displayNames(*products->project.holes)) {
        const auto name = QString::fromStdString(holeName);
        entries.push_back({name, [this, name] {
                               m_selection->setHole(name);
                               if (auto* plan = page()->find<PlanView>()) plan->centreOn(name);
                           }});
    }
    for (const auto& u : products->project.sequence->units) {
        const auto code = QString::fromStdString(u.code);
        entries.push_back({tr("%1 (%2), unit").arg(QString::fromStdString(u.name), code), [this, code] {
                               m_selection->setUnit(code);
                               showStage("model");
                           }});
    }
    for (const auto& f : *products->project.files)
        entries.push_back({tr("%1, file").arg(QString::fromStdString(f.name)), [this] { showStage("site"); }});
    for (auto* a : actions())
        if (!a->text().isEmpty()) entries.push_back({tr("%1, action").arg(a->text()), [a] { a->trigger(); }});
    m_top->find()->setEntries(std::move(entries));
}

void MainWindow::showFinding(const Finding& f) {
    if (f.place) {
        if (!page()->find<PlanView>()) showStage("ground");
        if (auto* plan = page()->find<PlanView>()) plan->showPlace(*f.place);
        return;
    }
    if (f.hole.empty() && f.line > 0) return showLine(f);
    if (f.hole.empty() && !f.unit.empty()) {
        showStage("model");
        m_selection->setUnit(QString::fromStdString(f.unit));
        return;
    }
    if (f.hole.empty()) return;
    if (!findHole(*m_session->project().holes, f.hole)) return showLine(f); // a row of a hole that is not there
    const auto stage = stageOf(f.rule);
    showStage(stage == fox::Stage::Sequence ? "sequence" : stage == fox::Stage::Model ? "model" : "holes");
    m_selection->setHole(QString::fromStdString(f.hole));
}

void MainWindow::applyRemedy(const Remedy& r) {
    if (const auto* place = std::get_if<PlaceOnPlan>(&r.action)) return placeHole(QString::fromStdString(place->hole));
    if (const auto* again = std::get_if<ReadFileAgain>(&r.action)) return readAgain(QString::fromStdString(again->file));
    m_session->apply([r](const Project& p) { return fox::apply(p, r); });
}

namespace {
/// One function object of several, for std::visit.
template <typename... F>
struct Overloaded : F... {
    using F::operator()...;
};
} // namespace

void MainWindow::act(const PanelAction& action) {
    std::visit(Overloaded{[this](const ImportFiles&) { askImport(); },
                          [this](const ExportFiles&) { askExport(); },
                          [this](const ShowTable& a) { showTable(a.key); },
                          [this](const ShowSource& a) { showSource(a.file); },
                          [this](const PlaceHole& a) { placeHole(a.hole); },
                          [this](const SaveCorrections&) { saveCorrections(); },
                          [this](const GetTiles&) { m_ground->openTiles(); },
                          [this](const CompareSurfaces&) { m_ground->openCompare(); },
                          [this](const ShowPart& a) { showStage(a.stage); },
                          [this](const WriteLayers& a) { m_layers->askWriteGrid(a.grid); },
                          [this](const WriteMesh& a) { m_layers->askWriteMesh(a.mesh); },
                          [this](const ShowCellGroups&) { m_layers->openGroups(); },
                          [this](const WhereCells&) { m_layers->askWhere(); },
                          [this](const AddLayersFromFile&) { m_layers->askFiles(); },
                          [this](const WriteBlocks& a) { m_blocks->askWriteBlocks(a.model); },
                          [this](const WriteBlockTable& a) { m_blocks->askWriteTable(a.model); },
                          [this](const MakeBlocksAgain& a) { m_session->makeBlocksAgain({a.model}); },
                          [this](const WriteExcavation& a) { m_blocks->askWriteExcavation(a.excavation); },
                          [this](const ShowOnPlan& a) {
                              if (auto* plan = planInSight()) plan->showArea(a.area);
                          },
                          [this](const AddBlocksFromFile&) { m_blocks->askFiles(); },
                          [this](const SaveSheets& a) { m_sheets->askSave(a); },
                          [this](const SaveReport&) { m_sheets->askSaveReport(); },
                          [this](const OpenTemplate&) { m_sheets->askOpenTemplate(); },
                          [this](const SaveTemplate&) { m_sheets->askSaveTemplate(); },
                          [this](const KeepTemplate&) { m_sheets->askKeepTemplate(); },
                          [this](const DropTemplate& what) { m_sheets->dropTemplate(what.name); },
                          [this](const PrintSheets&) { m_sheets->askPrint(); },
                          [this](const AddNamedSurface&) { m_ground->askNamedSurface(); },
                          [this](const EditTriangles& a) {
                              if (auto* plan = planOn("ground")) plan->startMending(a.kind);
                          },
                          [this](const ShowPicture& a) { m_ground->openPicture(a.file); },
                          [this](const ShowSurface& a) { m_surfaces->openSheet(a.page); },
                          [this](const AddWater& a) { m_surfaces->addWater(a.unit); },
                          [this](const ShowWater& a) { m_surfaces->openWater(a.surface); },
                          [this](const BaseFromGrid& a) { m_surfaces->askGrid(a.unit); },
                          [this](const ShowSequence&) { m_sequence->openSheet(); },
                          [this](const ImportInterpretation&) { m_sequence->importInterpretation(); },
                          [this](const ImportSections&) { m_sequence->importSections(); },
                          [this](const ShowVolumes&) { m_sequence->openVolumes(); },
                          [this](const DrawOnPlan& a) { drawOnPlan(a); },
                          [this](const ExtentFromPlan&) { m_sequence->takeExtentInSight(); }},
               action);
}

void MainWindow::drawOnPlan(const DrawOnPlan& what) {
    using What = DrawOnPlan::What;
    using Drawing = PlanView::Drawing;
    switch (what.what) {
    case What::Section: return drawSection();
    case What::Outline:
        if (auto* plan = planOn("ground")) plan->startDrawing(Drawing::Outline);
        return;
    case What::SiteLimit:
        if (auto* plan = planOn("site")) plan->startDrawing(Drawing::SiteLimit);
        return say(tr("Click the corners of the site limit on the plan; double-click ends, Esc cancels."));
    case What::Present:
    case What::Absent:
        if (auto* plan = planOn("model")) plan->startDrawing(what.what == What::Present ? Drawing::Present : Drawing::Absent);
        return say(tr("Click a position on the plan and press Enter, or click around an area; Esc cancels."));
    case What::Cells:
        if (auto* plan = planOn("layers")) plan->startDrawing(Drawing::Cells);
        return say(tr("Click a cell on the plan and press Enter, or click around cells and double-click; Esc cancels."));
    case What::TrialColumn:
        if (auto* plan = planOn("model")) plan->startDrawing(Drawing::Trial);
        return say(tr("Click on the plan where you want to know what a hole would find; Esc cancels."));
    }
}

PlanView* MainWindow::planInSight() { return page()->find<PlanView>(); }

PlanView* MainWindow::planOn(const char* stage) {
    if (!planInSight()) showStage(stage);
    return planInSight();
}

void MainWindow::say(const QString& sentence) {
    m_status->say(sentence);
    emit said(sentence);
}

void MainWindow::refuse(const QString& sentence) {
    say(sentence);
    m_refusal->say(sentence);
}

void MainWindow::placeHole(const QString& name) {
    if (!page()->find<PlanView>()) showStage("holes");
    if (auto* plan = page()->find<PlanView>()) plan->startPlacing(name);
    say(tr("Click on the plan where %1 is; Esc cancels.").arg(name));
}

void MainWindow::showTable(const QString& key) {
    if (!page()->find<TableView>()) showStage("holes");
    if (auto* table = page()->find<TableView>()) table->showTable(key);
}

/// The row of an imported file that a finding is about.
void MainWindow::showLine(const Finding& f) {
    m_session->ask({ProductKind::ImportedTables}, [this, f](const ProductsPtr& products) {
        if (!products) return;
        for (const auto& file : products->agsFiles)
            if (file && file->name == f.file)
                for (const auto& g : file->groups)
                    if (g.name == f.group || std::ranges::any_of(g.rows, [&](const auto& r) { return r.line == f.line; })) {
                        showTable(QString::fromStdString("group:" + file->name + ":" + g.name));
                        if (auto* table = page()->find<TableView>()) table->showLine(f.line);
                        return;
                    }
        say(QString::fromStdString(describe(f)));
    });
}

void MainWindow::showSource(const QString& name) {
    m_session->ask({ProductKind::ImportedTables}, [this, name](const ProductsPtr& products) {
        if (!products) return;
        std::shared_ptr<const AgsFile> parsed;
        for (const auto& f : products->agsFiles)
            if (f && name == QString::fromStdString(f->name)) parsed = f;
        auto* sheet = new SourceSheet(m_session->project(), parsed, name, this);
        connect(sheet, &SourceSheet::editMade, m_session, &Session::apply);
        connect(sheet, &SourceSheet::tableAsked, this, &MainWindow::showTable);
        connect(sheet, &SourceSheet::readAgainAsked, this, &MainWindow::readAgain);
        connect(sheet, &SourceSheet::newerAsked, this, [this](const QString& path) { importFiles({path}); });
        sheet->open();
    });
}

void MainWindow::readAgain(const QString& file) {
    openSheet(new ImportSheet(
        ImportSheet::KnownFile{file}, [this] { return m_session->project(); }, this));
}

void MainWindow::saveCorrections() {
    const auto path = askSaveFile(this, tr("Save data corrections"), "tables", "corrections.csv", tr("CSV (*.csv)"), "csv");
    if (path.isEmpty()) return;
    try {
        writeBytes(path.toStdString(), correctionsAsCsv(m_session->project()));
        say(tr("Saved %1.").arg(path));
    } catch (const Error& e) {
        refuse(QString::fromStdString(e.what()));
    }
}

void MainWindow::pasteTable() {
    const auto text = QGuiApplication::clipboard()->text();
    if (text.trimmed().isEmpty()) return refuse(tr("There is no text to paste: copy rows in a spreadsheet first."));
    openSheet(new ImportSheet(
        ImportSheet::PastedText{text}, [this] { return m_session->project(); }, this));
}

void MainWindow::openSheet(ImportSheet* sheet) {
    sheet->setAttribute(Qt::WA_DeleteOnClose);
    connect(sheet, &ImportSheet::editMade, this, [this](const Edit& edit) { // what it brought, and what else it changed
        if (m_session->apply(edit)) say(QString::fromStdString(m_session->history().undoLabel()));
    });
    sheet->open();
}

void MainWindow::drawSection() {
    if (!page()->find<PlanView>()) showStage("sequence");
    if (auto* plan = page()->find<PlanView>()) plan->startDrawing();
}

void MainWindow::tellSaved() {
    if (!m_session->notSavedBecause().isEmpty()) return m_top->setSaved(tr("not saved"));
    if (!m_session->readOnlyBecause().isEmpty()) return m_top->setSaved(tr("read-only"));
    if (!m_session->savedAt().isValid()) return m_top->setSaved({});
    const auto seconds = m_session->savedAt().secsTo(QDateTime::currentDateTime());
    m_top->setSaved(seconds < 60     ? tr("saved %1 s ago").arg(std::max<qint64>(0, seconds))
                    : seconds < 3600 ? tr("saved %1 min ago").arg(seconds / 60)
                                     : tr("saved %1").arg(m_session->savedAt().toString("d MMM hh:mm")));
}

void MainWindow::showWelcome() {
    const auto& p = m_session->project();
    const bool isEmpty = p.holes->empty() && p.ground->empty() && p.contactPoints->empty() && p.files->empty();
    m_welcome->setWanted(isEmpty && !m_session->opening() && !m_session->path().isEmpty());
}

void MainWindow::takeTheme() {
    applyChosenTheme();
    m_shelves->setFixedWidth(int(std::lround(316 * textScale())));
    m_column->setFixedWidth(int(std::lround(92 * textScale())));
    for (auto* shelf : m_stageShelves)
        if (shelf) shelf->refill();
    for (auto* widget : findChildren<QWidget*>()) widget->update();
}

void MainWindow::projectOpened() {
    m_welcome->openAgain();
    m_welcome->setRecent(m_projects->recent());
    m_selection->setShownHoles({});
    m_selection->setCuts({});
    m_selection->setLine({});
    m_selection->setAlong({});
    for (auto* page : m_stagePages)
        if (page) page->recall(m_session->path());
    m_firstProducts = true;
    m_selection->setHole({});
    m_selection->setUnit({});
    m_selection->setSection(0);
    m_selection->setExaggeration(5);
    const auto path = m_session->path();
    QSettings settings;
    settings.setValue("lastProject", path);
    if (settings.value("selectionOf").toString() == path) {
        m_selection->setHole(settings.value("selectedHole").toString());
        m_selection->setSection(settings.value("selectedSection").toInt());
        m_selection->setExaggeration(settings.value("exaggeration", 5).toDouble());
    }
    say({});
}

void MainWindow::askImport() {
    const auto paths = QFileDialog::getOpenFileNames(
        this, tr("Import"), QSettings().value("importFolder", QDir::homePath()).toString(),
        tr("Site data (*.ags *.AGS *.las *.LAS *.csv *.txt *.tsv *.xlsx *.ods *.gpkg *.shp *.geojson *.json "
           "*.dxf *.xml *.obj *.ply *.tif *.tiff *.asc *.xyz *.png *.jpg *.jpeg);;All files (*)"));
    if (paths.isEmpty()) return;
    QSettings().setValue("importFolder", QFileInfo(paths.front()).absolutePath());
    importFiles(paths);
}

void MainWindow::importFiles(const QStringList& paths) {
    QStringList toRead;
    for (const auto& path : paths)
        if (!m_projects->takeProject(path) && !m_sequence->takeIfInterpretation(path)) toRead << path;
    if (toRead.isEmpty()) return;
    openSheet(new ImportSheet(
        toRead, [this] { return m_session->project(); }, this));
}

void MainWindow::askExport() {
    if (!m_session->products()) return;
    const auto ask = [this](const Wanted& wanted, std::function<void(ProductsPtr)> use) {
        m_session->ask(wanted, std::move(use));
    };
    auto* dialog = new ExportDialog(ask, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* e) {
    if (e->mimeData()->hasUrls()) e->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* e) {
    const auto paths = droppedFiles(*e->mimeData());
    e->acceptProposedAction();
    if (paths.size() == 1 && paths.front().endsWith(".gpkg") && ProjectStore::isProject(paths.front().toStdString()))
        m_projects->open(paths.front());
    else if (!paths.isEmpty())
        importFiles(paths);
}

void MainWindow::closeEvent(QCloseEvent* e) {
    while (auto* popup = QApplication::activePopupWidget()) popup->close(); // a list of proposals holds the field back
    if (auto* field = focusWidget()) field->clearFocus();                   // what was typed last is an edit too
    if (!m_projects->mayLeave()) return e->ignore();
    QSettings settings;
    settings.setValue("window", saveGeometry());
    settings.setValue("stage", stages()[m_stage].id);
    settings.setValue("selectionOf", m_session->path());
    settings.setValue("selectedHole", m_selection->hole());
    settings.setValue("selectedSection", m_selection->section());
    settings.setValue("exaggeration", m_selection->exaggeration());
    for (auto* p : m_stagePages)
        if (p) p->remember(m_session->path());
    QMainWindow::closeEvent(e);
}

} // namespace fox::app
