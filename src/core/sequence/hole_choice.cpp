#include "sequence/hole_choice.h"

#include <set>

namespace fox {

namespace {

template <typename Wanted>
std::vector<std::string> holesThat(const Holes& holes, Wanted&& wanted) {
    const auto names = displayNames(holes);
    std::vector<std::string> out;
    for (std::size_t i = 0; i < holes.size(); ++i)
        if (wanted(i)) out.push_back(names[i]);
    return out;
}

double distanceToLine(Point2 p, const Polyline2& line) {
    double nearest = line.size() == 1 ? distance(p, line[0]) : std::numeric_limits<double>::infinity();
    for (std::size_t i = 1; i < line.size(); ++i) {
        const auto &a = line[i - 1], &b = line[i];
        const double squared = (b.x - a.x) * (b.x - a.x) + (b.y - a.y) * (b.y - a.y);
        const double t =
            squared > 0 ? std::clamp(((p.x - a.x) * (b.x - a.x) + (p.y - a.y) * (b.y - a.y)) / squared, 0.0, 1.0) : 0;
        nearest = std::min(nearest, distance(p, {a.x + t * (b.x - a.x), a.y + t * (b.y - a.y)}));
    }
    return nearest;
}

} // namespace

std::vector<std::string> holesOfKind(const Holes& holes, HoleKind kind) {
    return holesThat(holes, [&](std::size_t i) { return kindOf(holes[i]) == kind; });
}

std::vector<std::string> holesInside(const Holes& holes, const Area& area) {
    return holesThat(holes, [&](std::size_t i) {
        const auto place = holes[i].place();
        return place && area.contains(*place);
    });
}

std::vector<std::string> holesNear(const Holes& holes, const Polyline2& line, double metres) {
    return holesThat(holes, [&](std::size_t i) {
        const auto place = holes[i].place();
        return place && distanceToLine(*place, line) <= metres;
    });
}

std::vector<std::string> holesWithUnit(const InterpretedLogs& logs, std::size_t unit) {
    std::vector<std::string> out;
    for (const auto& hole : logs.holes)
        if (std::ranges::count(hole.intervals, unit, &InterpretedInterval::unit) > 0) out.push_back(hole.name);
    return out;
}

std::vector<std::string> holesWithTest(const TestQuantity& quantity, const Holes& holes, const InterpretedLogs& logs) {
    std::set<std::size_t> with;
    for (const auto& v : testValues(quantity, holes, logs)) with.insert(v.hole);
    return holesThat(holes, [&](std::size_t i) { return with.contains(i); });
}

} // namespace fox
