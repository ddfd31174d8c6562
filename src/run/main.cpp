// The headless tool: reads the words of a call, runs the verb, and turns errors into exit statuses.
#include "verbs.h"

#include "base/errors.h"
#include "base/files.h"
#include "base/parallel.h"

#include <CLI/CLI.hpp>
#include <iostream>

namespace {

using fox::run::Options;

CLI::App* verb(CLI::App& app, const char* name, const char* says, Options& options, void (*run)(const Options&)) {
    auto* sub = app.add_subcommand(name, says);
    sub->add_flag("--json", options.json, "one JSON document on standard output");
    sub->add_option("--threads", options.threads, "how many threads; default: all cores")->check(CLI::Range(0, 1024));
    sub->callback([run, &options] {
        const fox::ThreadLimit limit(options.threads);
        run(options);
    });
    return sub;
}

void addProjectVerbs(CLI::App& app, Options& w) {
    auto* build = verb(app, "build", "a whole project from a build file", w, fox::run::build);
    build->add_option("build", w.file, "BUILD.json")->required();
    build->add_option("--out", w.out, "PROJECT.gpkg")->required();
    auto* column = verb(app, "column", "what the model predicts at places", w, fox::run::column);
    column->add_option("--at", w.places, "E,N")->take_all();
    column->add_option("--at-file", w.at, "CSV with easting and northing");
    auto* section = verb(app, "section", "the model along a line", w, fox::run::section);
    section->add_option("--line", w.line, "E,N,E,N[,E,N...]")->required();
    section->add_option("--step", w.step, "metres")->required();
    section->add_option("--holes-within", w.holesWithin, "metres from the line; default 25");
    auto* audit = verb(app, "audit", "the model against every hole", w, fox::run::audit);
    auto* volumes = verb(app, "volumes", "volumes by unit", w, fox::run::volumes);
    volumes->add_option("--outline", w.outline, "count inside this area only");
    auto* level = volumes->add_option("--above", w.above, "metres; count what lies above this level only");
    volumes->add_option("--above-grid", w.aboveGrid, "count what lies above this grid only")->excludes(level);
    volumes->add_option("--realisations", w.realisations, "how many equally likely models give p10, p50 and p90")
        ->check(CLI::Range(2, 10000));
    auto* drill = verb(app, "drill", "where one more hole would narrow something most", w, fox::run::drill);
    drill->add_option("--aim", w.aim, "volume:UNIT, base:UNIT or presence:UNIT")->required();
    drill->add_option("--outline", w.outline, "what counts is inside this area");
    drill->add_option("--along", w.line, "E,N,E,N[,E,N...]: places along this line; default: all over the extent");
    drill->add_option("--depth", w.depth, "metres below ground; default: through all units")->check(CLI::PositiveNumber);
    drill->add_option("--realisations", w.realisations, "how many equally likely models; default 200")
        ->check(CLI::Range(20, 10000));
    auto* exported = verb(app, "export", "surfaces, sections, the model and holes as files", w, fox::run::exportProject);
    exported->add_option("--what", w.what, fox::run::exportWords())->required();
    exported->add_option("--as", w.as, "kind of file")->required();
    exported->add_option("--dir", w.dir, "where the files go")->required();
    auto* mapLevel = exported->add_option("--level", w.level, "metres; of the map: at this level, not at the ground");
    exported->add_option("--depth", w.depth, "metres; of the map: so far below ground")->excludes(mapLevel);
    exported->add_option("--exaggeration", w.exaggeration, "of sections as svg; default 5")->check(CLI::PositiveNumber);
    exported->add_flag("--patterns", w.patterns, "of the model as glb: the signs of units' ground on the bodies");
    auto* sheet = verb(app, "sheet", "sheets to print, by a template", w, fox::run::sheet);
    sheet->add_option("project", w.file, "PROJECT.gpkg");
    auto* list = sheet->add_flag("--list", w.list, "say which templates there are");
    sheet->add_option("--template", w.sheetTemplate, "the name of a template, or its file")->excludes(list);
    auto* item =
        sheet->add_option("--item", w.items, "a hole or section by name, or a unit's code; can be repeated")->excludes(list);
    sheet->add_flag("--all", w.all, "all holes, sections or units")->excludes(item)->excludes(list);
    sheet->add_flag("--report", w.report, "all sheets of the project's report, in their order")->excludes(item)->excludes(list);
    sheet->add_option("--out", w.out, "one PDF of all pages, or a folder for a file an item")->excludes(list);
    sheet->add_option("--as", w.as, "pdf, svg, png, dxf or tif")->excludes(list);
    sheet->add_option("--dpi", w.dotsPerInch, "dots per inch of png; default 150")->check(CLI::Range(10, 2400));
    auto* layers = verb(app, "layers", "a layered grid for groundwater flow", w, fox::run::layers);
    layers->add_option("project", w.file, "PROJECT.gpkg");
    auto* check = layers->add_option("--check", w.checked, "a folder that was written before: read it back and check it");
    layers->add_option("--spec", w.spec, "L.json: grid, layers, thin cells, values")->excludes(check);
    layers->add_option("--out", w.out, "the folder for the files")->excludes(check);
    auto* mesh = verb(app, "mesh", "a layered mesh of prisms for finite elements", w, fox::run::mesh);
    mesh->add_option("--spec", w.spec, "M.json: outline, lines, edges, layers, faces, values")->required();
    mesh->add_option("--out", w.out, "the folder for the files")->required();
    auto* blocks = verb(app, "blocks", "values in blocks in 3D", w, fox::run::blocks);
    blocks->add_option("--spec", w.spec, "B.json: value, blocks, method")->required();
    blocks->add_option("--out", w.out, "OUT.vtu, .csv or .nc")->required();
    blocks->add_option("--above", w.above, "count blocks above this value");
    blocks->add_option("--below", w.below, "count blocks below this value; with --above those between");
    blocks->add_option("--table", w.table, "CSV to write: what the blocks come to by unit and by level");
    blocks->add_option("--simulations", w.simulations, "how many equally likely models give p10, p50 and p90 of their volume")
        ->check(CLI::Range(2, 10000));
    auto* excavate =
        verb(app, "excavate", "what must be dug to free units, blocks, a surface or a floor", w, fox::run::excavateVerb);
    excavate->add_option("--spec", w.spec, "X.json: what is wanted, slopes, benches")->required();
    excavate->add_option("--out", w.out, "the folder for the files")->required();
    auto* where = verb(app, "where", "what lies at places in space, or in the cells of others' grids", w, fox::run::where);
    where->add_option("--points", w.points, "CSV, XYZ, VTU or UGRID (.nc)")->required();
    where->add_option("--origin", w.origin, "E,N that was taken off the coordinates of the points");
    where->add_option("--out", w.out, "the same form, with unit, depth and values")->required();
    auto* report = verb(app, "report", "what the model is made from, how good it is, and what is not known", w, fox::run::report);
    report->add_option("--out", w.out, "R.pdf; with --json it can be left out");
    report->add_option("--chapter", w.chapters, "only this chapter; can be repeated. Default: all");
    report->add_option("--realisations", w.realisations, "how many equally likely models; default 100")
        ->check(CLI::Range(20, 10000));
    auto* compare = verb(app, "compare", "what changed from one state of a project to another", w, fox::run::compare);
    compare->add_option("before", w.file, "A.gpkg")->required();
    compare->add_option("after", w.other, "B.gpkg")->required();
    compare->add_option("--out", w.out, "the same as a PDF, with maps of the differences");
    for (auto* v : {column, section, audit, volumes, drill, exported, mesh, where, blocks, excavate, report})
        v->add_option("project", w.file, "PROJECT.gpkg")->required();
}

void addSurfaceVerbs(CLI::App& app, Options& w) {
    auto* surface = verb(app, "surface", "one surface from points", w, fox::run::surface);
    surface->add_option("--points", w.points, "CSV")->required();
    surface->add_option("--x", w.x, "column of eastings");
    surface->add_option("--y", w.y, "column of northings");
    surface->add_option("--z", w.z, "column of levels");
    surface
        ->add_option("--method", w.method,
                     "nearest, linear, inverse-distance, natural-neighbour, thin-plate, kriging, universal-kriging")
        ->required();
    surface->add_option("--power", w.power, "of inverse distance");
    surface->add_option("--neighbours", w.neighbours, "how many points count; 0: all");
    surface->add_option("--radius", w.radius, "metres; points farther off do not count");
    surface->add_option("--reach", w.reach, "metres; no value farther than this from all points and bounds");
    surface->add_flag("--carry-on", w.carryOn, "linear and natural-neighbour: outside the hull, the value at its nearest place");
    surface->add_option("--variogram", w.variogram, "MODEL,NUGGET,PARTIAL_SILL,RANGE; default: fitted");
    surface->add_option("--anisotropy", w.anisotropy, "AZIMUTH,RATIO");
    surface->add_option("--upper-bounds", w.upperBounds, "CSV of points to stay at or below");
    surface->add_option("--lower-bounds", w.lowerBounds, "CSV of points to stay at or above");
    surface->add_option("--variance", w.variance, "grid of the kriging variance");
    surface->add_option("--outline", w.outline, "no values outside this area");
    surface->add_option("--island", w.island, "no values inside this area");
    auto* terrain = verb(app, "terrain", "the ground from points and lines", w, fox::run::terrain);
    terrain->add_option("--points", w.points, "CSV");
    terrain->add_option("--columns", w.columns, "point,northing,easting,level,code: their order");
    terrain->add_option("--breaklines", w.breaklines, "lines that triangles may not cross");
    terrain->add_option("--contours", w.contours, "lines of equal level");
    terrain->add_option("--level-field", w.levelField, "column of the contours' level");
    terrain->add_option("--limit", w.limit, "no ground outside this area");
    terrain->add_option("--tin", w.tin, "triangles as .xml, .obj, .ply or .dxf");
    auto* volume = verb(app, "volume", "what lies between two grids", w, fox::run::volume);
    volume->add_option("--upper", w.upper, "grid")->required();
    volume->add_option("--lower", w.lower, "grid of the same extent and cell")->required();
    volume->add_option("--outline", w.outline, "count inside this area only");
    for (auto* v : {surface, terrain}) {
        v->add_option("--frame", w.frame, "xmin,ymin,xmax,ymax");
        v->add_option("--cell", w.cell, "metres");
        v->add_option("--at", w.at, "CSV of places, instead of --frame");
        v->add_option("--out", w.out, "grid, or CSV with --at");
    }
}

} // namespace

