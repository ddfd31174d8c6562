#include "views/block_frame.h"

#include "sheets/scale.h"
#include "style/theme.h"

namespace fox::app {

namespace {

/// Round values between two ends, about five.
std::vector<double> ticksBetween(double low, double high) {
    const double step = labelStep((high - low) / 6);
    std::vector<double> out;
    for (double k = std::ceil(low / step - 1e-9); k * step <= high + 1e-9; ++k) out.push_back(k * step);
    return out;
}

} // namespace

SceneFrame sceneFrame(const Box2& extent, const BlockPlacing& placing) {
    SceneFrame out;
    const double floor = placing.floor(), top = placing.highest();
    const double out1 = std::max(extent.width(), extent.height()) * 0.015, out2 = 3.2 * out1; // a tick's length, and its figure's
    const auto line = [&](Point3 a, Point3 b) { out.lines.push_back({placing.at(a), placing.at(b), colour::muted}); };
    const auto label = [&](const QString& words, Point3 at, int side) {
        const auto p = placing.at(at);
        out.labels.push_back({words, {p.x, p.y, p.z}, side});
    };
    const Point2 corners[] = {
        {extent.xmin, extent.ymin}, {extent.xmax, extent.ymin}, {extent.xmax, extent.ymax}, {extent.xmin, extent.ymax}};
    for (int k = 0; k < 4; ++k) {
        const auto &a = corners[k], &b = corners[(k + 1) % 4];
        line({a.x, a.y, floor}, {b.x, b.y, floor});
        line({a.x, a.y, floor}, {a.x, a.y, top});
    }
    for (const double x : ticksBetween(extent.xmin, extent.xmax))
        for (const auto& [y, way, side] : {std::tuple(extent.ymin, -1.0, 0), {extent.ymax, 1.0, 2}}) {
            line({x, y, floor}, {x, y + way * out1, floor});
            label(coordinate(x).section('.', 0, 0), {x, y + way * out2, floor}, side);
        }
    for (const double y : ticksBetween(extent.ymin, extent.ymax))
        for (const auto& [x, way, side] : {std::tuple(extent.xmax, 1.0, 1), {extent.xmin, -1.0, 3}}) {
            line({x, y, floor}, {x + way * out1, y, floor});
            label(coordinate(y).section('.', 0, 0), {x + way * out2, y, floor}, side);
        }
    for (const double z : ticksBetween(floor, top))
        for (int k = 0; k < 4; ++k) {
            const double way = k == 0 || k == 3 ? -1 : 1;
            line({corners[k].x, corners[k].y, z}, {corners[k].x + way * out1, corners[k].y, z});
            label(QString("%1 m").arg(z), {corners[k].x + way * out2, corners[k].y, z}, 4 + k);
        }
    // an arrow to the north, beyond the north-eastern corner
    const double size = 4 * out1;
    const Point2 foot{extent.xmax + 2.2 * size, extent.ymax - size}, head{foot.x, foot.y + 2 * size};
    line({foot.x, foot.y, floor}, {head.x, head.y, floor});
    line({head.x, head.y, floor}, {head.x - size / 2, head.y - size, floor});
    line({head.x, head.y, floor}, {head.x + size / 2, head.y - size, floor});
    label("N", {head.x, head.y + size / 2, floor}, -1);
    return out;
}

} // namespace fox::app
