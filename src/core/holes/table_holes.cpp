#include "holes/table_holes.h"

#include "base/degrees.h"
#include "base/length_unit.h"
#include "base/text.h"
#include "base/written_number.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>
#include <unordered_map>

namespace fox {

namespace {

/// A heading as words: lower case, one blank between, units apart.
struct HeadingWords {
    std::string words, unit;
};

HeadingWords wordsOf(std::string_view heading) {
    const auto [name, unit] = headingWithUnit(heading);
    HeadingWords out{"", lower(unit)};
    std::string text = lower(name);
    for (auto& c : text)
        if (c == '_' || c == '-' || c == '.' || c == '/') c = ' ';
    for (const auto word : split(text, ' '))
        if (!word.empty()) {
            if (!out.words.empty()) out.words += ' ';
            out.words.append(word);
        }
    return out;
}

struct RoleNames {
    ColumnRole role;
    const char* words; ///< for people
    std::vector<std::string_view> names;
};

const std::vector<RoleNames>& roleNames() {
    using enum ColumnRole;
    static const std::vector<RoleNames> kNames{
        {Ignored, "not used", {}},
        {HoleId,
         "hole",
         {"hole", "hole id", "holeid", "borehole", "borehole id", "bh", "bh id", "bh no", "loca id", "location", "location id",
          "well", "well id", "well name", "id", "name", "point", "point id", "exploratory hole"}},
        {Project, "project", {"project", "project id", "proj id", "job", "contract"}},
        {Easting, "easting", {"easting", "east", "e", "x", "eastings", "loca nate", "nat e", "x coord", "xcoord", "coord x"}},
        {Northing,
         "northing",
         {"northing", "north", "n", "y", "northings", "loca natn", "nat n", "y coord", "ycoord", "coord y"}},
        {GroundLevel,
         "ground level",
         {"ground level", "level", "gl", "z", "rl", "elevation", "loca gl", "surface level", "collar", "collar level",
          "ground elevation", "elev", "height"}},
        {FinalDepth,
         "final depth",
         {"final depth", "total depth", "td", "eoh", "end of hole", "hole depth", "loca fdep", "drilled depth", "max depth"}},
        {Kind, "kind of hole", {"type", "kind", "hole type", "loca type", "method"}},
        {Top,
         "depth to top",
         {"top", "from", "depth from", "depth to top", "depth top", "top depth", "start", "geol top", "from depth"}},
        {Base,
         "depth to base",
         {"base", "to", "bottom", "depth to", "depth to base", "depth to bottom", "base depth", "depth base", "end", "geol base",
          "to depth"}},
        {Code,
         "unit",
         {"unit", "code", "geology", "geology code", "stratum", "layer", "formation", "lithology", "lith", "geol geol",
          "unit code", "strata", "geol code", "material"}},
        {Description, "description", {"description", "desc", "log", "geol desc", "remarks", "comment", "comments"}},
        {UnitTop, "top of the unit so named", {}},
        {Depth, "depth of the value", {"depth", "test depth", "sample depth", "spt depth", "dpth"}},
        {Value, "value at a depth", {"n", "n value", "nval", "spt n", "blows", "value", "result", "reading"}},
        {Inclination, "inclination", {"inclination", "dip", "incl", "plunge"}},
        {Azimuth, "azimuth", {"azimuth", "azi", "bearing", "orientation", "direction"}},
        {SampleType, "sample type", {"sample type", "samp type", "sample kind"}},
        {SampleReference, "sample reference", {"sample", "sample no", "sample ref", "sample reference", "sample id", "samp ref"}},
        {StrikeDepth, "depth of water strike", {"strike", "water strike", "strike depth", "struck at", "water struck at"}},
        {RoseTo, "water rose to", {"rose to", "risen to", "rest level", "standing depth", "water level after"}},
        {PipeTop, "top of pipe", {"pipe top", "screen top", "response zone top", "slotted from"}},
        {PipeBase, "base of pipe", {"pipe base", "screen base", "screen bottom", "response zone base", "slotted to"}},
        {PipeKind, "kind of pipe", {"pipe type", "pipe kind", "installation type", "installation"}},
        {WaterLevel,
         "depth to water",
         {"depth to water", "water depth", "water level", "dip", "dip depth", "dtw", "depth water", "groundwater depth"}},
        {MeasuredAt,
         "date",
         {"date", "date time", "datetime", "measured", "measured at", "date measured", "reading date", "time"}},
        {Latitude, "latitude", {"latitude", "lat", "loca lat", "lat wgs84", "latitude wgs84", "gps lat"}},
        {Longitude, "longitude", {"longitude", "lon", "long", "lng", "loca lon", "lon wgs84", "longitude wgs84", "gps lon"}}};
    return kNames;
}

/// "12.03.2024", "12/3/24", "2024-03-12 08:30": three numbers, two separators of one kind, perhaps a time.
bool looksLikeDate(std::string_view cell) {
    const auto day = trimmed(cell).substr(0, trimmed(cell).find_first_of(" T"));
    for (const char separator : {'.', '/', '-'}) {
        const auto parts = split(day, separator);
        if (parts.size() != 3) continue;
        return std::ranges::all_of(parts, [](std::string_view part) {
            return !part.empty() && part.size() <= 4 && part.find_first_not_of("0123456789") == part.npos;
        });
    }
    return false;
}

/// Whether at least half of a column's filled cells, of the first 200, pass a test of their row.
bool mostly(const Table& table, std::size_t column, const std::function<bool(std::size_t)>& test) {
    int good = 0, filled = 0;
    for (std::size_t r = 0; r < table.rows.size() && filled < 200; ++r)
        if (!table.cell(r, column).empty()) ++filled, good += test(r);
    return filled > 0 && good * 2 >= filled;
}
/// A cell with the table's decimal sign.
WrittenNumber numberIn(const Table& table, std::size_t row, std::size_t column) {
    std::string cell(table.cell(row, column));
    if (table.decimalComma && cell.find(',') != cell.npos)
        for (auto& c : cell) c = c == ',' ? '.' : c == '.' ? ',' : c;
    return readWrittenNumber(cell);
}
bool mostlyNumbers(const Table& table, std::size_t c) {
    return mostly(table, c, [&](std::size_t r) {
        const auto kind = numberIn(table, r, c).kind;
        return kind == WrittenNumber::Kind::Plain || kind == WrittenNumber::Kind::Separated;
    });
}
bool mostlyDates(const Table& table, std::size_t c) {
    return mostly(table, c, [&](std::size_t r) { return looksLikeDate(table.cell(r, c)); });
}
bool mostlyDegrees(const Table& table, std::size_t c) {
    return mostly(table, c, [&](std::size_t r) { return parseDegrees(table.cell(r, c)).has_value(); });
}

/// Whether depths never fall from one of these columns to the next, in nearly every row: tops of units, younger first.
bool risesAlong(const Table& table, const std::vector<std::size_t>& columns) {
    int steps = 0, rising = 0;
    for (std::size_t r = 0; r < table.rows.size(); ++r) {
        std::optional<double> before;
        for (const auto c : columns) {
            const auto depth = numberIn(table, r, c).value;
            if (!depth) continue;
            if (before) ++steps, rising += *depth >= *before;
            before = depth;
        }
    }
    return steps > 0 && rising * 10 >= steps * 9;
}

} // namespace

bool isLength(ColumnRole role) {
    using enum ColumnRole;
    static constexpr ColumnRole kLengths[] = {Easting, Northing,    GroundLevel, FinalDepth, Top,      Base,      UnitTop,
                                              Depth,   StrikeDepth, RoseTo,      PipeTop,    PipeBase, WaterLevel};
    return std::ranges::count(kLengths, role) > 0;
}

const char* words(ColumnRole role) { return roleNames()[std::size_t(role)].words; }
bool TableMapping::has(ColumnRole role) const { return std::ranges::count(roles, role) > 0; }

TableMapping guessMapping(const Table& table) {
    using enum ColumnRole;
    TableMapping mapping;
    mapping.columns = table.columns;
    mapping.roles.assign(table.columns.size(), Ignored);
    mapping.units.assign(table.columns.size(), "");
    std::set<ColumnRole> taken;
    for (std::size_t c = 0; c < table.columns.size(); ++c) {
        const auto heading = wordsOf(table.columns[c]);
        for (const auto& role : roleNames()) {
            if (!std::ranges::count(role.names, heading.words) || taken.contains(role.role)) continue;
            static constexpr ColumnRole kWords[] = {HoleId,     Project,         Kind,     Code,      Description,
                                                    SampleType, SampleReference, PipeKind, MeasuredAt};
            const bool isAngle = role.role == Latitude || role.role == Longitude;
            const bool isNumber = !isAngle && !std::ranges::count(kWords, role.role);
            if ((isNumber && !mostlyNumbers(table, c)) || (isAngle && !mostlyDegrees(table, c))) continue;
            mapping.roles[c] = role.role;
            taken.insert(role.role);
            break;
        }
        if (!isLength(mapping.roles[c]) || heading.unit.empty()) continue;
        if (const auto* unit = lengthUnitNamed(heading.unit)) mapping.units[c] = unit->key;
    }
    if (!taken.contains(HoleId) && !table.columns.empty() && !mostlyNumbers(table, 0) && mapping.roles[0] == Ignored) {
        mapping.roles[0] = HoleId;
        taken.insert(HoleId);
    }
    const auto turn = [&](ColumnRole from, ColumnRole to) {
        for (auto& r : mapping.roles)
            if (r == from) r = to;
        if (taken.erase(from)) taken.insert(to);
    };
    for (std::size_t c = 0; c < table.columns.size() && !taken.contains(MeasuredAt); ++c)
        if (mapping.roles[c] == Ignored && mostlyDates(table, c)) mapping.roles[c] = MeasuredAt, taken.insert(MeasuredAt);
    // "dip" or "depth" beside a date is the water's
    if (taken.contains(MeasuredAt) && !taken.contains(WaterLevel) && !taken.contains(Azimuth)) turn(Inclination, WaterLevel);
    if (taken.contains(MeasuredAt) && !taken.contains(WaterLevel) && table.columns.size() == 3) turn(Depth, WaterLevel);
    // "depth" alone beside a unit is the top of it; beside a place, the hole's depth; beside a value, the value's
    if (taken.contains(Depth) && !taken.contains(Easting)) turn(Northing, Value); // N is the blow count there
    if (taken.contains(Depth) && !taken.contains(Top) && taken.contains(Code)) turn(Depth, Top);
    if (taken.contains(Depth) && !taken.contains(Value) && taken.contains(Easting) && !taken.contains(FinalDepth))
        turn(Depth, FinalDepth);
    // columns of numbers that no name explains: values at the depth, water levels beside a date, or tops of the units they are
    // named after
    std::vector<std::size_t> unexplained;
    for (std::size_t c = 0; c < table.columns.size(); ++c)
        if (mapping.roles[c] == Ignored && mostlyNumbers(table, c) && !trimmed(table.columns[c]).empty())
            unexplained.push_back(c);
    auto role = Ignored;
    if (taken.contains(Depth))
        role = Value;
    else if (!taken.contains(HoleId) || taken.contains(Top) || taken.contains(Base))
        role = Ignored;
    else if (taken.contains(MeasuredAt))
        role = unexplained.size() == 1 && !taken.contains(WaterLevel) ? WaterLevel : Ignored;
    else if (unexplained.size() > 1 && risesAlong(table, unexplained))
        role = UnitTop;
    for (const auto c : unexplained) mapping.roles[c] = role;
    return mapping;
}

std::string whatItHolds(const TableMapping& m) {
    using enum ColumnRole;
    std::vector<std::string> parts;
    if (!m.has(HoleId)) return {};
    if ((m.has(Easting) && m.has(Northing)) || (m.has(Latitude) && m.has(Longitude))) parts.push_back("places");
    if (m.has(Top) && m.has(Base) && (m.has(Code) || m.has(Description)))
        parts.push_back("intervals");
    else if (m.has(UnitTop) || (m.has(Top) && m.has(Code)))
        parts.push_back("tops of units");
    if (m.has(Value) && m.has(Depth)) parts.push_back("values");
    if (m.has(Inclination)) parts.push_back("paths");
    if ((m.has(SampleType) || m.has(SampleReference)) && (m.has(Depth) || m.has(Top))) parts.push_back("samples");
    if (m.has(StrikeDepth)) parts.push_back("water strikes");
    if (m.has(WaterLevel)) parts.push_back("water levels");
    if (m.has(PipeTop) && m.has(PipeBase)) parts.push_back("installations");
    if (parts.empty() && (m.has(GroundLevel) || m.has(FinalDepth))) parts.push_back("hole header data");
    return fmt::format("{}", fmt::join(parts, ", "));
}

bool namesHoles(const Table& table) {
    for (const auto& column : table.columns)
        for (const char* word : {"hole", "bore", "bh", "well", "loca_"})
            if (lower(column).find(word) != std::string::npos) return true;
    return false;
}

namespace {

class Reader {
public:
    Reader(const Table& table, const TableMapping& mapping, std::string project)
        : m_table(table), m_mapping(mapping), m_project(std::move(project)) {
        using enum ColumnRole;
        for (std::size_t c = 0; c < mapping.roles.size() && c < table.columns.size(); ++c) {
            const auto role = mapping.roles[c];
            if (isLength(role) && role != Easting && role != Northing && isDegrees(wordsOf(table.columns[c]).unit))
                add(0, "", fmt::format("{} is in degrees, which a {} can't be; it is not used.", table.columns[c], words(role)));
            else
                m_columns[role].push_back(c);
        }
    }

