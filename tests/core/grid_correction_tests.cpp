// A coarse grid drawn to levels that are known better.
#include "fixtures.h"
#include "ground/grid_correction.h"
#include "ground/raster_ground.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

/// A ground of hills a few hundred metres across.
double hills(Point2 p) { return 40 + 6 * std::sin(p.x / 150) * std::cos(p.y / 170) + 0.01 * p.x; }

std::vector<Point2> scattered(unsigned seed, int count, double width) {
    std::vector<Point2> out;
    for (const auto& p : randomPoints(seed, count, width)) out.push_back(p.plan());
    return out;
}

double rootMeanSquare(const std::vector<double>& values) {
    double sum = 0;
    for (const double v : values) sum += v * v;
    return std::sqrt(sum / double(values.size()));
}

} // namespace

TEST_CASE("A corrected grid is exact at the known levels", "[ground][correction]") {
    std::vector<Point3> differences;
    for (const auto p : scattered(5, 60, 1000)) differences.push_back({p.x, p.y, std::sin(p.x / 90)});
    const GridCorrection correction(differences, 50);
    for (const auto& d : differences) CHECK(correction.at(d.plan()) == Approx(d.z).margin(1e-12));
}

TEST_CASE("Without known levels nothing is added, and one level moves the grid as a whole", "[ground][correction]") {
    CHECK(GridCorrection().empty());
    CHECK(GridCorrection().at({3, 4}) == 0);
    const GridCorrection one({{10, 20, 1.5}}, 50);
    for (const auto p : scattered(6, 30, 5000)) CHECK(one.at(p) == Approx(1.5));
}

TEST_CASE("A grid that is too high everywhere is lowered everywhere", "[ground][correction]") {
    std::vector<Point3> differences;
    for (const auto p : scattered(7, 40, 1000)) differences.push_back({p.x, p.y, -2});
    const GridCorrection correction(differences, 50);
    for (const auto p : scattered(8, 60, 4000)) CHECK(correction.at(p) == Approx(-2));
}

TEST_CASE("The correction stays within the differences it was given", "[ground][correction][random]") {
    std::vector<Point3> differences;
    double least = 1e9, most = -1e9;
    for (const auto& p : randomPoints(9, 80)) {
        differences.push_back({p.x * 10, p.y * 10, p.z});
        least = std::min(least, p.z), most = std::max(most, p.z);
    }
    const GridCorrection correction(differences, 30);
    for (const auto p : scattered(10, 300, 1500)) {
        CHECK(correction.at(p) >= least - 1e-9);
        CHECK(correction.at(p) <= most + 1e-9);
    }
}

TEST_CASE("Noise of a grid does not reach far, a bend of it does", "[ground][correction][random]") {
    std::vector<Point3> noisy, bent;
    for (const auto& p : randomPoints(11, 120)) {
        noisy.push_back({p.x * 20, p.y * 20, std::fmod(p.x * 7919 + p.y * 104729, 2.0) - 1});
        bent.push_back({p.x * 20, p.y * 20, 3 * std::sin(p.x * 20 / 600)});
    }
    CHECK(GridCorrection(noisy, 50).reach() < GridCorrection(bent, 50).reach());
}

TEST_CASE("Holes and a coarse grid together are nearer the ground than the grid alone", "[ground][correction]") {
    const auto grid = std::make_shared<Grid>(Frame{0, 0, 2000, 2000, 100});
    for (int row = 0; row < grid->frame.rows(); ++row)
        for (int column = 0; column < grid->frame.columns(); ++column) {
            const auto p = grid->frame.centre(column, row);
            // it smooths the hills away by half and lies 1.2 m too high
            grid->at(column, row) = 40 + 0.01 * p.x + (hills(p) - 40 - 0.01 * p.x) / 2 + 1.2;
        }
    std::vector<Point3> levels;
    for (const auto p : scattered(12, 150, 1900)) levels.push_back({p.x + 50, p.y + 50, hills({p.x + 50, p.y + 50})});
    const RasterGround alone({grid}, Tin(), 0), corrected({grid}, Tin(), 0, levels);
    std::vector<double> before, after;
    for (const auto q : scattered(13, 400, 1800)) {
        const Point2 p{q.x + 100, q.y + 100};
        before.push_back(*alone.levelAt(p) - hills(p));
        after.push_back(*corrected.levelAt(p) - hills(p));
    }
    CHECK(rootMeanSquare(after) < 0.5 * rootMeanSquare(before));
    for (const auto& l : levels) CHECK(*corrected.levelAt(l.plan()) == Approx(l.z).margin(0.01));
}
