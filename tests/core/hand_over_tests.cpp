#include "fixtures.h"
#include "formats/ags_check.h"
#include "formats/raster.h"
#include "formats/triangle_mesh.h"
#include "formats/vector.h"
#include "handover/ags_export.h"
#include "handover/export_files.h"
#include "handover/section_files.h"
#include "model/geological_map.h"
#include "model/solids.h"
#include "project/remedies.h"
#include "project/sequence_edits.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <numeric>
#include <pugixml.hpp>

using namespace fox;
using namespace fox::test;

namespace {

/// Ground at 10 falling to 0 in the east; A is 2 m thick west of x = 50 and absent east of it, B reaches to -5, C under it.
ModelGrid slope() {
    const Frame frame{0, 0, 100, 40, 1};
    ModelGrid grid{Grid(frame), {Grid(frame), Grid(frame)}, {}};
    for (int r = 0; r < frame.rows(); ++r)
        for (int c = 0; c < frame.columns(); ++c) {
            const double x = frame.centre(c, r).x, ground = 10 - x / 10;
            grid.ground.at(c, r) = ground;
            grid.bases[0].at(c, r) = ground - (x < 50 ? 2 : 0);
            grid.bases[1].at(c, r) = -5;
        }
    return grid;
}

double areaOf(const std::vector<MapArea>& map, std::size_t unit) {
    double sum = 0;
    for (const auto& a : map)
        if (a.unit == unit) sum += a.area;
    return sum;
}

std::shared_ptr<const ProductSet> withSections() {
    static const auto kSet = [] {
        auto p = demo().project;
        p = addSection(p, {{480050, 6120300}, {481400, 6120500}}).project;
        p = addTrialColumn(p, {480700, 6120400}).project;
        return Products().of(p);
    }();
    return kSet;
}

} // namespace

TEST_CASE("A geological map has each unit where the surface meets it", "[model]") {
    const auto grid = slope();
    auto map = geologicalMap(grid, {});
    CHECK(areaOf(map, 0) == Approx(50 * 40).epsilon(0.02));
    CHECK(areaOf(map, 1) == Approx(50 * 40).epsilon(0.02));
    CHECK(areaOf(map, 2) == 0);
    CHECK(unitOn(map, {20, 20}) == 0u);
    CHECK(unitOn(map, {80, 20}) == 1u);
    // at 4 m: under the ground west of x = 60, in A where the ground is under 6 m, that is between x = 40 and 50
    map = geologicalMap(grid, {MapSurface::Kind::Level, 4});
    CHECK(areaOf(map, 0) == Approx(10 * 40).epsilon(0.06));
    CHECK(areaOf(map, 1) == Approx(50 * 40).epsilon(0.03));
    CHECK_FALSE(unitOn(map, {70, 20}));
    // 1 m below ground it is A in the west, B in the east; 12 m below it is C where the ground is under 7 m
    map = geologicalMap(grid, {MapSurface::Kind::Depth, 1});
    CHECK(unitOn(map, {20, 20}) == 0u);
    CHECK(unitOn(map, {80, 20}) == 1u);
    map = geologicalMap(grid, {MapSurface::Kind::Depth, 12});
    CHECK(unitOn(map, {10, 20}) == 1u);
    CHECK(unitOn(map, {60, 20}) == 2u);
    CHECK(areaOf(map, 2) == Approx(70 * 40).epsilon(0.02));
    CHECK(words(MapSurface{MapSurface::Kind::Level, 4}) == "at a level of 4 m");
}

TEST_CASE("Units of a map cover it once", "[model][demo]") {
    const auto& grid = *demoProducts()->modelGrid;
    const auto map = geologicalMap(grid, {});
    double mapped = 0;
    for (const auto& a : map) mapped += a.area;
    // edges run through the outermost cells' centres or at the cells' edges
    CHECK(mapped == Approx(volumesOf(grid).area).epsilon(0.03));
    int right = 0, all = 0;
    for (int r = 2; r < grid.ground.frame.rows() - 2; r += 3)
        for (int c = 2; c < grid.ground.frame.columns() - 2; c += 3) {
            const auto unit = unitOn(map, grid.ground.frame.centre(c, r));
            if (std::isnan(grid.ground.at(c, r)) || !unit) continue;
            std::size_t u = 0;
            while (u < grid.bases.size() && grid.ground.at(c, r) - grid.bases[u].at(c, r) <= kMappedThickness) ++u;
            ++all;
            right += u == *unit;
        }
    CHECK(all > 1000);
    CHECK(right >= 0.995 * all); // not at edges that pass through a centre
}

