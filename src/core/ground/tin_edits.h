#pragma once
#include "base/finding.h"
#include "ground/tin.h"

namespace fox {

/// Something mended by hand. It is kept by place, not by number, so that it can be applied again to newer data.
struct TinEdit {
    enum class Kind {
        LeaveOut,       ///< the point at `a` is no ground
        SetLevel,       ///< the point at `a` has the level `level`
        SwapEdge,       ///< the edge `a`-`b` is turned to join the other two corners
        RemoveTriangle, ///< no ground in the triangle around `a`
    };
    Kind kind = Kind::LeaveOut;
    Point2 a, b;
    double level = 0; ///< metres
    bool operator==(const TinEdit&) const = default;
};
const char* name(TinEdit::Kind); ///< "leave out", as the store has it
std::optional<TinEdit::Kind> tinEditKind(std::string_view);

/// What edits of points do to the data: points are taken out or get their level, vertices of lines too. Places count
/// as the same within kSamePlace. Returns how often each edit found its place.
std::vector<int> applyToPoints(const std::vector<TinEdit>&, std::vector<Point3>& points, std::vector<Polyline3>& lines);
inline constexpr double kSamePlace = 0.001; ///< metres

/// What edits of triangles do; in `used`, those that found their place count up.
Tin applyToTriangles(const std::vector<TinEdit>&, Tin, std::vector<int>& used);

/// What a place points at: the nearest corner of its triangle, and that triangle's edge that passes nearest. None where
/// there is no triangle.
std::optional<Point3> vertexNear(const Tin&, Point2);
std::optional<std::pair<Point2, Point2>> edgeNear(const Tin&, Point2);

/// A sentence for each edit that fits the data no more.
Findings unusedEdits(const std::vector<TinEdit>&, const std::vector<int>& used);

} // namespace fox
