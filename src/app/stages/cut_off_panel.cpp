#include "stages/cut_off_panel.h"

#include "blocks/block_simulation.h"
#include "blocks/block_totals.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/block_words.h"
#include "views/number_box.h"
#include "views/scene_blocks.h"

#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QSignalBlocker>
#include <QSlider>

namespace fox::app {

namespace {
constexpr int kSteps = 1000; // of a slider
}

CutOffPanel::CutOffPanel(std::shared_ptr<const BlockModel> blocks, std::shared_ptr<const Sequence> sequence, Selection* selection,
                         QWidget* parent)
    : QWidget(parent),
      m_blocks(std::move(blocks)),
      m_sequence(std::move(sequence)),
      m_selection(selection),
      m_lines(new QVBoxLayout(this)),
      m_figures(new QFormLayout) {
    using Side = BlockLook::Side;
    const auto range = blockColours(*m_blocks);
    m_low = range.low, m_high = range.high;
    m_lines->setContentsMargins(4, 0, 0, 0);
    const auto side = m_selection->blockLook().side;
    auto* sides = new QComboBox;
    sides->setObjectName("cutOffSide");
    sides->setAccessibleName(tr("Shown are blocks"));
    sides->addItems({tr("above"), tr("below"), tr("between")});
    sides->setCurrentIndex(int(side));
    connect(sides, &QComboBox::activated, this, [this](int i) { change([i](BlockLook& l) { l.side = Side(i); }); });
    auto* line = new QHBoxLayout;
    line->addWidget(new QLabel(tr("Shown are blocks")), 1);
    line->addWidget(sides);
    m_lines->addLayout(line);
    m_limit = addEnd(side == Side::Between ? tr("From") : tr("Cut-off"), "cutOff", &BlockLook::limit,
                     side == Side::Below ? m_high : m_low);
    if (side == Side::Between) m_upTo = addEnd(tr("To"), "cutOffUpTo", &BlockLook::upTo, m_high);
    m_figures->setContentsMargins(0, 2, 0, 0);
    m_figures->setVerticalSpacing(2);
    m_lines->addLayout(m_figures);
    m_count = addFigure(tr("Blocks"), "cutOffBlocks");
    m_volume = addFigure(tr("Volume"), "cutOffVolume");
    m_mass = addFigure(tr("Mass"), "cutOffMass");
    m_range = addFigure(tr("P10, P50, P90"), "cutOffRange");
    m_byUnit = addFigure(tr("By unit"), "cutOffByUnit");
    m_hint = new QLabel(tr("For a mass each of their units needs a unit weight, on the Sequence stage."));
    m_hint->setWordWrap(true);
    m_lines->addWidget(m_hint);
    refresh();
}

CutOffPanel::End CutOffPanel::addEnd(const QString& text, const char* name, std::optional<double> BlockLook::*limit,
                                     double otherwise) {
    End end;
    end.slider = new QSlider(Qt::Horizontal);
    end.slider->setObjectName(name);
    end.slider->setAccessibleName(text);
    end.slider->setRange(0, kSteps);
    connect(end.slider, &QSlider::valueChanged, this, [this, limit](int v) {
        if (!m_showing) change([&](BlockLook& l) { l.*limit = m_low + (m_high - m_low) * v / kSteps; });
    });
    constexpr double kBeyond = 1e6; // what is typed may lie beyond all values
    end.box = makeNumberBox(m_selection->blockLook().*limit ? *(m_selection->blockLook().*limit) : otherwise, m_low - kBeyond,
                            m_high + kBeyond, 3, {}, [this, limit](double v) {
                                if (!m_showing) change([&](BlockLook& l) { l.*limit = v; });
                            });
    end.box->setObjectName(QString(name) + "Value");
    end.box->setAccessibleName(text);
    end.box->setFixedWidth(104);
    auto* line = new QHBoxLayout;
    line->addWidget(new QLabel(text), 1);
    line->addWidget(end.box);
    m_lines->addWidget(end.slider);
    m_lines->addLayout(line);
    return end;
}

QLabel* CutOffPanel::addFigure(const QString& text, const char* name) {
    auto* value = new QLabel;
    value->setObjectName(name);
    value->setProperty("muted", true);
    value->setAlignment(Qt::AlignRight | Qt::AlignTop);
    value->setTextInteractionFlags(Qt::TextSelectableByMouse);
    m_figures->addRow(text, value);
    return value;
}

void CutOffPanel::change(const std::function<void(BlockLook&)>& change) {
    auto look = m_selection->blockLook();
    change(look);
    m_selection->setBlockLook(look);
}

void CutOffPanel::showEnd(const End& end, double value) {
    if (!end.slider) return;
    end.slider->setValue(int(std::lround((value - m_low) / (m_high - m_low) * kSteps)));
    end.box->setValue(value);
}

void CutOffPanel::refresh() {
    m_showing = true;
    const auto& look = m_selection->blockLook();
    showEnd(m_limit, look.limit.value_or(look.side == BlockLook::Side::Below ? m_high : m_low));
    showEnd(m_upTo, look.upTo.value_or(m_high));
    m_showing = false;
    showFigures();
}

void CutOffPanel::showFigures() {
    const auto limits = m_selection->blockLook().limits();
    const auto total = totalOf(*m_blocks, *m_sequence, limits);
    m_count->setText(QLocale().toString(qulonglong(total.blocks)));
    m_volume->setText(volume(total.volume));
    m_mass->setText(tonnes(total.mass));
    m_hint->setVisible(!total.mass);
    QStringList units;
    for (const auto& u : totalsByUnit(*m_blocks, *m_sequence, limits))
        if (u.total.blocks > 0) units << QString("%1 %2").arg(qt(m_sequence->units[u.unit].code), volume(u.total.volume));
    m_byUnit->setText(units.join('\n'));
    m_figures->setRowVisible(m_byUnit, units.size() > 1);
    const auto* simulated = simulationOf(*m_blocks, m_selection->blockLook());
    m_figures->setRowVisible(m_range, simulated != nullptr);
    if (!simulated) return;
    const auto range = simulated->volume(limits);
    m_range->setText(tr("%1, %2, %3").arg(volume(range.p10), volume(range.p50), volume(range.p90)));
}

} // namespace fox::app
