// The model's report, what changed between two states, and everything in one file.
#include "formats/raster.h"
#include "formats/vector.h"
#include "handover/everything.h"
#include "handover/model_report.h"
#include "handover/project_comparison.h"
#include "layered_fixtures.h"
#include "paper/render.h"
#include "project/json.h"
#include "store/store.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;
using nlohmann::json;

namespace {

std::vector<const paper::Text*> printedTexts(const paper::Drawing& page) {
    std::vector<const paper::Text*> out;
    for (const auto& item : page.items)
        if (const auto* text = std::get_if<paper::Text>(&item.shape)) out.push_back(text);
    return out;
}

Box2 roomOf(const paper::Text& text) {
    const auto size = paper::measure(text);
    const double wide = text.width.value_or(size.width);
    const double left = text.align == paper::Text::Align::Right ? text.at.x - wide : text.at.x;
    const double top = text.anchor == paper::Text::Anchor::Top ? text.at.y : text.at.y - 0.8 * text.size;
    Box2 out;
    out.include({left, top}), out.include({left + wide, top + size.height});
    return out;
}

const json* tableNamed(const json& document, const std::string& title) {
    for (const auto& chapter : document["chapters"])
        for (const auto& table : chapter["tables"])
            if (table["title"] == title) return &table;
    return nullptr;
}

} // namespace

TEST_CASE("Nothing of a document is cut or printed over another, however long it is", "[report][property]") {
    std::mt19937 random(7);
    const auto words = [&](std::size_t n) {
        std::string out;
        for (std::size_t i = 0; i < n; ++i)
            out += std::string(out.empty() ? "" : " ") + std::string(1 + random() % 14, char('a' + random() % 26));
        return out;
    };
    for (int round = 0; round < 12; ++round) {
        CAPTURE(round);
        Document document{words(6), words(12), "2026-11-30", {}};
        std::size_t cells = 0;
        for (std::size_t c = 0; c < 1 + random() % 6; ++c) {
            DocumentChapter chapter{"k" + std::to_string(c), words(4), {}};
            chapter.parts.emplace_back(words(random() % 200));
            DocumentTable table{words(5), {{"one", "m", 2, 1}, {"two words", "", 0, 3}, {"three", "m²"}}, {}};
            for (std::size_t r = 0; r < random() % 90; ++r) {
                table.rows.push_back({double(random() % 100), words(random() % 25), std::monostate()});
                cells += 3;
            }
            chapter.parts.emplace_back(table);
            DocumentFigure figure{words(9), {double(40 + random() % 100), double(20 + random() % 150), {}}};
            figure.drawing.add(
                "f", "",
                paper::FilledArea{{paper::rectangle(0, 0, figure.drawing.width, figure.drawing.height)}, {}, paper::Pen{}});
            chapter.parts.emplace_back(figure);
            document.chapters.push_back(std::move(chapter));
        }
        const auto laidOut = layOut(document, 3);
        std::size_t printedCells = 0;
        for (const auto& page : laidOut.pages) {
            std::vector<Box2> boxes;
            for (const auto& item : page.items) {
                printedCells += item.layer == "table";
                if (const auto* area = std::get_if<paper::FilledArea>(&item.shape)) {
                    Box2 box;
                    for (const auto& p : area->rings[0]) box.include(p);
                    boxes.push_back(box);
                }
                const auto* text = std::get_if<paper::Text>(&item.shape);
                if (!text || text->words.empty()) continue;
                CHECK_FALSE(paper::measure(*text).cut);
                boxes.push_back(roomOf(*text));
            }
            for (std::size_t i = 0; i < boxes.size(); ++i) {
                CHECK(boxes[i].xmin >= 17.9);
                CHECK(boxes[i].xmax <= 210 - 17.9);
                CHECK(boxes[i].ymin >= 10);
                CHECK(boxes[i].ymax <= 290);
                for (std::size_t k = 0; k < i; ++k) {
                    const auto &a = boxes[i], &b = boxes[k];
                    const bool apart =
                        a.xmax <= b.xmin + 0.05 || b.xmax <= a.xmin + 0.05 || a.ymax <= b.ymin + 0.3 || b.ymax <= a.ymin + 0.3;
                    CHECK(apart);
                }
            }
        }
        // blank cells are printed too: as a dash, or as nothing where the words are none
        CHECK(printedCells >= cells);
        CHECK(laidOut.begins.size() == document.chapters.size());
        const auto foot = printedTexts(laidOut.pages.back());
        const auto last = fmt::format("Page {} of {}", laidOut.pages.size(), laidOut.pages.size() + 3);
        CHECK(std::ranges::any_of(foot, [&](const auto* t) { return t->words == last; }));
    }
}

