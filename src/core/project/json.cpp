#include "project/json.h"

#include "base/errors.h"
#include "base/limits.h"

#include <fmt/format.h>

namespace fox {

using nlohmann::json;

json number(double v) { return std::isfinite(v) ? json(v) : json(nullptr); }

json toJson(const Finding& f) {
    json j{{"severity", word(f.severity)}, {"rule", f.rule}, {"file", f.file},      {"line", f.line}, {"group", f.group},
           {"heading", f.heading},         {"hole", f.hole}, {"message", f.message}};
    if (f.place) j["place"] = {f.place->x, f.place->y};
    return j;
}

Finding findingOf(const json& j) {
    const std::string severity = j.at("severity");
    return {severity == "error"     ? Severity::Error
            : severity == "warning" ? Severity::Warning
                                    : Severity::Note,
            j.at("rule"),
            j.at("file"),
            j.at("line"),
            j.at("group"),
            j.at("heading"),
            j.at("hole"),
            j.at("message"),
            {},
            j.contains("place") ? std::optional(Point2{j["place"].at(0), j["place"].at(1)}) : std::nullopt};
}

json toJson(const SurfaceRecipe& r) {
    const auto& s = r.settings;
    json j{{"method", methodName(methodOf(r))}, {"power", s.power}, {"neighbours", s.neighbours}};
    if (s.radius) j["radius"] = *s.radius;
    if (s.reach) j["reach"] = *s.reach;
    if (s.carriedOn) j["carried_on"] = true;
    if (s.variogram)
        j["variogram"] = {{"model", name(s.variogram->model)},
                          {"nugget", s.variogram->nugget},
                          {"partial_sill", s.variogram->partialSill},
                          {"range", s.variogram->range}};
    if (s.anisotropy != Anisotropy{}) j["anisotropy"] = {{"azimuth", s.anisotropy.azimuth}, {"ratio", s.anisotropy.ratio}};
    if (r.reference) j["from"] = name(*r.reference);
    if (!r.against.empty()) j["against"] = r.against;
    if (r.tilt) j["plane"] = {{"strike", r.tilt->strike}, {"dip", r.tilt->dip}};
    if (!r.bounds) j["bounds"] = false;
    if (!r.series.empty()) j["series"] = r.series;
    if (r.grid) j["grid"] = toJson(*r.grid);
    return j;
}

SurfaceRecipe recipeOf(const json& j, SurfaceRecipe recipe) {
    auto& s = recipe.settings;
    if (j.contains("method")) {
        const auto method = baseMethodNamed(j["method"].get<std::string>());
        if (!method)
            throw UsageError(fmt::format("\"{}\" is not a method of this version; there are automatic, {}.",
                                         j["method"].get<std::string>(), methodNames()));
        setMethod(recipe, *method);
    }
    s.power = j.value("power", s.power);
    s.neighbours = j.value("neighbours", s.neighbours);
    if (j.contains("radius")) s.radius = j["radius"].get<double>();
    if (j.contains("reach")) s.reach = j["reach"].get<double>();
    s.carriedOn = j.value("carried_on", s.carriedOn);
    if (j.contains("variogram")) {
        const auto& v = j["variogram"];
        const auto model = variogramModel(v.at("model").get<std::string>());
        if (!model)
            throw UsageError(fmt::format("\"{}\" is not a variogram model; there are linear, spherical, exponential, gaussian.",
                                         v["model"].get<std::string>()));
        s.variogram = Variogram{*model, v.at("nugget"), v.at("partial_sill"), v.at("range")};
    }
    if (j.contains("anisotropy")) s.anisotropy = {j["anisotropy"].at("azimuth"), j["anisotropy"].at("ratio")};
    if (j.contains("from")) {
        const auto from = j["from"].get<std::string>();
        recipe.reference = baseReferenceNamed(from);
        if (!recipe.reference)
            throw UsageError(fmt::format("A surface is made from {}, not from \"{}\".", baseReferenceNames(), from));
    }
    recipe.against = j.value("against", recipe.against);
    recipe.bounds = j.value("bounds", recipe.bounds);
    recipe.series = j.value("series", recipe.series);
    if (j.contains("grid")) recipe.grid = frameOf(j["grid"]);
    if (j.contains("plane")) {
        recipe.tilt = Tilt{j["plane"].at("strike"), j["plane"].at("dip")};
        if (!(recipe.tilt->dip >= 0) || !(recipe.tilt->dip <= 89))
            throw UsageError("The dip of a plane lies between 0 and 89 degrees.");
    }
    return recipe;
}

namespace {

json toJson(const Polygon2& ring) {
    json j = json::array();
    for (const auto& p : ring) j.push_back({p.x, p.y});
    return j;
}

Polygon2 ringOf(const json& j) {
    Polygon2 out;
    for (const auto& p : j) out.push_back({p.at(0), p.at(1)});
    return out;
}

} // namespace

json detailsOf(const Unit& u) {
    json j = json::object();
    if (!u.hatch.empty()) j["sign"] = u.hatch;
    if (u.leastThickness > 0) j["least_thickness"] = u.leastThickness;
    for (const auto& outline : u.outlines) {
        auto& shape = j["outlines"].emplace_back(json::object());
        shape["ring"] = toJson(outline.ring);
        for (const auto& hole : outline.holes) shape["holes"].push_back(toJson(hole));
    }
    if (u.crossing.kind != CrossingRemedy::Kind::None)
        j["crossing"] = {{"kind", name(u.crossing.kind)}, {"metres", u.crossing.metres}, {"unit", u.crossing.unit}};
    if (u.water != WaterRole::NotSet) j["water"] = name(u.water);
    if (u.loggingAccuracy > 0) j["logging_accuracy"] = u.loggingAccuracy;
    if (u.floor) j["floor"] = {{u.floor->from == UnitFloor::From::Datum ? "level" : "below_holes", u.floor->metres}};
    for (const auto& [key, value] : u.values) {
        const bool standard = std::ranges::count(standardUnitValues(), key, &UnitValueKind::key) > 0;
        (standard ? j[key] : j["values"][key]) = value;
    }
    return j;
}

void readDetails(Unit& u, const json& j) {
    u.hatch = j.value("sign", u.hatch);
    u.leastThickness = j.value("least_thickness", u.leastThickness);
    if (!(u.leastThickness >= 0)) throw UsageError(fmt::format("The minimum thickness of {} can't be negative.", u.code));
    if (j.contains("outlines") && j["outlines"].is_array()) {
        u.outlines.clear();
        for (const auto& shape : j["outlines"]) {
            if (!shape.contains("ring")) continue; // a file, which the reader of build files takes
            auto& outline = u.outlines.emplace_back(RingWithHoles{ringOf(shape.at("ring"))});
            for (const auto& hole : shape.value("holes", json::array())) outline.holes.push_back(ringOf(hole));
        }
    }
    if (j.contains("outline") && j["outline"].is_array()) { // of schemas before 11
        u.outlines = {RingWithHoles{ringOf(j["outline"])}};
        for (const auto& hole : j.value("outline_holes", json::array())) u.outlines.front().holes.push_back(ringOf(hole));
    }
    std::erase_if(u.outlines, [](const RingWithHoles& o) { return o.ring.size() < 3; });
    if (j.contains("crossing")) {
        const auto& c = j["crossing"];
        const auto kind = crossingRemedyNamed(c.value("kind", "none"));
        if (!kind)
            throw UsageError(fmt::format("The crossing of {} is \"{}\"; it can be none, halfway, thickness, below or above.",
                                         u.code, c.value("kind", "")));
        u.crossing = {*kind, c.value("metres", 0.0), c.value("unit", "")};
    }
    const auto water = waterRoleNamed(j.value("water", name(u.water)));
    if (!water) throw UsageError(fmt::format("{} can be an aquifer or an aquitard, not \"{}\".", u.code, j.value("water", "")));
    u.water = *water;
    u.loggingAccuracy = j.value("logging_accuracy", u.loggingAccuracy);
    if (!(u.loggingAccuracy >= 0)) throw UsageError(fmt::format("The logging accuracy of {} can't be negative.", u.code));
    if (j.contains("floor")) {
        const auto& floor = j["floor"];
        const bool fromHoles = floor.contains("below_holes");
        u.floor = UnitFloor{fromHoles ? UnitFloor::From::DeepestHole : UnitFloor::From::Datum,
                            floor.at(fromHoles ? "below_holes" : "level").get<double>()};
    }
    for (const auto& kind : standardUnitValues())
        if (j.contains(kind.key)) u.values[kind.key] = checkedUnitValue(kind, j[kind.key].get<double>());
    if (j.contains("storage")) u.values["specific_storage"] = j["storage"].get<double>(); // as earlier versions call it
    const auto own = j.value("values", json::object());
    for (const auto& [key, value] : own.items())
        u.values[key] = value.is_object() ? value.at("value").get<double>() : value.get<double>();
}

std::vector<UnitValueKind> ownValuesOf(const json& units) {
    std::vector<UnitValueKind> out;
    for (const auto& j : units) {
        const auto own = j.value("values", json::object());
        for (const auto& [key, value] : own.items()) {
            if (std::ranges::count(out, key, &UnitValueKind::key) == 0) out.push_back({key, key, ""});
            if (value.is_object()) std::ranges::find(out, key, &UnitValueKind::key)->unit = value.value("unit", "");
        }
    }
    return out;
}

json toJson(const Frame& f) { return {{"xmin", f.xmin}, {"ymin", f.ymin}, {"xmax", f.xmax}, {"ymax", f.ymax}, {"cell", f.cell}}; }

Frame frameOf(const json& j) {
    const Frame f{j.at("xmin"), j.at("ymin"), j.at("xmax"), j.at("ymax"), j.at("cell")};
    if (!(f.xmax > f.xmin) || !(f.ymax > f.ymin))
        throw UsageError("The frame is reversed or empty: xmin must be less than xmax, ymin less than ymax.");
    if (!(f.cell > 0)) throw UsageError("The cell size must be more than 0 m.");
    if (!(cellsOf(f) <= limits::kGridCells))
        throw Error(
            fmt::format("The frame has {:.0f} cells; the limit is {:.0f}. Take a larger cell.", cellsOf(f), limits::kGridCells));
    return f;
}

Frame siteFrameOf(const json& j) {
    const auto f = frameOf(j);
    if (cellsOf(f) > limits::kSiteCells)
        throw Error(fmt::format("The site's grid would have {:.0f} cells; the limit is {:.0f}. Take cells of {:g} m or more.",
                                cellsOf(f), limits::kSiteCells, coarserCell(f, limits::kSiteCells)));
    return f;
}

json toJson(const SourceSettings& s) {
    json j = json::object();
    if (!s.crs.empty()) j["crs"] = s.crs;
    if (!s.groupsOut.empty()) j["groups_out"] = s.groupsOut;
    if (!s.curves.empty()) j["curves"] = s.curves;
    if (!s.columns.empty()) j["columns"] = s.columns;
    if (s.as != SourceSettings::As::Guess)
        j["as"] = s.as == SourceSettings::As::SurveyPoints ? "points"
                  : s.as == SourceSettings::As::Contacts   ? "contacts"
                  : s.as == SourceSettings::As::Values     ? "values"
                                                           : "holes";
    if (s.surface != ContactSurface::Base) j["surface"] = words(s.surface);
    if (!s.unitField.empty()) j["unit_field"] = s.unitField;
    if (s.role) j["role"] = words(*s.role);
    for (const auto& [layer, role] : s.layerRoles) j["layer_roles"][layer] = words(role);
    if (!s.numberField.empty()) j["number_field"] = s.numberField;
    if (!s.codeField.empty()) j["code_field"] = s.codeField;
    if (!s.filter.field.empty()) j["filter"] = {{"field", s.filter.field}, {"values", s.filter.values}};
    for (const auto& o : s.objects) {
        json object{{"layer", o.layer}, {"id", o.id}, {"out", o.isOut}};
        if (o.level) object["level"] = *o.level;
        j["objects"].push_back(std::move(object));
    }
    if (!s.otherSpelling) j["other_spelling"] = false;
    if (!s.holesOut.empty()) j["holes_out"] = s.holesOut;
    if (s.idFromFileName) j["id_from_file_name"] = true;
    if (!s.levelField.empty()) j["level_field"] = s.levelField;
    if (s.thin > 0) j["thin"] = s.thin;
    for (const auto& p : s.keep) j["keep"].push_back({p.x, p.y});
    if (s.cell) j["cell"] = *s.cell;
    if (s.unit != 0) j["unit"] = s.unit;
    if (s.localGrid)
        for (const auto* c : {&s.localGrid->a, &s.localGrid->b})
            j["local_grid"].push_back({c->local.x, c->local.y, c->national.x, c->national.y});
    for (const auto& [sheet, mapping] : s.mappings) {
        json roles = json::array();
        for (const auto role : mapping.roles) roles.push_back(words(role));
        j["tables"][sheet] = {{"columns", mapping.columns}, {"roles", roles}, {"units", mapping.units}};
    }
    return j;
}

SourceSettings settingsOf(const json& j) {
    SourceSettings s;
    s.crs = j.value("crs", "");
    s.groupsOut = j.value("groups_out", std::vector<std::string>{});
    s.curves = j.value("curves", std::vector<std::string>{});
    s.columns = j.value("columns", std::vector<std::string>{});
    const std::string as = j.value("as", "");
    s.as = as == "points"     ? SourceSettings::As::SurveyPoints
           : as == "holes"    ? SourceSettings::As::HoleTable
           : as == "contacts" ? SourceSettings::As::Contacts
           : as == "values"   ? SourceSettings::As::Values
                              : SourceSettings::As::Guess;
    s.surface = contactSurface(j.value("surface", "base")).value_or(ContactSurface::Base);
    s.unitField = j.value("unit_field", "");
    s.role = lineRole(j.value("role", ""));
    const json layerRoles = j.value("layer_roles", json::object());
    for (const auto& [layer, role] : layerRoles.items())
        if (const auto known = lineRole(role.get<std::string>())) s.layerRoles[layer] = *known;
    s.numberField = j.value("number_field", "");
    s.codeField = j.value("code_field", "");
    if (j.contains("filter")) s.filter = {j["filter"].at("field"), j["filter"].at("values")};
    const json objects = j.value("objects", json::array());
    for (const auto& o : objects) {
        s.objects.push_back({o.at("layer"), o.at("id"), o.value("out", false), {}});
        if (o.contains("level")) s.objects.back().level = o["level"].get<double>();
    }
    s.otherSpelling = j.value("other_spelling", true);
    s.idFromFileName = j.value("id_from_file_name", false);
    s.holesOut = j.value("holes_out", std::vector<std::string>{});
    s.levelField = j.value("level_field", "");
    s.thin = j.value("thin", 0.0);
    const json keep = j.value("keep", json::array());
    for (const auto& p : keep) s.keep.push_back({p.at(0), p.at(1)});
    if (j.contains("cell")) s.cell = j["cell"].get<double>();
    s.unit = j.value("unit", 0.0);
    if (j.contains("local_grid")) {
        const auto control = [](const json& c) { return LocalGrid::Control{{c.at(0), c.at(1)}, {c.at(2), c.at(3)}}; };
        s.localGrid = LocalGrid{control(j["local_grid"].at(0)), control(j["local_grid"].at(1))};
    }
    const json tables = j.value("tables", json::object());
    for (const auto& [sheet, t] : tables.items()) {
        TableMapping mapping;
        mapping.columns = t.value("columns", std::vector<std::string>{});
        mapping.units = t.value("units", std::vector<std::string>{});
        const json roles = t.value("roles", json::array());
        for (const auto& role : roles) {
            mapping.roles.push_back(ColumnRole::Ignored);
            for (int r = 0; r < kColumnRoles; ++r)
                if (role == words(ColumnRole(r))) mapping.roles.back() = ColumnRole(r);
        }
        if (t.value("feet", false)) // as earlier versions say it: levels and depths, not coordinates
            for (const auto role : mapping.roles) {
                const bool inPlan = role == ColumnRole::Easting || role == ColumnRole::Northing;
                mapping.units.push_back(isLength(role) && !inPlan ? "ft" : "");
            }
        s.mappings[sheet] = std::move(mapping);
    }
    return s;
}

json toJson(const WaterChoice& choice) {
    json j{{"reading", name(choice.which)}};
    if (choice.which == WaterStatistic::AtDate) j["date"] = choice.date;
    return j;
}

WaterChoice waterChoiceOf(const json& j) {
    const std::string word = j.value("reading", "latest");
    const auto which = waterStatisticNamed(word);
    if (!which) throw UsageError(fmt::format("\"{}\" is not a reading; there are highest, lowest, latest, mean, at-date", word));
    WaterChoice choice{*which, j.value("date", "")};
    if (*which == WaterStatistic::AtDate && !timeOf(choice.date))
        throw UsageError(fmt::format("\"{}\" is not a date", choice.date));
    return choice;
}

json toJson(const ReportChoices& choices) { return {{"excluded", choices.excluded}, {"texts", choices.texts}}; }

ReportChoices reportChoicesOf(const json& j) {
    return {j.value("excluded", std::set<std::string>{}), j.value("texts", std::map<std::string, std::string>{})};
}

json toJson(const WaterSurface& surface) {
    auto j = toJson(surface.reading);
    j["name"] = surface.name;
    if (!surface.unit.empty()) j["unit"] = surface.unit;
    if (!surface.points.empty()) j["points"] = surface.points;
    if (surface.method) j["method"] = name(*surface.method);
    if (surface.reach) j["maximum_distance"] = *surface.reach;
    return j;
}

WaterSurface waterSurfaceOf(const json& j) {
    WaterSurface out;
    out.name = j.value("name", "");
    if (out.name.empty()) throw UsageError("a water surface has no name");
    out.reading = waterChoiceOf(j);
    out.unit = j.value("unit", "");
    out.points = j.value("points", std::map<std::string, bool>{});
    if (const std::string word = j.value("method", ""); !word.empty() && word != "automatic") {
        out.method = methodNamed(word);
        if (!out.method) throw UsageError(fmt::format("\"{}\" is not a method; there are {}", word, methodNames()));
    }
    if (j.contains("maximum_distance")) {
        out.reach = j["maximum_distance"].get<double>();
        if (!(*out.reach > 0)) throw UsageError("maximum_distance is not above 0");
    }
    return out;
}

} // namespace fox