TEST_CASE("Volumes above a surface are what a dig digs", "[model]") {
    const auto grid = slope();
    Grid level(grid.ground.frame);
    std::ranges::fill(level.values, 4);
    const auto v = volumesAbove(grid, level);
    // where the ground is over 4 m, x < 60: a triangle 6 m high
    CHECK(v.area == Approx(60 * 40).epsilon(0.02));
    CHECK(v.units.size() == 3);
    CHECK(v.units[0].volume + v.units[1].volume == Approx(40 * 60 * 6 / 2.0).epsilon(0.002));
    CHECK(v.units[0].volume == Approx(40 * (40 * 2 + 10 * 1.5)).epsilon(0.01)); // of A all of 2 m, then down to 4 m
    CHECK(v.units[2].volume == 0);
    std::ranges::fill(level.values, -8);
    CHECK(volumesAbove(grid, level).units[2].volume == Approx(100 * 40 * 3));
    CHECK(volumesAbove(grid, level).units[1].volume == Approx(volumesOf(grid).units[1].volume));
    CHECK_THROWS_AS(volumesAbove(grid, Grid({0, 0, 10, 10, 1})), UsageError);
}

TEST_CASE("Lines of sections cross where they cross", "[model]") {
    const auto x = crossingsOf({{0, 0}, {100, 0}}, {{30, -10}, {30, 10}, {60, 10}, {60, -10}});
    REQUIRE(x.size() == 2);
    CHECK(x[0].first == Approx(30));
    CHECK(x[0].second == Approx(10));
    CHECK(x[1].first == Approx(60));
    CHECK(x[1].second == Approx(60));
    CHECK(crossingsOf({{0, 0}, {100, 0}}, {{0, 5}, {100, 5}}).empty());
    // a corner on the line counts once
    CHECK(crossingsOf({{0, 0}, {100, 0}}, {{20, -5}, {30, 0}, {40, 5}}).size() == 1);
}

TEST_CASE("A section ends units where they pinch out", "[model][demo]") {
    const auto& set = *demoProducts();
    const double step = 20;
    const auto s = makeSection(*set.model, *set.reading, {{480050, 6120350}, {481450, 6120450}}, step);
    int ends = 0;
    for (std::size_t u = 0; u < s.bases.size(); ++u)
        for (std::size_t i = 0; i + 1 < s.chainage.size(); ++i) {
            const auto there = [&](std::size_t k) { return (u == 0 ? s.ground[k] : s.bases[u - 1][k]) - s.bases[u][k] > 0; };
            if (std::isnan(s.bases[u][i]) || std::isnan(s.bases[u][i + 1]) || there(i) == there(i + 1)) continue;
            ++ends;
            CHECK(s.chainage[i + 1] - s.chainage[i] <= step / 32 + 1e-9);
        }
    CHECK(ends > 2);
    CHECK(makeSection(*set.model, *set.reading, s.line, step, {}, 200).holes.size() > s.holes.size());
}