    TableHoles read() {
        using enum ColumnRole;
        if (m_columns[HoleId].empty()) {
            add(0, "", "No column says which hole a row is of.");
            return std::move(m_out);
        }
        for (m_row = 0; m_row < m_table.rows.size(); ++m_row) takeRow();
        for (std::size_t i = 0; i < m_out.holes.size(); ++i) finish(m_out.holes.change(i), m_open[i]);
        turnWaterLevels();
        return std::move(m_out);
    }

private:
    /// A column "water level" may have levels, or depths below ground: which of them is said.
    void turnWaterLevels() {
        const auto& columns = m_columns[ColumnRole::WaterLevel];
        if (columns.empty()) return;
        const auto heading = lower(m_table.columns[columns[0]]);
        const auto has = [&](const char* word) { return heading.find(word) != heading.npos; };
        if (!has("level") || has("depth") || has("below") || has("bgl") || has("dip")) return;
        constexpr double kHighest = 3, kDeepest = 50; // metres above and below ground where water may stand
        double asLevels = 0, asDepths = 0;
        bool fit = true;
        const std::pair<const Hole*, fox::Depth>* first = nullptr;
        std::vector<std::pair<const Hole*, fox::Depth>> read;
        for (const auto& hole : m_out.holes)
            for (const auto& w : hole.waterLevels)
                if (hole.level) read.emplace_back(&hole, w.depth);
        for (const auto& one : read) {
            const double depth = one.first->level->metres - one.second.metres;
            fit &= depth >= -kHighest && depth <= std::max(kDeepest, one.first->end().metres);
            asLevels += std::abs(depth), asDepths += std::abs(one.second.metres);
            if (!first) first = &one;
        }
        const auto& name = m_table.columns[columns[0]];
        if (!first || !fit || asLevels >= asDepths)
            return add(
                0, "",
                fmt::format("\"{}\" is read as depths below ground; if it has levels, name the holes' ground levels in this "
                            "table, or turn it into depths.",
                            name),
                Severity::Warning);
        add(0, "",
            fmt::format("\"{}\" is read as levels: {:.2f} m in {} is water {:.2f} m below ground. If it has depths, call it "
                        "\"depth to water\".",
                        name, first->second.metres, first->first->id, first->first->level->metres - first->second.metres),
            Severity::Warning);
        m_out.holes.changeEach([this](Hole& hole) {
            if (!hole.level && !hole.waterLevels.empty()) {
                add(hole.line, hole.id,
                    "The hole has no ground level in this table: its levels of water can't be turned into depths and are left "
                    "out.");
                hole.waterLevels.clear();
            }
            for (auto& w : hole.waterLevels) {
                w.given = fmt::format("level {:.2f}", w.depth.metres);
                w.depth = fox::Depth{hole.level->metres - w.depth.metres};
            }
        });
    }

