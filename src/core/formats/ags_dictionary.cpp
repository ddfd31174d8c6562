#include "formats/ags_dictionary.h"

#include "base/text.h"

namespace fox {

const AgsHeadingRule* AgsGroupRule::heading(std::string_view wanted) const {
    const auto at = position(wanted);
    return at ? &headings[*at] : nullptr;
}

std::optional<std::size_t> AgsGroupRule::position(std::string_view wanted) const {
    for (std::size_t i = 0; i < headings.size(); ++i)
        if (headings[i].name == wanted) return i;
    return {};
}

void AgsDictionary::add(const AgsGroup& dict) {
    const auto text = [&](std::size_t row, const char* heading) -> std::string {
        const auto column = dict.column(heading);
        return column ? std::string(trimmed(dict.cell(row, *column))) : std::string();
    };
    for (std::size_t r = 0; r < dict.rows.size(); ++r) {
        const auto name = upper(text(r, "DICT_GRP")), heading = upper(text(r, "DICT_HDNG"));
        if (name.empty()) continue;
        auto& group = m_groups[name];
        group.name = name;
        if (heading.empty()) {
            if (const auto parent = upper(text(r, "DICT_PGRP")); !parent.empty() && parent != "-") group.parent = parent;
            group.description = text(r, "DICT_DESC");
            group.unproven |= upper(text(r, "DICT_STAT")) == "UNPROVEN";
            group.since = text(r, "DICT_SINC");
        } else if (!group.heading(heading)) {
            const auto status = upper(text(r, "DICT_STAT"));
            group.headings.push_back({heading, status.find("KEY") != status.npos, status.find("REQUIRED") != status.npos,
                                      text(r, "DICT_DTYP"), text(r, "DICT_UNIT"), text(r, "DICT_DESC"), text(r, "DICT_SINC"),
                                      status == "UNPROVEN"});
        }
    }
}

const AgsDictionary& AgsDictionary::standard(AgsEdition edition) {
    const auto made = [](const char* text) {
        AgsDictionary d;
        const auto file = readAgs(text, "dictionary");
        d.add(*file.group("DICT"));
        return d;
    };
    static const AgsDictionary k3 = made(
#include "ags3.text.h"
    );
    static const AgsDictionary k4 = made(
#include "ags4.text.h"
    );
    return edition == AgsEdition::Ags3 ? k3 : k4;
}

AgsDictionary AgsDictionary::of(const AgsFile& file) {
    AgsDictionary d = standard(file.edition);
    if (const auto* dict = file.group("DICT")) d.add(*dict);
    return d;
}

bool AgsDictionary::isOlder(std::string_view edition, std::string_view since) {
    const auto parts = [](std::string_view text) {
        std::vector<double> out;
        for (const auto& part : split(text, '.')) out.push_back(parseNumber(part).value_or(kNoValue));
        return out;
    };
    const auto ours = parts(edition), theirs = parts(since);
    for (std::size_t i = 0; i < theirs.size(); ++i) {
        if (i >= ours.size()) return false; // "4" may be any of edition 4
        if (ours[i] != theirs[i]) return ours[i] < theirs[i];
    }
    return false;
}

const AgsGroupRule* AgsDictionary::group(std::string_view name) const {
    const auto at = m_groups.find(name);
    return at == m_groups.end() ? nullptr : &at->second;
}

const AgsGroupRule* AgsDictionary::ownerOf(std::string_view heading) const {
    const auto* owner = group(heading.substr(0, heading.find('_')));
    return owner && owner->heading(heading) ? owner : nullptr;
}

const AgsHeadingRule* AgsDictionary::heading(std::string_view groupName, std::string_view name) const {
    const auto* g = group(groupName);
    return g ? g->heading(name) : nullptr;
}

} // namespace fox
