// The methods against independent ways to the same answer.
#include "fixtures.h"
#include "surfaces/surface.h"

#include <Eigen/Dense>
#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

using Eigen::Index;
using Eigen::MatrixXd;
using Eigen::VectorXd;

SurfaceSettings by(Method method) {
    SurfaceSettings s;
    s.method = method;
    return s;
}

SurfaceSettings by(Method method, const Variogram& v) {
    auto s = by(method);
    s.variogram = v;
    return s;
}

struct Estimate {
    double value = kNoValue, variance = kNoValue;
};

Estimate at(const FittedSurface& fit, Point2 p) {
    Estimate e;
    fit.surface->evaluate(std::span(&p, 1), std::span(&e.value, 1), std::span(&e.variance, 1));
    return e;
}

/// Universal kriging by the textbook's augmented system in semivariances, at several places at once: values and the
/// covariances of their errors.
struct Textbook {
    VectorXd values;
    MatrixXd covariances;
};
Textbook textbook(const std::vector<Point3>& data, const Variogram& v, const std::vector<Point2>& places, bool linearDrift) {
    const auto n = Index(data.size()), m = Index(places.size()), p = linearDrift ? Index(3) : Index(1);
    const auto drift = [&](Point2 q) { return std::array<double, 3>{1, q.x, q.y}; };
    MatrixXd a = MatrixXd::Zero(n + p, n + p), b(n + p, m), own(m, m);
    VectorXd z(n);
    for (Index i = 0; i < n; ++i) {
        const auto pi = data[std::size_t(i)].plan();
        z[i] = data[std::size_t(i)].z;
        for (Index j = 0; j < n; ++j) a(i, j) = v.at(distance(pi, data[std::size_t(j)].plan()));
        for (Index k = 0; k < p; ++k) a(i, n + k) = a(n + k, i) = drift(pi)[std::size_t(k)];
        for (Index j = 0; j < m; ++j) b(i, j) = v.at(distance(pi, places[std::size_t(j)]));
    }
    for (Index j = 0; j < m; ++j) {
        for (Index k = 0; k < p; ++k) b(n + k, j) = drift(places[std::size_t(j)])[std::size_t(k)];
        for (Index i = 0; i < m; ++i) own(i, j) = v.at(distance(places[std::size_t(i)], places[std::size_t(j)]));
    }
    const MatrixXd w = a.fullPivLu().solve(b);
    // cov(error_i, error_j) = -gamma(i, j) + w_i.b_j + w_j.b_i - w_i.a.w_j, and a w = b
    return {w.topRows(n).transpose() * z, w.transpose() * b - own};
}

using Polygon = std::vector<Point2>;

/// The part of a polygon that is nearer to `a` than to `b`.
Polygon nearerTo(const Polygon& polygon, Point2 a, Point2 b) {
    const auto side = [&](Point2 p) {
        return (p.x - (a.x + b.x) / 2) * (b.x - a.x) + (p.y - (a.y + b.y) / 2) * (b.y - a.y); // negative near a
    };
    Polygon out;
    for (std::size_t i = 0; i < polygon.size(); ++i) {
        const auto p = polygon[i], q = polygon[(i + 1) % polygon.size()];
        const double sp = side(p), sq = side(q);
        if (sp <= 0) out.push_back(p);
        if ((sp < 0 && sq > 0) || (sp > 0 && sq < 0)) {
            const double t = sp / (sp - sq);
            out.push_back({p.x + t * (q.x - p.x), p.y + t * (q.y - p.y)});
        }
    }
    return out;
}

double areaOfCell(const Polygon& p) {
    double twice = 0;
    for (std::size_t i = 0; i < p.size(); ++i) {
        const auto a = p[i], b = p[(i + 1) % p.size()];
        twice += a.x * b.y - b.x * a.y;
    }
    return std::abs(twice) / 2;
}

