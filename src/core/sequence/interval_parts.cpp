#include "sequence/interval_parts.h"

#include "sequence/contacts.h"

#include <algorithm>

namespace fox {

const Interval* intervalWithin(const std::vector<Interval>& intervals, Depth depth) {
    const auto at = std::ranges::find_if(intervals, [&](const Interval& i) {
        return i.usable() && i.top.metres + kTouch < depth.metres && depth.metres < i.base.metres - kTouch;
    });
    return at == intervals.end() ? nullptr : &*at;
}

std::vector<Interval> partsOf(const std::vector<Interval>& log, std::vector<Depth> splits, std::vector<Depth>* lost) {
    auto parts = log;
    std::ranges::sort(splits);
    bool any = false;
    for (const auto depth : splits) {
        const auto* within = intervalWithin(parts, depth);
        if (!within) {
            if (lost) lost->push_back(depth);
            continue;
        }
        any = true;
        const auto at = parts.begin() + (within - parts.data());
        auto lower = *at;
        at->base = lower.top = depth;
        parts.insert(at + 1, std::move(lower));
    }
    return any ? parts : std::vector<Interval>();
}

} // namespace fox
