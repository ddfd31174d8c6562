#include "shell/application.h"

#include <QAbstractSlider>
#include <QAbstractSpinBox>
#include <QComboBox>
#include <QScrollBar>
#include <QWheelEvent>
#include <exception>
#include <iostream>

namespace fox::app {

namespace {

bool isBox(const QObject* o) {
    return qobject_cast<const QComboBox*>(o) || qobject_cast<const QAbstractSpinBox*>(o)
           || (qobject_cast<const QAbstractSlider*>(o) && !qobject_cast<const QScrollBar*>(o));
}

/// The box that an event for a widget would change: itself, or the one whose field of text it is.
QWidget* boxOf(QObject* receiver) {
    if (isBox(receiver)) return static_cast<QWidget*>(receiver);
    return receiver && receiver->isWidgetType() && isBox(receiver->parent()) ? static_cast<QWidget*>(receiver->parent())
                                                                             : nullptr;
}

} // namespace

bool Application::notify(QObject* receiver, QEvent* event) {
    try {
        if (event->type() == QEvent::Polish && isBox(receiver)) // the wheel gives no focus either
            if (auto* box = static_cast<QWidget*>(receiver); box->focusPolicy() == Qt::WheelFocus)
                box->setFocusPolicy(Qt::StrongFocus);
        if (event->type() == QEvent::Wheel)
            if (auto* box = boxOf(receiver); box && !box->hasFocus() && !box->isAncestorOf(focusWidget()) && box->parentWidget())
                return QApplication::notify(box->parentWidget(), event);
        return QApplication::notify(receiver, event);
    } catch (const std::exception& e) {
        std::cerr << e.what() << "\n";
        emit caught(QString::fromStdString(e.what()));
    }
    return true;
}

} // namespace fox::app
