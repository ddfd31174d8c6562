#include "ground/tin_edits.h"

#include "ground/segment_index.h"

#include <fmt/format.h>
#include <unordered_map>

namespace fox {

namespace {

constexpr const char* kNames[] = {"leave out", "set level", "swap edge", "remove triangle"};

/// Edits by place, found within kSamePlace: places fall into squares of that size, and neighbours are looked at too.
class ByPlace {
public:
    explicit ByPlace(const std::vector<TinEdit>& edits) : m_edits(edits) {
        for (std::size_t i = 0; i < edits.size(); ++i)
            if (edits[i].kind == TinEdit::Kind::LeaveOut || edits[i].kind == TinEdit::Kind::SetLevel)
                m_squares.emplace(key(square(edits[i].a.x), square(edits[i].a.y)), i);
    }
    bool empty() const { return m_squares.empty(); }
    /// The last edit made at a place.
    std::optional<std::size_t> at(Point2 p) const {
        std::optional<std::size_t> found;
        for (std::int64_t dx = -1; dx <= 1; ++dx)
            for (std::int64_t dy = -1; dy <= 1; ++dy)
                for (auto [it, end] = m_squares.equal_range(key(square(p.x) + dx, square(p.y) + dy)); it != end; ++it)
                    if (distance(m_edits[it->second].a, p) <= kSamePlace && (!found || it->second > *found)) found = it->second;
        return found;
    }

private:
    static std::int64_t square(double v) { return std::int64_t(std::floor(v / kSamePlace)); }
    static std::uint64_t key(std::int64_t x, std::int64_t y) { return std::uint64_t(x) * 0x9E3779B97F4A7C15u ^ std::uint64_t(y); }
    const std::vector<TinEdit>& m_edits;
    std::unordered_multimap<std::uint64_t, std::size_t> m_squares;
};

} // namespace

const char* name(TinEdit::Kind kind) { return kNames[int(kind)]; }

std::optional<TinEdit::Kind> tinEditKind(std::string_view word) {
    for (int i = 0; i < 4; ++i)
        if (word == kNames[i]) return TinEdit::Kind(i);
    return {};
}

std::vector<int> applyToPoints(const std::vector<TinEdit>& edits, std::vector<Point3>& points, std::vector<Polyline3>& lines) {
    std::vector<int> used(edits.size(), 0);
    const ByPlace places(edits);
    if (places.empty()) return used;
    // true: it stays
    const auto edit = [&](Point3& p) {
        const auto at = places.at(p.plan());
        if (!at) return true;
        ++used[*at];
        if (edits[*at].kind == TinEdit::Kind::LeaveOut) return false;
        p.z = edits[*at].level;
        return true;
    };
    std::erase_if(points, [&](Point3& p) { return !edit(p); });
    for (auto& line : lines) std::erase_if(line, [&](Point3& p) { return !edit(p); });
    std::erase_if(lines, [](const Polyline3& line) { return line.size() < 2; });
    return used;
}

Tin applyToTriangles(const std::vector<TinEdit>& edits, Tin tin, std::vector<int>& used) {
    std::vector<bool> out;
    for (std::size_t i = 0; i < edits.size(); ++i)
        if (edits[i].kind == TinEdit::Kind::SwapEdge)
            if (auto swapped = tin.swapped(edits[i].a, edits[i].b)) tin = std::move(*swapped), ++used[i];
    for (std::size_t i = 0; i < edits.size(); ++i)
        if (edits[i].kind == TinEdit::Kind::RemoveTriangle)
            if (const auto at = tin.triangleAt(edits[i].a)) {
                out.resize(tin.triangles().size());
                out[*at] = true;
                ++used[i];
            }
    return out.empty() ? tin : tin.without(out);
}

std::optional<Point3> vertexNear(const Tin& tin, Point2 p) {
    const auto at = tin.triangleAt(p);
    if (!at) return {};
    const auto c = tin.corners(tin.triangles()[*at]);
    return *std::ranges::min_element(c, {}, [&](const Point3& q) { return distance(q.plan(), p); });
}

std::optional<std::pair<Point2, Point2>> edgeNear(const Tin& tin, Point2 p) {
    const auto at = tin.triangleAt(p);
    if (!at) return {};
    const auto c = tin.corners(tin.triangles()[*at]);
    std::size_t best = 0;
    const auto away = [&](std::size_t i) { return distanceTo(p, {c[i].plan(), c[(i + 1) % 3].plan()}); };
    for (std::size_t i = 1; i < 3; ++i)
        if (away(i) < away(best)) best = i;
    return std::pair(c[best].plan(), c[(best + 1) % 3].plan());
}

Findings unusedEdits(const std::vector<TinEdit>& edits, const std::vector<int>& used) {
    Findings out;
    for (std::size_t i = 0; i < edits.size(); ++i)
        if (used[i] == 0)
            out.push_back({Severity::Warning,
                           "FC-MENDED",
                           "",
                           0,
                           "",
                           "",
                           "",
                           fmt::format("The ground was mended by hand at E {:.2f} N {:.2f} ({}), but the data has nothing like "
                                       "it there any more; the edit is kept and does nothing.",
                                       edits[i].a.x, edits[i].a.y, name(edits[i].kind)),
                           {},
                           edits[i].a});
    return out;
}

} // namespace fox
