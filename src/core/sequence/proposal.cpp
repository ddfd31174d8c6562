#include "sequence/proposal.h"

#include "surfaces/plane.h"

#include <fmt/format.h>
#include <set>

// A code that comes back under another one is two units: a unit is split where at least two holes, and a fifth of those that have
// both codes, show the other one between. Intervals of a split code are then read by their hole: above or below the parting unit
// if it is there, else by the levels at which the holes around have it. The confidence depends on how far the interval lies
// from that level. Nothing is changed here: the result is choices that the user takes or leaves.
namespace fox {

double SequenceProposal::surenessOf(const std::string& hole) const {
    double least = 1;
    for (const auto& r : readings)
        if (r.choice.hole == hole) least = std::min(least, r.confidence);
    return least;
}

namespace {

constexpr int kLeastReturns = 2;
constexpr double kLeastShare = 0.2; // of the holes that have both codes
constexpr double kMostSure = 0.95;  // what other holes tell is never wholly sure

/// A hole's codes from the top, as places in the sequence; neighbours of one code are one.
std::vector<std::size_t> codesOf(const InterpretedHole& read) {
    std::vector<std::size_t> out;
    for (const auto& i : read.intervals)
        if (out.empty() || out.back() != i.unit) out.push_back(i.unit);
    return out;
}

/// Splits codes of a sequence in which each code is one unit.
class Splitter {
public:
    Splitter(const InterpretedLogs& reading, const Sequence& sequence, SequenceProposal& to) : m_sequence(sequence), m_to(to) {
        for (const auto& r : reading.holes) m_logs.emplace_back(r.name, codesOf(r));
    }

    void split() {
        const auto n = m_sequence.units.size();
        for (std::size_t x = 0; x < n; ++x) {
            const auto between = partingUnits(x);
            if (!between.empty()) splitUnit(x, between);
        }
    }

private:
    /// Whether the log has y with x somewhere over and somewhere under it.
    static bool returns(const std::vector<std::size_t>& log, std::size_t x, std::size_t y) {
        const auto first = std::ranges::find(log, x);
        const auto last = std::find(log.rbegin(), log.rend(), x).base();
        return first != log.end() && std::find(first, last, y) != last;
    }

    int countReturns(std::size_t x, std::size_t y) const {
        return int(std::ranges::count_if(m_logs, [&](const auto& l) { return returns(l.second, x, y); }));
    }

    std::vector<std::size_t> partingUnits(std::size_t x) const {
        std::vector<std::size_t> out;
        for (std::size_t y = 0; y < m_sequence.units.size(); ++y) {
            if (y == x || m_split.contains(y)) continue;
            const int count = countReturns(x, y);
            const auto both = std::ranges::count_if(m_logs, [&](const auto& l) {
                return std::ranges::count(l.second, x) > 0 && std::ranges::count(l.second, y) > 0;
            });
            // of two that return in one another, the one that does so more often is split
            if (count >= kLeastReturns && count >= kLeastShare * double(both) && count > countReturns(y, x)) out.push_back(y);
        }
        return out;
    }

