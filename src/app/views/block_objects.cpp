#include "views/block_objects.h"

#include "sequence/picked_logs.h"
#include "style/theme.h"
#include "views/along_menu.h"

namespace fox::app {

namespace {

Point3 raisedBy(Point3 p, double metres) { return {p.x, p.y, p.z + metres}; }

} // namespace

SceneHoles sceneHoles(const ProductSet& products, const BlockScene::Look& look, const BlockPlacing& placing) {
    SceneHoles out;
    // alone they are what is looked at
    const double usual = std::max(2.5, placing.width() / (look.block ? 400 : 220)), thick = usual * look.along.stickWidth;
    out.sticks.radius = 0.8 * thick, out.chosen.radius = 1.4 * thick;
    out.sticks.sides = out.chosen.sides = 8;
    out.graphs.radius = 0.22 * usual;
    const auto values = alongValues(look.along.choice, *products.project.holes, *products.reading);
    const auto colours = alongColours(values, look.along);
    using Kind = AlongChoice::Kind;
    const auto kind = look.along.choice.kind;
    const auto logs = withPicks(*products.reading, *products.project.sequence, *products.project.interpretation);
    for (const auto& read : logs.holes) {
        const auto path = HolePath::of(*read.hole);
        if (!path || (look.shownHoles && !look.shownHoles->contains(read.name))) continue;
        const auto name = QString::fromStdString(read.name);
        const bool selected = name == look.hole;
        auto& lines = (selected ? out.chosen : out.sticks).lines;
        const auto at = [&](Depth d, double up = 0) { return placing.at(raisedBy(path->at(d), up)); };
        if (kind == Kind::Unit)
            for (const auto& i : read.intervals)
                if (!placing.isHidden(i.unit))
                    lines.push_back(
                        {at(i.top, placing.lift(i.unit)), at(i.base, placing.lift(i.unit)), placing.fill(i.unit).darker(112)});
        std::optional<Point3> before; // of the graph
        for (const auto& s : values.holes[read.index]) {
            if (look.along.hiddenCodes.contains(s.code)) continue;
            const auto fill = kind == Kind::Column ? QColor(QString::fromStdString(values.colourOf(s.code))).darker(112)
                                                   : qColour(colours.of(s.value));
            lines.push_back({at(s.top), at(s.base), fill});
            if (!look.along.graph || kind != Kind::Quantity) continue;
            auto next = at(Depth{(s.top.metres + s.base.metres) / 2});
            const double share = colours.high > colours.low ? (s.value - colours.low) / (colours.high - colours.low) : 0.5;
            next.x += thick + std::clamp(share, 0.0, 1.0) * 14 * usual;
            if (before) out.graphs.lines.push_back({*before, next, colour::ink});
            before = next;
        }
        if (look.along.samples)
            for (const auto& sign : signsAlong(*read.hole, *products.project.shownWater)) {
                auto p = at(sign.depth);
                const bool isSample = sign.kind == AlongSign::Kind::Sample;
                p.x += (isSample ? -2.6 : 2.6) * thick;
                out.signs.push_back({{{}, {p.x, p.y, p.z}}, 0.9 * usual, isSample ? colour::ink : QColor("#1F6FA8")});
            }
        // a mast over the ground, so that a hole is seen from above
        const auto head = placing.at(raisedBy(path->at({}), placing.lift(0)));
        const auto top = raisedBy(head, usual * (look.block ? 7 : 1.5));
        lines.push_back({head, top, QColor("#25211C")});
        out.heads.push_back({{name, {top.x, top.y, top.z}},
                             usual
                                 * (selected     ? 2.6
                                    : look.block ? 2
                                                 : 1.2),
                             selected ? colour::fox : QColor("#FFFDF9")});
    }
    return out;
}

ScenePlane scenePlane(const PlaneAssignment& how, const ProductSet& products, const BlockPlacing& placing) {
    ScenePlane out;
    Box2 box;
    std::map<std::string, HolePath> paths;
    for (const auto& read : products.reading->holes)
        if (const auto path = HolePath::of(*read.hole)) paths.emplace(read.name, *path), box.include(path->at({}).plan());
    if (box.empty()) return out;
    for (const auto& p : {Point2{box.xmin, box.ymin}, {box.xmax, box.ymin}, {box.xmax, box.ymax}, {box.xmin, box.ymax}})
        out.corners.emplace_back(p, placing.at({p.x, p.y, how.plane.at(p)}));
    const double thick = std::max(2.5, placing.width() / 300);
    out.rim.radius = thick, out.taken.radius = 2 * thick;
    for (std::size_t k = 0; k < 4; ++k)
        out.rim.lines.push_back({out.corners[k].second, out.corners[(k + 1) % 4].second, colour::fox});
    const auto unit = products.project.sequence->index(how.unit);
    if (!unit) return out;
    const auto assigned =
        assignedAbove(*products.project.holes, *products.project.sequence, *products.project.interpretation, how);
    const auto fill = QColor(QString::fromStdString(products.project.sequence->units[*unit].colour));
    for (const auto* list : {&assigned.whole, &assigned.parts})
        for (const auto& i : *list)
            if (const auto path = paths.find(i.hole); path != paths.end())
                out.taken.lines.push_back({placing.at(path->second.at(i.top)), placing.at(path->second.at(i.base)), fill});
    return out;
}

SceneTubes sceneContacts(const ProductSet& products, const BlockPlacing& placing) {
    SceneTubes out;
    const double half = std::max(2.0, placing.width() / 160);
    out.radius = half * 0.28;
    for (std::size_t u = 0; u < products.contacts.size(); ++u) {
        if (placing.isHidden(u)) continue;
        const auto fill = placing.fill(u).darker(125);
        const auto drawn = [&](const Contact& c) { return placing.at(raisedBy(c.place, placing.lift(u))); };
        const Contact* before = nullptr;
        for (const auto& c : *products.contacts[u]) {
            const auto p = drawn(c);
            if (before && c.follows(*before)) {
                out.lines.push_back({drawn(*before), p, fill});
            } else if (c.isPoint() && c.trace < 0) {
                out.lines.push_back({{p.x - half, p.y, p.z}, {p.x + half, p.y, p.z}, fill});
                out.lines.push_back({{p.x, p.y - half, p.z}, {p.x, p.y + half, p.z}, fill});
            }
            before = &c;
        }
    }
    return out;
}

SceneTubes sceneLines(const BackgroundLines& layer, const ProductSet& products, const BlockPlacing& placing) {
    SceneTubes out;
    out.radius = layer.width * placing.width() / 900;
    const QColor stroke(QString::fromStdString(layer.colour));
    const double over = placing.over(0.004);
    constexpr std::size_t kMost = 100'000; // pieces: more can't be told apart
    constexpr int kMostOfOne = 1000;
    std::size_t pieces = 0;
    for (const auto& line : layer.lines)
        for (std::size_t i = 1; i < line.size() && pieces < kMost; ++i) {
            const auto &a = line[i - 1], &b = line[i];
            const double cell = products.ground->frame.cell;
            const int n = std::clamp(int(std::ceil(distance(a.plan(), b.plan()) / cell)), 1, kMostOfOne);
            std::optional<Point3> before;
            for (int k = 0; k <= n; ++k, ++pieces) {
                const double s = double(k) / n;
                const Point2 p{a.x + s * (b.x - a.x), a.y + s * (b.y - a.y)};
                const auto level = products.terrain->levelAt(p);
                const auto next =
                    level ? std::optional(raisedBy(placing.at({p.x, p.y, *level + placing.lift(0)}), over)) : std::nullopt;
                if (before && next) out.lines.push_back({*before, *next, stroke});
                before = next;
            }
        }
    return out;
}

} // namespace fox::app
