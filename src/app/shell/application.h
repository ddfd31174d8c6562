#pragma once
#include <QApplication>

namespace fox::app {

/// The application: what is thrown while an event is handled is said in a sentence, and never ends the program.
class Application : public QApplication {
    Q_OBJECT
public:
    using QApplication::QApplication;
    bool notify(QObject*, QEvent*) override;

signals:
    void caught(const QString& sentence);
};

} // namespace fox::app
