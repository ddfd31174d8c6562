// Values at points in space: what is read from tables, kept, changed and handed on.
#include "blocks/value_points.h"
#include "fixtures.h"
#include "handover/build_file.h"
#include "handover/value_layer.h"
#include "importing/import.h"
#include "project/ground_edits.h"
#include "project/site_edits.h"
#include "project/value_edits.h"
#include "store/store.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <random>

using namespace fox;
using namespace fox::test;

namespace {

ImportPreview readTableFile(const std::string& name, const std::string& text, SourceSettings settings = {}) {
    return readSource({name, "", text, 0, {}, std::move(settings), {}}, SiteContext("EPSG:25831"));
}

Project withFile(const Project& project, const ImportPreview& read) { return importSource(project, read).project; }

const std::string kProbe = "Easting,Northing,Level,Chloride (mg/l)\n"
                           "480500,6120500,12.5,140\n"
                           "480510,6120505,8.25,<5\n"
                           "480520,6120510,4,>2000\n"
                           "480530,6120515,2,\n";

} // namespace

TEST_CASE("A table of coordinates and a value that no survey has is values", "[values][import]") {
    const auto read = readTableFile("probe.csv", kProbe);
    REQUIRE(read.values);
    CHECK_FALSE(read.survey);
    CHECK(read.file.format == "values");
    REQUIRE(read.values->sources.size() == 1);
    const auto& source = read.values->sources[0];
    CHECK(source.quantity == "Chloride");
    CHECK(source.unit == "mg/l");
    REQUIRE(source.points.size() == 3); // an empty cell is no value, and no fault
    CHECK(source.points[0].place == Point3{480500, 6120500, 12.5});
    CHECK(source.points[0].value == 140);
    CHECK(source.points[1].sign == ValueSign::Below);
    CHECK(source.points[1].value == 5);
    CHECK(source.points[1].line == 3);
    CHECK(source.points[2].sign == ValueSign::Above);
    CHECK(written(source.points[1]) == "<5");
    CHECK(read.file.findings.empty());
}

TEST_CASE("Each column of numbers is a quantity of its own, and unused ones are not", "[values]") {
    const auto read = readTableFile("many.csv", "Point,E,N,Z,Value,pH,Remark,Code\n"
                                                "P1,480500,6120500,1,3,7.1,clear,12\n"
                                                "P2,480600,6120500,2,4,,cloudy,13\n");
    REQUIRE(read.values);
    REQUIRE(read.values->sources.size() == 2);
    CHECK(read.values->sources[0].quantity == "Value");
    CHECK(read.values->sources[1].quantity == "pH");
    CHECK(read.values->sources[1].points.size() == 1);
}

TEST_CASE("A survey with numbers for codes stays a survey until somebody says otherwise", "[values][import]") {
    const std::string text = "E,N,Z,Code\n480500,6120500,1,12\n480510,6120500,2,13\n";
    CHECK(readTableFile("survey.csv", text).survey);
    SourceSettings asValues;
    asValues.as = SourceSettings::As::Values;
    asValues.columns = {"easting", "northing", "level", "value"};
    const auto read = readTableFile("survey.csv", text, asValues);
    REQUIRE(read.values);
    CHECK(read.values->sources[0].points.size() == 2);
}

TEST_CASE("Rows of values without a header are told by their numbers", "[values][import]") {
    SourceSettings asValues;
    asValues.as = SourceSettings::As::Values;
    std::string text;
    for (int i = 0; i < 20; ++i) text += fmt::format("{};{};{};{}\n", 480500 + 7 * i, 6120500 + 11 * i, 20 - 0.1 * i, 100 + i);
    const auto read = readTableFile("bare.txt", text, asValues);
    REQUIRE(read.values);
    REQUIRE(read.values->sources.size() == 1);
    CHECK(read.values->sources[0].points.size() == 20);
    CHECK(read.values->sources[0].points[3].place.x == Approx(480521));
    CHECK(read.values->sources[0].points[3].value == Approx(103));
}

