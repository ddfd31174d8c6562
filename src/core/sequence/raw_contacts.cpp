#include "sequence/raw_contacts.h"

#include <algorithm>
#include <map>
#include <set>

// A boundary at level z has unit k above and unit n below. From k down the sequence: a unit that onlaps and is not the last one
// over n has its raw base at or below z; the first that cuts, or the last one over n, has it at z, whether it is there or not; of
// the units between that one and n each that cuts, and the last one, has it at or above z: had it been lower, the unit would be
// there. The top of a log is such a boundary with nothing above. A hole that stops in unit k says at or below of k, and of the
// next older ones as long as the one before onlaps. Stacked again (see model/stack.cpp), all of it gives back the boundaries.
// Units that no log has are passed over: nothing holds up, and nothing is held up by, what is not there.
namespace fox {

namespace {

class RawReading {
public:
    RawReading(const InterpretedLogs& logs, const Sequence& sequence, const Interpretation& own,
               const std::vector<std::vector<Contact>>& shown)
        : m_sequence(sequence), m_shown(shown), m_out(shown.size()), m_known(sequence.units.size(), false) {
        for (const auto& hole : logs.holes)
            for (const auto& i : hole.intervals)
                if (!i.returned && i.unit < m_known.size()) m_known[i.unit] = true;
        for (const auto& g : own.guides)
            if (const auto u = sequence.index(g.unit)) m_known[*u] = true;
        for (std::size_t u = 0; u < shown.size(); ++u)
            for (const auto& c : shown[u])
                if (isGiven(c)) m_known[u] = true;
    }

    void read(const InterpretedHole& hole, const HolePath& path) {
        m_hole = hole.name;
        std::vector<InterpretedInterval> log;
        for (const auto& i : hole.intervals)
            if (!i.returned) log.push_back(i);
        if (log.empty()) return;
        for (std::size_t u = 0; u < log.front().unit && u < m_out.size(); ++u) {
            say(u, ContactKind::Absent, path.at(log.front().top));
            m_out[u].back().atSurface = log.front().top.metres < kTouch;
        }
        for (std::size_t i = 0; i + 1 < log.size(); ++i) {
            if (log[i + 1].unit <= log[i].unit) continue; // the same unit goes on behind a gap
            if (log[i + 1].top.metres - log[i].base.metres > kTouch)
                gap(log[i], log[i + 1], path);
            else
                boundary(log[i].unit, log[i + 1].unit, path.at(log[i].base));
        }
        const auto end = path.at(log.back().base);
        for (auto u = log.size() > 1 ? log[log.size() - 2].unit : 0; u < m_out.size(); ++u)
            if (log.back().couldBe(u))
                for (auto c = m_out[u].rbegin(); c != m_out[u].rend() && c->hole == m_hole; ++c)
                    c->undecided = c->kind == ContactKind::Absent;
        for (auto u = std::optional(log.back().unit); u && *u < m_out.size(); u = olderThan(*u)) {
            say(*u, ContactKind::NotReached, end);
            if (!laps(*u)) break;
        }
    }

    /// With what was chosen, picked or listed in place of what the log says.
    std::vector<std::vector<Contact>> take() {
        for (std::size_t u = 0; u < m_out.size(); ++u) {
            std::set<std::string> given;
            for (const auto& c : m_shown[u])
                if (isGiven(c) && !c.hole.empty()) given.insert(c.hole);
            std::erase_if(m_out[u], [&](const Contact& c) { return given.contains(c.hole); });
            for (const auto& c : m_shown[u])
                if (isGiven(c)) m_out[u].push_back(c);
        }
        return std::move(m_out);
    }

private:
    static bool isGiven(const Contact& c) { return c.byHand || c.hole.empty() || !c.file.empty(); }
    bool laps(std::size_t u) const { return m_sequence.units[u].base == BaseRule::Laps; }

    /// The next older unit that some log has, or the oldest of all.
    std::optional<std::size_t> olderThan(std::size_t u) const {
        for (++u; u < m_sequence.units.size(); ++u)
            if (m_known[u] || u + 1 == m_sequence.units.size()) return u;
        return {};
    }

    void say(std::size_t u, ContactKind kind, Point3 at) { m_out[u].push_back({m_hole, kind, at}); }

    void boundary(std::size_t above, std::size_t below, Point3 at) {
        std::vector<std::size_t> units; // from the one above the boundary to the last over the one below
        for (auto u = std::optional(above); u && *u < below && *u < m_out.size(); u = olderThan(*u)) units.push_back(*u);
        std::size_t i = 0;
        for (; i + 1 < units.size() && laps(units[i]); ++i) say(units[i], ContactKind::NotReached, at);
        if (i < units.size()) say(units[i], ContactKind::Observed, at);
        for (++i; i < units.size(); ++i)
            if (!laps(units[i]) || i + 1 == units.size()) say(units[i], ContactKind::Absent, at);
        for (auto u = above + 1; u < below && u < m_out.size(); ++u)
            if (!m_known[u]) say(u, ContactKind::Absent, at); // so that it is known to be nowhere
    }

    /// Unread ground between: the base of the unit above lies somewhere in it.
    void gap(const InterpretedInterval& above, const InterpretedInterval& below, const HolePath& path) {
        if (above.unit < m_out.size())
            m_out[above.unit].push_back({m_hole, ContactKind::Gap, path.at(above.base), path.at(below.top)});
    }

    const Sequence& m_sequence;
    const std::vector<std::vector<Contact>>& m_shown;
    std::vector<std::vector<Contact>> m_out;
    std::vector<bool> m_known;
    std::string m_hole;
};

} // namespace

std::vector<std::vector<Contact>> rawContactsOf(const InterpretedLogs& logs, const Sequence& sequence,
                                                const Interpretation& interpretation,
                                                const std::vector<std::vector<Contact>>& points) {
    const auto shown = contactsOf(logs, sequence, interpretation, points);
    RawReading reading(logs, sequence, interpretation, shown);
    for (const auto& hole : logs.holes) {
        const auto path = HolePath::of(*hole.hole);
        if (path && !hole.hole->excluded) reading.read(hole, *path);
    }
    auto out = reading.take();
    std::set<std::pair<std::string, std::string>> silent;
    for (const auto& c : interpretation.contacts)
        if (c.kind == ContactChoice::Kind::Excluded) silent.emplace(c.hole, c.unit);
    for (std::size_t u = 0; u < out.size(); ++u)
        std::erase_if(out[u], [&](const Contact& c) { return silent.contains({c.hole, sequence.units[u].code}); });
    return out;
}

} // namespace fox