    struct OpenTop {
        double depth;
        std::string code, description;
        int line;
    };

    void add(int line, std::string hole, std::string sentence, Severity severity = Severity::Error) {
        m_out.findings.push_back({severity, "FC-TABLE", m_table.name, line, "", "", std::move(hole), std::move(sentence)});
    }

    std::string text(ColumnRole role) {
        const auto& columns = m_columns[role];
        return columns.empty() ? std::string() : std::string(m_table.cell(m_row, columns[0]));
    }

    std::optional<double> number(ColumnRole role, const std::string& hole) {
        const auto& columns = m_columns[role];
        return columns.empty() ? std::nullopt : numberAt(columns[0], hole);
    }

    std::optional<double> numberAt(std::size_t column, const std::string& hole) {
        const auto cell = m_table.cell(m_row, column);
        static constexpr std::string_view kNothing[] = {"", "-", "n/a", "na", "none", "not recorded", "nr", "not reached"};
        if (std::ranges::any_of(kNothing, [&](auto word) { return equalNoCase(cell, word); })) return {};
        using Kind = WrittenNumber::Kind;
        const auto read = numberIn(m_table, m_row, column);
        const auto say = [&](Severity severity, const std::string& what) {
            add(m_table.rows[m_row].line, hole, fmt::format("{} {}", m_table.columns[column], what), severity);
        };
        if (read.kind == Kind::WithWords)
            say(Severity::Warning, fmt::format("is \"{}\"; the number at its start is taken.", cell));
        else if (read.kind == Kind::Separated)
            say(Severity::Warning, fmt::format("is \"{}\"; it is read as {}.", cell, *read.value));
        else if (!read.value)
            say(Severity::Error,
                fmt::format("should be a number and is \"{}\"{}; it counts as missing.", cell,
                            read.kind == Kind::Ambiguous ? ", which may mean thousands or a decimal comma" : ""));
        return read.value;
    }

