// Rule 8: values by their types.
#include "base/text.h"
#include "formats/ags_check.h"

#include <algorithm>

namespace fox {

namespace {

bool isDigit(char c) { return c >= '0' && c <= '9'; }
bool allDigits(std::string_view s) { return !s.empty() && std::ranges::all_of(s, isDigit); }

/// "3DP" -> 3, if it ends so.
std::optional<int> countBefore(std::string_view type, std::string_view ending) {
    if (!type.ends_with(ending) || type.size() == ending.size()) return {};
    const auto digits = type.substr(0, type.size() - ending.size());
    return allDigits(digits) && digits.size() <= 2 ? std::optional(int(*parseNumber(digits))) : std::nullopt;
}

/// Digits with exactly so many behind a point; its value need not be known.
bool fitsDecimals(std::string_view value, int decimals) {
    if (value.starts_with('-')) value.remove_prefix(1);
    std::size_t whole = 0;
    while (whole < value.size() && isDigit(value[whole])) ++whole;
    if (decimals == 0) return whole > 0 && whole == value.size();
    if (whole == value.size() || value[whole] != '.') return false;
    const auto behind = value.substr(whole + 1);
    return int(behind.size()) == decimals && std::ranges::all_of(behind, isDigit);
}

bool fitsSignificant(std::string_view value, int figures) {
    const auto number = parseNumber(value);
    if (!number || value.find_first_of("eE") != value.npos) return false;
    if (*number == 0) return true;
    std::string digits;
    for (const char c : value)
        if (isDigit(c) && !(digits.empty() && c == '0')) digits += c;
    if (int(digits.size()) == figures) return true;
    // trailing zeros of a whole number may or may not count: 1200 to two figures
    return value.find('.') == value.npos && int(digits.size()) > figures && digits.find_last_not_of('0') < std::size_t(figures);
}

bool fitsScientific(std::string_view value, int decimals) {
    const auto e = value.find_first_of("eE");
    if (e == value.npos || !parseNumber(value)) return false;
    const auto mantissa = value.substr(0, e);
    const auto point = mantissa.find('.');
    return decimals == 0 ? point == mantissa.npos : point != mantissa.npos && int(mantissa.size() - point - 1) == decimals;
}

/// A date or time as its unit shows it: letters of the pattern stand for digits, the rest for itself.
bool fitsPattern(std::string_view value, std::string_view pattern) {
    if (value.size() != pattern.size()) return false;
    for (std::size_t i = 0; i < value.size(); ++i) {
        const char p = pattern[i];
        const bool letter = p == 'y' || p == 'm' || p == 'd' || p == 'h' || p == 's';
        if (letter ? !isDigit(value[i]) : value[i] != p) return false;
    }
    const auto part = [&](std::string_view letters, std::size_t from = 0) -> std::optional<int> {
        const auto at = pattern.find(letters, from);
        return at == pattern.npos ? std::nullopt : std::optional(int(*parseNumber(value.substr(at, letters.size()))));
    };
    const auto hours = pattern.find("hh");
    const auto inside = [](std::optional<int> n, int low, int high) { return !n || (*n >= low && *n <= high); };
    if (const auto year = part("yyyy"); year || part("dd")) {
        const auto month = pattern.find("mm");
        if (month != pattern.npos && (hours == pattern.npos || month < hours) && !inside(part("mm"), 1, 12)) return false;
        static constexpr int kDays[] = {31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31};
        const int m = part("mm").value_or(1);
        if (!inside(part("dd"), 1, m >= 1 && m <= 12 ? kDays[m - 1] : 31)) return false;
        const int y = year.value_or(2000);
        if (m == 2 && part("dd").value_or(1) == 29 && !(y % 4 == 0 && (y % 100 != 0 || y % 400 == 0))) return false;
        return inside(part("hh"), 0, 23) && (hours == pattern.npos || inside(part("mm", hours), 0, 59))
               && inside(part("ss"), 0, 59);
    }
    return (hours == pattern.npos || inside(part("mm", hours), 0, 59)) && inside(part("ss"), 0, 59);
}

/// hh:mm:ss without a pattern: digits in groups.
bool fitsElapsed(std::string_view value) {
    for (const auto group : split(value, ':'))
        if (!allDigits(group)) return false;
    return true;
}

/// Degrees, minutes and seconds, as 51:28:52.498 or with the signs.
bool fitsDegrees(std::string_view value) {
    return std::ranges::any_of(value, isDigit) && std::ranges::all_of(value, [](char c) {
               return isDigit(c) || c < 0 || std::string_view(":.-+ '\"NSEWnsew").find(c) != std::string_view::npos;
           });
}

} // namespace

bool isAgsType(std::string_view type) {
    static constexpr std::string_view kPlain[] = {"ID", "PA", "PT", "PU",  "X",  "XN", "T",
                                                  "DT", "MC", "U",  "DMS", "YN", "RL", "RECORD LINK"};
    return std::ranges::count(kPlain, type) > 0 || countBefore(type, "DP") || countBefore(type, "SF") || countBefore(type, "SCI");
}

AgsTypeTest::AgsTypeTest(std::string_view type, std::string_view unit) : m_pattern(unit) {
    const auto figures = [&](const char* ending, Kind kind) {
        const auto n = m_kind == Kind::Any ? countBefore(type, ending) : std::nullopt;
        if (n) m_kind = kind, m_figures = *n;
    };
    figures("DP", Kind::Decimals), figures("SF", Kind::Significant), figures("SCI", Kind::Scientific);
    if (type == "U" || type == "MC") m_kind = Kind::Number;
    if (type == "YN") m_kind = Kind::YesNo;
    if (type == "DMS") m_kind = Kind::Degrees;
    if (type == "DT") m_kind = Kind::Pattern;
    if (type == "DT" && unit.empty()) m_pattern = "yyyy-mm-dd";
    if (type == "T") m_kind = unit.find(':') == unit.npos ? Kind::Elapsed : Kind::Pattern;
}

bool AgsTypeTest::fits(std::string_view value) const {
    if (value.empty()) return true;
    switch (m_kind) {
    case Kind::Any: return true;
    case Kind::Decimals: return fitsDecimals(value, m_figures);
    case Kind::Significant: return fitsSignificant(value, m_figures);
    case Kind::Scientific: return fitsScientific(value, m_figures);
    case Kind::Number: return parseNumber(value).has_value();
    case Kind::YesNo: return value == "Y" || value == "N";
    case Kind::Degrees: return fitsDegrees(value);
    case Kind::Pattern: return fitsPattern(value, m_pattern);
    case Kind::Elapsed: return fitsElapsed(value);
    }
    return true;
}

bool fitsType(std::string_view value, std::string_view type, std::string_view unit) {
    return AgsTypeTest(type, unit).fits(value);
}

} // namespace fox
