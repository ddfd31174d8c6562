#pragma once
#include <concepts>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace fox {

std::string_view trimmed(std::string_view);
std::string upper(std::string_view); ///< ASCII letters only
std::string lower(std::string_view); ///< ASCII letters only
bool equalNoCase(std::string_view, std::string_view);
/// The parts between separators, always one at least: views of the text, which must outlive them.
std::vector<std::string_view> split(std::string_view, char separator);
template <std::same_as<std::string> T>
std::vector<std::string_view> split(T&&, char separator) = delete; // the parts of a temporary would dangle

/// The whole text as a finite decimal number, blanks around it allowed, the same in every locale.
std::optional<double> parseNumber(std::string_view);
/// As parseNumber, but a unit may follow the number ("3.50m"); empty if nothing leads as a number.
std::optional<double> parseLeadingNumber(std::string_view);

/// "1 hole", "3 holes", "12 boundaries": a number with its noun. `many` is the plural where it is not `one` with an s.
std::string counted(std::size_t n, std::string_view one, std::string_view many = {});

/// Latin-1 bytes as UTF-8.
std::string latin1ToUtf8(std::string_view);
bool isUtf8(std::string_view); ///< well formed by the Unicode standard: no surrogates, nothing overlong
/// The same text with U+FFFD for every byte that is part of no character.
std::string toUtf8(std::string_view);
/// A name for a file in a folder, of a name that came with data: without folders and control characters, never empty.
std::string safeFileName(std::string_view);

} // namespace fox
