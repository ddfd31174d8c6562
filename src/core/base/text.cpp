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

bool isUtf8(std::string_view s) {
    for (std::size_t i = 0; i < s.size();) {
        const auto byte = static_cast<unsigned char>(s[i]);
        const std::size_t length = byte < 0x80 ? 1 : (byte >> 5) == 6 ? 2 : (byte >> 4) == 14 ? 3 : (byte >> 3) == 30 ? 4 : 0;
        if (length == 0 || i + length > s.size()) return false;
        for (std::size_t k = 1; k < length; ++k)
            if ((static_cast<unsigned char>(s[i + k]) & 0xC0) != 0x80) return false;
        i += length;
    }
    return true;
}

} // namespace fox
