#pragma once
#include "project/edits.h"

namespace fox {

/// How a unit's base is made; `what` names the change in the label: "Base of TL: anisotropy".
/// @throws Error for no such unit, and what `change` throws
Edited changeRecipe(const Project&, const std::string& unitCode, const std::function<void(SurfaceRecipe&)>& change,
                    const std::string& what);

/// What a hole tells of a unit's base; none: what its log says. @throws Error for no such hole or unit
Edited setContactChoice(const Project&, const std::string& hole, const std::string& unitCode, std::optional<ContactChoice::Kind>);

/// A place or line that the unit's base goes through. @throws Error if it has no place
Edited addGuide(const Project&, const std::string& unitCode, Polyline3);
Edited removeGuide(const Project&, const Guide&);
/// Guide points of a unit of which no hole shows the base: where a hole stops in it, as far below its top as the units over and
/// under it are thick on average, and not above the hole's end. @throws Error if no hole stops in it, or these have no thickness
Edited addGuidesLikeNeighbours(const Project&, const std::string& unitCode);

/// Where the unit is, or is not: a place, or the corners of an area. @throws Error for two corners, or no such unit
Edited addPresenceMark(const Project&, PresenceMark);
Edited removePresenceMark(const Project&, const PresenceMark&);

/// Named F1, F2 and so on. `youngest`: the youngest unit whose base it steps; empty: all. @throws Error for no length
Edited addFault(const Project&, Polyline2, const std::string& youngest);
Edited setFaultYoungest(const Project&, const std::string& name, const std::string& youngest);
/// It steps these bases and no others. @throws Error for no such fault or unit, or no unit at all
Edited setFaultUnits(const Project&, const std::string& name, const std::vector<std::string>& unitCodes);
Edited removeFault(const Project&, const std::string& name);

/// The base is kept as these levels from now on, whatever changes. @throws Error for no such unit or no value in the grid
Edited fixBase(const Project&, const std::string& unitCode, FixedBase);
/// It is made from the holes again.
Edited releaseBase(const Project&, const std::string& unitCode);

} // namespace fox
