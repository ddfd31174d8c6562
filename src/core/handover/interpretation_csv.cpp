#include "handover/interpretation_csv.h"

#include "base/errors.h"
#include "base/text.h"
#include "formats/table.h"
#include "project/interval_edits.h"
#include "project/sequence_edits.h"
#include "sequence/interval_parts.h"

#include <array>
#include <fmt/format.h>
#include <unordered_map>
#include <unordered_set>

namespace fox {

namespace {

const InterpretedInterval* readAs(const InterpretedHole& read, const Interval& i) {
    const auto it =
        std::ranges::find_if(read.intervals, [&](const InterpretedInterval& r) { return r.top <= i.top && i.base <= r.base; });
    return it == read.intervals.end() ? nullptr : &*it;
}

} // namespace

std::string interpretationCsv(const ProductSet& set) {
    std::string out = "hole,unit,top,base,kind\n";
    const auto& units = set.project.sequence->units;
    const auto add = [&](const std::string& hole, const std::string& unit, const std::string& top, Depth base, const char* kind) {
        fmt::format_to(std::back_inserter(out), "{},{},{},{:.2f},{}\n", tableCell(hole), tableCell(unit), top, base.metres, kind);
    };
    for (const auto& read : set.reading->holes)
        for (const auto& i : read.logged()) {
            if (!i.usable()) continue;
            const auto* as = readAs(read, i);
            add(read.name, as ? units[as->unit].code : "", fmt::format("{:.2f}", i.top.metres), i.base,
                !as            ? "no unit"
                : as->returned ? "out of order"
                : as->byHand   ? "by hand"
                               : "logged");
        }
    for (const auto& p : set.project.interpretation->picks) add(p.hole, p.unit, "", p.depth, "pick");
    return out;
}

namespace {

class Importer {
public:
    Importer(const Project& project, std::string_view bytes, const std::string& name, const Progress& progress)
        : m_progress(progress),
          m_table(readTable(bytes, name)),
          m_reading(readHoles(*project.holes, *project.sequence, *project.interpretation)) {
        m_out.edited.project = project;
        for (const auto& [wanted, to] : {std::pair{"hole", &m_hole}, {"unit", &m_unit}, {"base", &m_base}}) {
            const auto column = m_table.column(wanted);
            if (!column)
                throw FileError(
                    fmt::format("{}: there is no column \"{}\"; hole, unit, top, base and kind are read.", name, wanted));
            *to = *column;
        }
        m_top = m_table.column("top");
        m_kind = m_table.column("kind");
    }

    InterpretationImport import() {
        for (const auto& h : m_reading.holes) m_logs.emplace(h.name, &h);
        for (auto& name : displayNames(*m_out.edited.project.holes)) m_names.insert(std::move(name));
        for (std::size_t row = 0; row < m_table.rows.size(); ++row) readRow(row);
        auto& e = m_out.edited;
        if (!m_splits.empty()) {
            auto own = *e.project.interpretation;
            own.splits.insert(own.splits.end(), m_splits.begin(), m_splits.end());
            e = withOwn(e.project, std::move(own), "");
        }
        if (!m_choices.empty()) e = setIntervals(e.project, m_choices, "");
        if (!m_picks.empty()) {
            m_out.picks = int(m_picks.size());
            e = setPicks(e.project, m_picks, "", [&](const Pick& p, const std::string& why) {
                m_progress.check();
                --m_out.picks;
                m_out.findings.push_back({Severity::Warning, "FC-READING", m_table.name, 0, "", "", p.hole, why});
            });
        }
        m_out.intervals = int(m_choices.size());
        e.label = fmt::format("Units of {} from {}", counted(m_choices.size() + m_picks.size(), "interval"), m_table.name);
        return std::move(m_out);
    }

private:
    void say(std::size_t row, const std::string& hole, std::string words) {
        m_out.findings.push_back(
            {Severity::Warning, "FC-READING", m_table.name, m_table.rows[row].line, "", "", hole, std::move(words)});
    }

