#include "sequence/test_values.h"

#include "formats/table.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>
#include <unordered_map>

namespace fox {

namespace {

constexpr const char *kBlows = "SPT N", *kCorrectedBlows = "SPT N60", *kExtrapolated = "SPT N, stopped tests extrapolated";
constexpr struct {
    const char* name;
    std::optional<double> CoreRun::*part;
} kCore[] = {{"total core recovery", &CoreRun::recovery}, {"solid core recovery", &CoreRun::solid}, {"RQD", &CoreRun::rqd}};

double median(std::vector<double> sorted) {
    const auto n = sorted.size();
    return n % 2 ? sorted[n / 2] : (sorted[n / 2 - 1] + sorted[n / 2]) / 2;
}

/// The values of one quantity, hole by hole.
class Collector {
public:
    Collector(const TestQuantity& quantity, const Holes& holes, const InterpretedLogs& logs)
        : m_quantity(quantity), m_holes(holes) {
        for (const auto& log : logs.holes) m_logs.emplace(log.hole, &log);
    }

    std::vector<TestValue> collect() {
        for (m_at = 0; m_at < m_holes.size(); ++m_at) {
            const auto& hole = m_holes[m_at];
            const auto begin = m_out.size();
            m_path.reset();
            fromTests(hole);
            fromCurves(hole);
            std::stable_sort(m_out.begin() + std::ptrdiff_t(begin), m_out.end(),
                             [](const TestValue& a, const TestValue& b) { return a.depth < b.depth; });
        }
        return std::move(m_out);
    }

private:
    void fromTests(const Hole& hole) {
        if (m_quantity.name == kBlows)
            for (const auto& b : hole.blowCounts)
                add(hole, b.depth, b.blows, b.refused() ? TestValueKind::Limit : TestValueKind::Value, words(b));
        for (const auto& b : hole.blowCounts) {
            if (const auto n60 = b.n60(); n60 && m_quantity.name == kCorrectedBlows)
                add(hole, b.depth, *n60, TestValueKind::Value, fmt::format("{:.0f}", *n60));
            if (m_quantity.name == kExtrapolated && (!b.refused() || *b.penetration > 0))
                add(hole, b.depth, b.forWholeDrive(), TestValueKind::Value, fmt::format("{:.0f}", b.forWholeDrive()));
        }
        for (const auto& core : kCore)
            if (m_quantity.name == core.name)
                for (const auto& run : hole.coreRuns)
                    if (const auto percent = run.*core.part)
                        add(hole, Depth{(run.top.metres + run.base.metres) / 2}, *percent, TestValueKind::Value,
                            fmt::format("{:g}", *percent));
    }

    void fromCurves(const Hole& hole) {
        for (const auto& c : hole.curves) {
            if (c.name != m_quantity.name || c.unit != m_quantity.unit || !c.readings) continue;
            auto said = c.written.begin();
            for (std::size_t i = 0; i < c.readings->size(); ++i) {
                const auto& r = (*c.readings)[i];
                while (said != c.written.end() && said->reading < i) ++said;
                const bool isSaid = said != c.written.end() && said->reading == i;
                const bool isLimit = isSaid && (said->text.starts_with('<') || said->text.starts_with('>'));
                if (std::isnan(r.value) && !isSaid) continue;
                add(hole, Depth{r.depth}, r.value,
                    std::isnan(r.value) ? TestValueKind::Word
                    : isLimit           ? TestValueKind::Limit
                                        : TestValueKind::Value,
                    isSaid ? said->text : fmt::format("{:g}", r.value));
            }
        }
    }

    void add(const Hole& hole, Depth depth, double value, TestValueKind kind, std::string written) {
        if (!m_path) m_path = HolePath::of(hole);
        TestValue v{m_at, depth, {}, value, kind, std::move(written), {}};
        if (*m_path) v.level = (*m_path)->at(depth).z;
        if (const auto log = m_logs.find(&hole); log != m_logs.end())
            for (const auto& i : log->second->intervals)
                if (i.top <= depth && depth < i.base) v.unit = i.unit;
        m_out.push_back(std::move(v));
    }