/// Natural neighbour by stealing areas: the cell that the place would have, cut by the cells of the data.
double stolen(const std::vector<Point3>& data, Point2 place) {
    Polygon cell{{-1e4, -1e4}, {1e4, -1e4}, {1e4, 1e4}, {-1e4, 1e4}};
    for (const auto& p : data) cell = nearerTo(cell, place, p.plan());
    double sum = 0, all = 0;
    for (std::size_t i = 0; i < data.size(); ++i) {
        auto part = cell;
        for (std::size_t k = 0; k < data.size(); ++k)
            if (k != i) part = nearerTo(part, data[i].plan(), data[k].plan());
        sum += areaOfCell(part) * data[i].z, all += areaOfCell(part);
    }
    return sum / all;
}

/// Thin plate by its dense augmented system.
double densePlate(const std::vector<Point3>& data, Point2 place) {
    const auto n = Index(data.size());
    const auto phi = [](double r) { return r > 0 ? r * r * std::log(r) : 0; };
    MatrixXd a = MatrixXd::Zero(n + 3, n + 3);
    VectorXd z = VectorXd::Zero(n + 3), k(n + 3);
    for (Index i = 0; i < n; ++i) {
        const auto& p = data[std::size_t(i)];
        for (Index j = 0; j < n; ++j) a(i, j) = phi(distance(p.plan(), data[std::size_t(j)].plan()));
        const double row[] = {1, p.x, p.y};
        for (Index c = 0; c < 3; ++c) a(i, n + c) = a(n + c, i) = row[c];
        z[i] = p.z, k[i] = phi(distance(p.plan(), place));
    }
    k.tail(3) << 1, place.x, place.y;
    return k.dot(a.fullPivLu().solve(z));
}

} // namespace

TEST_CASE("Universal kriging agrees with the textbook's system, with every model", "[surfaces]") {
    const auto model =
        GENERATE(VariogramModel::Linear, VariogramModel::Spherical, VariogramModel::Exponential, VariogramModel::Gaussian);
    const double nugget = GENERATE(0.0, 4.0) + (model == VariogramModel::Gaussian ? 2 : 0);
    CAPTURE(name(model), nugget);
    const auto data = randomPoints(18, 25);
    const Variogram v{model, nugget, 300, 60};
    const auto fit = fitSurface(data, {}, by(Method::UniversalKriging, v));
    std::vector<Point2> places;
    for (const auto& q : randomPoints(19, 12, 200)) places.push_back(q.plan());
    const auto expected = textbook(data, v, places, true);
    for (std::size_t i = 0; i < places.size(); ++i) {
        const auto e = at(fit, places[i]);
        CHECK(e.value == Approx(expected.values[Index(i)]).epsilon(1e-7).margin(1e-6));
        CHECK(e.variance == Approx(expected.covariances(Index(i), Index(i))).epsilon(1e-7).margin(1e-6));
    }
}

TEST_CASE("Universal kriging and thin plate give a plane back, outside the data too", "[surfaces]") {
    const auto method = GENERATE(Method::UniversalKriging, Method::ThinPlate);
    CAPTURE(name(method));
    auto data = randomPoints(20, 12);
    for (auto& p : data) p.z = 3 + 0.1 * p.x - 0.2 * p.y;
    const auto fit = fitSurface(data, {}, by(method, Variogram{VariogramModel::Spherical, 0, 1, 50}));
    for (const Point2 p : {Point2{20, 30}, {300, -200}, {-50, 500}})
        CHECK(fit.surface->at(p) == Approx(3 + 0.1 * p.x - 0.2 * p.y).epsilon(1e-8));
    CHECK(fit.leaveOneOut.rmse == Approx(0).margin(1e-7));
}