    void splitUnit(std::size_t x, const std::vector<std::size_t>& between) {
        m_split.insert(x);
        const auto& old = m_sequence.units[x];
        // a piece of x stands between two parting units only if logs have it there
        std::vector<std::vector<std::size_t>> groups;
        for (const auto y : between) {
            const bool parted = !groups.empty() && std::ranges::count_if(m_logs, [&](const auto& l) {
                                                       const auto a = std::ranges::find(l.second, groups.back().back());
                                                       const auto b = std::find(a, l.second.end(), y);
                                                       return b != l.second.end() && std::find(a, b, x) != b;
                                                   }) >= kLeastReturns;
            if (groups.empty() || parted) groups.emplace_back();
            groups.back().push_back(y);
        }
        ProposedSplit split{old.code, {}, {}, {}};
        for (const auto& entry : m_logs)
            if (std::ranges::any_of(between, [&](std::size_t y) { return returns(entry.second, x, y); }))
                split.holes.push_back(entry.first);
        auto& units = m_to.sequence.units;
        std::vector<Unit> moved; // the parting units come to stand between the pieces
        for (const auto y : between) {
            const auto at = std::ranges::find(units, m_sequence.units[y].code, &Unit::code);
            if (at == units.end()) continue;
            split.between.push_back(at->code);
            moved.push_back(std::move(*at));
            units.erase(at);
        }
        auto at = std::ranges::find(units, old.code, &Unit::code);
        auto next = units.erase(at) - units.begin();
        const auto pieces = groups.size() + 1;
        std::size_t part = 0;
        for (std::size_t k = 0; k < pieces; ++k) {
            Unit piece = old;
            piece.code = freeCode(old.code, k, pieces);
            piece.name = (k == 0 ? "Upper " : k + 1 == pieces ? "Lower " : "Middle ") + old.name;
            if (pieces > 3 && k > 0 && k + 1 < pieces) piece.name += fmt::format(" {}", k);
            if (piece.logged.empty()) piece.logged = {old.code};
            if (k > 0) piece.colour = proposedColour(piece.name, units); // the first keeps the colour that it had
            split.units.push_back(piece.code);
            units.insert(units.begin() + next++, std::move(piece));
            if (k + 1 == pieces) break;
            for (std::size_t g = 0; g < groups[k].size() && part < moved.size(); ++g)
                units.insert(units.begin() + next++, std::move(moved[part++]));
        }
        m_to.splits.push_back(std::move(split));
    }

    std::string freeCode(const std::string& code, std::size_t k, std::size_t pieces) const {
        std::string letter = "L";
        if (k == 0)
            letter = "U";
        else if (k + 1 < pieces)
            letter = pieces > 3 ? fmt::format("M{}", k) : "M";
        std::string wanted = code + letter;
        while (m_to.sequence.index(wanted)) wanted += "1";
        return wanted;
    }

    const Sequence& m_sequence;
    SequenceProposal& m_to;
    std::vector<std::pair<std::string, std::vector<std::size_t>>> m_logs;
    std::set<std::size_t> m_split;
};

/// What the holes tell of a unit that parts two of one code: where it is, and at what level.
class Parting {
public:
    Parting(const InterpretedLogs& reading, std::size_t upper, std::size_t lower) {
        for (const auto& r : reading.holes) {
            const auto path = HolePath::of(*r.hole);
            if (!path || r.hole->excluded) continue;
            double middle = 0, length = 0;
            bool older = false, returned = false;
            for (const auto& i : r.intervals) {
                if (i.unit > upper && i.unit < lower) {
                    const double metres = i.base.metres - i.top.metres;
                    middle += metres * path->at(Depth{(i.top.metres + i.base.metres) / 2}).z, length += metres;
                    returned |= i.returned;
                }
                older |= i.unit > lower;
            }
            if (length > 0 && !returned)
                m_there.push_back({path->at({}).x, path->at({}).y, middle / length});
            else if (older)
                m_absent.push_back(path->at({}).plan());
        }
        m_plane = planeThrough(m_there);
        double sum = 0;
        for (const auto& p : m_there) {
            const double off = p.z - levelAt(p.plan(), &p);
            sum += off * off;
        }
        // as others tell it; half a metre at least, as no lens is level
        m_spread = std::max(0.5, m_there.size() > 2 ? std::sqrt(sum / double(m_there.size())) : 1.0);
    }

    bool known() const { return !m_there.empty(); }

    /// The chance that it is there, from the holes around.
    double chanceAt(Point2 p) const {
        constexpr std::size_t kAround = 4;
        std::vector<std::pair<double, bool>> around; // squared distance, there
        for (const auto& t : m_there) around.emplace_back(std::pow(distance(t.plan(), p), 2), true);
        for (const auto& a : m_absent) around.emplace_back(std::pow(distance(a, p), 2), false);
        std::ranges::sort(around);
        double there = 0, all = 0;
        for (std::size_t i = 0; i < std::min(kAround, around.size()); ++i) {
            const double w = 1 / (around[i].first + 1);
            all += w;
            if (around[i].second) there += w;
        }
        return all > 0 ? there / all : 0;
    }