    const TestQuantity& m_quantity;
    const Holes& m_holes;
    std::unordered_map<const Hole*, const InterpretedHole*> m_logs;
    std::size_t m_at = 0;
    std::optional<std::optional<HolePath>> m_path; ///< of the hole at hand, once it is asked for
    std::vector<TestValue> m_out;
};

std::string number(double v) { return std::isnan(v) ? std::string() : fmt::format("{:.6g}", v); }

} // namespace

std::vector<TestQuantity> testQuantities(const Holes& holes) {
    std::map<std::pair<std::string, std::string>, std::size_t> found;
    std::size_t blows = 0, corrected = 0, stopped = 0;
    for (const auto& h : holes) {
        blows += h.blowCounts.size();
        for (const auto& b : h.blowCounts) corrected += b.n60().has_value(), stopped += b.refused() && *b.penetration > 0;
        for (const auto& run : h.coreRuns)
            for (const auto& core : kCore) {
                if (run.*core.part) ++found[{core.name, "%"}];
            }
        for (const auto& c : h.curves)
            if (c.readings && !c.readings->empty()) found[{c.name, c.unit}] += c.readings->size();
    }
    std::vector<TestQuantity> out;
    if (blows > 0) out.push_back({kBlows, "", blows});
    if (corrected > 0) out.push_back({kCorrectedBlows, "", corrected});
    if (stopped > 0) out.push_back({kExtrapolated, "", blows});
    for (const auto& [key, n] : found) out.push_back({key.first, key.second, n});
    return out;
}

std::vector<TestValue> testValues(const TestQuantity& quantity, const Holes& holes, const InterpretedLogs& logs) {
    return Collector(quantity, holes, logs).collect();
}

std::vector<TestStatistics> statisticsByUnit(const std::vector<TestValue>& values) {
    std::map<std::size_t, std::pair<TestStatistics, std::vector<double>>> units; // no unit behind all others
    for (const auto& v : values) {
        auto& [s, plain] = units[v.unit.value_or(std::size_t(-1))];
        s.unit = v.unit;
        v.kind == TestValueKind::Value ? plain.push_back(v.value) : void(++s.others);
    }
    std::vector<TestStatistics> out;
    for (auto& [unit, of] : units) {
        auto& [s, plain] = of;
        s.values = plain.size();
        if (!plain.empty()) {
            std::ranges::sort(plain);
            s.least = plain.front(), s.most = plain.back(), s.median = median(plain);
            s.mean = std::accumulate(plain.begin(), plain.end(), 0.0) / double(plain.size());
            double squares = 0;
            for (const double v : plain) squares += (v - s.mean) * (v - s.mean);
            if (plain.size() > 1) s.deviation = std::sqrt(squares / double(plain.size() - 1));
        }
        out.push_back(s);
    }
    return out;
}

std::string statisticsCsv(const TestQuantity& quantity, const std::vector<TestStatistics>& all, const Sequence& sequence) {
    std::string out = "quantity,unit of measure,unit,values,limits and words,least,most,mean,median,standard deviation\n";
    for (const auto& s : all)
        out += fmt::format("{},{},{},{},{},{},{},{},{},{}\n", tableCell(quantity.name), tableCell(quantity.unit),
                           s.unit ? tableCell(sequence.units[*s.unit].code) : "", s.values, s.others, number(s.least),
                           number(s.most), number(s.mean), number(s.median), number(s.deviation));
    return out;
}

std::string testValuesCsv(const TestQuantity& quantity, const std::vector<TestValue>& values, const Holes& holes,
                          const Sequence& sequence) {
    const auto names = displayNames(holes);
    std::string out = "quantity,unit of measure,hole,depth,level,value,written,unit\n";
    for (const auto& v : values)
        out += fmt::format("{},{},{},{:.2f},{},{},{},{}\n", tableCell(quantity.name), tableCell(quantity.unit),
                           tableCell(names[v.hole]), v.depth.metres, v.level ? fmt::format("{:.2f}", *v.level) : "",
                           number(v.value), tableCell(v.written), v.unit ? tableCell(sequence.units[*v.unit].code) : "");
    return out;
}

} // namespace fox
