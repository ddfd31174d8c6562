#include "sequence/description.h"

#include "base/text.h"

#include <algorithm>
#include <unordered_map>

namespace fox {

namespace {

/// Nouns of the standards; the longest first where one begins another.
constexpr std::string_view kMaterials[] = {
    "made ground", "topsoil",      "boulders",  "cobbles",   "gravel",    "sand",      "silt",     "clay",
    "peat",        "till",         "mudstone",  "siltstone", "sandstone", "limestone", "chalk",    "shale",
    "marl",        "conglomerate", "breccia",   "slate",     "schist",    "gneiss",    "granite",  "basalt",
    "dolerite",    "gypsum",       "halite",    "coal",      "concrete",  "tarmac",    "tuff",     "claystone",
    "dolostone",   "dolomite",     "anhydrite", "flint",     "quartzite", "gabbro",    "rhyolite", "andesite"};

bool isLetter(char c) { return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z'); }

/// The word at a place is this whole noun, or its plural.
bool standsAt(std::string_view text, std::size_t at, std::string_view noun) {
    if (at > 0 && isLetter(text[at - 1])) return false;
    const auto end = at + noun.size();
    if (end < text.size() && text[end] == 's' && (end + 1 == text.size() || !isLetter(text[end + 1]))) return true;
    return end == text.size() || !isLetter(text[end]);
}

/// Text without what stands in brackets or behind "with": secondary constituents and remarks.
std::string primaryPart(std::string_view text) {
    std::string out;
    int depth = 0;
    for (const char c : text) {
        depth += (c == '(' || c == '[') - (c == ')' || c == ']');
        if (depth <= 0 && c != ')' && c != ']') out += c;
    }
    const auto low = lower(out);
    for (const char* word : {" with ", " containing ", " becoming ", ". ", "; "})
        if (const auto at = low.find(word); at != low.npos && at < out.size()) out.resize(at);
    return out;
}

} // namespace

std::string principalMaterial(std::string_view description) {
    const auto low = lower(description);
    if (const auto made = low.find("made ground"); made != low.npos && made < 40) return "made ground";
    // capitals name the principal soil
    for (std::size_t i = 0; i < description.size();) {
        std::size_t end = i;
        while (end < description.size() && description[end] >= 'A' && description[end] <= 'Z') ++end;
        const bool whole = end - i >= 3 && (i == 0 || !isLetter(description[i - 1]))
                           && (end == description.size() || !isLetter(description[end]));
        if (whole)
            for (const auto material : kMaterials) {
                const auto word = lower(description.substr(i, end - i));
                if (word == material || word == std::string(material) + "s") return std::string(material);
            }
        i = std::max(end, i + 1);
    }
    const auto primary = lower(primaryPart(description));
    std::string found;
    std::size_t last = 0;
    for (const auto material : kMaterials)
        for (std::size_t at = primary.find(material); at != primary.npos; at = primary.find(material, at + 1))
            if (standsAt(primary, at, material) && (found.empty() || at >= last)) found = material, last = at;
    return found;
}

std::vector<LoggedCode> loggedCodes(const Holes& holes, const std::string& heading) {
    struct Tally {
        LoggedCode code;
        const Hole* last = nullptr;
        std::unordered_map<std::string, int> materials;
    };
    std::map<std::string, Tally> tallies;
    for (const auto& h : holes)
        for (const auto& i : h.intervals) {
            const auto at = i.codes.find(heading);
            auto& t = tallies[at == i.codes.end() ? std::string() : at->second];
            ++t.code.intervals;
            if (i.usable()) t.code.metres += i.base.metres - i.top.metres;
            if (t.last != &h) ++t.code.holes, t.last = &h;
            if (const auto material = principalMaterial(i.description); !material.empty()) ++t.materials[material];
            if (t.code.example.size() < i.description.size() && t.code.example.size() < 40) t.code.example = i.description;
        }
    std::vector<LoggedCode> out;
    for (auto& [code, t] : tallies) {
        t.code.code = code;
        int most = 0;
        for (const auto& [material, n] : t.materials)
            if (n > most || (n == most && material < t.code.material)) t.code.material = material, most = n;
        out.push_back(std::move(t.code));
    }
    std::ranges::stable_sort(out, std::greater<>(), &LoggedCode::intervals);
    return out;
}

} // namespace fox
