#include "model/section.h"

#include "base/parallel.h"

#include <set>

namespace fox {

double lengthOf(const Polyline2& line) {
    double length = 0;
    for (std::size_t i = 1; i < line.size(); ++i) length += distance(line[i - 1], line[i]);
    return length;
}

Point2 pointAlong(const Polyline2& line, double chainage) {
    for (std::size_t i = 1; i < line.size(); ++i) {
        const double length = distance(line[i - 1], line[i]);
        if (chainage <= length || i + 1 == line.size()) {
            const double t = length > 0 ? chainage / length : 0;
            return {line[i - 1].x + t * (line[i].x - line[i - 1].x), line[i - 1].y + t * (line[i].y - line[i - 1].y)};
        }
        chainage -= length;
    }
    return line.empty() ? Point2{} : line.front();
}

Projection project(const Polyline2& line, Point2 p) {
    Projection best{0, 0, std::numeric_limits<double>::infinity()};
    double start = 0;
    for (std::size_t i = 1; i < line.size(); ++i) {
        const auto a = line[i - 1], b = line[i];
        const double length = distance(a, b);
        if (length == 0) continue;
        const double ux = (b.x - a.x) / length, uy = (b.y - a.y) / length;
        const double along = std::clamp((p.x - a.x) * ux + (p.y - a.y) * uy, 0.0, length);
        const double away = distance(p, {a.x + along * ux, a.y + along * uy});
        const double right = (p.x - a.x) * uy - (p.y - a.y) * ux;
        if (away < best.distance) best = {start + along, right < 0 ? -away : away, away};
        start += length;
    }
    return best;
}

namespace {

SectionHole stickOf(const ReadHole& read, const HolePath& path, const Projection& at, const Polyline2& line, std::size_t oldest) {
    SectionHole out{read.name, at.chainage, at.offset, {}, at.chainage, 0, false};
    const auto place = [&](Depth d) {
        const auto p = path.at(d);
        // exactly the collar's chainage for a vertical hole
        return std::pair{path.vertical() ? at.chainage : project(line, p.plan()).chainage, p.z};
    };
    for (const auto& i : read.hole->intervals) {
        if (!i.usable()) continue;
        const auto known =
            std::ranges::find_if(read.intervals, [&](const ReadInterval& r) { return r.top <= i.top && i.base <= r.base; });
        const auto [topAt, top] = place(i.top);
        const auto [baseAt, base] = place(i.base);
        out.sticks.push_back(
            {topAt, top, baseAt, base, known == read.intervals.end() ? std::nullopt : std::optional(known->unit)});
        out.reachesOldest |= known != read.intervals.end() && known->unit == oldest;
    }
    std::tie(out.endChainage, out.endLevel) = place(read.hole->end());
    return out;
}

} // namespace

Section makeSection(const Model& model, const Reading& reading, const Polyline2& line, double step, const Progress& progress) {
    Section section;
    section.line = line;
    const double length = lengthOf(line);
    section.bases.resize(model.bases.size());
    if (!(length > 0) || !(step > 0)) return section;
    std::set<double> stops{0, length};
    const auto pieces = std::size_t(std::ceil(length / step - 1e-9));
    for (std::size_t i = 1; i < pieces; ++i) stops.insert(length * double(i) / double(pieces));
    double corner = 0;
    for (std::size_t i = 1; i + 1 < line.size(); ++i) stops.insert(corner += distance(line[i - 1], line[i]));
    for (const auto& read : reading.holes) {
        const auto path = HolePath::of(*read.hole);
        if (!path) continue;
        const auto at = project(line, path->at({}).plan());
        if (at.distance > kSectionHoles) continue;
        section.holes.push_back(stickOf(read, *path, at, line, model.bases.size()));
        stops.insert(at.chainage);
    }
    std::ranges::stable_sort(section.holes, {}, &SectionHole::chainage);
    section.chainage.assign(stops.begin(), stops.end());
    const auto n = section.chainage.size();
    section.ground.resize(n);
    for (auto& b : section.bases) b.resize(n);
    section.deviations = section.bases;
    parallelFor(
        n, 32,
        [&](std::size_t begin, std::size_t end) {
            std::vector<Point2> places;
            for (auto i = begin; i < end; ++i) places.push_back(pointAlong(line, section.chainage[i]));
            const auto columns = model.columnsAt(places, true);
            for (auto i = begin; i < end; ++i) {
                const auto& column = columns[i - begin];
                section.ground[i] = column.ground;
                for (std::size_t u = 0; u < column.bases.size(); ++u)
                    section.bases[u][i] = column.bases[u], section.deviations[u][i] = column.deviations[u];
            }
        },
        progress);
    return section;
}

} // namespace fox
