#include "sequence/picked_logs.h"

#include <map>

namespace fox {

InterpretedLogs withPicks(InterpretedLogs logs, const Sequence& sequence, const Interpretation& own) {
    std::map<std::string, std::vector<const Pick*>> byHole;
    for (const auto& p : own.picks) byHole[p.hole].push_back(&p);
    for (auto& read : logs.holes) {
        const auto found = byHole.find(read.name);
        if (found == byHole.end() || !read.hole->intervals.empty()) continue;
        auto& picks = found->second;
        std::ranges::stable_sort(picks, {}, [](const Pick* p) { return p->depth; });
        Depth top{0};
        for (const auto* p : picks) {
            const auto unit = sequence.index(p->unit);
            const bool isInOrder = unit && (read.intervals.empty() || *unit > read.intervals.back().unit);
            if (!isInOrder || p->depth.metres <= top.metres + kTouch) continue;
            read.intervals.push_back({*unit, top, p->depth, false, true, false});
            Interval part;
            part.top = top, part.base = p->depth;
            read.parts.push_back(std::move(part));
            top = p->depth;
        }
    }
    return logs;
}

} // namespace fox
