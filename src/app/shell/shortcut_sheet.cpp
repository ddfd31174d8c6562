#include "shell/shortcut_sheet.h"

#include <QAction>
#include <QHeaderView>
#include <QLineEdit>
#include <QTableWidget>
#include <QVBoxLayout>

namespace fox::app {

namespace {

/// Keys that views understand themselves.
constexpr struct {
    const char *keys, *words, *where;
} kViewKeys[] = {
    {"F", QT_TRANSLATE_NOOP("ShortcutSheet", "Show everything"),
     QT_TRANSLATE_NOOP("ShortcutSheet", "plan, section, correlation, 3D")},
    {"+  -", QT_TRANSLATE_NOOP("ShortcutSheet", "Nearer, farther"),
     QT_TRANSLATE_NOOP("ShortcutSheet", "plan, section, correlation, 3D")},
    {"Arrow keys", QT_TRANSLATE_NOOP("ShortcutSheet", "Move what is shown; turn the block"),
     QT_TRANSLATE_NOOP("ShortcutSheet", "plan, section, 3D")},
    {"Esc", QT_TRANSLATE_NOOP("ShortcutSheet", "Cancel what is being drawn, dragged or placed"),
     QT_TRANSLATE_NOOP("ShortcutSheet", "all views")},
    {"Enter", QT_TRANSLATE_NOOP("ShortcutSheet", "End what is being drawn"), QT_TRANSLATE_NOOP("ShortcutSheet", "plan, section")},
    {"Backspace", QT_TRANSLATE_NOOP("ShortcutSheet", "Take the last corner back"), QT_TRANSLATE_NOOP("ShortcutSheet", "plan")},
    {"Delete", QT_TRANSLATE_NOOP("ShortcutSheet", "Remove the touched corner, or the chosen line"),
     QT_TRANSLATE_NOOP("ShortcutSheet", "plan")},
    {"Alt", QT_TRANSLATE_NOOP("ShortcutSheet", "Held while a corner is dragged: it does not catch"),
     QT_TRANSLATE_NOOP("ShortcutSheet", "plan")},
    {"Page Down, Page Up", QT_TRANSLATE_NOOP("ShortcutSheet", "Next section, section before"),
     QT_TRANSLATE_NOOP("ShortcutSheet", "section")},
    {"K", QT_TRANSLATE_NOOP("ShortcutSheet", "Keep the log beside the next one"), QT_TRANSLATE_NOOP("ShortcutSheet", "log")},
    {"P", QT_TRANSLATE_NOOP("ShortcutSheet", "Pick the base of the chosen unit"),
     QT_TRANSLATE_NOOP("ShortcutSheet", "correlation")},
    {"Ctrl+F", QT_TRANSLATE_NOOP("ShortcutSheet", "Filter rows"), QT_TRANSLATE_NOOP("ShortcutSheet", "table")},
    {"Ctrl+C, Ctrl+V", QT_TRANSLATE_NOOP("ShortcutSheet", "Copy and paste cells"), QT_TRANSLATE_NOOP("ShortcutSheet", "table")},
};

} // namespace

ShortcutSheet::ShortcutSheet(const QList<QAction*>& actions, QWidget* parent)
    : QDialog(parent), m_search(new QLineEdit(this)), m_table(new QTableWidget(0, 3, this)) {
    setObjectName("shortcutSheet");
    setWindowTitle(tr("Keyboard shortcuts"));
    resize(620, 520);
    m_search->setObjectName("shortcutSearch");
    m_search->setPlaceholderText(tr("Search…"));
    m_search->setClearButtonEnabled(true);
    m_table->setObjectName("shortcuts");
    m_table->setAccessibleName(tr("Keyboard shortcuts"));
    m_table->setHorizontalHeaderLabels({tr("Keys"), tr("What it does"), tr("Where")});
    m_table->verticalHeader()->hide();
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setShowGrid(false);
    m_table->setColumnWidth(0, 130);
    m_table->setColumnWidth(1, 290);
    m_table->horizontalHeader()->setStretchLastSection(true);
    for (const auto* a : actions)
        if (!a->shortcut().isEmpty()) {
            auto words = a->text();
            add(a->shortcut().toString(QKeySequence::NativeText), words.remove('&'), tr("window"));
        }
    for (const auto& k : kViewKeys) add(k.keys, tr(k.words), tr(k.where));
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(m_search);
    layout->addWidget(m_table, 1);
    connect(m_search, &QLineEdit::textChanged, this, &ShortcutSheet::filter);
}

void ShortcutSheet::add(const QString& keys, const QString& words, const QString& where) {
    const int row = m_table->rowCount();
    m_table->insertRow(row);
    for (int c = 0; c < 3; ++c) m_table->setItem(row, c, new QTableWidgetItem(c == 0 ? keys : c == 1 ? words : where));
}

void ShortcutSheet::filter(const QString& text) {
    for (int row = 0; row < m_table->rowCount(); ++row) {
        bool found = text.trimmed().isEmpty();
        for (int c = 0; c < 3; ++c) found |= m_table->item(row, c)->text().contains(text.trimmed(), Qt::CaseInsensitive);
        m_table->setRowHidden(row, !found);
    }
}

} // namespace fox::app
