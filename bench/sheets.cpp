// Logs on paper, against what Cairo takes for the same pages.
#include "bench.h"
#include "paper/render.h"
#include "sheets/sheet.h"

namespace fox::bench {

namespace {

/// Holes of forty strata, so that a log at 1:50 has two pages.
Project loggedHoles(int n) {
    Project p;
    p.site = part(Site{"EPSG:25831", Frame{0, 0, 10000, 10000, 50}, {}});
    Holes holes;
    for (const auto& at : surveyLike(std::size_t(n))) {
        Hole h;
        h.id = fmt::format("BH{:03}", holes.size()), h.name = h.id;
        h.easting = at.x, h.northing = at.y, h.level = Level{at.z};
        for (int i = 0; i < 40; ++i) {
            h.intervals.push_back(
                {Depth{i * 0.5},
                 Depth{i * 0.5 + 0.5},
                 "Firm to stiff dark greyish brown slightly sandy slightly gravelly CLAY with occasional cobbles.",
                 {{"GEOL_GEOL", i % 2 ? "A" : "B"}},
                 i});
            h.samples.push_back({Depth{i * 0.5}, Depth{i * 0.5 + 0.4}, "U", std::to_string(i)});
        }
        h.finalDepth = Depth{20};
        holes.push_back(std::move(h));
    }
    p.holes = part(std::move(holes));
    Sequence s;
    s.unitHeading = "GEOL_GEOL";
    for (const char* code : {"A", "B"}) {
        Unit u;
        u.code = u.name = code;
        s.units.push_back(u);
    }
    p.sequence = part(std::move(s));
    return p;
}

} // namespace

void sheets() {
    const auto project = loggedHoles(200);
    auto log = shippedTemplates().front();
    log.scale = 50;
    const auto products = Products().of(project, {}, wantedForSheet(log, "BH000"));
    std::vector<paper::Drawing> pages;
    const double fill = seconds(3, [&] {
        pages.clear();
        for (const auto& item : itemsFor(log, project))
            for (auto& page : fillSheet(log, item, *products, "2026-01-01").pages) pages.push_back(std::move(page));
    });
    std::size_t bytes = 0;
    const double write = seconds(3, [&] { bytes = paper::toPdf(pages).size(); });
    report(fmt::format("200 logs, {} pages, to one PDF of {:.1f} MB", pages.size(), double(bytes) / 1e6).c_str(), fill + write,
           write, "writing the same pages", 3);
    const double one = seconds(5, [&] { fillSheet(log, "BH000", *products, ""); });
    const double pixels = seconds(5, [&] { paper::toBitmap(pages[0], 4); });
    fmt::print("  a template edit to the new page: {:.0f} ms filled, {:.0f} ms painted at 4 pixels a millimetre\n", 1000 * one,
               1000 * pixels);
}

} // namespace fox::bench
