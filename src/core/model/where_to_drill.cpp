#include "model/where_to_drill.h"

#include "base/errors.h"
#include "base/parallel.h"

#include <Eigen/Dense>
#include <array>

// Each realisation is a site that may be the true one. A hole in it would find this and that, and the aim has a value there; over
// all realisations, what the finds explain of the aim's variance is what the hole is expected to take away. A regression with k
// finds explains k / (n - 1) of n realisations by chance alone: that is taken off (the adjusted coefficient of determination).
// The work is n times places times finds for each candidate, once the realisations are there.
namespace fox {

namespace {

using Eigen::Index;
using Eigen::MatrixXd;

constexpr const char* kNames[] = {"volume", "base", "presence"};
constexpr const char* kWords[] = {"its volume", "the level of its base", "where it is present"};
constexpr double kThere = 0.05; // metres of a unit
constexpr int kAimCells = 40;   // across the extent

/// Levels of a unit's top and base in each realisation: a row a place.
struct Realised {
    std::vector<Point2> places;
    std::vector<double> ground;
    MatrixXd top, base;
};

/// Places without ground are left out.
Realised realise(const Model& model, const ModelRealisations& all, std::size_t unit, std::span<const Point2> places,
                 const Progress& progress) {
    Realised out;
    for (const auto& p : places)
        if (const auto ground = model.terrain->levelAt(p)) out.places.push_back(p), out.ground.push_back(*ground);
    const auto n = Index(out.places.size()), count = Index(all.count());
    out.top.resize(n, count), out.base.resize(n, count);
    parallelFor(
        out.places.size(), 128,
        [&](std::size_t begin, std::size_t end) {
            const auto bases =
                all.basesAt(std::span(out.places).subspan(begin, end - begin), std::span(out.ground).subspan(begin, end - begin));
            for (auto i = begin; i < end; ++i)
                for (Index r = 0; r < count; ++r) {
                    const auto at = (i - begin) * std::size_t(count) + std::size_t(r);
                    out.base(Index(i), r) = bases[unit][at];
                    out.top(Index(i), r) = unit == 0 ? out.ground[i] : bases[unit - 1][at];
                }
        },
        progress);
    return out;
}

void centre(MatrixXd& rows) { rows.colwise() -= rows.rowwise().mean().eval(); }

/// The aim in each realisation, less its mean: one row, or a row a place.
MatrixXd aimOf(const Realised& r, DrillAim::Kind kind) {
    MatrixXd out;
    switch (kind) {
    case DrillAim::Kind::Volume: out = (r.top - r.base).colwise().sum(); break;
    case DrillAim::Kind::Base: out = r.base; break;
    case DrillAim::Kind::Presence: out = ((r.top - r.base).array() > kThere).cast<double>(); break;
    }
    centre(out);
    return out;
}

/// The share of a centred aim's variance that a hole at one place explains.
double gainAt(const MatrixXd& aim, double ground, const Eigen::RowVectorXd& top, const Eigen::RowVectorXd& base,
              std::optional<double> depth) {
    const Index n = top.size();
    const double end = depth ? ground - *depth : -std::numeric_limits<double>::infinity();
    MatrixXd finds(4, n);
    for (Index r = 0; r < n; ++r) {
        finds(0, r) = std::max(top[r], end), finds(1, r) = std::max(base[r], end);
        finds(2, r) = finds(0, r) - finds(1, r) > kThere;
        finds(3, r) = base[r] > end;
    }
    centre(finds);
    Eigen::ColPivHouseholderQR<MatrixXd> factor(finds.transpose());
    constexpr double kLeastFind = 1e-6; // metres over all realisations: less is rounding
    factor.setThreshold(kLeastFind / std::max(kLeastFind, finds.norm()));
    const Index rank = finds.norm() > kLeastFind ? factor.rank() : 0;
    if (rank == 0 || n - rank < 2) return 0;
    const MatrixXd directions = factor.householderQ() * MatrixXd::Identity(n, rank);
    const double total = aim.squaredNorm();
    if (!(total > 0)) return 0;
    const double explained = (aim * directions).squaredNorm() / total;
    return std::clamp(1 - (1 - explained) * double(n - 1) / double(n - rank - 1), 0.0, 1.0);
}

} // namespace

const char* name(DrillAim::Kind kind) { return kNames[std::size_t(kind)]; }
const char* words(DrillAim::Kind kind) { return kWords[std::size_t(kind)]; }
std::optional<DrillAim::Kind> drillAimNamed(std::string_view wanted) {
    for (std::size_t k = 0; k < std::size(kNames); ++k)
        if (wanted == kNames[k]) return DrillAim::Kind(k);
    return {};
}

std::vector<Point2> drillCandidates(const Box2& extent, int count) {
    std::vector<Point2> out;
    if (extent.empty() || count < 1) return out;
    const double step = std::sqrt(extent.width() * extent.height() / count);
    if (!(step > 0)) return {extent.centre()};
    const int columns = std::max(1, int(std::lround(extent.width() / step))),
              rows = std::max(1, int(std::lround(extent.height() / step)));
    for (int r = 0; r < rows; ++r)
        for (int c = 0; c < columns; ++c)
            out.push_back({extent.xmin + extent.width() * (c + 0.5) / columns, extent.ymin + extent.height() * (r + 0.5) / rows});
    return out;
}

std::vector<Point2> drillCandidates(const Polyline2& line, int count) {
    std::vector<Point2> out;
    double length = 0;
    for (std::size_t i = 1; i < line.size(); ++i) length += distance(line[i - 1], line[i]);
    double start = 0; // of the piece, along the line
    std::size_t piece = 1;
    for (int k = 0; k < count && line.size() > 1; ++k) {
        const double at = count > 1 ? length * k / (count - 1) : 0;
        while (piece + 1 < line.size() && at > start + distance(line[piece - 1], line[piece]))
            start += distance(line[piece - 1], line[piece]), ++piece;
        const auto &a = line[piece - 1], &b = line[piece];
        const double t = distance(a, b) > 0 ? std::min(1.0, (at - start) / distance(a, b)) : 0;
        out.push_back({a.x + t * (b.x - a.x), a.y + t * (b.y - a.y)});
    }
    return out;
}

std::vector<DrillPlace> apart(const std::vector<DrillPlace>& ranked, double least) {
    std::vector<DrillPlace> out;
    for (const auto& p : ranked)
        if (std::ranges::none_of(out, [&](const DrillPlace& better) { return distance(better.place, p.place) < least; }))
            out.push_back(p);
    return out;
}

std::vector<DrillPlace> whereToDrill(const Model& model, const Frame& frame, const DrillAim& aim,
                                     std::span<const Point2> candidates, const DrillSettings& settings,
                                     const Progress& progress) {
    if (aim.unit >= model.bases.size()) throw Error("The oldest unit has no base: a hole can't narrow it.");
    const ModelRealisations all(model, settings.ensemble, progress);
    std::vector<Point2> places;
    for (const auto& p : drillCandidates(frame.box(), kAimCells * kAimCells))
        if (aim.area.contains(p)) places.push_back(p);
    progress.report(0.4, "What is uncertain");
    const auto asked = realise(model, all, aim.unit, places, progress);
    if (asked.places.empty()) throw Error("There is no ground in this area.");
    const auto wanted = aimOf(asked, aim.kind);
    progress.report(0.7, "What a hole would find");
    const auto holes = realise(model, all, aim.unit, candidates, progress);
    std::vector<DrillPlace> out;
    for (const auto& p : holes.places) out.push_back({p, 0});
    parallelFor(
        out.size(), 8,
        [&](std::size_t begin, std::size_t end) {
            for (auto i = begin; i < end; ++i)
                out[i].gain = gainAt(wanted, holes.ground[i], holes.top.row(Index(i)), holes.base.row(Index(i)), settings.depth);
        },
        progress);
    std::ranges::stable_sort(out, std::ranges::greater(), &DrillPlace::gain);
    return out;
}

} // namespace fox
