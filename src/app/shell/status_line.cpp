#include "shell/status_line.h"

#include "style/theme.h"
#include "views/running_work.h"

#include <QAccessible>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QProgressBar>
#include <QPushButton>
#include <QTimer>
#include <QToolButton>

namespace fox::app {

StatusLine::StatusLine(QWidget* parent)
    : QFrame(parent),
      m_cursor(new QLabel(this)),
      m_system(new QLabel(this)),
      m_exaggeration(new QLabel(this)),
      m_work(new QLabel(this)),
      m_bar(new QProgressBar(this)),
      m_stop(new QPushButton(tr("Stop"), this)),
      m_running(new QToolButton(this)),
      m_patience(new QTimer(this)) {
    setObjectName("status");
    setMinimumHeight(24);
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    m_cursor->setMinimumWidth(330);
    m_cursor->setObjectName("cursorPlace");
    m_work->setObjectName("workWords");
    m_bar->setFixedSize(120, 6);
    m_bar->setTextVisible(false);
    m_bar->setRange(0, 1000);
    m_stop->setToolTip(tr("Stop the work; the last good surfaces stay"));
    m_running->setObjectName("runningWork");
    m_running->setToolTip(tr("What works beside the window: press to stop some of it"));
    m_running->setPopupMode(QToolButton::InstantPopup);
    m_running->setFocusPolicy(Qt::TabFocus);
    auto* list = new QMenu(m_running);
    list->setObjectName("runningWorkMenu");
    m_running->setMenu(list);
    m_running->hide();
    connect(list, &QMenu::aboutToShow, this, &StatusLine::fillRunning);
    constexpr int kShort = 500; // ms; what is done by then is not listed
    connect(&RunningWork::all(), &RunningWork::changed, this, [this] {
        QTimer::singleShot(kShort, this, &StatusLine::showRunning);
        if (m_running->isVisible()) showRunning();
    });
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(12, 0, 12, 0);
    row->setSpacing(20);
    row->addWidget(m_cursor);
    row->addWidget(m_system);
    row->addWidget(m_exaggeration);
    row->addStretch(1);
    row->addWidget(m_work);
    row->addWidget(m_bar);
    row->addWidget(m_stop);
    row->addWidget(m_running);
    connect(m_stop, &QPushButton::clicked, this, &StatusLine::stopAsked);
    m_patience->setSingleShot(true);
    connect(m_patience, &QTimer::timeout, this, &StatusLine::showProgress);
    setPointed(kNoValue, kNoValue, kNoValue, {});
    setBusy(false);
}

void StatusLine::setPointed(double easting, double northing, double level, const QString& unit) {
    if (std::isnan(easting)) return m_cursor->setText(tr("Move the cursor over a view for coordinates"));
    auto text = tr("E %1  N %2").arg(coordinate(easting), coordinate(northing));
    if (!std::isnan(level)) text += tr("  level %1").arg(metres(level, 1));
    if (!unit.isEmpty()) text += "  " + unit;
    m_cursor->setText(text);
}

void StatusLine::setSystem(const QString& crs) { m_system->setText(crs.isEmpty() ? tr("no coordinate system set") : crs); }
void StatusLine::setExaggeration(double times) { m_exaggeration->setText(tr("height ×%1").arg(times)); }

void StatusLine::setBusy(bool busy) {
    if (busy) {
        m_said = false;
        constexpr int kPatience = 200; // ms; each drawing of the window costs, and what is done by then needs no bar
        if (!m_patience->isActive() && !m_bar->isVisible()) m_patience->start(kPatience);
        return;
    }
    m_patience->stop();
    m_bar->hide();
    m_stop->hide();
    if (!m_said) m_work->setText(m_notSaved ? tr("Not saved") : tr("Up to date"));
}

void StatusLine::setNotSaved(bool notSaved) {
    m_notSaved = notSaved;
    if (!m_said && !m_bar->isVisible()) m_work->setText(notSaved ? tr("Not saved") : tr("Up to date"));
}

void StatusLine::setProgress(double fraction, const QString& words) {
    m_words = words;
    m_fraction = fraction;
    if (m_bar->isVisible()) showProgress();
}

void StatusLine::showProgress() {
    m_bar->show();
    m_stop->show();
    m_bar->setValue(int(m_fraction * 1000));
    if (!m_said) m_work->setText(m_words);
}

void StatusLine::say(const QString& sentence) {
    m_said = true;
    m_work->setText(sentence);
    m_work->setAccessibleName(sentence);
    QAccessibleEvent told(m_work, QAccessible::Alert);
    QAccessible::updateAccessibility(&told);
}

void StatusLine::showRunning() {
    const auto n = RunningWork::all().entries().size();
    m_running->setVisible(n > 0);
    m_running->setText(tr("%1 at work").arg(n));
    m_running->setAccessibleName(tr("%1 at work beside the window").arg(n));
}

void StatusLine::fillRunning() {
    auto* list = m_running->menu();
    list->clear();
    for (const auto& entry : RunningWork::all().entries()) {
        const auto share = entry.fraction > 0 ? tr(", %1 % done").arg(100 * entry.fraction, 0, 'f', 0) : QString();
        list->addAction(tr("Stop: %1 (%2 s%3)").arg(entry.words).arg(entry.since.elapsed() / 1000).arg(share), this, entry.stop);
    }
    if (list->isEmpty()) list->addAction(tr("Nothing is at work any more"))->setEnabled(false);
}

} // namespace fox::app
