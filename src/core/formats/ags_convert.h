#pragma once
#include "formats/ags.h"

namespace fox {

struct AgsConversion {
    std::string text;               ///< AGS 4.1
    std::vector<std::string> notes; ///< what has no place in 4.1 and how it is kept, and what was missing
};

/// An AGS 3 file as AGS 4.1: groups and headings by formats/dictionary/ags3_to_4.ags, dates as ISO, units and
/// abbreviations carried over. What has no place is kept in groups and headings of its own, defined in DICT.
/// @throws UsageError if the file is edition 4 already
AgsConversion toAgs41(const AgsFile&);

} // namespace fox
