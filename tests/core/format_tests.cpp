#include "fixtures.h"
#include "formats/ags_row.h"
#include "formats/raster.h"
#include "formats/table.h"
#include "formats/vector.h"
#include "ground/lines.h"
#include "project/json.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

TEST_CASE("A grid whose cells have no size, or are lost in its coordinates, is refused", "[raster]") {
    const TemporaryFolder folder;
    for (const char* lines :
         {"xllcorner 480000\nyllcorner 5740000\ncellsize {", "xllcorner 480000\nyllcorner 5740000\ncellsize 0",
          "xllcorner 1e30\nyllcorner 5740000\ncellsize 10", "xllcorner 480000\nyllcorner 1e308\ncellsize 1e308",
          "xllcorner nan\nyllcorner 5740000\ncellsize 10"}) {
        CAPTURE(lines);
        const auto file = folder.write("g.asc", "ncols 3\nnrows 2\n" + std::string(lines) + "\n1 2 3\n4 5 6\n");
        CHECK_THROWS_AS(readRaster(file), FileError);
        Findings findings;
        CHECK_THROWS_AS(readRasterIn(file, "EPSG:25831", {}, findings), FileError);
    }
}

TEST_CASE("A grid that would grow beyond measure on the way into the site's system is refused before it is made", "[raster]") {
    const TemporaryFolder folder;
    Findings findings;
    const auto far = folder.write("far.xyz", "400015 4740025 2\n480005 5740015 3\n480015 5740015 4\n");
    CHECK_THROWS_AS(readRasterIn(far, "EPSG:25831", {}, findings), FileError);
    // upright, and nearly empty: a list of points
    const auto sparse = folder.write("sparse.xyz", "480005 5740025 1\n480015 5740025 2\n480105 5740015 3\n4800E5 5740005 5\n");
    CHECK_THROWS_AS(readRasterIn(sparse, "EPSG:25831", {}, findings), FileError);
    CHECK_THROWS_AS(readRaster(sparse), FileError);
    // in degrees that a metric system takes for metres next to its origin
    const auto header = std::string("ncols 3\nnrows 2\nxllcorner 2.5\nyllcorner 55.2\ncellsize 0.001\n1 2 3\n4 5 6\n");
    const auto degrees = folder.write("degrees.asc", header);
    folder.write("degrees.prj", projectionText("EPSG:4326"));
    CHECK(readRasterIn(degrees, "EPSG:25831", {}, findings).grid.values.size() < 60);
}

TEST_CASE("A row is read however it is quoted", "[formats]") {
    const auto cells = [](std::string_view line, StrayQuote stray = StrayQuote::IsText) {
        return parseLooseRow(line, stray).cells;
    };
    using Cells = std::vector<std::string>;
    CHECK(cells("\"a\",\"b\"") == Cells{"a", "b"});
    CHECK(cells("\"a\" , \"b\" ") == Cells{"a", "b"});
    CHECK(cells("a,b,") == Cells{"a", "b", ""});
    CHECK(cells("'a','b'") == Cells{"a", "b"});
    CHECK(cells("\"a\"\t\"b\"") == Cells{"a", "b"});
    CHECK(cells("\"a;b\";\"c,d\"") == Cells{"a;b", "c,d"});
    CHECK(cells("\"\",\"\"") == Cells{"", ""});
    CHECK(cells("\"say \"\"hm\"\"\",\"b\"") == Cells{"say \"hm\"", "b"});
    CHECK(cells("\"stiff \"firm\" clay\",\"b\"") == Cells{"stiff \"firm\" clay", "b"});
    CHECK(cells("\"a,\"b\",\"c\"", StrayQuote::StartsCell) == Cells{"a", "b", "c"});
    CHECK(parseLooseRow("\"a\",\"b", StrayQuote::IsText).open);
    CHECK(parseLooseRow("a,\"b\"", StrayQuote::IsText).unquoted);
    CHECK(parseLooseRow("\"a\";\"b\"", StrayQuote::IsText).otherSeparator);
    CHECK(parseLooseRow("\"a\", \"b\"", StrayQuote::IsText).blanks);
    CHECK_FALSE(parseLooseRow("\"a\",\"b\"", StrayQuote::IsText).blanks);
}

