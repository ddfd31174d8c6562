// What is looked at: which holes, what they show along their length, colours and classes, surfaces beside the ground.
#include "fixtures.h"
#include "formats/raster.h"
#include "formats/triangle_mesh.h"
#include "ground/compare.h"
#include "importing/named_surface_import.h"
#include "paper/colour_scale.h"
#include "project/named_surface_edits.h"
#include "project/site_edits.h"
#include "sequence/along_holes.h"
#include "sequence/hole_choice.h"
#include "sheets/section_drawing.h"
#include "store/store.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <set>

using namespace fox;
using namespace fox::test;

namespace {

using Names = std::vector<std::string>;

std::shared_ptr<const std::vector<Curve::Reading>> readings(std::vector<Curve::Reading> all) {
    return std::make_shared<const std::vector<Curve::Reading>>(std::move(all));
}

double lightness(const paper::Colour& c) { return 0.2126 * c.red + 0.7152 * c.green + 0.0722 * c.blue; }

} // namespace

TEST_CASE("Holes are chosen by kind, place, unit and test", "[holes][choice]") {
    Holes holes{hole("A", 1, 1, 10, {{2, "C"}, {5, "S"}}), hole("B", 50, 0, 10, {{4, "C"}}), hole("D", 50, 80, 10, {{3, "S"}})};
    holes.changeEach([](Hole& h) { h.type = h.id == "B" ? "TP" : "CP"; });
    holes.changeEach([](Hole& h) {
        if (h.id == "D") h.blowCounts.push_back({Depth{1}, 12});
    });
    const auto read = readHoles(holes, sequence({"C", "S"}));
    CHECK(holesOfKind(holes, HoleKind::Dug) == Names{"B"});
    CHECK(holesInside(holes, Area(square(-5, -5, 60))) == Names{"A", "B"});
    CHECK(holesNear(holes, {{0, 20}, {50, 20}}, 25) == Names{"A", "B"});
    CHECK(holesNear(holes, {{50, 70}}, 11) == Names{"D"});
    CHECK(holesNear(holes, {}, 1000).empty());
    CHECK(holesWithUnit(read, 1) == Names{"A", "D"});
    const auto quantities = testQuantities(holes);
    REQUIRE_FALSE(quantities.empty());
    CHECK(holesWithTest(quantities[0], holes, read) == Names{"D"});
}

TEST_CASE("A set of holes is kept with the project, and follows a hole's new name", "[project][choice]") {
    const TemporaryFolder folder;
    Project p;
    p.holes = part(Holes{hole("A", 0, 0, 10, {{2, "C"}}), hole("B", 5, 0, 10, {{2, "C"}})});
    p = keepHoleSet(p, " river ", {"A", "B"}).project;
    p = keepHoleSet(p, "one", {"B"}).project;
    p = setHoleName(p, "B", "B7").project;
    CHECK(*p.holeSets == std::vector<HoleSet>{{"river", {"A", "B7"}}, {"one", {"B7"}}});
    ProjectStore::create((folder / "p.gpkg").string(), p);
    Findings findings;
    CHECK(*ProjectStore::read(folder / "p.gpkg", findings).holeSets == *p.holeSets);
    CHECK(findings.empty());
    CHECK_THROWS_AS(keepHoleSet(p, " ", {"A"}), Error);
    CHECK_THROWS_AS(keepHoleSet(p, "none", {}), Error);
    CHECK(removeHoleSet(p, "one").project.holeSets->size() == 1);
    CHECK_THROWS_AS(removeHoleSet(p, "two"), Error);
}

TEST_CASE("A value stands for the depths nearest to it, never far beyond", "[holes][along]") {
    Holes holes{hole("A", 0, 0, 10, {{6, "C"}})};
    holes.changeEach([](Hole& h) {
        h.curves.push_back({"GR", "API", "", false, readings({{1, 10}, {1.2, 20}, {1.4, kNoValue}, {5, 40}})});
    });
    const auto read = readHoles(holes, sequence({"C"}));
    const auto values = alongValues({AlongChoice::Kind::Quantity, "GR"}, holes, read);
    CHECK(values.low == 10);
    CHECK(values.high == 40);
    CHECK(values.unit == "API");
    const auto& s = values.holes[0];
    REQUIRE(s.size() == 3);
    CHECK(s[0].top.metres == Approx(0.5));
    CHECK(s[0].base.metres == Approx(1.1));
    CHECK(s[1].top.metres == Approx(1.1));
    CHECK(s[1].base.metres == Approx(1.7)); // not halfway to the one at 5 m
    CHECK(s[2].top.metres == Approx(4.5));
    CHECK(alongValues({AlongChoice::Kind::Quantity, "none"}, holes, read).holes[0].empty());
    CHECK(alongValues({}, holes, read).holes[0].empty());
}

