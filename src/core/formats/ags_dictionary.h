#pragma once
#include "formats/ags.h"

#include <map>

namespace fox {

/// What the standard, or a file's own DICT group, says of a heading.
struct AgsHeadingRule {
    std::string name;
    bool key = false, required = false;
    std::string type, unit, description; ///< type is empty in edition 3, which has none
    /// The edition that added it, "4.0.4", where that is known; empty: it was there from the first on, or that is not known.
    std::string since;
    bool unproven = false; ///< not sure to be the standard's: it is accepted, and its order, type and unit are not judged
};

struct AgsGroupRule {
    std::string name, parent, description; ///< parent is empty for groups that stand alone
    std::vector<AgsHeadingRule> headings;  ///< in the standard's order
    std::string since;                     ///< as of headings
    /// Not all of its headings are known here for sure: others of its name are accepted, and it is asked for no key.
    bool unproven = false;
    const AgsHeadingRule* heading(std::string_view name) const;
    std::optional<std::size_t> position(std::string_view heading) const;
};

/// Groups and headings by name. The standard's are data files in the shape of its own DICT group (formats/dictionary), so a
/// file's DICT rows are read by the same code. Two things are more there: a status UNPROVEN, and a column DICT_SINC with the
/// edition that added a group or a heading.
class AgsDictionary {
public:
    static const AgsDictionary& standard(AgsEdition);
    /// The standard's with those that the file's DICT group defines.
    static AgsDictionary of(const AgsFile&);

    const std::map<std::string, AgsGroupRule, std::less<>>& groups() const { return m_groups; }
    const AgsGroupRule* group(std::string_view name) const;
    /// The group whose own heading this is ("GEOL_STAT" is GEOL's also where SAMP borrows it); null if none is.
    const AgsGroupRule* ownerOf(std::string_view heading) const;
    const AgsHeadingRule* heading(std::string_view group, std::string_view heading) const;

    /// Whether an edition ("4.0.3") is older than the one that added something; no if either is not known.
    static bool isOlder(std::string_view edition, std::string_view since);

private:
    void add(const AgsGroup& dict);
    std::map<std::string, AgsGroupRule, std::less<>> m_groups;
};

} // namespace fox
