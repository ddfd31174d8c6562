#include "views/hole_ticks.h"

#include "style/words.h"

#include <QHBoxLayout>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>

namespace fox::app {

HoleTicks::HoleTicks(const std::vector<std::string>& holes, Selection* selection, QWidget* parent)
    : QDialog(parent), m_selection(selection), m_filter(new QLineEdit(this)), m_list(new QListWidget(this)) {
    setObjectName("holeTicks");
    setWindowTitle(tr("Holes shown"));
    resize(280, 460);
    m_filter->setObjectName("holeTicksFilter");
    m_filter->setPlaceholderText(tr("Names that contain…"));
    m_filter->setClearButtonEnabled(true);
    m_list->setObjectName("holeTicksList");
    m_list->setAccessibleName(tr("Holes shown"));
    for (const auto& name : holes) {
        auto* item = new QListWidgetItem(qt(name), m_list);
        item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
    }
    auto* tick = new QPushButton(tr("Tick these"), this);
    auto* untick = new QPushButton(tr("Untick these"), this);
    auto* close = new QPushButton(tr("Close"), this);
    tick->setObjectName("holeTicksAll"), untick->setObjectName("holeTicksNone");
    tick->setToolTip(tr("All names in the list"));
    untick->setToolTip(tr("All names in the list"));
    for (auto* b : {tick, untick, close}) b->setAutoDefault(false);
    auto* buttons = new QHBoxLayout;
    for (auto* b : {tick, untick}) buttons->addWidget(b);
    buttons->addStretch(1);
    buttons->addWidget(close);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(m_filter);
    layout->addWidget(m_list, 1);
    layout->addLayout(buttons);
    showSelection();
    connect(m_filter, &QLineEdit::textChanged, this, [this](const QString& text) {
        for (int i = 0; i < m_list->count(); ++i)
            m_list->item(i)->setHidden(!m_list->item(i)->text().contains(text.trimmed(), Qt::CaseInsensitive));
    });
    connect(m_list, &QListWidget::itemChanged, this, &HoleTicks::take);
    connect(tick, &QPushButton::clicked, this, [this] { tickFiltered(Qt::Checked); });
    connect(untick, &QPushButton::clicked, this, [this] { tickFiltered(Qt::Unchecked); });
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(selection, &Selection::shownHolesChanged, this, &HoleTicks::showSelection);
}

void HoleTicks::showSelection() {
    if (m_taking) return;
    const QSignalBlocker quiet(m_list);
    for (int i = 0; i < m_list->count(); ++i)
        m_list->item(i)->setCheckState(m_selection->isShown(m_list->item(i)->text().toStdString()) ? Qt::Checked : Qt::Unchecked);
}

void HoleTicks::tickFiltered(Qt::CheckState state) {
    {
        const QSignalBlocker quiet(m_list);
        for (int i = 0; i < m_list->count(); ++i)
            if (!m_list->item(i)->isHidden()) m_list->item(i)->setCheckState(state);
    }
    take();
}

void HoleTicks::take() {
    std::set<std::string> shown;
    for (int i = 0; i < m_list->count(); ++i)
        if (m_list->item(i)->checkState() == Qt::Checked) shown.insert(m_list->item(i)->text().toStdString());
    m_taking = true;
    if (int(shown.size()) == m_list->count())
        m_selection->setShownHoles({});
    else
        m_selection->setShownHoles(shown);
    m_taking = false;
}

} // namespace fox::app
