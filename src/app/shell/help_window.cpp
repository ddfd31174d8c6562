#include "shell/help_window.h"

#include "style/theme.h"

#include <QFile>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QListWidget>
#include <QScrollBar>
#include <QTextBlock>
#include <QTextBrowser>
#include <QVBoxLayout>

namespace fox::app {

QString chapterOf(const QString& stage) {
    static const std::map<QString, QString> kChapters{{"site", "The window"},   {"holes", "Checking and correcting holes"},
                                                      {"ground", "The ground"}, {"sequence", "Assigning units"},
                                                      {"model", "The model"},   {"sheets", "Handing over"}};
    const auto at = kChapters.find(stage);
    return at == kChapters.end() ? QString() : at->second;
}

HelpWindow::HelpWindow(QWidget* parent)
    : QDialog(parent), m_chapters(new QListWidget(this)), m_text(new QTextBrowser(this)), m_search(new QLineEdit(this)) {
    setObjectName("helpWindow");
    setWindowTitle(tr("Fox Cellar guide"));
    resize(900, 640);
    m_chapters->setObjectName("helpChapters");
    m_chapters->setAccessibleName(tr("Chapters"));
    m_chapters->setFixedWidth(220);
    m_text->setObjectName("helpText");
    m_text->setAccessibleName(tr("Guide"));
    m_text->setOpenLinks(false); // nothing is fetched
    m_search->setObjectName("helpSearch");
    m_search->setPlaceholderText(tr("Search the guide…"));
    m_search->setClearButtonEnabled(true);
    QFile guide(":/guide.md");
    if (guide.open(QIODevice::ReadOnly)) m_text->setMarkdown(QString::fromUtf8(guide.readAll()));
    for (auto block = m_text->document()->begin(); block.isValid(); block = block.next())
        if (const int level = block.blockFormat().headingLevel(); level == 1 || level == 2) {
            auto* item = new QListWidgetItem(block.text(), m_chapters);
            item->setData(Qt::UserRole, block.position());
        }
    auto* side = new QVBoxLayout;
    side->addWidget(m_search);
    side->addWidget(m_chapters, 1);
    auto* layout = new QHBoxLayout(this);
    layout->addLayout(side);
    layout->addWidget(m_text, 1);
    connect(m_chapters, &QListWidget::currentItemChanged, this, [this](const QListWidgetItem* item) {
        if (!item) return;
        QTextCursor cursor(m_text->document());
        cursor.setPosition(item->data(Qt::UserRole).toInt());
        m_text->moveCursor(QTextCursor::End); // so that the heading comes to stand at the top
        m_text->setTextCursor(cursor);
        m_text->verticalScrollBar()->setValue(m_text->verticalScrollBar()->value() + m_text->cursorRect().top() - 4);
    });
    connect(m_search, &QLineEdit::returnPressed, this, &HelpWindow::search);
    connect(m_search, &QLineEdit::textEdited, this, [this] {
        m_text->moveCursor(QTextCursor::Start);
        search();
    });
}

void HelpWindow::showChapter(const QString& heading) {
    const auto found = m_chapters->findItems(heading, Qt::MatchExactly);
    m_chapters->setCurrentItem(found.isEmpty() ? m_chapters->item(0) : found.front());
}

QString HelpWindow::chapter() const { return m_chapters->currentItem() ? m_chapters->currentItem()->text() : QString(); }

/// The next place; from the beginning again after the last.
void HelpWindow::search() {
    const auto words = m_search->text().trimmed();
    if (words.isEmpty() || m_text->find(words)) return;
    m_text->moveCursor(QTextCursor::Start);
    m_text->find(words);
}

} // namespace fox::app
