#include "products/contour_product.h"

#include "ground/thin.h"
#include "products/grid_products.h"
#include "products/terrain_product.h"

namespace fox {

namespace {

std::size_t bytesOf(const std::vector<ContourLine>& lines) {
    std::size_t bytes = lines.capacity() * sizeof(ContourLine);
    for (const auto& l : lines) bytes += fox::bytesOf(l.line);
    return bytes;
}

std::vector<ContourLine> thinnedLines(const std::vector<ContourLine>& lines, double tolerance) {
    std::vector<ContourLine> out;
    Polyline3 flat;
    for (const auto& c : lines) {
        flat.clear();
        for (const auto& p : c.line) flat.push_back({p.x, p.y, 0});
        out.push_back({c.level, {}});
        for (const auto& p : thinned(flat, tolerance)) out.back().line.push_back(p.plan());
    }
    return out;
}

} // namespace

std::optional<ContourProduct> contourProduct(const Making& making) {
    const auto& p = making.project;
    const auto ground = groundGrid(making);
    if (!ground) return {};
    const auto terrain = terrainProduct(making)->terrain;
    const auto bytes = [](const std::vector<ContourLine>& lines) { return bytesOf(lines); };
    ContourProduct out;
    out.interval = p.contours->interval > 0 ? p.contours->interval : contourInterval(*ground);
    making.progress.report(0.67, "Drawing contours");
    out.lines = making.cache.get(
        "contours", {terrain, ground, p.contours},
        [&] { return contoursOf(*terrain, *ground, out.interval, p.contours->smooth, making.progress); }, bytes);
    constexpr double kPieces = 4000; // of the extent: half a pixel on a large screen
    const auto box = ground->frame.box();
    out.tolerance = std::max(box.width(), box.height()) / kPieces;
    out.drawn = making.cache.get(
        "drawn contours", {out.lines, ground}, [&] { return thinnedLines(*out.lines, out.tolerance); }, bytes);
    return out;
}

} // namespace fox
