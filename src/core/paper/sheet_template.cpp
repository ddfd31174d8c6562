#include "paper/sheet_template.h"

#include "base/errors.h"

#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace fox {

using nlohmann::json;

namespace {

template <typename Kind>
struct NamedKind {
    Kind kind;
    const char *name, *words;
};

constexpr NamedKind<SheetKind> kSheetKinds[] = {{SheetKind::Log, "log", "hole"},
                                                {SheetKind::Section, "section", "section"},
                                                {SheetKind::Plan, "plan", ""},
                                                {SheetKind::Map, "map", ""},
                                                {SheetKind::Contours, "contours", "unit"},
                                                {SheetKind::Correlation, "correlation", "section"},
                                                {SheetKind::Summary, "summary", ""},
                                                {SheetKind::Key, "key", ""},
                                                {SheetKind::Title, "title", ""},
                                                {SheetKind::List, "list", ""}};

using Column = LogColumn::Kind;
constexpr NamedKind<Column> kLogColumns[] = {{Column::Depth, "depth", "depth scale"},
                                             {Column::Level, "level", "level scale"},
                                             {Column::Units, "units", "units with patterns"},
                                             {Column::Codes, "codes", "codes of a column"},
                                             {Column::Description, "description", "description"},
                                             {Column::Samples, "samples", "samples"},
                                             {Column::Tests, "tests", "SPT"},
                                             {Column::Bars, "spt-bars", "SPT as bars"},
                                             {Column::Curve, "curve", "curve or sounding"},
                                             {Column::Values, "values", "test values"},
                                             {Column::Core, "core", "core recovery"},
                                             {Column::Water, "water", "water"},
                                             {Column::Installation, "installation", "installation"},
                                             {Column::Model, "model", "predicted log"},
                                             {Column::Field, "field", "any heading"},
                                             {Column::Diameter, "diameter", "diameter and casing"},
                                             {Column::Progress, "progress", "progress by day"},
                                             {Column::Remarks, "remarks", "remarks"}};

using ElementKind = SheetElement::Kind;
constexpr NamedKind<ElementKind> kElements[] = {{ElementKind::Text, "text", "text"},
                                                {ElementKind::Line, "line", "line"},
                                                {ElementKind::Box, "box", "box"},
                                                {ElementKind::Body, "body", "content of the sheet"},
                                                {ElementKind::Legend, "legend", "legend"},
                                                {ElementKind::ScaleBar, "scale-bar", "scale bar"},
                                                {ElementKind::NorthArrow, "north-arrow", "north arrow"},
                                                {ElementKind::IndexPlan, "index-plan", "index plan"},
                                                {ElementKind::Table, "table", "table"},
                                                {ElementKind::Chart, "chart", "chart"},
                                                {ElementKind::Picture, "picture", "picture"},
                                                {ElementKind::Frame, "frame", "frame"}};

constexpr const char* kFilledWords[] = {"none", "left", "right"};
constexpr const char *kPageWords[] = {"all", "first", "further"}, *kAlignWords[] = {"left", "centre", "right"};

template <typename Kind, std::size_t N>
std::optional<Kind> kindNamed(const NamedKind<Kind> (&all)[N], std::string_view written) {
    for (const auto& k : all)
        if (written == k.name) return k.kind;
    return {};
}

template <std::size_t N>
std::size_t choiceOf(const json& j, const char* key, const char* const (&words)[N]) {
    const auto written = j.value(key, words[0]);
    for (std::size_t i = 0; i < N; ++i)
        if (written == words[i]) return i;
    throw Error(fmt::format("\"{}\" is \"{}\"; it can be {}.", key, written, fmt::join(words, ", ")));
}

/// A length in millimetres that a page can have. @throws Error
double lengthOf(const json& j, const char* key, double otherwise, double least) {
    const double v = j.value(key, otherwise);
    constexpr double kLongest = 5000;
    if (!(v >= least && v <= kLongest))
        throw Error(fmt::format("\"{}\" is {:g} mm; it can be {:g} to {:g}.", key, v, least, kLongest));
    return v;
}

json runsJson(const TextRuns& runs) {
    json out = json::array();
    for (const auto& r : runs) {
        if (r.value.empty())
            out.push_back(r.words);
        else if (r.none.empty())
            out.push_back({{"value", r.value}});
        else
            out.push_back({{"value", r.value}, {"none", r.none}});
    }
    return out;
}

TextRuns runsOf(const json& j) {
    TextRuns out;
    if (j.is_string()) return {{j.get<std::string>(), ""}};
    for (const auto& r : j)
        out.push_back(r.is_string() ? TextRun{r.get<std::string>(), ""}
                                    : TextRun{"", r.at("value").get<std::string>(), r.value("none", "")});
    return out;
}

SheetElement elementOf(const json& j) {
    SheetElement e;
    const auto kind = kindNamed(kElements, j.value("type", ""));
    if (!kind) throw Error(fmt::format("A template has no elements of the type \"{}\".", j.value("type", "")));
    e.kind = *kind;
    const auto& box = j.at("box");
    e.x = box.at(0), e.y = box.at(1), e.width = box.at(2), e.height = box.at(3);
    for (const double v : {e.x, e.y, e.width, e.height})
        if (!std::isfinite(v) || std::abs(v) > 5000) throw Error("A \"box\" has a length that can't be.");
    e.pages = SheetElement::Pages(choiceOf(j, "pages", kPageWords));
    if (j.contains("text")) e.text = runsOf(j.at("text"));
    e.size = lengthOf(j, "size", 3, 0.5);
    e.strong = j.value("strong", false);
    e.align = SheetElement::Align(choiceOf(j, "align", kAlignWords));
    e.pen = lengthOf(j, "pen", 0.25, 0);
    e.what = j.value("what", "");
    e.picture = j.value("picture", "");
    return e;
}

LogColumn columnOf(const json& j) {
    LogColumn c;
    const auto kind = logColumnNamed(j.value("kind", ""));
    if (!kind) throw Error(fmt::format("A log has no columns of the kind \"{}\".", j.value("kind", "")));
    c.kind = *kind;
    c.width = lengthOf(j, "width", 12, 1);
    c.title = j.value("title", words(c.kind));
    c.heading = j.value("heading", "");
    c.low = j.value("low", 0.0), c.high = j.value("high", 0.0);
    c.logarithmic = j.value("logarithmic", false);
    c.filled = LogColumn::Filled(choiceOf(j, "filled", kFilledWords));
    c.feet = j.value("feet", false);
    c.step = lengthOf(j, "step", 0, 0);
    c.colours = j.value("colours", true), c.patterns = j.value("patterns", true), c.asColour = j.value("as_colour", false);
    return c;
}

/// What a plan's frame shows.
void readFrame(const json& j, SheetTemplate& t) {
    t.background = j.value("background", true), t.points = j.value("points", false);
    t.gridLines = j.value("grid_lines", false), t.blackAndWhite = j.value("black_and_white", false);
    t.contourPen = lengthOf(j, "contour_pen", 0.15, 0.01), t.labelSize = lengthOf(j, "label_size", 2.2, 0.5);
    t.contourColour = j.value("contour_colour", "");
    t.without = j.value("without", std::vector<std::string>());
    if (j.contains("centre")) {
        t.centre = Point2{j.at("centre").at(0), j.at("centre").at(1)};
        if (!std::isfinite(t.centre->x) || !std::isfinite(t.centre->y)) throw Error("\"centre\" has a coordinate that can't be.");
    }
    t.area = j.value("area", "");
    t.beside = j.value("beside", "");
}

} // namespace

