#include "sequence/interpretation.h"

#include <cmath>

namespace fox {

namespace {
struct KindNames {
    ContactChoice::Kind kind;
    const char *name, *words;
};
constexpr KindNames kKinds[] = {{ContactChoice::Kind::Reached, "reached", "reached the base"},
                                {ContactChoice::Kind::AtOrBelow, "at-or-below", "base there or deeper"},
                                {ContactChoice::Kind::AtOrAbove, "at-or-above", "base there or higher"},
                                {ContactChoice::Kind::Excluded, "left-out", "says nothing of it"}};
} // namespace

const char* name(ContactChoice::Kind kind) { return kKinds[std::size_t(kind)].name; }
const char* words(ContactChoice::Kind kind) { return kKinds[std::size_t(kind)].words; }

std::optional<ContactChoice::Kind> contactChoiceNamed(std::string_view wanted) {
    for (const auto& k : kKinds)
        if (k.name == wanted) return k.kind;
    return {};
}

std::vector<Point3> placesOf(const Guide& guide) {
    std::vector<Point3> out;
    for (std::size_t i = 0; i < guide.line.size(); ++i) {
        if (i > 0) {
            const auto a = guide.line[i - 1], b = guide.line[i];
            const int pieces = int(std::ceil(distance(a.plan(), b.plan()) / kGuideStep - 1e-9));
            for (int k = 1; k < pieces; ++k) {
                const double t = double(k) / pieces;
                out.push_back({a.x + t * (b.x - a.x), a.y + t * (b.y - a.y), a.z + t * (b.z - a.z)});
            }
        }
        out.push_back(guide.line[i]);
    }
    return out;
}

std::vector<Point2> placesOf(const PresenceMark& mark, double spacing) {
    if (mark.area.size() < 3) return {mark.area.begin(), mark.area.end()};
    Box2 box;
    for (const auto& p : mark.area) box.include(p);
    // so wide that no more than kMarkPlaces fit
    const double step = std::max(spacing, std::sqrt(box.width() * box.height() / kMarkPlaces));
    std::vector<Point2> out = mark.area;
    if (!(step > 0)) return out;
    const auto first = [step](double low, double high) { return low + std::fmod(high - low, step) / 2; };
    for (double y = first(box.ymin, box.ymax); y <= box.ymax; y += step)
        for (double x = first(box.xmin, box.xmax); x <= box.xmax; x += step)
            if (contains(mark.area, {x, y})) out.push_back({x, y});
    return out;
}

std::vector<Depth> Interpretation::splitsOf(const std::string& hole) const {
    std::vector<Depth> out;
    for (const auto& s : splits)
        if (s.hole == hole) out.push_back(s.depth);
    return out;
}

} // namespace fox