TEST_CASE("A section goes out as drawing, picture, table and map", "[project][demo]") {
    const TemporaryFolder folder;
    const auto& set = *withSections();
    const auto& s = *set.sections.back();
    for (const auto* as : {"svg", "pdf", "png", "dxf", "gpkg", "csv"})
        CHECK(exportFiles(set, "sections", as, folder.path()).size() == set.sections.size());
    const auto name = "section_" + set.project.sections->back().name;
    const auto csv = readBytes(folder.path() / (name + ".csv"));
    CHECK(csv.starts_with("chainage,easting,northing,ground,base_TS,sd_TS"));
    CHECK(std::size_t(std::ranges::count(csv, '\n')) == s.chainage.size() + 1);
    pugi::xml_document svg;
    REQUIRE(svg.load_file((folder.path() / (name + ".svg")).c_str()));
    CHECK(svg.child("svg").attribute("width").as_string() == std::string("420mm"));
    CHECK(svg.child("svg").child("defs").child("pattern")); // the units' signs
    const auto dxf = readVector(folder.path() / (name + ".dxf"));
    REQUIRE(dxf.size() > 3); // ground, bases, holes, names
    CHECK(std::accumulate(dxf.begin(), dxf.end(), std::size_t(0),
                          [](std::size_t n, const auto& l) { return n + l.features.size(); })
          > 20);
    const auto map = readVector(folder.path() / (name + ".gpkg"));
    REQUIRE(map.size() == 2);
    const auto& ground = map[0].features.front();
    CHECK(ground.hasLevels);
    CHECK(ground.parts[0].front().x == Approx(480050).margin(60)); // where the ground begins
    CHECK(readBytes(folder.path() / (name + ".dxf")).find(s.holes.front().name) != std::string::npos);
}

TEST_CASE("Bodies and cells of the demo go out closed and whole", "[project][demo]") {
    const TemporaryFolder folder;
    const auto& set = *withSections();
    double volume = 0;
    for (const auto& file : exportFiles(set, "model", "obj", folder.path())) {
        const auto mesh = readTriangleMesh(file);
        CHECK(isClosed(mesh));
        const auto u = set.project.sequence->index(mesh.name);
        REQUIRE(u);
        CHECK(volumeOf(mesh) == Approx(set.volumes->units[*u].volume).epsilon(1e-9));
        volume += volumeOf(mesh);
    }
    CHECK(volume > 1e6);
    pugi::xml_document vtu;
    REQUIRE(vtu.load_file(exportFiles(set, "model", "vtu", folder.path()).at(0).c_str()));
    const auto piece = vtu.child("VTKFile").child("UnstructuredGrid").child("Piece");
    const auto cells = piece.attribute("NumberOfCells").as_uint();
    CHECK(cells == cellsOf(*set.modelGrid).cells.size());
    const auto data = piece.child("CellData").child("DataArray");
    CHECK(data.attribute("Name").as_string() == std::string("unit"));
    CHECK(std::size_t(std::ranges::count(std::string(data.text().as_string()), '\n')) == cells);
}

TEST_CASE("Bases go out as triangles, contours and on a grid of their own", "[project][demo]") {
    const TemporaryFolder folder;
    auto p = demo().project;
    auto unit = p.sequence->units[4];
    unit.recipe.grid = Frame{480400, 6120200, 480800, 6120500, 20};
    const auto set = Products().of(changeUnit(
                                       p, unit.code, [&](Unit& u) { u = unit; }, "grid")
                                       .project);
    const auto files = exportFiles(*set, "bases", "landxml", folder.path());
    CHECK(files.size() == set->modelGrid->bases.size());
    const auto mesh = readTriangleMesh(folder.path() / "base_RG.xml");
    CHECK(mesh.vertices.size() == 20 * 15);
    CHECK(mesh.vertices.front().z == Approx(set->model->columnAt({480410, 6120490}).bases[4]).margin(1e-4));
    for (const auto& f : exportFiles(*set, "base-contours", "gpkg", folder.path())) CHECK(!readVector(f).at(0).features.empty());
    CHECK(set->model->bases[4] != nullptr);
}

TEST_CASE("Grids go out with another extent and cell, evaluated there, and XYZ in the style asked for", "[project][demo]") {
    const TemporaryFolder folder;
    const auto& set = *withSections();
    ExportOptions options;
    options.frame = Frame{480600, 6120300, 480660, 6120360, 7.5};
    const auto bases = exportFiles(set, "bases", "tif", folder.path(), options);
    const auto grid = readRaster(bases.at(3)).grid;
    CHECK(grid.frame == *options.frame);
    const auto p = grid.frame.centre(2, 5);
    CHECK(grid.at(2, 5) == Approx(set.model->columnAt(p).bases[3]).margin(1e-4));
    const auto ground = readRaster(exportFiles(set, "ground", "tif", folder.path(), options).at(0)).grid;
    CHECK(ground.at(2, 5) == Approx(*set.terrain->levelAt(p)).margin(1e-4));
    options.xyz = {true, ',', "-9999"};
    const auto table = readTable(readBytes(exportFiles(set, "ground", "xyz", folder.path(), options).at(0)), "ground.xyz");
    CHECK(table.columns == std::vector<std::string>{"easting", "northing", "level"});
    CHECK(table.rows.size() == 64);
    CHECK(table.number(0, 1) == 6120356.25);
    Grid holed(Frame{0, 0, 20, 10, 10});
    holed.values = {1.5, kNoValue};
    CHECK(xyzText(holed) == "5 5 1.5\n");
    CHECK(xyzText(holed, {false, ';', "none"}) == "5;5;1.5\n15;5;none\n");
}

