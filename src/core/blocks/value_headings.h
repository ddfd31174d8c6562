#pragma once
#include <string>

namespace fox {

/// Whether a heading is a name of values: "value", "reading", "result", "concentration".
bool isValueHeading(const std::string& heading);
/// Whether a heading can't be of a survey: a name of values, or a unit that is none of length: "chloride (mg/l)".
bool saysValue(const std::string& heading);

} // namespace fox
