#include "sheets/sheet_table.h"

#include "base/text.h"
#include "paper/render.h"
#include "sheets/depth_texts.h"

#include <fmt/format.h>
#include <map>
#include <numeric>

namespace fox {

using namespace paper;

namespace {

constexpr double kGap = 1.2; // millimetres beside a cell's words

std::string metres(std::optional<double> v) { return v ? fmt::format("{:.2f}", *v) : std::string(); }

TableRows holeRows(const ProductSet& products) {
    TableRows rows{{"Hole", "Type", "Easting, m", "Northing, m", "Level, m", "Depth, m"}};
    const auto& holes = *products.project.holes;
    const auto names = displayNames(holes);
    for (std::size_t i = 0; i < holes.size(); ++i) {
        const auto place = holes[i].place();
        const auto level = holes[i].level ? std::optional(holes[i].level->metres) : std::nullopt;
        rows.push_back({names[i], typeInWords(holes[i].type), metres(place ? std::optional(place->x) : std::nullopt),
                        metres(place ? std::optional(place->y) : std::nullopt), metres(level), metres(holes[i].end().metres)});
    }
    return rows;
}

TableRows sourceRows(const ProductSet& products) {
    std::map<std::string, std::pair<std::size_t, std::size_t>> files; // holes, points
    for (const auto& h : *products.project.holes) ++files[h.file].first;
    for (const auto& p : products.project.ground->points) files[p.file].second += p.points.size();
    TableRows rows{{"File", "Holes", "Survey points"}};
    for (const auto& [file, counts] : files)
        rows.push_back(
            {file, counts.first ? std::to_string(counts.first) : "", counts.second ? std::to_string(counts.second) : ""});
    return rows;
}

/// One table, page after page.
class TableLayout {
public:
    TableLayout(const TableRows& rows, double room) : m_rows(rows) {
        for (std::size_t k = 0; k < rows[0].size(); ++k)
            m_toRight.push_back(std::all_of(rows.begin() + 1, rows.end(),
                                            [&](const auto& row) { return row[k].empty() || parseNumber(row[k]); }));
        constexpr double kLeast = 1.7; // millimetres
        while (!setWidths(room) && m_size > kLeast) m_size -= 0.1;
    }

    TablePages layOut(const Box2& first, const Box2& further) {
        std::size_t next = 1;
        do {
            m_box = m_out.pages.empty() ? first : further;
            m_out.pages.emplace_back();
            m_y = m_box.ymin;
            if (!addRow(m_rows[0], true)) break;
            const auto before = next;
            while (next < m_rows.size() && addRow(m_rows[next], false)) ++next;
            if (next == before && next < m_rows.size()) { // a row that is higher than a page
                ++m_out.overfull;
                ++next;
            }
        } while (next < m_rows.size());
        return std::move(m_out);
    }

private:
    double wideAt(const std::string& words) const {
        Text text;
        text.words = words, text.size = m_size;
        return measure(text).width * 1.04 + 2 * kGap;
    }

    /// As wide as the widest cell; where that is too wide together, narrower down to the widest word, those with most to spare by
    /// most. Whether all words have room.
    bool setWidths(double room) {
        std::vector<double> least(m_rows[0].size(), 2 * kGap + 1);
        m_widths = least;
        for (const auto& row : m_rows)
            for (std::size_t k = 0; k < row.size(); ++k) {
                m_widths[k] = std::max(m_widths[k], wideAt(row[k]));
                for (const auto word : split(row[k], ' ')) least[k] = std::max(least[k], wideAt(std::string(word)));
            }
        const double wanted = std::accumulate(m_widths.begin(), m_widths.end(), 0.0),
                     needed = std::accumulate(least.begin(), least.end(), 0.0);
        if (wanted <= room) return true;
        for (std::size_t k = 0; k < least.size(); ++k)
            m_widths[k] = needed < room ? least[k] + (m_widths[k] - least[k]) * (room - needed) / (wanted - needed)
                                        : least[k] * room / needed;
        return needed <= room;
    }

    bool addRow(const std::vector<std::string>& row, bool isHead) {
        const double line = 1.25 * m_size;
        std::vector<std::vector<std::string>> cells;
        std::size_t lines = 1, tooNarrow = 0;
        for (std::size_t k = 0; k < row.size(); ++k) {
            cells.push_back(linesOf(row[k], m_widths[k] - 2 * kGap, m_size, tooNarrow));
            lines = std::max(lines, cells.back().size());
        }
        const double high = double(lines) * line + 1.4;
        if (m_y + high > m_box.ymax + 1e-6) return false;
        m_out.overfull += tooNarrow;
        auto& items = m_out.pages.back();
        double x = m_box.xmin;
        for (std::size_t k = 0; k < cells.size(); ++k) {
            for (std::size_t l = 0; l < cells[k].size(); ++l) {
                Text text{cells[k][l], {x + kGap, m_y + 0.7 + double(l) * line}, m_size, kInk};
                text.anchor = Text::Anchor::Top;
                text.strong = isHead;
                if (m_toRight[k]) text.at.x = x + m_widths[k] - kGap, text.align = Text::Align::Right;
                items.push_back({"table", row[0], std::move(text), {}});
            }
            x += m_widths[k];
        }
        m_y += high;
        const Pen rule{isHead ? kInk : kRule, isHead ? 0.3 : 0.15, {}};
        items.push_back({"table", "", Line{{{m_box.xmin, m_y}, {x, m_y}}, rule}, {}});
        return true;
    }

    const TableRows& m_rows;
    double m_size = 2.6; ///< of letters, millimetres
    std::vector<double> m_widths;
    std::vector<bool> m_toRight; ///< figures
    TablePages m_out;
    Box2 m_box;
    double m_y = 0;
};

} // namespace

TableRows unitRows(const ProductSet& products) {
    const auto& s = *products.project.sequence;
    const auto isUsed = [&](const std::string& key) {
        return std::ranges::any_of(s.units, [&](const Unit& u) { return u.values.contains(key); });
    };
    TableRows rows{{"Unit", "Name", "Volume, m³", "Area, m²", "Mean thickness, m"}};
    for (const auto& kind : s.valueKinds())
        if (isUsed(kind.key)) rows[0].push_back(kind.unit.empty() ? kind.words : kind.words + ", " + kind.unit);
    for (std::size_t u = 0; u < s.units.size(); ++u) {
        std::vector<std::string> row{s.units[u].code, s.units[u].name, "", "", ""};
        if (products.volumes)
            for (const auto& v : products.volumes->units)
                if (v.unit == u)
                    row[2] = fmt::format("{:.0f}", v.volume), row[3] = fmt::format("{:.0f}", v.area),
                    row[4] = fmt::format("{:.2f}", v.meanThickness);
        for (const auto& kind : s.valueKinds())
            if (isUsed(kind.key)) {
                const auto value = s.units[u].values.find(kind.key);
                row.push_back(value == s.units[u].values.end() ? "" : fmt::format("{:.4g}", value->second));
            }
        rows.push_back(std::move(row));
    }
    return rows;
}

TableRows tableRows(const std::string& key, const ProductSet& products) {
    if (key == "units") return unitRows(products);
    if (key == "holes") return holeRows(products);
    if (key == "sources") return sourceRows(products);
    return {};
}

TablePages layOutTable(const TableRows& rows, const Box2& first, const Box2& further) {
    if (rows.empty()) return {};
    return TableLayout(rows, first.width()).layOut(first, further);
}

} // namespace fox
