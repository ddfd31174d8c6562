// Tables and layers as they arrive, made at random: whatever the order, separator and units of the columns, the same holes come
// out; whatever is filtered, skipped or renamed, what is left is what a plain count says.
#include "formats/vector.h"
#include "ground_fixtures.h"
#include "handover/ags_export.h"
#include "project/surface_edits.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

struct UnitOfColumn {
    const char* heading; ///< as it stands in brackets
    double metres;
};
constexpr UnitOfColumn kUnits[] = {{"", 1},       {"m", 1},    {"ft", 0.3048}, {"US survey ft", 1200.0 / 3937},
                                   {"mm", 0.001}, {"cm", 0.01}};

struct Layer {
    std::string hole, unit;
    double easting, northing, level, top, base; ///< metres
};

std::vector<Layer> someLayers(std::mt19937& random) {
    std::vector<Layer> out;
    const char* units[] = {"MG", "RG", "TL"};
    for (int h = 0; h < 4; ++h) {
        double top = 0;
        for (int k = 0; k < 3; ++k) {
            const double base = top + 0.5 + double(random() % 60) / 10;
            out.push_back({fmt::format("BH{}", h + 1), units[k], 480000.0 + double(random() % 1000),
                           6120000.0 + double(random() % 1000), 20.0 + double(h), top, base});
            if (k > 0) out.back().easting = out[out.size() - 2].easting, out.back().northing = out[out.size() - 2].northing;
            top = base;
        }
    }
    return out;
}

/// The table as text: columns in random order, each length in a unit of its own, with this separator and decimal sign.
std::string tableOf(const std::vector<Layer>& layers, std::mt19937& random) {
    const auto lengthIn = [&](double metres, const UnitOfColumn& u, bool comma) {
        auto text = fmt::format("{:.6f}", metres / u.metres);
        if (comma) std::ranges::replace(text, '.', ',');
        return text;
    };
    const bool comma = random() % 2;
    const char separator = comma ? ';' : ",;\t"[random() % 3];
    struct Column {
        std::string heading;
        std::function<std::string(const Layer&)> cell;
    };
    std::vector<Column> columns{{"Hole", [](const Layer& l) { return l.hole; }}, {"Unit", [](const Layer& l) { return l.unit; }}};
    const std::pair<const char*, double Layer::*> lengths[] = {{"Easting", &Layer::easting},
                                                               {"Northing", &Layer::northing},
                                                               {"Ground level", &Layer::level},
                                                               {"Depth to top", &Layer::top},
                                                               {"Depth to base", &Layer::base}};
    for (const auto& named : lengths) {
        const auto& unit = kUnits[random() % std::size(kUnits)];
        const auto member = named.second;
        columns.push_back({unit.heading[0] ? fmt::format("{} ({})", named.first, unit.heading) : named.first,
                           [=](const Layer& l) { return lengthIn(l.*member, unit, comma); }});
    }
    if (random() % 2) columns.push_back({"Remark", [](const Layer&) { return std::string("as logged"); }});
    std::ranges::shuffle(columns, random);
    std::string text = random() % 3 == 0 ? "Site investigation, second issue\n" : "";
    const char* end = random() % 2 ? "\r\n" : "\n";
    for (std::size_t c = 0; c < columns.size(); ++c) text += (c ? std::string(1, separator) : "") + columns[c].heading;
    text += end;
    for (const auto& l : layers) {
        for (std::size_t c = 0; c < columns.size(); ++c) text += (c ? std::string(1, separator) : "") + columns[c].cell(l);
        text += end;
    }
    return text;
}

} // namespace

TEST_CASE("Holes come out the same, whatever the order, separator, decimal sign and units of a table's columns",
          "[import][random]") {
    const auto seed = GENERATE(range(1u, 61u));
    std::mt19937 random(seed);
    const auto layers = someLayers(random);
    const auto text = tableOf(layers, random);
    CAPTURE(seed, text);
    const auto u = readSource({"logs.csv", "", SharedBytes(text), 0, {}, {}, ""}, "EPSG:25831");
    REQUIRE(u.holes.size() == 4);
    std::size_t at = 0;
    for (const auto& h : u.holes) {
        REQUIRE(h.intervals.size() == 3);
        CHECK(*h.easting == Approx(layers[at].easting).margin(0.002));
        CHECK(*h.northing == Approx(layers[at].northing).margin(0.002));
        CHECK(h.level->metres == Approx(layers[at].level).margin(0.002));
        for (const auto& i : h.intervals) {
            CHECK(i.codes.at("GEOL_GEOL") == layers[at].unit);
            CHECK(i.top.metres == Approx(layers[at].top).margin(0.002));
            CHECK(i.base.metres == Approx(layers[at].base).margin(0.002));
            ++at;
        }
    }
    for (const auto& f : u.file.findings) CHECK(f.severity != Severity::Error);
}