const char* name(SheetKind k) { return kSheetKinds[std::size_t(k)].name; }
const char* itemOf(SheetKind k) { return kSheetKinds[std::size_t(k)].words; }
const std::vector<std::pair<std::string, std::string>>& sheetTables() {
    static const std::vector<std::pair<std::string, std::string>> kAll{{"units", "units with volumes and values"},
                                                                       {"holes", "holes with places and depths"},
                                                                       {"sources", "files that the data came from"}};
    return kAll;
}
std::optional<SheetKind> sheetKindNamed(std::string_view written) { return kindNamed(kSheetKinds, written); }
const char* name(LogColumn::Kind k) { return kLogColumns[std::size_t(k)].name; }
const char* words(SheetElement::Kind k) { return kElements[std::size_t(k)].words; }
const char* words(LogColumn::Kind k) { return kLogColumns[std::size_t(k)].words; }
std::optional<LogColumn::Kind> logColumnNamed(std::string_view written) { return kindNamed(kLogColumns, written); }

json toJson(const SheetTemplate& t) {
    json j{{"format", "fox-cellar-template"},
           {"version", 1},
           {"name", t.name},
           {"kind", name(t.kind)},
           {"width", t.width},
           {"height", t.height},
           {"scale", t.scale},
           {"vertical_scale", t.verticalScale}};
    for (const auto& [key, on] : {std::pair{"holes", t.holes},
                                  {"hole_names", t.holeNames},
                                  {"contours", t.contours},
                                  {"lines", t.lines},
                                  {"grid", t.grid},
                                  {"uncertainty", t.uncertainty},
                                  {"background", t.background},
                                  {"points", t.points},
                                  {"grid_lines", t.gridLines},
                                  {"black_and_white", t.blackAndWhite}})
        j[key] = on;
    j["contour_pen"] = t.contourPen, j["label_size"] = t.labelSize;
    if (!t.contourColour.empty()) j["contour_colour"] = t.contourColour;
    if (!t.without.empty()) j["without"] = t.without;
    if (t.centre) j["centre"] = {t.centre->x, t.centre->y};
    if (!t.area.empty()) j["area"] = t.area;
    if (!t.beside.empty()) j["beside"] = t.beside;
    j["elements"] = json::array(), j["columns"] = json::array();
    for (const auto& e : t.elements) {
        json one{{"type", kElements[std::size_t(e.kind)].name}, {"box", {e.x, e.y, e.width, e.height}}};
        if (e.pages != SheetElement::Pages::All) one["pages"] = kPageWords[std::size_t(e.pages)];
        if (e.kind == ElementKind::Text) {
            one["text"] = runsJson(e.text);
            one["size"] = e.size, one["strong"] = e.strong, one["align"] = kAlignWords[std::size_t(e.align)];
        }
        if (e.kind == ElementKind::Line || e.kind == ElementKind::Box) one["pen"] = e.pen;
        if (!e.what.empty()) one["what"] = e.what;
        if (!e.picture.empty()) one["picture"] = e.picture;
        j["elements"].push_back(std::move(one));
    }
    for (const auto& c : t.columns) {
        json one{{"kind", name(c.kind)}, {"width", c.width}, {"title", c.title}};
        if (!c.heading.empty()) one["heading"] = c.heading;
        if (c.high != c.low) one["low"] = c.low, one["high"] = c.high;
        if (c.logarithmic) one["logarithmic"] = true;
        if (c.filled != LogColumn::Filled::None) one["filled"] = kFilledWords[std::size_t(c.filled)];
        if (c.feet) one["feet"] = true;
        if (c.step > 0) one["step"] = c.step;
        if (!c.colours) one["colours"] = false;
        if (!c.patterns) one["patterns"] = false;
        if (c.asColour) one["as_colour"] = true;
        j["columns"].push_back(std::move(one));
    }
    return j;
}