    void readRow(std::size_t row) {
        m_progress.check();
        const std::string hole(m_table.cell(row, m_hole)), unit(m_table.cell(row, m_unit));
        const auto& project = m_out.edited.project;
        const auto at = m_logs.find(hole);
        if (!m_names.contains(hole)) return say(row, hole, fmt::format("There is no hole \"{}\" in the project.", hole));
        if (!unit.empty() && !project.sequence->index(unit))
            return say(row, hole, fmt::format("There is no unit \"{}\" in the sequence; add it first.", unit));
        const auto base = m_table.number(row, m_base);
        if (!base) return say(row, hole, fmt::format("\"{}\" is not a depth.", m_table.cell(row, m_base)));
        const auto top = m_top ? m_table.number(row, *m_top) : std::nullopt;
        const auto kind = m_kind ? lower(std::string(m_table.cell(row, *m_kind))) : "";
        if (kind == "pick" || (!top && !unit.empty())) {
            if (unit.empty()) return say(row, hole, "A pick needs a unit.");
            m_picks.push_back({hole, unit, Depth{*base}});
            return;
        }
        if (!top) return say(row, hole, "A depth range needs a top and a base.");
        if (at == m_logs.end()) return say(row, hole, "The hole has no log in the project.");
        if (!kind.empty() && readPart(*at->second, unit, Depth{*top}, Depth{*base})) return;
        readRange(row, *at->second, unit, *top, *base);
    }

    /// A stretch within one logged interval, as it goes out where that is split: it is split here too.
    bool readPart(const InterpretedHole& read, const std::string& unit, Depth top, Depth base) {
        m_progress.check();
        auto& log = m_parts.try_emplace(read.name, read.logged()).first->second;
        const auto at = std::ranges::find_if(log, [&](const Interval& i) {
            return i.usable() && i.top.metres <= top.metres + kTouch && base.metres <= i.base.metres + kTouch;
        });
        if (at == log.end()) return false;
        const bool isWhole = at->top.metres > top.metres - kTouch && at->base.metres < base.metres + kTouch;
        if (isWhole && m_splitHoles.count(read.name) == 0) return false; // as it is logged
        const auto* as = readAs(read, *at);
        const auto now = as ? m_out.edited.project.sequence->units[as->unit].code : "";
        for (const auto end : {top, base}) {
            auto parts = partsOf(log, {end});
            if (parts.empty()) continue;
            log = std::move(parts);
            m_splits.push_back({read.name, end});
            m_splitHoles.insert(read.name);
        }
        if (now != unit)
            m_choices.push_back({read.name, top, base, unit});
        else
            ++m_out.same;
        return true;
    }

    void readRange(std::size_t row, const InterpretedHole& read, const std::string& unit, double top, double base) {
        bool any = false, endsWithLog = false;
        const auto before = m_choices.size();
        for (const auto& i : read.logged()) {
            m_progress.check();
            if (!i.usable() || i.top.metres < top - kTouch || i.base.metres > base + kTouch) continue;
            any = true;
            endsWithLog |= std::abs(i.base.metres - base) < kTouch;
            const auto* as = readAs(read, i);
            const auto now = as ? m_out.edited.project.sequence->units[as->unit].code : "";
            if (now != unit) m_choices.push_back({read.name, i.top, i.base, unit});
        }
        if (any && m_choices.size() == before) ++m_out.same;
        if (!endsWithLog && !unit.empty()) m_picks.push_back({read.name, unit, Depth{base}});
        if (!any && unit.empty())
            say(row, read.name, fmt::format("The log has no interval between {:.2f} m and {:.2f} m.", top, base));
    }

    Progress m_progress;
    Table m_table;
    InterpretedLogs m_reading;
    std::unordered_map<std::string, const InterpretedHole*> m_logs; ///< by the hole's name
    std::unordered_set<std::string> m_names;                        ///< of all holes
    InterpretationImport m_out;
    std::size_t m_hole = 0, m_unit = 0, m_base = 0;
    std::optional<std::size_t> m_top, m_kind;
    std::map<std::string, std::vector<Interval>> m_parts; ///< logs with the splits so far, by the hole's name
    std::vector<IntervalSplit> m_splits;
    std::unordered_set<std::string> m_splitHoles;
    std::vector<IntervalChoice> m_choices;
    std::vector<Pick> m_picks;
};

} // namespace

bool isInterpretationCsv(std::string_view beginning) {
    const auto header = beginning.substr(0, beginning.find('\n'));
    try {
        const auto table = readTable(std::string(header) + "\n", "header");
        return std::ranges::all_of(std::array{"hole", "unit", "top", "base", "kind"},
                                   [&](const char* name) { return table.column(name).has_value(); });
    } catch (const FileError&) {
        return false;
    }
}

InterpretationImport importInterpretation(const Project& project, std::string_view bytes, const std::string& name,
                                          const Progress& progress) {
    return Importer(project, bytes, name, progress).import();
}

} // namespace fox
