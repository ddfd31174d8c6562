#pragma once
#include <QString>

namespace fox::app {

/// "1 hole", "3 holes", "12,400 points": a number with its noun. `many` is the plural where it is not `one` with an s.
QString counted(qint64 n, const char* one, const char* many = nullptr);

} // namespace fox::app
