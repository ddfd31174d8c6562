#pragma once
#include "base/shared_list.h"
#include "model/model.h"
#include "model/water_surface.h"

#include <array>

namespace fox {

/// A surface beside the ground and the bases: an older survey, a design, a water table that is kept, a seismic horizon.
struct NamedSurface {
    enum class From {
        Points,    ///< levels at places, by the method of `settings`
        Contacts,  ///< contacts of the base of the unit `source`, by the method of `settings`; follows them
        Water,     ///< the water surface called `source`; follows it
        Grid,      ///< levels of a grid, linear between the middles of its cells
        Triangles, ///< as a file has them
    };
    std::string name; ///< no two of a project have the same
    From from = From::Points;
    std::string source;                       ///< a file's name, a unit's code or a water surface's name
    SharedList<Point3> points;                ///< of Points; the corners of Triangles
    SharedList<std::array<int, 3>> triangles; ///< indices of `points`
    std::shared_ptr<const Grid> grid;         ///< of Grid
    SurfaceSettings settings;                 ///< of Points and Contacts
    bool byMethod() const { return from == From::Points || from == From::Contacts; }
    bool operator==(const NamedSurface&) const;
};
const char* name(NamedSurface::From);  ///< for files: "points"
const char* words(NamedSurface::From); ///< "points", "contacts", "water surface"
std::optional<NamedSurface::From> namedSurfaceFrom(std::string_view);

struct FittedNamedSurface {
    std::shared_ptr<const Surface> surface;
    FittedSurface fit; ///< by a method; else empty
    Box2 box;          ///< of what it is made from; empty: unknown
    Findings findings;
};
/// `contacts`: of the unit, for Contacts. `water`: the water surface, for Water; null if there is none of that name.
/// A surface without anything to be made from has no value anywhere, and a finding.
FittedNamedSurface fitNamedSurface(const NamedSurface&, std::span<const Contact> contacts, const FittedWaterSurface* water,
                                   const Progress& = {});

/// Triangles as a surface: none outside of them. Triangles that overlap in plan can't be one.
/// @throws Error if the edges of triangles cross in plan
std::shared_ptr<const Surface> triangleSurface(std::span<const Point3> vertices, std::span<const std::array<int, 3>> triangles,
                                               const Progress& = {});

} // namespace fox
