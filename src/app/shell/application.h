#pragma once
#include <QApplication>

namespace fox::app {

/// The application. What is thrown while an event is handled is said in a sentence, and never ends the program. The mouse
/// wheel turns a box (a choice, a number, a slider) only if the box has the focus; else it scrolls what the box is in.
class Application : public QApplication {
    Q_OBJECT
public:
    using QApplication::QApplication;
    bool notify(QObject*, QEvent*) override;

signals:
    void caught(const QString& sentence);
};

} // namespace fox::app
