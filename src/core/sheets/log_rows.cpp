#include "sheets/log_rows.h"

#include "base/text.h"

#include <fmt/format.h>
#include <set>

namespace fox {

namespace {

/// The rows of a group that have the hole's id.
class HoleRows {
public:
    HoleRows(const Hole& hole, std::string_view group, const ProductSet& products) {
        for (const auto& file : products.agsFiles) {
            if (!file || file->name != hole.file) continue;
            const auto* found = file->group(std::string(group));
            const auto id = found ? found->column(file->edition == AgsEdition::Ags3 ? "HOLE_ID" : "LOCA_ID") : std::nullopt;
            if (!id) continue;
            m_group = found;
            for (std::size_t r = 0; r < found->rows.size(); ++r)
                if (found->cell(r, *id) == hole.id) m_rows.push_back(r);
            return;
        }
    }
    const std::vector<std::size_t>& rows() const { return m_rows; }
    /// The first of these headings that the group has.
    std::optional<std::size_t> column(std::initializer_list<std::string> headings) const {
        if (!m_group) return {};
        for (const auto& h : headings)
            if (const auto found = m_group->column(h)) return found;
        return {};
    }
    std::string cell(std::size_t row, std::optional<std::size_t> column) const {
        return column ? std::string(m_group->cell(row, *column)) : std::string();
    }
    std::optional<double> number(std::size_t row, std::optional<std::size_t> column) const {
        return column ? parseNumber(m_group->cell(row, *column)) : std::nullopt;
    }
    std::string unit(std::size_t row, std::size_t column) const { return std::string(m_group->unit(row, column)); }

private:
    const AgsGroup* m_group = nullptr;
    std::vector<std::size_t> m_rows;
};

constexpr const char* kDepthEndings[] = {"_TOP", "_FROM", "_DPTH", "_DEP"}; // of the heading that has a row's depth

/// "GROUP" and "HEADING".
std::pair<std::string, std::string> parted(const std::string& heading) {
    const auto dot = heading.find('.');
    return dot == heading.npos ? std::pair<std::string, std::string>()
                               : std::pair(heading.substr(0, dot), heading.substr(dot + 1));
}

template <typename T>
void sortByDepth(std::vector<T>& all, double T::*depth) {
    std::ranges::stable_sort(all, {}, depth);
}

} // namespace

std::vector<DepthText> fieldTexts(const Hole& hole, const std::string& heading, const ProductSet& products) {
    const auto [group, field] = parted(heading);
    const HoleRows rows(hole, group, products);
    const auto column = rows.column({field}), depth = rows.column({group + kDepthEndings[0], group + kDepthEndings[1],
                                                                   group + kDepthEndings[2], group + kDepthEndings[3]});
    std::vector<DepthText> out;
    if (!column || !depth) return out;
    for (const auto r : rows.rows())
        if (const auto at = rows.number(r, depth); at && !rows.cell(r, column).empty())
            out.push_back({*at, rows.cell(r, column), field});
    sortByDepth(out, &DepthText::top);
    return out;
}

std::vector<std::string> depthFields(const ProductSet& products) {
    std::set<std::string> out;
    for (const auto& file : products.agsFiles)
        if (file)
            for (const auto& group : file->groups) {
                const bool hasHoles = group.column("LOCA_ID") || group.column("HOLE_ID");
                const bool hasDepths = std::ranges::any_of(
                    kDepthEndings, [&](const char* ending) { return group.column(group.name + ending).has_value(); });
                if (!hasHoles || !hasDepths) continue;
                for (const auto& h : group.headings)
                    if (h != "LOCA_ID" && h != "HOLE_ID") out.insert(group.name + "." + h);
            }
    return {out.begin(), out.end()};
}

bool lacksUnit(const Hole& hole, const std::string& heading, const ProductSet& products) {
    const auto [group, field] = parted(heading);
    const HoleRows rows(hole, group, products);
    const auto column = rows.column({field});
    return column && std::ranges::any_of(rows.rows(), [&](std::size_t r) {
               return rows.number(r, column).has_value() && rows.unit(r, *column).empty();
           });
}

std::vector<HoleDiameter> diametersOf(const Hole& hole, const ProductSet& products) {
    std::vector<HoleDiameter> out;
    const auto add = [&](const HoleRows& rows, bool isCasing, std::optional<std::size_t> depth,
                         std::optional<std::size_t> diameter) {
        for (const auto r : rows.rows())
            if (const auto to = rows.number(r, depth), wide = rows.number(r, diameter); to && wide && *to > 0 && *wide > 0)
                out.push_back({isCasing, *to, *wide});
    };
    const HoleRows holes(hole, "HDIA", products), casings(hole, "CDIA", products);
    add(holes, false, holes.column({"HDIA_DPTH", "HDIA_HDEP"}), holes.column({"HDIA_DIAM", "HDIA_HOLE"}));
    add(holes, true, holes.column({"HDIA_CDEP"}), holes.column({"HDIA_CASG"}));
    add(casings, true, casings.column({"CDIA_DPTH", "CDIA_CDEP"}), casings.column({"CDIA_DIAM", "CDIA_CASG"}));
    sortByDepth(out, &HoleDiameter::depth);
    return out;
}

std::vector<DepthText> progressTexts(const Hole& hole, const ProductSet& products) {
    const HoleRows rows(hole, "PTIM", products);
    const auto date = rows.column({"PTIM_DTIM", "PTIM_DATE"}), depth = rows.column({"PTIM_DPTH", "PTIM_DEP"}),
               casing = rows.column({"PTIM_CAS"}), water = rows.column({"PTIM_WAT"});
    std::vector<DepthText> out;
    for (const auto r : rows.rows()) {
        const auto at = rows.number(r, depth);
        if (!at) continue;
        std::string words = rows.cell(r, date).substr(0, 10);
        words += fmt::format("{}hole {}", words.empty() ? "" : " ", rows.cell(r, depth));
        if (const auto to = rows.cell(r, casing); !to.empty()) words += ", casing " + to;
        if (const auto to = rows.cell(r, water); !to.empty()) words += ", water " + to;
        out.push_back({*at, std::move(words), "progress"});
    }
    sortByDepth(out, &DepthText::top);
    return out;
}

std::vector<DepthText> remarkTexts(const Hole& hole, const ProductSet& products) {
    std::vector<DepthText> out;
    for (const char* group : {"LOCA", "HOLE"}) {
        const HoleRows rows(hole, group, products);
        const auto remark = rows.column({std::string(group) + "_REM"});
        for (const auto r : rows.rows())
            if (const auto words = rows.cell(r, remark); !words.empty()) out.push_back({0, words, "remark"});
    }
    for (const auto& d : hole.details) out.push_back({d.top.metres, detailInWords(d), "detail"});
    sortByDepth(out, &DepthText::top);
    return out;
}

std::string detailInWords(const Detail& d) {
    return d.base.metres > d.top.metres ? fmt::format("{:.2f} to {:.2f} m: {}", d.top.metres, d.base.metres, d.words)
                                        : fmt::format("{:.2f} m: {}", d.top.metres, d.words);
}

} // namespace fox
