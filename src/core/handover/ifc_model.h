#pragma once
#include "products/products.h"

#include <string>

namespace fox {

/// The ground model as IFC 4.3 (ISO 16739-1:2024, schema IFC4X3_ADD2) in the exchange form of ISO 10303-21: project, site,
/// coordinate reference with map conversion, holes with their intervals, units as closed bodies, ground, water surfaces and
/// faults. docs/formats.md says what goes where. Local coordinates begin at localOrigin(); levels are not moved. Global ids are
/// made of the project's name and of what a thing is and is called, so that the same project gives the same ids. `time` as
/// "2026-11-30T09:00:00". `set` has Grids and WaterSurfaces. @throws Error without a model
std::string ifcOf(const ProductSet& set, const std::string& time);

/// The 22 letters of a global id of IFC, made of words alone: the same words give the same id (a UUID by name, RFC 4122).
std::string ifcId(const std::string& words);

} // namespace fox
