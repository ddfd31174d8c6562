#pragma once
#include <QString>
#include <string_view>

namespace fox::app {

/// Text of the core, in UTF-8, for Qt.
QString begun(std::string_view name); ///< with a capital, as it begins a line
inline QString qt(std::string_view text) { return QString::fromUtf8(text.data(), qsizetype(text.size())); }

/// "1 hole", "3 holes", "12,400 points": a number with its noun. `many` is the plural where it is not `one` with an s.
QString counted(qint64 n, const char* one, const char* many = nullptr);

} // namespace fox::app
