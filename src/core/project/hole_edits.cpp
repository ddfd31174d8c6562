#include "project/hole_edits.h"

#include "base/errors.h"
#include "base/text.h"
#include "formats/table.h"
#include "project/corrections.h"
#include "project/import.h"

#include <fmt/format.h>

namespace fox {

namespace {

/// A version in the making, with the hole that is edited. What is changed is recorded by done().
class HoleEdit {
public:
    HoleEdit(const Project& project, const std::string& holeName, std::string label)
        : m_project(project), m_label(std::move(label)), m_holes(*project.holes), m_book(project) {
        const auto* found = findHole(*project.holes, holeName);
        if (!found) throw Error(fmt::format("There is no hole named {} in the project.", holeName));
        m_before = found;
        m_hole = &m_holes[std::size_t(found - project.holes->data())];
    }

    Hole& hole() { return *m_hole; }

    void setTop(Interval& i, Depth to) {
        m_book.recordNumber(*m_before, i.line, "GEOL_TOP", ColumnRole::Top, i.top.metres, to.metres, m_label);
        i.top = to;
    }
    void setBase(Interval& i, Depth to) {
        m_book.recordNumber(*m_before, i.line, "GEOL_BASE", ColumnRole::Base, i.base.metres, to.metres, m_label);
        i.base = to;
    }

    Edited done() {
        m_book.recordFacts(*m_before, *m_hole, m_label);
        Edited e{m_project, m_label};
        e.project.holes = part(std::move(m_holes));
        std::move(m_book).into(e.project);
        return e;
    }

private:
    const Project& m_project;
    std::string m_label;
    Holes m_holes;
    CorrectionBook m_book;
    const Hole* m_before = nullptr;
    Hole* m_hole = nullptr;
};

} // namespace

Edited setHoleLevel(const Project& project, const std::string& name, Level level) {
    HoleEdit edit(project, name, fmt::format("Set the level of {} to {:.2f} m", name, level.metres));
    edit.hole().level = level;
    return edit.done();
}

Edited setHolePlace(const Project& project, const std::string& name, Point2 place) {
    HoleEdit edit(project, name, fmt::format("Place {} at E {:.2f} N {:.2f}", name, place.x, place.y));
    edit.hole().easting = place.x, edit.hole().northing = place.y;
    return edit.done();
}

Edited swapPlace(const Project& project, const std::string& name) {
    HoleEdit edit(project, name, fmt::format("Swap easting and northing of {}", name));
    std::swap(edit.hole().easting, edit.hole().northing);
    return edit.done();
}

Edited setFinalDepth(const Project& project, const std::string& name, Depth depth) {
    HoleEdit edit(project, name, fmt::format("Set the final depth of {} to {:.2f} m", name, depth.metres));
    edit.hole().finalDepth = depth;
    return edit.done();
}

Edited setHoleKind(const Project& project, const std::string& name, const std::string& type) {
    HoleEdit edit(project, name, fmt::format("Kind of {}: {}", name, typeInWords(type)));
    edit.hole().type = type;
    return edit.done();
}

Edited setLeftOut(const Project& project, const std::string& name, bool leftOut) {
    HoleEdit edit(project, name,
                  leftOut ? fmt::format("Leave {} out of surfaces", name) : fmt::format("Use {} for surfaces again", name));
    edit.hole().leftOut = leftOut;
    return edit.done();
}

Edited moveBoundary(const Project& project, const std::string& name, std::size_t index, Depth to) {
    HoleEdit edit(project, name, fmt::format("Move a contact in {} to {:.2f} m", name, to.metres));
    auto& intervals = edit.hole().intervals;
    if (index >= intervals.size()) throw Error(fmt::format("{} has no interval {}.", name, index + 1));
    auto& interval = intervals[index];
    auto* next = index + 1 < intervals.size() ? &intervals[index + 1] : nullptr;
    const bool follows = next && next->top == interval.base;
    if (to <= interval.top || (follows && to >= next->base))
        throw Error(fmt::format("{}: a boundary at {:.2f} m would leave an interval without length.", name, to.metres));
    edit.setBase(interval, to);
    if (follows) edit.setTop(*next, to);
    return edit.done();
}

Edited closeGap(const Project& project, const std::string& name, std::size_t index) {
    HoleEdit edit(project, name, fmt::format("Close a gap in {}", name));
    auto& intervals = edit.hole().intervals;
    if (index >= intervals.size()) throw Error(fmt::format("{} has no interval {}.", name, index + 1));
    Interval* above = nullptr;
    for (std::size_t k = 0; k < index; ++k)
        if (intervals[k].usable()) above = &intervals[k];
    if (above)
        edit.setBase(*above, intervals[index].top);
    else
        edit.setTop(intervals[index], Depth{0});
    return edit.done();
}

Edited setFileCell(const Project& project, const std::string& fileName, int line, const std::string& heading,
                   const std::string& value) {
    const auto file = std::ranges::find(*project.files, fileName, &SourceFile::name);
    if (file == project.files->end()) throw Error(fmt::format("There is no file {} in the project.", fileName));
    const auto ags = readAgs(*file->bytes, fileName);
    Correction correction{fileName, line, "", heading, "", "", value, ""};
    for (const auto& g : ags.groups)
        for (std::size_t r = 0; r < g.rows.size(); ++r)
            if (g.rows[r].line == line) {
                correction.group = g.name;
                if (const auto c = g.column(heading)) correction.before = trimmed(g.cell(r, *c));
                for (const char* id : {"LOCA_ID", "HOLE_ID"})
                    if (const auto c = g.column(id)) correction.hole = trimmed(g.cell(r, *c));
            }
    if (correction.group.empty()) throw Error(fmt::format("{} has no row of data on line {}.", fileName, line));
    Edited e{project, fmt::format("Set {} of {} to {}", heading, correction.hole.empty() ? correction.group : correction.hole,
                                  value.empty() ? "nothing" : value)};
    correction.why = e.label;
    auto corrections = *project.corrections;
    std::erase_if(corrections, [&](const Correction& c) { return c.file == fileName && c.line == line && c.heading == heading; });
    if (correction.before != value) corrections.push_back(correction);
    e.project.corrections = part(std::move(corrections));
    if (*feeds(correction.group)) {
        const auto again = rereadSource(e.project, fileName, file->settings);
        e.project.holes = again.project.holes;
        e.project.files = again.project.files;
    }
    return e;
}

const Correction* correctionOf(const Project& project, const std::string& file, int line, const std::string& heading) {
    for (const auto& c : *project.corrections)
        if (c.line == line && c.heading == heading && c.file == file) return &c;
    return nullptr;
}

std::string correctionsAsCsv(const Project& project) {
    std::string out = "file,line,hole,group,heading,before,after,why\n";
    const auto row = [&](std::initializer_list<std::string> cells) {
        bool first = true;
        for (const auto& cell : cells) {
            if (!first) out += ',';
            out += tableCell(cell);
            first = false;
        }
        out += '\n';
    };
    for (const auto& c : *project.corrections)
        row({c.file, std::to_string(c.line), c.hole, c.group, c.heading, c.before, c.after, c.why});
    for (const auto& [from, to] : project.sequence->aliases)
        row({"", "", "", "", project.sequence->unitHeading, from, to, fmt::format("{} is read as {}", from, to)});
    for (const auto& h : *project.holes)
        if (h.leftOut)
            row({h.file, std::to_string(h.line), displayName(*project.holes, h), "", "", "", "", "Left out of surfaces"});
    return out;
}

} // namespace fox
