// Benchmarks as ratios to a named general library, or to a bare pass, doing the same job in the same run.
#include "base/files.h"
#include "bench.h"
#include "formats/vector.h"
#include "ground/lines.h"
#include "ground/terrain.h"
#include "handover/build_file.h"
#include "importing/import.h"
#include "project/hole_edits.h"
#include "surfaces/surface.h"
#include "truth.h"

#include <CGAL/Constrained_Delaunay_triangulation_2.h>
#include <CGAL/Delaunay_triangulation_2.h>
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <chrono>
#include <filesystem>
#include <fmt/format.h>
#include <gdal_alg.h>
#include <gdal_priv.h>
#include <ogrsf_frmts.h>
#include <random>
#include <set>

namespace {

using namespace fox;
using namespace fox::bench;

void terrain() {
    using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
    const auto points = surveyLike(1'000'000);
    std::vector<Kernel::Point_2> plan;
    for (const auto& p : points) plan.emplace_back(p.x, p.y);
    std::size_t triangles = 0, others = 0, constrained = 0;
    const double before = peakMegabytes();
    const double ours = seconds(3, [&] {
        TerrainInput input;
        input.points = points;
        triangles = makeTerrain(input).tin.triangles().size();
    });
    const double alone = peakMegabytes();
    const double bare = seconds(3, [&] {
        CGAL::Delaunay_triangulation_2<Kernel> t;
        t.insert(plan.begin(), plan.end());
        others = t.number_of_faces();
    });
    const double bareConstrained = seconds(2, [&] {
        CGAL::Constrained_Delaunay_triangulation_2<Kernel> t;
        t.insert(plan.begin(), plan.end());
        constrained = t.number_of_faces();
    });
    if (triangles != others || triangles != constrained) fmt::print("the triangulations differ: {} and {}\n", triangles, others);
    report("terrain of 1,000,000 points", ours, bare, "bare CGAL Delaunay insertion", 1.5);
    report("terrain of 1,000,000 points", ours, bareConstrained, "bare CGAL constrained insertion", 1.5);
    fmt::print("  peak memory above the points given: {:.0f} bytes a point\n", (alone - before) * 1024 * 1024 / 1e6);
}

/// 200 wavy lines of 100 vertices, none crossing another.
std::vector<Polyline3> wavyLines() {
    std::vector<Polyline3> lines;
    for (int k = 0; k < 200; ++k) {
        lines.emplace_back();
        for (int i = 0; i < 100; ++i) {
            const double x = 50 + i * 99.0, y = 25 + k * 49.7 + 8 * std::sin(i * 0.4 + k);
            lines.back().push_back({x, y, 50 + 10 * std::sin(x / 700) * std::cos(y / 900)});
        }
    }
    return lines;
}

void breaklines() {
    using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
    using Bare = CGAL::Constrained_Delaunay_triangulation_2<Kernel, CGAL::Default, CGAL::Exact_predicates_tag>;
    const auto points = surveyLike(1'000'000);
    const auto lines = wavyLines();
    std::size_t triangles = 0, others = 0;
    const double before = peakMegabytes();
    const double ours = seconds(3, [&] {
        TerrainInput input;
        input.points = points;
        input.breaklines = lines;
        triangles = makeTerrain(input).tin.triangles().size();
    });
    const double alone = peakMegabytes();
    std::vector<Kernel::Point_2> plan;
    for (const auto& p : points) plan.emplace_back(p.x, p.y);
    const double bare = seconds(3, [&] {
        Bare t;
        t.insert(plan.begin(), plan.end());
        for (const auto& line : lines)
            for (std::size_t i = 1; i < line.size(); ++i)
                t.insert_constraint(Kernel::Point_2(line[i - 1].x, line[i - 1].y), Kernel::Point_2(line[i].x, line[i].y));
        others = t.number_of_faces();
    });
    if (triangles != others) fmt::print("the triangulations differ: {} and {}\n", triangles, others);
    report("terrain, 1,000,000 points, 20,000 line vertices", ours, bare, "bare CGAL points and constraints", 1.5);
    fmt::print("  peak memory above the data given: {:.0f} bytes a point (at most 600)\n", (alone - before) * 1024 * 1024 / 1e6);
}

/// Sampling triangles against GDAL's linear gridding of the same points, which triangulates too.
void sampling() {
    const auto points = surveyLike(200'000);
    const Frame frame{100, 100, 9900, 9900, 9.8};
    Grid grid;
    const double ours = seconds(3, [&] {
        TerrainInput input;
        input.points = points;
        grid = makeTerrain(input).sampled(frame);
    });
    TerrainInput input;
    input.points = points;
    const auto made = makeTerrain(input);
    const double sampledOnly = seconds(3, [&] { grid = made.sampled(frame); });
    std::vector<double> x, y, z, values(frame.cells());
    for (const auto& p : points) x.push_back(p.x), y.push_back(p.y), z.push_back(p.z);
    GDALAllRegister();
    const double theirs = seconds(1, [&] {
        GDALGridLinearOptions options{};
        options.nSizeOfStructure = sizeof options;
        options.dfRadius = -1;
        options.dfNoDataValue = -9999;
        GDALGridCreate(GGA_Linear, &options, GUInt32(points.size()), x.data(), y.data(), z.data(), frame.xmin, frame.xmax,
                       frame.ymin, frame.ymax, GUInt32(frame.columns()), GUInt32(frame.rows()), GDT_Float64, values.data(),
                       nullptr, nullptr);
    });
    double worst = 0; // GDAL counts rows from the south
    for (int r = 0; r < frame.rows(); ++r)
        for (int c = 0; c < frame.columns(); ++c) {
            const double v = values[std::size_t(frame.rows() - 1 - r) * std::size_t(frame.columns()) + std::size_t(c)];
            if (v != -9999) worst = std::max(worst, std::abs(v - grid.at(c, r)));
        }
    report("200,000 points onto 1000 x 1000", ours, theirs, "GDAL linear gridding", 1);
    fmt::print("  sampling alone, triangles given: {:.4f} s, ratio {:.3f}; values differ by {:.1e} m at most\n", sampledOnly,
               sampledOnly / theirs, worst);
}

/// A country's contours of which a corner is wanted: our reading, clipping and thinning against GDAL reading all of it.
void contours() {
    const auto folder = std::filesystem::temp_directory_path() / "fox-bench-contours";
    std::filesystem::create_directories(folder);
    const auto path = folder / "country.shp";
    constexpr int kLines = 20000, kVertices = 500; // 10 million
    if (!std::filesystem::exists(path)) {
        FeatureLayer layer{"country", "EPSG:25831", {}};
        std::mt19937 random(3);
        std::uniform_real_distribution<double> at(0, 100000);
        for (int k = 0; k < kLines; ++k) {
            Feature f{GeometryKind::Line, {{}}, false, {{"ELEV", double(k % 80) * 5}}};
            double x = at(random), y = at(random), heading = x;
            for (int i = 0; i < kVertices; ++i) {
                f.parts[0].push_back({400000 + x, 6100000 + y, 0});
                heading += 0.05 * std::sin(i * 0.11 + k);
                x += 4 * std::cos(heading), y += 4 * std::sin(heading);
            }
            layer.features.push_back(std::move(f));
        }
        writeVector(path, {layer});
    }
    std::size_t all = 0;
    const auto readAll = [&] {
        all = 0;
        auto* set = static_cast<GDALDataset*>(GDALOpenEx(path.c_str(), GDAL_OF_VECTOR, nullptr, nullptr, nullptr));
        for (auto& feature : *set->GetLayer(0)) all += std::size_t(feature->GetGeometryRef()->toLineString()->getNumPoints());
        GDALClose(set);
    };
    GDALAllRegister();
    readAll(); // into the machine's file cache, for both
    const double bare = seconds(3, readAll);
    // a square of 14.2 % of the side: 2 % of the area
    const double side = 100000 * std::sqrt(0.02);
    SourceSettings settings;
    settings.keep = {{440000, 6140000}, {440000 + side, 6140000}, {440000 + side, 6140000 + side}, {440000, 6140000 + side}};
    settings.thin = 0.25;
    std::size_t kept = 0, read = 0;
    const double ours = seconds(3, [&] {
        const auto u = readSource({"country.shp", "", {}, 0, {}, settings, path.string()}, "EPSG:25831");
        kept = u.lines->verticesKept, read = u.lines->verticesRead;
    });
    report("10,000,000 contour vertices, 2 % kept", ours, bare, "GDAL reading the file", 1.5);
    fmt::print("  {} vertices in the file, {} near the area, {} kept after cutting and thinning by 0.25 m\n", all, read, kept);
    std::filesystem::remove_all(folder);
}

/// What rounding the flats does for contours of the demo's hill, against its truth.
void hill() {
    const auto layers = readVector(FOX_DEMO "/hill_contours.shp");
    const auto lines = groundLinesOf(layers, {LineRole::Contours, "ELEV", 0, {}, {}, {}}, "hill").lines;
    for (const bool mend : {false, true}) {
        TerrainInput input;
        input.contours = lines;
        input.mendFlats = mend;
        const auto made = makeTerrain(input);
        double squares = 0;
        int n = 0;
        for (double e = 480870; e < 481490; e += 5)
            for (double north = 6120660; north < 6121050; north += 5)
                if (const auto z = made.levelAt({e, north})) squares += std::pow(*z - quernbeck::ground(e, north), 2), ++n;
        fmt::print("  hill from contours, {}: root-mean-square error {:.4f} m at {} places, {} flat triangles\n",
                   mend ? "flats rounded" : "plain triangles", std::sqrt(squares / n), n, made.tin.measure().flatTriangles);
    }
}

void ags() {
    // a main investigation many times over: ordinary rows of an ordinary file
    const auto once = readBytes(FOX_DEMO "/phase1_main.ags");
    std::string text = once;
    const auto geol = once.find("\"GROUP\",\"GEOL\""), end = once.find("\r\n\r\n", geol);
    const auto rows = once.substr(once.find("\"DATA\"", geol), end + 2 - once.find("\"DATA\"", geol));
    std::string many;
    while (many.size() < 60'000'000) many += rows;
    text.insert(end + 2, many);
    std::size_t lines = 0, cells = 0;
    const double scan = seconds(5, [&] { lines = std::size_t(std::ranges::count(text, '\n')); });
    double best = 1e300;
    for (int i = 0; i < 4; ++i) {
        auto copy = text; // the reader takes its bytes; copying them is not reading
        const auto start = std::chrono::steady_clock::now();
        const auto file = readAgs(std::move(copy), "big.ags");
        best = std::min(best, std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count());
        cells = file.group("GEOL")->cells.size();
    }
    report("reading AGS", best, scan, "bare scan for newlines", 12);
    fmt::print("  {:.0f} MB/s, {} lines, {} cells\n", double(text.size()) / 1e6 / best, lines, cells);
}

/// A million survey points from text to points, as the import reads them. survey_against_pandas.py sets it beside another reader.
void survey() {
    std::string text = "point,northing,easting,level,code\n";
    std::size_t n = 0;
    for (const auto& p : fox::bench::surveyLike(1'000'000))
        fmt::format_to(std::back_inserter(text), "{},{:.3f},{:.3f},{:.3f},GL\n", ++n, 6'120'000 + p.y, 480'000 + p.x, p.z);
    if (const char* to = std::getenv("FOX_BENCH_SURVEY")) writeBytes(to, text);
    const SourceFile file{"survey.csv", "", std::move(text), 0, {}, {}, ""};
    const double before = fox::bench::peakMegabytes();
    std::size_t read = 0;
    const double best = fox::bench::seconds(3, [&] { read = readSource(file, "EPSG:25831").survey->points.size(); });
    fmt::print("reading a survey of {} points: {:.3f} s, {:.0f} bytes a point at most beside the text\n", read, best,
               (fox::bench::peakMegabytes() - before) * 1024 * 1024 / double(read));
}

/// From files to the model, and one moved contact to what follows; the demo's own methods, or all bases automatic.
void demo(bool automatic, double& whole) {
    std::shared_ptr<const ProductSet> first;
    std::unique_ptr<Products> products;
    Project project;
    const double before = whole;
    whole = seconds(5, [&] {
        products = std::make_unique<Products>();
        project = buildProject(FOX_DEMO "/quernbeck.build.json").project;
        if (automatic) {
            auto sequence = *project.sequence;
            for (auto& u : sequence.units) setMethod(u.recipe, {});
            project.sequence = part(std::move(sequence));
        }
        first = products->of(project);
    });
    if (automatic) report("demo from files to model, automatic bases", whole, before, "its own methods", 5);
    const auto* hole = findHole(*project.holes, "R06");
    std::size_t gravel = 0;
    while (hole->intervals[gravel].codes.at("GEOL_GEOL") != "RG") ++gravel;
    const double base = hole->intervals[gravel].base.metres;
    int step = 0;
    const auto move = [&](const Wanted& wanted) {
        const auto edited = moveBoundary(project, "R06", Depth{base}, Depth{base - 0.01 * ++step}).project;
        const auto made = products->of(edited, {}, wanted);
        if (wanted.has(ProductKind::Sections) && made->sections[1] == first->sections[1])
            fmt::print("the section did not follow\n");
    };
    const double sections = seconds(5, [&] { move({ProductKind::Sections}); });
    if (automatic) return fmt::print("  one moved contact to updated sections: {:.3f} s\n", sections);
    report("one moved contact to updated sections", sections, whole, "demo from files to model", 0.1);
    const double everything = seconds(5, [&] { move(Wanted::everything()); });
    fmt::print("  one moved contact to all views (grids, volumes, audit too): {:.4f} s, ratio {:.3f}\n", everything,
               everything / whole);
    using enum ProductKind;
    const double holesStage = seconds(5, [&] { move({Contours, GroundStatistics, Outliers, Pictures, ImportedTables}); });
    fmt::print("  one moved contact to what the Holes stage shows: {:.4f} s, ratio {:.3f}\n", holesStage, holesStage / whole);
}

void demo() {
    double whole = 0;
    demo(false, whole);
    demo(true, whole);
}

} // namespace

int main(int argc, char** argv) {
    const std::set<std::string> wanted(argv + 1, argv + argc);
    const std::pair<const char*, void (*)()> all[] = {{"demo", demo},
                                                      {"truth", fox::bench::truth},
                                                      {"model", fox::bench::model},
                                                      {"edits", fox::bench::edits},
                                                      {"soundings", fox::bench::soundings},
                                                      {"sheets", fox::bench::sheets},
                                                      {"layers", fox::bench::layers},
                                                      {"blocks", fox::bench::blocks},
                                                      {"kriging", fox::bench::kriging},
                                                      {"distance", fox::bench::inverseDistance},
                                                      {"bounds", fox::bench::bounds},
                                                      {"neighbours", fox::bench::neighbours},
                                                      {"ags", ags},
                                                      {"survey", survey},
                                                      {"terrain", terrain},
                                                      {"breaklines", breaklines},
                                                      {"sampling", sampling},
                                                      {"contours", contours},
                                                      {"hill", hill}};
    for (const auto& [name, run] : all) {
        if (!wanted.empty() && !wanted.contains(name)) continue;
        run();
        fmt::print("  peak memory so far {:.0f} MB\n", peakMegabytes());
    }
}
