// Text in the encodings that files come in.
#include "ags_fixtures.h"
#include "base/encoding.h"
#include "base/text.h"
#include "fixtures.h"
#include "formats/ags.h"
#include "formats/ags_changes.h"
#include "formats/table.h"

#include <catch2/catch.hpp>
#include <random>

using namespace fox;
using namespace fox::test;

namespace {

/// Smart quotes, a degree sign, plus-minus, as each encoding has them.
const std::string kWindows = "\x93"
                             "firm\x94 45\xB0 \xB1"
                             "2";
const std::string kUtf8 = "\xE2\x80\x9C"
                          "firm\xE2\x80\x9D 45\xC2\xB0 \xC2\xB1"
                          "2";

std::string described(const std::string& words) {
    return ags4({oneHole(),
                 {"GEOL",
                  "LOCA_ID|GEOL_TOP|GEOL_BASE|GEOL_DESC|GEOL_LEG",
                  "|m|m||",
                  "ID|2DP|2DP|X|PA",
                  {"BH1|0.00|2.00|" + words + "|LC", "BH1|2.00|5.00|Sand|SA"}}});
}

std::string description(const AgsFile& file, std::size_t row = 0) {
    const auto* g = file.group("GEOL");
    return std::string(g->cell(row, *g->column("GEOL_DESC")));
}

} // namespace

TEST_CASE("The encoding of a text is told by its bytes", "[base][encoding]") {
    CHECK(decodeText("plain").encoding == TextEncoding::Ascii);
    CHECK(decodeText(kUtf8).encoding == TextEncoding::Utf8);
    CHECK(decodeText("45\xB0").encoding == TextEncoding::Latin1);
    CHECK(decodeText("45\xB0").text == "45\xC2\xB0");
    CHECK(decodeText(kWindows).encoding == TextEncoding::Windows1252);
    CHECK(decodeText(kWindows).text == kUtf8);
    CHECK(decodeText("\x81\xB0").encoding == TextEncoding::Latin1); // 81 means nothing in Windows-1252
    const auto marked = decodeText("\xEF\xBB\xBF" + kUtf8);
    CHECK(marked.hasMark);
    CHECK(marked.text == kUtf8);
    CHECK(decodeText("").encoding == TextEncoding::Ascii);
}

TEST_CASE("UTF-16 is known with a mark and without", "[base][encoding]") {
    for (const auto encoding : {TextEncoding::Utf16LittleEndian, TextEncoding::Utf16BigEndian})
        for (const bool mark : {true, false}) {
            const std::string text = "a line of plain words, and one letter: \xC2\xB0";
            const auto bytes = encodeText(text, encoding, mark);
            CHECK(bytes.size() == 2 * (text.size() - 1) + (mark ? 2 : 0));
            CHECK(looksLikeUtf16(bytes));
            const auto read = decodeText(bytes);
            CHECK(read.encoding == encoding);
            CHECK(read.hasMark == mark);
            CHECK(read.text == text);
        }
    const auto broken = decodeText(std::string("\xFF\xFE\x00\xD8\x41\x00", 6)); // half of a pair
    CHECK(isUtf8(broken.text));
}

TEST_CASE("Any bytes decode to UTF-8, and text comes back as the bytes that it was", "[base][encoding][property]") {
    std::mt19937 random(3);
    for (int round = 0; round < 300; ++round) {
        std::string bytes(random() % 60, ' ');
        const bool printable = round % 2 == 0;
        for (auto& c : bytes) c = printable ? char(0x20 + random() % 0x5F + (random() % 4 == 0 ? 0x80 : 0)) : char(random());
        const auto read = decodeText(bytes);
        CHECK(isUtf8(read.text));
        const bool is8 = read.encoding != TextEncoding::Utf16LittleEndian && read.encoding != TextEncoding::Utf16BigEndian;
        if (is8) CHECK(encodeText(read.text, read.encoding, read.hasMark) == bytes);
    }
    CHECK(encodeText("\xE2\x82\xAC 5", TextEncoding::Latin1) == "? 5"); // no euro sign in it
    CHECK(encodeText("\xE2\x82\xAC 5", TextEncoding::Windows1252) == "\x80 5");
}

