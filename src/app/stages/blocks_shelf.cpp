#include "stages/blocks_shelf.h"

#include "blocks/block_simulation.h"
#include "project/block_edits.h"
#include "project/named_surface_edits.h"
#include "sequence/test_values.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/scene_blocks.h"

#include <QComboBox>
#include <QFileDialog>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSettings>
#include <QSlider>
#include <fmt/format.h>

namespace fox::app {

namespace {

constexpr int kSteps = 1000; // of the slider

QString tonnes(const std::optional<double>& mass) {
    return mass ? BlocksShelf::tr("%1 t").arg(*mass, 0, 'f', 0) : BlocksShelf::tr("not known");
}

/// The name that an edit will give.
template <typename Spec>
std::string freeName(const std::vector<Spec>& all, const std::string& wanted) {
    auto name = wanted;
    for (int n = 2; std::ranges::count(all, name, &Spec::name) > 0; ++n) name = fmt::format("{} {}", wanted, n);
    return name;
}

QString wantedInWords(const ExcavationSpec& spec) {
    using Wanted = ExcavationSpec::Wanted;
    switch (spec.wanted) {
    case Wanted::Units: return BlocksShelf::tr("all of %1").arg(qt(fmt::format("{}", fmt::join(spec.units, ", "))));
    case Wanted::Blocks:
        return (spec.above ? BlocksShelf::tr("blocks of %1 above %2") : BlocksShelf::tr("blocks of %1 below %2"))
            .arg(qt(spec.blocks))
            .arg(spec.limit);
    case Wanted::Surface: return BlocksShelf::tr("down to %1").arg(qt(std::filesystem::path(spec.surface).filename().string()));
    case Wanted::Floor: break;
    }
    return BlocksShelf::tr("a floor at %1 m").arg(spec.level, 0, 'f', 2);
}

/// Round lengths that give some thousands of blocks.
void setUsualBlocks(BlockSpec& spec, const Frame& frame, double lowest, double highest) {
    const auto round = [](double v) {
        const double ten = std::pow(10, std::floor(std::log10(std::max(v, 1e-3))));
        return v < 2 * ten ? ten : v < 5 * ten ? 2 * ten : 5 * ten;
    };
    constexpr double kAcross = 60, kHigh = 30;
    spec.dx = spec.dy = round(std::max(frame.xmax - frame.xmin, frame.ymax - frame.ymin) / kAcross);
    spec.fromLevel = std::floor(lowest), spec.toLevel = std::ceil(highest);
    spec.dz = round((spec.toLevel - spec.fromLevel) / kHigh);
    spec.vertical = std::max(1.0, std::round(spec.dx / spec.dz));
}

} // namespace

BlocksShelf::BlocksShelf(Selection* s, QWidget* parent) : Shelf(tr("Model"), s, parent), m_simulating(this) {
    auto* write = mainButton(tr("Write files…"), tr("The chosen block model, or the chosen excavation, as files"));
    connect(write, &QPushButton::clicked, this, [this, write] {
        QMenu menu;
        menu.setObjectName("writeBlocksMenu");
        if (const auto* b = chosenBlocks(); b && b->blocks)
            menu.addAction(tr("Blocks of %1…").arg(qt(b->spec.name)), this,
                           [this, name = b->spec.name] { emit actionAsked(WriteBlocks{name}); });
        if (const auto* e = chosenDig(); e && e->dig)
            menu.addAction(tr("Excavation %1…").arg(qt(e->spec.name)), this,
                           [this, name = e->spec.name] { emit actionAsked(WriteExcavation{name}); });
        if (menu.isEmpty()) menu.addAction(tr("There is nothing to write yet"))->setEnabled(false);
        menu.exec(write->mapToGlobal(QPoint(0, write->height())));
    });
    connect(selection(), &Selection::blockLookChanged, this, &BlocksShelf::refill);
}

const BlockProduct* BlocksShelf::chosenBlocks() const { return shownBlocks(products(), selection()->blockLook()); }
const ExcavationProduct* BlocksShelf::chosenDig() const { return shownExcavation(products(), selection()->blockLook()); }

void BlocksShelf::changeLook(const std::function<void(BlockLook&)>& change) {
    auto look = selection()->blockLook();
    change(look);
    selection()->setBlockLook(look);
}

void BlocksShelf::changeBlocks(const std::string& model, const std::function<void(BlockSpec&)>& change, const std::string& what) {
    emit editMade([=](const Project& p) { return changeBlockModel(p, model, change, what); });
}

void BlocksShelf::changeDig(const std::string& dig, const std::function<void(ExcavationSpec&)>& change, const std::string& what) {
    emit editMade([=](const Project& p) { return changeExcavation(p, dig, change, what); });
}

void BlocksShelf::fillBody() {
    modelPartSwitch("blocks");
    const auto& p = products()->project;
    if (p.sequence->units.empty() || p.holes->empty())
        return words(tr("Blocks lie in the model. It needs holes with geology, and ground under them."));
    fillModels();
    if (const auto* made = chosenBlocks()) {
        fillModel(*made);
        if (made->blocks) fillCutOff(*made);
    }
    fillDigs();
    if (const auto* made = chosenDig()) fillDig(*made);
}

// --- block models

void BlocksShelf::fillModels() {
    heading(tr("Block models"));
    const auto& specs = *products()->project.blockModels;
    const auto* chosen = chosenBlocks();
    for (std::size_t i = 0; i < specs.size(); ++i) {
        const auto* made = i < products()->blocks.size() ? products()->blocks[i].get() : nullptr;
        const auto right = !made          ? tr("being made")
                           : made->blocks ? counted(qint64(made->blocks->known()), "block")
                                          : tr("can't be made");
        row(
            qt(specs[i].name), right,
            [this, name = specs[i].name] { changeLook([name](BlockLook& l) { l.model = name, l.limit.reset(); }); },
            chosen && chosen->spec.name == specs[i].name);
    }
    if (specs.empty())
        words(tr("A block model gives every place in the ground a value, from readings in the holes or at points."));
    offer(tr("Add a block model…"), [this] { chooseQuantity(); });
    offer(tr("Add from a file…"), [this] { emit actionAsked(AddBlocksFromFile{}); });
}

void BlocksShelf::chooseQuantity() {
    auto* menu = new QMenu(this);
    menu->setObjectName("blockQuantityMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto& holes = *products()->project.holes;
    bool some = false;
    for (const auto& q : testQuantities(holes)) {
        const bool isSpt = q.name == "SPT N";
        const bool isCurve = std::ranges::any_of(holes, [&](const Hole& h) {
            return std::ranges::any_of(h.curves, [&](const Curve& c) { return c.name == q.name && c.unit == q.unit; });
        });
        if (!isSpt && !isCurve) continue;
        some = true;
        menu->addAction(tr("%1 (%2)").arg(q.unit.empty() ? qt(q.name) : tr("%1 in %2").arg(qt(q.name), qt(q.unit)),
                                          counted(qint64(q.values), "reading")),
                        this, [this, isSpt, name = q.name] {
                            addModel(isSpt ? BlockSpec::Of::Test : BlockSpec::Of::Curve, isSpt ? "SPT" : name, "");
                        });
    }
    if (!some) menu->addAction(tr("The holes have no readings"))->setEnabled(false);
    menu->addSeparator();
    menu->addAction(tr("Values at points, from a table…"), this, [this] {
        const auto path = QFileDialog::getOpenFileName(this, tr("Values at points"),
                                                       QSettings().value("folderOf/blocks", QDir::homePath()).toString(),
                                                       tr("Tables (*.csv *.txt)"));
        if (path.isEmpty()) return;
        bool ok = false;
        const auto column = QInputDialog::getText(this, tr("Values at points"), tr("The column with the values"),
                                                  QLineEdit::Normal, "value", &ok);
        if (ok) addModel(BlockSpec::Of::Points, column.trimmed().toStdString(), path.toStdString());
    });
    menu->popup(QCursor::pos());
}

void BlocksShelf::addModel(BlockSpec::Of of, const std::string& quantity, const std::string& file) {
    if (!products()->frame) return;
    BlockSpec spec;
    spec.of = of, spec.quantity = quantity, spec.file = file;
    spec.name = freeName(*products()->project.blockModels, quantity.empty() ? "Blocks" : quantity);
    double lowest = kNoValue, highest = kNoValue;
    for (const auto& h : *products()->project.holes)
        if (h.level) {
            lowest = std::fmin(lowest, h.level->metres - h.end().metres);
            highest = std::fmax(highest, h.level->metres);
        }
    if (std::isnan(lowest)) lowest = -20, highest = 0;
    setUsualBlocks(spec, *products()->frame, lowest, highest);
    emit editMade([spec](const Project& p) { return addBlockModel(p, spec); });
    changeLook([&](BlockLook& l) { l.model = spec.name, l.limit.reset(); });
}

void BlocksShelf::fillModel(const BlockProduct& made) {
    const auto& s = made.spec;
    const auto name = s.name;
    heading(qt(name));
    if (!made.problem.empty()) words(qt(made.problem), colour::red);
    if (made.blocks)
        for (const auto& f : made.blocks->findings) finding(f);
    if (made.blocks) {
        row(tr("Made from"), counted(qint64(made.blocks->composites), "value"));
        if (!std::isnan(made.judged.rmse))
            row(tr("Leave-one-out error"), tr("%1 (bias %2)").arg(made.judged.rmse, 0, 'g', 3).arg(made.judged.bias, 0, 'g', 2));
    }
    const auto change = [this, name](auto&& set, const char* what) { changeBlocks(name, set, what); };
    numberRow(tr("Width of blocks"), "blockWidth", s.dx, 0.01, 1e5, 2, tr(" m"),
              [change](double v) { change([v](BlockSpec& b) { b.dx = b.dy = v; }, "size of blocks"); });
    numberRow(tr("Height of blocks"), "blockHeight", s.dz, 0.01, 1e4, 2, tr(" m"),
              [change](double v) { change([v](BlockSpec& b) { b.dz = v; }, "size of blocks"); });
    numberRow(tr("From level"), "blockFrom", s.fromLevel, -1e4, s.toLevel - 0.01, 2, tr(" m"),
              [change](double v) { change([v](BlockSpec& b) { b.fromLevel = v; }, "levels"); });
    numberRow(tr("To level"), "blockTo", s.toLevel, s.fromLevel + 0.01, 1e4, 2, tr(" m"),
              [change](double v) { change([v](BlockSpec& b) { b.toLevel = v; }, "levels"); });
    numberRow(tr("Readings averaged over"), "blockComposite", s.composite, 0, 1000, 2, tr(" m"),
              [change](double v) { change([v](BlockSpec& b) { b.composite = v; }, "averaging"); });
    using Method = BlockSpec::Method;
    choiceRow(tr("Method"), "blockMethod", {tr("inverse distance"), tr("kriging"), tr("the nearest value")}, int(s.method),
              [change](int i) { change([i](BlockSpec& b) { b.method = Method(i); }, "method"); });
    choiceRow(tr("Units"), "blockWithin", {tr("across units"), tr("each unit by itself")}, s.within ? 1 : 0,
              [change](int i) { change([i](BlockSpec& b) { b.within = i == 1; }, "units"); });
    numberRow(tr("Nearest values that count"), "blockNeighbours", s.neighbours, 0, 1000, 0, {},
              [change](double v) { change([v](BlockSpec& b) { b.neighbours = int(v); }, "neighbours"); });
    numberRow(tr("No farther than (0: any)"), "blockRadius", s.radius, 0, 1e6, 1, tr(" m"),
              [change](double v) { change([v](BlockSpec& b) { b.radius = v; }, "reach"); });
    numberRow(tr("Metres of level count"), "blockVertical", s.vertical, 0.01, 1e4, 2, tr(" times"),
              [change](double v) { change([v](BlockSpec& b) { b.vertical = v; }, "vertical anisotropy"); });
    if (made.blocks && made.blocks->variogram) {
        const auto& v = *made.blocks->variogram;
        row(tr("Variogram"), tr("%1, range %2 m").arg(qt(fox::name(v.model))).arg(v.range, 0, 'f', 0));
    }
    offer(tr("Remove %1").arg(qt(name)), [this, name] {
        changeLook([](BlockLook& l) { l.model.clear(), l.limit.reset(); });
        emit editMade([name](const Project& p) { return removeBlockModel(p, name); });
    });
}

void BlocksShelf::fillCutOff(const BlockProduct& made) {
    heading(tr("Cut-off"));
    const auto& look = selection()->blockLook();
    const auto range = blockColours(*made.blocks);
    if (!(range.high > range.low)) return words(tr("All blocks have one value."));
    choiceRow(tr("Shown are blocks"), "cutOffSide", {tr("above"), tr("below")}, look.above ? 0 : 1,
              [this](int i) { changeLook([i](BlockLook& l) { l.above = i == 0; }); });
    const double limit = look.limit.value_or(look.above ? range.low : range.high);
    auto* slider = new QSlider(Qt::Horizontal);
    slider->setObjectName("cutOff");
    slider->setAccessibleName(tr("Cut-off"));
    slider->setRange(0, kSteps);
    slider->setValue(int(std::lround((limit - range.low) / (range.high - range.low) * kSteps)));
    connect(slider, &QSlider::valueChanged, this, [this, range](int v) {
        changeLook([&](BlockLook& l) { l.limit = range.low + (range.high - range.low) * v / kSteps; });
    });
    wide(slider);
    numberRow(tr("Cut-off"), "cutOffValue", limit, range.low - 1e6, range.high + 1e6, 3, {},
              [this](double v) { changeLook([v](BlockLook& l) { l.limit = v; }); });
    const auto chosen =
        selected(*made.blocks, *products()->project.sequence, look.limit.value_or(-1e300), look.limit ? look.above : true);
    row(tr("Blocks"), QString::number(chosen.blocks));
    row(tr("Volume"), volume(chosen.volume));
    row(tr("Mass"), tonnes(chosen.mass));
    if (!chosen.mass) words(tr("For a mass each of their units needs a unit weight, on the Sequence stage."));
    fillProbabilities(made);
    using Colour = BlockLook::Colour;
    std::vector<std::pair<Colour, QString>> colours{{Colour::Value, tr("value")}, {Colour::Unit, tr("unit")}};
    if (!made.blocks->variance.empty()) colours.emplace_back(Colour::Variance, tr("variance"));
    if (simulationOf(*made.blocks, look) && look.limit) colours.emplace_back(Colour::Probability, tr("probability"));
    QStringList choices;
    int now = 0;
    for (const auto& [colour, text] : colours) {
        if (colour == look.colour) now = int(choices.size());
        choices << text;
    }
    choiceRow(tr("Coloured by"), "blockColour", choices, now,
              [this, colours](int i) { changeLook([&](BlockLook& l) { l.colour = colours[std::size_t(i)].first; }); });
    if (look.limit) offer(tr("Show all blocks"), [this] { changeLook([](BlockLook& l) { l.limit.reset(); }); });
}

/// The probability that blocks lie beyond the cut-off.
void BlocksShelf::fillProbabilities(const BlockProduct& made) {
    const auto& look = selection()->blockLook();
    if (m_simulating.busy()) return words(tr("Probabilities are being worked out…"));
    if (const auto* simulated = simulationOf(*made.blocks, look)) {
        if (!look.limit) return words(tr("Set a cut-off to see the probability that blocks lie beyond it."));
        const auto range = simulated->volume(*look.limit, look.above);
        row(tr("Volume, P10 to P90"), tr("%1 to %2").arg(volume(range.p10), volume(range.p90)));
        row(tr("Volume, P50"), volume(range.p50));
        return;
    }
    static constexpr int kRealisations = 50;
    offer(tr("Work out probabilities"), [this, blocks = made.blocks, composites = made.composites] {
        m_simulating.start(
            [blocks, composites](const Progress& progress) {
                return std::make_shared<const BlockSimulation>(blocks, *composites, kRealisations, 1, progress);
            },
            [this](const std::shared_ptr<const BlockSimulation>& simulated) {
                changeLook([&](BlockLook& l) { l.simulated = simulated; });
                refill();
            },
            [this](const QString& why) {
                m_refused = why;
                refill();
            });
        m_refused.clear();
        refill();
    });
    if (!m_refused.isEmpty()) words(m_refused, colour::red);
}

// --- excavations

void BlocksShelf::fillDigs() {
    heading(tr("Excavations"));
    const auto& specs = *products()->project.excavations;
    const auto* chosen = chosenDig();
    for (std::size_t i = 0; i < specs.size(); ++i) {
        const auto* made = i < products()->excavations.size() ? products()->excavations[i].get() : nullptr;
        row(
            qt(specs[i].name),
            !made       ? tr("being made")
            : made->dig ? volume(made->dig->excavated)
                        : tr("can't be made"),
            [this, name = specs[i].name] { changeLook([name](BlockLook& l) { l.excavation = name; }); },
            chosen && chosen->spec.name == specs[i].name);
    }
    if (specs.empty()) words(tr("An excavation frees what is wanted, with slopes that stand, and says what that moves."));
    offer(tr("Add an excavation…"), [this] { chooseWanted(); });
}

void BlocksShelf::chooseWanted() {
    auto* menu = new QMenu(this);
    menu->setObjectName("wantedMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto& p = products()->project;
    auto* units = menu->addMenu(tr("All of a unit"));
    for (std::size_t u = 0; u + 1 < p.sequence->units.size(); ++u) {
        const auto& unit = p.sequence->units[u];
        units->addAction(qt(unit.name), this, [this, unit] {
            ExcavationSpec spec;
            spec.name = unit.name, spec.units = {unit.code};
            addDig(spec);
        });
    }
    if (const auto* b = chosenBlocks(); b && b->blocks) {
        const auto& look = selection()->blockLook();
        const auto range = blockColours(*b->blocks);
        const double limit = look.limit.value_or((range.low + range.high) / 2);
        menu->addAction(
            (look.above ? tr("Blocks of %1 above %2") : tr("Blocks of %1 below %2")).arg(qt(b->spec.name)).arg(limit, 0, 'g', 4),
            this, [this, model = b->spec.name, limit, above = look.above] {
                ExcavationSpec spec;
                spec.name = model, spec.wanted = ExcavationSpec::Wanted::Blocks;
                spec.blocks = model, spec.limit = limit, spec.above = above;
                spec.cell = chosenBlocks()->spec.dx; // as fine as what is wanted
                addDig(spec);
            });
    }
    const auto& outlines = p.ground->outlines;
    auto* floors = menu->addMenu(tr("A floor inside an outline"));
    for (const auto& o : outlines)
        floors->addAction(qt(o.name), this, [this, o] {
            double lowest = kNoValue;
            for (const auto at : o.ring)
                if (const auto z = products()->terrain->levelAt(at)) lowest = std::fmin(lowest, *z);
            bool ok = false;
            const double level =
                QInputDialog::getDouble(this, tr("A floor inside %1").arg(qt(o.name)), tr("Level of the floor, m"),
                                        std::isnan(lowest) ? 0 : lowest - 3, -10000, 10000, 2, &ok);
            if (!ok) return;
            ExcavationSpec spec;
            spec.name = o.name, spec.wanted = ExcavationSpec::Wanted::Floor;
            spec.ring = o.ring, spec.level = level;
            Box2 box;
            for (const auto at : o.ring) box.include(at);
            constexpr double kAcross = 40; // cells over the shorter side
            spec.cell = std::max(0.5, std::round(std::min(box.width(), box.height()) / kAcross * 2) / 2);
            addDig(spec);
        });
    if (outlines.empty()) floors->addAction(tr("Draw an outline on the plan first"))->setEnabled(false);
    menu->popup(QCursor::pos());
}

void BlocksShelf::addDig(ExcavationSpec spec) {
    constexpr double kUsualSlope = 35; // degrees; a start, to be set by unit
    spec.slopes[""] = kUsualSlope;
    spec.name = freeName(*products()->project.excavations, spec.name.empty() ? "Excavation" : spec.name);
    emit editMade([spec](const Project& p) { return addExcavation(p, spec); });
    changeLook([&](BlockLook& l) { l.excavation = spec.name, l.pit = true; });
}

void BlocksShelf::fillDig(const ExcavationProduct& made) {
    const auto& s = made.spec;
    const auto name = s.name;
    heading(qt(name));
    row(tr("Wanted"), wantedInWords(s));
    if (!made.problem.empty()) words(qt(made.problem), colour::red);
    if (made.dig) fillReport(made);
    if (s.wanted == ExcavationSpec::Wanted::Floor)
        numberRow(tr("Level of the floor"), "digLevel", s.level, -1e4, 1e4, 2, tr(" m"), [this, name](double v) {
            changeDig(
                name, [v](ExcavationSpec& e) { e.level = v; }, "level of the floor");
        });
    fillSlopes(s);
    offer(tr("Remove %1").arg(qt(name)), [this, name] {
        changeLook([](BlockLook& l) { l.excavation.clear(); });
        emit editMade([name](const Project& p) { return removeExcavation(p, name); });
    });
}

void BlocksShelf::fillReport(const ExcavationProduct& made) {
    const auto& d = *made.dig;
    row(tr("Excavated"), volume(d.excavated));
    row(tr("Wanted"), volume(d.wanted));
    row(tr("Waste"), d.wanted > 0 ? tr("%1 (%2 of what is wanted)").arg(volume(d.waste())).arg(d.waste() / d.wanted, 0, 'f', 2)
                                  : volume(d.waste()));
    row(tr("Mass"), tonnes(d.mass));
    row(tr("Area"), tr("%1 m²").arg(d.area, 0, 'f', 0));
    if (d.profit) row(tr("Profit"), QString::number(*d.profit, 'f', 0));
    for (const auto& [u, v] : d.byUnit) unitRow(products()->project.sequence->units[u], volume(v));
    if (d.reachesEdge) words(tr("It is cut off by the edge of the extent or of the ground."), colour::amberText);
    offer(tr("Keep the dug surface as a named surface"), [this, name = made.spec.name, dug = d.dug] {
        NamedSurface surface;
        surface.name = name + ", dug", surface.from = NamedSurface::From::Grid, surface.source = name;
        surface.grid = std::make_shared<const Grid>(dug);
        emit editMade([surface](const Project& p) { return addNamedSurface(p, surface); });
    });
    offer(selection()->blockLook().pit ? tr("Hide it in the views") : tr("Show it in the views"),
          [this] { changeLook([](BlockLook& l) { l.pit = !l.pit; }); });
}

void BlocksShelf::fillSlopes(const ExcavationSpec& s) {
    const auto name = s.name;
    words(tr("Slopes, degrees from the horizontal"));
    const auto slope = [&](const QString& text, const std::string& code) {
        const auto at = s.slopes.find(code);
        const auto other = s.slopes.find("");
        const double now = at != s.slopes.end() ? at->second : other != s.slopes.end() ? other->second : 0;
        const auto object = QByteArray("slope_") + code.c_str();
        numberRow(text, object.constData(), now, 0, 90, 1, tr("°"), [this, name, code](double v) {
            if (v <= 0) return refill();
            changeDig(
                name, [code, v](ExcavationSpec& e) { e.slopes[code] = v; }, "slope");
        });
    };
    slope(tr("Units that are not named"), "");
    for (const auto& u : products()->project.sequence->units)
        if (s.slopes.contains(u.code)) slope(qt(u.name), u.code);
    offer(tr("A slope for a unit…"), [this, name, given = s.slopes] {
        auto* menu = new QMenu(this);
        menu->setObjectName("slopeMenu");
        menu->setAttribute(Qt::WA_DeleteOnClose);
        for (const auto& u : products()->project.sequence->units)
            if (!given.contains(u.code))
                menu->addAction(qt(u.name), this, [this, name, code = u.code] {
                    changeDig(
                        name, [code](ExcavationSpec& e) { e.slopes[code] = e.slopes.contains("") ? e.slopes.at("") : 35; },
                        "slope of " + code);
                });
        menu->popup(QCursor::pos());
    });
    numberRow(tr("Height of benches (0: none)"), "benchHeight", s.bench ? s.bench->height : 0, 0, 1000, 2, tr(" m"),
              [this, name](double v) {
                  changeDig(
                      name,
                      [v](ExcavationSpec& e) {
                          if (v > 0)
                              e.bench = ExcavationSpec::Bench{v, e.bench ? e.bench->berm : 2};
                          else
                              e.bench.reset();
                      },
                      "benches");
              });
    if (s.bench)
        numberRow(tr("Width of berms"), "benchBerm", s.bench->berm, 0, 1000, 2, tr(" m"), [this, name](double v) {
            changeDig(
                name,
                [v](ExcavationSpec& e) {
                    if (e.bench) e.bench->berm = v;
                },
                "berms");
        });
    numberRow(tr("Width of cells (0: the site's)"), "digCell", s.cell, 0, 1000, 2, tr(" m"), [this, name](double v) {
        changeDig(
            name, [v](ExcavationSpec& e) { e.cell = v; }, "cells");
    });
}

/// The benches of the excavation that is looked at.
void BlocksShelf::fillCard() {
    const auto* made = chosenDig();
    if (!made || !made->dig || made->dig->benches.size() < 2) return;
    cardTitle(tr("Benches"), qt(made->spec.name));
    for (const auto& b : made->dig->benches)
        cardFact(tr("%1 to %2 m").arg(b.from, 0, 'f', 1).arg(b.to, 0, 'f', 1), volume(b.volume));
}

} // namespace fox::app