TEST_CASE("Natural neighbour is what a new cell takes of the others", "[surfaces]") {
    const auto data = randomPoints(31, 30);
    const auto fit = fitSurface(data, {}, by(Method::NaturalNeighbour));
    const auto hull = fitSurface(data, {}, by(Method::Linear));
    int inside = 0;
    for (const auto& q : randomPoints(32, 120)) {
        const double value = fit.surface->at(q.plan());
        CHECK(std::isnan(value) == std::isnan(hull.surface->at(q.plan())));
        if (std::isnan(value)) continue;
        ++inside;
        CHECK(value == Approx(stolen(data, q.plan())).margin(1e-6));
    }
    CHECK(inside > 60);
}

TEST_CASE("Natural neighbour is linear along the hull and between data of a grid", "[surfaces]") {
    const auto fit = fitSurface(points("0 0 0, 10 0 10, 0 10 20, 10 10 30, 5 5 15"), {}, by(Method::NaturalNeighbour));
    CHECK(fit.surface->at({4, 0}) == Approx(4));
    CHECK(fit.surface->at({10, 5}) == Approx(20));
    CHECK(fit.surface->at({2.5, 2.5}) == Approx(7.5));
    CHECK(std::isnan(fit.surface->at({-0.001, 5})));
    // a regular grid has four points on every circle
    std::vector<Point3> grid;
    for (int x = 0; x < 6; ++x)
        for (int y = 0; y < 6; ++y) grid.push_back({x * 10.0, y * 10.0, x + 10.0 * y});
    const auto plane = fitSurface(grid, {}, by(Method::NaturalNeighbour));
    for (const auto& q : randomPoints(3, 50, 50)) CHECK(plane.surface->at(q.plan()) == Approx(q.x / 10 + q.y).margin(1e-9));
}

TEST_CASE("The thin plate is the dense system's", "[surfaces]") {
    const auto data = randomPoints(41, 40);
    const auto fit = fitSurface(data, {}, by(Method::ThinPlate));
    CHECK_FALSE(fit.surface->hasVariance());
    for (const auto& q : randomPoints(42, 30, 150))
        CHECK(fit.surface->at(q.plan()) == Approx(densePlate(data, q.plan())).epsilon(1e-7).margin(1e-6));
}

TEST_CASE("Nearest is the value of the nearest point", "[surfaces]") {
    const auto data = randomPoints(51, 40);
    const auto fit = fitSurface(data, {}, by(Method::Nearest));
    for (const auto& q : randomPoints(52, 30)) {
        const auto nearest = *std::ranges::min_element(data, {}, [&](const Point3& p) { return distance(p.plan(), q.plan()); });
        CHECK(fit.surface->at(q.plan()) == nearest.z);
    }
}

TEST_CASE("Shifting, turning and scaling the site changes no value", "[surfaces]") {
    const auto method = GENERATE(from_range(allMethods().begin(), allMethods().end()));
    const double scale = GENERATE(1.0, 7.0), shift = GENERATE(0.0, 6e6);
    CAPTURE(name(method), scale, shift);
    const auto data = randomPoints(61, 25);
    const double c = std::cos(0.7), s = std::sin(0.7);
    const auto moved = [&](Point2 p) { return Point2{shift + scale * (c * p.x - s * p.y), shift + scale * (s * p.x + c * p.y)}; };
    auto other = data;
    for (auto& p : other) {
        const auto m = moved(p.plan());
        p.x = m.x, p.y = m.y;
    }
    const auto a = fitSurface(data, {}, by(method, Variogram{VariogramModel::Exponential, 0, 100, 60}));
    const auto b = fitSurface(other, {}, by(method, Variogram{VariogramModel::Exponential, 0, 100, 60 * scale}));
    int values = 0;
    for (const auto& q : randomPoints(62, 30, 90)) {
        const double v = a.surface->at(q.plan());
        if (std::isnan(v)) continue;
        ++values;
        CHECK(b.surface->at(moved(q.plan())) == Approx(v).margin(2e-5)); // of 100 m over 100 m: millimetres of place
    }
    CHECK(values > 15);
    // the fitted variogram moves along too
    if (hasVariogram(method)) {
        const auto va = *fitSurface(data, {}, by(method)).settings.variogram;
        const auto vb = *fitSurface(other, {}, by(method)).settings.variogram;
        CHECK(vb.model == va.model);
        CHECK(vb.partialSill == Approx(va.partialSill).epsilon(1e-3).margin(1e-9));
    }
}