TEST_CASE("Holes go out as sticks in space by unit, and lines and areas as layers", "[project][demo]") {
    const TemporaryFolder folder;
    const auto& set = *withSections();
    const auto drawn = readVector(exportFiles(set, "holes", "dxf", folder.path()).at(0));
    std::size_t sticks = 0;
    bool inclined = false;
    for (const auto& layer : drawn)
        for (const auto& f : layer.features)
            if (f.kind == GeometryKind::Line) {
                ++sticks;
                const auto &a = f.parts[0].front(), &b = f.parts[0].back();
                CHECK(a.z > b.z);
                inclined |= distance(a.plan(), b.plan()) > 1;
            }
    std::size_t intervals = 0;
    for (const auto& h : set.reading->holes)
        if (HolePath::of(*h.hole)) intervals += h.intervals.size();
    CHECK(sticks >= intervals);
    CHECK(inclined); // the demo has two inclined holes
    const auto layers = readVector(exportFiles(set, "lines", "gpkg", folder.path()).at(0));
    const auto has = [&](const char* name) { return std::ranges::count(layers, name, &FeatureLayer::name) == 1; };
    for (const char* name : {"extent", "site limit", "outlines", "section lines"}) {
        CAPTURE(name);
        CHECK(has(name) == (name != std::string("outlines") || !set.project.ground->outlines.empty()));
    }
    // what others mesh from
    for (const char* name : {"faults", "wells", "mesh outlines", "mesh lines", "mesh places"}) {
        CAPTURE(name);
        CHECK(has(name));
    }
}

TEST_CASE("Maps, interpretations and trial columns go out; what is not there is said", "[project][demo]") {
    const TemporaryFolder folder;
    const auto& set = *withSections();
    const auto map = readVector(exportFiles(set, "map", "gpkg", folder.path(), {{MapSurface::Kind::Depth, 3}, 5}).at(0));
    REQUIRE(map.size() == 1);
    CHECK(map[0].features.size() > 3);
    CHECK(std::get<std::string>(map[0].features[0].attributes.at("seen")) == "3 m below ground");
    const auto columns = readBytes(exportFiles(set, "trial-columns", "csv", folder.path()).at(0));
    CHECK(columns.find("T1,480700.000,6120400.000,") != std::string::npos);
    CHECK(readBytes(exportFiles(set, "interpretation", "csv", folder.path()).at(0)).find(",TU,") != std::string::npos);
    // as AGS, read again: the column of the units has the units' codes
    const auto again = understood(exportFiles(set, "interpretation", "ags", folder.path()).at(0));
    int upper = 0;
    for (const auto& h : again.holes)
        for (const auto& i : h.intervals)
            if (const auto c = i.codes.find("GEOL_GEOL"); c != i.codes.end()) upper += c->second == "TU";
    CHECK(upper > 3);
    CHECK_THROWS_WITH(exportFiles(*demoProducts(), "trial-columns", "csv", folder.path()), Catch::Contains("no predicted log"));
    CHECK_THROWS_WITH(exportFiles(set, "map", "tif", folder.path()), Catch::Contains("nothing was written"));
}

