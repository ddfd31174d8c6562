#include "stages/blocks_shelf.h"

#include "blocks/block_simulation.h"
#include "project/block_edits.h"
#include "sequence/test_values.h"
#include "stages/block_words.h"
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

BlocksShelf::BlocksShelf(Selection* s, QWidget* parent) : Shelf(tr("Model"), s, parent), m_simulating(this), m_ranging(this) {
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

} // namespace fox::app
