#include "dialogs/import_list.h"

#include "style/theme.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QScrollBar>
#include <QToolButton>

namespace fox::app {

namespace {

using FileState = ImportEntry::State; // the list has a State of its own

/// A sign for the state, told apart by its shape too.
struct StateSign {
    QColor colour;
    const char* shape;
};
StateSign signOf(FileState state) {
    switch (state) {
    case FileState::Asks: return {colour::amber, "\u25C6"};
    case FileState::Ready: return {colour::moss, "\u25CF"};
    case FileState::Nothing: return {colour::muted, "\u25CB"};
    case FileState::Reading:
    case FileState::Waiting: return {colour::slate, "\u25D4"};
    case FileState::Failed: return {colour::red, "\u25A0"};
    }
    return {colour::muted, ""};
}

} // namespace

ImportList::ImportList(QWidget* parent) : QListWidget(parent) {
    setObjectName("importList");
    setAccessibleName(tr("Files to import"));
    setFixedWidth(290);
    setVerticalScrollMode(ScrollPerPixel);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    connect(this, &QListWidget::currentRowChanged, this, [this] {
        if (!m_filling && currentId() > 0) emit chosen(currentId());
    });
}

int ImportList::currentId() const { return currentItem() ? currentItem()->data(Qt::UserRole).toInt() : 0; }

void ImportList::setEntries(const std::vector<ImportEntry>& entries, int current) {
    m_filling = true;
    const int scrolled = verticalScrollBar()->value();
    clear();
    const std::pair<QString, std::vector<FileState>> groups[] = {{tr("Needs an answer"), {FileState::Asks}},
                                                                 {tr("Ready"), {FileState::Ready}},
                                                                 {tr("Nothing to import"), {FileState::Nothing}},
                                                                 {tr("Reading"), {FileState::Reading, FileState::Waiting}},
                                                                 {tr("Can't be read"), {FileState::Failed}}};
    for (const auto& [words, states] : groups) {
        const auto of = [&states = states](const ImportEntry& e) { return std::ranges::count(states, e.state) > 0; };
        const auto n = std::ranges::count_if(entries, of);
        if (n == 0) continue;
        addHeading(words, n);
        for (const auto& e : entries)
            if (of(e)) addEntry(e, e.id == current);
    }
    verticalScrollBar()->setValue(scrolled);
    m_filling = false;
}

void ImportList::addHeading(const QString& words, std::ptrdiff_t count) {
    auto* item = new QListWidgetItem(QString("%1  %2").arg(words).arg(count), this);
    item->setFlags(Qt::NoItemFlags);
    item->setForeground(colour::muted);
    item->setFont(bodyFont(12));
}

void ImportList::addEntry(const ImportEntry& e, bool isCurrent) {
    auto* item = new QListWidgetItem(this);
    item->setData(Qt::UserRole, e.id);
    item->setData(Qt::AccessibleTextRole, e.name() + ": " + stateOf(e));
    item->setToolTip(e.name() + "\n" + stateOf(e));
    auto* row = new QWidget(this);
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(8, 5, 4, 5);
    const auto sign = signOf(e.state);
    auto* shape = new QLabel(QString::fromUtf8(sign.shape), row);
    shape->setStyleSheet(QString("color: %1;").arg(sign.colour.name()));
    line->addWidget(shape);
    auto* words = new QVBoxLayout;
    words->setSpacing(1);
    constexpr int kRoom = 185; // pixels
    auto* name = new QLabel(row);
    name->setFont(bodyFont(13, true));
    name->setText(QFontMetrics(name->font()).elidedText(e.name(), Qt::ElideMiddle, kRoom));
    auto* state = new QLabel(row);
    state->setProperty("muted", true);
    state->setText(QFontMetrics(bodyFont(12)).elidedText(stateOf(e), Qt::ElideRight, kRoom));
    words->addWidget(name);
    words->addWidget(state);
    line->addLayout(words, 1);
    auto* skip = new QToolButton(row);
    skip->setText(tr("Skip"));
    skip->setObjectName("skip_" + e.name());
    skip->setToolTip(tr("Leave %1 out of this import").arg(e.name()));
    skip->setFocusPolicy(Qt::NoFocus);
    connect(skip, &QToolButton::clicked, this, [this, id = e.id] { emit skipAsked(id); });
    line->addWidget(skip);
    item->setSizeHint({0, row->sizeHint().height()});
    setItemWidget(item, row);
    if (isCurrent) setCurrentItem(item);
}

void ImportList::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Delete && currentId() > 0) return emit skipAsked(currentId());
    if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter) return e->ignore(); // for the sheet's main button
    QListWidget::keyPressEvent(e);
}

} // namespace fox::app
