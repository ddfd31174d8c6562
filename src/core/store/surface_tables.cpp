#include "store/surface_tables.h"

#include "base/errors.h"
#include "base/limits.h"
#include "project/json.h"
#include "store/geopackage.h"
#include "store/ground_tables.h"
#include "store/row_reader.h"

#include <cstring>
#include <fmt/format.h>

namespace fox::surface_tables {

using namespace geopackage; // its statement helpers
using SQLite::Database;
using SQLite::Statement;

namespace {

static_assert(sizeof(Point3) == 3 * sizeof(double));

template <typename T>
std::string packedList(const std::vector<T>& items) {
    return packed({reinterpret_cast<const char*>(items.data()), items.size() * sizeof(T)});
}

/// @throws Error if the bytes are not so many items
template <typename T>
std::vector<T> unpackedList(const std::string& bytes, std::int64_t count) {
    if (count < 0 || std::size_t(count) > limits::kVertices) throw Error("its size can't be");
    std::vector<T> out(std::size_t(count), T{});
    if (out.empty()) return out;
    const auto raw = unpacked(bytes, out.size() * sizeof(T));
    if (raw.size() != out.size() * sizeof(T)) throw Error("it has not as many items as it says");
    std::memcpy(out.data(), raw.data(), raw.size());
    return out;
}

/// @throws Error for what can't be a surface
void check(const NamedSurface& s) {
    for (const auto& p : s.points)
        if (!std::isfinite(p.x) || !std::isfinite(p.y) || !std::isfinite(p.z)) throw Error("a point has no position");
    for (const auto& t : s.triangles)
        for (const int v : t)
            if (v < 0 || std::size_t(v) >= s.points.size()) throw Error("a triangle has a corner that is not there");
    if (s.from == NamedSurface::From::Grid && !s.grid) throw Error("its grid is gone");
    if (s.from == NamedSurface::From::Triangles && s.triangles.empty()) throw Error("its triangles are gone");
}

} // namespace

void write(Database& db, const std::vector<NamedSurface>& surfaces) {
    db.exec("DELETE FROM named_surfaces;");
    Statement s(db, "INSERT INTO named_surfaces (name, made_from, source, recipe, frame, cells, points, triangles, point_count, "
                    "triangle_count) VALUES (?,?,?,?,?,?,?,?,?,?)");
    for (const auto& n : surfaces) {
        SurfaceRecipe recipe;
        recipe.settings = n.settings;
        s.bind(1, n.name);
        s.bind(2, name(n.from));
        s.bind(3, n.source);
        s.bind(4, toJson(recipe).dump());
        std::string cells;
        if (n.grid) {
            cells = packedList(n.grid->values);
            s.bind(5, toJson(n.grid->frame).dump());
            bindBlob(s, 6, cells);
        } else {
            s.bind(5), s.bind(6);
        }
        const auto points = packedList(*n.points), triangles = packedList(*n.triangles);
        bindBlob(s, 7, points);
        bindBlob(s, 8, triangles);
        s.bind(9, std::int64_t(n.points.size()));
        s.bind(10, std::int64_t(n.triangles.size()));
        again(s);
    }
}

std::vector<NamedSurface> read(Database& db, RowFaults& faults) {
    std::vector<NamedSurface> out;
    UniqueNames names;
    RowReader r(
        db, faults, "named_surfaces",
        {"name", "made_from", "source", "recipe", "frame", "cells", "points", "triangles", "point_count", "triangle_count"},
        limits::kSources, RowReader::Missing::Fine);
    while (r.next()) {
        const auto from = namedSurfaceFrom(r.text(1));
        if (!from) {
            r.fault("the surface is made from something that is not known; it is left out");
            continue;
        }
        r.tryTo("the surface", [&] {
            NamedSurface s;
            s.from = *from;
            s.source = r.text(2);
            if (const auto recipe = r.parsed(3)) s.settings = recipeOf(*recipe).settings;
            if (*from == NamedSurface::From::Grid)
                if (const auto frame = r.parsed(4)) s.grid = ground_tables::gridOf(*frame, r.bytes(5));
            s.points = unpackedList<Point3>(r.bytes(6), r.integer(8).value_or(0));
            s.triangles = unpackedList<std::array<int, 3>>(r.bytes(7), r.integer(9).value_or(0));
            check(s);
            s.name = names.take(r, r.text(0), "surface ");
            out.push_back(std::move(s));
        });
    }
    return out;
}

} // namespace fox::surface_tables
