#include "formats/las.h"

#include "base/encoding.h"
#include "base/errors.h"
#include "base/point.h"
#include "base/text.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace fox {

namespace {

/// NAME.UNIT  VALUE : DESCRIPTION. The first dot parts name and unit, the last colon the description.
LasItem itemOf(std::string_view line, int number) {
    LasItem item;
    item.line = number;
    const auto dot = line.find('.');
    const auto name = line.substr(0, std::min(dot, line.find(':')));
    item.name = trimmed(name);
    if (dot == line.npos) {
        if (const auto colon = line.find(':'); colon != line.npos) item.description = trimmed(line.substr(colon + 1));
        return item;
    }
    auto rest = line.substr(dot + 1);
    const auto blank = std::min(rest.find_first_of(" \t"), rest.size());
    const auto colonInUnit = rest.substr(0, blank).find(':');
    item.unit = trimmed(rest.substr(0, std::min(blank, colonInUnit)));
    rest = rest.substr(std::min(blank, colonInUnit));
    const auto colon = rest.rfind(':');
    item.value = trimmed(rest.substr(0, colon));
    if (colon != rest.npos) item.description = trimmed(rest.substr(colon + 1));
    return item;
}

class Reader {
public:
    Reader(std::string_view bytes, LasFile& file, const Progress& progress)
        : m_bytes(bytes), m_file(file), m_progress(progress) {}

    void read() {
        const auto size = m_bytes.size();
        int untilReport = 0;
        while (!m_bytes.empty()) {
            ++m_line;
            if (--untilReport < 0) {
                untilReport = 20000;
                m_progress.report(1 - double(m_bytes.size()) / double(size), "Reading " + m_file.name);
            }
            const auto end = m_bytes.find('\n');
            const auto line = trimmed(m_bytes.substr(0, end));
            m_bytes.remove_prefix(end == m_bytes.npos ? m_bytes.size() : end + 1);
            if (line.empty() || line.starts_with('#')) continue;
            if (line.starts_with('~'))
                beginSection(line);
            else
                takeLine(line);
        }
        finish();
    }

private:
    void add(Severity severity, int line, std::string words, std::string heading = {}) {
        m_file.findings.push_back({severity, "FC-LAS", m_file.name, line, "", std::move(heading), "", std::move(words)});
    }

    void beginSection(std::string_view line) {
        m_section = line.size() > 1 ? char(line[1] & ~0x20) : ' ';
        if (m_section != 'A') return;
        if (m_dataLine > 0) { // curves are fixed by the first
            add(Severity::Error, m_line, "A second ~A section: its readings are taken as more of the first.");
            return;
        }
        m_dataLine = m_line;
        const auto* null = m_file.wellItem("NULL");
        if (null) m_null = parseNumber(null->value);
        m_file.values.resize(std::max<std::size_t>(1, m_file.curves.size()));
        if (m_file.curves.empty())
            add(Severity::Error, m_line, "There is no ~Curve section: only the first column, the depth, can be read.");
    }

    void takeLine(std::string_view line) {
        switch (m_section) {
        case 'V': {
            const auto item = itemOf(line, m_line);
            if (equalNoCase(item.name, "VERS")) m_file.version = std::string(trimmed(item.value.substr(0, item.value.find(' '))));
            if (equalNoCase(item.name, "WRAP")) m_file.wrapped = equalNoCase(item.value.substr(0, 3), "YES");
            break;
        }
        case 'W': m_file.well.push_back(itemOf(line, m_line)); break;
        case 'P': m_file.parameters.push_back(itemOf(line, m_line)); break;
        case 'C':
            if (m_dataLine == 0)
                m_file.curves.push_back(itemOf(line, m_line));
            else
                add(Severity::Error, m_line, "A curve is named behind the readings; it is left out.");
            break;
        case 'A': takeNumbers(line); break;
        default: break; // ~Other: words for people
        }
    }

    void takeNumbers(std::string_view line) {
        if (m_row.empty()) m_rowLine = m_line;
        while (!line.empty()) {
            const auto first = line.find_first_not_of(" \t,;");
            if (first == line.npos) break;
            line.remove_prefix(first);
            const auto word = line.substr(0, line.find_first_of(" \t,;"));
            line.remove_prefix(word.size());
            const auto value = parseNumber(word);
            if (!value && m_badWords++ == 0) m_firstBad = m_line, m_badWord = std::string(word.substr(0, 40));
            m_row.push_back(!value || (m_null && *value == *m_null) ? kNoValue : *value);
        }
        if (!m_file.wrapped || m_row.size() >= m_file.values.size()) endRow();
    }

