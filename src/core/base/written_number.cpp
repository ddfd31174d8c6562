#include "base/written_number.h"

#include "base/text.h"

#include <algorithm>
#include <fmt/format.h>

// A cell that is not a plain number is taken apart into digits and the signs between them. Of two different signs the last is the
// decimal sign and the other parts thousands; a sign that stands twice parts thousands; a single comma is the decimal sign unless
// exactly three digits follow, which may be either. Thousands must be whole groups of three.
namespace fox {

namespace {

constexpr std::string_view kDigits = "0123456789";

/// What leads the text and could be part of a number: digits, points, commas, blanks or apostrophes between digits.
std::string_view numberAtStart(std::string_view text) {
    std::size_t end = text.starts_with('-') || text.starts_with('+') ? 1 : 0, last = end;
    for (; end < text.size(); ++end) {
        const char c = text[end];
        if (kDigits.find(c) != kDigits.npos)
            last = end + 1;
        else if (std::string_view(".,' ").find(c) == std::string_view::npos || end != last)
            break; // two signs in a row end it
    }
    return text.substr(0, last);
}

/// Whether the groups behind the first have three digits each, and the first one to three.
bool areThousands(std::string_view digits, char sign) {
    const auto groups = split(digits, sign);
    return groups.size() > 1 && !groups[0].empty() && groups[0].size() <= 3
           && std::all_of(groups.begin() + 1, groups.end(), [](std::string_view g) { return g.size() == 3; })
           && std::ranges::all_of(groups, [](std::string_view g) { return g.find_first_not_of(kDigits) == g.npos; });
}

WrittenNumber separated(std::string_view text) {
    using Kind = WrittenNumber::Kind;
    const bool negative = text.starts_with('-');
    if (negative || text.starts_with('+')) text.remove_prefix(1);
    std::string whole, share;
    const auto last = text.find_last_of(".,");
    const char decimal = last == text.npos ? '\0' : text[last];
    const bool once = last != text.npos && std::ranges::count(text, decimal) == 1;
    const auto before = once ? text.substr(0, last) : text;
    const auto other = before.find_first_of(".,' ");
    if (other != before.npos) { // thousands, and perhaps a decimal sign behind them
        if (!areThousands(before, before[other])) return {};
        whole = before;
        std::erase(whole, before[other]);
        if (once) share = text.substr(last + 1);
    } else if (once && decimal == ',') {
        if (text.size() - last - 1 == 3 && last > 0 && last <= 3 && text[0] != '0') return {Kind::Ambiguous, {}};
        whole = before, share = text.substr(last + 1);
    } else {
        return {};
    }
    if (share.find_first_not_of(kDigits) != share.npos || share.size() + whole.size() == 0) return {};
    const auto value = parseNumber(fmt::format("{}0{}.{}0", negative ? "-" : "", whole, share));
    return value ? WrittenNumber{Kind::Separated, value} : WrittenNumber{};
}

/// Whether what follows a number can be a unit or words: nothing that could be more of the number, or a second one.
bool couldBeWords(std::string_view rest) {
    rest = trimmed(rest);
    if (rest.empty()) return false;
    const auto c = static_cast<unsigned char>(rest.front());
    return std::isalpha(c) || c >= 0x80 || c == '(' || c == '[' || c == '%' || c == '"' || c == '\'';
}

} // namespace

WrittenNumber readWrittenNumber(std::string_view text) {
    using Kind = WrittenNumber::Kind;
    text = trimmed(text);
    if (const auto value = parseNumber(text)) return {Kind::Plain, value};
    const auto number = numberAtStart(text);
    if (number.find_first_of(kDigits) == number.npos) return {};
    const auto rest = text.substr(number.size());
    if (!rest.empty() && !couldBeWords(rest)) return {};
    if (const auto value = parseNumber(number)) return {Kind::WithWords, value};
    return separated(number);
}

} // namespace fox