TEST_CASE("Few points and points on one line have a stated surface", "[surfaces]") {
    const auto method = GENERATE(from_range(allMethods().begin(), allMethods().end()));
    CAPTURE(name(method));
    const bool triangles = method == Method::Linear || method == Method::NaturalNeighbour;
    const auto value = [&](const char* data, Point2 p) { return fitSurface(points(data), {}, by(method)).surface->at(p); };
    SECTION("two points") {
        const double between = value("0 0 4, 10 0 8", {5, 0}), beside = value("0 0 4, 10 0 8", {5, 3});
        if (triangles) {
            CHECK(std::isnan(between));
        } else if (method == Method::Nearest) {
            CHECK((between == 4 || between == 8));
        } else {
            CHECK(between == Approx(6));
            CHECK(beside == Approx(6));
        }
        if (method == Method::ThinPlate || method == Method::UniversalKriging)
            CHECK(value("0 0 4, 10 0 8", {20, 7}) == Approx(12)); // goes on along the line
    }
    SECTION("three points") {
        // as far from each; on the longest side for triangles
        const double middle = value("0 0 3, 12 0 6, 0 12 9", {6, 6});
        if (method == Method::InverseDistance)
            CHECK(middle == Approx(6));
        else if (method == Method::Kriging) // those on the longest side are less alike, so count more each
            CHECK((middle > 6 && middle < 7.5));
        else if (method == Method::Nearest)
            CHECK((middle == 3 || middle == 6 || middle == 9));
        else
            CHECK(middle == Approx(7.5)); // the plane
    }
    SECTION("on one line") {
        const double at7 = value("0 0 0, 10 10 1, 20 20 2, 40 40 4", {30, 30});
        if (triangles)
            CHECK(std::isnan(at7));
        else
            CHECK((at7 >= 1.99 && at7 <= 4.01));
        if (method == Method::UniversalKriging || method == Method::ThinPlate) {
            CHECK(at7 == Approx(3));
            CHECK(value("0 0 0, 10 10 1, 20 20 2, 40 40 4", {35, 25}) == Approx(3).margin(0.01)); // none across it
        }
    }
}

TEST_CASE("A gaussian variogram without a nugget is regularised, and that is said", "[surfaces]") {
    std::vector<Point3> data;
    for (int x = 0; x < 8; ++x)
        for (int y = 0; y < 8; ++y) data.push_back({x * 5.0, y * 5.0, std::sin(x * 0.5) + std::cos(y * 0.4)});
    const auto fit = fitSurface(data, {}, by(Method::Kriging, Variogram{VariogramModel::Gaussian, 0, 1, 100}));
    CHECK(fit.regularised > 0);
    CHECK(fit.regularised < 1e-6);
    CHECK(mentions(fit.findings, "FC-SMOOTH", "nugget"));
    for (const auto& p : data) CHECK(fit.surface->at(p.plan()) == Approx(p.z).margin(1e-6));
    CHECK(fit.surface->at({12.5, 12.5}) == Approx(std::sin(1.25) + std::cos(1)).margin(0.01));
    // and an ordinary one is not
    CHECK(fitSurface(data, {}, by(Method::Kriging, Variogram{VariogramModel::Spherical, 0, 1, 100})).regularised == 0);
}

