#include "shell/find_box.h"

#include <QCompleter>
#include <QStandardItemModel>
#include <QTimer>

namespace fox::app {

FindBox::FindBox(QWidget* parent) : QLineEdit(parent), m_model(new QStandardItemModel(this)), m_going(new QTimer(this)) {
    m_going->setSingleShot(true);
    m_going->setInterval(0); // after the completer has put its words in
    connect(m_going, &QTimer::timeout, this, [this] {
        clear();
        clearFocus();
        if (const auto go = std::exchange(m_go, {})) go();
    });
    setObjectName("find");
    setPlaceholderText(tr("Find a hole, a unit or an action  Ctrl K"));
    setAccessibleName(tr("Find"));
    auto* completer = new QCompleter(m_model, this);
    completer->setFilterMode(Qt::MatchContains);
    completer->setCaseSensitivity(Qt::CaseInsensitive);
    setCompleter(completer);
    connect(completer, qOverload<const QString&>(&QCompleter::activated), this, &FindBox::take);
    connect(this, &QLineEdit::returnPressed, this, [this, completer] {
        if (text().isEmpty()) return;
        completer->setCompletionPrefix(text());
        if (completer->completionCount() > 0) take(completer->currentCompletion());
    });
}

void FindBox::setEntries(std::vector<Entry> entries) {
    m_entries = std::move(entries);
    m_model->clear();
    for (const auto& e : m_entries) m_model->appendRow(new QStandardItem(e.words));
}

void FindBox::take(const QString& words) {
    const auto found = std::ranges::find(m_entries, words, &Entry::words);
    if (found == m_entries.end()) return;
    m_go = found->go;
    m_going->start();
}

} // namespace fox::app