    /// The level of its middle: the plane through the holes that have it, and their differences from it by inverse distance.
    double levelAt(Point2 p, const Point3* without = nullptr) const {
        double sum = 0, all = 0;
        for (const auto& t : m_there) {
            if (&t == without) continue;
            const double w = 1 / (std::pow(distance(t.plan(), p), 2) + 1);
            sum += w * (t.z - (m_plane ? m_plane->at(t.plan()) : 0)), all += w;
        }
        return (m_plane ? m_plane->at(p) : 0) + (all > 0 ? sum / all : 0);
    }
    double spread() const { return m_spread; }

private:
    std::vector<Point3> m_there;
    std::vector<Point2> m_absent;
    std::optional<Plane> m_plane;
    double m_spread = 1;
};

/// Says of each stretch whose code is several units which one it is.
class StretchReader {
public:
    StretchReader(const Holes& holes, const Sequence& sequence, const Interpretation& own)
        : m_sequence(sequence), m_reading(readHoles(holes, sequence, own)) {}

    std::vector<ProposedReading> read() {
        std::vector<ProposedReading> out;
        for (const auto& hole : m_reading.holes) {
            const auto path = HolePath::of(*hole.hole);
            for (std::size_t i = 0; i < hole.intervals.size(); ++i)
                if (hole.intervals[i].several && !hole.intervals[i].byHand && !hole.intervals[i].returned)
                    readOne(hole, path, i, out);
        }
        return out;
    }

private:
    /// Units that have a logged code in common with this one, youngest first.
    std::vector<std::size_t> family(std::size_t unit) const {
        std::vector<std::size_t> out;
        const auto codes = [&](std::size_t u) {
            const auto& x = m_sequence.units[u];
            return x.logged.empty() ? std::vector{x.code} : x.logged;
        };
        const auto mine = codes(unit);
        for (std::size_t u = 0; u < m_sequence.units.size(); ++u)
            if (std::ranges::any_of(codes(u), [&](const auto& c) { return std::ranges::count(mine, c) > 0; })) out.push_back(u);
        return out;
    }

    const Parting& parting(std::size_t upper, std::size_t lower) {
        const auto key = std::pair(upper, lower);
        auto it = m_partings.find(key);
        if (it == m_partings.end()) it = m_partings.emplace(key, Parting(m_reading, upper, lower)).first;
        return it->second;
    }

    void readOne(const InterpretedHole& hole, const std::optional<HolePath>& path, std::size_t at,
                 std::vector<ProposedReading>& out) {
        const auto& stretch = hole.intervals[at];
        const auto options = family(stretch.unit);
        const auto& codes = m_sequence.units;
        // what lies over and under it in this hole, and is not of the family, limits it
        std::size_t youngest = options.front(), oldest = options.back();
        std::optional<std::size_t> over, under;
        for (std::size_t i = 0; i < hole.intervals.size(); ++i) {
            const auto& other = hole.intervals[i];
            if (other.returned || (std::ranges::count(options, other.unit) > 0 && !other.byHand)) continue;
            if (i < at && (!over || other.unit > *over)) over = other.unit;
            if (i > at && (!under || other.unit < *under)) under = other.unit;
        }
        std::vector<std::size_t> left;
        for (const auto o : options)
            if ((!over || o >= *over) && (!under || o <= *under)) left.push_back(o);
        if (left.empty()) return; // out of order: it is named as such
        youngest = left.front(), oldest = left.back();
        ProposedReading r{{hole.name, stretch.top, stretch.base, codes[oldest].code}, 1, true, ""};
        if (left.size() == 1) {
            r.why = over && *over > options.front() && youngest == oldest && (!under || *under > oldest)
                        ? fmt::format("under {} in this hole", codes[*over].name)
                    : under ? fmt::format("over {} in this hole", codes[*under].name)
                            : "the only one that fits";
            return addLogged(hole, r, out);
        }
        if (under && *under > oldest) { // it goes down to older ground, and nothing parts it
            r.why = fmt::format("it goes down to {} without {}", codes[*under].name, partingNames(youngest, oldest));
            return addLogged(hole, r, out);
        }
        r.fromLog = false;
        if (!path) {
            r.confidence = 0.5, r.why = "the hole has no place or level";
            return addLogged(hole, r, out);
        }
        judgeByPlace(*path, stretch, left, r);
        addLogged(hole, r, out);
    }

