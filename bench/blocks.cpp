// Blocks and excavations, against the search for neighbours alone and against the figures that are asked for.
#include "base/parallel.h"
#include "bench.h"
#include "blocks/block_model.h"
#include "blocks/block_totals.h"
#include "blocks/excavation.h"
#include "blocks/maximum_closure.h"
#include "handover/build_file.h"
#include "products/products.h"

#include <nanoflann.hpp>

namespace fox::bench {

namespace {

struct Cloud3 {
    std::vector<Point3> points;
    std::size_t kdtree_get_point_count() const { return points.size(); }
    double kdtree_get_pt(std::size_t i, std::size_t axis) const {
        return axis == 0 ? points[i].x : axis == 1 ? points[i].y : points[i].z;
    }
    template <class Box>
    bool kdtree_get_bbox(Box&) const {
        return false;
    }
};
using Tree3 = nanoflann::KDTreeSingleIndexAdaptor<nanoflann::L2_Simple_Adaptor<double, Cloud3>, Cloud3, 3, std::size_t>;

/// A flat model of one unit, so that blocks alone take time.
std::shared_ptr<const Model> flatModel() {
    Project p;
    GroundSources ground;
    ground.points.emplace_back();
    ground.points.back().points = std::vector<SurveyPoint>{
        {"", {0, 0, 100}, ""}, {"", {1000, 0, 100}, ""}, {"", {1000, 1000, 100}, ""}, {"", {0, 1000, 100}, ""}};
    p.ground = part(std::move(ground));
    Sequence s;
    s.unitHeading = "GEOL_GEOL";
    for (const char* code : {"A", "B"}) {
        Unit u;
        u.code = u.name = code;
        s.units.push_back(u);
    }
    p.sequence = part(std::move(s));
    Holes holes;
    for (const auto& [id, x] : {std::pair{"H1", 300.0}, {"H2", 700.0}}) {
        Hole h;
        h.id = h.name = id, h.easting = x, h.northing = 500, h.level = Level{100};
        h.intervals = {{Depth{0}, Depth{50}, "", {{"GEOL_GEOL", "A"}}, 1}, {Depth{50}, Depth{99}, "", {{"GEOL_GEOL", "B"}}, 2}};
        h.finalDepth = Depth{99};
        holes.push_back(std::move(h));
    }
    p.holes = part(std::move(holes));
    return Products().of(p, {}, Wanted{})->model;
}

} // namespace

void blocks() {
    std::mt19937_64 random(3);
    std::uniform_real_distribution<double> at(0, 1000), level(0, 99), v(0, 100);
    Composites composites;
    Cloud3 cloud;
    for (int i = 0; i < 20000; ++i) {
        const double x = at(random), y = at(random), z = level(random);
        composites.values.push_back({{x, y, z}, v(random), {}, ""});
        cloud.points.push_back({x, y, z});
    }
    const auto model = flatModel();
    BlockSpec spec;
    spec.dx = spec.dy = 10, spec.dz = 1, spec.fromLevel = 0, spec.toLevel = 100, spec.neighbours = 12;
    const Frame site{0, 0, 1000, 1000, 10};
    std::size_t known = 0;
    const double inverse = seconds(2, [&] { known = makeBlocks(spec, site, composites, *model).known(); });
    const Tree3 tree(3, cloud, {12});
    const double search = seconds(2, [&] {
        parallelFor(1'000'000, 4096, [&](std::size_t begin, std::size_t end) {
            std::vector<std::size_t> index(12);
            std::vector<double> squared(12);
            for (auto b = begin; b < end; ++b) {
                nanoflann::KNNResultSet<double, std::size_t> result(12);
                result.init(index.data(), squared.data());
                const double query[3] = {double(b % 100) * 10 + 5, double(b / 100 % 100) * 10 + 5, double(b / 10000) + 0.5};
                tree.findNeighbors(result, query, {});
            }
        });
    });
    report(fmt::format("{} blocks by inverse distance, 12 neighbours", known).c_str(), inverse, search,
           "nanoflann's search alone", 1.2);
    spec.method = BlockSpec::Method::Kriging, spec.neighbours = 16,
    spec.variogram = Variogram{VariogramModel::Spherical, 5, 90, 80};
    fmt::print("  the same by kriging, 16 neighbours: {:.1f} s (at most 20)\n",
               seconds(1, [&] { makeBlocks(spec, site, composites, *model); }));
    spec.method = BlockSpec::Method::InverseDistance;
    const auto made = makeBlocks(spec, site, composites, *model);
    fmt::print("  what is above a cut-off: {:.0f} ms (at most 100 with the picture)\n",
               1000 * seconds(5, [&] { totalOf(made, *model->sequence, {.above = 50}); }));

    ExcavationInputs in;
    in.model = model;
    in.site = {0, 0, 1000, 1000, 1};
    in.spec.wanted = ExcavationSpec::Wanted::Floor;
    in.spec.ring = {{450, 450}, {550, 450}, {550, 550}, {450, 550}};
    in.spec.level = 60, in.spec.slopes = {{"A", 40}, {"B", 60}};
    Excavation dig;
    const double slopes = seconds(1, [&] { dig = excavate(in); });
    fmt::print("excavation, 1000 x 1000 cells, 100 x 100 wanted, 40 m deep, slopes by unit: {:.2f} s (at most 5), {:.0f} m3\n",
               slopes, dig.excavated);

    ClosureProblem problem;
    std::uniform_real_distribution<double> worth(-1, 1);
    constexpr std::size_t kColumns = 100, kLayers = 30;
    for (std::size_t k = 0; k < kLayers; ++k)
        for (std::size_t i = 0; i < kColumns * kColumns; ++i)
            problem.worth.push_back(k + 1 == kLayers ? 40 * (worth(random) + 1) : worth(random) - 0.8);
    for (std::size_t k = 1; k < kLayers; ++k)
        for (std::size_t r = 0; r < kColumns; ++r)
            for (std::size_t c = 0; c < kColumns; ++c)
                for (const auto& [dr, dc] : {std::pair{0, 0}, {1, 0}, {-1, 0}, {0, 1}, {0, -1}}) {
                    const auto rr = r + std::size_t(dr), cc = c + std::size_t(dc);
                    if (rr < kColumns && cc < kColumns)
                        problem.needs.emplace_back((k * kColumns + r) * kColumns + c, ((k - 1) * kColumns + rr) * kColumns + cc);
                }
    fmt::print("closure of {} nodes: {:.1f} s (at most 30)\n", problem.worth.size(),
               seconds(1, [&] { maximumClosure(problem); }));
}

} // namespace fox::bench