    /// A length in metres, by its column's unit.
    std::optional<double> metres(ColumnRole role, const std::string& hole) {
        const auto& columns = m_columns[role];
        return columns.empty() ? std::nullopt : metresAt(columns[0], hole);
    }
    std::optional<double> metresAt(std::size_t column, const std::string& hole) {
        const auto value = numberAt(column, hole);
        if (!value || column >= m_mapping.units.size()) return value;
        const auto* unit = lengthUnitNamed(m_mapping.units[column]);
        return unit ? *value * unit->metres : *value;
    }

    void takeRow() {
        using enum ColumnRole;
        const int line = m_table.rows[m_row].line;
        const auto id = text(HoleId);
        if (id.empty()) return add(line, "", "The row names no hole; it is left out.");
        auto project = text(Project);
        if (project.empty()) project = m_project;
        const auto [known, isNew] = m_byId.try_emplace(project + '\x1f' + id, m_out.holes.size());
        if (isNew) {
            Hole h;
            h.id = id, h.project = project, h.file = m_table.name, h.line = line;
            m_out.holes.push_back(std::move(h));
            m_out.degrees.emplace_back();
            m_open.emplace_back();
        }
        auto& hole = m_out.holes.change(known->second);
        takeFacts(hole);
        if (const auto place = degrees(hole.id)) m_out.degrees[known->second] = place;
        takeGeology(hole, m_open[known->second], line);
        takeValues(hole);
        takeSample(hole);
        takeWater(hole);
        takePipe(hole);
    }

