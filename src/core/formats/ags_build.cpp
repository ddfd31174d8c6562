#include "formats/ags_build.h"

#include "base/text.h"
#include "formats/ags_changes.h"
#include "formats/ags_check.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>
#include <set>

namespace fox {

namespace {

const AgsDictionary& dictionary() { return AgsDictionary::standard(AgsEdition::Ags4); }

std::string wordsOfType(const std::string& type) {
    static const std::map<std::string, const char*> kWords{{"ID", "Unique identifier"},
                                                           {"PA", "Text listed in ABBR"},
                                                           {"PT", "Text listed in TYPE"},
                                                           {"PU", "Text listed in UNIT"},
                                                           {"X", "Text"},
                                                           {"XN", "Text or number"},
                                                           {"T", "Elapsed time"},
                                                           {"DT", "Date and time"},
                                                           {"MC", "Moisture content"},
                                                           {"U", "Value as it is"},
                                                           {"DMS", "Degrees, minutes and seconds"},
                                                           {"YN", "Yes or no"},
                                                           {"RL", "Record link"}};
    if (const auto at = kWords.find(type); at != kWords.end()) return at->second;
    if (type.ends_with("DP")) return "Value with " + type.substr(0, type.size() - 2) + " decimal places";
    if (type.ends_with("SCI")) return "Value in powers of ten with " + type.substr(0, type.size() - 3) + " decimal places";
    return "Value with " + type.substr(0, type.size() - 2) + " significant figures";
}

std::string wordsOfUnit(const std::string& unit) {
    static const std::map<std::string, const char*> kWords{
        {"m", "metre"},    {"mm", "millimetre"},  {"%", "percentage"},        {"deg", "degree"},
        {"min", "minute"}, {"kPa", "kilopascal"}, {"MPa", "megapascal"},      {"Mg/m3", "megagram per cubic metre"},
        {"l", "litre"},    {"kg", "kilogram"},    {"DegC", "degree Celsius"}, {"mg/l", "milligram per litre"}};
    if (const auto at = kWords.find(unit); at != kWords.end()) return at->second;
    return unit.find("yyyy") != unit.npos ? "date and time" : unit;
}

const std::string kNone;
const std::string& valueOf(const AgsBuilder::Row& row, const std::string& heading) {
    const auto at = row.find(heading);
    return at == row.end() ? kNone : at->second;
}

} // namespace

std::string asAscii(const std::string& text) {
    static const std::pair<const char*, const char*> kLetters[] = {
        {"\xC2\xB0", " deg"},   {"\xE2\x80\x93", "-"},   {"\xE2\x80\x99", "'"}, {"\xE2\x80\x98", "'"}, {"\xE2\x80\x9C", "\""},
        {"\xE2\x80\x9D", "\""}, {"\xE2\x80\xA6", "..."}, {"\xC2\xB1", "+/-"},   {"\xC2\xBD", "1/2"},   {"\xC2\xBC", "1/4"},
        {"\xC2\xB2", "2"},      {"\xC2\xB3", "3"},       {"\xC2\xB5", "u"}};
    std::string out = text;
    for (const auto& [from, to] : kLetters)
        for (auto at = out.find(from); at != out.npos; at = out.find(from)) out.replace(at, std::string_view(from).size(), to);
    std::string ascii;
    for (const char c : out)
        if (c >= 0)
            ascii += c == '\n' || c == '\r' ? ' ' : c;
        else if ((c & 0xC0) == 0xC0)
            ascii += '?';
    return ascii;
}

void AgsBuilder::add(const std::string& group, Row row) {
    if (!m_groups.contains(group)) m_order.push_back(group);
    m_groups[group].rows.push_back(std::move(row));
}

void AgsBuilder::describe(const std::string& heading, const std::string& code, const std::string& words) {
    m_abbreviations.try_emplace({heading, code}, words);
}

void AgsBuilder::define(const std::string& group, const std::string& heading, const std::string& words,
                        const std::string& parent) {
    for (const auto& d : m_definitions)
        if (d.group == group && d.heading == heading) return;
    m_definitions.push_back({group, heading, words, parent});
}

std::vector<std::string> AgsBuilder::headingsOf(const std::string& group) const {
    std::set<std::string> used;
    for (const auto& row : m_groups.at(group).rows)
        for (const auto& [heading, value] : row) used.insert(heading);
    std::vector<std::string> out;
    if (const auto* rule = dictionary().group(group))
        for (const auto& h : rule->headings)
            if (used.erase(h.name) || h.key || h.required) out.push_back(h.name);
    for (const auto& d : m_definitions) // one's own come last, in the order in which they are defined
        if (d.group == group && used.erase(d.heading)) out.push_back(d.heading);
    out.insert(out.end(), used.begin(), used.end());
    return out;
}

std::string AgsBuilder::unitOf(const std::string& group, const std::string& heading) const {
    if (const auto at = m_units.find(heading); at != m_units.end()) return at->second;
    const auto* rule = dictionary().heading(group, heading);
    return rule ? rule->unit : std::string();
}

std::string AgsBuilder::typeOf(const std::string& group, const std::string& heading, std::string& unit,
                               std::vector<std::string>& notes) const {
    const auto* rule = dictionary().heading(group, heading);
    const auto all = [&](const std::string& type) {
        return std::ranges::all_of(m_groups.at(group).rows,
                                   [&](const Row& row) { return fitsType(valueOf(row, heading), type, unit); });
    };
    const std::string wanted = rule && !rule->type.empty() ? rule->type : "X";
    if (all(wanted)) return wanted;
    if (wanted == "DT") {
        for (const char* pattern : {"yyyy-mm-dd", "yyyy-mm-ddThh:mm", "yyyy-mm-ddThh:mm:ss"}) {
            unit = pattern;
            if (all("DT")) return "DT";
        }
        unit.clear();
    }
    std::string found = "X";
    if (wanted != "DT" && wanted != "YN")
        for (const char* type : {"0DP", "1DP", "2DP", "3DP", "4DP", "5DP", "6DP", "U"})
            if (all(type)) {
                found = type;
                break;
            }
    if (found == "X") notes.push_back(fmt::format("{}: not every value is {}; the column is kept as text (X).", heading, wanted));
    return found;
}

/// A row of a parent group for every child row that has none: the standard asks for it (rule 10c). Holes and
/// projects are never made up.
void AgsBuilder::addMissingParents() {
    for (std::size_t i = 0; i < m_order.size(); ++i) {
        const auto* rule = dictionary().group(m_order[i]);
        const auto* parent = rule && !rule->parent.empty() ? dictionary().group(rule->parent) : nullptr;
        if (!parent || parent->name == "PROJ" || parent->name == "LOCA" || parent->name == "SAMP") continue;
        const auto keyed = [&](const Row& row) {
            Row key;
            for (const auto& h : parent->headings)
                if (h.key && rule->heading(h.name)) key[h.name] = valueOf(row, h.name);
            return key;
        };
        std::set<Row> known;
        if (has(parent->name))
            for (const auto& row : m_groups[parent->name].rows) known.insert(keyed(row));
        const auto children = m_groups[m_order[i]].rows;
        for (const auto& row : children)
            if (auto key = keyed(row); known.insert(key).second) add(parent->name, std::move(key));
    }
}

void AgsBuilder::fillAbbreviations() {
    for (const auto& [group, content] : m_groups) {
        if (group == "DICT" || group == "ABBR") continue;
        for (const auto& row : content.rows)
            for (const auto& [heading, value] : row) {
                const auto* rule = dictionary().heading(group, heading);
                if (!rule || rule->type != "PA") continue;
                for (const auto code : split(value, '+'))
                    if (!trimmed(code).empty()) describe(heading, std::string(trimmed(code)), "Not described in the source");
            }
    }
    for (const auto& [key, words] : m_abbreviations)
        add("ABBR", {{"ABBR_HDNG", key.first}, {"ABBR_CODE", key.second}, {"ABBR_DESC", words.empty() ? key.second : words}});
}

void AgsBuilder::fillDefinitions() {
    for (const auto& d : m_definitions)
        add("DICT", {{"DICT_TYPE", d.heading.empty() ? "GROUP" : "HEADING"},
                     {"DICT_GRP", d.group},
                     {"DICT_HDNG", d.heading},
                     {"DICT_STAT", d.heading.empty() ? "" : "OTHER"},
                     {"DICT_DTYP", d.heading.empty() ? "" : "X"},
                     {"DICT_DESC", d.words.empty() ? "Not described in the source" : d.words},
                     {"DICT_PGRP", d.parent}});
}

std::string AgsBuilder::text(std::vector<std::string>& notes) {
    addMissingParents();
    fillAbbreviations();
    fillDefinitions();
    for (auto& [group, of] : m_groups)
        for (auto& row : of.rows)
            for (auto& [heading, value] : row) value = asAscii(value);
    std::set<std::string> units, types{"X", "PU", "PT", "ID"};
    struct Written {
        std::vector<std::string> headings, units, types;
    };
    std::map<std::string, Written> written;
    const auto prepare = [&](const std::string& group) {
        auto& w = written[group];
        w.headings = headingsOf(group);
        for (const auto& h : w.headings) {
            std::string unit = unitOf(group, h);
            w.types.push_back(typeOf(group, h, unit, notes));
            w.units.push_back(unit);
            if (!unit.empty()) units.insert(unit);
            types.insert(w.types.back());
            for (const auto& row : m_groups[group].rows)
                if (!valueOf(row, h).empty()) {
                    if (w.types.back() == "PU") units.insert(valueOf(row, h));
                    if (w.types.back() == "PT") types.insert(valueOf(row, h));
                }
        }
    };
    for (const auto& group : m_order) prepare(group);
    for (const auto& unit : units)
        add("UNIT", {{"UNIT_UNIT", unit}, {"UNIT_DESC", m_unitWords.contains(unit) ? m_unitWords[unit] : wordsOfUnit(unit)}});
    for (const auto& type : types) add("TYPE", {{"TYPE_TYPE", type}, {"TYPE_DESC", wordsOfType(type)}});
    for (const char* group : {"UNIT", "TYPE"})
        if (has(group)) prepare(group);
    std::vector<std::string> order;
    for (const char* first : {"PROJ", "TRAN", "UNIT", "TYPE", "ABBR", "DICT", "LOCA"})
        if (has(first)) order.push_back(first);
    for (const auto& group : m_order)
        if (!std::ranges::count(order, group)) order.push_back(group);
    std::string out;
    const auto line = [&](const char* word, std::vector<std::string> cells) {
        cells.insert(cells.begin(), word);
        out += agsRow(cells) + "\r\n";
    };
    for (const auto& group : order) {
        const auto& w = written[group];
        if (!out.empty()) out += "\r\n";
        line("GROUP", {group});
        line("HEADING", w.headings);
        line("UNIT", w.units);
        line("TYPE", w.types);
        for (const auto& row : m_groups[group].rows) {
            std::vector<std::string> cells;
            for (const auto& h : w.headings) cells.push_back(valueOf(row, h));
            line("DATA", std::move(cells));
        }
    }
    return out;
}

} // namespace fox