TEST_CASE("Headings in another language are known by their values, and a unit that is none of length makes them values",
          "[values][import]") {
    std::string text = "Sondierung 3\r\n\r\nNr;Hochwert;Rechtswert;H\xF6he [m];Leitf\xE4higkeit (uS/cm);Bemerkung\r\n";
    for (int i = 0; i < 30; ++i) {
        auto row = fmt::format("{};{:.2f};{:.2f};{:.2f};{};{}\r\n", i + 1, 6120300 + 9.0 * (i % 6), 480500 + 11.0 * (i / 6),
                               20 - 0.3 * i, i == 4 ? "<20" : fmt::format("{:.1f}", 300 + 10.0 * i), i % 7 ? "" : "trocken");
        std::ranges::replace(row, '.', ',');
        text += row;
    }
    const auto read = readTableFile("Leitf.csv", text);
    CHECK_FALSE(read.survey);
    REQUIRE(read.values);
    REQUIRE(read.values->sources.size() == 1);
    CHECK(read.values->sources[0].quantity == "Leitf\xC3\xA4higkeit");
    CHECK(read.values->sources[0].unit == "uS/cm");
    REQUIRE(read.values->sources[0].points.size() == 30);
    CHECK(read.values->sources[0].points[4].sign == ValueSign::Below);
    CHECK(read.values->sources[0].points[7].place.x == Approx(480511));
    // once more with the settings that it gave: the same
    CHECK(readTableFile("Leitf.csv", text, read.file.settings).values->sources[0].points == read.values->sources[0].points);
}

TEST_CASE("Rows and cells that can't be read are said with their lines", "[values]") {
    const auto read =
        readTableFile("bad.csv", "E,N,Z,Value\n480500,6120500,1,3\n480500,,1,3\n480500,6120500,1,much\n480500,6120500,deep,3\n");
    REQUIRE(read.values);
    CHECK(read.values->sources[0].points.size() == 1);
    REQUIRE(read.values->findings.size() == 3);
    CHECK(read.values->findings[0].line == 3);
    CHECK(mentions(read.values->findings, "FC-VALUE", "northing is missing"));
    CHECK(mentions(read.values->findings, "FC-VALUE", "\"much\""));
    CHECK(mentions(read.values->findings, "FC-VALUE", "\"deep\""));
    SourceSettings asValues;
    asValues.as = SourceSettings::As::Values;
    CHECK_THROWS_WITH(readTableFile("none.csv", "E,N,Z,Value\na,b,c,1\n", asValues),
                      Catch::Contains("no row with a position and a value"));
}

TEST_CASE("Coordinates of values in feet or in another system come out in the project's", "[values][import]") {
    const auto feet = readTableFile("feet.csv", "E (m),N (m),Level (ft),Value\n480500,6120500,100,3\n");
    REQUIRE(feet.values);
    CHECK(feet.values->sources[0].points[0].place.z == Approx(30.48));
    CHECK(mentions(feet.file.findings, "FC-UNIT", "0.3048"));
    SourceSettings other;
    other.crs = "EPSG:25832";
    const auto moved = readTableFile("other.csv", "E,N,Level,Value\n480500,6120500,100,3\n", other);
    REQUIRE(moved.values);
    CHECK(std::abs(moved.values->sources[0].points[0].place.x - 480500) > 1000);
}

TEST_CASE("Values are kept with the project, excluded singly, and replaced by a newer issue of their file", "[values][store]") {
    TemporaryFolder folder;
    auto project = withFile(setSystem(Project{}, "25831").project, readTableFile("probe.csv", kProbe));
    REQUIRE(project.valuePoints->size() == 1);
    const auto second = (*project.valuePoints)[0].points[1];
    project = setValueExcluded(project, "probe.csv", "Chloride", second, true).project;
    CHECK((*project.valuePoints)[0].points[1].excluded);

    const auto path = folder.path() / "values.gpkg";
    ProjectStore::create(path, project);
    const auto opened = ProjectStore::read(path);
    CHECK(*opened.valuePoints == *project.valuePoints);

    auto newer = readTableFile("probe.csv", kProbe + "480540,6120520,1,77\n");
    const auto updated = withFile(opened, newer);
    REQUIRE(updated.valuePoints->size() == 1);
    CHECK((*updated.valuePoints)[0].points.size() == 4);
    CHECK((*updated.valuePoints)[0].points[1].excluded); // by hand, and it stays

    const auto unused = setValuesUsed(updated, "probe.csv", "Chloride", false).project;
    CHECK_FALSE((*unused.valuePoints)[0].used);
    CHECK(removeSource(unused, "probe.csv").project.valuePoints->empty());
    CHECK_THROWS_AS(setValuesUsed(updated, "probe.csv", "Sulphate", false), Error);
    auto gone = second;
    gone.value += 1;
    CHECK_THROWS_AS(setValueExcluded(updated, "probe.csv", "Chloride", gone, true), Error);
}

