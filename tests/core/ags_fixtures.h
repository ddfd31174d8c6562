#pragma once
#include "base/text.h"

#include <fmt/format.h>
#include <string>
#include <vector>

namespace fox::test {

/// One group of an AGS file; headings, units, types and rows with a bar between fields: "BH1|480500|24".
struct AgsGroupText {
    std::string name, headings, units, types;
    std::vector<std::string> rows;
};

inline std::string agsLine(const std::string& first, const std::string& cells, const std::string& lead = {}) {
    std::string out = first.empty() ? std::string() : fmt::format("\"{}\"", first);
    for (const auto cell : split(cells, '|')) out += fmt::format("{}\"{}{}\"", out.empty() ? "" : ",", lead, cell);
    return out + "\r\n";
}

/// An edition 4 file of these groups with a PROJ group before them. Types are all "X" where none are given, but the first, "ID".
inline std::string ags4(const std::vector<AgsGroupText>& groups) {
    std::string out =
        "\"GROUP\",\"PROJ\"\r\n\"HEADING\",\"PROJ_ID\"\r\n\"UNIT\",\"\"\r\n\"TYPE\",\"ID\"\r\n\"DATA\",\"P1\"\r\n\r\n";
    for (const auto& g : groups) {
        std::string types = g.types;
        for (std::size_t i = 0; g.types.empty() && i < split(g.headings, '|').size(); ++i) types += i == 0 ? "ID" : "|X";
        std::string units = g.units;
        for (std::size_t i = 1; g.units.empty() && i < split(g.headings, '|').size(); ++i) units += '|';
        out += fmt::format("\"GROUP\",\"{}\"\r\n", g.name) + agsLine("HEADING", g.headings) + agsLine("UNIT", units)
               + agsLine("TYPE", types);
        for (const auto& row : g.rows) out += agsLine("DATA", row);
        out += "\r\n";
    }
    return out;
}

/// An edition 3 file of these groups with a PROJ group before them.
inline std::string ags3(const std::vector<AgsGroupText>& groups) {
    std::string out = "\"**PROJ\"\r\n\"*PROJ_ID\",\"*PROJ_AGS\"\r\n\"<UNITS>\",\"\"\r\n\"P1\",\"3.1\"\r\n\r\n";
    for (const auto& g : groups) {
        out += fmt::format("\"**{}\"\r\n", g.name) + agsLine("", g.headings, "*");
        if (!g.units.empty())
            out += agsLine("", "<UNITS>" + g.units.substr(g.units.find('|') == g.units.npos ? 0 : g.units.find('|')));
        for (const auto& row : g.rows) out += agsLine("", row);
        out += "\r\n";
    }
    return out;
}

/// A LOCA group of one hole, BH1, 20 m deep at level 30.
inline AgsGroupText oneHole() {
    return {"LOCA",
            "LOCA_ID|LOCA_NATE|LOCA_NATN|LOCA_GL|LOCA_FDEP",
            "|m|m|m|m",
            "ID|2DP|2DP|2DP|2DP",
            {"BH1|480500.00|6120500.00|30.00|20.00"}};
}

} // namespace fox::test
