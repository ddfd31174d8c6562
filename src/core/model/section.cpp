#include "model/section.h"

#include "base/parallel.h"
#include "holes/water_levels.h"

#include <set>

// The surfaces themselves are evaluated along the line: at steps of half a cell or less, at each corner, and at the collar of
// every hole within reach, so that the drawing goes through the contacts. Where a unit is there at one place and not at the next,
// the stretch is halved five times, which finds its end to a thirty-second of the step. Inclined holes are projected point by
// point.
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

Point2 SectionHole::at(double depth) const {
    if (path.size() < 2) return {chainage, path.empty() ? endLevel : path.front().level};
    auto after = std::ranges::upper_bound(path, depth, {}, &Knot::depth);
    after = std::clamp(after, path.begin() + 1, path.end() - 1);
    const auto &a = *(after - 1), &b = *after;
    const double t = (depth - a.depth) / (b.depth - a.depth);
    return {a.chainage + t * (b.chainage - a.chainage), a.level + t * (b.level - a.level)};
}

namespace {

/// Where the path lies on the section: of an inclined hole metre by metre.
template <typename Place>
std::vector<SectionHole::Knot> knotsOf(const Hole& hole, const HolePath& path, const Place& place) {
    std::vector<SectionHole::Knot> out;
    double end = std::max(hole.end().metres, 0.01);
    for (const auto& c : hole.curves) // a log may go deeper than the descriptions
        if (c.readings && !c.readings->empty()) end = std::max(end, c.readings->back().depth);
    const double step = path.vertical() ? end : 1;
    for (double d = 0; d < end; d += step) {
        const auto [chainage, level] = place(Depth{d});
        out.push_back({d, chainage, level});
    }
    const auto [chainage, level] = place(Depth{end});
    out.push_back({end, chainage, level});
    return out;
}

SectionHole stickOf(const InterpretedHole& read, const HolePath& path, const Projection& at, const Polyline2& line,
                    std::size_t oldest, const WaterChoice& water) {
    SectionHole out{read.name, at.chainage, at.offset, {}, at.chainage, 0, {}, false, read.index, {}};
    const auto place = [&](Depth d) {
        const auto p = path.at(d);
        // exactly the collar's chainage for a vertical hole
        return std::pair{path.vertical() ? at.chainage : project(line, p.plan()).chainage, p.z};
    };
    for (const auto& i : read.logged()) {
        if (!i.usable()) continue;
        const auto known = std::ranges::find_if(read.intervals,
                                                [&](const InterpretedInterval& r) { return r.top <= i.top && i.base <= r.base; });
        const auto [topAt, top] = place(i.top);
        const auto [baseAt, base] = place(i.base);
        out.sticks.push_back(
            {topAt, top, baseAt, base, known == read.intervals.end() ? std::nullopt : std::optional(known->unit)});
        out.reachesOldest |= known != read.intervals.end() && known->unit == oldest;
    }
    std::tie(out.endChainage, out.endLevel) = place(read.hole->end());
    out.path = knotsOf(*read.hole, path, place);
    for (const auto& w : read.hole->strikes) out.water.push_back(place(w.roseTo.value_or(w.depth)).second);
    for (const auto& w : waterIn(*read.hole, water)) out.water.push_back(place(w.depth).second);
    return out;
}

/// Columns along a line.
struct SectionColumns {
    std::vector<double> chainage;
    std::vector<ModelColumn> columns;
};

SectionColumns evaluate(const Model& model, const Polyline2& line, std::vector<double> chainage, const Progress& progress) {
    SectionColumns out{std::move(chainage), {}};
    out.columns.resize(out.chainage.size());
    parallelFor(
        out.chainage.size(), 32,
        [&](std::size_t begin, std::size_t end) {
            std::vector<Point2> places;
            for (auto i = begin; i < end; ++i) places.push_back(pointAlong(line, out.chainage[i]));
            auto columns = model.columnsAt(places, true);
            std::ranges::move(columns, out.columns.begin() + std::ptrdiff_t(begin));
        },
        progress);
    return out;
}

/// Whether some unit is there in one column and not in the other.
bool pinchesOut(const ModelColumn& a, const ModelColumn& b) {
    for (std::size_t u = 0; u < a.bases.size(); ++u) {
        const double here = a.top(u) - a.bases[u], there = b.top(u) - b.bases[u];
        if (!std::isnan(here) && !std::isnan(there) && (here > 0) != (there > 0)) return true;
    }
    return false;
}

/// Halves the stretches in which a unit pinches out, a few times over, so that its end is drawn where it is.
SectionColumns refined(const Model& model, const Polyline2& line, SectionColumns s, const Progress& progress) {
    constexpr int kHalvings = 5;
    for (int round = 0; round < kHalvings; ++round) {
        std::vector<double> middles;
        for (std::size_t i = 0; i + 1 < s.chainage.size(); ++i)
            if (pinchesOut(s.columns[i], s.columns[i + 1])) middles.push_back((s.chainage[i] + s.chainage[i + 1]) / 2);
        if (middles.empty()) break;
        auto more = evaluate(model, line, std::move(middles), progress);
        SectionColumns all;
        std::size_t i = 0, k = 0;
        while (i < s.chainage.size() || k < more.chainage.size()) {
            const bool old = k == more.chainage.size() || (i < s.chainage.size() && s.chainage[i] < more.chainage[k]);
            auto& from = old ? s : more;
            auto& at = old ? i : k;
            all.chainage.push_back(from.chainage[at]);
            all.columns.push_back(std::move(from.columns[at]));
            ++at;
        }
        s = std::move(all);
    }
    return s;
}

} // namespace

