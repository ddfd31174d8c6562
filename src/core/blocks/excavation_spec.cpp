#include "blocks/excavation_spec.h"

#include "base/errors.h"
#include "formats/specification.h"

#include <fmt/format.h>

namespace fox {

using nlohmann::json;

namespace {

constexpr const char* kDigFormat = "fox-cellar-excavation";

std::string fileIn(const json& j, const char* key, const std::filesystem::path& folder) {
    return std::filesystem::absolute(folder / j.at(key).get<std::string>()).lexically_normal().string();
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
        if (std::filesystem::exists(folder / spec.blocks))
            spec.blocks = std::filesystem::absolute(folder / spec.blocks).lexically_normal().string();
        if (j.contains("above") == j.contains("below"))
            throw UsageError("\"wanted\": blocks need either \"above\" or \"below\".");
        spec.above = j.contains("above");
        spec.limit = numberIn(j, spec.above ? "above" : "below");
    } else if (j.contains("surface")) {
        spec.wanted = Wanted::Surface;
        spec.surface = j.at("surface"); // a file, or the name of a surface of the project
        if (std::filesystem::exists(folder / spec.surface) || std::filesystem::path(spec.surface).has_extension())
            spec.surface = fileIn(j, "surface", folder);
    } else if (j.contains("floor")) {
        spec.wanted = Wanted::Floor;
        spec.ring = placesIn(j.at("floor").at("ring"), "\"ring\"");
        spec.level = numberIn(j.at("floor"), "level");
        if (spec.ring.size() < 3) throw UsageError("A \"ring\" needs at least three places.");
    } else if (j.contains("line")) {
        spec.wanted = Wanted::Line;
        for (const auto& p : j.at("line")) spec.line.push_back({p.at(0), p.at(1), p.at(2)});
        spec.lineWidth = positiveIn(j, "width");
        if (spec.line.size() < 2) throw UsageError("A \"line\" needs at least two places, each with its level.");
    } else {
        throw UsageError("\"wanted\" must be {\"units\"}, {\"blocks\"}, {\"surface\"}, {\"floor\"} or {\"line\"}.");
    }
}

std::map<std::string, double> slopesIn(const json& j) {
    std::map<std::string, double> out;
    if (j.is_number())
        out[""] = slopeIn(j);
    else
        for (const auto& [code, degrees] : j.items()) out[code] = slopeIn(degrees);
    return out;
}

/// {"file"} or {"ring"}.
void readRing(const json& j, const std::filesystem::path& folder, std::string& file, Polygon2& ring) {
    if (j.contains("file"))
        file = fileIn(j, "file", folder);
    else
        ring = placesIn(j.at("ring"), "\"ring\"");
}

void readSectors(const json& list, ExcavationSpec& spec) {
    for (const auto& j : list) {
        ExcavationSpec::Sector s{numberIn(j, "from"), numberIn(j, "to"), slopesIn(j.at("slope"))};
        if (!(s.from >= 0 && s.from <= 360 && s.to >= 0 && s.to <= 360 && s.from != s.to))
            throw UsageError("A sector goes from one direction to another, 0 to 360 degrees clockwise from north.");
        spec.sectors.push_back(std::move(s));
    }
}

} // namespace

ExcavationSpec excavationSpecOf(std::string_view text, const std::filesystem::path& folder) {
    const auto j = specDocument(text, kDigFormat);
    return readSpec(
        [&] {
            ExcavationSpec spec;
            spec.name = j.value("name", "");
            readWanted(j.at("wanted"), folder, spec);
            if (j.contains("inside")) readRing(j.at("inside"), folder, spec.insideFile, spec.insideRing);
            if (j.contains("limit")) readRing(j.at("limit"), folder, spec.limitFile, spec.limitRing);
            spec.slopes = slopesIn(j.at("slope"));
            readSectors(j.value("sectors", json::array()), spec);
            if (j.contains("floor_width")) spec.floorWidth = positiveIn(j, "floor_width");
            if (j.contains("water")) {
                spec.water = j.at("water").value("surface", "");
                if (j.at("water").contains("level")) spec.waterLevel = numberIn(j.at("water"), "level");
            }
            spec.after = j.value("after", "");
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
            const double n = j.contains("realisations") ? numberIn(j, "realisations") : 0;
            if (!(n >= 0 && n <= 10000 && n == std::floor(n)))
                throw UsageError("\"realisations\" must be a whole number, 10000 at most.");
            spec.realisations = int(n);
            return spec;
        },
        "The specification of the excavation");
}

std::string toJson(const ExcavationSpec& spec) {
    using Wanted = ExcavationSpec::Wanted;
    const auto ringJson = [](const Polygon2& ring) {
        json out = json::array();
        for (const auto p : ring) out.push_back({p.x, p.y});
        return out;
    };
    json j{{"format", kDigFormat}, {"version", 1}, {"name", spec.name}};
    auto& wanted = j["wanted"];
    if (spec.wanted == Wanted::Units) wanted = {{"units", spec.units}};
    if (spec.wanted == Wanted::Blocks) wanted = {{"blocks", spec.blocks}, {spec.above ? "above" : "below", spec.limit}};
    if (spec.wanted == Wanted::Surface) wanted = {{"surface", spec.surface}};
    if (spec.wanted == Wanted::Floor) wanted = {{"floor", {{"ring", ringJson(spec.ring)}, {"level", spec.level}}}};
    if (spec.wanted == Wanted::Line) {
        json line = json::array();
        for (const auto& p : spec.line) line.push_back({p.x, p.y, p.z});
        wanted = {{"line", line}, {"width", spec.lineWidth}};
    }
    if (!spec.limitFile.empty()) j["limit"] = {{"file", spec.limitFile}};
    if (!spec.limitRing.empty()) j["limit"] = {{"ring", ringJson(spec.limitRing)}};
    for (const auto& s : spec.sectors) j["sectors"].push_back({{"from", s.from}, {"to", s.to}, {"slope", s.slopes}});
    if (spec.floorWidth > 0) j["floor_width"] = spec.floorWidth;
    if (spec.waterLevel)
        j["water"] = {{"level", *spec.waterLevel}};
    else if (!spec.water.empty())
        j["water"] = {{"surface", spec.water}};
    if (!spec.after.empty()) j["after"] = spec.after;
    if (!spec.insideFile.empty()) j["inside"] = {{"file", spec.insideFile}};
    if (!spec.insideRing.empty()) j["inside"] = {{"ring", ringJson(spec.insideRing)}};
    j["slope"] = json::object();
    for (const auto& [code, degrees] : spec.slopes) j["slope"][code] = degrees;
    if (spec.bench) j["bench"] = {{"height", spec.bench->height}, {"berm", spec.bench->berm}};
    if (spec.floor) j["floor"] = *spec.floor;
    if (spec.cell > 0) j["cell"] = spec.cell;
    if (!spec.factors.empty()) j["factor"] = spec.factors;
    if (spec.realisations > 0) j["realisations"] = spec.realisations;
    if (spec.worth) j["worth"] = {{"value", spec.worth->value}, {"cost", spec.worth->cost}};
    return j.dump(1);
}

} // namespace fox
