#include "blocks/block_spec.h"

#include "base/errors.h"
#include "base/text.h"
#include "formats/specification.h"

#include <fmt/format.h>

namespace fox {

using nlohmann::json;

namespace {

constexpr const char* kBlocksFormat = "fox-cellar-blocks";
using BlockMethod = BlockSpec::Method;

void readValue(const json& j, const std::filesystem::path& folder, BlockSpec& spec) {
    if (j.contains("curve")) {
        spec.of = BlockSpec::Of::Curve, spec.quantity = j.at("curve");
    } else if (j.contains("test")) {
        spec.of = BlockSpec::Of::Test, spec.quantity = j.at("test");
    } else if (j.contains("points")) {
        spec.of = BlockSpec::Of::Points, spec.quantity = j.value("column", "");
        spec.file = std::filesystem::absolute(folder / j.at("points").get<std::string>()).lexically_normal().string();
    } else if (j.contains("values")) {
        spec.of = BlockSpec::Of::Values, spec.quantity = j.at("values"), spec.file = j.value("from", "");
    } else {
        throw UsageError("\"value\" must be {\"curve\"}, {\"test\"}, {\"points\", \"column\"} or {\"values\"}.");
    }
}

Frame extentOf(const json& j) {
    Frame f{numberIn(j, "xmin"), numberIn(j, "ymin"), numberIn(j, "xmax"), numberIn(j, "ymax"), 1};
    if (!(f.xmax > f.xmin) || !(f.ymax > f.ymin)) throw UsageError("\"extent\" is reversed or has no area.");
    return f;
}

/// A whole number from 0 on, which stands for `zero`.
int countIn(const json& j, const char* key, int otherwise, const char* zero) {
    if (!j.contains(key)) return otherwise;
    const double n = numberIn(j, key);
    if (!(n >= 0) || n != std::floor(n)) throw UsageError(fmt::format("\"{}\" must be a whole number, 0 for {}.", key, zero));
    return int(std::min(n, 1e6));
}

void readMethod(const json& j, BlockSpec& spec) {
    const auto method = j.value("method", name(spec.method));
    bool known = false;
    for (const auto m : {BlockMethod::InverseDistance, BlockMethod::Kriging, BlockMethod::Nearest})
        if (method == name(m)) spec.method = m, known = true;
    if (!known) throw UsageError(fmt::format("\"method\" is \"{}\"; it can be inverse-distance, kriging or nearest.", method));
    if (j.contains("power")) spec.power = positiveIn(j, "power");
    spec.neighbours = countIn(j, "neighbours", spec.neighbours, "all");
    if (j.contains("radius")) spec.radius = numberIn(j, "radius");
    if (!(spec.radius >= 0)) throw UsageError("\"radius\" must not be negative.");
    if (j.contains("radius_vertical")) spec.verticalRadius = numberIn(j, "radius_vertical");
    if (!(spec.verticalRadius >= 0)) throw UsageError("\"radius_vertical\" must not be negative.");
    spec.perHole = countIn(j, "per_hole", 0, "any number");
    spec.verticalFitted = j.contains("vertical") && j.at("vertical") == "fitted";
    if (j.contains("vertical") && !spec.verticalFitted) spec.vertical = positiveIn(j, "vertical");
    if (const auto text = j.value("variogram", ""); !text.empty()) {
        spec.variogram = variogramFrom(text);
        if (!spec.variogram)
            throw UsageError(
                "\"variogram\" must be MODEL,NUGGET,PARTIAL_SILL,RANGE; MODEL is spherical, exponential, gaussian or linear.");
    }
    spec.logarithmic = j.value("log", false);
    if (j.contains("cap")) spec.cap = numberIn(j, "cap");
}

} // namespace

const char* name(BlockMethod method) {
    return method == BlockMethod::Kriging ? "kriging" : method == BlockMethod::Nearest ? "nearest" : "inverse-distance";
}

BlockSpec blockSpecOf(std::string_view text, const std::filesystem::path& folder) {
    const auto j = specDocument(text, kBlocksFormat);
    return readSpec(
        [&] {
            BlockSpec spec;
            spec.name = j.value("name", "");
            readValue(j.at("value"), folder, spec);
            const auto& block = j.at("block");
            spec.dx = block.at(0), spec.dy = block.at(1), spec.dz = block.at(2);
            for (const double size : {spec.dx, spec.dy, spec.dz})
                if (!(size > 0) || !std::isfinite(size)) throw UsageError("\"block\" must be three lengths of more than 0 m.");
            if (j.contains("extent") && j.at("extent").is_object()) spec.extent = extentOf(j.at("extent"));
            spec.fromLevel = numberIn(j, "from_level"), spec.toLevel = numberIn(j, "to_level");
            if (!(spec.toLevel > spec.fromLevel)) throw UsageError("\"to_level\" must be above \"from_level\".");
            if (j.contains("composite")) spec.composite = numberIn(j, "composite");
            if (!(spec.composite >= 0)) throw UsageError("\"composite\" must not be negative.");
            const auto units = j.value("units", "across");
            if (units != "across" && units != "within")
                throw UsageError(fmt::format("\"units\" is \"{}\"; it can be across or within.", units));
            spec.within = units == "within";
            spec.only = j.value("only", spec.only);
            readMethod(j, spec);
            return spec;
        },
        "The specification of the blocks");
}

std::string toJson(const BlockSpec& spec) {
    json value;
    if (spec.of == BlockSpec::Of::Curve) value = {{"curve", spec.quantity}};
    if (spec.of == BlockSpec::Of::Test) value = {{"test", spec.quantity}};
    if (spec.of == BlockSpec::Of::Points) value = {{"points", spec.file}, {"column", spec.quantity}};
    if (spec.of == BlockSpec::Of::Values) value = {{"values", spec.quantity}};
    if (spec.of == BlockSpec::Of::Values && !spec.file.empty()) value["from"] = spec.file;
    json j{{"format", kBlocksFormat},
           {"version", 1},
           {"name", spec.name},
           {"value", value},
           {"block", {spec.dx, spec.dy, spec.dz}},
           {"from_level", spec.fromLevel},
           {"to_level", spec.toLevel},
           {"composite", spec.composite},
           {"units", spec.within ? "within" : "across"},
           {"only", spec.only},
           {"method", name(spec.method)},
           {"power", spec.power},
           {"neighbours", spec.neighbours},
           {"radius", spec.radius},
           {"log", spec.logarithmic}};
    if (spec.extent)
        j["extent"] = {
            {"xmin", spec.extent->xmin}, {"ymin", spec.extent->ymin}, {"xmax", spec.extent->xmax}, {"ymax", spec.extent->ymax}};
    j["vertical"] = spec.verticalFitted ? json("fitted") : json(spec.vertical);
    if (spec.verticalRadius > 0) j["radius_vertical"] = spec.verticalRadius;
    if (spec.perHole > 0) j["per_hole"] = spec.perHole;
    if (spec.variogram) j["variogram"] = written(*spec.variogram);
    if (spec.cap) j["cap"] = *spec.cap;
    return j.dump(1);
}

} // namespace fox