TEST_CASE("Two names that come to one file are kept apart", "[project]") {
    const TemporaryFolder folder;
    Holes holes;
    for (const auto& [x, y] : {std::pair{10.0, 10.0}, {90.0, 10.0}, {50.0, 90.0}})
        holes.push_back(hole("h" + std::to_string(int(x)), x, y, 0, {{2, "A/1"}, {5, "A_1"}, {8, "C"}}));
    Project p;
    p.holes = part(holes);
    p.sequence = part(sequence({"A/1", "A_1", "C"}));
    p.ground = part(groundOf("0 0 0, 100 0 0, 0 100 0, 100 100 0"));
    p.site = part(Site{"", Frame{0, 0, 100, 100, 10}, {}});
    const auto files = exportFiles(*Products().of(p), "bases", "asc", folder.path());
    REQUIRE(files.size() == 2);
    CHECK(files[0].filename() == "base_A_1.asc");
    CHECK(files[1].filename() == "base_A_1_2.asc");
    p.site = part(Site{"EPSG:25831", Frame{0, 0, 100, 100, 10}, {}});
    const auto withSystem = exportFiles(*Products().of(p), "bases", "asc", folder / "known");
    REQUIRE(withSystem.size() == 4);
    CHECK(withSystem[1].filename() == "base_A_1.prj");
    CHECK(withSystem[3].filename() == "base_A_1_2.prj");
    CHECK(readBytes(withSystem[1]).starts_with("PROJCS["));
    Findings findings;
    CHECK(readRasterIn(withSystem[0], "EPSG:25831", {}, findings).grid.frame == p.site->frame);
    CHECK(findings.empty()); // the system is known, and is the same
}

TEST_CASE("A crossing comes with its ways out, and each of them can be taken", "[project]") {
    // the second base does not know of the hole that stops deep in the first unit
    Holes holes{hole("w", 5, 50, 0, {{3, "A"}, {4, "B"}, {12, "C"}}), hole("e", 95, 50, 0, {{3, "A"}, {4, "B"}, {12, "C"}}),
                hole("deep", 50, 50, 0, {{8, "A"}})};
    Project p;
    p.holes = part(holes);
    auto s = sequence({"A", "B", "C"});
    for (auto& u : s.units) u.recipe.reference = BaseReference::Level, u.recipe.settings.method = Method::InverseDistance;
    s.units[1].recipe.bounds = false;
    p.sequence = part(s);
    p.ground = part(groundOf("0 0 0, 100 0 0, 0 100 0, 100 100 0"));
    p.site = part(Site{"", Frame{0, 0, 100, 100, 5}, {}});
    const auto set = Products().of(p);
    const auto f = std::ranges::find(*set->findings, "FC-CROSSES", &Finding::rule);
    REQUIRE(f != set->findings->end());
    REQUIRE(f->others.size() == 4);
    for (const auto& remedy : f->others) {
        const auto after = Products().of(apply(p, remedy).project);
        for (std::size_t i = 0; i < after->modelGrid->ground.values.size(); ++i)
            for (std::size_t u = 0; u < 2; ++u)
                REQUIRE(after->modelGrid->top(u).values[i] >= after->modelGrid->bases[u].values[i]);
    }
}

TEST_CASE("Angles of inclined holes go out as finely as they came in", "[handover]") {
    Project p;
    auto fine = hole("fine", 0, 0, 10, {{5, "A"}}), whole = hole("whole", 5, 0, 10, {{5, "A"}});
    PathStation station;
    station.inclination = 47.25, station.azimuth = 12.5;
    fine.stations.push_back(station);
    station.inclination = 60, station.azimuth = 90;
    whole.stations.push_back(station);
    p.sequence = part(sequence({"A"}));
    const auto both = readAgs(agsOf({whole, fine}, p), "out.ags");
    const auto* horn = both.group("HORN");
    REQUIRE(horn);
    REQUIRE(horn->rows.size() == 2);
    const auto cell = [&](std::size_t row, const char* heading) { return std::string(horn->cell(row, *horn->column(heading))); };
    CHECK(cell(0, "HORN_INCL") == "60.00");
    CHECK(cell(1, "HORN_INCL") == "47.25");
    CHECK(cell(1, "HORN_ORNT") == "12.50");
    for (const auto& f : checkAgs(both)) CHECK(f.severity != Severity::Error);
    const auto alone = readAgs(agsOf({whole}, p), "out.ags"); // whole degrees are the standard's
    CHECK(alone.group("HORN")->cell(0, *alone.group("HORN")->column("HORN_INCL")) == "60");
}
