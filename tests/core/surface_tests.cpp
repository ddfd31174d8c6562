#include "base/parallel.h"
#include "fixtures.h"
#include "surfaces/surface.h"

#include <Eigen/Dense>
#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

SurfaceSettings settingsFor(Method method) {
    SurfaceSettings s;
    s.method = method;
    return s;
}
Method anyMethod() { return GENERATE(from_range(allMethods().begin(), allMethods().end())); }
bool byTriangles(Method m) { return m == Method::Linear || m == Method::NaturalNeighbour; }
SurfaceSettings krigingWith(VariogramModel model, double nugget, double sill, double range) {
    auto s = settingsFor(Method::Kriging);
    s.variogram = Variogram{model, nugget, sill, range};
    return s;
}

/// Ordinary kriging by the textbook's augmented system in semivariances: an independent way to the same answer.
std::pair<double, double> textbookKriging(const std::vector<Point3>& data, const Variogram& v, Point2 at) {
    const auto n = Eigen::Index(data.size());
    Eigen::MatrixXd a = Eigen::MatrixXd::Zero(n + 1, n + 1);
    Eigen::VectorXd b(n + 1);
    for (Eigen::Index i = 0; i < n; ++i) {
        for (Eigen::Index j = 0; j < n; ++j) a(i, j) = v.at(distance(data[std::size_t(i)].plan(), data[std::size_t(j)].plan()));
        a(i, n) = a(n, i) = 1;
        b(i) = v.at(distance(data[std::size_t(i)].plan(), at));
    }
    b(n) = 1;
    const Eigen::VectorXd w = a.fullPivLu().solve(b);
    double value = 0;
    for (Eigen::Index i = 0; i < n; ++i) value += w(i) * data[std::size_t(i)].z;
    return {value, w.dot(b)};
}

} // namespace

TEST_CASE("Every method honours its data", "[surfaces]") {
    const auto method = anyMethod();
    CAPTURE(name(method));
    const auto data = randomPoints(2, 40);
    const auto fit = fitSurface(data, {}, settingsFor(method));
    for (const auto& p : data) CHECK(fit.surface->at(p.plan()) == Approx(p.z).margin(1e-7));
    CHECK(fit.points == 40);
    CHECK(fit.merged == 0);
}

TEST_CASE("Nothing, one point and points on one place", "[surfaces]") {
    const auto method = anyMethod();
    CAPTURE(name(method));
    CHECK(std::isnan(fitSurface({}, {}, settingsFor(method)).surface->at({1, 1})));
    const auto one = fitSurface(points("5 5 3"), {}, settingsFor(method));
    if (byTriangles(method))
        CHECK(std::isnan(one.surface->at({1, 1})));
    else
        CHECK(one.surface->at({1, 1}) == Approx(3));
    CHECK(one.leaveOneOut.n == 0);
    const auto twice = fitSurface(points("5 5 3, 5 5.0005 5, 8 8 1"), {}, settingsFor(method));
    CHECK(twice.merged == 1);
    if (!byTriangles(method)) CHECK(twice.surface->at({5, 5}) == Approx(4));
}

TEST_CASE("Inverse distance is the weighted mean", "[surfaces]") {
    const auto data = points("0 0 1, 10 0 5, 0 10 9");
    const Point2 at{3, 4};
    double sum = 0, weights = 0;
    for (const auto& p : data) {
        const double w = std::pow(distance(p.plan(), at), -3);
        sum += w * p.z, weights += w;
    }
    auto settings = settingsFor(Method::InverseDistance);
    settings.power = 3;
    CHECK(fitSurface(data, {}, settings).surface->at(at) == Approx(sum / weights));
    settings.neighbours = 1;
    CHECK(fitSurface(data, {}, settings).surface->at(at) == 1);
    settings.radius = 2;
    CHECK(std::isnan(fitSurface(data, {}, settings).surface->at(at)));
}

TEST_CASE("Linear is the plane in each triangle and nothing outside the hull", "[surfaces]") {
    const auto fit = fitSurface(points("0 0 0, 10 0 10, 0 10 20"), {}, settingsFor(Method::Linear));
    CHECK(fit.surface->at({2, 3}) == Approx(8));
    CHECK(std::isnan(fit.surface->at({8, 8})));
}

