// Edits among many holes: what one costs, and what it costs to save, beside copying and writing everything.
#include "bench.h"
#include "project/hole_edits.h"
#include "store/store.h"

#include <filesystem>

namespace fox::bench {

namespace {

Project manyHoles(std::size_t n) {
    Project p;
    p.site = part(Site{"EPSG:25831", Frame{0, 0, 10000, 10000, 50}, {}});
    std::vector<Hole> holes;
    for (const auto& at : surveyLike(n)) {
        Hole h;
        h.id = fmt::format("BH{:05}", holes.size());
        h.easting = at.x + 1, h.northing = at.y + 1, h.level = Level{at.z};
        for (int i = 0; i < 12; ++i)
            h.intervals.push_back({Depth{i * 1.5}, Depth{i * 1.5 + 1.5}, "Firm brown sandy CLAY.", {{"GEOL_GEOL", "CL"}}, i});
        holes.push_back(std::move(h));
    }
    Holes list;
    for (auto& h : holes) list.push_back(std::move(h));
    p.holes = part(std::move(list));
    return p;
}

} // namespace

void edits() {
    constexpr std::size_t kHoles = 10'000, kCells = 1'000;
    const auto project = manyHoles(kHoles);
    Project edited;
    const double one = seconds(5, [&] { edited = setHoleLevel(project, "BH05000", Level{12}).project; });
    const double copy = seconds(5, [&] {
        std::vector<Hole> all;
        for (const auto& h : *project.holes) all.push_back(h);
    });
    report("an edit of one hole of 10,000", one, copy, "copying all holes", 0.2);
    std::vector<HoleChangeOf> changes;
    for (std::size_t i = 0; i < kCells; ++i)
        changes.push_back({fmt::format("BH{:05}", i * 10), [i](Hole& h) { h.level = Level{double(i)}; }});
    Project pasted;
    const double paste = seconds(5, [&] { pasted = changeHoles(project, changes, "Paste").project; });
    report("1,000 cells of 1,000 holes as one edit", paste, copy, "copying all holes", 0.5);

    const auto folder = std::filesystem::temp_directory_path() / "fox-bench-edits";
    std::filesystem::create_directories(folder);
    const auto path = folder / "p.gpkg";
    const double whole = seconds(2, [&] { ProjectStore::create(path, project); });
    {
        auto store = ProjectStore::open(path);
        bool there = false;
        const double save = seconds(6, [&] { store.save((there = !there) ? edited : project); });
        report("saving an edit of one hole of 10,000", save, whole, "writing the project", 0.1);
        const double saveAll = seconds(4, [&] { store.save((there = !there) ? pasted : project); });
        report("saving 1,000 edited holes of 10,000", saveAll, whole, "writing the project", 0.3);
    }
    std::filesystem::remove_all(folder);
}

} // namespace fox::bench
