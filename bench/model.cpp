// The model: the demo at 2 m cells against its surfaces alone, four million columns, and the demo against its truth.
#include "bench.h"
#include "handover/build_file.h"
#include "model/solids.h"
#include "model/unit_top.h"
#include "products/products.h"
#include "project/hole_edits.h"
#include "project/sequence_edits.h"
#include "project/site_edits.h"
#include "truth.h"

#include <fstream>

namespace fox::bench {

namespace {

Project demoWithCell(double cell) {
    auto p = buildProject(FOX_DEMO "/quernbeck.build.json").project;
    auto frame = *frameOf(p);
    frame.cell = cell;
    return setFrame(p, frame).project;
}

/// Resident memory now, megabytes.
double residentMegabytes() {
    std::ifstream statm("/proc/self/statm");
    double pages = 0, resident = 0;
    statm >> pages >> resident;
    return resident * 4096 / 1e6;
}

/// The demo's bases on its own ground, fitted and sampled one by one, with nothing else.
double surfacesAlone(const ProductSet& set) {
    const auto& units = set.project.sequence->units;
    return seconds(3, [&] {
        std::vector<std::shared_ptr<const Grid>> raw(set.model->bases.size());
        for (const auto u : set.model->order.units) {
            const auto& made = *set.model->bases[u];
            const auto base = fitBase(units[u], {made.in});
            const auto from =
                made.measuredFromTop() ? topOf(*set.project.sequence, *set.ground, std::span(raw.data(), u)) : *set.ground;
            raw[u] = std::make_shared<const Grid>(sampleBase(base, {&from, nullptr}));
        }
    });
}

void manyColumns() {
    std::shared_ptr<const ProductSet> set;
    const auto project = demoWithCell(2);
    const double whole = seconds(3, [&] {
        const auto fresh = buildProject(FOX_DEMO "/quernbeck.build.json").project;
        set = Products().of(setFrame(fresh, *project.site->frame).project);
    });
    fmt::print("  demo at 2 m cells: {} columns, {} bases\n", set->ground->values.size(), set->model->bases.size());
    report("demo at 2 m, files to model", whole, surfacesAlone(*set), "its surfaces alone, fitted and sampled", 3);
}

void millions() {
    // the demo, with its mudstone parted once more: ten units; 4,000,000 cells
    auto project = demoWithCell(1500.0 / 2450);
    const double before = residentMegabytes();
    Products products;
    std::shared_ptr<const ProductSet> set;
    const double seconds1 = seconds(1, [&] { set = products.of(project); });
    fmt::print("  {} columns, {} units: {:.1f} s, {:.0f} MB more than before, peak of the process {:.0f} MB (under 1500)\n",
               set->ground->values.size(), set->project.sequence->units.size(), seconds1, residentMegabytes() - before,
               peakMegabytes());
    const Polyline2 line{{480050, 6120100}, {481450, 6120900}};
    const double section = seconds(5, [&] { makeSection(*set->model, *set->reading, line, lengthOf(line) / 700); });
    fmt::print("  a section across it, 700 places and every hole: {:.1f} ms (under 50)\n", section * 1000);
    const double solid = seconds(1, [&] {
        if (!isClosed(solidOf(*set->modelGrid, 4, "RG"))) fmt::print("  the body is open\n");
    });
    fmt::print("  one unit as a closed body: {:.1f} s\n", solid);
}

void againstTruth() {
    auto project = buildProject(FOX_DEMO "/quernbeck.build.json").project;
    for (const char* spelling : {"M.G.", "made gr"}) project = mergeCode(project, spelling, "MG").project;
    const auto set = Products().of(project);
    fmt::print("  {:4} {:>12} {:>14}   (root-mean-square errors at cell centres, metres)\n", "unit", "level", "thickness");
    const auto& frame = set->ground->frame;
    for (std::size_t u = 0; u < set->modelGrid->bases.size(); ++u) {
        double level = 0, thickness = 0;
        int n = 0, there = 0;
        for (int r = 0; r < frame.rows(); ++r)
            for (int c = 0; c < frame.columns(); ++c) {
                const auto p = frame.centre(c, r);
                const double base = set->modelGrid->bases[u].at(c, r);
                if (std::isnan(base)) continue;
                const auto truth = quernbeck::bases(p.x, p.y);
                const double top = u == 0 ? quernbeck::ground(p.x, p.y) : truth[u - 1];
                thickness += std::pow(set->modelGrid->top(u).at(c, r) - base - (top - truth[u]), 2), ++n;
                if (top - truth[u] > 0.05) level += std::pow(base - truth[u], 2), ++there;
            }
        fmt::print("  {:4} {:12.2f} {:14.2f}\n", set->project.sequence->units[u].code, std::sqrt(level / std::max(1, there)),
                   std::sqrt(thickness / std::max(1, n)));
    }
    fmt::print("  logged length matched {:.4f} (at least 0.99), bounds broken {} of {} (0)\n", set->audit->matchedFraction,
               set->audit->boundsBroken, set->audit->bounds);
}

} // namespace

void model() {
    againstTruth();
    manyColumns();
    millions();
}

} // namespace fox::bench