TEST_CASE("Kriging agrees with the textbook's system, with every model", "[surfaces]") {
    const auto model =
        GENERATE(VariogramModel::Linear, VariogramModel::Spherical, VariogramModel::Exponential, VariogramModel::Gaussian);
    // a gaussian model without a nugget is singular to rounding, in both ways of solving
    const double nugget = GENERATE(0.0, 4.0) + (model == VariogramModel::Gaussian ? 2 : 0);
    CAPTURE(name(model), nugget);
    const auto data = randomPoints(8, 25);
    const auto settings = krigingWith(model, nugget, 300, 60);
    const auto fit = fitSurface(data, {}, settings);
    for (const auto& q : randomPoints(9, 12)) {
        const auto at = q.plan();
        double value = 0, variance = 0;
        fit.surface->evaluate(std::span(&at, 1), std::span(&value, 1), std::span(&variance, 1));
        const auto [expected, expectedVariance] = textbookKriging(data, *settings.variogram, at);
        CHECK(value == Approx(expected).margin(1e-6));
        CHECK(variance == Approx(expectedVariance).margin(1e-6));
    }
    double value = 0, variance = 1;
    const auto at = data[0].plan();
    fit.surface->evaluate(std::span(&at, 1), std::span(&value, 1), std::span(&variance, 1));
    CHECK(value == Approx(data[0].z).margin(1e-7)); // gamma(0) = 0: honoured with a nugget too
    CHECK(variance == Approx(0).margin(1e-6));
}

TEST_CASE("Leaving one out from one factor is the same as refitting", "[surfaces]") {
    const auto method = anyMethod();
    CAPTURE(name(method));
    const auto data = randomPoints(4, 30);
    auto settings = krigingWith(VariogramModel::Spherical, 10, 500, 70);
    settings.method = method;
    const auto fit = fitSurface(data, {}, settings);
    double squares = 0;
    int n = 0;
    for (std::size_t i = 0; i < data.size(); ++i) {
        auto rest = data;
        rest.erase(rest.begin() + std::ptrdiff_t(i));
        const double predicted = fitSurface(rest, {}, settings).surface->at(data[i].plan());
        if (std::isnan(predicted)) {
            CHECK(std::isnan(fit.leaveOneOut.residuals[i]));
            continue;
        }
        CHECK(fit.leaveOneOut.residuals[i] == Approx(predicted - data[i].z).margin(1e-6));
        squares += (predicted - data[i].z) * (predicted - data[i].z), ++n;
    }
    CHECK(fit.leaveOneOut.n == n);
    CHECK(fit.leaveOneOut.rmse == Approx(std::sqrt(squares / n)));
}

TEST_CASE("Anisotropy is a squeeze of the plan", "[surfaces]") {
    const auto data = randomPoints(6, 20);
    auto stretched = data;
    for (auto& p : stretched) p.x *= 3; // long axis north: across it distances count three times
    auto settings = krigingWith(VariogramModel::Spherical, 0, 100, 80);
    const double plain = fitSurface(stretched, {}, settings).surface->at({40 * 3, 50});
    settings.anisotropy = {0, 3};
    CHECK(fitSurface(data, {}, settings).surface->at({40, 50}) == Approx(plain));
    settings.anisotropy = {180, 3};
    CHECK(fitSurface(data, {}, settings).surface->at({40, 50}) == Approx(plain));
}

TEST_CASE("Neighbourhoods of all points are the same as all points", "[surfaces]") {
    const auto data = randomPoints(12, 15);
    auto settings = krigingWith(VariogramModel::Exponential, 1, 100, 80);
    const double all = fitSurface(data, {}, settings).surface->at({33, 44});
    settings.neighbours = 14;
    settings.radius = 1e6;
    const double fewer = fitSurface(data, {}, settings).surface->at({33, 44});
    CHECK(fewer != all);
    settings.neighbours = 15;
    CHECK(fitSurface(data, {}, settings).surface->at({33, 44}) == Approx(all));
}