TEST_CASE("Codes of a column have a colour each, and stand where they are logged", "[holes][along]") {
    const auto& p = demo().project;
    const auto read = readHoles(*p.holes, *p.sequence, *p.interpretation);
    const auto values = alongValues({AlongChoice::Kind::Column, "GEOL_LEG"}, *p.holes, read);
    REQUIRE(values.codes.size() > 3);
    std::set<std::string> colours;
    for (const auto& [code, colour] : values.codes) colours.insert(colour);
    CHECK(colours.size() == values.codes.size());
    std::size_t stretches = 0;
    for (std::size_t i = 0; i < values.holes.size(); ++i)
        for (const auto& s : values.holes[i]) {
            ++stretches;
            CHECK_FALSE(values.colourOf(s.code).empty());
            CHECK(std::ranges::any_of((*p.holes)[i].intervals, [&](const Interval& at) {
                const auto code = at.codes.find("GEOL_LEG");
                return at.top.metres <= s.top.metres + 1e-9 && code != at.codes.end() && code->second == s.code;
            }));
        }
    CHECK(stretches > 100);
    CHECK(values.colourOf("no such code").empty());
}

TEST_CASE("A section draws values on and beside its holes, and signs of samples", "[sheets][along]") {
    const auto set = demoProducts();
    const auto& p = set->project;
    const auto& section = *set->sections.front();
    SectionLayout layout;
    layout.area.include({20, 0}), layout.area.include({340, 180});
    layout.perMetre = 320 / section.chainage.back();
    layout.highestLevel = levelsOf(section)->second + 3;
    layout.exaggeration = 10;
    SectionStyle style;
    style.along = std::make_shared<const AlongValues>(
        alongValues({AlongChoice::Kind::Quantity, testQuantities(*p.holes).front().name}, *p.holes, *set->reading));
    style.colours = {paper::ColourScale::DeepLight, style.along->low, style.along->high, {}};
    style.graph = true;
    auto signs = std::make_shared<std::vector<std::vector<AlongSign>>>();
    for (const auto& h : *p.holes) signs->push_back(signsAlong(h, *p.shownWater));
    style.signs = signs;
    const auto drawing = drawSection(section, *p.sequence, layout, style);
    std::map<std::string, int> layers;
    for (const auto& item : drawing.items) ++layers[item.layer];
    CHECK(layers["values"] > 10);
    CHECK(layers["graphs"] > 2);
    CHECK(layers["samples"] > 5);
    // a stretch lies where its depth is along the hole
    for (const auto& h : section.holes) {
        REQUIRE(h.path.size() >= 2);
        CHECK(h.at(0).y == Approx(h.path.front().level));
        CHECK(h.at(h.path.back().depth).y == Approx(h.path.back().level));
        CHECK(displayName(*p.holes, (*p.holes)[h.index]) == h.name);
    }
}

TEST_CASE("Scales of colours but the one for middles are read by their lightness alone", "[paper][colours]") {
    for (const auto scale : paper::kColourScales) {
        if (scale == paper::ColourScale::Earth) continue;
        CAPTURE(words(scale));
        const bool rises = lightness(scaleColour(scale, 1)) > lightness(scaleColour(scale, 0));
        for (int k = 1; k <= 40; ++k) {
            const double before = lightness(scaleColour(scale, (k - 1) / 40.0)), now = lightness(scaleColour(scale, k / 40.0));
            CHECK((rises ? now > before : now < before));
        }
        CHECK(std::abs(lightness(scaleColour(scale, 1)) - lightness(scaleColour(scale, 0))) > 120);
    }
    CHECK(scaleColour(paper::ColourScale::Grey, -3) == scaleColour(paper::ColourScale::Grey, 0));
}

