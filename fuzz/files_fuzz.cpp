// Spoils files of the kinds that GDAL and SQLite read, with the sanitizers watching: fox_files_fuzz SECONDS [SEED] a kind.
// A project file is also spoilt row by row, by a random value in a random cell. Whatever stands in a file, it is read or
// refused with a FileError. The last file tried stays in the folder that is named when a fault is found.
#include "base/errors.h"
#include "formats/raster.h"
#include "formats/vector.h"
#include "formats/workbook.h"
#include "project/ground_edits.h"
#include "store/store.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <chrono>
#include <fstream>
#include <iostream>
#include <random>

namespace {

namespace fs = std::filesystem;
using Random = std::mt19937_64;

std::size_t below(Random& random, std::size_t n) { return std::uniform_int_distribution<std::size_t>(0, n - 1)(random); }

std::string bytesOf(const fs::path& path) {
    std::ifstream in(path, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), {}};
}

void write(const fs::path& path, const std::string& bytes) { std::ofstream(path, std::ios::binary) << bytes; }

/// A few bytes changed, or a piece removed, doubled or cut off.
std::string spoilt(std::string bytes, Random& random) {
    for (auto times = 1 + below(random, 6); times > 0 && !bytes.empty(); --times) {
        const auto at = below(random, bytes.size());
        const auto length = std::min(bytes.size() - at, 1 + below(random, 40));
        switch (below(random, 5)) {
        case 0: bytes[at] = char(below(random, 256)); break;
        case 1: bytes[at] = "\0\xff\x7f\x80-9{<"[below(random, 8)]; break;
        case 2: bytes.erase(at, length); break;
        case 3: bytes.insert(at, bytes.substr(at, length)); break;
        default:
            if (below(random, 8) == 0) bytes.resize(at);
        }
    }
    return bytes;
}

fox::Project smallProject() {
    fox::Project p;
    p.name = "Small";
    p.site = fox::part(fox::Site{"EPSG:25831", fox::Frame{0, 0, 100, 100, 10}, {}});
    fox::Hole hole;
    hole.id = "H1";
    hole.easting = hole.northing = 50;
    hole.level = fox::Level{20};
    hole.intervals.push_back({0, 2, "Clay", {{"GEOL_GEOL", "A"}}, 3});
    fox::Holes holes;
    holes.push_back(hole);
    p.holes = fox::part(holes);
    p.sequence = fox::part(fox::proposeSequence(*p.holes, {}));
    p = fox::addSection(p, {{0, 50}, {100, 60}}).project;
    return fox::addOutline(p, "pond", {{0, 0}, {50, 0}, {50, 50}}, fox::GroundSources::Outline::Use::Island).project;
}

/// A random value in a random column of one row or of all.
void spoilRow(const fs::path& path, Random& random) {
    SQLite::Database db(path.string(), SQLite::OPEN_READWRITE);
    std::vector<std::pair<std::string, std::string>> columns;
    SQLite::Statement found(db, "SELECT t.name, c.name FROM sqlite_master t JOIN pragma_table_info(t.name) c "
                                "WHERE t.type = 'table' AND t.name NOT LIKE 'sqlite%' AND c.pk = 0");
    while (found.executeStep()) columns.emplace_back(found.getColumn(0).getString(), found.getColumn(1).getString());
    static const char* const values[] = {"NULL",
                                         "-1",
                                         "9e999",
                                         "1e308",
                                         "''",
                                         "'x'",
                                         "x'00ff80'",
                                         "'{'",
                                         "'[[1e99]]'",
                                         "zeroblob(60)",
                                         "9223372036854775807",
                                         "'../../a'",
                                         "x'47500001e7640000'",
                                         "-0.5"};
    for (auto times = 1 + below(random, 3); times > 0; --times) {
        const auto& [table, column] = columns[below(random, columns.size())];
        try {
            db.exec("UPDATE \"" + table + "\" SET \"" + column + "\" = " + values[below(random, std::size(values))]
                    + (below(random, 2) ? " WHERE rowid = (SELECT min(rowid) FROM \"" + table + "\")" : ""));
        } catch (const SQLite::Exception&) {
            // the table's own rules refuse it
        }
    }
}