TEST_CASE("What a layer gives is what a plain count of its objects says", "[layers][random]") {
    const auto seed = GENERATE(range(1u, 26u));
    CAPTURE(seed);
    std::mt19937 random(seed);
    const char* kinds[] = {"kerb", "wall", "bank", ""};
    FeatureLayer layer{"lines", "EPSG:25831", {}};
    for (int i = 0; i < 20; ++i) {
        const double x = 480000 + double(random() % 500), y = 6120000 + double(random() % 500),
                     z = 20 + double(random() % 50) / 10;
        layer.features.push_back(
            {GeometryKind::Line, {{{x, y, z}, {x + 50, y + 10, z + 1}}}, true, {{"kind", std::string(kinds[random() % 4])}}});
        layer.features.back().id = i + 1;
    }
    LineChoices choices;
    choices.role = LineRole::Breaklines;
    if (random() % 2) choices.filter = {"kind", {kinds[random() % 4], kinds[random() % 4]}};
    std::map<std::int64_t, ObjectChoice> byId;
    for (int n = 0; n < 6; ++n) {
        ObjectChoice c{"lines", std::int64_t(random() % 25), random() % 2 == 0, {}}; // some are not there
        if (random() % 2) c.level = 100 + double(n);
        byId[c.id] = c;
    }
    for (const auto& [id, c] : byId) choices.objects.push_back(c);
    const auto read = groundLinesOf({layer}, choices, "lines.gpkg");
    std::vector<Polyline3> expected;
    std::size_t passed = 0;
    for (const auto& f : layer.features) {
        const auto& kind = std::get<std::string>(f.attributes.at("kind"));
        if (!choices.filter.field.empty() && std::ranges::count(choices.filter.values, kind) == 0) continue;
        ++passed;
        const auto c = byId.find(f.id);
        if (c != byId.end() && c->second.isOut) continue;
        auto line = f.parts[0];
        if (c != byId.end() && c->second.level)
            for (auto& p : line) p.z = *c->second.level;
        expected.push_back(std::move(line));
    }
    CHECK(read.lines == expected);
    CHECK(read.codes.size() == read.lines.size());
    CHECK(read.objects.size() == passed);
    for (const auto& o : read.objects)
        if (const auto c = byId.find(o.choice.id); c != byId.end()) CHECK(o.choice == c->second);
}

TEST_CASE("However often holes are renamed, each choice stays with its hole", "[names][random]") {
    const auto seed = GENERATE(range(1u, 21u));
    CAPTURE(seed);
    std::mt19937 random(seed);
    Project p;
    Holes holes;
    for (int i = 0; i < 6; ++i)
        holes.push_back(hole(fmt::format("BH{}", i), 480000 + 40.0 * i, 6120000, 20, {{2, "MG"}, {6, "RG"}}));
    p.holes = part(std::move(holes));
    p.sequence = part(proposeSequence(*p.holes, {}, ""));
    for (int i = 0; i < 6; i += 2) p = setContactChoice(p, fmt::format("BH{}", i), "MG", ContactChoice::Kind::Excluded).project;
    const auto idsOfChoices = [](const Project& of) {
        std::set<std::string> ids;
        for (const auto& c : of.interpretation->contacts) {
            const auto* h = findHole(*of.holes, c.hole);
            ids.insert(h ? h->id : "none");
        }
        return ids;
    };
    const auto before = idsOfChoices(p);
    CHECK(before == std::set<std::string>{"BH0", "BH2", "BH4"});
    int renamed = 0, refused = 0;
    for (int n = 0; n < 30; ++n) {
        const auto names = displayNames(*p.holes);
        const auto from = names[random() % names.size()], to = fmt::format("{}{}", random() % 2 ? "BH" : "W", random() % 8);
        try {
            p = setHoleName(p, from, to).project;
            ++renamed;
        } catch (const Error&) {
            CHECK(std::ranges::count(displayNames(*p.holes), to) == 1);
            ++refused;
        }
        CHECK(idsOfChoices(p) == before);
        const auto now = displayNames(*p.holes);
        CHECK(std::set<std::string>(now.begin(), now.end()).size() == 6);
    }
    CHECK(renamed > 0);
    CHECK(refused > 0);
}

