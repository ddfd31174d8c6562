#pragma once
#include <string>
#include <string_view>

namespace fox {

/// How the letters of a text are put into bytes.
enum class TextEncoding { Ascii, Utf8, Latin1, Windows1252, Utf16LittleEndian, Utf16BigEndian };
const char* words(TextEncoding); ///< "Windows-1252"

struct DecodedText {
    std::string text; ///< UTF-8, without a byte-order mark
    TextEncoding encoding = TextEncoding::Ascii;
    bool hasMark = false; ///< it began with a byte-order mark
};
/// By the byte-order mark; without one UTF-16 if every other byte of the beginning is zero, UTF-8 if it is valid, else Latin-1,
/// or Windows-1252 if there are bytes that only mean something in that. Plain ASCII is passed on as it is.
DecodedText decodeText(std::string bytes);

/// Whether decodeText() would take it for UTF-16.
bool looksLikeUtf16(std::string_view bytes);

/// The text in that encoding; letters that it has not become "?". @throws Error if the system does not know the encoding
std::string encodeText(std::string_view utf8, TextEncoding, bool withMark = false);

} // namespace fox
