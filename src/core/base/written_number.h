#pragma once
#include <optional>
#include <string_view>

namespace fox {

/// A number as people write it in a cell.
struct WrittenNumber {
    enum class Kind {
        Plain,     ///< nothing but the number, with a decimal point
        WithWords, ///< a unit or words follow: "5.00m", "2.1 (dry)"
        Separated, ///< thousands are parted, or the decimal sign is a comma: "523,412.10", "12,50", "1.234,56"
        Ambiguous, ///< "12,500" may be twelve thousand five hundred or twelve and a half
        None,      ///< it is not a number: "dry", "50/75", "<5", "1 2"
    } kind = Kind::None;
    std::optional<double> value; ///< finite; none for the last two kinds
};
/// Blanks around it are allowed; a number is never cut short in silence.
WrittenNumber readWrittenNumber(std::string_view);

} // namespace fox
