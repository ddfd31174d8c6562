#pragma once
#include "base/finding.h"
#include "base/progress.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace fox {

/// A line of a LAS header: "STRT.M  0.50 : start depth".
struct LasItem {
    std::string name, unit, value, description;
    int line = 0;
};

/// A well log in the LAS format of the Canadian Well Logging Society, versions 1.2 and 2.0.
struct LasFile {
    std::string name;    ///< what findings call the file
    std::string version; ///< "2.0"
    bool wrapped = false;
    std::vector<LasItem> well, parameters, curves; ///< the first curve is the depth
    /// curve by curve as in `curves`, one value a step; kNoValue where the file has its null value
    std::vector<std::vector<double>> values;
    Findings findings;

    const LasItem* wellItem(std::string_view name) const; ///< in any case; null if it is not there
    std::size_t steps() const { return values.empty() ? 0 : values.front().size(); }
};

/// Whether the bytes look like a LAS file: the first section is ~V.
bool looksLikeLas(std::string_view bytes);
/// Version 1.2 has some items the other way round (name where 2.0 has the value): read as meant. Rows with too few
/// or too many numbers, text among numbers, depths out of order are findings. @throws FileError if it is not LAS
LasFile readLas(std::string_view bytes, std::string name, const Progress& = {});

} // namespace fox
