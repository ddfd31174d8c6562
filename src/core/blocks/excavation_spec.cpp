#include "blocks/excavation_spec.h"

#include "base/errors.h"
#include "formats/specification.h"

#include <fmt/format.h>

namespace fox {

using nlohmann::json;

namespace {

std::string fileIn(const json& j, const char* key, const std::filesystem::path& folder) {
    return (folder / j.at(key).get<std::string>()).lexically_normal().string();
}

double slopeIn(const json& j) {
    const double degrees = j.get<double>();
    if (!(degrees > 0 && degrees <= 90))
        throw UsageError(fmt::format("A slope is {:g} degrees; it can be over 0 to 90.", degrees));
    return degrees;
}

void readWanted(const json& j, const std::filesystem::path& folder, ExcavationSpec& spec) {
    using Wanted = ExcavationSpec::Wanted;
    if (j.contains("units")) {
        spec.wanted = Wanted::Units;
        spec.units = j.at("units").get<std::vector<std::string>>();
        if (spec.units.empty()) throw UsageError("\"wanted\": \"units\" names no unit.");
    } else if (j.contains("blocks")) {
        spec.wanted = Wanted::Blocks;
        spec.blocks = j.at("blocks");
        if (std::filesystem::exists(folder / spec.blocks)) spec.blocks = (folder / spec.blocks).string();
        if (j.contains("above") == j.contains("below"))
            throw UsageError("\"wanted\": blocks need either \"above\" or \"below\".");
        spec.above = j.contains("above");
        spec.limit = numberIn(j, spec.above ? "above" : "below");
    } else if (j.contains("surface")) {
        spec.wanted = Wanted::Surface;
        spec.surface = fileIn(j, "surface", folder);
    } else if (j.contains("floor")) {
        spec.wanted = Wanted::Floor;
        spec.ring = placesIn(j.at("floor").at("ring"), "\"ring\"");
        spec.level = numberIn(j.at("floor"), "level");
        if (spec.ring.size() < 3) throw UsageError("A \"ring\" needs at least three places.");
    } else {
        throw UsageError("\"wanted\" must be {\"units\"}, {\"blocks\"}, {\"surface\"} or {\"floor\"}.");
    }
}

} // namespace

ExcavationSpec excavationSpecOf(std::string_view text, const std::filesystem::path& folder) {
    const auto j = specDocument(text, "fox-cellar-excavation");
    return readSpec(
        [&] {
            ExcavationSpec spec;
            readWanted(j.at("wanted"), folder, spec);
            if (j.contains("inside")) {
                const auto& inside = j.at("inside");
                if (inside.contains("file"))
                    spec.insideFile = fileIn(inside, "file", folder);
                else
                    spec.insideRing = placesIn(inside.at("ring"), "\"ring\"");
            }
            const auto& slope = j.at("slope");
            if (slope.is_number())
                spec.slopes[""] = slopeIn(slope);
            else
                for (const auto& [code, degrees] : slope.items()) spec.slopes[code] = slopeIn(degrees);
            if (j.contains("bench")) {
                spec.bench = ExcavationSpec::Bench{positiveIn(j.at("bench"), "height"), numberIn(j.at("bench"), "berm")};
                if (!(spec.bench->berm >= 0)) throw UsageError("\"berm\" must not be negative.");
            }
            if (j.contains("floor")) spec.floor = numberIn(j, "floor");
            if (j.contains("cell")) spec.cell = positiveIn(j, "cell");
            const auto factors = j.value("factor", json::object());
            for (const auto& [code, factor] : factors.items()) {
                spec.factors[code] = factor;
                if (!(spec.factors[code] > 0)) throw UsageError("\"factor\" must be more than 0.");
            }
            if (j.contains("worth"))
                spec.worth = ExcavationSpec::Worth{numberIn(j.at("worth"), "value"), numberIn(j.at("worth"), "cost")};
            return spec;
        },
        "The specification of the excavation");
}

} // namespace fox
