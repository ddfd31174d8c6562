// What stands on and in a block: where it is drawn, in which colours, and what hides it.
#include "handover/build_file.h"
#include "views/block_objects.h"

#include <catch2/catch.hpp>
#include <set>

using namespace fox;
using namespace fox::app;

namespace {

/// Of the demo, worked out once.
std::shared_ptr<const ProductSet> demoProducts() {
    static const auto kSet = Products().of(buildProject(FOX_DEMO "/quernbeck.build.json").project);
    return kSet;
}

/// The lines of a colour.
std::size_t coloured(const SceneTubes& tubes, const QColor& c) {
    return std::size_t(std::ranges::count(tubes.lines, c, &SceneLine::colour));
}

} // namespace

TEST_CASE("A block's places go there and back, and stand on the lowest ground at the frame's middle", "[block]") {
    const auto products = demoProducts();
    BlockScene::Look look;
    look.exaggeration = 4;
    const BlockPlacing placing(*products, look);
    const auto middle = products->ground->frame.box().centre();
    CHECK(placing.at({middle.x, middle.y, placing.lowest()}) == Point3{0, 0, 0});
    CHECK(placing.at({middle.x + 30, middle.y - 20, placing.lowest() + 2.5}) == Point3{30, -20, 10});
    CHECK(placing.place(30, -20) == Point2{middle.x + 30, middle.y - 20});
    double low = 1e9, high = -1e9;
    for (const double z : products->ground->values)
        if (!std::isnan(z)) low = std::min(low, z), high = std::max(high, z);
    CHECK(placing.lowest() == low);
    CHECK(placing.highest() == high);
    for (const auto& base : products->modelGrid->bases) // the floor lies under every base
        for (const double z : base.values)
            if (z < placing.floor()) FAIL("a base at " << z << " lies under the floor at " << placing.floor());
    CHECK(placing.over(0.5) == Approx(2 * (high - low)));
}

TEST_CASE("The gaps of the exploded view are equal, and the oldest unit stays where it is", "[block]") {
    const auto products = demoProducts();
    const auto units = products->project.sequence->units.size();
    BlockScene::Look look;
    CHECK_FALSE(BlockPlacing(*products, look).isExploded());
    look.apart = 0.25;
    const BlockPlacing placing(*products, look);
    REQUIRE(placing.isExploded());
    const double gap = 0.25 * (placing.highest() - placing.floor());
    for (std::size_t u = 0; u < units; ++u) CHECK(placing.lift(u) == Approx(gap * double(units - 1 - u)).margin(1e-9));
    CHECK(placing.lift(units) == 0); // what lies under all units
    look.terrain = true;
    CHECK_FALSE(BlockPlacing(*products, look).isExploded()); // the ground alone has no units
}

TEST_CASE("Each placed hole has a ball over its mouth, and a stick from there down its path", "[block]") {
    const auto products = demoProducts();
    BlockScene::Look look;
    look.hole = "QB101";
    const BlockPlacing placing(*products, look);
    const auto holes = sceneHoles(*products, look, placing);
    std::set<QString> placed;
    bool inclined = false;
    for (const auto& read : products->reading->holes) {
        const auto path = HolePath::of(*read.hole);
        if (!path) continue;
        placed.insert(QString::fromStdString(read.name));
        const auto head =
            std::ranges::find(holes.heads, QString::fromStdString(read.name), [](const auto& h) { return h.top.name; });
        REQUIRE(head != holes.heads.end());
        const auto mouth = placing.at(path->at({}));
        CHECK(head->top.at[0] == Approx(mouth.x).margin(1e-6));
        CHECK(head->top.at[1] == Approx(mouth.y).margin(1e-6));
        CHECK(head->top.at[2] > mouth.z);
        if (read.intervals.empty() || read.name == "QB101") continue;
        const auto end = placing.at(path->at(read.intervals.back().base));
        inclined |= std::hypot(end.x - mouth.x, end.y - mouth.y) > 1;
        const bool drawn = std::ranges::any_of(holes.sticks.lines, [&](const SceneLine& l) {
            return std::hypot(l.to.x - end.x, l.to.y - end.y, l.to.z - end.z) < 1e-6;
        });
        CAPTURE(read.name);
        CHECK(drawn);
    }
    CHECK(holes.heads.size() == placed.size());
    CHECK(placed.size() > 20);
    CHECK(inclined); // the demo has an inclined hole: its stick leans
    // the chosen hole is drawn apart, thicker
    REQUIRE_FALSE(holes.chosen.lines.empty());
    CHECK(holes.chosen.radius > holes.sticks.radius);
    look.hole = "";
    const auto without = sceneHoles(*products, look, placing);
    CHECK(without.chosen.lines.empty());
    CHECK(without.sticks.lines.size() == holes.sticks.lines.size() + holes.chosen.lines.size());
}

