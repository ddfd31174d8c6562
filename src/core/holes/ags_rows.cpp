#include "holes/ags_rows.h"

#include "base/length_unit.h"
#include "base/written_number.h"
#include "formats/ags_dictionary.h"

#include <algorithm>
#include <fmt/format.h>

namespace fox {

GroupCells::~GroupCells() {
    for (const auto& [heading, bad] : m_bad)
        m_findings.push_back({Severity::Error, rule("8"), m_file.name, bad.line, m_group->name, heading, bad.hole,
                              fmt::format("{} should be a number and is \"{}\"{}; it counts as missing{}.", heading, bad.text,
                                          bad.ambiguous ? ", which may mean thousands or a decimal comma" : "",
                                          bad.times > 1 ? fmt::format(" ({} such values in this column)", bad.times) : "")});
    for (const auto& [heading, taken] : m_withUnit)
        m_findings.push_back(
            {Severity::Warning, rule("8"), m_file.name, taken.line, m_group->name, heading, taken.hole,
             fmt::format("{} is \"{}\"; the number at its start is taken ({} such values).", heading, taken.text, taken.times)});
    for (const auto& [heading, read] : m_separated)
        m_findings.push_back({Severity::Warning, "FC-NUMBER", m_file.name, read.line, m_group->name, heading, read.hole,
                              fmt::format("{} is \"{}\"; it is read as {} ({}).", heading, read.text, read.value,
                                          counted(std::size_t(read.times), "such value"))});
    for (const auto& [heading, unit] : m_turned)
        m_findings.push_back({Severity::Warning, "FC-UNIT", m_file.name, m_group->unitLine, m_group->name, heading, "",
                              fmt::format("{} is given in {}; it was turned into metres.", heading, unit)});
    for (const auto& [heading, unit] : m_unknownUnits)
        m_findings.push_back({Severity::Warning, "FC-UNIT", m_file.name, m_group->unitLine, m_group->name, heading, "",
                              fmt::format("{} is given in \"{}\", which is not a known unit of length; its values are taken as "
                                          "metres.",
                                          heading, unit)});
}

std::optional<double> GroupCells::number(std::size_t row, std::initializer_list<const char*> headings, std::string_view hole) {
    for (const char* h : headings) {
        const auto column = columnOf(h);
        if (!column) continue;
        const auto cell = trimmed(m_group->cell(row, *column));
        if (cell.empty()) continue;
        using Kind = WrittenNumber::Kind;
        const auto read = readWrittenNumber(cell);
        if (read.kind != Kind::Plain) {
            auto& tally = (read.kind == Kind::WithWords ? m_withUnit : read.value ? m_separated : m_bad)[h];
            if (tally.times++ == 0)
                tally = {
                    line(row), 1, std::string(cell), std::string(hole), read.value.value_or(0), read.kind == Kind::Ambiguous};
        }
        return read.value ? std::optional(inMetres(*read.value, row, *column)) : std::nullopt;
    }
    return {};
}

double GroupCells::inMetres(double value, std::size_t row, std::size_t column) {
    if (const int piece = m_group->rows[row].piece; piece != m_factorsOfPiece) {
        m_factors.assign(m_group->headings.size(), std::nullopt);
        m_factorsOfPiece = piece;
    }
    auto& factor = m_factors[column];
    if (factor) return value * *factor;
    factor = 1;
    const std::string unit(trimmed(m_group->unit(row, column)));
    const auto& heading = m_group->headings[column];
    const auto* rule = AgsDictionary::standard(m_file.edition).heading(m_group->name, heading);
    if (unit.empty() || (rule && !rule->unit.empty() && rule->unit != "m")) return value;
    if (const auto* length = lengthUnitNamed(unit)) {
        factor = length->metres;
        if (length->metres != 1) m_turned.try_emplace(heading, unit);
    } else if (rule && rule->unit == "m") {
        m_unknownUnits.try_emplace(heading, unit);
    }
    return value * *factor;
}

namespace {

std::string withoutBlanks(std::string_view id) {
    std::string out;
    for (const char c : upper(id))
        if (c != ' ' && c != '\t') out += c;
    return out;
}

} // namespace

void AgsRows::addHole(Hole hole, const std::string& group) {
    const auto [first, isNew] = m_byId.try_emplace(hole.id, m_holes.size());
    if (!isNew) {
        const auto& other = m_holes[first->second];
        const std::string id = hole.id;
        for (int n = 2; m_byId.contains(hole.id); ++n) hole.id = fmt::format("{} #{}", id, n);
        m_byId.emplace(hole.id, m_holes.size());
        add(Severity::Error, hole.line, group, id,
            fmt::format("Two holes are named {}, on lines {} and {}; the second is kept as \"{}\", and what else the file "
                        "says of {} goes to the first.",
                        id, other.line, hole.line, hole.id, id),
            isFour() ? "AGS4 Rule 10a" : "AGS3 Rule 12");
    }
    m_holes.push_back(std::move(hole));
}

Hole* AgsRows::holeOf(GroupCells& cells, std::size_t row) {
    const auto id = cells.text(row, {"LOCA_ID", "HOLE_ID"});
    if (m_last && m_last->id == id) return m_last; // rows of a hole stand together
    // or come hole by hole in the order of the list
    if (const auto next = m_lastIndex + 1; m_last && next < m_holes.size() && m_holes[next].id == id)
        return m_last = &m_holes.change(m_lastIndex = next);
    auto at = m_byId.find(id);
    if (at == m_byId.end()) at = spelledOtherwise(cells, row, std::string(id));
    if (at == m_byId.end()) {
        auto& lost = m_orphans[cells.group().name];
        if (lost.rows++ == 0) lost.line = cells.line(row), lost.hole = id;
        return nullptr;
    }
    return m_last = &m_holes.change(m_lastIndex = at->second);
}

AgsRows::HolePlace AgsRows::spelledOtherwise(GroupCells& cells, std::size_t row, const std::string& id) {
    if (m_byLetters.empty())
        for (auto at = m_byId.begin(); at != m_byId.end(); ++at) {
            const auto [place, isNew] = m_byLetters.try_emplace(withoutBlanks(at->first), at);
            if (!isNew) place->second = m_byId.end(); // two holes are written so: neither is meant for sure
        }
    const auto letters = withoutBlanks(id);
    const auto known = letters.empty() ? m_byLetters.end() : m_byLetters.find(letters);
    if (known == m_byLetters.end() || known->second == m_byId.end()) return m_byId.end();
    if (m_spellings.insert(id).second)
        add(Severity::Warning, cells.line(row), cells.group().name, known->second->first,
            fmt::format("The hole \"{}\" in {} is taken for {}, which differs only in case or blanks.", id, cells.group().name,
                        known->second->first),
            "FC-ID");
    return known->second;
}

void AgsRows::sayOrphans() {
    for (const auto& [group, lost] : m_orphans)
        add(Severity::Error, lost.line, group, lost.hole,
            fmt::format("{} in {} of holes that the file does not list, the first of \"{}\"; kept in the file, but not used.",
                        counted(std::size_t(lost.rows), "row is", "rows are"), group, lost.hole),
            isFour() ? "AGS4 Rule 10c" : "AGS3 Rule 12");
}

} // namespace fox
