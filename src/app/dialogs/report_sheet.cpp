#include "dialogs/report_sheet.h"

#include "handover/model_report.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace fox::app {

ReportSheet::ReportSheet(const Project& project, QWidget* parent)
    : QDialog(parent), m_chapters(new QListWidget(this)), m_heading(new QLabel(this)), m_words(new QPlainTextEdit(this)) {
    setObjectName("reportSheet");
    setWindowTitle(tr("Report - Fox Cellar"));
    resize(760, 440);
    m_chapters->setObjectName("reportChapters");
    m_chapters->setAccessibleName(tr("Chapters of the report"));
    m_chapters->setToolTip(tr("Ticked chapters are in the report"));
    for (const auto& [key, title] : reportChapters()) {
        auto* item = new QListWidgetItem(QString::fromStdString(title), m_chapters);
        item->setData(Qt::UserRole, QString::fromStdString(key));
    }
    m_heading->setProperty("heading", true);
    m_words->setObjectName("reportWords");
    m_words->setTabChangesFocus(true);
    m_words->setPlaceholderText(tr("Words of your own at the head of this chapter: what the model is for, what the site is like, "
                                   "what the reader should know. What follows them is worked out from the project."));
    m_words->installEventFilter(this);
    auto* hint = new QLabel(tr("A paragraph a line. The report says what the project holds when it is written."), this);
    hint->setProperty("muted", true);
    hint->setWordWrap(true);
    auto* pdf = new QPushButton(tr("Write as PDF…"), this);
    pdf->setObjectName("reportPdf");
    pdf->setProperty("main", true);
    pdf->setDefault(true);
    auto* close = new QPushButton(tr("Close"), this);
    auto* right = new QVBoxLayout;
    right->addWidget(m_heading);
    right->addWidget(m_words, 1);
    right->addWidget(hint);
    auto* row = new QHBoxLayout;
    row->addWidget(m_chapters, 2);
    row->addLayout(right, 3);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch(1);
    buttons->addWidget(close);
    buttons->addWidget(pdf);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(20, 16, 20, 16);
    layout->setSpacing(10);
    layout->addLayout(row, 1);
    layout->addLayout(buttons);
    setProject(project);
    m_chapters->setCurrentRow(0);
    connect(m_chapters, &QListWidget::currentRowChanged, this, [this] {
        keepWords();
        showWords();
    });
    connect(m_chapters, &QListWidget::itemChanged, this, [this](const QListWidgetItem* item) {
        if (m_filling) return;
        const auto key = item->data(Qt::UserRole).toString().toStdString();
        emit editMade([key, used = item->checkState() == Qt::Checked](const Project& p) { return setChapterUsed(p, key, used); });
    });
    connect(pdf, &QPushButton::clicked, this, [this] {
        keepWords();
        emit pdfAsked();
    });
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    showWords();
}

std::string ReportSheet::chapter() const {
    const auto* item = m_chapters->currentItem();
    return item ? item->data(Qt::UserRole).toString().toStdString() : std::string();
}

void ReportSheet::setProject(const Project& project) {
    if (m_choices == project.report) return;
    m_choices = project.report;
    m_filling = true;
    for (int i = 0; i < m_chapters->count(); ++i) {
        auto* item = m_chapters->item(i);
        const bool excluded = m_choices->excluded.contains(item->data(Qt::UserRole).toString().toStdString());
        item->setCheckState(excluded ? Qt::Unchecked : Qt::Checked);
    }
    m_filling = false;
    showWords();
}

void ReportSheet::showWords() {
    const auto key = chapter();
    const auto found = m_choices->texts.find(key);
    const auto words = found == m_choices->texts.end() ? QString() : QString::fromStdString(found->second);
    if (key == m_shown && words == m_words->toPlainText().trimmed()) return; // the place of the cursor stays
    m_shown = key;
    m_heading->setText(m_chapters->currentItem() ? m_chapters->currentItem()->text() : QString());
    m_words->setPlainText(words);
}

void ReportSheet::keepWords() {
    const auto words = m_words->toPlainText().trimmed().toStdString();
    const auto found = m_choices->texts.find(m_shown);
    if (m_shown.empty() || words == (found == m_choices->texts.end() ? std::string() : found->second)) return;
    emit editMade([key = m_shown, words](const Project& p) { return setChapterText(p, key, words); });
}

bool ReportSheet::eventFilter(QObject* watched, QEvent* e) {
    if (watched == m_words && e->type() == QEvent::FocusOut) keepWords();
    return QDialog::eventFilter(watched, e);
}

void ReportSheet::done(int result) {
    keepWords();
    QDialog::done(result);
}

} // namespace fox::app