TEST_CASE("A variogram drawn from a model is found again", "[surfaces]") {
    // many points on a profile of a moving average: its variogram is linear up to the window
    std::mt19937 random(1);
    std::normal_distribution<double> noise;
    std::vector<double> white(2300);
    for (auto& w : white) w = noise(random);
    std::vector<Point3> data;
    constexpr int kWindow = 300;
    for (int i = 0; i < 2000; i += 1) {
        double sum = 0;
        for (int k = 0; k < kWindow; ++k) sum += white[std::size_t(i + k)];
        data.push_back({double(i), 0, sum});
    }
    const auto lags = empiricalVariogram(data);
    REQUIRE(lags.size() == 12);
    for (const auto& l : lags)
        if (l.distance < 200) CHECK(l.gamma == Approx(l.distance).epsilon(0.35)); // gamma(h) = h for a window of white noise
    const auto v = fitVariogram(data, NuggetFit::Free, 1);
    CHECK(v.at(100) == Approx(100).epsilon(0.35));
    CHECK(v.nugget < 20);
}

namespace {

/// A stationary field with an exponential covariance of this sill and practical range, at random places.
std::vector<Point3> drawnField(unsigned seed, int n, double size, double sill, double range) {
    auto out = randomPoints(seed, n, size);
    Eigen::MatrixXd c(n, n);
    for (int i = 0; i < n; ++i)
        for (int j = 0; j < n; ++j)
            c(i, j) = sill * std::exp(-3 * distance(out[std::size_t(i)].plan(), out[std::size_t(j)].plan()) / range)
                      + (i == j ? 1e-9 : 0);
    std::mt19937 random(seed + 1000);
    std::normal_distribution<double> normal;
    const Eigen::VectorXd z = c.llt().matrixL() * Eigen::VectorXd::NullaryExpr(n, [&] { return normal(random); });
    for (int i = 0; i < n; ++i) out[std::size_t(i)].z = z[i];
    return out;
}

} // namespace

TEST_CASE("Of few points the likely variogram is near that which they were drawn from, over many draws",
          "[surfaces][variogram]") {
    double logSill = 0, logRange = 0;
    constexpr int kDraws = 60;
    for (unsigned seed = 1; seed <= kDraws; ++seed) {
        const auto v = likelyVariogram(drawnField(seed, 24, 400, 4, 250), NuggetFit::Free);
        CHECK(v.nugget >= 0);
        CHECK((v.model == VariogramModel::Spherical || v.model == VariogramModel::Exponential));
        logSill += std::log(v.nugget + v.partialSill) / kDraws, logRange += std::log(v.range) / kDraws;
    }
    CHECK(std::exp(logSill) > 2.4); // of 4: so few values lie about their own mean
    CHECK(std::exp(logSill) < 5.5);
    CHECK(std::exp(logRange) > 150);
    CHECK(std::exp(logRange) < 420);
    CHECK(likelyVariogram(drawnField(1, 24, 400, 4, 250), NuggetFit::Zero).nugget == 0);
}

TEST_CASE("A shared variogram counts pairs within each set only, and one set alone is as if it were not shared",
          "[surfaces][variogram]") {
    const auto one = drawnField(1, 12, 400, 4, 250);
    const auto two = drawnField(2, 12, 400, 4, 250);
    const auto raised = [](std::vector<Point3> set, double by) {
        for (auto& p : set) p.z += by;
        return set;
    };
    using Sets = std::vector<std::vector<Point3>>;
    CHECK(sharedVariogram(Sets{one}, NuggetFit::Zero) == likelyVariogram(one, NuggetFit::Zero));
    const auto shared = sharedVariogram(Sets{one, two}, NuggetFit::Zero).value();
    const auto apart = sharedVariogram(Sets{one, raised(two, 256)}, NuggetFit::Zero).value(); // each set has a mean of its own
    CHECK(apart.range == shared.range);
    CHECK(apart.partialSill == Approx(shared.partialSill).epsilon(1e-6));
    CHECK(sharedVariogram(Sets{one, one}, NuggetFit::Zero)->range > 0);
    // many points: least squares of the lags of all pairs within the sets, which for twice the same set are its own
    const auto many = drawnField(3, 60, 400, 4, 250);
    const auto own = variogramOfLags(empiricalVariogram(many), NuggetFit::Zero, {});
    const auto twice = sharedVariogram(Sets{many, raised(many, 256)}, NuggetFit::Zero).value();
    CHECK(twice.range == Approx(own.range).epsilon(1e-6));
    CHECK(twice.partialSill == Approx(own.partialSill).epsilon(1e-6));
    // sets that tell nothing add nothing
    const std::vector<Point3> level{{0, 0, 5}, {100, 0, 5}}, single{{3, 4, 5}}, stacked{{3, 4, 5}, {3, 4, 6}};
    CHECK_FALSE(sharedVariogram(Sets{level, single, stacked, {}}, NuggetFit::Zero));
    CHECK(sharedVariogram(Sets{one, level, single}, NuggetFit::Zero) == likelyVariogram(one, NuggetFit::Zero));
}

