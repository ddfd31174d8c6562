#include "shell/application.h"

#include <exception>
#include <iostream>

namespace fox::app {

bool Application::notify(QObject* receiver, QEvent* event) {
    try {
        return QApplication::notify(receiver, event);
    } catch (const std::exception& e) {
        std::cerr << e.what() << "\n";
        emit caught(QString::fromStdString(e.what()));
    }
    return true;
}

} // namespace fox::app
