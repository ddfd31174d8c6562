#include "sequence/contacts.h"

#include "base/text.h"
#include "sequence/description.h"
#include "sequence/interval_parts.h"

#include <fmt/format.h>
#include <set>

namespace fox {

const char* words(ContactKind kind) {
    switch (kind) {
    case ContactKind::Observed: return "observed";
    case ContactKind::NotReached: return "base not reached";
    case ContactKind::Absent: return "absent";
    case ContactKind::TooShort: return "stops above the unit";
    case ContactKind::Gap: return "between logged stretches";
    }
    return "";
}

std::string Contact::source() const { return hole.empty() ? fmt::format("{}, line {}", file, line) : hole; }

namespace {

std::string lettersOf(std::string_view s) {
    std::string out;
    for (const char c : upper(s))
        if ((c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9')) out += c;
    return out;
}

/// Whether each word of `said` begins the matching word of `full`: "made gr" and "Made Ground".
bool beginsWords(std::string_view said, std::string_view full) {
    const auto a = split(said, ' '), b = split(full, ' ');
    if (a.size() != b.size()) return false;
    for (std::size_t i = 0; i < a.size(); ++i)
        if (trimmed(a[i]).empty() || !upper(b[i]).starts_with(upper(a[i]))) return false;
    return true;
}

} // namespace

std::optional<std::size_t> looksLike(const std::string& code, const Sequence& sequence) {
    const auto letters = lettersOf(code);
    if (letters.empty()) return {};
    for (std::size_t i = 0; i < sequence.units.size(); ++i) {
        const auto& unit = sequence.units[i];
        if (letters == lettersOf(unit.code) || letters == lettersOf(unit.name) || beginsWords(trimmed(code), unit.name)) return i;
    }
    return {};
}

namespace {

/// Units that name the principal material of a description among what logs may call them; for logs without a code that is a
/// unit's.
std::vector<std::size_t> candidatesByMaterial(const std::string& description, const Sequence& sequence) {
    std::vector<std::size_t> out;
    const bool any = std::ranges::any_of(sequence.units, [](const Unit& u) { return !u.logged.empty(); });
    const auto material = any ? principalMaterial(description) : std::string();
    for (std::size_t i = 0; i < sequence.units.size() && !material.empty(); ++i)
        if (std::ranges::any_of(sequence.units[i].logged, [&](const auto& l) { return equalNoCase(l, material); }))
            out.push_back(i);
    return out;
}

/// Units (by index, youngest first) that a logged code may be.
std::vector<std::size_t> candidates(const std::string& logged, const Sequence& sequence) {
    const auto alias = sequence.aliases.find(logged);
    const auto& code = alias == sequence.aliases.end() ? logged : alias->second;
    std::vector<std::size_t> out;
    for (std::size_t i = 0; i < sequence.units.size(); ++i) {
        const auto& unit = sequence.units[i];
        if (unit.logged.empty() ? unit.code == code : std::ranges::count(unit.logged, code) > 0) out.push_back(i);
    }
    return out;
}

struct Unread {
    int intervals = 0;
    const Hole* firstHole = nullptr;
    int line = 0;
    std::string hole;
};

class HoleReading {
public:
    HoleReading(const Holes& holes, const Sequence& sequence, const Interpretation& own) : m_holes(holes), m_sequence(sequence) {
        for (const auto& c : own.intervals) m_choices[c.hole].push_back(&c);
        for (const auto& s : own.splits) m_splits[s.hole].push_back(s.depth);
        for (const auto& p : own.picks) m_picked.insert(p.hole);
    }

    InterpretedLogs read() {
        const auto names = displayNames(m_holes);
        for (std::size_t i = 0; i < m_holes.size(); ++i)
            if (!m_holes[i].intervals.empty() || m_picked.contains(names[i]) || hasLog(m_holes[i])) readOne(i, names[i]);
        limitYoungest();
        for (const auto& [hole, choices] : m_choices) reportLost(hole, choices);
        for (const auto& [code, unread] : m_unread) reportUnread(code, unread);
        return std::move(m_out);
    }

private:
    /// Readings all the way down, on which a base can be picked.
    static bool hasLog(const Hole& hole) {
        return std::ranges::any_of(hole.curves, [](const Curve& c) { return !c.single && c.readings && !c.readings->empty(); });
    }

    void readOne(std::size_t at, const std::string& name) {
        const auto& hole = m_holes[at];
        InterpretedHole read{name, &hole, {}, {}, 0, at};
        split(read);
        std::vector<std::vector<std::size_t>> options;
        for (const auto& i : read.logged()) {
            if (!i.usable()) continue;
            read.loggedLength += i.base.metres - i.top.metres;
            const auto code = i.codes.find(m_sequence.unitHeading);
            const std::string logged = code == i.codes.end() ? "" : code->second;
            auto units = candidates(logged, m_sequence);
            if (units.empty()) units = candidatesByMaterial(i.description, m_sequence);
            const bool several = units.size() > 1;
            const auto* choice = choiceFor(name, i);
            if (choice && choice->unit.empty()) continue; // said to be no unit of the sequence
            if (choice) units.assign(1, *m_sequence.index(choice->unit));
            if (units.empty()) {
                auto& unread = m_unread[logged];
                if (unread.intervals++ == 0) unread = {1, &hole, i.line, read.name};
                continue;
            }
            const auto youngest = units.front();
            options.push_back(std::move(units));
            read.intervals.push_back({0, i.top, i.base, false, choice != nullptr, several, youngest});
        }
        assign(read, options);
        markReturns(read);
        reportDeeper(read);
        join(read.intervals);
        m_out.holes.push_back(std::move(read));
    }

    /// A hole that stops in a code of several units goes deeper into it than the youngest of them is thick anywhere: then it is
    /// no longer that one.
    void limitYoungest() {
        std::vector<double> thickest(m_sequence.units.size(), 0); // metres along the hole, where something older lies below
        for (const auto& hole : m_out.holes)
            for (std::size_t k = 0; k + 1 < hole.intervals.size(); ++k) {
                const auto& i = hole.intervals[k];
                if (!i.returned) thickest[i.unit] = std::max(thickest[i.unit], i.base.metres - i.top.metres);
            }
        for (auto& hole : m_out.holes) {
            if (hole.intervals.empty()) continue;
            auto& last = hole.intervals.back();
            const double most = last.several ? thickest[last.youngest] : 0;
            if (most > 0 && last.base.metres - last.top.metres > most) last.youngest = last.unit;
        }
    }

    void split(InterpretedHole& read) {
        const auto found = m_splits.find(read.name);
        if (found == m_splits.end()) return;
        std::vector<Depth> lost;
        read.parts = partsOf(read.hole->intervals, found->second, &lost);
        for (const auto depth : lost)
            m_out.findings.push_back({Severity::Warning, "FC-CHOICE", read.hole->file, read.hole->line, "GEOL", "", read.name,
                                      fmt::format("The log was split at {:.2f} m; no interval goes through that depth now, so "
                                                  "that the split has no effect.",
                                                  depth.metres)});
    }

    /// What the geologist said of this interval; null if nothing, or if it speaks of a unit that is gone.
    const IntervalChoice* choiceFor(const std::string& hole, const Interval& i) {
        const auto found = m_choices.find(hole);
        if (found == m_choices.end()) return nullptr;
        auto& open = found->second;
        const auto it = std::ranges::find_if(open, [&](const IntervalChoice* c) {
            return std::abs(c->top.metres - i.top.metres) < kTouch && std::abs(c->base.metres - i.base.metres) < kTouch;
        });
        if (it == open.end()) return nullptr;
        const auto* choice = *it;
        if (!choice->unit.empty() && !m_sequence.index(choice->unit)) return nullptr;
        open.erase(it);
        return choice;
    }

    /// Choices that fit nothing any more: the hole's log, or the sequence, has changed since.
    void reportLost(const std::string& hole, const std::vector<const IntervalChoice*>& choices) {
        for (const auto* c : choices)
            m_out.findings.push_back(
                {Severity::Warning, "FC-CHOICE", "", 0, "", "", hole,
                 fmt::format("{:.2f} m to {:.2f} m was said to be {}; {}, so that it is read by its code again.", c->top.metres,
                             c->base.metres, c->unit.empty() ? "no unit" : c->unit,
                             c->unit.empty() || m_sequence.index(c->unit) ? "the log has no such interval now"
                                                                          : "the sequence has no such unit now")});
    }

    /// From the bottom up: the oldest option not older than what lies below; if there is none, the youngest.
    void assign(InterpretedHole& read, const std::vector<std::vector<std::size_t>>& options) const {
        std::size_t below = m_sequence.units.size();
        for (std::size_t i = read.intervals.size(); i-- > 0;) {
            const auto& o = options[i];
            const auto fit = std::find_if(o.rbegin(), o.rend(), [&](std::size_t u) { return u <= below; });
            read.intervals[i].unit = fit != o.rend() ? *fit : o.front();
            if (fit != o.rend()) below = read.intervals[i].unit;
        }
    }

    /// A younger unit below an older one is out of order: the least length of log is given up for order.
    void markReturns(InterpretedHole& read) {
        auto& intervals = read.intervals;
        // best[i]: the longest in-order length that ends with interval i
        std::vector<double> best(intervals.size());
        std::vector<int> before(intervals.size(), -1);
        int last = -1;
        for (std::size_t i = 0; i < intervals.size(); ++i) {
            best[i] = intervals[i].base.metres - intervals[i].top.metres;
            const double own = best[i];
            for (std::size_t k = 0; k < i; ++k)
                if (intervals[k].unit <= intervals[i].unit && best[k] + own > best[i])
                    best[i] = best[k] + own, before[i] = int(k);
            if (last < 0 || best[i] > best[std::size_t(last)]) last = int(i);
        }
        for (auto& i : intervals) i.returned = true;
        for (int i = last; i >= 0; i = before[std::size_t(i)]) intervals[std::size_t(i)].returned = false;
        for (std::size_t k = 0; k < intervals.size(); ++k) {
            const auto& i = intervals[k];
            if (!i.returned) continue;
            Finding f{
                Severity::Warning,
                "FC-ORDER",
                read.hole->file,
                read.hole->line,
                "GEOL",
                m_sequence.unitHeading,
                read.name,
                fmt::format("{} from {:.2f} m to {:.2f} m is out of the sequence's order; it is used for no surface and counts "
                            "as unmatched.",
                            m_sequence.units[i.unit].code, i.top.metres, i.base.metres)};
            // what is in order beside it could be what it is
            std::set<std::size_t> beside;
            for (const auto at : {k - 1, k + 1})
                if (at < intervals.size() && !intervals[at].returned) beside.insert(intervals[at].unit);
            for (const auto u : beside)
                f.others.push_back({fmt::format("Read it as {}", m_sequence.units[u].code),
                                    AssignUnit{read.name, i.top, i.base, m_sequence.units[u].code}});
            f.others.push_back({"Read it as no unit", AssignUnit{read.name, i.top, i.base, ""}});
            m_out.findings.push_back(std::move(f));
        }
    }

    /// A log that goes on, below all that is a unit, in ground that is none.
    void reportDeeper(const InterpretedHole& read) {
        double known = 0, logged = 0;
        for (const auto& i : read.intervals) known = std::max(known, i.base.metres);
        for (const auto& i : read.logged())
            if (i.usable()) logged = std::max(logged, i.base.metres);
        if (read.intervals.empty() || logged <= known + kTouch) return;
        m_out.findings.push_back(
            {Severity::Warning, "FC-DEEPER", read.hole->file, read.hole->line, "GEOL", m_sequence.unitHeading, read.name,
             fmt::format("The hole is deeper than the sequence: from {:.2f} m to {:.2f} m its log has no unit. "
                         "Add its code as a unit, or read it as one.",
                         known, logged)});
    }

    static void join(std::vector<InterpretedInterval>& intervals) {
        std::vector<InterpretedInterval> out;
        for (const auto& i : intervals)
            if (!out.empty() && !i.returned && !out.back().returned && out.back().unit == i.unit && out.back().base == i.top) {
                out.back().base = i.base;
                out.back().byHand |= i.byHand;
                out.back().several |= i.several;
                out.back().youngest = std::min(out.back().youngest, i.youngest);
            } else {
                out.push_back(i);
            }
        intervals = std::move(out);
    }

    void reportUnread(const std::string& code, const Unread& unread) {
        Finding f{Severity::Warning, "FC-CODE", unread.firstHole->file,
                  unread.line,       "GEOL",    m_sequence.unitHeading,
                  unread.hole,       "",        {}};
        const auto many = counted(std::size_t(unread.intervals), "interval");
        if (code.empty()) {
            f.message = fmt::format("{} without a {}: no unit has {}.", many, m_sequence.unitHeading,
                                    unread.intervals == 1 ? "it" : "them");
        } else if (const auto unit = looksLike(code, m_sequence)) {
            const auto& u = m_sequence.units[*unit];
            f.message = fmt::format("The code \"{}\" ({}) is not a unit; it looks like a spelling of {} ({}).", code, many,
                                    u.code, u.name);
            f.remedy = Remedy{fmt::format("Merge into {}", u.code), MergeCode{code, u.code}};
        } else {
            f.message = fmt::format("The code \"{}\" ({}) is not a unit of the sequence.", code, many);
            f.remedy = Remedy{fmt::format("Add {} as a unit", code), AddUnitFor{code}};
        }
        m_out.findings.push_back(std::move(f));
    }

    const Holes& m_holes;
    const Sequence& m_sequence;
    InterpretedLogs m_out;
    std::map<std::string, Unread> m_unread;
    std::map<std::string, std::vector<const IntervalChoice*>> m_choices; // those not used yet, by hole
    std::map<std::string, std::vector<Depth>> m_splits;                  // by hole
    std::set<std::string> m_picked;
};

/// What one hole says of one unit's base.
std::optional<Contact> contactIn(const InterpretedHole& read, const HolePath& path, std::size_t unit) {
    std::vector<InterpretedInterval> log;
    for (const auto& i : read.intervals)
        if (!i.returned) log.push_back(i);
    if (log.empty()) return {};
    const auto older = std::ranges::find_if(log, [&](const InterpretedInterval& i) { return i.unit > unit; });
    const auto lowest = std::find_if(log.rbegin(), log.rend(), [&](const InterpretedInterval& i) { return i.unit == unit; });
    if (lowest != log.rend()) {
        if (older == log.end()) {
            // what was drilled below the log and not described could still be the unit, or not: the log's end counts
            return Contact{read.name, ContactKind::NotReached, path.at(lowest->base)};
        }
        if (older->top.metres - lowest->base.metres > kTouch)
            return Contact{read.name, ContactKind::Gap, path.at(lowest->base), path.at(older->top)};
        return Contact{read.name, ContactKind::Observed, path.at(lowest->base)};
    }
    if (older != log.end()) {
        Contact contact{read.name, ContactKind::Absent, path.at(older->top)};
        contact.undecided = older + 1 == log.end() && older->couldBe(unit);
        return contact;
    }
    Contact contact{read.name, ContactKind::TooShort, path.at(log.back().base)};
    contact.endsIn = log.back().unit;
    return contact;
}

/// The contact as the geologist says it is; none if the hole is to say nothing.
std::optional<Contact> chosen(Contact contact, ContactChoice::Kind kind) {
    contact.byHand = true;
    contact.undecided = false;
    contact.lowest.reset();
    switch (kind) {
    case ContactChoice::Kind::Excluded: return {};
    case ContactChoice::Kind::Reached: contact.kind = ContactKind::Observed; break;
    case ContactChoice::Kind::AtOrBelow: contact.kind = ContactKind::NotReached; break;
    case ContactChoice::Kind::AtOrAbove: contact.kind = ContactKind::Absent; break;
    }
    return contact;
}

} // namespace

InterpretedLogs readHoles(const Holes& holes, const Sequence& sequence, const Interpretation& own) {
    return HoleReading(holes, sequence, own).read();
}

std::vector<std::vector<Contact>> contactsOf(const InterpretedLogs& reading, const Sequence& sequence,
                                             const Interpretation& interpretation,
                                             const std::vector<std::vector<Contact>>& points) {
    std::vector<std::vector<Contact>> out(sequence.units.empty() ? 0 : sequence.units.size() - 1);
    std::set<std::pair<std::size_t, std::string>> listed; // unit and hole
    for (std::size_t unit = 0; unit < points.size(); ++unit)
        for (const auto& c : points[unit])
            if (!c.hole.empty()) listed.emplace(unit, c.hole);
    std::map<std::pair<std::string, std::string>, ContactChoice::Kind> choices;
    for (const auto& c : interpretation.contacts) choices[{c.hole, c.unit}] = c.kind;
    std::map<std::pair<std::string, std::string>, Depth> picks;
    for (const auto& p : interpretation.picks) picks[{p.hole, p.unit}] = p.depth;
    for (const auto& read : reading.holes) {
        const auto path = HolePath::of(*read.hole);
        if (!path || read.hole->excluded) continue;
        for (std::size_t unit = 0; unit < out.size(); ++unit) {
            auto contact = contactIn(read, *path, unit);
            if (const auto pick = picks.find({read.name, sequence.units[unit].code}); pick != picks.end()) {
                contact = Contact{read.name, ContactKind::Observed, path->at(pick->second)};
                contact->byHand = true;
            }
            if (!contact || listed.contains({unit, read.name})) continue;
            const auto choice = choices.find({read.name, sequence.units[unit].code});
            if (choice != choices.end()) contact = chosen(std::move(*contact), choice->second);
            if (contact) out[unit].push_back(std::move(*contact));
        }
    }
    for (std::size_t unit = 0; unit < points.size() && unit < out.size(); ++unit)
        out[unit].insert(out[unit].end(), points[unit].begin(), points[unit].end());
    return out;
}

std::optional<std::size_t> unitOf(const InterpretedHole& hole, const Interval& interval) {
    for (const auto& read : hole.intervals)
        if (read.top <= interval.top && interval.base <= read.base) return read.unit;
    return {};
}

} // namespace fox
