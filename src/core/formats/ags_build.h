#pragma once
#include "formats/ags_dictionary.h"

namespace fox {

/// AGS is plain ASCII: degree signs, typographic quotes and the like in the letters that it has, other letters as question marks;
/// line breaks as blanks.
std::string asAscii(const std::string&);

/// Puts an AGS 4.1 file together from rows by heading. Groups and headings come out in the dictionary's order;
/// UNIT, TYPE, ABBR and DICT are filled from what is used, so that the file passes its own check.
/// Values are written in ASCII.
class AgsBuilder {
public:
    using Row = std::map<std::string, std::string>; ///< heading -> value

    void add(const std::string& group, Row);
    bool has(const std::string& group) const { return m_groups.contains(group); }
    std::vector<Row>& rows(const std::string& group) { return m_groups[group].rows; }
    /// The unit of a heading where it is not the dictionary's.
    void setUnit(const std::string& heading, const std::string& unit) { m_units[heading] = asAscii(unit); }
    void describeUnit(const std::string& unit, const std::string& words) { m_unitWords[asAscii(unit)] = words; }
    /// What an abbreviation means.
    void describe(const std::string& heading, const std::string& code, const std::string& words);
    /// A group (empty heading) or heading of one's own.
    void define(const std::string& group, const std::string& heading, const std::string& words, const std::string& parent = {});

    /// The file. A column whose values are not all of the dictionary's type gets the narrowest type that holds
    /// them; `notes` gains a sentence for each.
    std::string text(std::vector<std::string>& notes);

private:
    struct Group {
        std::vector<Row> rows;
    };
    struct Definition {
        std::string group, heading, words, parent;
    };
    std::vector<std::string> headingsOf(const std::string& group) const;
    std::string unitOf(const std::string& group, const std::string& heading) const;
    std::string typeOf(const std::string& group, const std::string& heading, std::string& unit,
                       std::vector<std::string>& notes) const;
    void addMissingParents();
    void fillAbbreviations();
    void fillDefinitions();

    std::vector<std::string> m_order;
    std::map<std::string, Group> m_groups;
    std::map<std::string, std::string> m_units, m_unitWords;
    std::map<std::pair<std::string, std::string>, std::string> m_abbreviations;
    std::vector<Definition> m_definitions;
};

} // namespace fox
