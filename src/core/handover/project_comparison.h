#pragma once
#include "products/products.h"
#include "sheets/document.h"

#include <nlohmann/json.hpp>

namespace fox {

/// What changed from one state of a project to another. Holes by display name, units by code.
struct ProjectComparison {
    struct Changed {
        std::string name;
        std::vector<std::string> what; ///< "ground level", "intervals"
    };
    struct Setting {
        std::string what, before, after;
    };
    /// Later less earlier, at the cells where both have a value.
    struct Base {
        std::size_t unit = 0; ///< in the later sequence
        double mean = 0;      ///< metres
        double largest = 0;   ///< metres, with its sign
        Point2 place;         ///< of the largest; kNoValue where nothing moved
        std::size_t cells = 0;
        Grid difference;
    };
    struct Volume {
        std::string unit;
        double before = kNoValue, after = kNoValue; ///< cubic metres; kNoValue where that state has no such volume
    };
    std::vector<std::string> holesAdded, holesRemoved, unitsAdded, unitsRemoved;
    std::vector<Changed> holesChanged, unitsChanged;
    bool orderChanged = false; ///< of the units that both have
    std::vector<Correction> correctionsAdded, correctionsRemoved;
    std::vector<Setting> settings;
    std::vector<Base> bases; ///< of units that both have, youngest first
    std::vector<Volume> volumes;

    bool empty() const; ///< nothing differs
};

/// Both have Grids. Bases are compared at the cells of the later one's extent.
ProjectComparison compareProjects(const ProductSet& before, const ProductSet& after);

/// {"holes": {"added", "removed", "changed": [{"hole", "what"}]}, "corrections": {"added", "removed"}, "units": {"added",
/// "removed", "changed", "order_changed"}, "settings": [{"what", "before", "after"}], "bases": [{"unit", "mean", "largest",
/// "easting", "northing", "cells"}], "volumes": [{"unit", "before", "after"}]}
nlohmann::json comparisonJson(const ProjectComparison&, const Sequence& after);

/// The same in words and tables, with a map of the differences of each base that moved by a centimetre and more.
Document comparisonReport(const ProjectComparison&, const Sequence& after, const std::string& before, const std::string& later,
                          const std::string& date);

} // namespace fox