TEST_CASE("Variograms that four sets of six points share are nearer to the one they were drawn from than their own",
          "[surfaces][variogram]") {
    double own = 0, shared = 0;
    constexpr double kTrue = 250;
    for (unsigned seed = 200; seed < 230; ++seed) {
        std::vector<std::vector<Point3>> sets;
        for (unsigned k = 0; k < 4; ++k) sets.push_back(drawnField(seed * 4 + k, 6, 400, 4, kTrue));
        for (const auto& set : sets) own += std::pow(std::log(likelyVariogram(set, NuggetFit::Zero).partialSill / 4), 2) / 4;
        shared += std::pow(std::log(sharedVariogram(sets, NuggetFit::Zero)->partialSill / 4), 2);
    }
    CHECK(shared < 0.7 * own);
}

TEST_CASE("By their likely variogram left-out points of few are told no worse than by a fit to lags, over many draws",
          "[surfaces][variogram]") {
    double likely = 0, plain = 0;
    for (unsigned seed = 100; seed < 140; ++seed) {
        const auto data = drawnField(seed, 40, 400, 4, 250);
        const std::span few(data.data(), 20);
        const auto error = [&](const Variogram& v) {
            SurfaceSettings settings;
            settings.variogram = v;
            const auto fit = fitSurface({few.begin(), few.end()}, {}, settings);
            double sum = 0;
            for (std::size_t i = 20; i < data.size(); ++i) sum += std::pow(fit.surface->at(data[i].plan()) - data[i].z, 2);
            return sum;
        };
        likely += error(fitVariogram(few, NuggetFit::Free, 1));
        // what was done before: the middle lag's value as the sill, a third of the longest distance as the range
        const auto lags = empiricalVariogram(few);
        plain += error({VariogramModel::Spherical, 0, lags[lags.size() / 2].gamma, lags.back().distance});
    }
    CHECK(likely < 1.02 * plain);
}

TEST_CASE("A smooth field without noise has no gaussian variogram", "[surfaces][variogram]") {
    auto data = randomPoints(5, 200, 300);
    for (auto& p : data) p.z = std::sin(p.x / 80) * std::cos(p.y / 70);
    for (const auto fit : {NuggetFit::Free, NuggetFit::Zero}) {
        const auto v = fitVariogram(data, fit, 1);
        CHECK((v.model != VariogramModel::Gaussian || v.nugget >= 0.01 * v.partialSill));
    }
}

TEST_CASE("Too few points still have a variogram", "[surfaces]") {
    const auto v = fitVariogram(points("0 0 1, 5 5 2"), NuggetFit::Free, 321);
    CHECK(v.range == 321);
    CHECK(v.partialSill == 0.5); // the variance of 1 and 2
    CHECK(fitVariogram(points("0 0 1, 5 5 1, 9 0 1, 3 8 1"), NuggetFit::Free, 50).range == 50);
}

TEST_CASE("Bounds are kept exactly and only where they bite", "[surfaces]") {
    const auto method = GENERATE(from_range(allMethods().begin() + 1, allMethods().end()));
    REQUIRE(method != Method::Nearest); // keeps none
    CAPTURE(name(method));
    const auto data = points("0 0 10, 100 0 10, 0 100 10, 100 100 10");
    const std::vector<Bound> bounds{
        {{50, 50, 4}, Side::Upper, "A"}, {{20, 20, 2}, Side::Lower, "B"}, {{70, 30, 12}, Side::Lower, "C"}};
    const auto fit = fitSurface(data, bounds, settingsFor(method));
    CHECK(fit.brokenBounds == 0);
    CHECK(fit.activeBounds == 2);
    CHECK(fit.surface->at({50, 50}) == Approx(4));
    CHECK(fit.surface->at({70, 30}) == Approx(12));
    CHECK(fit.surface->at({20, 20}) >= 2);
    CHECK(fit.upperBounds == 1);
    CHECK(fit.lowerBounds == 2);
}