void openProject(const fs::path& path) {
    fox::Findings findings;
    const auto project = fox::ProjectStore::read(path, findings);
    fox::addSection(project, {{1, 1}, {2, 9}});
}

struct Kind {
    const char* file;
    void (*make)(const fs::path&);
    void (*read)(const fs::path&);
};

void readVector(const fs::path& path) { fox::readVector(path); }

void readRaster(const fs::path& path) {
    fox::Findings findings;
    fox::readRasterIn(path, "EPSG:25831", std::nullopt, findings);
}

void readWorkbook(const fs::path& path) { fox::readWorkbook(bytesOf(path), path.filename().string()); }

void makeRaster(const fs::path& path) {
    fox::Grid grid(fox::Frame{480000, 5740000, 480080, 5740060, 10});
    std::ranges::fill(grid.values, 3.5);
    fox::writeRaster(path, grid, "EPSG:25831");
}

void makeVector(const fs::path& path) {
    fox::writeVector(path,
                     {{"lines", "EPSG:25831", {{fox::GeometryKind::Line, {{{0, 0, 1}, {9, 9, 2}}}, true, {{"name", "a"}}}}}});
}

void makeGeoJson(const fs::path& path) {
    write(path, R"({"type":"FeatureCollection","features":[{"type":"Feature","properties":{"level":"12.5"},"geometry":)"
                R"({"type":"Polygon","coordinates":[[[0,0,1],[9,0,1],[9,9,2],[0,0,1]]]}}]})");
}

const Kind kKinds[] = {
    {"rows.gpkg", [](const fs::path& path) { fox::ProjectStore::create(path, smallProject()); }, openProject},
    {"bytes.gpkg", [](const fs::path& path) { fox::ProjectStore::create(path, smallProject()); }, openProject},
    {"lines.gpkg", makeVector, readVector},
    {"lines.dxf", makeVector, readVector},
    {"lines.geojson", makeGeoJson, readVector},
    {"grid.asc", makeRaster, readRaster},
    {"grid.tif", makeRaster, readRaster},
    {"table.xlsx", [](const fs::path& path) { fs::copy_file(FOX_WORKBOOK, path); }, readWorkbook},
};

} // namespace

int main(int argc, char** argv) {
    std::cout << std::unitbuf; // what was said before a fault is seen
    const auto seconds = std::chrono::seconds(argc > 1 ? std::stoi(argv[1]) : 20);
    const auto seed = argc > 2 ? std::stoull(argv[2]) : std::random_device()();
    const auto folder = fs::temp_directory_path() / ("fox-files-fuzz-" + std::to_string(seed));
    fs::create_directories(folder);
    for (const auto& kind : kKinds) {
        Random random(seed);
        const auto whole = folder / (std::string("whole_") + kind.file);
        const auto path = folder / kind.file;
        kind.make(whole);
        kind.read(whole); // as it is, it is read
        const auto bytes = bytesOf(whole);
        long tried = 0, refused = 0;
        for (const auto end = std::chrono::steady_clock::now() + seconds; std::chrono::steady_clock::now() < end; ++tried) {
            try {
                if (std::string_view(kind.file) == "rows.gpkg") {
                    write(path, bytes);
                    spoilRow(path, random);
                } else {
                    write(path, spoilt(bytes, random));
                }
                kind.read(path);
            } catch (const fox::FileError&) {
                ++refused;
            } catch (const std::exception& e) {
                std::cout << "seed " << seed << ", " << path << ": not refused as a file's fault, but: " << e.what() << '\n';
                return 1;
            }
        }
        std::cout << kind.file << ": " << tried << " files, " << refused << " refused, no fault (seed " << seed << ")\n";
    }
    fs::remove_all(folder);
    return 0;
}
