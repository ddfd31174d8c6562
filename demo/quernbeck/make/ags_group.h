#pragma once
#include <string>
#include <vector>

namespace quernbeck {

struct Heading {
    const char* name;
    const char* unit;
    const char* type;
};

/// A group of AGS 4 as it is filled row by row.
class Group {
public:
    Group(const char* name, std::vector<Heading> headings) : m_name(name), m_headings(std::move(headings)) {}
    void add(std::vector<std::string> row) { m_rows.push_back(std::move(row)); }
    const std::vector<Heading>& headings() const { return m_headings; }
    const std::vector<std::vector<std::string>>& rows() const { return m_rows; }
    std::string text() const {
        std::string out = line({"GROUP", m_name});
        std::vector<std::string> names{"HEADING"}, units{"UNIT"}, types{"TYPE"};
        for (const auto& h : m_headings) names.emplace_back(h.name), units.emplace_back(h.unit), types.emplace_back(h.type);
        out += line(names) + line(units) + line(types);
        for (const auto& r : m_rows) {
            std::vector<std::string> row{"DATA"};
            row.insert(row.end(), r.begin(), r.end());
            out += line(row);
        }
        return out + "\r\n";
    }
    static std::string line(const std::vector<std::string>& cells) {
        std::string out;
        for (const auto& c : cells) {
            out += out.empty() ? "\"" : ",\"";
            for (const char k : c) out += k == '"' ? std::string("\"\"") : std::string(1, k);
            out += '"';
        }
        return out + "\r\n";
    }

private:
    std::string m_name;
    std::vector<Heading> m_headings;
    std::vector<std::vector<std::string>> m_rows;
};

} // namespace quernbeck