TEST_CASE("No value beyond the reach, and the hull's value carried on where asked", "[surfaces]") {
    auto settings = by(Method::Kriging);
    settings.reach = 20;
    const auto near = fitSurface(points("0 0 1, 50 0 2"), std::vector<Bound>{{{0, 80, 9}, Side::Upper, ""}}, settings);
    CHECK(near.surface->at({10, 15}) > 0);
    CHECK(std::isnan(near.surface->at({25, 40})));
    CHECK(near.surface->at({5, 75}) > 0); // a bound speaks too
    for (const auto method : {Method::Linear, Method::NaturalNeighbour}) {
        auto carried = by(method);
        carried.carriedOn = true;
        const auto fit = fitSurface(points("0 0 0, 10 0 10, 0 10 20, 10 10 30"), {}, carried);
        CHECK(fit.surface->at({5, -100}) == Approx(5).margin(1e-4));
        CHECK(fit.surface->at({50, 50}) == Approx(30).margin(1e-4));
        CHECK(fit.surface->at({4, 3}) == Approx(10));
        // bounds outside the hull are kept then
        const auto bounded =
            fitSurface(points("0 0 0, 10 0 10, 0 10 20, 10 10 30"), std::vector<Bound>{{{20, 20, 12}, Side::Upper, ""}}, carried);
        CHECK(bounded.brokenBounds == 0);
        CHECK(bounded.surface->at({20, 20}) == Approx(12));
    }
}

TEST_CASE("Anisotropy squeezes every method, at coordinates of millions too", "[surfaces]") {
    const auto method = GENERATE(from_range(allMethods().begin(), allMethods().end()));
    CAPTURE(name(method));
    const auto data = randomPoints(71, 25);
    auto settings = by(method, Variogram{VariogramModel::Spherical, 0, 100, 80});
    auto stretched = data;
    for (auto& p : stretched) p.y *= 2; // long axis east
    const auto plain = fitSurface(stretched, {}, settings);
    settings.anisotropy = {90, 2};
    auto far = data;
    for (auto& p : far) p.x += 480000, p.y += 6120000;
    const auto fit = fitSurface(far, {}, settings);
    const double expected = plain.surface->at({45, 110}), value = fit.surface->at({480045, 6120055});
    REQUIRE_FALSE(std::isnan(expected));
    CHECK(value == Approx(expected).margin(1e-5));
}

TEST_CASE("Random bounds are kept, by the solution of the quadratic programme", "[surfaces][random]") {
    const auto seed = GENERATE(range(1u, 31u));
    const bool linearDrift = GENERATE(false, true);
    CAPTURE(seed, linearDrift);
    const auto data = randomPoints(seed, 12);
    std::vector<Bound> bounds;
    for (const auto& p : randomPoints(seed + 100, 25)) bounds.push_back({p, bounds.size() % 2 ? Side::Upper : Side::Lower, ""});
    const Variogram v{VariogramModel::Spherical, 0, 400, 80};
    const auto fit = fitSurface(data, bounds, by(linearDrift ? Method::UniversalKriging : Method::Kriging, v));
    CHECK(fit.brokenBounds == 0);
    CHECK(fit.activeBounds > 2); // the hard case
    for (const auto& b : bounds) {
        const double value = fit.surface->at(b.place.plan());
        CHECK((b.side == Side::Upper ? value - b.place.z : b.place.z - value) < 1e-6);
    }
    // Hildreth (1957): one multiplier at a time, on means and covariances of the textbook's system
    std::vector<Point2> places;
    for (const auto& b : bounds) places.push_back(b.place.plan());
    const auto given = textbook(data, v, places, linearDrift);
    const auto m = Index(bounds.size());
    VectorXd side(m), pulls = VectorXd::Zero(m);
    for (Index i = 0; i < m; ++i) side[i] = bounds[std::size_t(i)].side == Side::Lower ? 1 : -1;
    for (int sweep = 0; sweep < 200000; ++sweep) {
        double moved = 0;
        for (Index i = 0; i < m; ++i) {
            const double value = given.values[i] + given.covariances.row(i).dot(side.cwiseProduct(pulls));
            const double to =
                std::max(0.0, pulls[i] + side[i] * (bounds[std::size_t(i)].place.z - value) / given.covariances(i, i));
            moved = std::max(moved, std::abs(to - pulls[i]) * given.covariances(i, i));
            pulls[i] = to;
        }
        if (moved < 1e-11) break;
    }
    const VectorXd expected = given.values + given.covariances * side.cwiseProduct(pulls);
    for (Index i = 0; i < m; ++i) CHECK(fit.surface->at(places[std::size_t(i)]) == Approx(expected[i]).margin(1e-6));
}