TEST_CASE("Random cells come back from a row as they were", "[formats][random]") {
    std::mt19937 random(3);
    for (int round = 0; round < 500; ++round) {
        std::vector<std::string> cells;
        std::string line;
        for (unsigned k = 0, n = 1 + random() % 6; k < n; ++k) {
            std::string cell, written;
            for (unsigned c = 0, m = random() % 8; c < m; ++c) cell += "ab ,;'x"[random() % 7];
            // a blank at the end of the line would be trimmed with it
            cells.push_back(cell);
            line += (k ? ",\"" : "\"") + cell + "\"";
        }
        if (cells.size() == 1 && cells[0].find_first_of(";,") != std::string::npos) continue; // any separator would do
        CAPTURE(line);
        REQUIRE(parseLooseRow(line, StrayQuote::IsText).cells == cells);
    }
}

TEST_CASE("A table finds its separator, header and quotes", "[formats]") {
    const auto t = readTable("\xEF\xBB\xBFname,\"x, y\",z\n\n1,\"a \"\"b\"\"\",3\r\n2,,\n", "t.csv");
    CHECK(t.columns == std::vector<std::string>{"name", "x, y", "z"});
    REQUIRE(t.rows.size() == 2);
    CHECK(t.rows[0].cells[1] == "a \"b\"");
    CHECK(t.rows[0].line == 3);
    CHECK(t.rows[1].cells.size() == 3);
    CHECK(t.column("Z") == 2u);
    CHECK_FALSE(t.column("q"));
    CHECK(readTable("a\tb\n1\t2\n", "t").rows[0].cells[1] == "2");
    const auto named = readTable("Point No,N,E\n1,2,3\n", "t", {"p", "n", "e"});
    CHECK(named.rows.size() == 1); // a first row without numbers is a header
    CHECK(readTable("1,2,3\n4,5,6\n", "t", {"p", "n", "e"}).rows.size() == 2);
    CHECK(tableCell("a,b") == "\"a,b\"");
    CHECK(tableCell("plain") == "plain");
    CHECK(tableCell("\"") == "\"\"\"\"");
}

TEST_CASE("Mangled tables never crash", "[formats][fuzz]") {
    const auto original = readBytes(FOX_DEMO "/survey.csv").substr(0, 4000);
    std::mt19937 random(9);
    int rows = 0;
    for (int round = 0; round < 300; ++round) {
        auto text = original;
        for (int k = 0; k < 8; ++k) text[random() % text.size()] = "\",;\n\t\r0-x"[random() % 9];
        text.resize(random() % text.size());
        try {
            rows += int(surveyOf(readTable(text, "m.csv")).points.size());
        } catch (const FileError&) {
        }
    }
    CHECK(rows > 1000);
}

TEST_CASE("Features come back from a GeoPackage with levels, attributes and system", "[formats]") {
    const TemporaryFolder folder;
    FeatureLayer lines{"lines",
                       "EPSG:25831",
                       {{GeometryKind::Line, {points("0 0 1, 5 5 2")}, true, {{"what", std::string("bank")}, {"height", 2.5}}}}};
    FeatureLayer areas{
        "areas", "EPSG:25831", {{GeometryKind::Polygon, {points("0 0, 10 0, 10 10")}, false, {{"what", std::string("pond")}}}}};
    writeVector(folder / "f.gpkg", {lines, areas});
    const auto back = readVector(folder / "f.gpkg");
    REQUIRE(back.size() == 2);
    CHECK(back[0].crs == "EPSG:25831");
    CHECK(back[0].features.at(0).parts.at(0) == lines.features[0].parts[0]);
    CHECK(back[0].features[0].hasLevels);
    CHECK(std::get<double>(back[0].features[0].attributes.at("height")) == 2.5);
    CHECK(firstOutline(back, "f.gpkg").ring.size() == 3);
    CHECK_THROWS_WITH(firstOutline({lines}, "f.gpkg"), Catch::Contains("no area"));
    CHECK(groundLinesOf({}, {}, "f.gpkg").findings.at(0).message.find("no line, point or area") != std::string::npos);
    CHECK_THROWS_AS(writeVector(folder / "f.txt", {lines}), UsageError);
    CHECK_THROWS_WITH(readVector(folder.write("bad.gpkg", "no")), Catch::Contains("bad.gpkg"));
}