TEST_CASE("The report says what the products say, chapter by chapter", "[report]") {
    auto project = flatSite();
    project.site = part(Site{"EPSG:25831", Frame{1000, 2000, 1200, 2100, 10}, {}});
    auto broken = *project.holes;
    broken.change(0).level.reset(); // something that stands
    project.holes = part(std::move(broken));
    project = setChapterText(project, "data", "For the detailed design.\n\n  By the geologist on site.").project;
    const auto set = Products().of(project, {}, wantedForReport());
    ReportOptions options;
    options.date = "2026-11-30", options.realisations = 10;
    const auto document = modelReport(*set, options);
    CHECK(document.chapters.size() == reportChapters().size());
    const auto data = documentJson(document);
    CHECK(data["chapters"][0]["paragraphs"][0] == "For the detailed design.");
    CHECK(data["chapters"][0]["paragraphs"][1] == "By the geologist on site.");
    const auto* volumes = tableNamed(data, "Volumes by unit");
    REQUIRE(volumes);
    REQUIRE((*volumes)["rows"].size() == set->volumes->units.size());
    for (std::size_t i = 0; i < set->volumes->units.size(); ++i) {
        const auto& row = (*volumes)["rows"][i];
        CHECK(row[0] == set->project.sequence->units[set->volumes->units[i].unit].code);
        CHECK(double(row[2]) == set->volumes->units[i].volume);
        CHECK(double(row[3]) <= double(row[4]));
        CHECK(double(row[4]) <= double(row[5]));
    }
    const auto* made = tableNamed(data, "How each base is made");
    REQUIRE(made);
    for (std::size_t u = 0; u < set->model->bases.size(); ++u) {
        CHECK((*made)["rows"][u][3] == set->model->bases[u]->contacts);
        CHECK((*made)["rows"][u][4] == set->model->bases[u]->bounds);
    }
    const auto* stand = tableNamed(data, "Findings");
    REQUIRE(stand);
    CHECK((*stand)["rows"].size() == set->findings->size());
    double metres = 0;
    for (const auto& h : *set->project.holes) metres += h.end().metres;
    double said = 0;
    for (const auto& row : (*tableNamed(data, "Holes by type"))["rows"]) said += double(row[2]);
    CHECK(said == Approx(metres));
    const auto pdf = reportPdf(document, *set, options.date);
    CHECK(pdf.starts_with("%PDF"));
    options.chapters = {"volumes"};
    CHECK(modelReport(*set, options).chapters.size() == 1);
    options.chapters = {"colours"};
    CHECK_THROWS_AS(modelReport(*set, options), UsageError);
}

TEST_CASE("Chapters that the project excludes are not in its report, unless they are asked for", "[report]") {
    auto project = setChapterUsed(flatSite(), "uncertainty", false).project;
    CHECK(setChapterUsed(flatSite(), "volumes", false).label == "Report without the chapter \"Volumes\"");
    CHECK_THROWS_AS(setChapterUsed(project, "colours", false), Error);
    CHECK_THROWS_AS(setChapterText(project, "colours", "red"), Error);
    CHECK(reportChoicesOf(toJson(*project.report)) == *project.report);
    project = setChapterUsed(project, "volumes", false).project;
    project = setChapterUsed(project, "volumes", true).project;
    project = setChapterText(setChapterText(project, "ground", "Flat.").project, "ground", "").project;
    CHECK(project.report->texts.empty());
    ReportOptions options;
    options.realisations = 3;
    const auto set = Products().of(project, {}, wantedForReport());
    CHECK(modelReport(*set, options).chapters.size() == reportChapters().size() - 1);
    options.chapters = {"uncertainty"};
    CHECK(modelReport(*set, options).chapters.size() == 1);
    const TemporaryFolder folder;
    ProjectStore::create(folder / "p.gpkg", project);
    CHECK(*ProjectStore::read(folder / "p.gpkg").report == *project.report);
}

TEST_CASE("A report of an empty project says what there is not", "[report]") {
    const auto set = Products().of(Project{}, {}, wantedForReport());
    const auto document = modelReport(*set, {});
    CHECK(document.chapters.size() == reportChapters().size());
    CHECK_FALSE(reportPdf(document, *set, "2026-11-30").empty());
    std::string all;
    const auto data = documentJson(document);
    for (const auto& c : data["chapters"])
        for (const auto& p : c["paragraphs"]) all += p.get<std::string>() + "\n";
    CHECK(all.find("no model yet") != all.npos);
    CHECK(all.find("no ground yet") != all.npos);
}