TEST_CASE("A file of values is read again with other settings", "[values][import]") {
    const auto project = withFile(setSystem(Project{}, "25831").project, readTableFile("probe.csv", kProbe));
    auto settings = (*project.files)[0].settings;
    settings.columns = {"northing", "easting", "level", "Chloride (mg/l)"};
    const auto again = rereadSource(project, "probe.csv", settings).project;
    REQUIRE(again.valuePoints->size() == 1);
    CHECK((*again.valuePoints)[0].points[0].place == Point3{6120500, 480500, 12.5});
    CHECK(again.files->size() == 1);
}

TEST_CASE("Values follow the project to another system and alone make its extent", "[values]") {
    const auto project = withFile(setSystem(Project{}, "25831").project, readTableFile("probe.csv", kProbe));
    const auto frame = frameOf(project);
    REQUIRE(frame);
    CHECK(frame->xmin <= 480500);
    CHECK(frame->xmax >= 480520);
    CHECK(frame->ymax >= 6120510);
    const auto moved = moveToSystem(project, "EPSG:25832").project;
    const auto& before = (*project.valuePoints)[0].points[0].place;
    const auto& after = (*moved.valuePoints)[0].points[0].place;
    CHECK(std::abs(after.x - before.x) > 1000);
    CHECK(after.z == before.z);
    const auto back = moveToSystem(moved, "EPSG:25831").project;
    CHECK((*back.valuePoints)[0].points[0].place.x == Approx(before.x).margin(1e-3));
}

TEST_CASE("Values go out as a table and as points, and the table reads as it was", "[values][export]") {
    const auto project = withFile(setSystem(Project{}, "25831").project, readTableFile("probe.csv", kProbe));
    const auto layer = valueLayer(project);
    REQUIRE(layer.features.size() == 3);
    CHECK(std::get<std::string>(layer.features[1].attributes.at("sign")) == "<");
    CHECK(std::get<double>(layer.features[0].attributes.at("value")) == 140);
    const auto csv = valuesCsv(project);
    CHECK(csv.find("Chloride,mg/l,480510.000,6120505.000,8.250,<,5,yes,probe.csv,3\n") != csv.npos);
    const auto again = readTableFile("again.csv", csv);
    REQUIRE(again.values);
    const auto at = std::ranges::find(again.values->sources, "value", &ValueSource::quantity);
    REQUIRE(at != again.values->sources.end());
    CHECK(at->points.size() == 3);
}

TEST_CASE("Random values come back from a project file as they were", "[values][store]") {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> at(0, 1000), value(-1e6, 1e6);
    for (int round = 0; round < 5; ++round) {
        TemporaryFolder folder;
        Project project = setSystem(Project{}, "25831").project;
        std::vector<ValueSource> sources;
        for (int s = 0; s < 3; ++s) {
            std::vector<ValuePoint> points;
            for (int i = 0; i < 50; ++i) {
                const ValueSign signs[] = {ValueSign::None, ValueSign::Below, ValueSign::Above};
                points.push_back({{480000 + at(random), 6120000 + at(random), at(random) - 500},
                                  value(random),
                                  signs[random() % 3],
                                  int(random() % 1000),
                                  random() % 4 == 0});
            }
            sources.push_back({fmt::format("f{}.csv", s), "q, \"quoted\"", s == 0 ? "" : "mg/l", std::move(points), s != 1});
        }
        project.valuePoints = part(sources);
        const auto path = folder.path() / "p.gpkg";
        ProjectStore::create(path, project);
        CHECK(*ProjectStore::read(path).valuePoints == sources);
    }
}

TEST_CASE("A build file takes values from tables, and refuses one with faults", "[values][build]") {
    TemporaryFolder folder;
    folder.write("probe.csv", kProbe);
    const auto build = [&](const std::string& columns) {
        const auto path = folder.write(
            "p.build.json",
            R"({"format":"fox-cellar-build","version":1,"crs":"EPSG:25831","holes":[],"values_from":[{"file":"probe.csv")"
                + columns + "}]}");
        return buildProject(path).project;
    };
    const auto project = build("");
    REQUIRE(project.valuePoints->size() == 1);
    CHECK((*project.valuePoints)[0].points.size() == 3);
    folder.write("probe.csv", "a,b,c,d\n480500,6120500,1,3\n480510,6120500,2,4\n");
    const auto named = build(R"(,"columns":"easting,northing,level,chloride")");
    REQUIRE(named.valuePoints->size() == 1);
    CHECK((*named.valuePoints)[0].quantity == "chloride");
    folder.write("probe.csv", "E,N,Z,Value\n480500,6120500,1,3\n480510,6120500,2,much\n");
    CHECK_THROWS_WITH(build(""), Catch::Contains("probe.csv, line 3") && Catch::Contains("much"));
}