Section makeSection(const Model& model, const InterpretedLogs& reading, const Polyline2& line, double step,
                    const Progress& progress, double reach, const WaterChoice& water) {
    Section section;
    section.line = line;
    section.floor = model.floor;
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
        if (!path || read.logged().empty()) continue;
        const auto at = project(line, path->at({}).plan());
        if (at.distance > reach) continue;
        section.holes.push_back(stickOf(read, *path, at, line, model.bases.size(), water));
        stops.insert(at.chainage);
    }
    std::ranges::stable_sort(section.holes, {}, &SectionHole::chainage);
    const auto all = refined(model, line, evaluate(model, line, {stops.begin(), stops.end()}, progress), progress);
    section.chainage = all.chainage;
    const auto n = all.chainage.size();
    section.ground.resize(n);
    for (auto& b : section.bases) b.resize(n);
    section.deviations = section.chances = section.bases;
    for (std::size_t i = 0; i < n; ++i) {
        section.ground[i] = all.columns[i].ground;
        for (std::size_t u = 0; u < section.bases.size(); ++u)
            section.bases[u][i] = all.columns[i].bases[u], section.deviations[u][i] = all.columns[i].deviations[u],
            section.chances[u][i] = all.columns[i].chances[u];
    }
    return section;
}

std::vector<SectionContact>
contactsAlong(const Polyline2& line, const std::vector<std::shared_ptr<const std::vector<Contact>>>& contacts, double reach) {
    std::vector<SectionContact> out;
    for (std::size_t u = 0; u < contacts.size(); ++u) {
        const Contact* before = nullptr; // the last that was near enough
        for (const auto& c : *contacts[u]) {
            const auto at = c.isPoint() ? project(line, c.place.plan()) : Projection{0, 0, reach + 1};
            if (at.distance > reach) {
                before = nullptr;
                continue;
            }
            out.push_back({at.chainage, c.place.z, at.offset, u, before && c.follows(*before)});
            before = &c;
        }
    }
    return out;
}

namespace {

/// Steps along a line in space no longer than `step`, and no more than kMost between two vertices.
Polyline3 inSteps(const Polyline3& line, double step) {
    constexpr int kMost = 200;
    Polyline3 out;
    for (std::size_t i = 0; i < line.size(); ++i) {
        if (i > 0) {
            const auto &a = line[i - 1], &b = line[i];
            const int n = std::clamp(int(distance(a.plan(), b.plan()) / step), 1, kMost);
            for (int k = 1; k < n; ++k) {
                const double t = double(k) / n;
                out.push_back({a.x + t * (b.x - a.x), a.y + t * (b.y - a.y), a.z + t * (b.z - a.z)});
            }
        }
        out.push_back(line[i]);
    }
    return out;
}

} // namespace

std::vector<SectionTrace> tracesAlong(const Polyline2& line, const std::vector<BackgroundLines>& background, double reach) {
    std::vector<SectionTrace> out;
    for (const auto& layer : background) {
        if (!layer.shown) continue;
        for (const auto& drawn : layer.lines) {
            SectionTrace piece{layer.layer, layer.colour, layer.width, {}};
            const auto end = [&] {
                if (piece.points.size() > 1) out.push_back(piece);
                piece.points.clear();
            };
            for (const auto& p : inSteps(drawn, std::max(reach / 2, 0.1))) {
                const auto at = project(line, p.plan());
                if (std::isnan(p.z) || at.distance > reach)
                    end();
                else
                    piece.points.push_back({at.chainage, p.z});
            }
            end();
        }
    }
    return out;
}

std::vector<LineCrossing> crossingsOf(const Polyline2& a, const Polyline2& b) {
    std::vector<LineCrossing> out;
    double alongA = 0;
    for (std::size_t i = 1; i < a.size(); ++i) {
        const double dx = a[i].x - a[i - 1].x, dy = a[i].y - a[i - 1].y;
        double alongB = 0;
        for (std::size_t k = 1; k < b.size(); ++k) {
            const double ex = b[k].x - b[k - 1].x, ey = b[k].y - b[k - 1].y, det = dx * ey - dy * ex;
            const double px = b[k - 1].x - a[i - 1].x, py = b[k - 1].y - a[i - 1].y;
            const double t = (px * ey - py * ex) / det, s = (px * dy - py * dx) / det;
            // ends count to the piece that begins there
            if (det != 0 && t >= 0 && s >= 0 && (t < 1 || (t <= 1 && i + 1 == a.size()))
                && (s < 1 || (s <= 1 && k + 1 == b.size())))
                out.push_back({alongA + t * std::hypot(dx, dy), alongB + s * std::hypot(ex, ey)});
            alongB += std::hypot(ex, ey);
        }
        alongA += std::hypot(dx, dy);
    }
    return out;
}

} // namespace fox
