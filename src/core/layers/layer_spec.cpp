#include "layers/layer_spec.h"

#include "base/errors.h"
#include "layers/spec_json.h"

#include <fmt/format.h>

namespace fox {

using nlohmann::json;

namespace {

constexpr const char* kFormat = "fox-cellar-layers";

constexpr CellValueKind kCellValues[] = {{"conductivity", "Hydraulic conductivity", "m/s"},
                                         {"vertical_conductivity", "Vertical hydraulic conductivity", "m/s"},
                                         {"specific_storage", "Specific storage", "1/m"},
                                         {"specific_yield", "Specific yield", ""},
                                         {"porosity", "Porosity", ""},
                                         {"unit_weight", "Unit weight", "kN/m\u00B3"},
                                         {"recharge", "Recharge", "m/s"},
                                         {"starting_head", "Starting head", "m"},
                                         {"fixed_head", "Fixed head", "m"}};

std::vector<double> axisOf(const json& j, const char* what) {
    if (j.is_array()) return j.get<std::vector<double>>();
    const double count = positiveIn(j, "count"), width = positiveIn(j, "width");
    if (count != std::floor(count) || count > 1e7)
        throw UsageError(fmt::format("\"{}\": \"count\" must be a whole number, 10000000 at most.", what));
    return std::vector<double>(std::size_t(count), width);
}

json axisJson(const std::vector<double>& widths) {
    if (std::ranges::all_of(widths, [&](double w) { return std::abs(w - widths.front()) < 1e-9 * widths.front(); }))
        return {{"count", widths.size()}, {"width", widths.front()}};
    return widths;
}

void readGrid(const json& j, LayerSpec& spec) {
    const auto corner = placesIn(json::array({j.at("corner")}), "\"corner\"").front();
    spec.grid = PlanGrid(corner, j.contains("turn") ? numberIn(j, "turn") : 0, axisOf(j.at("columns"), "columns"),
                         axisOf(j.at("rows"), "rows"));
    for (const auto& part : j.value("finer", json::array())) {
        FinerPart finer;
        if (part.contains("line")) finer.line = placesIn(part.at("line"), "\"line\"");
        if (part.contains("place")) finer.line = placesIn(json::array({part.at("place")}), "\"place\"");
        if (finer.line.empty()) throw UsageError("\"finer\" needs \"line\" or \"place\".");
        finer.width = positiveIn(part, "width");
        if (part.contains("growth")) finer.growth = numberIn(part, "growth");
        spec.finer.push_back(std::move(finer));
    }
}

std::size_t layerIn(const json& j) {
    const double n = j.get<double>();
    if (!(n >= 1 && n < 1e6 && n == std::floor(n))) throw UsageError("Layers are counted from 1.");
    return std::size_t(n) - 1;
}

std::vector<GroupAnswer> groupAnswersOf(const json& list) {
    std::vector<GroupAnswer> out;
    for (const auto& j : list) {
        const auto check = j.at("check").get<std::string>(), then = j.at("then").get<std::string>();
        const auto mark = std::ranges::find(cellMarks(), check, [](CellMark m) { return std::string(name(m)); });
        if (mark == cellMarks().end() || answersTo(*mark).empty())
            throw UsageError(
                fmt::format("\"groups\": there is no answer to \"{}\"; there are to thin, missing and alone.", check));
        const auto all = answersTo(*mark);
        const auto answer = std::ranges::find(all, then, [](CellAnswer a) { return std::string(name(a)); });
        if (answer == all.end())
            throw UsageError(fmt::format("\"groups\": \"{}\" does not answer the check \"{}\".", then, check));
        out.push_back({*mark, layerIn(j.at("layer")), placesIn(json::array({j.at("at")}), "\"at\"").front(), *answer});
    }
    return out;
}

std::vector<TypedValue> typedValuesOf(const json& list) {
    std::vector<TypedValue> out;
    for (const auto& j : list) {
        TypedValue t;
        t.key = j.at("value").get<std::string>();
        if (std::ranges::find(kCellValues, std::string_view(t.key), &CellValueKind::key) == std::end(kCellValues))
            throw UsageError(fmt::format("\"{}\" is not a value of cells.", t.key));
        t.number = numberIn(j, "number");
        t.first = layerIn(j.at("layers").at(0)), t.last = layerIn(j.at("layers").at(1));
        std::string none;
        readArea({{"ring", j.at("ring")}}, {}, none, t.ring);
        out.push_back(std::move(t));
    }
    return out;
}

json gridJson(const LayerSpec& spec) {
    std::vector<double> columns, rows;
    for (int c = 0; c < spec.grid.columns(); ++c) columns.push_back(spec.grid.width(c));
    for (int r = 0; r < spec.grid.rows(); ++r) rows.push_back(spec.grid.height(r));
    json out{{"corner", {spec.grid.corner().x, spec.grid.corner().y}},
             {"turn", spec.grid.turn()},
             {"columns", axisJson(columns)},
             {"rows", axisJson(rows)}};
    for (const auto& part : spec.finer) {
        json line = json::array();
        for (const auto p : part.line) line.push_back({p.x, p.y});
        out["finer"].push_back({{"line", line}, {"width", part.width}, {"growth", part.growth}});
    }
    return out;
}

} // namespace

std::span<const CellValueKind> cellValueKinds() { return kCellValues; }

CellAnswer LayerSpec::answerForAll(CellMark mark) const {
    switch (mark) {
    case CellMark::Thin: return thin.then;
    case CellMark::Missing: return answers.fillMissing ? CellAnswer::Thicken : CellAnswer::Leave;
    case CellMark::Alone: return answers.dropAlone ? CellAnswer::Passive : CellAnswer::Leave;
    default: return CellAnswer::Leave;
    }
}

const char* words(FieldSource::From from) {
    using From = FieldSource::From;
    switch (from) {
    case From::None: return "nothing";
    case From::Units: return "the units";
    case From::Number: return "a number";
    case From::Ground: return "the ground";
    case From::Base: return "the base of a unit";
    case From::Grid: return "a grid";
    case From::Points: return "points";
    case From::Surface: return "a named surface";
    case From::Water: return "a water surface";
    case From::Line: return "a line";
    }
    return "";
}

LayerSpec layerSpecOf(std::string_view text, const std::filesystem::path& folder) {
    const auto j = specDocument(text, kFormat);
    return readSpec(
        [&] {
            LayerSpec spec;
            spec.name = j.value("name", "");
            readGrid(j.at("grid"), spec);
            if (j.contains("area")) readArea(j.at("area"), folder, spec.areaFile, spec.areaRing);
            if (j.contains("top")) spec.top = fieldSourceOf(j.at("top"), folder);
            spec.layers = layerRulesOf(j.at("layers"), folder);
            spec.thin = thinRuleOf(j.value("thin", json()), spec.thin.metres);
            const auto mend = j.value("mend", json::object());
            spec.answers = {mend.value("missing", "leave") == "fill", mend.value("alone", "leave") == "passive",
                            groupAnswersOf(mend.value("groups", json::array()))};
            spec.values = cellValuesOf(j.value("values", json::object()), folder);
            spec.typed = typedValuesOf(j.value("typed", json::array()));
            return spec;
        },
        "The specification of the layers");
}

std::string toJson(const LayerSpec& spec) {
    json j{{"format", kFormat},
           {"version", 1},
           {"name", spec.name},
           {"grid", gridJson(spec)},
           {"top", toJson(spec.top)},
           {"layers", toJson(spec.layers)},
           {"thin", {{"metres", spec.thin.metres}, {"then", name(spec.thin.then)}}},
           {"mend",
            {{"missing", spec.answers.fillMissing ? "fill" : "leave"}, {"alone", spec.answers.dropAlone ? "passive" : "leave"}}},
           {"values", toJson(spec.values)}};
    for (const auto& g : spec.answers.groups)
        j["mend"]["groups"].push_back(
            {{"check", name(g.mark)}, {"layer", g.layer + 1}, {"at", {g.at.x, g.at.y}}, {"then", name(g.answer)}});
    for (const auto& t : spec.typed)
        j["typed"].push_back({{"value", t.key},
                              {"number", t.number},
                              {"layers", {t.first + 1, t.last + 1}},
                              {"ring", areaJson("", t.ring).at("ring")}});
    if (!spec.areaFile.empty() || !spec.areaRing.empty()) j["area"] = areaJson(spec.areaFile, spec.areaRing);
    return j.dump(1);
}

} // namespace fox
