#pragma once
#include <QString>
#include <optional>

class QWidget;

namespace fox::app {

/// Asks for the coordinate system of a new project; empty: as its first file says. None if it was cancelled.
std::optional<QString> askProjectSystem(QWidget* parent);

} // namespace fox::app