TEST_CASE("Contours take their level from a column, whatever it is called in case", "[formats]") {
    const auto layers = readVector(FOX_DEMO "/hill_contours.shp");
    LineChoices choices{LineRole::Contours, "elev", 0, {}, {}, {}};
    const auto lines = groundLinesOf(layers, choices, "hill_contours.shp").lines;
    CHECK(lines.size() > 5);
    for (const auto& l : lines)
        for (const auto& p : l) CHECK(p.z == l.front().z);
    // the geometry is flat: the column is proposed, but not for breaklines, which may have no levels
    CHECK(groundLinesOf(layers, {}, "hill_contours.shp").levelField == "ELEV");
    CHECK(groundLinesOf(layers, {}, "hill_contours.shp").role == LineRole::Contours);
    CHECK(std::isnan(groundLinesOf(layers, {LineRole::Breaklines, "", 0, {}, {}, {}}, "h.shp").lines.front().front().z));
    choices.levelField = "height";
    CHECK_THROWS_WITH(groundLinesOf(layers, choices, "hill_contours.shp"), Catch::Contains("its columns of numbers are: ELEV"));
}

TEST_CASE("A recipe comes back from JSON, and what is not said keeps the standard", "[project]") {
    SurfaceRecipe recipe;
    auto& settings = recipe.settings;
    settings.method = Method::InverseDistance;
    settings.power = 3, settings.neighbours = 12, settings.radius = 250, settings.reach = 400, settings.carriedOn = true;
    settings.variogram = Variogram{VariogramModel::Exponential, 0.5, 4, 300};
    settings.anisotropy = {30, 2};
    recipe.reference = BaseReference::Depth;
    CHECK(recipeOf(toJson(recipe)) == recipe);
    const auto partly = recipeOf(nlohmann::json{{"method", "linear"}}, recipe);
    CHECK(partly.settings.method == Method::Linear);
    CHECK(partly.settings.power == 3);
    CHECK_THROWS_WITH(recipeOf(nlohmann::json{{"method", "magic"}}),
                      Catch::Contains("linear, inverse-distance, natural-neighbour"));
    CHECK_THROWS_AS(recipeOf(nlohmann::json{{"from", "nowhere"}}), UsageError);
    CHECK_THROWS_AS(recipeOf(nlohmann::json{{"variogram", {{"model", "blob"}}}}), UsageError);
    CHECK(number(kNoValue).is_null());
}

TEST_CASE("Variogram models have their closed forms", "[surfaces]") {
    for (const auto model :
         {VariogramModel::Linear, VariogramModel::Spherical, VariogramModel::Exponential, VariogramModel::Gaussian}) {
        const Variogram v{model, 2, 10, 50};
        CAPTURE(name(model));
        CHECK(v.at(0) == 0);
        CHECK(v.at(1e-9) == Approx(2).margin(1e-6));
        CHECK(variogramModel(name(model)) == model);
        double before = 0;
        for (double h = 1; h < 200; h += 1) {
            CHECK(v.at(h) >= before);
            before = v.at(h);
        }
    }
    CHECK(Variogram{VariogramModel::Spherical, 2, 10, 50}.at(25) == Approx(2 + 10 * (0.75 - 0.0625)));
    CHECK(Variogram{VariogramModel::Spherical, 2, 10, 50}.at(90) == 12);
    CHECK(Variogram{VariogramModel::Exponential, 2, 10, 50}.at(50)
          == Approx(2 + 10 * (1 - std::exp(-3)))); // 95 % at the practical range
    CHECK(Variogram{VariogramModel::Gaussian, 2, 10, 50}.at(25) == Approx(2 + 10 * (1 - std::exp(-0.75))));
    CHECK(Variogram{VariogramModel::Linear, 2, 10, 50}.at(100) == 22);
    CHECK_FALSE(variogramModel("blob"));
}

TEST_CASE("Two models of one site give the same as the site turned round", "[surfaces]") {
    // kriging sees distances only: turning and moving the plan changes nothing
    const auto data = randomPoints(31, 25);
    SurfaceSettings settings;
    settings.variogram = Variogram{VariogramModel::Exponential, 0, 100, 60};
    const auto turned = [](Point3 p) { return Point3{480000 + 0.6 * p.x - 0.8 * p.y, 6120000 + 0.8 * p.x + 0.6 * p.y, p.z}; };
    std::vector<Point3> moved;
    for (const auto& p : data) moved.push_back(turned(p));
    const auto a = fitSurface(data, {}, settings), b = fitSurface(moved, {}, settings);
    for (const auto& q : randomPoints(32, 20))
        CHECK(a.surface->at(q.plan()) == Approx(b.surface->at(turned(q).plan())).margin(1e-6));
    // and a constant added to the levels is added to the surface
    auto raised = data;
    for (auto& p : raised) p.z += 1000;
    CHECK(fitSurface(raised, {}, settings).surface->at({40, 40}) == Approx(a.surface->at({40, 40}) + 1000));
}
