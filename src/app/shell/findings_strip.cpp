#include "shell/findings_strip.h"

#include "shell/findings_model.h"
#include "style/theme.h"
#include "style/words.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QListView>
#include <QMenu>
#include <QPushButton>
#include <QVBoxLayout>

namespace fox::app {

FindingsStrip::FindingsStrip(QWidget* parent)
    : QFrame(parent),
      m_counts(new QPushButton(this)),
      m_show(new QPushButton(tr("Show"), this)),
      m_remedy(new QPushButton(this)),
      m_words(new QLabel(this)),
      m_list(new QListView(this)),
      m_model(new FindingsModel(this)) {
    setObjectName("findings");
    m_counts->setProperty("quiet", true);
    m_counts->setObjectName("findingCounts");
    m_counts->setCheckable(true);
    m_counts->setToolTip(tr("Open the list of findings"));
    m_words->setProperty("muted", true);
    m_words->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    m_show->setObjectName("showFinding");
    m_show->setToolTip(tr("Go to what this finding is about"));
    m_remedy->setObjectName("remedy");
    m_list->setModel(m_model);
    m_list->setUniformItemSizes(true);
    m_list->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_list->setFixedHeight(150);
    m_list->setObjectName("findingList");
    m_list->setAccessibleName(tr("Findings"));
    m_list->hide();
    auto* row = new QHBoxLayout;
    row->setContentsMargins(8, 2, 16, 2);
    row->setSpacing(10);
    row->addWidget(m_counts);
    row->addWidget(m_words, 1);
    row->addWidget(m_show);
    row->addWidget(m_remedy);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addWidget(m_list);
    layout->addLayout(row);
    connect(m_counts, &QPushButton::toggled, m_list, &QWidget::setVisible);
    connect(m_list->selectionModel(), &QItemSelectionModel::currentRowChanged, this, &FindingsStrip::showCurrent);
    connect(m_list, &QListView::activated, this, [this] {
        if (const auto* f = current()) emit showAsked(*f);
    });
    connect(m_show, &QPushButton::clicked, this, [this] {
        if (const auto* f = current()) emit showAsked(*f);
    });
    connect(m_remedy, &QPushButton::clicked, this, [this] {
        const auto* f = current();
        if (!f) return;
        if (f->others.empty() && f->remedy) return emit remedyAsked(*f->remedy);
        auto* menu = new QMenu(this); // a choice of remedies
        menu->setObjectName("remedies");
        menu->setAttribute(Qt::WA_DeleteOnClose);
        auto remedies = f->others;
        if (f->remedy) remedies.insert(remedies.begin(), *f->remedy);
        for (const auto& r : remedies)
            connect(menu->addAction(QString::fromStdString(r.label)), &QAction::triggered, this,
                    [this, r] { emit remedyAsked(r); });
        menu->popup(m_remedy->mapToGlobal(QPoint(0, -int(remedies.size()) * 24)));
    });
    setFindings(nullptr);
}

const Finding* FindingsStrip::current() const { return m_model->at(std::max(0, m_list->currentIndex().row())); }

void FindingsStrip::setFindings(std::shared_ptr<const Findings> findings) {
    if (m_model->findings() == findings && findings) return;
    const auto before = m_model->findings(); // it keeps `chosen` alive
    const auto* chosen = m_list->currentIndex().isValid() ? current() : nullptr;
    m_model->set(std::move(findings));
    // whoever works down the list stays where it was, if that is still found
    const int row = chosen ? std::max(0, m_model->rowOf(*chosen)) : 0;
    m_list->setCurrentIndex(m_model->index(row, 0));
    showCurrent();
}

void FindingsStrip::showCurrent() {
    const auto* f = current();
    if (!f) {
        m_counts->setIcon(severityIcon(Severity::Note));
        m_counts->setText(m_model->findings() ? tr("no findings") : tr("working"));
        m_words->clear();
        m_show->hide();
        m_remedy->hide();
        return;
    }
    const auto& all = *m_model->findings();
    QStringList counts;
    if (const int n = count(all, Severity::Error)) counts << counted(qint64(n), "error");
    if (const int n = count(all, Severity::Warning)) counts << counted(qint64(n), "warning");
    if (const int n = count(all, Severity::Note)) counts << counted(qint64(n), "note");
    m_counts->setIcon(severityIcon(all.front().severity));
    m_counts->setText(counts.join(QString::fromUtf8(" · "))
                      + (m_counts->isChecked() ? QString::fromUtf8("  ▾") : QString::fromUtf8("  ▴")));
    const auto words = QString::fromStdString((f->hole.empty() ? "" : f->hole + ": ") + f->message);
    m_words->setText(QFontMetrics(m_words->font()).elidedText(words, Qt::ElideRight, std::max(60, m_words->width() - 4)));
    m_words->setToolTip(QString::fromStdString(describe(*f)));
    m_show->setVisible(!f->hole.empty() || f->place || !f->unit.empty() || (!f->file.empty() && f->line > 0));
    m_remedy->setVisible(f->remedy.has_value() || !f->others.empty());
    if (!f->others.empty())
        m_remedy->setText(tr("Fix…"));
    else if (f->remedy)
        m_remedy->setText(QString::fromStdString(f->remedy->label));
}

void FindingsStrip::resizeEvent(QResizeEvent* e) {
    QFrame::resizeEvent(e);
    showCurrent();
}

} // namespace fox::app
