#include "importing/named_surface_import.h"

#include "base/errors.h"
#include "formats/crs.h"
#include "formats/triangle_mesh.h"
#include "importing/ground_import.h"

#include <fmt/format.h>

namespace fox {

namespace {

void takeTriangles(NamedSurface& out, const std::filesystem::path& path, const SiteContext& site, const Progress& progress) {
    auto mesh = readTriangleMesh(path);
    if (mesh.triangles.empty()) throw FileError(fmt::format("{} has no triangles.", path.string()));
    if (!mesh.crs.empty() && !site.crs.empty() && mesh.crs != site.crs) {
        const CoordinateChange toSite(mesh.crs, site.crs);
        for (auto& p : mesh.vertices) {
            const auto there = toSite.forward(p.plan());
            if (!there) throw FileError(fmt::format("{} has a corner where {} does not reach.", path.string(), site.crs));
            p = {there->x, there->y, p.z};
        }
    }
    (void)triangleSurface(mesh.vertices, mesh.triangles, progress); // throws if they are no surface
    out.from = NamedSurface::From::Triangles;
    if (!mesh.name.empty()) out.name = mesh.name;
    out.points = std::move(mesh.vertices), out.triangles = std::move(mesh.triangles);
}

std::vector<Point3> levelsOf(const ImportPreview& read) {
    std::vector<Point3> out;
    const auto take = [&](const Point3& p) {
        if (std::isfinite(p.x) && std::isfinite(p.y) && std::isfinite(p.z)) out.push_back(p);
    };
    if (read.survey)
        for (const auto& p : read.survey->points) take(p.place);
    if (read.lines) {
        for (const auto& p : read.lines->points) take(p.place);
        for (const auto& line : read.lines->lines) std::ranges::for_each(line, take);
        for (const auto& other : read.lines->others)
            for (const auto& line : other.lines) std::ranges::for_each(line, take);
    }
    return out;
}

} // namespace

NamedSurface readNamedSurface(const std::filesystem::path& path, const SiteContext& site, Findings& findings,
                              const Progress& progress) {
    NamedSurface out;
    out.name = path.stem().string();
    out.source = path.filename().string();
    if (groundKindOf(path) == GroundKind::Triangles) {
        takeTriangles(out, path, site, progress);
        return out;
    }
    SourceFile file;
    file.name = out.source;
    file.path = path.string();
    loadBytes(file);
    const auto read = readSource(std::move(file), site, {}, progress);
    findings.insert(findings.end(), read.file.findings.begin(), read.file.findings.end());
    if (read.grid) {
        out.from = NamedSurface::From::Grid;
        out.grid = read.grid;
        return out;
    }
    auto points = levelsOf(read);
    if (points.empty())
        throw FileError(fmt::format("{} has no points with levels, no grid and no triangles: it can't be a surface. Name the "
                                    "columns of a table easting, northing and level.",
                                    path.string()));
    out.points = std::move(points);
    return out;
}

} // namespace fox
