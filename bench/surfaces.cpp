// Benchmarks of the surface methods.
#include "base/parallel.h"
#include "bench.h"
#include "surfaces/surface.h"

#include <Eigen/Dense>
#include <cpl_conv.h>
#include <gdal_alg.h>
#include <gdal_priv.h>
#include <tbb/parallel_for.h>

namespace fox::bench {

namespace {

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

} // namespace

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

void inverseDistance() {
    const auto data = surveyLike(20'000);
    const Frame frame{0, 0, 10000, 10000, 10};
    SurfaceSettings settings;
    settings.method = Method::InverseDistance;
    settings.neighbours = 12;
    const auto fit = fitSurface(data, {}, settings);
    Grid grid;
    const double ours = seconds(3, [&] { grid = sample(*fit.surface, frame); });
    std::vector<double> x, y, z, values(frame.cells());
    for (const auto& p : data) x.push_back(p.x), y.push_back(p.y), z.push_back(p.z);
    GDALAllRegister();
    CPLSetConfigOption("GDAL_NUM_THREADS", "ALL_CPUS"); // both cores, as ours
    // the smallest radius that always has 12 points: a larger one would only cost it more
    constexpr double kRadius = 320;
    const double theirs = seconds(1, [&] {
        GDALGridInverseDistanceToAPowerNearestNeighborOptions options{};
        options.nSizeOfStructure = sizeof options;
        options.dfPower = 2;
        options.dfRadius = kRadius;
        options.nMaxPoints = 12;
        options.dfNoDataValue = -9999;
        GDALGridCreate(GGA_InverseDistanceToAPowerNearestNeighbor, &options, GUInt32(data.size()), x.data(), y.data(), z.data(),
                       frame.xmin, frame.xmax, frame.ymin, frame.ymax, GUInt32(frame.columns()), GUInt32(frame.rows()),
                       GDT_Float64, values.data(), nullptr, nullptr);
    });
    double worst = 0;
    int missing = 0;
    for (int r = 0; r < frame.rows(); ++r) // GDAL counts rows from the south
        for (int c = 0; c < frame.columns(); ++c) {
            const double v = values[std::size_t(frame.rows() - 1 - r) * std::size_t(frame.columns()) + std::size_t(c)];
            if (v == -9999)
                ++missing;
            else
                worst = std::max(worst, std::abs(v - grid.at(c, r)));
        }
    report("inverse distance, 12 of 20,000, 1000 x 1000", ours, theirs, "GDAL, nearest neighbours", 1.0 / 8);
    fmt::print("  values differ by {:.1e} m at most; {} cells without value in GDAL's\n", worst, missing);
}

/// 200 contacts and 200 bounds of which about 60 bind, against the contacts alone; both sampled.
void bounds() {
    auto data = surveyLike(400);
    const Frame frame{0, 0, 10000, 10000, 40};
    const std::vector<Point3> contacts(data.begin(), data.begin() + 200);
    SurfaceSettings settings;
    const auto free = fitSurface(contacts, {}, settings);
    std::vector<Bound> some;
    for (std::size_t i = 200; i < 400; ++i) {
        auto p = data[i];
        p.z = free.surface->at(p.plan()) + (i % 10 < 4 ? -1 : 2); // four in ten broken; some of them help others
        some.push_back({p, Side::Upper, ""});
    }
    FittedSurface bounded;
    const double without = seconds(5, [&] { fitSurface(contacts, {}, settings); });
    const double with = seconds(5, [&] { bounded = fitSurface(contacts, some, settings); });
    const double withoutGrid = seconds(3, [&] { sample(*free.surface, frame); });
    const double withGrid = seconds(3, [&] { sample(*bounded.surface, frame); });
    report("200 contacts and 200 bounds, fit and 250 x 250", with + withGrid, without + withoutGrid, "the contacts alone", 3);
    fmt::print("  {} of {} bounds bind, {} broken; the fit alone {:.4f} s against {:.4f} s, ratio {:.2f}\n", bounded.activeBounds,
               some.size(), bounded.brokenBounds, with, without, with / without);
}

void neighbours() {
    const auto data = surveyLike(100'000);
    const Frame frame{0, 0, 10000, 10000, 10};
    SurfaceSettings settings;
    settings.neighbours = 32;
    settings.variogram = Variogram{VariogramModel::Spherical, 0.1, 100, 4000};
    const double before = peakMegabytes();
    double fitting = 0;
    const double ours = seconds(1, [&] {
        const auto fit = fitSurface(data, {}, settings);
        fitting = fit.leaveOneOut.rmse;
        sample(*fit.surface, frame);
    });
    fmt::print("kriging of 100,000 points with 32 neighbours onto 1000 x 1000: {:.1f} s (under 20), {:.0f} MB more (under 1000), "
               "left-out error {:.3f} m\n",
               ours, peakMegabytes() - before, fitting);
}

} // namespace fox::bench