TEST_CASE("The thin plate's bounds are the smoothest that keep them", "[surfaces][random]") {
    // of every set of bounds taken as equalities that keeps all, none bends less
    const auto seed = GENERATE(range(1u, 9u));
    CAPTURE(seed);
    const auto data = randomPoints(seed, 6);
    std::vector<Bound> bounds;
    for (const auto& p : randomPoints(seed + 30, 5)) bounds.push_back({p, bounds.size() % 2 ? Side::Upper : Side::Lower, ""});
    const auto fit = fitSurface(data, bounds, by(Method::ThinPlate));
    REQUIRE(fit.brokenBounds == 0);
    const auto bending = [](const std::vector<Point3>& p) { // z' A^-1 z of the augmented system
        const auto n = Index(p.size());
        MatrixXd a = MatrixXd::Zero(n + 3, n + 3);
        VectorXd z = VectorXd::Zero(n + 3);
        for (Index i = 0; i < n; ++i) {
            for (Index j = 0; j < n; ++j)
                if (const double r = distance(p[std::size_t(i)].plan(), p[std::size_t(j)].plan()); r > 0)
                    a(i, j) = r * r * std::log(r);
            const double row[] = {1, p[std::size_t(i)].x, p[std::size_t(i)].y};
            for (Index c = 0; c < 3; ++c) a(i, n + c) = a(n + c, i) = row[c];
            z[i] = p[std::size_t(i)].z;
        }
        return z.dot(a.fullPivLu().solve(z));
    };
    double least = std::numeric_limits<double>::infinity(), value = 0;
    for (unsigned set = 0; set < 32; ++set) {
        auto p = data;
        for (std::size_t i = 0; i < 5; ++i)
            if (set >> i & 1) p.push_back(bounds[i].place);
        const auto f = fitSurface(p, {}, by(Method::ThinPlate));
        const bool kept = std::ranges::all_of(bounds, [&](const Bound& b) {
            const double z = f.surface->at(b.place.plan());
            return (b.side == Side::Upper ? z - b.place.z : b.place.z - z) < 1e-6;
        });
        if (kept && bending(p) < least) least = bending(p), value = f.surface->at({50, 50});
    }
    CHECK(fit.surface->at({50, 50}) == Approx(value).margin(1e-5));
}

TEST_CASE("Only pairs in a sector make its variogram", "[surfaces]") {
    // a washboard across east: no difference along north
    std::vector<Point3> data;
    for (int x = 0; x < 12; ++x)
        for (int y = 0; y < 12; ++y) data.push_back({x * 10.0, y * 10.0, x % 2 ? 1.0 : -1.0});
    for (const auto& lag : empiricalVariogram(data, 10, {0, 5})) CHECK(lag.gamma == 0);
    const auto across = empiricalVariogram(data, 10, {90, 5});
    CHECK(std::ranges::any_of(across, [](const VariogramLag& l) { return l.gamma > 1.5; }));
    CHECK(empiricalVariogram(data, 10, {270, 5}) == across);
    CHECK(empiricalVariogram(data, 10, {17, 90}) == empiricalVariogram(data, 10));
}

TEST_CASE("Values less their plane have none", "[surfaces]") {
    auto data = randomPoints(81, 30);
    for (auto& p : data) p.z = 5 + 2 * p.x - p.y;
    for (const auto& p : lessPlane(data)) CHECK(p.z == Approx(lessPlane(data).front().z).margin(1e-9));
    const auto line = points("0 0 1, 1 1 5, 2 2 3, 3 3 9");
    CHECK(lessPlane(line) == line);
}