SheetTemplate templateOf(const json& j) {
    try {
        if (!j.is_object() || j.value("format", "") != "fox-cellar-template")
            throw Error("It is not a template: its \"format\" is not \"fox-cellar-template\".");
        if (j.value("version", 0) != 1) throw Error("It has a version that this Fox Cellar does not know; it knows 1.");
        SheetTemplate t;
        t.name = j.value("name", "Template");
        const auto kind = sheetKindNamed(j.value("kind", ""));
        if (!kind) throw Error(fmt::format("A template can't be of the kind \"{}\".", j.value("kind", "")));
        t.kind = *kind;
        t.width = lengthOf(j, "width", 210, 20), t.height = lengthOf(j, "height", 297, 20);
        t.scale = j.value("scale", 0.0), t.verticalScale = j.value("vertical_scale", 0.0);
        for (const double scale : {t.scale, t.verticalScale}) // one that is all but 0 would ask for endless pages
            if (scale != 0 && !(scale >= 1 && scale <= 1e9))
                throw Error(fmt::format("A scale can't be 1:{:g}; it can be 1:1 to 1:1e9, or 0 to fit.", scale));
        t.holes = j.value("holes", true), t.holeNames = j.value("hole_names", true), t.contours = j.value("contours", true);
        t.lines = j.value("lines", true), t.grid = j.value("grid", true), t.uncertainty = j.value("uncertainty", false);
        readFrame(j, t);
        for (const auto& e : j.value("elements", json::array())) t.elements.push_back(elementOf(e));
        for (const auto& c : j.value("columns", json::array())) t.columns.push_back(columnOf(c));
        return t;
    } catch (const json::exception& e) {
        throw Error(fmt::format("The template can't be read: {}.", e.what()));
    }
}

ReportEntry reportEntry(const SheetTemplate& t) {
    ReportEntry out{t.name, t};
    if (!out.name.empty() && out.name[0] >= 'a' && out.name[0] <= 'z') out.name[0] = char(out.name[0] - 'a' + 'A');
    return out;
}

std::string toJson(const ReportEntry& sheet) {
    json j{{"name", sheet.name}, {"template", toJson(sheet.layout)}, {"out", sheet.isOut}};
    if (!sheet.all) j["items"] = sheet.items;
    for (const auto& [of, layout] : sheet.others) j["others"][of] = toJson(layout);
    return j.dump();
}

ReportEntry reportEntryOf(std::string_view text, const std::filesystem::path&) {
    const auto j = json::parse(text, nullptr, false);
    if (!j.is_object() || !j.contains("template")) throw Error("it has no \"template\"");
    try {
        ReportEntry out;
        out.layout = templateOf(j.at("template"));
        out.name = j.value("name", out.layout.name);
        out.isOut = j.value("out", true);
        out.all = !j.contains("items");
        if (!out.all) out.items = j.at("items").get<std::vector<std::string>>();
        if (j.contains("others"))
            for (const auto& [of, layout] : j.at("others").items()) out.others.emplace(of, templateOf(layout));
        return out;
    } catch (const json::exception& e) {
        throw Error(e.what());
    }
}

} // namespace fox
