// Benchmarks as ratios to a named general library, or to a bare pass, doing the same job in the same run.
#include "base/files.h"
#include "base/parallel.h"
#include "ground/terrain.h"
#include "project/build_file.h"
#include "project/hole_edits.h"
#include "surfaces/surface.h"
#include "truth.h"

#include <CGAL/Constrained_Delaunay_triangulation_2.h>
#include <CGAL/Delaunay_triangulation_2.h>
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <Eigen/Dense>
#include <chrono>
#include <fmt/format.h>
#include <random>
#include <set>
#include <sys/resource.h>
#include <tbb/parallel_for.h>

namespace {

using namespace fox;

/// Seconds of the fastest of several runs: the least disturbed one.
double seconds(int runs, const std::function<void()>& work) {
    double best = 1e300;
    for (int i = 0; i < runs; ++i) {
        const auto start = std::chrono::steady_clock::now();
        work();
        best = std::min(best, std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count());
    }
    return best;
}

double peakMegabytes() {
    rusage usage{};
    getrusage(RUSAGE_SELF, &usage);
    return double(usage.ru_maxrss) / 1024;
}

void report(const char* what, double ours, double other, const char* against, double limit) {
    fmt::print("{:<44} {:9.4f} s  {:<38} {:9.4f} s  ratio {:7.3f}  (at most {})  {}\n", what, ours, against, other, ours / other,
               limit, ours / other <= limit ? "ok" : "MISSED");
    std::fflush(stdout);
}

std::vector<Point3> surveyLike(std::size_t n) {
    std::mt19937_64 random(1);
    std::uniform_real_distribution<double> at(0, 10000), noise(-0.05, 0.05);
    std::vector<Point3> out;
    for (std::size_t i = 0; i < n; ++i) {
        const double x = at(random), y = at(random);
        out.push_back({x, y, 50 + 10 * std::sin(x / 700) * std::cos(y / 900) + noise(random)});
    }
    return out;
}

void terrain() {
    using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
    const auto points = surveyLike(1'000'000);
    std::vector<Kernel::Point_2> plan;
    for (const auto& p : points) plan.emplace_back(p.x, p.y);
    std::size_t triangles = 0, others = 0, constrained = 0;
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
    const double ours = seconds(3, [&] {
        TerrainInput input;
        input.points = points;
        triangles = makeTerrain(input).tin.triangles().size();
    });
    if (triangles != others || triangles != constrained) fmt::print("the triangulations differ: {} and {}\n", triangles, others);
    report("terrain of 1,000,000 points", ours, bare, "bare CGAL Delaunay insertion", 1.5);
    report("terrain of 1,000,000 points", ours, bareConstrained, "bare CGAL constrained insertion", 1.5);
}

/// Ordinary kriging with variance in plain Eigen, on both cores: the same algebra without our code.
void plainKriging(const std::vector<Point3>& data, const Variogram& v, const Frame& frame, std::vector<double>& values,
                  std::vector<double>& variances) {
    const auto n = Eigen::Index(data.size());
    Eigen::ArrayXd x(n), y(n);
    Eigen::VectorXd z(n);
    for (Eigen::Index i = 0; i < n; ++i)
        x[i] = data[std::size_t(i)].x, y[i] = data[std::size_t(i)].y, z[i] = data[std::size_t(i)].z;
    const double sill = v.nugget + v.partialSill;
    const auto covariance = [&](double px, double py) -> Eigen::ArrayXd {
        const Eigen::ArrayXd t = (((x - px).square() + (y - py).square()).sqrt() / v.range).min(1.0);
        return v.partialSill * (1 - t * (1.5 - 0.5 * t * t));
    };
    Eigen::MatrixXd c(n, n);
    for (Eigen::Index j = 0; j < n; ++j) c.col(j) = covariance(x[j], y[j]).matrix();
    c.diagonal().setConstant(sill);
    const Eigen::LLT<Eigen::MatrixXd> llt(c);
    const Eigen::VectorXd u = llt.matrixL().solve(Eigen::VectorXd::Ones(n));
    const double uu = u.squaredNorm(), mean = u.dot(llt.matrixL().solve(z)) / uu;
    const Eigen::VectorXd alpha = llt.solve((z.array() - mean).matrix());
    const int columns = frame.columns();
    tbb::parallel_for(0, frame.rows(), [&](int row) {
        Eigen::MatrixXd k(n, columns);
        for (int i = 0; i < columns; ++i) k.col(i) = covariance(frame.centre(i, row).x, frame.centre(i, row).y).matrix();
        const Eigen::VectorXd value = k.transpose() * alpha;
        llt.matrixL().solveInPlace(k);
        const Eigen::VectorXd miss = Eigen::VectorXd::Ones(columns) - k.transpose() * u;
        for (int i = 0; i < columns; ++i) {
            values[std::size_t(row * columns + i)] = mean + value[i];
            variances[std::size_t(row * columns + i)] = sill - k.col(i).squaredNorm() + miss[i] * miss[i] / uu;
        }
    });
}

void kriging() {
    auto data = surveyLike(300);
    const Frame frame{0, 0, 10000, 10000, 20};
    SurfaceSettings settings;
    settings.variogram = Variogram{VariogramModel::Spherical, 0.1, 100, 4000};
    Grid grid, variance;
    const double ours = seconds(3, [&] {
        const auto fit = fitSurface(data, {}, settings);
        grid = sample(*fit.surface, frame, &variance);
    });
    std::vector<double> values(frame.cells()), variances(frame.cells());
    const double plain = seconds(3, [&] { plainKriging(data, *settings.variogram, frame, values, variances); });
    double worst = 0;
    for (std::size_t i = 0; i < values.size(); ++i)
        worst = std::max({worst, std::abs(values[i] - grid.values[i]), std::abs(variances[i] - variance.values[i])});
    report("kriging, 300 points, 500 x 500, variance", ours, plain, "plain Eigen, both cores", 1.2);
    const double without = seconds(3, [&] { sample(*fitSurface(data, {}, settings).surface, frame); });
    double oneThread = 0;
    {
        const ThreadLimit one(1);
        oneThread = seconds(1, [&] { sample(*fitSurface(data, {}, settings).surface, frame, &variance); });
    }
    fmt::print("  values differ by {:.1e} at most; without variance {:.4f} s; on one thread {:.2f} times as long\n", worst,
               without, oneThread / ours);
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

void demo() {
    std::shared_ptr<const ProductSet> first;
    std::unique_ptr<Products> products;
    Project project;
    const double whole = seconds(5, [&] {
        products = std::make_unique<Products>();
        project = buildProject(FOX_DEMO "/quernbeck.build.json").project;
        first = products->of(project);
    });
    const auto* hole = findHole(*project.holes, "R06");
    std::size_t gravel = 0;
    while (hole->intervals[gravel].codes.at("GEOL_GEOL") != "RG") ++gravel;
    const double base = hole->intervals[gravel].base.metres;
    int step = 0;
    const auto move = [&](Products::Want want) {
        const auto edited = moveBoundary(project, "R06", gravel, Depth{base - 0.01 * ++step}).project;
        if (products->of(edited, {}, want)->sections[1] == first->sections[1]) fmt::print("the section did not follow\n");
    };
    report("one moved contact to updated sections", seconds(5, [&] { move(Products::Want::Model); }), whole,
           "demo from files to model", 0.1);
    const double everything = seconds(5, [&] { move(Products::Want::Everything); });
    fmt::print("  one moved contact to all views (grids, volumes, audit too): {:.4f} s, ratio {:.3f}\n", everything,
               everything / whole);
}

void truth() {
    const auto set = Products().of(buildProject(FOX_DEMO "/quernbeck.build.json").project);
    std::array<double, quernbeck::kUnits> squares{};
    int n = 0;
    for (double e = quernbeck::kWest + 25; e < quernbeck::kEast; e += 25)
        for (double north = quernbeck::kSouth + 25; north < quernbeck::kNorth; north += 25) {
            const auto c = set->model->columnAt({e, north});
            if (std::isnan(c.ground)) continue;
            const auto b = quernbeck::bases(e, north);
            squares.back() += std::pow(c.ground - quernbeck::ground(e, north), 2);
            for (std::size_t u = 0; u < b.size(); ++u) squares[u] += std::pow(c.bases[u] - b[u], 2);
            ++n;
        }
    fmt::print("root-mean-square error against the truth, m: ground {:.3f}", std::sqrt(squares.back() / n));
    for (int u = 0; u + 1 < quernbeck::kUnits; ++u)
        fmt::print(", base of {} {:.2f}", quernbeck::code(quernbeck::Unit(u)), std::sqrt(squares[std::size_t(u)] / n));
    fmt::print(" ({} places)\n", n);
}

} // namespace

int main(int argc, char** argv) {
    const std::set<std::string> wanted(argv + 1, argv + argc);
    const std::pair<const char*, void (*)()> all[] = {
        {"demo", demo}, {"truth", truth}, {"kriging", kriging}, {"ags", ags}, {"terrain", terrain}};
    for (const auto& [name, run] : all) {
        if (!wanted.empty() && !wanted.contains(name)) continue;
        run();
        fmt::print("  peak memory so far {:.0f} MB\n", peakMegabytes());
    }
}
