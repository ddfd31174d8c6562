#include "formats/specification.h"

#include <cmath>
#include <fmt/format.h>

namespace fox {

using nlohmann::json;

json specDocument(std::string_view text, const char* format) {
    json j;
    try {
        j = json::parse(text);
    } catch (const json::exception& e) { // also a number that is too large
        throw FileError(fmt::format("This is not valid JSON: {}.", e.what()));
    }
    if (!j.is_object() || j.value("format", json()) != format)
        throw FileError(fmt::format("This is not a specification of this kind: its \"format\" is not \"{}\".", format));
    if (j.value("version", json()) != 1) throw FileError("It has a version that this Fox Cellar does not know; it knows 1.");
    return j;
}

double numberIn(const json& j, const char* key) {
    const auto& v = j.at(key);
    if (!v.is_number() || !std::isfinite(v.get<double>())) throw UsageError(fmt::format("\"{}\" must be a number.", key));
    return v;
}

double positiveIn(const json& j, const char* key) {
    const double v = numberIn(j, key);
    if (!(v > 0)) throw UsageError(fmt::format("\"{}\" is {:g}; it must be more than 0.", key, v));
    return v;
}

Polyline2 placesIn(const json& j, const char* what) {
    Polyline2 out;
    for (const auto& p : j) {
        out.push_back({p.at(0), p.at(1)});
        if (!std::isfinite(out.back().x) || !std::isfinite(out.back().y))
            throw UsageError(fmt::format("A place of {} is not two numbers.", what));
    }
    return out;
}

} // namespace fox
