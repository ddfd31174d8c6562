#include "surfaces/variogram.h"

#include "base/errors.h"
#include "base/text.h"
#include "surfaces/kriging_system.h"
#include "surfaces/plane.h"

#include <Eigen/Dense>
#include <fmt/format.h>
#include <numbers>
#include <numeric>

// The empirical variogram is the classical mean of half squared differences (Matheron 1962), to half of the longest distance. A
// model is fitted by least squares weighted by pairs / distance^2 (near lags count most, as Cressie 1985 asks for in spirit): for
// a given range, nugget and sill are two linear unknowns, solved in closed form and kept from being negative; the range itself is
// searched on a geometric grid and then by golden sections. Of the models the one is taken by which kriging tells left-out points
// best: residuals of the lags judge what happens far away, estimates depend on what happens near. More than 2,000 points are
// thinned evenly: pairs grow with the square.
namespace fox {

namespace {
constexpr std::pair<VariogramModel, const char*> kNames[] = {{VariogramModel::Linear, "linear"},
                                                             {VariogramModel::Spherical, "spherical"},
                                                             {VariogramModel::Exponential, "exponential"},
                                                             {VariogramModel::Gaussian, "gaussian"}};

double shape(VariogramModel model, double t) {
    switch (model) {
    case VariogramModel::Linear: return t;
    case VariogramModel::Spherical: return t >= 1 ? 1 : t * (1.5 - 0.5 * t * t);
    case VariogramModel::Exponential: return 1 - std::exp(-3 * t);
    case VariogramModel::Gaussian: return 1 - std::exp(-3 * t * t);
    }
    return 0;
}
} // namespace

const char* name(VariogramModel model) { return kNames[std::size_t(model)].second; }

std::optional<VariogramModel> variogramModel(std::string_view wanted) {
    for (const auto& [model, text] : kNames)
        if (equalNoCase(text, wanted)) return model;
    return {};
}

std::optional<Variogram> variogramFrom(std::string_view text) {
    const auto words = split(text, ',');
    const auto model = words.size() == 4 ? variogramModel(trimmed(words[0])) : std::nullopt;
    if (!model) return {};
    std::array<double, 3> numbers{};
    for (std::size_t i = 0; i < numbers.size(); ++i) numbers[i] = parseNumber(trimmed(words[i + 1])).value_or(-1);
    const auto [nugget, partialSill, range] = numbers;
    if (nugget < 0 || partialSill < 0 || !(nugget + partialSill > 0) || !(range > 0)) return {};
    return Variogram{*model, nugget, partialSill, range};
}

std::string written(const Variogram& v) { return fmt::format("{},{},{},{}", name(v.model), v.nugget, v.partialSill, v.range); }

double Variogram::at(double h) const { return h == 0 ? 0 : nugget + partialSill * shape(model, h / range); }

namespace {

bool inSector(Point2 from, Point2 to, const DirectionSector& sector) {
    if (sector.tolerance >= 90) return true;
    const double azimuth = std::atan2(to.x - from.x, to.y - from.y) * 180 / std::numbers::pi;
    return std::abs(std::remainder(azimuth - sector.azimuth, 180)) <= sector.tolerance;
}

} // namespace

std::vector<Point3> lessPlane(std::span<const Point3> points) {
    std::vector<Point3> out(points.begin(), points.end());
    if (points.size() < 4) return out;
    if (const auto plane = planeThrough(points))
        for (auto& p : out) p.z -= plane->at(p.plan()) - plane->through.z;
    return out;
}

namespace {

/// Of pairs within each of the sets, to half of the longest distance in any.
std::vector<VariogramLag> lagsOf(std::span<const std::vector<Point3>> sets, int lags, const DirectionSector& sector) {
    constexpr std::size_t kMost = 2000;
    std::vector<std::vector<Point3>> taken;
    double longest = 0;
    for (const auto& points : sets) {
        auto& some = taken.emplace_back();
        const std::size_t n = std::min(points.size(), kMost);
        for (std::size_t i = 0; i < n; ++i) some.push_back(points[i * points.size() / n]);
        for (std::size_t i = 0; i < n; ++i)
            for (std::size_t j = 0; j < i; ++j) longest = std::max(longest, distance(some[i].plan(), some[j].plan()));
    }
    std::vector<VariogramLag> out(std::size_t(lags), VariogramLag{});
    const double width = longest / 2 / lags;
    if (width <= 0) return {};
    for (const auto& some : taken)
        for (std::size_t i = 0; i < some.size(); ++i)
            for (std::size_t j = 0; j < i; ++j) {
                const double h = distance(some[i].plan(), some[j].plan()), dz = some[i].z - some[j].z;
                const auto lag = std::size_t(h / width);
                if (lag >= out.size() || !inSector(some[i].plan(), some[j].plan(), sector)) continue;
                out[lag].distance += h;
                out[lag].gamma += dz * dz / 2;
                ++out[lag].pairs;
            }
    std::erase_if(out, [](const VariogramLag& l) { return l.pairs == 0; });
    for (auto& l : out) l.distance /= l.pairs, l.gamma /= l.pairs;
    return out;
}

} // namespace

std::vector<VariogramLag> empiricalVariogram(std::span<const Point3> points, int lags, const DirectionSector& sector) {
    const std::vector<Point3> all(points.begin(), points.end());
    return lagsOf({&all, 1}, lags, sector);
}

namespace {

struct Fit {
    Variogram variogram;
    double residual = std::numeric_limits<double>::infinity();
};

/// A lag as a fit counts it.
struct WeightedLag {
    double distance, gamma, weight;
};

std::vector<WeightedLag> weighted(const std::vector<VariogramLag>& lags) {
    std::vector<WeightedLag> out;
    for (const auto& l : lags) out.push_back({l.distance, l.gamma, l.pairs / (l.distance * l.distance)});
    return out;
}

/// Nugget and sill for a given range: two unknowns, weighted least squares, neither negative.
Fit fitSills(const std::vector<WeightedLag>& lags, VariogramModel model, double range, NuggetFit nuggetFit) {
    double s1 = 0, sg = 0, sgg = 0, sy = 0, sgy = 0;
    for (const auto& l : lags) {
        const double w = l.weight, g = shape(model, l.distance / range);
        s1 += w, sg += w * g, sgg += w * g * g, sy += w * l.gamma, sgy += w * g * l.gamma;
    }
    double nugget = 0, sill = sgg > 0 ? sgy / sgg : 0;
    if (nuggetFit == NuggetFit::Free) {
        const double det = s1 * sgg - sg * sg;
        if (det > 1e-12 * s1 * sgg) {
            const double a = (sgg * sy - sg * sgy) / det, b = (s1 * sgy - sg * sy) / det;
            if (a >= 0 && b >= 0)
                nugget = a, sill = b;
            else if (b < 0)
                nugget = sy / s1, sill = 0;
        }
    }
    Fit fit{{model, nugget, std::max(0.0, sill), range}, 0};
    for (const auto& l : lags) {
        const double miss = l.gamma - fit.variogram.at(l.distance);
        fit.residual += l.weight * miss * miss;
    }
    return fit;
}

Fit fitModel(const std::vector<WeightedLag>& lags, VariogramModel model, NuggetFit nuggetFit) {
    const auto [least, most] = std::ranges::minmax(lags, {}, &WeightedLag::distance);
    const double shortest = least.distance, longest = most.distance;
    if (model == VariogramModel::Linear) return fitSills(lags, model, longest, nuggetFit); // the range is only a scale
    constexpr int kSteps = 40;
    const double factor = std::pow(4 * longest / shortest, 1.0 / kSteps);
    Fit best;
    for (int i = 0; i <= kSteps; ++i) {
        const auto fit = fitSills(lags, model, shortest * std::pow(factor, i), nuggetFit);
        if (fit.residual < best.residual) best = fit;
    }
    double low = best.variogram.range / factor, high = best.variogram.range * factor;
    constexpr double kGolden = 0.618033988749895;
    for (int i = 0; i < 30; ++i) {
        const double a = high - kGolden * (high - low), b = low + kGolden * (high - low);
        const auto fa = fitSills(lags, model, a, nuggetFit), fb = fitSills(lags, model, b, nuggetFit);
        (fa.residual < fb.residual ? high : low) = fa.residual < fb.residual ? b : a;
        const auto& better = fa.residual < fb.residual ? fa : fb;
        if (better.residual < best.residual) best = better;
    }
    return best;
}

/// Of the spherical and the exponential the one that fits better.
Fit bestOfUsual(const std::vector<WeightedLag>& lags, NuggetFit nuggetFit) {
    Fit best;
    for (const auto model : {VariogramModel::Spherical, VariogramModel::Exponential})
        if (const auto fit = fitModel(lags, model, nuggetFit); fit.residual < best.residual) best = fit;
    // pure nugget: the equations need some structure
    if (best.variogram.partialSill <= 0) best.variogram.partialSill = std::max(best.variogram.nugget, 1e-12) * 1e-6;
    return best;
}

/// Of several variograms the one by which ordinary kriging tells left-out points best; the first of those within 2 % of it.
Variogram bestToldBy(std::span<const Point3> points, const std::vector<Variogram>& fits) {
    constexpr std::size_t kMost = 300; // points: the work rises with the cube
    const std::size_t n = std::min(points.size(), kMost);
    std::vector<Point2> places;
    Eigen::VectorXd z{Eigen::Index(n)};
    // a compact part of them, so that they stand as close as all do
    std::vector<std::size_t> order(points.size());
    std::iota(order.begin(), order.end(), 0);
    const auto middle = points[points.size() / 2].plan();
    std::ranges::nth_element(order, order.begin() + std::ptrdiff_t(n - 1), {},
                             [&](std::size_t i) { return distance(points[i].plan(), middle); });
    std::sort(order.begin(), order.begin() + std::ptrdiff_t(n));
    for (std::size_t i = 0; i < n; ++i) places.push_back(points[order[i]].plan()), z[Eigen::Index(i)] = points[order[i]].z;
    std::vector<double> errors;
    for (const auto& fit : fits) {
        double sum = 0;
        try {
            const detail::KrigingSystem system(places, z, fit, detail::Drift::Constant);
            for (std::size_t i = 0; i < n; ++i) sum += std::pow(system.leaveOneOut(i), 2);
        } catch (const Error&) { // points at one place, as lags do not mind them
            sum = std::numeric_limits<double>::infinity();
        }
        errors.push_back(std::sqrt(sum));
    }
    const double best = std::ranges::min(errors);
    constexpr double kAsGood = 1.02;
    for (std::size_t i = 0; i < fits.size(); ++i)
        if (errors[i] <= best * kAsGood) return fits[i];
    return fits.front();
}

} // namespace

namespace {

/// Values with the distances between their places.
struct DistantValues {
    Eigen::MatrixXd h;
    Eigen::VectorXd z;
    explicit DistantValues(std::span<const Point3> points)
        : h(Eigen::Index(points.size()), Eigen::Index(points.size())), z(Eigen::Index(points.size())) {
        for (Eigen::Index i = 0; i < z.size(); ++i) {
            const auto& p = points[std::size_t(i)];
            z[i] = p.z;
            for (Eigen::Index j = 0; j < z.size(); ++j) h(i, j) = distance(p.plan(), points[std::size_t(j)].plan());
        }
    }
    double spacing() const {
        constexpr double kOfSquare = 0.5214; // mean distance of places spread over a square, in parts of its side
        const auto n = double(z.size());
        return h.sum() / (n * (n - 1)) / kOfSquare / std::sqrt(n);
    }
};

/// What one set says of a correlation: ln of determinants, and the sum of squares about its mean by generalised least squares.
struct SetLikelihood {
    double logs = 0, squares = 0, degrees = 0;
};

std::optional<SetLikelihood> likelihoodOf(const DistantValues& set, VariogramModel model, double range, double share) {
    constexpr double kJitter = 1e-9; // of the sill, for places that lie close together
    Eigen::MatrixXd c = set.h.unaryExpr([&](double d) { return (1 - share) * (1 - shape(model, std::min(d / range, 1e3))); });
    c.diagonal().setConstant(1 + kJitter);
    const Eigen::LLT<Eigen::MatrixXd> factor(c);
    if (factor.info() != Eigen::Success) return {};
    const Eigen::VectorXd ones = Eigen::VectorXd::Ones(set.z.size());
    const Eigen::VectorXd u = factor.matrixL().solve(ones), w = factor.matrixL().solve(set.z);
    const double mean = u.dot(w) / u.squaredNorm();
    return SetLikelihood{factor.matrixLLT().diagonal().array().log().sum() + 0.5 * std::log(u.squaredNorm()),
                         (w - mean * u).squaredNorm(), double(set.z.size() - 1)};
}

/// See likelyVariogram(): each set has a mean of its own.
Variogram likelyOf(const std::vector<DistantValues>& sets, NuggetFit nuggetFit) {
    double spacing = 0;
    for (const auto& s : sets) spacing += s.spacing() / double(sets.size());
    Variogram best;
    double most = -std::numeric_limits<double>::infinity();
    constexpr double kTypical = 5, kDeviation = 0.8, kShort = 1, kLong = 20; // ranges, in spacings
    constexpr int kRanges = 16;
    const auto consider = [&](VariogramModel model, double range, double share) { // of the nugget in the sill
        SetLikelihood all;
        for (const auto& s : sets) {
            const auto one = likelihoodOf(s, model, range, share);
            if (!one) return;
            all.logs += one->logs, all.squares += one->squares, all.degrees += one->degrees;
        }
        if (!(all.squares > 0)) return;
        const double sill = all.squares / all.degrees, away = (std::log(range / spacing) - std::log(kTypical)) / kDeviation;
        const double likely = -0.5 * all.degrees * std::log(sill) - all.logs - away * away / 2 - 2 * share;
        if (likely > most) most = likely, best = {model, share * sill, (1 - share) * sill, range};
    };
    for (const auto model : {VariogramModel::Spherical, VariogramModel::Exponential})
        for (int r = 0; r < kRanges; ++r)
            for (const double share : {0.0, 0.03, 0.1, 0.25, 0.5})
                if (share == 0 || nuggetFit == NuggetFit::Free)
                    consider(model, spacing * kShort * std::pow(kLong / kShort, double(r) / (kRanges - 1)), share);
    return best;
}

} // namespace

Variogram likelyVariogram(std::span<const Point3> points, NuggetFit nuggetFit) {
    return likelyOf({DistantValues(points)}, nuggetFit);
}

std::optional<Variogram> sharedVariogram(std::span<const std::vector<Point3>> given, NuggetFit nuggetFit) {
    std::vector<std::vector<Point3>> sets;
    std::size_t points = 0;
    for (const auto& set : given) {
        const bool varies = std::ranges::any_of(set, [&](const Point3& p) { return p.z != set.front().z; });
        const bool apart = std::ranges::any_of(set, [&](const Point3& p) { return distance(p.plan(), set.front().plan()) > 0; });
        if (varies && apart) sets.push_back(set), points += set.size();
    }
    if (sets.empty()) return {};
    if (points < kManyPoints) return likelyOf({sets.begin(), sets.end()}, nuggetFit);
    const auto lags = lagsOf(sets, kLags, {});
    constexpr std::size_t kFewest = 3; // of lags, for a line through them
    if (lags.size() < kFewest) return {};
    return variogramOfLags(lags, nuggetFit, {});
}

Variogram variogramOfLags(const std::vector<VariogramLag>& lags, NuggetFit nuggetFit, const Variogram& otherwise) {
    const bool varies = std::ranges::any_of(lags, [](const auto& l) { return l.gamma > 0; });
    if (lags.size() < 3 || !varies) return otherwise;
    return bestOfUsual(weighted(lags), nuggetFit).variogram;
}

std::optional<TwoRanges> variogramOfDirections(const std::vector<VariogramLag>& first, const std::vector<VariogramLag>& second,
                                               NuggetFit nuggetFit) {
    constexpr std::size_t kFewest = 3; // of lags, for a line through them
    const auto varies = [](const auto& lags) { return std::ranges::any_of(lags, [](const auto& l) { return l.gamma > 0; }); };
    if (first.size() < kFewest || second.size() < kFewest || (!varies(first) && !varies(second))) return {};
    const auto at = [&](double ratio) {
        std::vector<WeightedLag> all;
        for (const auto& [lags, stretch] : {std::pair(&first, 1.0), std::pair(&second, ratio)}) {
            double pairs = 0;
            for (const auto& l : *lags) pairs += l.pairs;
            const double farthest = lags->back().distance;
            for (const auto& l : *lags)
                all.push_back({l.distance * stretch, l.gamma, l.pairs / pairs * std::pow(farthest / l.distance, 2)});
        }
        return bestOfUsual(all, nuggetFit);
    };
    constexpr double kLeastRatio = 0.1, kMostRatio = 1000;
    constexpr int kRatios = 60;
    const double factor = std::pow(kMostRatio / kLeastRatio, 1.0 / kRatios);
    double best = 1;
    Fit fit;
    const auto consider = [&](double ratio) {
        if (const auto one = at(ratio); one.residual < fit.residual) fit = one, best = ratio;
    };
    for (int i = 0; i <= kRatios; ++i) consider(kLeastRatio * std::pow(factor, i));
    constexpr int kFiner = 8;
    const double coarse = best;
    for (int i = -kFiner + 1; i < kFiner; ++i) consider(coarse * std::pow(factor, double(i) / kFiner));
    return TwoRanges{fit.variogram, best};
}

Variogram fitVariogram(std::span<const Point3> points, NuggetFit nuggetFit, double fallbackRange) {
    const auto lags = empiricalVariogram(points);
    const bool varies = std::ranges::any_of(lags, [](const auto& l) { return l.gamma > 0; });
    if (lags.size() < 3 || !varies) {
        double mean = 0, squares = 0;
        for (const auto& p : points) mean += p.z / double(points.size());
        for (const auto& p : points) squares += (p.z - mean) * (p.z - mean);
        const double variance = points.size() > 1 ? squares / double(points.size() - 1) : 0;
        constexpr double kResolved = 1e-4; // square metres: values that are all one were read to the centimetre
        return {VariogramModel::Spherical, 0, points.size() > 1 ? std::max(variance, kResolved) : 1,
                std::max(1.0, fallbackRange)};
    }
    if (points.size() < kManyPoints) return likelyVariogram(points, nuggetFit);
    std::vector<Variogram> fits;
    for (const auto& [model, text] : kNames) {
        auto fit = fitModel(weighted(lags), model, nuggetFit).variogram;
        if (fit.partialSill <= 0) // pure nugget: the equations need some structure
            fit.partialSill = std::max(fit.nugget, 1e-12) * 1e-6;
        // without a nugget a gaussian model overshoots between points and its equations are near singular
        constexpr double kLeastNugget = 0.01; // of the sill
        if (model == VariogramModel::Gaussian && !(fit.nugget >= kLeastNugget * fit.partialSill)) continue;
        fits.push_back(fit);
    }
    return bestToldBy(points, fits);
}

} // namespace fox
