#include "dialogs/import_list.h"

#include "style/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QScrollBar>
#include <QStyledItemDelegate>

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
    case FileState::Ready: return {colour::green, "\u25CF"};
    case FileState::Nothing: return {colour::muted, "\u25CB"};
    case FileState::Reading:
    case FileState::Waiting: return {colour::slate, "\u25D4"};
    case FileState::Failed: return {colour::red, "\u25A0"};
    }
    return {colour::muted, ""};
}

constexpr int kStateRole = Qt::UserRole + 1, kWordsRole = Qt::UserRole + 2; ///< of an item, beside the file's id

/// Draws a file: a sign, its name over what was understood, and Skip. Painted, for there may be hundreds.
class EntryPainter : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;

    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        return isFile(index) ? QSize(0, kHeight) : QStyledItemDelegate::sizeHint(option, index);
    }

    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        if (!isFile(index)) return QStyledItemDelegate::paint(painter, option, index);
        auto plain = option;
        initStyleOption(&plain, index);
        plain.text.clear();
        const auto* style = option.widget->style();
        style->drawControl(QStyle::CE_ItemViewItem, &plain, painter, option.widget); // the ground, chosen or not
        painter->save();
        const auto sign = signOf(FileState(index.data(kStateRole).toInt()));
        const QRect all = option.rect.adjusted(8, 4, -6, -4);
        painter->setFont(bodyFont(13));
        painter->setPen(sign.colour);
        painter->drawText(QRect(all.left(), all.top(), kSign, all.height()), Qt::AlignVCenter, QString::fromUtf8(sign.shape));
        const QRect words(all.left() + kSign, all.top(), all.width() - kSign - skipRect(option.rect).width() - 6, all.height());
        const auto line = [&](const QString& text, const QFont& font, const QColor& pen, Qt::Alignment at,
                              Qt::TextElideMode elide) {
            painter->setFont(font);
            painter->setPen(pen);
            painter->drawText(words, at, QFontMetrics(font).elidedText(text, elide, words.width()));
        };
        line(index.data(Qt::DisplayRole).toString(), bodyFont(13, true), colour::ink, Qt::AlignTop, Qt::ElideMiddle);
        line(index.data(kWordsRole).toString(), bodyFont(12), colour::muted, Qt::AlignBottom, Qt::ElideRight);
        const auto skip = skipRect(option.rect);
        painter->setRenderHint(QPainter::Antialiasing);
        painter->setPen(colour::line);
        painter->setBrush(colour::paper);
        painter->drawRoundedRect(QRectF(skip).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4);
        painter->setPen(colour::ink);
        painter->setFont(bodyFont(12));
        painter->drawText(skip, Qt::AlignCenter, ImportList::tr("Skip"));
        painter->restore();
    }

    static QRect skipRect(const QRect& row) {
        constexpr int kWide = 44, kHigh = 24;
        return {row.right() - kWide - 6, row.center().y() - kHigh / 2, kWide, kHigh};
    }

private:
    static constexpr int kHeight = 46, kSign = 20;
    static bool isFile(const QModelIndex& index) { return index.data(Qt::UserRole).toInt() > 0; }
};

} // namespace

ImportList::ImportList(QWidget* parent) : QListWidget(parent) {
    setObjectName("importList");
    setAccessibleName(tr("Files to import"));
    setFixedWidth(290);
    setVerticalScrollMode(ScrollPerPixel);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setItemDelegate(new EntryPainter(this));
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
    item->setText(e.name());
    item->setData(kStateRole, int(e.state));
    item->setData(kWordsRole, stateOf(e));
    if (isCurrent) setCurrentItem(item);
}

QRect ImportList::skipRect(const QString& name) const {
    const auto items = findItems(name, Qt::MatchExactly);
    return items.isEmpty() ? QRect() : EntryPainter::skipRect(visualItemRect(items.front()));
}

int ImportList::skipAt(QPoint at) const {
    const auto* item = itemAt(at);
    const int id = item ? item->data(Qt::UserRole).toInt() : 0;
    return id > 0 && EntryPainter::skipRect(visualItemRect(item)).contains(at) ? id : 0;
}

/// Skip neither chooses the file nor fills the list anew before the button is let go.
void ImportList::mousePressEvent(QMouseEvent* e) {
    m_pressed = e->button() == Qt::LeftButton ? skipAt(e->position().toPoint()) : 0;
    if (m_pressed == 0) QListWidget::mousePressEvent(e);
}

void ImportList::mouseReleaseEvent(QMouseEvent* e) {
    const int pressed = std::exchange(m_pressed, 0);
    if (pressed == 0) return QListWidget::mouseReleaseEvent(e);
    if (skipAt(e->position().toPoint()) == pressed) emit skipAsked(pressed);
}

void ImportList::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Delete && currentId() > 0) return emit skipAsked(currentId());
    if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter) return e->ignore(); // for the sheet's main button
    QListWidget::keyPressEvent(e);
}

} // namespace fox::app