int main(int argc, char** argv) {
    fox::removeScratchFilesWhenStopped();
    CLI::App app("Fox Cellar without a window");
    app.require_subcommand(1);
    Options options;
    auto* inspect = verb(app, "inspect", "what a file holds", options, fox::run::inspect);
    inspect->add_option("file", options.file)->required();
    auto* check = verb(app, "check", "every fault of a data file, by rule", options, fox::run::check);
    check->add_option("file", options.file)->required();
    check->add_flag("--strict", options.strict, "exit with 1 for warnings too");
    auto* rewrite = verb(app, "rewrite", "read an AGS file and write it", options, fox::run::rewrite);
    rewrite->add_option("in", options.file, "IN.ags")->required();
    rewrite->add_option("out", options.out, "OUT.ags")->required();
    rewrite->add_option("--to", options.to, "4.1: turn AGS 3 into AGS 4.1");
    addProjectVerbs(app, options);
    addSurfaceVerbs(app, options);
    try {
        app.parse(argc, argv);
        return 0;
    } catch (const CLI::CallForHelp& e) {
        return app.exit(e);
    } catch (const CLI::ParseError& e) {
        std::cerr << e.what() << '\n';
        return 2;
    } catch (const fox::UsageError& e) {
        std::cerr << e.what() << '\n';
        return 2;
    } catch (const std::bad_alloc&) {
        std::cerr << "There is not enough memory for this.\n";
        return 1;
    } catch (const std::exception& e) {
        std::cerr << e.what() << '\n';
        return 1;
    }
}
