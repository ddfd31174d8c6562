#include "formats/drawing.h"

#include "base/errors.h"
#include "base/text.h"

#include <cmath>
#include <fmt/format.h>
#include <fstream>
#include <optional>

// The library's reader of drawings (GDAL 3.6) looks for the end of a section, or of a block, beyond the end of the file, for
// ever: what is cut short or out of order is not given to it. The form is that of the published DXF reference: a file is a list
// of pairs of lines, a group code and its value; code 0 begins each thing by its name.
namespace fox {

namespace {

class DrawingCheck {
public:
    DrawingCheck(std::istream& in, const std::string& name) : m_in(in), m_name(name) {}

    void run() {
        std::string code, value;
        while (std::getline(m_in, code)) {
            ++m_line;
            if (!std::getline(m_in, value)) {
                if (trimmed(code).empty()) break; // a blank line at the end
                fail("the file ends in the middle of a pair of lines");
            }
            ++m_line;
            if (code.find('\0') != code.npos || value.find('\0') != value.npos) fail("there are bytes that are not text");
            const auto number = parseNumber(code);
            if (!isGroupCode(number)) fail(fmt::format("\"{}\" stands where a group code should be", shown(code)), 1);
            if (*number == 0 && take(trimmed(value))) return;
        }
        fail("it is cut short: it does not end with EOF, as a drawing does. Export it again");
    }

private:
    /// True at the end of the drawing.
    bool take(std::string_view name) {
        if (name == "EOF") {
            if (m_section || m_block) fail(fmt::format("EOF stands in a {} that is not closed", m_block ? "block" : "section"));
            return true;
        }
        if (name == "SECTION") {
            if (m_section) fail("a section begins in another one that is not closed");
            m_section = true;
        } else if (name == "ENDSEC") {
            if (!m_section || m_block)
                fail(m_block ? "a section ends in a block that is not closed" : "a section ends that did not begin");
            m_section = false;
        } else if (!m_section) {
            fail(fmt::format("{} stands outside of all sections", shown(name)));
        } else if (name == "BLOCK") {
            if (m_block) fail("a block begins in another one that is not closed");
            m_block = true;
        } else if (name == "ENDBLK") {
            if (!m_block) fail("a block ends that did not begin");
            m_block = false;
        }
        return false;
    }

    /// A whole number of two bytes.
    static bool isGroupCode(const std::optional<double>& number) {
        constexpr double kMost = 32767;
        return number && std::abs(*number) <= kMost && *number == std::floor(*number);
    }

    static std::string shown(std::string_view text) {
        constexpr std::size_t kShown = 40;
        return toUtf8(trimmed(text).substr(0, kShown));
    }

    [[noreturn]] void fail(const std::string& why, int linesBefore = 0) const {
        throw FileError(fmt::format("{}, line {}: {}.", m_name, m_line - linesBefore, why));
    }

    std::istream& m_in;
    const std::string& m_name;
    int m_line = 0;
    bool m_section = false, m_block = false;
};

} // namespace

void checkDrawing(std::istream& in, const std::string& name) { DrawingCheck(in, name).run(); }

void checkDrawing(const std::filesystem::path& path) {
    std::ifstream in(path, std::ios::binary);
    if (!in) throw FileError(fmt::format("{} can't be opened: is it there, and may you read it?", path.string()));
    checkDrawing(in, path.filename().string());
}

} // namespace fox