    /// Longitude and latitude of the row, if it has both.
    std::optional<Point2> degrees(const std::string& hole) {
        const auto longitude = angle(ColumnRole::Longitude, 180, hole), latitude = angle(ColumnRole::Latitude, 90, hole);
        return longitude && latitude ? std::optional(Point2{*longitude, *latitude}) : std::nullopt;
    }
    std::optional<double> angle(ColumnRole role, double most, const std::string& hole) {
        const auto written = text(role);
        const auto value = parseDegrees(written);
        if (value && std::abs(*value) <= most) return value;
        if (!written.empty())
            add(m_table.rows[m_row].line, hole,
                fmt::format("{} should be degrees up to {} and is \"{}\"; it counts as missing.",
                            m_table.columns[m_columns[role][0]], most, written));
        return {};
    }

    void takeSample(Hole& hole) {
        using enum ColumnRole;
        const auto type = text(SampleType), reference = text(SampleReference);
        if (type.empty() && reference.empty()) return;
        auto top = metres(ColumnRole::Depth, hole.id);
        if (!top) top = metres(Top, hole.id);
        if (!top) return add(m_table.rows[m_row].line, hole.id, "The sample has no depth; it is left out.");
        const auto base = metres(Base, hole.id);
        hole.samples.push_back({fox::Depth{*top}, base ? std::optional(fox::Depth{*base}) : std::nullopt, type, reference});
    }

