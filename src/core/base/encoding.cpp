#include "base/encoding.h"

#include "base/errors.h"
#include "base/text.h"

#include <algorithm>
#include <cerrno>
#include <fmt/format.h>
#include <iconv.h>
#include <memory>
#include <optional>

namespace fox {

namespace {

constexpr std::string_view kMark8 = "\xEF\xBB\xBF", kMark16Little = "\xFF\xFE", kMark16Big = "\xFE\xFF";

/// What the system's library calls an encoding.
const char* systemName(TextEncoding encoding) {
    switch (encoding) {
    case TextEncoding::Ascii: return "ASCII";
    case TextEncoding::Utf8: return "UTF-8";
    case TextEncoding::Latin1: return "ISO-8859-1";
    case TextEncoding::Windows1252: return "WINDOWS-1252";
    case TextEncoding::Utf16LittleEndian: return "UTF-16LE";
    case TextEncoding::Utf16BigEndian: return "UTF-16BE";
    }
    return "ASCII";
}

class Converter {
public:
    Converter(const char* to, const char* from) : m_handle(iconv_open(to, from)) {
        if (m_handle == iconv_t(-1)) throw Error(fmt::format("This system can't convert text from {} to {}.", from, to));
    }
    ~Converter() { iconv_close(m_handle); }
    Converter(const Converter&) = delete;
    Converter& operator=(const Converter&) = delete;

    /// What can't be converted is handed to `skip(rest)`, which says how many bytes of it to pass over and what stands for them;
    /// none of it if that is nothing.
    template <typename Skip>
    std::optional<std::string> convert(std::string_view bytes, Skip&& skip) {
        std::string out;
        out.reserve(bytes.size() + bytes.size() / 8);
        char buffer[4096];
        auto* in = const_cast<char*>(bytes.data()); // the library's interface is older than const
        std::size_t left = bytes.size();
        while (left > 0) {
            char* to = buffer;
            std::size_t room = sizeof buffer;
            const auto result = iconv(m_handle, &in, &left, &to, &room);
            out.append(buffer, std::size_t(to - buffer));
            if (result != std::size_t(-1) || errno == E2BIG) continue;
            const std::optional<std::pair<std::size_t, std::string_view>> passed = skip(std::string_view(in, left));
            if (!passed) return {};
            const auto n = std::min(left, passed->first);
            in += n, left -= n;
            out += passed->second;
        }
        return out;
    }

private:
    iconv_t m_handle;
};

using Passed = std::optional<std::pair<std::size_t, std::string_view>>;

std::string fromUtf16(std::string_view bytes, TextEncoding encoding) {
    constexpr std::string_view kReplacement = "\xEF\xBF\xBD"; // U+FFFD
    return *Converter("UTF-8", systemName(encoding)).convert(bytes, [&](std::string_view) { return Passed({2, kReplacement}); });
}

/// Text without a mark whose every other byte is zero.
std::optional<TextEncoding> unmarked16(std::string_view bytes) {
    const auto head = bytes.substr(0, 256);
    if (head.size() < 8) return {};
    std::size_t zeros[2] = {};
    for (std::size_t i = 0; i < head.size(); ++i) zeros[i % 2] += head[i] == '\0';
    const auto half = head.size() / 2;
    if (zeros[1] * 10 > half * 9 && zeros[0] == 0) return TextEncoding::Utf16LittleEndian;
    if (zeros[0] * 10 > half * 9 && zeros[1] == 0) return TextEncoding::Utf16BigEndian;
    return {};
}

/// Block by block, so that a whole file is looked at no slower than it is copied.
bool isAscii(std::string_view bytes) {
    constexpr std::size_t kBlock = 4096;
    for (; !bytes.empty(); bytes.remove_prefix(std::min(kBlock, bytes.size()))) {
        unsigned char any = 0;
        for (const char c : bytes.substr(0, kBlock)) any = static_cast<unsigned char>(any | static_cast<unsigned char>(c));
        if (any >= 0x80) return false;
    }
    return true;
}

/// A control character of Latin-1, which no text has: letters and signs of Windows-1252.
bool isControl1(char c) {
    const auto byte = static_cast<unsigned char>(c);
    return byte >= 0x80 && byte < 0xA0;
}

} // namespace

const char* words(TextEncoding encoding) {
    switch (encoding) {
    case TextEncoding::Latin1: return "Latin-1";
    case TextEncoding::Windows1252: return "Windows-1252";
    case TextEncoding::Utf16LittleEndian:
    case TextEncoding::Utf16BigEndian: return "UTF-16";
    default: return systemName(encoding);
    }
}

bool looksLikeUtf16(std::string_view bytes) {
    return bytes.starts_with(kMark16Little) || bytes.starts_with(kMark16Big) || unmarked16(bytes).has_value();
}

DecodedText decodeText(std::string bytes) {
    DecodedText out;
    if (looksLikeUtf16(bytes)) {
        out.hasMark = bytes.starts_with(kMark16Little) || bytes.starts_with(kMark16Big);
        out.encoding = bytes.starts_with(kMark16Little) ? TextEncoding::Utf16LittleEndian
                       : out.hasMark                    ? TextEncoding::Utf16BigEndian
                                                        : *unmarked16(bytes);
        out.text = fromUtf16(std::string_view(bytes).substr(out.hasMark ? 2 : 0), out.encoding);
        return out;
    }
    if (bytes.starts_with(kMark8)) {
        out.hasMark = true;
        bytes.erase(0, kMark8.size());
    }
    if (isAscii(bytes)) {
        out.encoding = out.hasMark ? TextEncoding::Utf8 : TextEncoding::Ascii;
        out.text = std::move(bytes);
    } else if (isUtf8(bytes)) {
        out.encoding = TextEncoding::Utf8;
        out.text = std::move(bytes);
    } else if (std::ranges::none_of(bytes, isControl1)) {
        out.encoding = TextEncoding::Latin1; // nothing tells it from Windows-1252
        out.text = latin1ToUtf8(bytes);
    } else if (auto text = Converter("UTF-8", "WINDOWS-1252").convert(bytes, [](std::string_view) { return Passed(); })) {
        out.encoding = TextEncoding::Windows1252;
        out.text = std::move(*text);
    } else {
        out.encoding = TextEncoding::Latin1;
        out.text = latin1ToUtf8(bytes);
    }
    return out;
}

std::string encodeText(std::string_view utf8, TextEncoding encoding, bool withMark) {
    std::string out;
    if (withMark)
        out = encoding == TextEncoding::Utf16LittleEndian ? kMark16Little
              : encoding == TextEncoding::Utf16BigEndian  ? kMark16Big
                                                          : kMark8;
    if (encoding == TextEncoding::Utf8) return out.append(utf8);
    const auto size = [](char first) {
        const auto byte = static_cast<unsigned char>(first);
        return std::size_t(byte >= 0xF0 ? 4 : byte >= 0xE0 ? 3 : byte >= 0xC0 ? 2 : 1);
    };
    const std::string_view unknown = encoding == TextEncoding::Utf16LittleEndian ? std::string_view("?\0", 2)
                                     : encoding == TextEncoding::Utf16BigEndian  ? std::string_view("\0?", 2)
                                                                                 : std::string_view("?");
    return out += *Converter(systemName(encoding), "UTF-8").convert(utf8, [&](std::string_view rest) {
        return Passed({size(rest.front()), unknown});
    });
}

} // namespace fox
