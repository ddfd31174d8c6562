#pragma once
#include <memory>
#include <optional>
#include <string>

namespace fox {
class BlockSimulation;
}

namespace fox::app {

/// Which block model and which excavation are looked at, and how: one for all views.
struct BlockLook {
    bool on = false;             ///< views show blocks and excavations
    std::string model;           ///< by name; empty, or one that is gone: the first there is
    std::string excavation;      ///< likewise
    std::optional<double> limit; ///< cut-off; none: all blocks
    bool above = true;           ///< blocks above it are shown; else those below
    bool blocks = true, pit = true;
    enum class Colour { Value, Unit, Variance, Probability } colour = Colour::Value;
    /// Equally likely values of a model's blocks; null: not worked out. Of a model that has changed since it counts for nothing.
    std::shared_ptr<const BlockSimulation> simulated = {};
    bool operator==(const BlockLook&) const = default;
};

} // namespace fox::app
