#include "layers/cell_groups.h"

#include "layers/layered_grid.h"

namespace fox {

namespace {

constexpr CellMark kMarks[] = {CellMark::Crossing, CellMark::Thin,    CellMark::NoValue,
                               CellMark::Alone,    CellMark::Missing, CellMark::Ratio};
constexpr CellAnswer kToThin[] = {CellAnswer::Passive, CellAnswer::Thicken, CellAnswer::Join};
constexpr CellAnswer kToMissing[] = {CellAnswer::Leave, CellAnswer::Thicken};
constexpr CellAnswer kToAlone[] = {CellAnswer::Leave, CellAnswer::Passive};

/// Sets the middle and the area of a group from its columns.
void measure(const PlanGrid& plan, CellGroup& group) {
    const auto centre = [&](std::size_t column) {
        return plan.centre(int(column % std::size_t(plan.columns())), int(column / std::size_t(plan.columns())));
    };
    Point2 middle;
    for (const auto c : group.columns) {
        const auto p = centre(c);
        middle.x += p.x / double(group.columns.size()), middle.y += p.y / double(group.columns.size());
        group.area += plan.area(c);
    }
    group.at = centre(*std::ranges::min_element(group.columns, {}, [&](std::size_t c) { return distance(centre(c), middle); }));
}

} // namespace

std::span<const CellMark> cellMarks() { return kMarks; }

const char* words(CellMark mark) {
    switch (mark) {
    case CellMark::Crossing: return "Bases cross";
    case CellMark::Thin: return "Too thin";
    case CellMark::NoValue: return "A value is missing";
    case CellMark::Alone: return "Active alone";
    case CellMark::Missing: return "Missing among neighbours";
    case CellMark::Ratio: return "Thickness ratio over 5";
    }
    return "";
}

const char* name(CellMark mark) {
    switch (mark) {
    case CellMark::Crossing: return "crossing";
    case CellMark::Thin: return "thin";
    case CellMark::NoValue: return "no_value";
    case CellMark::Alone: return "alone";
    case CellMark::Missing: return "missing";
    case CellMark::Ratio: return "ratio";
    }
    return "";
}

const char* words(CellAnswer answer) {
    switch (answer) {
    case CellAnswer::Leave: return "left as they are";
    case CellAnswer::Passive: return "inactive, water passes through";
    case CellAnswer::Thicken: return "made thick enough";
    case CellAnswer::Join: return "joined to the layer above";
    }
    return "";
}

const char* name(CellAnswer answer) {
    switch (answer) {
    case CellAnswer::Leave: return "leave";
    case CellAnswer::Passive: return "inactive";
    case CellAnswer::Thicken: return "thicken";
    case CellAnswer::Join: return "join";
    }
    return "";
}

std::span<const CellAnswer> answersTo(CellMark mark) {
    switch (mark) {
    case CellMark::Thin: return kToThin;
    case CellMark::Missing: return kToMissing;
    case CellMark::Alone: return kToAlone;
    default: return {};
    }
}

double CellGroup::moved(CellAnswer a) const { return a == CellAnswer::Thicken ? thicken : a == CellAnswer::Join ? join : 0; }

std::vector<CellGroup> groupsOf(const LayeredGrid& g, CellMark mark) {
    std::vector<CellGroup> out;
    const int columns = g.plan.columns(), rows = g.plan.rows();
    std::vector<char> isOpen(g.plan.cells()); // has the mark, and is in no group yet
    std::vector<std::size_t> next;
    for (std::size_t k = 0; k < g.layers.size(); ++k) {
        for (std::size_t c = 0; c < isOpen.size(); ++c) {
            const auto cell = g.index(k, c);
            isOpen[c] = g.state[cell] != CellState::Outside && g.has(cell, mark);
        }
        for (std::size_t start = 0; start < isOpen.size(); ++start) {
            if (!isOpen[start]) continue;
            CellGroup group{mark, k, {}, {}};
            next = {start};
            isOpen[start] = 0;
            while (!next.empty()) {
                const auto at = next.back();
                next.pop_back();
                group.columns.push_back(at);
                const int column = int(at % std::size_t(columns)), row = int(at / std::size_t(columns));
                for (const auto& [dc, dr] : {std::pair{-1, 0}, {1, 0}, {0, -1}, {0, 1}}) {
                    const int c = column + dc, r = row + dr;
                    if (c < 0 || r < 0 || c >= columns || r >= rows || !isOpen[g.plan.index(c, r)]) continue;
                    isOpen[g.plan.index(c, r)] = 0;
                    next.push_back(g.plan.index(c, r));
                }
            }
            std::ranges::sort(group.columns);
            measure(g.plan, group);
            out.push_back(std::move(group));
        }
    }
    std::ranges::stable_sort(out, std::ranges::greater(), [](const CellGroup& group) { return group.columns.size(); });
    return out;
}

} // namespace fox
