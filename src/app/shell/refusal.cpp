#include "shell/refusal.h"

#include <QAbstractItemView>
#include <QAbstractSpinBox>
#include <QApplication>
#include <QComboBox>
#include <QCursor>
#include <QEvent>
#include <QLineEdit>

namespace fox::app {

namespace {

/// What the user is at, in coordinates of the screen: a field, a cell of a table, or the cursor.
QRect whereTheHandIs(const QWidget* window) {
    const auto onScreen = [](const QWidget* widget, const QRect& part) {
        return QRect(widget->mapToGlobal(part.topLeft()), part.size());
    };
    const auto* focus = QApplication::focusWidget();
    if (focus && focus->window() == window) {
        if (qobject_cast<const QLineEdit*>(focus) || qobject_cast<const QAbstractSpinBox*>(focus)
            || qobject_cast<const QComboBox*>(focus))
            return onScreen(focus, focus->rect());
        if (const auto* table = qobject_cast<const QAbstractItemView*>(focus); table && table->currentIndex().isValid())
            return onScreen(table->viewport(), table->visualRect(table->currentIndex()));
    }
    return {QCursor::pos() - QPoint(2, 10), QSize(4, 20)};
}

/// Where a refusal stands: in the dialog of this window that the user is at, or in the window itself. Another window that is
/// active at the moment (a restore point, help) has nothing to do with it.
QWidget* placeOf(QWidget* home) {
    auto* active = QApplication::activeWindow();
    for (auto* at = active; at; at = at->parentWidget())
        if (at == home) return active;
    return home;
}

} // namespace

Refusal::Refusal(QWidget* home) : QObject(home), m_home(home) { qApp->installEventFilter(this); }

void Refusal::say(const QString& sentence) {
    hide();
    if (sentence.isEmpty()) return;
    auto* window = placeOf(m_home);
    m_label = new QLabel(sentence, window);
    m_label->setObjectName("refusal");
    m_label->setWordWrap(true);
    m_label->setAttribute(Qt::WA_TransparentForMouseEvents); // what is under it can still be pressed
    constexpr int kWidth = 340, kGap = 4, kMargin = 8;       // pixels
    m_label->setFixedWidth(std::min(kWidth, window->width() - 2 * kMargin));
    m_label->adjustSize();
    const auto hand = whereTheHandIs(window);
    const auto below = window->mapFromGlobal(hand.bottomLeft()) + QPoint(0, kGap);
    const auto above = window->mapFromGlobal(hand.topLeft()) - QPoint(0, kGap + m_label->height());
    const bool fits = below.y() + m_label->height() + kMargin <= window->height();
    const int rightmost = window->width() - m_label->width() - kMargin;
    m_label->move(std::clamp(below.x(), kMargin, std::max(kMargin, rightmost)), std::max(kMargin, fits ? below.y() : above.y()));
    m_label->show();
    m_label->raise();
}

void Refusal::hide() {
    if (m_label) m_label->deleteLater();
    m_label.clear();
}

bool Refusal::eventFilter(QObject* receiver, QEvent* e) {
    // as the window gets it: the press that leaves a field comes to a widget only after the field's refusal
    const bool press = e->type() == QEvent::KeyPress || e->type() == QEvent::MouseButtonPress;
    if (m_label && press && receiver->isWindowType()) hide();
    return false;
}

} // namespace fox::app
