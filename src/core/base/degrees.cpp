#include "base/degrees.h"

#include "base/text.h"

#include <cmath>

namespace fox {

namespace {

/// Signs of degrees, minutes and seconds, typed or typeset, as blanks.
std::string withoutSigns(std::string text) {
    static constexpr std::string_view kSigns[] = {
        "\xC2\xB0", "\xC2\xBA", "\xE2\x80\xB2", "\xE2\x80\xB3", "\xE2\x80\x99", "\xE2\x80\x9D", "\xC2\xB4", "'", "\"", ":"};
    for (const auto sign : kSigns)
        for (auto at = text.find(sign); at != text.npos; at = text.find(sign, at)) text.replace(at, sign.size(), 1, ' ');
    return text;
}

/// Takes N, S, E or W from either end; -1 for south and west, 0 if there is none.
int takeHemisphere(std::string_view& text) {
    const auto signOf = [](char c) {
        return std::string_view("NnEe").find(c) != std::string_view::npos   ? 1
               : std::string_view("SsWw").find(c) != std::string_view::npos ? -1
                                                                            : 0;
    };
    text = trimmed(text);
    if (text.size() < 2) return 0;
    const int behind = signOf(text.back()), before = signOf(text.front());
    if (behind != 0)
        text.remove_suffix(1);
    else if (before != 0)
        text.remove_prefix(1);
    return behind != 0 ? behind : before;
}

} // namespace

std::optional<double> parseDegrees(std::string_view written) {
    const auto bare = withoutSigns(std::string(written));
    std::string_view text = bare;
    const int hemisphere = takeHemisphere(text);
    std::vector<double> parts;
    bool negative = false;
    for (const auto word : split(text, ' ')) {
        if (word.empty()) continue;
        std::string number(word);
        if (number.find('.') == number.npos)
            if (const auto comma = number.find(','); comma != number.npos) number[comma] = '.';
        const auto value = parseNumber(number);
        if (!value || parts.size() == 3) return {};
        if (!parts.empty() && (parts.back() != std::floor(parts.back()) || !(*value >= 0 && *value < 60))) return {};
        if (parts.empty()) negative = number.starts_with('-');
        parts.push_back(std::abs(*value));
    }
    if (parts.empty() || (negative && hemisphere != 0)) return {};
    double degrees = 0, share = 1;
    for (const double part : parts) degrees += part * share, share /= 60;
    if (degrees > 180) return {};
    return negative || hemisphere < 0 ? -degrees : degrees;
}

} // namespace fox