TEST_CASE("Classes part values evenly, at round figures, by number, or where one says", "[paper][colours]") {
    using enum paper::ClassKind;
    using paper::classLimits;
    std::vector<double> values;
    for (int i = 0; i <= 100; ++i) values.push_back(i / 10.0);
    values.push_back(kNoValue);
    CHECK(classLimits({None, 5, {}}, values).empty());
    CHECK(classLimits({Equal, 5, {}}, values) == std::vector<double>{2, 4, 6, 8});
    const auto quantiles = classLimits({Quantile, 4, {}}, std::vector<double>{1, 2, 3, 4, 5, 6, 7, 800});
    CHECK(quantiles == std::vector<double>{3, 5, 7});
    CHECK(classLimits({Typed, 5, {1, 7}}, values) == std::vector<double>{1, 7});
    CHECK(classLimits({Equal, 5, {}}, std::vector<double>{3, 3, 3}).empty());
    CHECK(classLimits({Quantile, 5, {}}, std::vector<double>{}).empty());
    paper::ValueColours c{paper::ColourScale::Grey, 0, 10, {2, 8}};
    CHECK(c.classOf(1.99) == 0);
    CHECK(c.classOf(2) == 1);
    CHECK(c.classOf(8) == 2);
    CHECK(c.of(2.1) == c.of(7.9));
    CHECK(c.classInWords(0) == "under 2");
    CHECK(c.classInWords(1) == "2 to 8");
    CHECK(c.classInWords(2) == "8 and more");
    // random values: every class of quantiles has some, and limits rise
    for (unsigned seed = 1; seed < 40; ++seed) {
        std::vector<double> some;
        for (const auto& q : randomPoints(seed, int(5 + seed * 3), 50)) some.push_back(q.z);
        for (const auto kind : {Equal, Quantile})
            for (const int count : {2, 5, 9}) {
                const auto limits = classLimits({kind, count, {}}, some);
                CHECK(limits.size() < std::size_t(count));
                CHECK(std::ranges::is_sorted(limits));
            }
    }
    CHECK(paper::limitsWritten("1 2.5, 7;9") == std::vector<double>{1, 2.5, 7, 9});
    CHECK(paper::limitsWritten("1 x").empty());
    CHECK(paper::limitsWritten("3 2").empty());
}

TEST_CASE("A difference's figures are those of its cells", "[ground][compare]") {
    Grid grid(Frame{0, 0, 10, 10, 1});
    std::vector<double> all;
    const auto cloud = randomPoints(7, 100, 4);
    for (std::size_t i = 0; i < 100; ++i) grid.values[i] = i % 7 == 0 ? kNoValue : cloud[i].z - 2;
    for (const double v : grid.values)
        if (!std::isnan(v)) all.push_back(v);
    const auto s = statisticsOf(grid);
    CHECK(s.cells == all.size());
    double sum = 0, squares = 0;
    for (const double v : all) sum += v, squares += v * v;
    const double n = double(all.size());
    CHECK(s.mean == Approx(sum / n));
    CHECK(s.deviation == Approx(std::sqrt(squares / n - sum / n * sum / n)));
    CHECK(s.least == *std::ranges::min_element(all));
    CHECK(s.most == *std::ranges::max_element(all));
    const auto bins = histogramOf(grid, 8);
    CHECK(std::accumulate(bins.begin(), bins.end(), std::size_t(0)) == all.size());
    CHECK(histogramOf(Grid(Frame{0, 0, 2, 2, 1}), 4) == std::vector<std::size_t>(4, 0)); // all kNoValue
}

TEST_CASE("Named surfaces of points, a grid and triangles have the levels of what they came from", "[model][named]") {
    const TemporaryFolder folder;
    const auto plane = [](Point2 q) { return 5 + 0.1 * q.x - 0.05 * q.y; };
    std::string csv = "easting,northing,level\n";
    TriangleMesh mesh{"design", {}, {}, ""};
    for (int j = 0; j < 3; ++j)
        for (int i = 0; i < 4; ++i) {
            const Point2 q{100.0 * i, 80.0 * j};
            csv += fmt::format("{},{},{}\n", q.x, q.y, plane(q));
            mesh.vertices.push_back({q.x, q.y, plane(q)});
        }
    for (int j = 0; j < 2; ++j)
        for (int i = 0; i < 3; ++i) {
            if (i == 1 && j == 1) continue; // a notch in its edge: nothing is there
            const int a = j * 4 + i;
            mesh.triangles.push_back({a, a + 1, a + 5}), mesh.triangles.push_back({a, a + 5, a + 4});
        }
    folder.write("points.csv", csv);
    writeTriangleMesh(folder / "design.xml", mesh);
    Grid grid(Frame{0, 0, 300, 160, 20});
    for (int r = 0; r < grid.frame.rows(); ++r)
        for (int c = 0; c < grid.frame.columns(); ++c) grid.at(c, r) = plane(grid.frame.centre(c, r));
    writeRaster(folder / "old.tif", grid, "");
    for (const char* file : {"points.csv", "design.xml", "old.tif"}) {
        CAPTURE(file);
        Findings findings;
        auto named = readNamedSurface(folder / file, SiteContext(""), findings);
        CHECK(named.source == file);
        named.settings.method = Method::Linear;
        const auto fitted = fitNamedSurface(named, {}, nullptr);
        for (const Point2 q : {Point2{50, 30}, {250, 120}, {150, 20}})
            CHECK(fitted.surface->at(q) == Approx(plane(q)).margin(1e-3));
        CHECK(fitted.findings.empty());
        CHECK(std::isnan(fitted.surface->at({900, 900})));
    }
    const auto design = triangleSurface(mesh.vertices, mesh.triangles);
    CHECK(std::isnan(design->at({150, 120})));
    auto folded = mesh;
    folded.triangles.push_back({0, 3, 10}); // over the others
    CHECK_THROWS_AS(triangleSurface(folded.vertices, folded.triangles), Error);
    Findings findings;
    folder.write("words.csv", "a,b\nx,y\n");
    CHECK_THROWS_AS(readNamedSurface(folder / "words.csv", SiteContext(""), findings), Error);
}