    void takeWater(Hole& hole) {
        if (const auto dip = metres(ColumnRole::WaterLevel, hole.id)) {
            const auto measured = text(ColumnRole::MeasuredAt);
            if (measured.empty()) add(m_table.rows[m_row].line, hole.id, "The water level has no date.", Severity::Warning);
            hole.waterLevels.push_back({measured, fox::Depth{*dip}, ""});
        }
        const auto at = metres(ColumnRole::StrikeDepth, hole.id);
        if (!at) return;
        const auto rose = metres(ColumnRole::RoseTo, hole.id);
        hole.strikes.push_back({fox::Depth{*at}, rose ? std::optional(fox::Depth{*rose}) : std::nullopt});
    }

    void takePipe(Hole& hole) {
        const auto top = metres(ColumnRole::PipeTop, hole.id), base = metres(ColumnRole::PipeBase, hole.id);
        if (!top || !base) return;
        if (!(*base > *top))
            return add(m_table.rows[m_row].line, hole.id, "The pipe's base is not below its top; it is left out.");
        const auto kind = lower(text(ColumnRole::PipeKind));
        using Part = Installation::Part;
        const auto part = kind.find("plain") != kind.npos      ? Part::PlainPipe
                          : kind.find("response") != kind.npos ? Part::ResponseZone
                                                               : Part::SlottedPipe;
        hole.installations.push_back({part, fox::Depth{*top}, fox::Depth{*base}, ""});
    }

    void takeFacts(Hole& hole) {
        using enum ColumnRole;
        if (const auto v = metres(Easting, hole.id)) hole.easting = v;
        if (const auto v = metres(Northing, hole.id)) hole.northing = v;
        if (const auto v = metres(GroundLevel, hole.id)) hole.level = Level{*v};
        if (const auto v = metres(FinalDepth, hole.id)) hole.finalDepth = fox::Depth{*v};
        if (auto kind = text(Kind); !kind.empty()) hole.type = std::move(kind);
        if (const auto v = number(Inclination, hole.id); v && *v < 90)
            hole.stations.push_back(
                {fox::Depth{metres(Top, hole.id).value_or(0)}, std::abs(*v), number(Azimuth, hole.id).value_or(0)});
    }

    void takeGeology(Hole& hole, std::vector<OpenTop>& open, int line) {
        using enum ColumnRole;
        for (const auto column : m_columns[UnitTop])
            if (const auto top = metresAt(column, hole.id))
                open.push_back({*top, std::string(wordsBeforeUnit(m_table.columns[column])), "", line});
        if (m_columns[Code].empty() && m_columns[Description].empty()) return;
        const auto top = metres(Top, hole.id);
        const auto base = metres(Base, hole.id);
        const auto code = text(Code), description = text(Description);
        if (!top || (code.empty() && description.empty())) {
            if (!m_columns[Top].empty() && !(code.empty() && description.empty()))
                add(line, hole.id, "The interval has no depth to its top; it is left out.");
            return;
        }
        if (m_columns[Base].empty()) {
            open.push_back({*top, code, description, line});
            return;
        }
        if (!base) return add(line, hole.id, "The interval has no depth to its base; it is left out.");
        push(hole, *top, *base, code, description, line);
    }