TEST_CASE("A comparison finds each kind of change, and nothing where nothing changed", "[report]") {
    const auto before = flatSite();
    const auto old = Products().of(before, {}, {ProductKind::Grids});
    CHECK(compareProjects(*old, *old).empty());
    auto project = before;
    auto holes = *project.holes;
    holes.change(0).level = Level{11};
    holes.change(1).intervals[0].base = Depth{4.5}, holes.change(1).intervals[1].top = Depth{4.5};
    holes.removeIf([](const Hole& h) { return h.id == "B4"; });
    holes.push_back(hole("B9", 1150, 2060, 10, {{4, "S"}, {6, "C"}, {10, "G"}, {14, "R"}}));
    giveNames(holes);
    project.holes = part(std::move(holes));
    project.corrections = part(std::vector<Correction>{{"a.ags", 12, "LOCA", "LOCA_GL", "B1", "10", "11", "surveyed again"}});
    auto sequence = *project.sequence;
    sequence.units[2].name = "Gravel";
    project.sequence = part(std::move(sequence));
    project.site = part(Site{"EPSG:25831", old->frame, {}});
    const auto now = Products().of(project, {}, {ProductKind::Grids});
    const auto c = compareProjects(*old, *now);
    CHECK_FALSE(c.empty());
    CHECK(c.holesAdded == std::vector<std::string>{"B9"});
    CHECK(c.holesRemoved == std::vector<std::string>{"B4"});
    REQUIRE(c.holesChanged.size() == 2);
    CHECK(c.holesChanged[0].what == std::vector<std::string>{"ground level"});
    CHECK(c.holesChanged[1].what == std::vector<std::string>{"log"});
    CHECK(c.correctionsAdded.size() == 1);
    REQUIRE(c.unitsChanged.size() == 1);
    CHECK(c.unitsChanged[0].what == std::vector<std::string>{"name"});
    CHECK_FALSE(c.orderChanged);
    // the base of the sand was moved by half a metre at one hole, and by a metre at another
    REQUIRE(c.bases.size() == 3);
    CHECK(c.bases[0].largest > 0.5);
    CHECK(std::abs(c.bases[0].mean) < std::abs(c.bases[0].largest));
    const auto& largest = c.bases[0];
    const auto cell = [&](const ProductSet& set) { return set.model->columnAt(largest.place).bases[0]; };
    CHECK(cell(*now) - cell(*old) == Approx(largest.largest).margin(1e-6));
    const auto j = comparisonJson(c, *now->project.sequence);
    CHECK(j["settings"][0]["what"] == "coordinate system");
    CHECK(j["holes"]["changed"][0]["hole"] == "B1");
    CHECK(double(j["volumes"][0]["difference"]) == Approx(double(j["volumes"][0]["after"]) - double(j["volumes"][0]["before"])));
    const auto document = comparisonReport(c, *now->project.sequence, "old", "new", "2026-11-30");
    std::size_t maps = 0;
    for (const auto& chapter : document.chapters)
        for (const auto& part : chapter.parts) maps += std::holds_alternative<DocumentFigure>(part);
    CHECK(maps >= 1);
    CHECK(layOut(document).pages.size() >= 2);
    const auto back = compareProjects(*now, *old);
    CHECK(back.holesAdded == c.holesRemoved);
    CHECK(back.bases[0].mean == Approx(-c.bases[0].mean).margin(0.2));
    const auto fromNothing = compareProjects(*Products().of(Project{}, {}, {ProductKind::Grids}), *now);
    CHECK(fromNothing.holesAdded.size() == 4);
    CHECK(fromNothing.bases.empty());
}

TEST_CASE("Everything goes into one GeoPackage that other programs read", "[report]") {
    const TemporaryFolder folder;
    const auto set = demoProducts();
    const auto path = folder / "all.gpkg";
    writeEverything(path, *set);
    std::map<std::string, std::size_t> features;
    for (const auto& layer : readVector(path)) features[layer.name] = layer.features.size();
    std::size_t placed = 0, intervals = 0;
    for (const auto& h : *set->project.holes) placed += h.place().has_value();
    for (const auto& read : set->reading->holes)
        if (HolePath::of(*read.hole))
            for (const auto& i : read.logged()) intervals += i.usable();
    CHECK(features.at("holes") == placed);
    CHECK(features.at("intervals") == intervals);
    CHECK(features.contains("geological_map"));
    CHECK(features.contains("contacts"));
    const auto grid = readRaster("GPKG:" + path.string() + ":ground");
    REQUIRE(grid.grid.frame.columns() == set->ground->frame.columns());
    CHECK(grid.grid.at(20, 20) == Approx(set->ground->at(20, 20)).margin(1e-4));
    CHECK_THROWS_AS(writeEverything(folder / "none.gpkg", *Products().of(Project{})), Error);
}