TEST_CASE("An AGS file is read in any encoding, and says which bytes are not ASCII", "[formats][ags][encoding]") {
    const auto utf8 = described(kUtf8);
    for (const auto encoding :
         {TextEncoding::Utf8, TextEncoding::Windows1252, TextEncoding::Utf16LittleEndian, TextEncoding::Utf16BigEndian})
        for (const bool mark : {false, true}) {
            if (mark && encoding == TextEncoding::Windows1252) continue;
            const auto bytes = encodeText(utf8, encoding, mark);
            CHECK(looksLikeAgs(bytes));
            const auto file = readAgs(bytes, "site.ags");
            CHECK(file.encoding == encoding);
            CHECK(description(file) == kUtf8);
            CHECK(mentions(file.findings, "AGS4 Rule 1", words(encoding)));
            CHECK(mentions(file.findings, "AGS4 Rule 1", "Column"));
        }
    const auto file = readAgs(encodeText(utf8, TextEncoding::Windows1252), "site.ags");
    std::vector<const Finding*> bytes;
    for (const auto& f : file.findings)
        if (f.rule == "AGS4 Rule 1" && f.message.starts_with("Column")) bytes.push_back(&f);
    REQUIRE(bytes.size() == 4);
    CHECK(bytes[0]->message == "Column 29 is \"\xE2\x80\x9C\", which is not an ASCII character.");
    CHECK(bytes[2]->message.find("\xC2\xB0") != std::string::npos);
    CHECK(bytes[0]->line == bytes[3]->line);
}

TEST_CASE("Corrected rows go out in the encoding of their file, all others byte for byte", "[formats][ags][encoding]") {
    const auto utf8 = described(kUtf8);
    for (const auto encoding : {TextEncoding::Utf8, TextEncoding::Windows1252, TextEncoding::Utf16LittleEndian}) {
        const auto bytes = encodeText(utf8, encoding, encoding == TextEncoding::Utf16LittleEndian);
        const auto file = readAgs(bytes, "site.ags");
        const int line = file.group("GEOL")->rows[0].line;
        const auto changed = withChanges(bytes, "site.ags", {{line, "GEOL_LEG", "CL\xC2\xB0"}});
        const auto again = readAgs(changed, "site.ags");
        CHECK(again.encoding == encoding);
        CHECK(description(again) == kUtf8);
        CHECK(again.group("GEOL")->cell(0, 4) == "CL\xC2\xB0");
        // putting it back gives the same bytes
        CHECK(withChanges(changed, "site.ags", {{line, "GEOL_LEG", "LC"}}) == bytes);
        CHECK(withChanges(bytes, "site.ags", {}) == bytes);
    }
}

TEST_CASE("Lines that end in CR alone are lines, and stay so", "[formats][ags][encoding]") {
    auto text = described("Firm clay");
    std::erase(text, '\n');
    const auto file = readAgs(text, "site.ags");
    CHECK(description(file) == "Firm clay");
    CHECK(mentions(file.findings, "AGS4 Rule 2a", "CR LF"));
    const auto changed = withChanges(text, "site.ags", {{file.group("GEOL")->rows[1].line, "GEOL_LEG", "GR"}});
    CHECK(changed.find('\n') == changed.npos);
    CHECK(readAgs(changed, "site.ags").group("GEOL")->cell(1, 4) == "GR");
}

TEST_CASE("Tables in Windows-1252 have their signs", "[formats][table][encoding]") {
    const auto table = readTable("Hole,Words\nBH1,\x93soft\x94\n", "t.csv");
    CHECK(table.cell(0, 1) == "\xE2\x80\x9Csoft\xE2\x80\x9D");
}