    void endRow() {
        if (m_row.empty()) return;
        if (m_row.size() != m_file.values.size() && m_oddRows++ == 0) m_firstOdd = m_rowLine, m_oddCount = m_row.size();
        if (std::isnan(m_row[0])) {
            if (m_noDepth++ == 0) m_firstNoDepth = m_rowLine;
        } else {
            for (std::size_t c = 0; c < m_file.values.size(); ++c)
                m_file.values[c].push_back(c < m_row.size() ? m_row[c] : kNoValue);
        }
        m_row.clear();
    }

    void finish() {
        endRow();
        if (m_dataLine == 0) {
            m_file.values.resize(std::max<std::size_t>(1, m_file.curves.size()));
            add(Severity::Error, m_line, "There is no ~A section: the file has no readings.");
        }
        if (m_badWords > 0)
            add(Severity::Error, m_firstBad,
                fmt::format("\"{}\" stands where a number should be; it counts as missing ({} such).", m_badWord, m_badWords));
        if (m_oddRows > 0)
            add(Severity::Error, m_firstOdd,
                fmt::format(
                    "{} another number of values ({}) than there are curves ({}); missing ones are blank, those beyond are "
                    "left out.",
                    counted(std::size_t(m_oddRows), "row has", "rows have"), m_oddCount, m_file.values.size()));
        if (m_noDepth > 0)
            add(Severity::Error, m_firstNoDepth,
                counted(std::size_t(m_noDepth), "row has no depth; it is left out.", "rows have no depth; they are left out."));
        if (m_file.version != "2.0" && m_file.version != "1.2" && m_file.version != "1.20" && m_file.version != "2.00")
            add(Severity::Warning, 1,
                fmt::format("The version is \"{}\"; it is read as {}.", m_file.version,
                            m_file.version.starts_with('1') ? "1.2" : "2.0"));
        swapOld();
    }

    /// 1.2 writes text items as "WELL.  WELL : ANY OIL CO 12": the value stands behind the colon.
    void swapOld() {
        if (!m_file.version.starts_with('1')) return;
        for (auto& item : m_file.well)
            if (!equalNoCase(item.name, "STRT") && !equalNoCase(item.name, "STOP") && !equalNoCase(item.name, "STEP")
                && !equalNoCase(item.name, "NULL"))
                std::swap(item.value, item.description);
    }

    std::string_view m_bytes;
    LasFile& m_file;
    const Progress& m_progress;
    char m_section = ' ';
    int m_line = 0, m_dataLine = 0;
    std::optional<double> m_null;
    std::vector<double> m_row;
    int m_rowLine = 0;
    int m_badWords = 0, m_firstBad = 0, m_oddRows = 0, m_firstOdd = 0, m_noDepth = 0, m_firstNoDepth = 0;
    std::size_t m_oddCount = 0;
    std::string m_badWord;
};

} // namespace

const LasItem* LasFile::wellItem(std::string_view wanted) const {
    for (const auto& item : well)
        if (equalNoCase(item.name, wanted)) return &item;
    return nullptr;
}

bool looksLikeLas(std::string_view bytes) {
    for (int looked = 0; !bytes.empty() && looked < 50; ++looked) {
        const auto end = bytes.find('\n');
        const auto line = trimmed(bytes.substr(0, end));
        if (line.starts_with("~V") || line.starts_with("~v")) return true;
        if (!line.empty() && !line.starts_with('#')) return false;
        if (end == bytes.npos) return false;
        bytes.remove_prefix(end + 1);
    }
    return false;
}

LasFile readLas(std::string_view bytes, std::string name, const Progress& progress) {
    if (bytes.starts_with("\xEF\xBB\xBF")) bytes.remove_prefix(3);
    if (!looksLikeLas(bytes))
        throw FileError(fmt::format("{} is not a LAS file: it does not begin with a ~Version section.", name));
    LasFile file;
    file.name = std::move(name);
    std::string mended;
    if (!isUtf8(bytes)) bytes = mended = decodeText(std::string(bytes)).text;
    Reader(bytes, file, progress).read();
    return file;
}

} // namespace fox
