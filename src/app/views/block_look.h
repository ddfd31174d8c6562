#pragma once
#include "blocks/value_limits.h"

#include <memory>
#include <optional>
#include <string>

namespace fox {
class BlockSimulation;
}

namespace fox::app {

/// Which block model and which excavation are looked at, and how: one for all views.
struct BlockLook {
    bool on = false;        ///< views show blocks and excavations
    std::string model;      ///< by name; empty, or one that is gone: the first there is
    std::string excavation; ///< likewise
    enum class Side { Above, Below, Between } side = Side::Above;
    std::optional<double> limit; ///< cut-off, the lower one of Between; none: all blocks
    std::optional<double> upTo;  ///< the upper cut-off of Between; none: no limit there
    bool blocks = true, pit = true;
    std::optional<double> planLevel; ///< the plan shows the blocks at this level; none: it shows none
    enum class Colour { Value, Unit, Variance, Probability } colour = Colour::Value;
    /// Equally likely values of a model's blocks; null: not worked out. Of a model that has changed since it counts for nothing.
    std::shared_ptr<const BlockSimulation> simulated = {};

    /// Of the values of the blocks that are shown.
    ValueLimits limits() const {
        switch (side) {
        case Side::Above: return {limit, {}};
        case Side::Below: return {{}, limit};
        case Side::Between: break;
        }
        return {limit, upTo};
    }
    bool hasLimits() const { return limits() != ValueLimits{}; }
    void showAll() { limit.reset(), upTo.reset(); }
    bool operator==(const BlockLook&) const = default;
};

} // namespace fox::app