TEST_CASE("Bounded kriging is the best of all sets of active bounds", "[surfaces][random]") {
    // the quadratic programme by brute force: of every subset taken as equalities, those that keep all bounds; the
    // smallest norm of them is the answer
    const auto seed = GENERATE(range(1u, 13u));
    CAPTURE(seed);
    const auto data = randomPoints(seed, 6);
    const auto at = randomPoints(seed + 50, 6);
    std::vector<Bound> bounds;
    for (std::size_t i = 0; i < at.size(); ++i) bounds.push_back({at[i], i % 2 ? Side::Upper : Side::Lower, ""});
    const auto settings = krigingWith(VariogramModel::Exponential, 0, 400, 60);
    const auto fit = fitSurface(data, bounds, settings);
    REQUIRE(fit.brokenBounds == 0);
    double best = std::numeric_limits<double>::infinity(), bestValue = 0;
    for (unsigned set = 0; set < 64; ++set) {
        auto points = data;
        for (std::size_t i = 0; i < 6; ++i)
            if (set >> i & 1) points.push_back(bounds[i].place);
        const auto f = fitSurface(points, {}, settings);
        bool kept = true;
        for (const auto& b : bounds)
            kept &=
                (b.side == Side::Upper ? f.surface->at(b.place.plan()) - b.place.z : b.place.z - f.surface->at(b.place.plan()))
                < 1e-7;
        if (!kept) continue;
        const auto n = Eigen::Index(points.size());
        Eigen::MatrixXd k(n, n);
        Eigen::VectorXd z(n), ones = Eigen::VectorXd::Ones(n);
        for (Eigen::Index i = 0; i < n; ++i) {
            z(i) = points[std::size_t(i)].z;
            for (Eigen::Index j = 0; j < n; ++j)
                k(i, j) = 400 - settings.variogram->at(distance(points[std::size_t(i)].plan(), points[std::size_t(j)].plan()));
        }
        const Eigen::LDLT<Eigen::MatrixXd> solver(k);
        const double mean = ones.dot(solver.solve(z)) / ones.dot(solver.solve(ones));
        const Eigen::VectorXd r = z - mean * ones;
        const double norm = r.dot(solver.solve(r));
        if (norm < best) best = norm, bestValue = f.surface->at({50, 50});
    }
    CHECK(fit.surface->at({50, 50}) == Approx(bestValue).margin(1e-5));
}

TEST_CASE("Bounds that can't be met are named and left out", "[surfaces]") {
    const auto data = points("0 0 10, 100 0 12, 0 100 9");
    SECTION("against a datum") {
        const auto fit = fitSurface(data, std::vector<Bound>{{{0, 0, 4}, Side::Upper, "BH7"}}, settingsFor(Method::Kriging));
        REQUIRE(fit.findings.size() == 1);
        CHECK(fit.findings[0].hole == "BH7");
        CHECK(fit.findings[0].message.find("10.00 m") != std::string::npos);
        CHECK(fit.surface->at({0, 0}) == Approx(10));
    }
    SECTION("against one another") {
        const auto fit =
            fitSurface(data, std::vector<Bound>{{{50, 50, 4}, Side::Upper, "BH7"}, {{50, 50, 6}, Side::Lower, "BH8"}},
                       settingsFor(Method::Kriging));
        REQUIRE(fit.findings.size() == 1);
        CHECK(fit.findings[0].message.find("BH7") != std::string::npos);
    }
}

TEST_CASE("A sampled grid does not depend on threads", "[surfaces]") {
    const auto fit = fitSurface(randomPoints(21, 50), {}, settingsFor(Method::Kriging));
    Grid varianceA, varianceB;
    const auto a = sample(*fit.surface, {0, 0, 100, 100, 2}, &varianceA);
    std::shared_ptr<Grid> b;
    {
        const ThreadLimit one(1);
        b = std::make_shared<Grid>(sample(*fit.surface, {0, 0, 100, 100, 2}, &varianceB));
    }
    CHECK(a.values == b->values);
    CHECK(varianceA.values == varianceB.values);
    CHECK(a.at(3, 4) == fit.surface->at(a.frame.centre(3, 4)));
}