    /// "Till (m)" is the unit Till.
    static std::string_view wordsBeforeUnit(std::string_view heading) {
        return trimmed(heading.substr(0, heading.find_first_of("([")));
    }

    static void push(Hole& hole, double top, double base, const std::string& code, const std::string& description, int line) {
        Interval i{fox::Depth{top}, fox::Depth{base}, description, {}, line};
        if (!code.empty()) i.codes["GEOL_GEOL"] = code;
        hole.intervals.push_back(std::move(i));
    }

    void takeValues(Hole& hole) {
        using enum ColumnRole;
        if (m_columns[ColumnRole::Depth].empty()) return;
        const auto depth = metres(ColumnRole::Depth, hole.id);
        if (!depth) return;
        for (const auto column : m_columns[Value])
            if (const auto value = numberAt(column, hole.id)) {
                const auto name = wordsOf(m_table.columns[column]);
                if (name.words == "n" || name.words.find("spt") != name.words.npos || name.words == "n value"
                    || name.words == "blows")
                    hole.blowCounts.push_back({fox::Depth{*depth}, *value});
                else
                    m_values[{&m_table.columns[column], hole.project + '\x1f' + hole.id}].push_back({*depth, *value});
            }
    }

    void finish(Hole& hole, std::vector<OpenTop>& open) {
        std::ranges::stable_sort(open, {}, &OpenTop::depth);
        for (std::size_t k = 0; k < open.size(); ++k) {
            double base = 0;
            if (k + 1 < open.size())
                base = open[k + 1].depth;
            else if (hole.finalDepth && hole.finalDepth->metres > open[k].depth)
                base = hole.finalDepth->metres;
            else {
                constexpr double kTouched = 0.1; // metres
                base = open[k].depth + kTouched;
                add(open[k].line, hole.id,
                    fmt::format("The base of the deepest unit, {}, is not known, and the hole has no final depth: it is taken to "
                                "reach {:.2f} m.",
                                open[k].code, base),
                    Severity::Note);
            }
            push(hole, open[k].depth, base, open[k].code, open[k].description, open[k].line);
        }
        std::ranges::stable_sort(hole.intervals, {}, &Interval::top);
        std::ranges::stable_sort(hole.blowCounts, {}, &BlowCount::depth);
        std::ranges::stable_sort(hole.stations, {}, &PathStation::depth);
        std::ranges::stable_sort(hole.samples, {}, &Sample::top);
        std::ranges::stable_sort(hole.strikes, {}, &WaterStrike::depth);
        for (auto& [key, readings] : m_values) {
            if (key.second != hole.project + '\x1f' + hole.id) continue;
            std::ranges::stable_sort(readings, {}, &Curve::Reading::depth);
            const auto unit = wordsOf(*key.first).unit;
            hole.curves.push_back({std::string(wordsBeforeUnit(*key.first)), unit, "", true,
                                   std::make_shared<const std::vector<Curve::Reading>>(readings)});
        }
    }

    const Table& m_table;
    const TableMapping& m_mapping;
    std::string m_project;
    std::map<ColumnRole, std::vector<std::size_t>> m_columns;
    std::size_t m_row = 0;
    std::unordered_map<std::string, std::size_t> m_byId;
    std::vector<std::vector<OpenTop>> m_open;
    std::map<std::pair<const std::string*, std::string>, std::vector<Curve::Reading>> m_values;
    TableHoles m_out;
};

} // namespace

TableHoles holesOf(const Table& table, const TableMapping& mapping, const std::string& project) {
    return Reader(table, mapping, project).read();
}

} // namespace fox
