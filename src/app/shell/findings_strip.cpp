#include "shell/findings_strip.h"

#include "style/theme.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QMenu>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

namespace fox::app {

namespace {

QIcon dot(Severity s) {
    QPixmap picture(10, 10);
    picture.fill(Qt::transparent);
    QPainter painter(&picture);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(severityColour(s));
    painter.drawEllipse(1, 1, 8, 8);
    return picture;
}

} // namespace

FindingsStrip::FindingsStrip(QWidget* parent)
    : QFrame(parent),
      m_counts(new QPushButton(this)),
      m_show(new QPushButton(tr("Show"), this)),
      m_remedy(new QPushButton(this)),
      m_words(new QLabel(this)),
      m_list(new QListWidget(this)) {
    setObjectName("findings");
    m_counts->setProperty("quiet", true);
    m_counts->setObjectName("findingCounts");
    m_counts->setCheckable(true);
    m_counts->setToolTip(tr("Open the list of findings"));
    m_counts->setStyleSheet("font-size: 13px; color: #25211C;");
    m_words->setProperty("muted", true);
    m_words->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    m_show->setObjectName("showFinding");
    m_show->setToolTip(tr("Go to what this finding is about"));
    m_remedy->setObjectName("remedy");
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
    connect(m_list, &QListWidget::currentRowChanged, this, &FindingsStrip::showCurrent);
    connect(m_list, &QListWidget::itemActivated, this, [this] {
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
        auto all = f->others;
        if (f->remedy) all.insert(all.begin(), *f->remedy);
        for (const auto& r : all)
            connect(menu->addAction(QString::fromStdString(r.label)), &QAction::triggered, this,
                    [this, r] { emit remedyAsked(r); });
        menu->popup(m_remedy->mapToGlobal(QPoint(0, -int(all.size()) * 24)));
    });
    setFindings(nullptr);
}

const Finding* FindingsStrip::current() const {
    if (!m_findings || m_findings->empty()) return nullptr;
    return &(*m_findings)[std::size_t(std::clamp(m_list->currentRow(), 0, int(m_findings->size()) - 1))];
}

void FindingsStrip::setFindings(std::shared_ptr<const Findings> findings) {
    if (m_findings == findings && findings) return;
    m_findings = std::move(findings);
    m_list->clear();
    if (m_findings)
        for (const auto& f : *m_findings) new QListWidgetItem(dot(f.severity), QString::fromStdString(describe(f)), m_list);
    m_list->setCurrentRow(0);
    showCurrent();
}

void FindingsStrip::showCurrent() {
    const auto* f = current();
    if (!f) {
        m_counts->setIcon(dot(Severity::Note));
        m_counts->setText(m_findings ? tr("no findings") : tr("working"));
        m_words->clear();
        m_show->hide();
        m_remedy->hide();
        return;
    }
    QStringList counts;
    if (const int n = count(*m_findings, Severity::Error)) counts << (n == 1 ? tr("1 error") : tr("%1 errors").arg(n));
    if (const int n = count(*m_findings, Severity::Warning)) counts << (n == 1 ? tr("1 warning") : tr("%1 warnings").arg(n));
    if (const int n = count(*m_findings, Severity::Note)) counts << (n == 1 ? tr("1 note") : tr("%1 notes").arg(n));
    m_counts->setIcon(dot(m_findings->front().severity));
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
