#pragma once
#include <optional>
#include <string>

namespace fox::app {

/// Which block model and which excavation are looked at, and how: one for all views.
struct BlockLook {
    bool on = false;             ///< views show blocks and excavations
    std::string model;           ///< by name; empty, or one that is gone: the first there is
    std::string excavation;      ///< likewise
    std::optional<double> limit; ///< cut-off; none: all blocks
    bool above = true;           ///< blocks above it are shown; else those below
    bool blocks = true, pit = true;
    enum class Colour { Value, Unit, Variance } colour = Colour::Value;
    bool operator==(const BlockLook&) const = default;
};

} // namespace fox::app
