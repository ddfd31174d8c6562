#include "shell/pane.h"

#include "style/theme.h"
#include "views/hole_menu.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QVBoxLayout>

namespace fox::app {

Pane::Pane(ViewKind kind, Selection* selection, QWidget* parent) : QFrame(parent), m_selection(selection), m_kind(kind) {
    setObjectName("pane");
    auto* head = new QWidget(this);
    head->setObjectName("paneHead");
    head->setMinimumHeight(28);
    head->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    m_title = new QPushButton(head);
    m_title->setProperty("quiet", true);
    m_title->setFont(bodyFont(13, true));
    m_title->setStyleSheet("font-weight: 600;");
    m_title->setToolTip(tr("Show another view in this pane"));
    auto* menu = new QMenu(m_title);
    for (const auto other : kViewKinds) menu->addAction(name(other), this, [this, other] { show(other); });
    connect(m_title, &QPushButton::clicked, this,
            [this, menu] { menu->popup(m_title->mapToGlobal(QPoint(0, m_title->height()))); });
    m_summary = new QLabel(head);
    m_summary->setProperty("muted", true);
    m_summary->setFont(bodyFont(12));
    m_summary->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    m_summary->installEventFilter(this);
    auto* row = new QHBoxLayout(head);
    row->setContentsMargins(6, 0, 8, 0);
    row->setSpacing(4);
    row->addWidget(m_title);
    row->addWidget(m_summary, 1);
    m_holes = new QPushButton(head);
    m_holes->setObjectName("shownHoles");
    m_holes->setProperty("quiet", true);
    m_holes->setProperty("accent", true);
    m_holes->setToolTip(tr("Only these holes are shown; press to show all"));
    m_holes->hide();
    connect(m_holes, &QPushButton::clicked, m_selection, [selection] { selection->setShownHoles({}); });
    connect(m_selection, &Selection::shownHolesChanged, this, &Pane::showSummary);
    row->addWidget(m_holes);
    m_tools = new QHBoxLayout;
    m_tools->setSpacing(2);
    row->addLayout(m_tools);
    m_more = new QPushButton(QString(QChar(0x22EF)), head);
    m_more->setObjectName("moreTools");
    m_more->setProperty("quiet", true);
    m_more->setToolTip(tr("The tools of this view"));
    m_more->hide();
    connect(m_more, &QPushButton::clicked, this, [this] {
        auto* all = new QMenu(m_more);
        all->setAttribute(Qt::WA_DeleteOnClose);
        all->addActions(m_view->tools());
        all->popup(m_more->mapToGlobal(QPoint(0, m_more->height())));
    });
    row->addWidget(m_more);
    m_layout = new QVBoxLayout(this);
    m_layout->setContentsMargins(0, 0, 1, 1);
    m_layout->setSpacing(0);
    m_layout->addWidget(head);
    m_view = makeView(kind, selection, this);
    m_layout->addWidget(m_view, 1);
    fillTools();
}

void Pane::show(ViewKind kind) {
    if (kind == m_kind) return;
    delete m_view;
    m_kind = kind;
    m_view = makeView(kind, m_selection, this);
    m_layout->addWidget(m_view, 1);
    fillTools();
    emit viewMade(m_view);
}

void Pane::fillTools() {
    m_title->setText(m_view->title());
    while (auto* item = m_tools->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    for (auto* action : m_view->tools()) {
        auto* button = new QPushButton(action->text(), this);
        button->setProperty("quiet", true);
        button->setToolTip(action->toolTip());
        button->setCheckable(action->isCheckable());
        button->setChecked(action->isChecked());
        button->setEnabled(action->isEnabled());
        connect(button, &QPushButton::clicked, action, &QAction::trigger);
        connect(action, &QAction::changed, button, [button, action] {
            button->setText(action->text());
            button->setChecked(action->isChecked());
            button->setEnabled(action->isEnabled());
        });
        m_tools->addWidget(button);
    }
    fitTools();
    connect(m_view, &View::summaryChanged, this, &Pane::showSummary);
    showSummary();
}

bool Pane::eventFilter(QObject* watched, QEvent* e) {
    if (watched == m_summary && e->type() == QEvent::Resize) {
        fitTools();
        showSummary();
    }
    return QFrame::eventFilter(watched, e);
}

/// Where there is no room for the tools side by side they go into a menu.
void Pane::fitTools() {
    int wanted = m_title->sizeHint().width() + 24; // margins and spaces
    for (int i = 0; i < m_tools->count(); ++i) wanted += m_tools->itemAt(i)->widget()->sizeHint().width() + m_tools->spacing();
    const bool room = width() >= wanted || m_tools->count() == 0;
    for (int i = 0; i < m_tools->count(); ++i) m_tools->itemAt(i)->widget()->setVisible(room);
    m_more->setVisible(!room);
}

void Pane::showSummary() {
    const auto holes = m_view->showsHoles() ? shownInWords(*m_selection, m_view->products().get()) : QString();
    m_holes->setText(holes);
    m_holes->setVisible(!holes.isEmpty());
    const auto words = m_view->summary();
    m_summary->setToolTip(words);
    m_summary->setText(QFontMetrics(m_summary->font()).elidedText(words, Qt::ElideRight, std::max(0, m_summary->width() - 2)));
}

} // namespace fox::app
