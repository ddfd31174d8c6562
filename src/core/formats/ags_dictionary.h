#pragma once
#include "formats/ags.h"

#include <map>

namespace fox {

/// What the standard, or a file's own DICT group, says of a heading.
struct AgsHeadingRule {
    std::string name;
    bool key = false, required = false;
    std::string type, unit, description; ///< type is empty in edition 3, which has none
};

struct AgsGroupRule {
    std::string name, parent, description; ///< parent is empty for groups that stand alone
    std::vector<AgsHeadingRule> headings;  ///< in the standard's order
    /// Not all of its headings are known here for sure: others of its name are accepted, and it is asked for no key.
    bool unproven = false;
    const AgsHeadingRule* heading(std::string_view name) const;
    std::optional<std::size_t> position(std::string_view heading) const;
};

/// Groups and headings by name; a group whose status is UNPROVEN is only known by name. The standard's are data files in the
/// shape of its own DICT group (formats/dictionary), so a file's DICT rows are read by the same code.
class AgsDictionary {
public:
    static const AgsDictionary& standard(AgsEdition);
    /// The standard's with those that the file's DICT group defines.
    static AgsDictionary of(const AgsFile&);

    const AgsGroupRule* group(std::string_view name) const;
    /// The group whose own heading this is ("GEOL_STAT" is GEOL's also where SAMP borrows it); null if none is.
    const AgsGroupRule* ownerOf(std::string_view heading) const;
    const AgsHeadingRule* heading(std::string_view group, std::string_view heading) const;

private:
    void add(const AgsGroup& dict);
    std::map<std::string, AgsGroupRule, std::less<>> m_groups;
};

} // namespace fox
