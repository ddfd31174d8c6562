#include "formats/ags.h"

#include "base/files.h"
#include "base/text.h"
#include "formats/ags_reader.h"

#include <algorithm>
#include <fmt/format.h>

namespace fox {

std::optional<std::size_t> AgsGroup::column(std::string_view heading) const {
    for (std::size_t i = 0; i < headings.size(); ++i)
        if (equalNoCase(headings[i], heading)) return i;
    return {};
}

std::string_view AgsGroup::unit(std::size_t row, std::size_t column) const {
    const auto piece = std::size_t(rows[row].piece);
    const auto& of = piece == 0 ? units : laterPieces[piece - 1].units;
    return column < of.size() ? std::string_view(of[column]) : std::string_view();
}

void AgsGroup::addHeading(const std::string& heading) {
    std::vector<std::string_view> widened;
    widened.reserve(cells.size() + rows.size());
    for (auto& row : rows) {
        const auto first = widened.size();
        for (std::size_t c = 0; c < headings.size(); ++c) widened.push_back(cells[row.firstCell + c]);
        widened.emplace_back();
        row.firstCell = first;
    }
    cells = std::move(widened);
    headings.push_back(heading);
}

const AgsGroup* AgsFile::group(std::string_view wanted) const {
    for (const auto& g : groups)
        if (equalNoCase(g.name, wanted)) return &g;
    return nullptr;
}

namespace {

std::optional<AgsEdition> editionOf(std::string_view bytes) {
    int looked = 0;
    while (!bytes.empty() && looked++ < 400) {
        const auto end = bytes.find_first_of("\r\n");
        const auto word = firstAgsWord(bytes.substr(0, end));
        if (equalNoCase(word, "GROUP")) return AgsEdition::Ags4;
        if (word.starts_with("**")) return AgsEdition::Ags3;
        if (end == bytes.npos) break;
        bytes.remove_prefix(end + 1);
    }
    return {};
}

/// The edition as the file tells it.
std::string versionOf(const AgsFile& file) {
    const bool four = file.edition == AgsEdition::Ags4;
    const auto* group = file.group(four ? "TRAN" : "PROJ");
    if (group && !group->rows.empty())
        if (const auto column = group->column(four ? "TRAN_AGS" : "PROJ_AGS"))
            if (const auto said = trimmed(group->cell(0, *column)); !said.empty()) return std::string(said);
    return four ? "4" : "3";
}

/// Every character that rule 1 does not allow, by its line and column; of many the first ones and their number.
void sayWhatIsNotAscii(AgsFile& file, std::string_view text) {
    if (file.encoding == TextEncoding::Ascii) return;
    const auto rule = fmt::format("AGS{} Rule 1", file.edition == AgsEdition::Ags4 ? 4 : 3);
    const auto say = [&](Severity severity, int line, std::string sentence) {
        file.findings.push_back({severity, rule, file.name, line, "", "", "", std::move(sentence)});
    };
    say(Severity::Error, 1, fmt::format("The file is not plain ASCII; it is read as {}.", words(file.encoding)));
    constexpr std::size_t kSaid = 20;
    std::size_t found = 0;
    int line = 1, column = 0, lastLine = 1;
    const auto isInside = [](char c) { return (static_cast<unsigned char>(c) & 0xC0) == 0x80; }; // of a letter of several bytes
    for (std::size_t i = 0; i < text.size(); ++i) {
        if (text[i] == '\n') ++line, column = 0;
        if (text[i] == '\n' || isInside(text[i])) continue;
        ++column;
        if (text[i] >= 0) continue;
        lastLine = line;
        if (++found > kSaid) continue;
        auto end = i + 1;
        while (end < text.size() && isInside(text[end])) ++end;
        say(Severity::Error, line,
            fmt::format("Column {} is \"{}\", which is not an ASCII character.", column, text.substr(i, end - i)));
    }
    if (found > kSaid)
        say(Severity::Error, lastLine,
            counted(found - kSaid, "more character is not ASCII, the last on this line.",
                    "more characters are not ASCII, the last on this line."));
}

} // namespace

AgsText agsText(std::string bytes) {
    auto decoded = decodeText(std::move(bytes));
    AgsText out{std::move(decoded.text), decoded.encoding, decoded.hasMark, false};
    if (out.text.find('\n') == out.text.npos && out.text.find('\r') != out.text.npos) {
        out.carriageReturnOnly = true;
        std::ranges::replace(out.text, '\r', '\n');
    }
    return out;
}

std::string agsBytes(AgsText text) {
    if (text.carriageReturnOnly) std::ranges::replace(text.text, '\n', '\r');
    return encodeText(text.text, text.encoding, text.hasMark);
}

bool looksLikeAgs(std::string_view bytes) {
    constexpr std::size_t kLooked = 100'000;
    if (!looksLikeUtf16(bytes)) return editionOf(bytes).has_value();
    return editionOf(decodeText(std::string(bytes.substr(0, kLooked))).text).has_value();
}

AgsFile readAgs(std::string bytes, std::string name, const Progress& progress) {
    if (trimmed(std::string_view(bytes).substr(0, 4096)).empty() && trimmed(bytes).empty())
        throw FileError(fmt::format("{} is empty: there is nothing in it to read.", name));
    auto text = agsText(std::move(bytes));
    const auto edition = editionOf(text.text);
    if (!edition)
        throw FileError(fmt::format("{} is not an AGS file: no line begins with \"GROUP\" (AGS 4) or \"**\" (AGS 3).", name));
    AgsFile file;
    file.name = std::move(name);
    file.edition = *edition;
    file.encoding = text.encoding;
    file.hasMark = text.hasMark;
    if (text.hasMark)
        file.findings.push_back({Severity::Error, fmt::format("AGS{} Rule 1", file.edition == AgsEdition::Ags4 ? 4 : 3),
                                 file.name, 1, "", "", "", "The file begins with a byte-order mark; it is passed over."});
    sayWhatIsNotAscii(file, text.text);
    auto own = std::make_shared<std::string>(std::move(text.text));
    readAgsRows(file, *own, progress);
    file.text = std::move(own);
    file.version = versionOf(file);
    return file;
}

AgsFile readAgs(const std::filesystem::path& path, const Progress& progress) {
    return readAgs(readBytes(path), path.filename().string(), progress);
}

} // namespace fox
