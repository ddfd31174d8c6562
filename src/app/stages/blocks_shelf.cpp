#include "stages/blocks_shelf.h"

#include "blocks/block_simulation.h"
#include "project/block_edits.h"
#include "stages/cut_off_panel.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/scene_blocks.h"

#include <QMenu>
#include <QPushButton>

namespace fox::app {

BlocksShelf::BlocksShelf(Selection* s, QWidget* parent)
    : Shelf(tr("Model"), s, parent),
      m_simulating(this, tr("Working out probabilities of blocks")),
      m_ranging(this, tr("Digging equally likely models")) {
    auto* write = mainButton(tr("Write files…"), tr("The chosen block model, or the chosen excavation, as files"));
    connect(write, &QPushButton::clicked, this, [this, write] {
        QMenu menu;
        menu.setObjectName("writeBlocksMenu");
        if (const auto* b = chosenBlocks(); b && b->blocks) {
            menu.addAction(tr("Blocks of %1…").arg(qt(b->spec.name)), this,
                           [this, name = b->spec.name] { emit actionAsked(WriteBlocks{name}); });
            menu.addAction(tr("Table of %1 by unit and level…").arg(qt(b->spec.name)), this,
                           [this, name = b->spec.name] { emit actionAsked(WriteBlockTable{name}); });
        }
        if (const auto* e = chosenDig(); e && e->dig)
            menu.addAction(tr("Excavation %1…").arg(qt(e->spec.name)), this,
                           [this, name = e->spec.name] { emit actionAsked(WriteExcavation{name}); });
        if (menu.isEmpty()) menu.addAction(tr("There is nothing to write yet"))->setEnabled(false);
        menu.exec(write->mapToGlobal(QPoint(0, write->height())));
    });
    connect(selection(), &Selection::blockLookChanged, this, &BlocksShelf::lookChanged);
}

const BlockProduct* BlocksShelf::chosenBlocks() const { return shownBlocks(products(), selection()->blockLook()); }
const ExcavationProduct* BlocksShelf::chosenDig() const { return shownExcavation(products(), selection()->blockLook()); }

void BlocksShelf::changeLook(const std::function<void(BlockLook&)>& change) {
    auto look = selection()->blockLook();
    change(look);
    selection()->setBlockLook(look);
}

/// A slider that is being moved stays where it is: only its figures change.
void BlocksShelf::lookChanged() {
    const auto now = selection()->blockLook();
    auto before = std::exchange(m_looked, now);
    before.limit = now.limit, before.upTo = now.upTo;
    if (m_cutOff && before == now)
        m_cutOff->refresh();
    else
        refill();
}

void BlocksShelf::changeBlocks(const std::string& model, const std::function<void(BlockSpec&)>& change, const std::string& what) {
    emit editMade([=](const Project& p) { return changeBlockModel(p, model, change, what); });
}

void BlocksShelf::changeDig(const std::string& dig, const std::function<void(ExcavationSpec&)>& change, const std::string& what) {
    emit editMade([=](const Project& p) { return changeExcavation(p, dig, change, what); });
}

void BlocksShelf::fillBody() {
    m_cutOff = nullptr;
    m_looked = selection()->blockLook();
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

void BlocksShelf::fillCutOff(const BlockProduct& made) {
    heading(tr("Cut-off"));
    const auto& look = selection()->blockLook();
    const auto range = blockColours(*made.blocks);
    if (!(range.high > range.low)) return words(tr("All blocks have one value."));
    m_cutOff = new CutOffPanel(made.blocks, products()->project.sequence, selection(), this);
    wide(m_cutOff);
    fillProbabilities(made);
    using Colour = BlockLook::Colour;
    std::vector<std::pair<Colour, QString>> colours{{Colour::Value, tr("value")}, {Colour::Unit, tr("unit")}};
    if (!made.blocks->variance.empty()) colours.emplace_back(Colour::Variance, tr("variance"));
    if (simulationOf(*made.blocks, look)) colours.emplace_back(Colour::Probability, tr("probability"));
    QStringList choices;
    int now = 0;
    for (const auto& [colour, text] : colours) {
        if (colour == look.colour) now = int(choices.size());
        choices << text;
    }
    choiceRow(tr("Coloured by"), "blockColour", choices, now,
              [this, colours](int i) { changeLook([&](BlockLook& l) { l.colour = colours[std::size_t(i)].first; }); });
    fillPlanLevel(*made.blocks);
    offer(tr("Show all blocks"), [this] { changeLook([](BlockLook& l) { l.showAll(); }); });
}

/// Which layer of blocks the plan shows.
void BlocksShelf::fillPlanLevel(const BlockModel& blocks) {
    const auto now = selection()->blockLook().planLevel;
    const double low = blocks.corner.z, high = low + blocks.count[2] * blocks.spec.dz;
    choiceRow(tr("On the plan"), "blocksOnPlan", {tr("no blocks"), tr("blocks at a level")}, now ? 1 : 0,
              [this, low, high](int i) {
                  changeLook([=](BlockLook& l) { l.planLevel = i == 1 ? std::optional((low + high) / 2) : std::nullopt; });
              });
    if (now)
        numberRow(tr("Level"), "blockPlanLevel", *now, low, high, 2, tr(" m"),
                  [this](double v) { changeLook([v](BlockLook& l) { l.planLevel = v; }); });
}

/// The probability that blocks lie beyond the cut-off.
void BlocksShelf::fillProbabilities(const BlockProduct& made) {
    const auto& look = selection()->blockLook();
    if (m_simulating.busy()) return words(tr("Probabilities are being worked out…"));
    if (simulationOf(*made.blocks, look)) {
        if (!look.hasLimits()) words(tr("Set a cut-off to see the probability that blocks lie beyond it."));
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