    void judgeByPlace(const HolePath& path, const InterpretedInterval& stretch, const std::vector<std::size_t>& left,
                      ProposedReading& r) {
        const auto& codes = m_sequence.units;
        const auto middle = path.at(Depth{(stretch.top.metres + stretch.base.metres) / 2});
        const double end = path.at(stretch.base).z;
        r.why = "nothing tells where its units part";
        r.confidence = 0.5;
        // from the oldest up: over the next parting unit, or not
        for (std::size_t k = left.size(); k-- > 1;) {
            const auto& p = parting(left[k - 1], left[k]);
            const auto between = partingNames(left[k - 1], left[k]);
            if (!p.known()) continue;
            const double chance = p.chanceAt(middle.plan()), level = p.levelAt(middle.plan());
            // it went past where the unit would be, and did not meet it: then it is absent here
            const double above = 0.5 * std::erfc(-(end - level) / p.spread() / std::sqrt(2.0));
            const double upper = std::clamp(chance * above, 1 - kMostSure, kMostSure);
            if (upper > 0.5) {
                r.choice.unit = codes[left[k - 1]].code;
                r.confidence = upper;
                r.why = fmt::format("it ends at {:.1f} m, over {} as the holes around have it, at {:.1f} m", end, between, level);
                continue;
            }
            r.choice.unit = codes[left[k]].code;
            r.confidence = 1 - upper;
            r.why = chance < 0.5 ? fmt::format("the holes around have no {}", between)
                                 : fmt::format("it ends at {:.1f} m, under {} as the holes around have it, at {:.1f} m", end,
                                               between, level);
            break;
        }
    }

    std::string partingNames(std::size_t upper, std::size_t lower) const {
        std::vector<std::string> names;
        for (std::size_t u = upper + 1; u < lower; ++u) names.push_back(m_sequence.units[u].name);
        return names.empty() ? "anything between" : fmt::format("{}", fmt::join(names, ", "));
    }

    /// One reading for each logged interval of a joined stretch, as choices are made by interval.
    void addLogged(const InterpretedHole& hole, ProposedReading r, std::vector<ProposedReading>& out) const {
        const auto top = r.choice.top, base = r.choice.base;
        for (const auto& i : hole.logged())
            if (i.usable() && i.top >= top && i.base <= base) {
                r.choice.top = i.top, r.choice.base = i.base;
                out.push_back(r);
            }
    }

    const Sequence& m_sequence;
    InterpretedLogs m_reading;
    std::map<std::pair<std::size_t, std::size_t>, Parting> m_partings;
};

/// Units that most holes which could have them do not have.
std::vector<std::string> lensesOf(const Holes& holes, const Sequence& sequence, const Interpretation& own) {
    std::vector<std::string> out;
    const auto contacts = contactsOf(readHoles(holes, sequence, own), sequence, own);
    for (std::size_t u = 0; u < contacts.size(); ++u) {
        const auto absent = std::ranges::count(contacts[u], ContactKind::Absent, &Contact::kind);
        const auto there = std::ranges::count_if(contacts[u], [](const Contact& c) {
            return c.kind == ContactKind::Observed || c.kind == ContactKind::NotReached || c.kind == ContactKind::Gap;
        });
        if (there > 0 && absent > there) out.push_back(sequence.units[u].code);
    }
    return out;
}

} // namespace

SequenceProposal proposeReading(const Holes& holes, const Sequence& sequence, const Interpretation& own) {
    SequenceProposal out{sequence, {}, {}, {}};
    Splitter(readHoles(holes, sequence, own), sequence, out).split();
    out.readings = StretchReader(holes, out.sequence, own).read();
    // lenses as they come out when the readings are taken
    auto taken = own;
    for (const auto& r : out.readings) taken.intervals.push_back(r.choice);
    out.lenses = lensesOf(holes, out.sequence, taken);
    return out;
}

} // namespace fox
