#include "ground/georeference.h"

#include "base/errors.h"

#include <Eigen/Dense>
#include <fmt/format.h>

namespace fox {

Point2 Georeference::toPixel(Point2 place) const {
    const double det = xx * yy - xy * yx;
    if (det == 0) throw Error("The picture is squeezed into a line: place it by control points that do not lie on one.");
    const double dx = place.x - x0, dy = place.y - y0;
    return {(dx * yy - dy * xy) / det, (dy * xx - dx * yx) / det};
}

FittedPlacing fitGeoreference(std::span<const ControlPoint> marks) {
    if (marks.size() < 3) throw Error("A picture is placed by at least three control points.");
    const auto n = Eigen::Index(marks.size());
    // about the middles, so that eastings of millions lose nothing
    Point2 pixel, place;
    for (const auto& m : marks) {
        pixel.x += m.pixel.x / double(n), pixel.y += m.pixel.y / double(n);
        place.x += m.place.x / double(n), place.y += m.place.y / double(n);
    }
    Eigen::MatrixXd a(n, 3), b(n, 2);
    for (Eigen::Index i = 0; i < n; ++i) {
        const auto& m = marks[std::size_t(i)];
        a.row(i) << m.pixel.x - pixel.x, m.pixel.y - pixel.y, 1;
        b.row(i) << m.place.x - place.x, m.place.y - place.y;
    }
    // how much the marks spread along and across their main direction
    const Eigen::JacobiSVD<Eigen::MatrixXd> spread(a.leftCols(2));
    const double along = spread.singularValues()[0], across = spread.singularValues()[1];
    if (!(across > 1e-9 * along)) throw Error("The control points lie on one line: put one beside it.");
    const Eigen::MatrixXd x = a.colPivHouseholderQr().solve(b);
    FittedPlacing out;
    auto& p = out.placing;
    p.xx = x(0, 0), p.xy = x(1, 0), p.yx = x(0, 1), p.yy = x(1, 1);
    p.x0 = place.x + x(2, 0) - p.xx * pixel.x - p.xy * pixel.y;
    p.y0 = place.y + x(2, 1) - p.yx * pixel.x - p.yy * pixel.y;
    double squares = 0;
    for (const auto& m : marks) {
        out.residuals.push_back(distance(p.toPlan(m.pixel), m.place));
        squares += out.residuals.back() * out.residuals.back();
    }
    out.rms = marks.size() > 3 ? std::sqrt(squares / double(n)) : 0;
    const auto say = [&](std::string sentence) {
        out.findings.push_back({Severity::Warning, "FC-PICTURE", "", 0, "", "", "", std::move(sentence)});
    };
    constexpr double kLine = 0.1; // a tenth as wide as long
    if (across < kLine * along)
        say("The control points lie nearly on a line, so the picture may be wrong to either side of it. Add a control point away "
            "from the line.");
    const double scaleX = std::hypot(p.xx, p.yx), scaleY = std::hypot(p.xy, p.yy);
    if (p.xx * p.yy - p.xy * p.yx > 0)
        say("The control points turn the picture over, as in a mirror: two of them may be exchanged.");
    constexpr double kOff = 0.1; // paper stretches by a hundredth; more is a slip
    if (std::abs(scaleX / scaleY - 1) > kOff)
        say(fmt::format("By the control points a pixel is {:.3g} m wide and {:.3g} m high: one of them may be wrong.", scaleX,
                        scaleY));
    if (std::abs(p.xx * p.xy + p.yx * p.yy) > kOff * scaleX * scaleY)
        say("By the control points the picture is askew: one of them may be wrong.");
    return out;
}

} // namespace fox
