#include "base/text.h"

#include <algorithm>
#include <charconv>
#include <cmath>

namespace fox {

namespace {
char upperChar(char c) { return c >= 'a' && c <= 'z' ? char(c - 32) : c; }
char lowerChar(char c) { return c >= 'A' && c <= 'Z' ? char(c + 32) : c; }
} // namespace

std::string_view trimmed(std::string_view s) {
    const auto first = s.find_first_not_of(" \t\r\n");
    if (first == s.npos) return {};
    return s.substr(first, s.find_last_not_of(" \t\r\n") - first + 1);
}

std::string upper(std::string_view s) {
    std::string out(s);
    std::ranges::transform(out, out.begin(), upperChar);
    return out;
}

std::string lower(std::string_view s) {
    std::string out(s);
    std::ranges::transform(out, out.begin(), lowerChar);
    return out;
}

bool equalNoCase(std::string_view a, std::string_view b) { return std::ranges::equal(a, b, {}, lowerChar, lowerChar); }

std::vector<std::string_view> split(std::string_view s, char separator) {
    std::vector<std::string_view> out;
    for (;;) {
        const auto at = s.find(separator);
        out.push_back(s.substr(0, at));
        if (at == s.npos) return out;
        s.remove_prefix(at + 1);
    }
}

std::optional<double> parseLeadingNumber(std::string_view s) {
    s = trimmed(s);
    if (s.starts_with('+')) s.remove_prefix(1);
    // from_chars would take "inf" and "nan"
    if (s.empty() || s.find_first_of("0123456789") == s.npos || s.find_first_of("0123456789.-") != 0) return {};
    double value = 0;
    const auto [end, error] = std::from_chars(s.data(), s.data() + s.size(), value);
    if (error != std::errc() || !std::isfinite(value)) return {};
    return value;
}

std::optional<double> parseNumber(std::string_view s) {
    s = trimmed(s);
    if (s.starts_with('+')) s.remove_prefix(1);
    double value = 0;
    const auto [end, error] = std::from_chars(s.data(), s.data() + s.size(), value);
    if (error != std::errc() || end != s.data() + s.size() || !std::isfinite(value)) return {};
    return value;
}

std::string counted(std::size_t n, std::string_view one, std::string_view many) {
    auto out = std::to_string(n) + ' ';
    if (n == 1) return out.append(one);
    return many.empty() ? out.append(one) + 's' : out.append(many);
}

std::string latin1ToUtf8(std::string_view s) {
    std::string out;
    out.reserve(s.size() + s.size() / 16);
    for (const char c : s) {
        const auto byte = static_cast<unsigned char>(c);
        if (byte < 0x80)
            out += c;
        else
            out += {char(0xC0 | (byte >> 6)), char(0x80 | (byte & 0x3F))};
    }
    return out;
}

namespace {

/// How many bytes the character at the start of `s` has, by the table of well-formed sequences of the Unicode standard (3-7):
/// no overlong forms, no surrogates, nothing beyond U+10FFFF. 0: it is not one.
std::size_t characterLength(std::string_view s) {
    const auto byte = [&](std::size_t i) { return i < s.size() ? static_cast<unsigned char>(s[i]) : 0u; };
    const auto within = [&](std::size_t i, unsigned low, unsigned high) { return byte(i) >= low && byte(i) <= high; };
    const auto lead = byte(0);
    if (lead < 0x80) return 1;
    if (lead >= 0xC2 && lead <= 0xDF) return within(1, 0x80, 0xBF) ? 2 : 0;
    if (lead >= 0xE0 && lead <= 0xEF) {
        const unsigned low = lead == 0xE0 ? 0xA0 : 0x80, high = lead == 0xED ? 0x9F : 0xBF;
        return within(1, low, high) && within(2, 0x80, 0xBF) ? 3 : 0;
    }
    if (lead >= 0xF0 && lead <= 0xF4) {
        const unsigned low = lead == 0xF0 ? 0x90 : 0x80, high = lead == 0xF4 ? 0x8F : 0xBF;
        return within(1, low, high) && within(2, 0x80, 0xBF) && within(3, 0x80, 0xBF) ? 4 : 0;
    }
    return 0;
}

} // namespace

bool isUtf8(std::string_view s) {
    while (!s.empty()) {
        const auto length = characterLength(s);
        if (length == 0) return false;
        s.remove_prefix(length);
    }
    return true;
}

std::string toUtf8(std::string_view s) {
    std::string out;
    out.reserve(s.size());
    while (!s.empty()) {
        const auto length = characterLength(s);
        out += length > 0 ? s.substr(0, length) : std::string_view("\xEF\xBF\xBD"); // U+FFFD
        s.remove_prefix(std::max<std::size_t>(1, length));
    }
    return out;
}

std::string safeFileName(std::string_view name) {
    if (const auto slash = name.find_last_of("/\\"); slash != name.npos) name.remove_prefix(slash + 1);
    std::string out;
    for (const char c : toUtf8(name)) out += static_cast<unsigned char>(c) < 0x20 || c == 0x7F || c == ':' ? '_' : c;
    return out.empty() || out == "." || out == ".." ? "file" : out;
}

} // namespace fox
