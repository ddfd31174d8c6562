#include "views/value_text.h"

#include "style/theme.h"
#include "style/words.h"

#include <QAbstractTextDocumentLayout>
#include <QFocusEvent>
#include <QMenu>
#include <QPainter>
#include <QTextBlock>
#include <map>

namespace fox::app {

namespace {
constexpr int kChip = QTextFormat::UserObject + 1, kKey = QTextFormat::UserProperty + 1, kNone = QTextFormat::UserProperty + 2;
} // namespace

ValueText::ValueText(const TextRuns& runs, std::vector<SheetValue> values, QWidget* parent)
    : QTextEdit(parent), m_values(std::move(values)) {
    setAcceptRichText(false);
    setTabChangesFocus(true);
    setToolTip(tr("Text of the page; values are put in with Add value…"));
    document()->documentLayout()->registerHandler(kChip, this);
    for (const auto& r : runs) {
        if (r.value.empty())
            textCursor().insertText(qt(r.words), {});
        else
            insertChip(r.value, r.none);
    }
}

QString ValueText::wordsOf(const QString& key) const {
    const auto at = std::ranges::find(m_values, key.toStdString(), &SheetValue::key);
    if (at != m_values.end()) return qt(at->words);
    return key.mid(key.lastIndexOf(':') + 1); // of another file
}

void ValueText::insertChip(const std::string& key, const std::string& none) {
    QTextCharFormat chip;
    chip.setObjectType(kChip);
    chip.setProperty(kKey, qt(key));
    chip.setProperty(kNone, qt(none));
    chip.setVerticalAlignment(QTextCharFormat::AlignMiddle);
    auto cursor = textCursor();
    cursor.insertText(QString(QChar::ObjectReplacementCharacter), chip);
    setTextCursor(cursor);
    setCurrentCharFormat({});
}

void ValueText::insertValue(const std::string& key) { insertChip(key, ""); }

TextRuns ValueText::runs() const {
    TextRuns out;
    const auto addWords = [&](const QString& words) {
        if (words.isEmpty()) return;
        if (!out.empty() && out.back().value.empty())
            out.back().words += words.toStdString();
        else
            out.push_back({words.toStdString(), ""});
    };
    for (auto block = document()->begin(); block.isValid(); block = block.next()) {
        if (block != document()->begin()) addWords("\n");
        for (auto it = block.begin(); !it.atEnd(); ++it) {
            const auto fragment = it.fragment();
            const auto format = fragment.charFormat();
            for (const auto c : fragment.text()) {
                if (c == QChar::ObjectReplacementCharacter && format.objectType() == kChip)
                    out.push_back(
                        {"", format.property(kKey).toString().toStdString(), format.property(kNone).toString().toStdString()});
                else
                    addWords(c == QChar::LineSeparator ? QString("\n") : QString(c));
            }
        }
    }
    return out;
}

void ValueText::chooseValue(QPoint globalAt) {
    auto* menu = new QMenu(this);
    menu->setObjectName("valueMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    std::map<std::string, QMenu*> groups;
    for (const auto& v : m_values) {
        auto*& group = groups[v.of];
        if (!group) group = menu->addMenu(v.key.starts_with("ags:") ? tr("AGS group %1").arg(qt(v.of)) : begun(v.of));
        group->addAction(qt(v.words), this, [this, key = v.key] {
            insertValue(key);
            emit committed();
        });
    }
    menu->popup(globalAt);
}

QSizeF ValueText::intrinsicSize(QTextDocument*, int, const QTextFormat& format) {
    const QFontMetricsF metrics(font());
    return {metrics.horizontalAdvance(wordsOf(format.property(kKey).toString())) + 14, metrics.height() + 4};
}

void ValueText::drawObject(QPainter* painter, const QRectF& box, QTextDocument*, int, const QTextFormat& format) {
    painter->save();
    painter->setRenderHint(QPainter::Antialiasing);
    painter->setFont(font());
    painter->setPen(colour::line);
    painter->setBrush(colour::stage);
    const auto chip = box.adjusted(1, 1, -1, -1);
    painter->drawRoundedRect(chip, chip.height() / 2, chip.height() / 2);
    painter->setPen(colour::ink);
    painter->drawText(chip, Qt::AlignCenter, wordsOf(format.property(kKey).toString()));
    painter->restore();
}

void ValueText::focusOutEvent(QFocusEvent* e) {
    QTextEdit::focusOutEvent(e);
    if (e->reason() != Qt::PopupFocusReason) emit committed();
}

void ValueText::keyPressEvent(QKeyEvent* e) {
    const bool enter = e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter;
    if (enter && (e->modifiers() & Qt::ControlModifier)) return emit committed();
    QTextEdit::keyPressEvent(e);
}

} // namespace fox::app
