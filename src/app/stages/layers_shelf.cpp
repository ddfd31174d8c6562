#include "stages/layers_shelf.h"

#include "base/errors.h"
#include "layers/proposed_layers.h"
#include "project/layer_edits.h"
#include "stages/angle_histogram.h"
#include "stages/mesh_faces_dialog.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/layer_values.h"
#include "views/source_menu.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <fmt/format.h>

namespace fox::app {

namespace {

/// "1.5 ha", "340 m²"
QString areaInWords(double squareMetres) {
    return squareMetres >= 1000 ? Shelf::tr("%1 ha").arg(squareMetres / 10000, 0, 'f', 1)
                                : Shelf::tr("%1 m²").arg(squareMetres, 0, 'f', 0);
}

} // namespace

LayersShelf::LayersShelf(Selection* s, QWidget* parent) : Shelf(tr("Model"), s, parent) {
    m_write = mainButton(tr("Write files…"), tr("The chosen grid or mesh as files for a flow or finite-element program"));
    connect(m_write, &QPushButton::clicked, this, [this] {
        if (const auto* mesh = chosenMesh())
            emit actionAsked(WriteMesh{mesh->spec.name});
        else if (const auto* grid = chosenGrid())
            emit actionAsked(WriteLayers{grid->spec.name});
    });
    connect(selection(), &Selection::layerLookChanged, this, &LayersShelf::refill);
}

const LayerProduct* LayersShelf::chosenGrid() const {
    return chosenMesh() ? nullptr : shownLayers(products(), selection()->layerLook());
}
const MeshProduct* LayersShelf::chosenMesh() const { return shownMesh(products(), selection()->layerLook()); }

void LayersShelf::choose(const std::string& grid, const std::string& mesh) {
    auto look = selection()->layerLook();
    look.grid = grid, look.mesh = mesh;
    selection()->setLayerLook(look);
}

void LayersShelf::fillBody() {
    modelPartSwitch("layers");
    const auto& p = products()->project;
    const auto* mesh = chosenMesh();
    const auto* grid = chosenGrid();
    m_write->setEnabled((mesh && mesh->mesh) || (grid && grid->grid));
    if (p.sequence->units.empty() || p.holes->empty())
        return words(tr("Layers are made from the model. It needs holes with geology, and ground under them."));
    fillList();
    if (mesh)
        fillMesh(*mesh);
    else if (grid)
        fillGrid(*grid);
}

void LayersShelf::fillList() {
    const auto& p = products()->project;
    heading(tr("Grids and meshes"));
    const auto* grid = chosenGrid();
    const auto* mesh = chosenMesh();
    for (std::size_t i = 0; i < p.layeredGrids->size(); ++i) {
        const auto& spec = (*p.layeredGrids)[i];
        const auto* made = i < products()->layers.size() ? products()->layers[i].get() : nullptr;
        const auto right = made && made->grid ? tr("grid, %1").arg(counted(qint64(made->grid->cells()), "cell")) : tr("grid");
        row(
            qt(spec.name), right, [this, name = spec.name] { choose(name, ""); }, grid && grid->spec.name == spec.name);
    }
    for (std::size_t i = 0; i < p.meshes->size(); ++i) {
        const auto& spec = (*p.meshes)[i];
        const auto* made = i < products()->meshes.size() ? products()->meshes[i].get() : nullptr;
        const auto right = made && made->mesh ? tr("mesh, %1").arg(counted(qint64(made->mesh->elements()), "prism")) : tr("mesh");
        row(
            qt(spec.name), right, [this, name = spec.name] { choose("", name); }, mesh && mesh->spec.name == spec.name);
    }
    offer(tr("Add a layered grid"), [this] { addGrid(); });
    offer(tr("Add a mesh"), [this] { addMeshOfSite(); });
    offer(tr("Add from a file…"), [this] { emit actionAsked(AddLayersFromFile{}); });
    offer(tr("Units for the cells of another grid…"), [this] { emit actionAsked(WhereCells{}); });
}

void LayersShelf::changeGrid(const std::string& grid, const std::function<void(LayerSpec&)>& change, const std::string& what) {
    emit editMade([grid, change, what](const Project& p) { return changeLayeredGrid(p, grid, change, what); });
}

void LayersShelf::changeMesh(const std::string& mesh, const std::function<void(MeshSpec&)>& change, const std::string& what) {
    emit editMade([mesh, change, what](const Project& p) { return fox::changeMesh(p, mesh, change, what); });
}

std::optional<std::pair<std::string, Point2>> LayersShelf::chosenHole() const {
    const auto* hole = findHole(*products()->project.holes, selection()->hole().toStdString());
    if (!hole || !hole->place()) return {};
    return std::pair{hole->name, *hole->place()};
}

void LayersShelf::addGrid() {
    const auto& p = products()->project;
    if (!products()->frame) return;
    // down to a round level below everything that holes found
    double deepest = kNoValue;
    for (const auto& h : *p.holes)
        if (h.level) deepest = std::fmin(deepest, h.level->metres - h.end().metres);
    const double floor = std::isnan(deepest) ? -20 : std::floor((deepest - 5) / 5) * 5;
    auto spec = proposedLayers(*p.sequence, *products()->frame, floor);
    std::string name = spec.name; // as the edit will call it
    for (int n = 2; std::ranges::count(*p.layeredGrids, name, &LayerSpec::name) > 0; ++n)
        name = fmt::format("{} {}", spec.name, n);
    emit editMade([spec](const Project& project) { return addLayeredGrid(project, spec); });
    choose(name, "");
}

/// The site limit, or the extent, if there is ground all over it; else a smaller rectangle of which that is true.
Polygon2 LayersShelf::proposedOutline() const {
    const auto hasGround = [&](const Polygon2& ring) {
        Box2 box;
        for (const auto p : ring) box.include(p);
        constexpr int kSamples = 60; // each way
        for (int i = 0; i <= kSamples; ++i)
            for (int j = 0; j <= kSamples; ++j) {
                const Point2 p{box.xmin + box.width() * i / kSamples, box.ymin + box.height() * j / kSamples};
                if (contains(ring, p) && !products()->terrain->levelAt(p)) return false;
            }
        return std::ranges::all_of(ring, [&](Point2 p) { return products()->terrain->levelAt(p).has_value(); });
    };
    const auto& limit = products()->project.site->limit;
    if (!limit.empty() && hasGround(limit)) return limit;
    const auto box = products()->frame->box();
    Polygon2 ring;
    for (const double share : {0.0, 0.03, 0.06, 0.1, 0.15, 0.2, 0.25, 0.3}) {
        const double in = share * std::min(box.width(), box.height());
        ring = {{box.xmin + in, box.ymin + in},
                {box.xmax - in, box.ymin + in},
                {box.xmax - in, box.ymax - in},
                {box.xmin + in, box.ymax - in}};
        if (hasGround(ring)) break;
    }
    return ring;
}

void LayersShelf::addMeshOfSite() {
    const auto& p = products()->project;
    if (!products()->frame) return;
    MeshSpec spec;
    spec.name = "Mesh";
    const auto box = products()->frame->box();
    spec.outline.ring = proposedOutline();
    constexpr double kAcross = 30; // edges over the shorter side
    spec.edge = std::max(1.0, std::round(std::min(box.width(), box.height()) / kAcross));
    const auto proposed = proposedLayers(*p.sequence, *products()->frame, -20);
    const auto* grid = shownLayers(products(), selection()->layerLook());
    spec.layers = grid ? grid->spec.layers : proposed.layers;
    spec.values = proposed.values;
    std::string name = spec.name;
    for (int n = 2; std::ranges::count(*p.meshes, name, &MeshSpec::name) > 0; ++n) name = fmt::format("{} {}", spec.name, n);
    emit editMade([spec](const Project& project) { return addMesh(project, spec); });
    choose("", name);
}

void LayersShelf::fillGrid(const LayerProduct& made) {
    const auto& spec = made.spec;
    const auto name = spec.name;
    heading(tr("Grid"));
    auto* title = new QLineEdit(qt(name));
    title->setObjectName("gridName");
    title->setAccessibleName(tr("Name of the grid"));
    connect(title, &QLineEdit::editingFinished, this, [this, title, name] {
        const auto typed = title->text().trimmed().toStdString();
        if (typed == name) return;
        emit editMade([name, typed](const Project& p) { return renameLayeredGrid(p, name, typed); });
        choose(typed, "");
    });
    wide(title);
    if (!made.problem.empty()) words(qt(made.problem), colour::red);
    for (const auto& f : made.findings) finding(f);
    const double width = spec.grid.width(0);
    const auto another = [this, name](const std::function<PlanGrid(const PlanGrid&)>& change) {
        changeGrid(
            name, [change](LayerSpec& s) { s.grid = change(s.grid); }, "another plan grid");
    };
    const auto corner = spec.grid.corner();
    numberRow(tr("Corner, east, m"), "gridEast", corner.x, -1e8, 1e8, 2, {},
              [another](double v) { another([v](const PlanGrid& g) { return movedBy(g, v - g.corner().x, 0); }); });
    numberRow(tr("Corner, north, m"), "gridNorth", corner.y, -1e8, 1e8, 2, {},
              [another](double v) { another([v](const PlanGrid& g) { return movedBy(g, 0, v - g.corner().y); }); });
    numberRow(tr("Columns"), "gridColumns", spec.grid.columns(), 1, 1e5, 0, {},
              [another](double v) { another([v](const PlanGrid& g) { return withCount(g, int(v), g.rows()); }); });
    numberRow(tr("Rows"), "gridRows", spec.grid.rows(), 1, 1e5, 0, {},
              [another](double v) { another([v](const PlanGrid& g) { return withCount(g, g.columns(), int(v)); }); });
    numberRow(tr("Width of cells"), "gridCell", width, 0.01, 100000, 2, tr(" m"),
              [another](double v) { another([v](const PlanGrid& g) { return withCells(g, v); }); });
    numberRow(tr("Turned clockwise from east"), "gridTurn", spec.grid.turn(), -180, 180, 1, tr("°"),
              [another](double v) { another([v](const PlanGrid& g) { return turnedTo(g, v); }); });
    words(tr("On the plan its corners, its middle and the handle beside it are dragged."));
    offer(tr("Over the whole extent"), [this, name, width] {
        const auto box = products()->frame->box();
        changeGrid(
            name, [box, width](LayerSpec& s) { s.grid = gridOver(box, width, s.grid.turn()); }, "over the whole extent");
    });
    if (!products()->project.site->limit.empty())
        offer(spec.areaRing.empty() ? tr("Only inside the site limit") : tr("Everywhere, not only inside the limit"),
              [this, name] {
                  const auto limit = products()->project.site->limit;
                  changeGrid(
                      name, [limit](LayerSpec& s) { s.areaRing = s.areaRing.empty() ? limit : Polygon2{}; }, "its area");
              });
    fillFiner(spec);
    fillThin(spec);
    if (made.grid) fillChecks(*made.grid);
    fillSources<LayerSpec>(spec, [this, name](const std::function<void(LayerSpec&)>& change) {
        changeGrid(name, change, "where levels and values come from");
    });
    fillTyped(spec);
    offer(tr("Remove %1").arg(qt(name)), [this, name] {
        choose("", "");
        emit editMade([name](const Project& p) { return removeLayeredGrid(p, name); });
    });
}

void LayersShelf::fillFiner(const LayerSpec& spec) {
    heading(tr("Finer cells"));
    for (std::size_t i = 0; i < spec.finer.size(); ++i) {
        const auto& part = spec.finer[i];
        row(part.line.size() == 1 ? tr("at %1  %2").arg(coordinate(part.line[0].x), coordinate(part.line[0].y))
                                  : tr("along a line"),
            tr("%1 m, growing by %2").arg(part.width).arg(part.growth));
        offer(tr("Remove"), [this, name = spec.name, part] {
            changeGrid(
                name, [part](LayerSpec& s) { std::erase(s.finer, part); }, "finer cells");
        });
    }
    const double width = spec.grid.width(0) / 4;
    const auto add = [this, name = spec.name, width](Polyline2 line) {
        changeGrid(
            name,
            [line, width](LayerSpec& s) {
                s.finer.push_back({line, width, 1.3});
            },
            "finer cells");
    };
    if (const auto hole = chosenHole())
        offer(tr("Around %1, %2 m").arg(qt(hole->first)).arg(width), [add, at = hole->second] { add({at}); });
    if (const auto* section = selection()->sectionOf(products()->project))
        offer(tr("Along section %1, %2 m").arg(qt(section->name)).arg(width), [add, line = section->line] { add(line); });
    for (const auto& f : products()->project.interpretation->faults)
        offer(tr("Along the fault %1, %2 m").arg(qt(f.fault.name)).arg(width), [add, line = f.fault.line] { add(line); });
}

void LayersShelf::fillThin(const LayerSpec& spec) {
    heading(tr("Cells that are too thin"));
    numberRow(tr("Thinner than"), "thinMetres", spec.thin.metres, 0, 1000, 2, tr(" m"), [this, name = spec.name](double v) {
        changeGrid(
            name, [v](LayerSpec& s) { s.thin.metres = v; }, "thin cells");
    });
    auto* then = narrowBox();
    then->setObjectName("thinThen");
    then->setAccessibleName(tr("What becomes of cells that are too thin"));
    const auto* made = chosenGrid();
    const auto answers = answersTo(CellMark::Thin);
    for (const auto answer : answers) {
        const double moved = made && made->grid ? volumeMoved(*made->grid, CellMark::Thin, answer) : 0;
        then->addItem(moved > 0 ? tr("%1, moves %2").arg(qt(fox::words(answer)), volume(moved)) : qt(fox::words(answer)));
    }
    then->setCurrentIndex(int(std::ranges::find(answers, spec.thin.then) - answers.begin()));
    connect(then, &QComboBox::activated, this, [this, name = spec.name](int i) {
        changeGrid(
            name, [i](LayerSpec& s) { s.thin.then = answersTo(CellMark::Thin)[std::size_t(i)]; }, "thin cells");
    });
    wide(then);
}

void LayersShelf::fillChecks(const LayeredGrid& grid) {
    heading(tr("Checks"));
    row(tr("Active cells"), tr("%1 of %2").arg(grid.active()).arg(grid.cells()));
    bool clean = true;
    for (const auto mark : cellMarks()) {
        const auto found = grid.count(mark);
        if (found.cells == 0) continue;
        clean = false;
        row(qt(fox::words(mark)), tr("%1 · %2").arg(counted(qint64(found.cells), "cell"), areaInWords(found.area)),
            [this, mark, &grid] {
                auto look = selection()->layerLook();
                look.value = "checks";
                // the layer with the most of them
                std::size_t most = 0;
                for (std::size_t k = 0; k < grid.layers.size(); ++k) {
                    std::size_t here = 0;
                    for (std::size_t c = 0; c < grid.plan.cells(); ++c) here += grid.has(grid.index(k, c), mark);
                    if (here > most) most = here, look.layer = k;
                }
                selection()->setLayerLook(look);
            });
    }
    if (const auto* made = chosenGrid()) fillAnswers(*made);
    if (!grid.groups.empty()) offer(tr("Answer group by group…"), [this] { emit actionAsked(ShowCellGroups{}); });
    if (clean) words(tr("No layers cross, none is too thin, and no value is missing."));
}

/// What becomes of the cells that the checks found, with how much that moves.
void LayersShelf::fillAnswers(const LayerProduct& made) {
    const auto& spec = made.spec;
    const auto add = [&](const QString& text, const char* objectName, const QStringList& choices, bool now, auto&& change) {
        auto* box = narrowBox();
        box->setObjectName(objectName);
        box->addItems(choices);
        box->setCurrentIndex(now ? 1 : 0);
        box->setAccessibleName(text);
        connect(box, &QComboBox::activated, this, [this, name = spec.name, change](int i) {
            changeGrid(
                name, [change, i](LayerSpec& s) { change(s.answers, i == 1); }, "answer to a check");
        });
        words(text);
        wide(box);
    };
    const auto missing = made.grid->count(CellMark::Missing), alone = made.grid->count(CellMark::Alone);
    if (missing.cells > 0 || spec.answers.fillMissing)
        add(tr("Missing among neighbours"), "answerMissing",
            {tr("leave"), tr("make %1 m thick, moves %2").arg(spec.thin.metres).arg(volume(missing.area * spec.thin.metres))},
            spec.answers.fillMissing, [](CellAnswers& a, bool on) { a.fillMissing = on; });
    if (alone.cells > 0 || spec.answers.dropAlone)
        add(tr("Active alone"), "answerAlone", {tr("leave"), tr("make inactive")}, spec.answers.dropAlone,
            [](CellAnswers& a, bool on) { a.dropAlone = on; });
}

/// A row a target: the level of a surface, or a value of the cells; a click offers what it can come from.
template <typename Spec>
void LayersShelf::fillSources(const Spec& spec, const std::function<void(const std::function<void(Spec&)>&)>& change) {
    heading(tr("Levels and values, and what they come from"));
    const auto choose = [this](SourceAsked asked, const std::function<void(std::optional<FieldSource>)>& take) {
        if (const auto* section = selection()->sectionOf(products()->project))
            asked.line = std::pair(tr("section %1").arg(qt(section->name)), section->line);
        chooseSource(this, *products(), asked, take, [this](const QString& sentence) { emit failed(sentence); });
    };
    row(tr("Top of the first layer"), sourceInWords(spec.top), [choose, change] {
        choose({"", false}, [change](std::optional<FieldSource> source) { change([source](Spec& s) { s.top = *source; }); });
    });
    for (std::size_t r = 0; r < spec.layers.size(); ++r) {
        const auto& layer = spec.layers[r];
        const auto usual = layer.units.empty() ? tr("from its rule") : tr("base of %1").arg(qt(layer.units.back()));
        row(tr("Bottom of %1").arg(qt(layer.name)), layer.bottom ? sourceInWords(*layer.bottom) : usual, [choose, change, r] {
            choose({}, [change, r](std::optional<FieldSource> source) {
                change([source, r](Spec& s) {
                    if (r < s.layers.size()) s.layers[r].bottom = source;
                });
            });
        });
    }
    for (const auto& kind : cellValueKinds()) {
        const auto at = spec.values.find(kind.key);
        const bool isNumber = at != spec.values.end() && at->second.from == FieldSource::From::Number;
        row(qt(kind.words),
            at == spec.values.end() ? tr("none") : sourceInWords(at->second) + (isNumber ? " " + qt(kind.unit) : QString()),
            [choose, change, key = std::string(kind.key)] {
                choose({key}, [change, key](std::optional<FieldSource> source) {
                    change([source, key](Spec& s) {
                        s.values.erase(key);
                        if (source) s.values[key] = *source;
                    });
                });
            });
    }
}

/// Values that somebody gave some cells.
void LayersShelf::fillTyped(const LayerSpec& spec) {
    for (std::size_t i = 0; i < spec.typed.size(); ++i) {
        const auto& t = spec.typed[i];
        const auto kind = std::ranges::find(cellValueKinds(), std::string_view(t.key), &CellValueKind::key);
        row(tr("%1, typed").arg(kind == cellValueKinds().end() ? qt(t.key) : qt(kind->words)),
            t.first == t.last ? tr("%1 in layer %2").arg(t.number).arg(t.first + 1)
                              : tr("%1 in layers %2 to %3").arg(t.number).arg(t.first + 1).arg(t.last + 1));
        offer(tr("Remove"), [this, name = spec.name, t] {
            changeGrid(
                name, [t](LayerSpec& s) { std::erase(s.typed, t); }, "remove a typed value");
        });
    }
    offer(tr("Type a value on cells…"), [this] { emit actionAsked(DrawOnPlan{DrawOnPlan::What::Cells}); });
}

void LayersShelf::fillMesh(const MeshProduct& made) {
    const auto& spec = made.spec;
    const auto name = spec.name;
    heading(tr("Mesh"));
    if (!made.problem.empty()) words(qt(made.problem), colour::red);
    for (const auto& f : made.findings) finding(f);
    if (made.mesh) {
        auto angles = made.mesh->plan.smallestAngles();
        row(tr("Nodes, triangles"), tr("%1, %2").arg(made.mesh->nodes()).arg(made.mesh->plan.triangles.size()));
        row(tr("Layers, prisms"), tr("%1, %2").arg(made.mesh->layers.size()).arg(made.mesh->elements()));
        row(tr("Smallest angle"), tr("%1°").arg(std::ranges::min(angles), 0, 'f', 1));
        wide(new AngleHistogram(angles, this));
    }
    numberRow(spec.elements ? tr("Edges, where nothing is said") : tr("Edges at most"), "meshEdge",
              spec.elements ? (made.mesh ? made.mesh->plan.edge : 0) : spec.edge, 0.01, 1e6, 2, tr(" m"), [this, name](double v) {
                  changeMesh(
                      name, [v](MeshSpec& s) { s.edge = v, s.elements.reset(); }, "length of edges");
              });
    numberRow(tr("About how many prisms"), "meshElements", double(spec.elements.value_or(made.mesh ? made.mesh->elements() : 0)),
              0, 5e7, 0, {}, [this, name](double v) {
                  if (v < 1) return;
                  changeMesh(
                      name, [v](MeshSpec& s) { s.elements = std::size_t(v), s.edge = 0; }, "number of elements");
              });
    numberRow(tr("No angle under"), "meshAngle", spec.angle, 0, kLargestMeshAngle, 1, tr("°"), [this, name](double v) {
        changeMesh(
            name, [v](MeshSpec& s) { s.angle = v; }, "smallest angle");
    });
    numberRow(tr("Layers keep apart"), "meshThin", spec.thin, 0.001, 1000, 3, tr(" m"), [this, name](double v) {
        changeMesh(
            name, [v](MeshSpec& s) { s.thin = v; }, "least thickness");
    });
    fillMeshInput(spec);
    fillFaces(spec, made.mesh ? int(made.mesh->layers.size()) : int(spec.layers.size()));
    fillSources<MeshSpec>(spec, [this, name](const std::function<void(MeshSpec&)>& change) {
        changeMesh(name, change, "where levels and values come from");
    });
    offer(tr("Remove %1").arg(qt(name)), [this, name] {
        choose("", "");
        emit editMade([name](const Project& p) { return removeMesh(p, name); });
    });
}

void LayersShelf::fillMeshInput(const MeshSpec& spec) {
    const auto name = spec.name;
    heading(tr("Lines and places in the mesh"));
    for (const auto& l : spec.lines) {
        row(qt(l.name), l.edge ? tr("line, %1 m").arg(*l.edge) : tr("line"));
        offer(tr("Remove %1").arg(qt(l.name)), [this, name, l] {
            changeMesh(
                name,
                [l](MeshSpec& s) {
                    std::erase(s.lines, l);
                    std::erase_if(s.faces, [&](const MeshFaces& f) { return f.line == l.name; });
                },
                "remove line " + l.name);
        });
    }
    for (const auto& at : spec.places) {
        row(qt(at.name), at.edge > 0 ? tr("place, %1 m").arg(at.edge) : tr("place"));
        offer(tr("Remove %1").arg(qt(at.name)), [this, name, at] {
            changeMesh(
                name, [at](MeshSpec& s) { std::erase(s.places, at); }, "remove place " + at.name);
        });
    }
    const double fine = std::max(0.1, (spec.edge > 0 ? spec.edge : 20) / 5);
    const auto addLine = [this, name, fine](const std::string& line, const Polyline2& corners) {
        changeMesh(
            name,
            [=](MeshSpec& s) {
                s.lines.push_back({line, "", corners, fine});
            },
            "follow " + line);
    };
    const auto has = [&](const std::string& line) { return std::ranges::count(spec.lines, line, &MeshLine::name) > 0; };
    for (const auto& f : products()->project.interpretation->faults)
        if (!has(f.fault.name))
            offer(tr("Follow the fault %1").arg(qt(f.fault.name)), [=, line = f.fault] { addLine(line.name, line.line); });
    if (const auto* section = selection()->sectionOf(products()->project); section && !has("section " + section->name))
        offer(tr("Follow section %1").arg(qt(section->name)),
              [=, line = *section] { addLine("section " + line.name, line.line); });
    if (const auto hole = chosenHole(); hole && std::ranges::count(spec.places, hole->first, &MeshPlace::name) == 0)
        offer(tr("A node at %1, edges of %2 m").arg(qt(hole->first)).arg(fine), [=, this, hole = *hole] {
            changeMesh(
                name,
                [=](MeshSpec& s) {
                    s.places.push_back({hole.first, hole.second, fine});
                },
                "node at " + hole.first);
        });
}

/// Upright faces along the lines of a mesh: walls, faults.
void LayersShelf::fillFaces(const MeshSpec& spec, int layers) {
    if (spec.lines.empty()) return;
    heading(tr("Upright faces"));
    const auto ask = [this, name = spec.name, layers](const MeshFaces& faces, std::optional<std::size_t> at) {
        MeshFacesDialog dialog(faces, layers, this);
        if (dialog.exec() != QDialog::Accepted) return;
        changeMesh(
            name,
            [at, wanted = dialog.faces()](MeshSpec& s) {
                if (at && *at < s.faces.size())
                    s.faces[*at] = wanted;
                else
                    s.faces.push_back(wanted);
            },
            "faces " + dialog.faces().name);
    };
    for (std::size_t i = 0; i < spec.faces.size(); ++i) {
        const auto& f = spec.faces[i];
        row(qt(f.name), tr("layers %1 to %2, %3").arg(f.first).arg(f.last).arg(f.along ? tr("flow along") : tr("flow across")),
            [ask, f, i] { ask(f, i); });
        offer(tr("Remove the faces %1").arg(qt(f.name)), [this, name = spec.name, f] {
            changeMesh(
                name, [f](MeshSpec& s) { std::erase(s.faces, f); }, "remove faces " + f.name);
        });
    }
    for (const auto& l : spec.lines)
        if (std::ranges::count(spec.faces, l.name, &MeshFaces::line) == 0)
            offer(tr("Faces along %1…").arg(qt(l.name)), [ask, l, layers] {
                ask({l.name, l.name, 1, layers, 0, {}, {}, false}, {});
            });
}

/// The layer that is looked at: what of it the plan shows, and its values.
void LayersShelf::fillCard() {
    const auto* made = chosenGrid();
    if (!made || !made->grid) return;
    const auto& g = *made->grid;
    const auto& look = selection()->layerLook();
    const auto layer = std::min(look.layer, g.layers.size() - 1);
    cardTitle(tr("Layer %1").arg(layer + 1), qt(g.layers[layer]));
    auto* value = new QComboBox;
    value->setObjectName("layerValue");
    const auto kinds = layerValueKinds(g);
    for (std::size_t i = 0; i < kinds.size(); ++i) {
        value->addItem(kinds[i].words);
        if (kinds[i].key == look.value) value->setCurrentIndex(int(i));
    }
    connect(value, &QComboBox::activated, this, [this, kinds](int i) {
        auto changed = selection()->layerLook();
        changed.value = kinds[std::size_t(i)].key;
        selection()->setLayerLook(changed);
    });
    cardWidget(tr("The plan shows"), value);
    cardFact(tr("Volume"), volume(g.volume(layer)));
    std::size_t active = 0;
    for (std::size_t c = 0; c < g.plan.cells(); ++c) active += g.state[g.index(layer, c)] == CellState::Active;
    cardFact(tr("Active"), counted(qint64(active), "cell"));
}

} // namespace fox::app
