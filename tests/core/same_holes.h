#pragma once
// What holes say of themselves, compared field by field.
#include "holes/hole.h"
#include "holes/path.h"

#include <catch2/catch.hpp>

namespace fox::test {

inline bool samePath(const Hole& a, const Hole& b) {
    const auto p = HolePath::of(a), q = HolePath::of(b);
    if (p.has_value() != q.has_value()) return false;
    for (const double depth : {0.0, 5.0, 20.0})
        if (p && distance(p->at(Depth{depth}).plan(), q->at(Depth{depth}).plan()) > 1e-9) return false;
    return true;
}

/// Curves by their name and sounding, in any order.
inline void checkSameCurves(const Hole& a, const Hole& b) {
    for (const auto* h : {&a, &b})
        for (const auto& c : h->curves) UNSCOPED_INFO((h == &a ? "before " : "after ") << c.name << " in " << c.unit);
    REQUIRE(a.curves.size() == b.curves.size());
    for (const auto& c : a.curves) {
        CAPTURE(c.name);
        const auto same = std::ranges::find_if(b.curves, [&](const Curve& o) { return o.name == c.name && o.push == c.push; });
        REQUIRE(same != b.curves.end());
        CHECK(same->unit == c.unit);
        CHECK(same->single == c.single);
        CHECK(same->written == c.written);
        REQUIRE(same->readings->size() == c.readings->size());
        for (std::size_t k = 0; k < c.readings->size(); ++k) {
            CHECK((*same->readings)[k].depth == Approx((*c.readings)[k].depth));
            const double before = (*c.readings)[k].value, after = (*same->readings)[k].value;
            CHECK((std::isnan(before) ? std::isnan(after) : after == Approx(before)));
        }
    }
}

/// All but the file and line that they came from.
inline void checkSame(const Hole& a, const Hole& b) {
    CAPTURE(a.id);
    CHECK(a.id == b.id);
    CHECK(a.place() == b.place());
    CHECK(a.level == b.level);
    CHECK(a.finalDepth.value_or(a.end()).metres == Approx(b.finalDepth.value_or(b.end()).metres));
    CHECK(samePath(a, b));
    REQUIRE(a.intervals.size() == b.intervals.size());
    for (std::size_t k = 0; k < a.intervals.size(); ++k) {
        CHECK(a.intervals[k].top == b.intervals[k].top);
        CHECK(a.intervals[k].base == b.intervals[k].base);
        CHECK(a.intervals[k].description == b.intervals[k].description);
        CHECK(a.intervals[k].codes == b.intervals[k].codes);
    }
    CHECK(a.blowCounts == b.blowCounts);
    CHECK(a.details == b.details);
    CHECK(a.samples == b.samples);
    CHECK(a.strikes == b.strikes);
    CHECK(a.waterLevels == b.waterLevels);
    CHECK(a.installations == b.installations);
    CHECK(a.coreRuns == b.coreRuns);
    CHECK(a.soundings.size() == b.soundings.size());
    checkSameCurves(a, b);
}

inline void checkSame(const Holes& a, const Holes& b) {
    REQUIRE(a.size() == b.size());
    for (std::size_t i = 0; i < a.size(); ++i) checkSame(a[i], b[i]);
}

} // namespace fox::test