TEST_CASE("Named surfaces are kept, follow what they are made from, and say when that is gone", "[project][named]") {
    const TemporaryFolder folder;
    Project p;
    p.holes = part(Holes{hole("A", 10, 10, 20, {{2, "C"}, {5, "S"}}), hole("B", 90, 10, 22, {{4, "C"}, {6, "S"}}),
                         hole("D", 50, 90, 21, {{3, "C"}, {6, "S"}})});
    p.sequence = part(sequence({"C", "S"}));
    p = setFrame(p, Frame{0, 0, 100, 100, 10}).project;
    NamedSurface contact;
    contact.name = "horizon", contact.from = NamedSurface::From::Contacts, contact.source = "C";
    contact.settings.method = Method::Linear;
    p = addNamedSurface(p, contact).project;
    p = addNamedSurface(p, contact).project;
    CHECK(p.namedSurfaces->back().name == "horizon 2");
    NamedSurface mesh;
    mesh.name = "dig", mesh.from = NamedSurface::From::Triangles;
    mesh.points = std::vector<Point3>{{0, 0, 1}, {50, 0, 2}, {0, 50, 3}};
    mesh.triangles = std::vector<std::array<int, 3>>{{0, 1, 2}};
    p = addNamedSurface(p, mesh).project;
    const auto set = Products().of(p, {}, {ProductKind::NamedSurfaces});
    REQUIRE(set->namedSurfaces.size() == 3);
    CHECK(set->namedSurfaces[0]->fitted->surface->at({10, 10}) == Approx(18));
    CHECK(set->namedSurfaces[0]->levels->frame == *p.site->frame);
    CHECK(set->namedSurfaces[2]->fitted->surface->at({10, 10}) == Approx(1 + 0.2 + 0.4));
    // a moved contact moves it
    const auto moved = Products().of(moveBoundary(p, "A", Depth{2}, Depth{2.5}).project, {}, {ProductKind::NamedSurfaces});
    CHECK(moved->namedSurfaces[0]->fitted->surface->at({10, 10}) == Approx(17.5));
    ProjectStore::create((folder / "p.gpkg").string(), p);
    Findings findings;
    CHECK(*ProjectStore::read(folder / "p.gpkg", findings).namedSurfaces == *p.namedSurfaces);
    CHECK(findings.empty());
    auto other = changeNamedSurface(
                     p, "horizon", [](NamedSurface& s) { s.source = "nothing"; }, "source")
                     .project;
    CHECK(mentions(*Products().of(other)->findings, "FC-NAMED", "no contact of nothing"));
    CHECK_THROWS_AS(renameNamedSurface(p, "horizon", "dig"), Error);
    CHECK(renameNamedSurface(p, "horizon", "top").project.namedSurfaces->front().name == "top");
    CHECK(removeNamedSurface(p, "dig").project.namedSurfaces->size() == 2);
    CHECK_THROWS_AS(removeNamedSurface(p, "pit"), Error);
}

TEST_CASE("A section goes through the named surfaces of a project", "[products][named]") {
    auto p = demo().project;
    NamedSurface flat;
    flat.name = "level 12", flat.from = NamedSurface::From::Points;
    flat.points = std::vector<Point3>{{480000, 6120000, 12}, {481500, 6120000, 12}, {480000, 6121000, 12}};
    flat.settings.method = Method::Linear;
    p = addNamedSurface(p, flat).project;
    Wanted wanted;
    wanted.sections.insert(p.sections->front().name);
    const auto set = Products().of(p, {}, wanted);
    REQUIRE(set->sections.front()->surfaces.size() == 1);
    std::size_t on = 0;
    for (const double z : set->sections.front()->surfaces[0].levels)
        if (!std::isnan(z)) {
            ++on;
            CHECK(z == Approx(12));
        }
    CHECK(on > 5);
}
