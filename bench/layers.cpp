// Layered grids and meshes: how long they take to files, and what CGAL alone takes for the same triangles.
#include "bench.h"
#include "handover/build_file.h"
#include "handover/layer_files.h"
#include "handover/mesh_files.h"
#include "products/products.h"

#include <CGAL/Constrained_Delaunay_triangulation_2.h>
#include <CGAL/Delaunay_mesh_face_base_2.h>
#include <CGAL/Delaunay_mesh_size_criteria_2.h>
#include <CGAL/Delaunay_mesh_vertex_base_2.h>
#include <CGAL/Delaunay_mesher_2.h>
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <filesystem>

namespace fox::bench {

namespace {

/// The triangles of a square, by CGAL's own criteria.
std::size_t bareMesh(double size, double edge) {
    using K = CGAL::Exact_predicates_inexact_constructions_kernel;
    using Triangles = CGAL::Constrained_Delaunay_triangulation_2<
        K, CGAL::Triangulation_data_structure_2<CGAL::Delaunay_mesh_vertex_base_2<K>, CGAL::Delaunay_mesh_face_base_2<K>>,
        CGAL::Exact_predicates_tag>;
    Triangles t;
    const K::Point_2 corners[] = {{0, 0}, {size, 0}, {size, size}, {0, size}};
    for (int i = 0; i < 4; ++i) t.insert_constraint(corners[i], corners[(i + 1) % 4]);
    const double sine = std::sin(20 * 3.14159265358979 / 180);
    CGAL::refine_Delaunay_mesh_2(t, CGAL::Delaunay_mesh_size_criteria_2<Triangles>(sine * sine, edge));
    return t.number_of_faces();
}

LayerSpec tenLayers(const Project& p, double cell) {
    auto spec = p.layeredGrids->front();
    const auto frame = *p.site->frame;
    spec.grid = PlanGrid(Frame{frame.xmin, frame.ymin, frame.xmax, frame.ymax, cell});
    spec.finer.clear();
    spec.layers.back().parts = {1, 1, 2};
    return spec;
}

} // namespace

void layers() {
    auto project = buildProject(FOX_DEMO "/quernbeck.build.json").project;
    const auto folder = std::filesystem::temp_directory_path() / "fox-bench-layers";
    LayerFileWords words{"bench", "EPSG:25831", {}, "", ""};
    for (const auto& u : project.sequence->units) words.units.push_back(u.code);
    Products products;
    products.of(project, {}, Wanted{}); // the model is there
    project.layeredGrids = part(std::vector{tenLayers(project, 3.87)});
    std::shared_ptr<const LayeredGrid> grid;
    const double make = seconds(1, [&] { grid = products.of(project, {}, {ProductKind::Layers})->layers.front()->grid; });
    const double write = seconds(1, [&] { writeLayerFiles(*grid, words, folder); });
    const double bytes = seconds(2, [&] {
        std::string copy;
        for (const auto& f : std::filesystem::directory_iterator(folder)) copy += readBytes(f.path());
    });
    fmt::print("{} cells in {} layers: made in {:.2f} s, {:.2f} s to files (at most 5 s together); reading these files {:.2f} s; "
               "peak {:.0f} MB "
               "(at most 1000)\n",
               grid->cells(), grid->layers.size(), make, write, bytes, peakMegabytes());
    std::filesystem::remove_all(folder);
    // a contact moves: 100,000 cells follow
    project.layeredGrids = part(std::vector{tenLayers(project, 12.2)});
    products.of(project, {}, {ProductKind::Layers});
    auto moved = *project.interpretation;
    moved.guides.push_back({"RG", {{480700, 6120500, 14}}});
    project.interpretation = part(moved);
    const double model = seconds(1, [&] { products.of(project, {}, Wanted{}); });
    const double follow = seconds(1, [&] { grid = products.of(project, {}, {ProductKind::Layers})->layers.front()->grid; });
    fmt::print("a moved contact to {} cells: model {:.0f} ms, layers {:.0f} ms (at most 300 together)\n", grid->cells(),
               1000 * model, 1000 * follow);
    PlanMeshInputs in;
    in.outline = Area(Polygon2{{0, 0}, {1000, 0}, {1000, 1000}, {0, 1000}});
    in.edge = 5.7;
    std::size_t triangles = 0, bare = 0;
    const double ours = seconds(3, [&] { triangles = makePlanMesh(in).triangles.size(); });
    const double theirs = seconds(3, [&] { bare = bareMesh(1000, 5.7); });
    report(fmt::format("a mesh of {} triangles", triangles).c_str(), ours, theirs, fmt::format("CGAL alone, {}", bare).c_str(),
           1.5);
}

} // namespace fox::bench