TEST_CASE("A unit that is hidden leaves sticks and contacts; one that is selected fades the others", "[block]") {
    const auto products = demoProducts();
    const auto& units = products->project.sequence->units;
    BlockScene::Look look;
    const BlockPlacing all(*products, look);
    const auto before = sceneHoles(*products, look, all);
    std::size_t shown = 0;
    for (std::size_t u = 0; u < units.size(); ++u) {
        CAPTURE(units[u].code);
        const auto stick = all.fill(u).darker(112);
        const auto count = coloured(before.sticks, stick);
        shown += count > 0;
        BlockScene::Look without = look;
        without.hidden.insert(QString::fromStdString(units[u].code));
        const BlockPlacing placing(*products, without);
        CHECK(placing.isHidden(u));
        CHECK(coloured(sceneHoles(*products, without, placing).sticks, stick) == 0);
        CHECK(coloured(sceneContacts(*products, placing), all.fill(u).darker(125)) == 0);
    }
    CHECK(shown > 3);
    BlockScene::Look one;
    one.unit = QString::fromStdString(units[1].code);
    const BlockPlacing chosen(*products, one);
    CHECK(chosen.fill(1) == all.fill(1));
    CHECK(chosen.fill(0) != all.fill(0));
    CHECK(chosen.fill(0).lightness() > all.fill(0).lightness());
}

TEST_CASE("Sticks by another column are in that column's colours, one for each code", "[block]") {
    const auto products = demoProducts();
    BlockScene::Look look;
    look.block = false;
    look.along.choice = {AlongChoice::Kind::Column, "GEOL_LEG"};
    std::set<std::string> codes;
    for (const auto& hole : *products->project.holes)
        for (const auto& i : hole.intervals)
            if (const auto code = i.codes.find("GEOL_LEG"); i.usable() && code != i.codes.end()) codes.insert(code->second);
    REQUIRE(codes.size() > 3);
    std::set<QRgb> colours;
    for (const auto& line : sceneHoles(*products, look, BlockPlacing(*products, look)).sticks.lines)
        if (line.colour != QColor("#000000")) colours.insert(line.colour.rgb());
    CHECK(colours.size() >= 3);
    CHECK(colours.size() <= codes.size() + 1); // and the masts
}

TEST_CASE("Lines only to look at lie on the terrain, cell by cell, and end where it ends", "[block]") {
    const auto products = demoProducts();
    const auto& frame = products->ground->frame;
    BlockScene::Look look;
    const BlockPlacing placing(*products, look);
    const auto middle = frame.box().centre();
    BackgroundLines road;
    road.colour = "#336699";
    road.lines = std::vector<Polyline3>{{{middle.x - 50, middle.y, 0}, {middle.x + 50, middle.y + 20, 0}}};
    const auto drawn = sceneLines(road, *products, placing);
    REQUIRE(drawn.lines.size() >= std::size_t(100 / frame.cell));
    for (const auto& line : drawn.lines) {
        CHECK(line.colour == QColor("#336699"));
        const auto level = products->terrain->levelAt(placing.place(line.to.x, line.to.y));
        REQUIRE(level);
        CHECK(line.to.z == Approx(placing.z(*level) + placing.over(0.004)));
        CHECK(std::hypot(line.to.x - line.from.x, line.to.y - line.from.y) <= frame.cell * (1 + 1e-9));
    }
    SECTION("outside of the terrain nothing is drawn") {
        road.lines = std::vector<Polyline3>{{{frame.xmax + 5000, middle.y, 0}, {frame.xmax + 5100, middle.y, 0}}};
        CHECK(sceneLines(road, *products, placing).lines.empty());
    }
    SECTION("a line of a single point, and none, draw nothing") {
        road.lines = std::vector<Polyline3>{{{middle.x, middle.y, 0}}, {}};
        CHECK(sceneLines(road, *products, placing).lines.empty());
    }
    SECTION("a wider line is a thicker tube") {
        auto wide = road;
        wide.width = 3 * road.width;
        CHECK(sceneLines(wide, *products, placing).radius == Approx(3 * drawn.radius));
    }
}
