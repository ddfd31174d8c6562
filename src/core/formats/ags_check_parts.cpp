#include "formats/ags_check_parts.h"

#include "base/text.h"

#include <fmt/format.h>

namespace fox {

void AgsFindings::add(const AgsRule& rule, int line, std::string group, std::string heading, std::string hole,
                      std::string words) {
    const bool four = m_file.edition == AgsEdition::Ags4;
    const std::string_view number = four ? rule.four : rule.three;
    if (number.empty()) return; // the edition has no such rule
    Finding f{
        rule.severity,    number.starts_with("FC") ? std::string(number) : fmt::format("AGS{} Rule {}", four ? 4 : 3, number),
        m_file.name,      line,
        std::move(group), std::move(heading),
        std::move(hole),  std::move(words)};
    auto& tally = m_tallies[f.rule + f.group + '.' + f.heading];
    if (++tally.times > kListedEach)
        tally.last = std::move(f);
    else
        m_out.push_back(std::move(f));
}

Findings AgsFindings::take() {
    for (const auto& [where, tally] : m_tallies)
        if (tally.times > kListedEach) {
            auto f = tally.last;
            f.message = fmt::format("{} more like the {} before it in {}.", tally.times - kListedEach, kListedEach,
                                    f.heading.empty() ? f.group : f.heading);
            m_out.push_back(std::move(f));
        }
    m_tallies.clear();
    return std::move(m_out);
}

std::string holeAt(const AgsGroup& g, std::size_t row) {
    auto column = g.column("LOCA_ID");
    if (!column) column = g.column("HOLE_ID");
    return column ? std::string(trimmed(g.cell(row, *column))) : std::string();
}

std::string shown(std::string_view cell) {
    return cell.size() <= 40 ? std::string(cell) : fmt::format("{}...", cell.substr(0, 37));
}

bool isAgsNumberType(std::string_view type) {
    return type == "U" || type == "MC" || type.ends_with("DP") || type.ends_with("SF") || type.ends_with("SCI");
}

bool hidesType(std::string_view type, std::string_view known) {
    return (type == "X" || type == "XN" || type == "ID") && (isAgsNumberType(known) || known == "DT" || known == "PA");
}

} // namespace fox