TEST_CASE("Water levels of several tables are the same in whichever order they come, and twice", "[water][random]") {
    const auto seed = GENERATE(range(1u, 16u));
    CAPTURE(seed);
    std::mt19937 random(seed);
    std::vector<std::string> tables;
    std::map<std::string, std::set<std::string>> expected; ///< "date depth" by hole
    for (int t = 0; t < 3; ++t) {
        std::string text = "Well,Date,Depth to water (m)\n";
        for (int r = 0; r < 5; ++r) {
            const auto well = fmt::format("W{}", random() % 3), date = fmt::format("2025-0{}-01", 1 + random() % 4);
            const auto depth = fmt::format("{:.2f}", double(random() % 500) / 100);
            text += well + "," + date + "," + depth + "\n";
            expected[well].insert(date + " " + depth);
        }
        tables.push_back(std::move(text));
    }
    std::ranges::shuffle(tables, random);
    tables.push_back(tables.front());
    Project p;
    ImportChoices update;
    update.existing = ImportChoices::Existing::Update;
    for (std::size_t t = 0; t < tables.size(); ++t)
        p = importSource(p, readSource({fmt::format("dips{}.csv", t), "", SharedBytes(tables[t]), 0, {}, {}, ""}, SiteContext(p)),
                         update)
                .project;
    REQUIRE(p.holes->size() == expected.size());
    for (const auto& h : *p.holes) {
        std::set<std::string> got;
        for (const auto& w : h.waterLevels) got.insert(fmt::format("{} {:.2f}", w.measured, w.depth.metres));
        CHECK(got == expected.at(h.id));
        CHECK(got.size() == h.waterLevels.size());
        CHECK(std::ranges::is_sorted(h.waterLevels, {}, &WaterLevel::measured));
    }
}

TEST_CASE("A renamed hole goes out under its name in a file of ours, and the contractor's file stays as it was",
          "[names][export]") {
    auto p = importSource({}, readSource({"logs.csv",
                                          "",
                                          std::string("Hole,Easting,Northing,Ground level,Depth to top,Depth to base,Unit\n"
                                                      "B1,480100,6120100,20,0,2,MG\nB1,480100,6120100,20,2,5,RG\n"),
                                          0,
                                          {},
                                          {},
                                          ""},
                                         "EPSG:25831"))
                 .project;
    p = setHoleName(p, "B1", "Gauge 7").project;
    const auto files = agsFilesOf(p);
    REQUIRE(files.size() == 1);
    CHECK(files[0].second.find("\"Gauge 7\"") != std::string::npos);
    CHECK(files[0].second.find("\"B1\"") == std::string::npos);
    // and comes back as that
    const auto again =
        importSource({}, readSource({"holes.ags", "", SharedBytes(files[0].second), 0, {}, {}, ""}, "EPSG:25831")).project;
    REQUIRE(again.holes->size() == 1);
    CHECK(displayNames(*again.holes) == std::vector<std::string>{"Gauge 7"});
    CHECK(again.holes->front().intervals.size() == 2);
}

TEST_CASE("That one of several holes of an id is meant is said before the import", "[names][import]") {
    Project p;
    Holes holes;
    for (const char* project : {"P1", "P2"}) {
        auto h = hole("BH1", 480000, 6120000, 20, {{2, "MG"}});
        h.project = project;
        holes.push_back(std::move(h));
    }
    p.holes = part(std::move(holes));
    const auto changes =
        changesBy(p, readSource({"levels.csv", "", std::string("Hole,Ground level\nBH1,25\n"), 0, {}, {}, ""}, SiteContext(p)));
    REQUIRE(changes.size() == 1);
    CHECK(changes[0].hole == "BH1 (P1)");
    CHECK(changes[0].written == "BH1");
    CHECK(std::ranges::any_of(changes[0].facts,
                              [](const std::string& f) { return f.find("several holes have this id") != f.npos; }));
    // with its project in a column it is the one
    const auto told = changesBy(
        p, readSource({"levels.csv", "", std::string("Hole,Project,Ground level\nBH1,P2,25\n"), 0, {}, {}, ""}, SiteContext(p)));
    CHECK(told[0].hole == "BH1 (P2)");
    CHECK(told[0].facts.size() == 1);
}

TEST_CASE("Sentences over a table are its title; a header with a column less, and rows without a header, are not", "[import]") {
    const auto table = [](const char* text) { return readTable(text, "t.csv"); };
    auto t = table("Ground investigation, second issue, by the office\nprinted 4 March, draft\nHole,E,N,Level,Top,Base,Unit\n"
                   "B1,1,2,3,0,1,MG\nB2,1,2,3,0,2,RG\n");
    CHECK(t.columns.front() == "Hole");
    REQUIRE(t.rows.size() == 2);
    CHECK(t.rows[0].line == 4);
    t = table("Code,Name,,Colour\nMG,Made Ground,x,grey\nRG,River gravel,y,yellow\n"); // words alone, a column without a name
    CHECK(t.columns.front() == "Code");
    CHECK(t.rows.size() == 2);
    t = table("1,480100,6120100,20.5,GL\n2,480200,6120100,20.6,GL\n");
    CHECK(t.columns.front() == "1");
    t = table("Site\n\nx,y,z\n1,2,3\n");
    CHECK(t.columns == std::vector<std::string>{"x", "y", "z"});
    t = table("a,b\n1,2\n");
    CHECK(t.columns == std::vector<std::string>{"a", "b"});
}
