#include "sequence/contact_points.h"

#include "base/errors.h"
#include "base/length_unit.h"
#include "base/text.h"
#include "ground/survey.h"

#include <fmt/format.h>
#include <unordered_map>

namespace fox {

namespace {

constexpr const char* kUnitNames[] = {"unit", "stratum", "strata", "formation", "layer", "horizon"};
constexpr const char* kHoleNames[] = {"hole", "hole_id", "hole id", "bh", "borehole", "well", "loca_id"};
constexpr const char* kDepthNames[] = {"depth", "md"};

template <std::size_t N>
std::optional<std::size_t> namedColumn(const Table& table, const char* const (&names)[N]) {
    for (const char* name : names)
        for (std::size_t c = 0; c < table.columns.size(); ++c)
            if (equalNoCase(headingWithUnit(table.columns[c]).name, name)) return c;
    return {};
}

/// A row's cells by name, and what is wrong with them.
class RowOfContacts {
public:
    RowOfContacts(const Table& table, std::size_t row, Findings& findings) : m_table(table), m_row(row), m_findings(findings) {}

    std::string text(std::optional<std::size_t> column) const {
        return column ? std::string(m_table.cell(m_row, *column)) : std::string();
    }
    /// None, and a finding, if it is not a number.
    std::optional<double> number(std::optional<std::size_t> column, const char* what) {
        const auto value = m_table.number(m_row, *column);
        if (value && std::isfinite(*value)) return value;
        const auto written = text(column);
        wrong(what, written.empty()
                        ? fmt::format("The {} is missing; the contact is left out.", what)
                        : fmt::format("The {} is \"{}\", which is not a number; the contact is left out.", what, written));
        return {};
    }
    void wrong(const char* what, std::string sentence) {
        m_findings.push_back({Severity::Error, "FC-CONTACT", m_table.name, line(), "", what, "", std::move(sentence)});
    }
    int line() const { return m_table.rows[m_row].line; }

private:
    const Table& m_table;
    std::size_t m_row;
    Findings& m_findings;
};

std::optional<ContactPoint> pointOf(RowOfContacts row, const ContactColumns& columns) {
    ContactPoint point;
    point.line = row.line();
    point.unit = row.text(columns.unit);
    if (point.unit.empty()) {
        row.wrong("unit", "The unit is missing; the contact is left out.");
        return {};
    }
    if (columns.inSpace()) {
        const auto x = row.number(columns.easting, "easting");
        const auto y = x ? row.number(columns.northing, "northing") : std::nullopt;
        const auto z = y ? row.number(columns.level, "level") : std::nullopt;
        if (!z) return {};
        point.place = {*x, *y, *z};
        return point;
    }
    point.hole = row.text(columns.hole);
    if (point.hole.empty()) {
        row.wrong("hole", "The hole is missing; the contact is left out.");
        return {};
    }
    const auto depth = row.number(columns.depth, "depth");
    if (!depth) return {};
    point.depth = Depth{*depth};
    return point;
}

std::string textOf(const Feature& feature, const std::string& field) {
    const auto at = feature.attributes.find(field);
    if (at == feature.attributes.end()) return {};
    if (const auto* text = std::get_if<std::string>(&at->second)) return std::string(trimmed(*text));
    if (const auto* value = std::get_if<double>(&at->second)) return fmt::format("{:g}", *value);
    return {};
}

std::optional<double> levelIn(const Feature& feature, const std::string& field) {
    const auto at = feature.attributes.find(field);
    if (at == feature.attributes.end()) return {};
    if (const auto* value = std::get_if<double>(&at->second)) return *value;
    const auto* text = std::get_if<std::string>(&at->second);
    return text ? parseNumber(*text) : std::nullopt;
}

} // namespace

std::optional<std::size_t> unitWritten(const Sequence& sequence, const std::string& written) {
    const auto alias = sequence.aliases.find(written);
    const auto& code = alias == sequence.aliases.end() ? written : alias->second;
    if (const auto unit = sequence.index(code)) return unit;
    for (std::size_t i = 0; i < sequence.units.size(); ++i)
        if (equalNoCase(sequence.units[i].code, code) || equalNoCase(sequence.units[i].name, code)) return i;
    return {};
}

const char* words(ContactSurface surface) { return surface == ContactSurface::Base ? "base" : "top"; }
std::optional<ContactSurface> contactSurface(std::string_view word) {
    for (const auto s : {ContactSurface::Base, ContactSurface::Top})
        if (equalNoCase(word, words(s))) return s;
    return {};
}

ContactColumns contactColumns(const Table& table) {
    const auto survey = surveyColumns(table);
    ContactColumns out{survey.easting,
                       survey.northing,
                       survey.level,
                       namedColumn(table, kUnitNames),
                       namedColumn(table, kHoleNames),
                       namedColumn(table, kDepthNames)};
    if (!out.unit) out.unit = survey.code;
    if (const auto* unit = out.depth ? lengthUnitNamed(headingWithUnit(table.columns[*out.depth]).unit) : nullptr)
        out.depthUnit = unit->metres;
    return out;
}

bool namesUnits(const Table& table) { return namedColumn(table, kUnitNames).has_value(); }

std::vector<std::vector<std::string>> usualContactOrders(std::size_t columns) {
    const std::vector<std::vector<std::string>> all{{"easting", "northing", "level", "unit"},
                                                    {"northing", "easting", "level", "unit"},
                                                    {"", "easting", "northing", "level", "unit"},
                                                    {"unit", "easting", "northing", "level"},
                                                    {"hole", "depth", "unit"},
                                                    {"hole", "unit", "depth"}};
    std::vector<std::vector<std::string>> out;
    for (const auto& order : all)
        if (order.size() == columns) out.push_back(order);
    return out;
}

ContactRows contactPointsOf(const Table& table) {
    const auto columns = contactColumns(table);
    if (!columns.complete())
        throw FileError(fmt::format("{} has no column for {}: name it in the header or say the order of the columns. The columns "
                                    "are: {}.",
                                    table.name,
                                    !columns.unit       ? "the unit"
                                    : columns.hole      ? "the depth"
                                    : !columns.easting  ? "easting"
                                    : !columns.northing ? "northing"
                                                        : "level",
                                    fmt::join(table.columns, ", ")));
    ContactRows out;
    for (std::size_t row = 0; row < table.rows.size(); ++row)
        if (auto point = pointOf({table, row, out.findings}, columns)) out.points.push_back(std::move(*point));
    return out;
}

std::string proposedUnitField(const std::vector<FeatureLayer>& layers) {
    for (const char* name : {"unit", "stratum", "strata", "formation"}) // drawings and maps call all sorts of things layers
        for (const auto& layer : layers)
            for (const auto& f : layer.features)
                for (const auto& [field, value] : f.attributes)
                    if (equalNoCase(field, name) && std::holds_alternative<std::string>(value)) return field;
    return {};
}

ContactRows contactPointsOf(const std::vector<FeatureLayer>& layers, const std::string& unitField, const std::string& levelField,
                            const std::string& file) {
    ContactRows out;
    bool known = false, levelKnown = levelField.empty();
    int number = 0, traces = 0;
    for (const auto& layer : layers)
        for (const auto& f : layer.features) {
            ++number;
            known |= f.attributes.contains(unitField);
            levelKnown |= f.attributes.contains(levelField);
            if (f.kind == GeometryKind::Polygon) continue;
            const auto wrong = [&](const char* what, const char* sentence) {
                out.findings.push_back({Severity::Error, "FC-CONTACT", file, number, layer.name, what, "", sentence});
            };
            const auto unit = textOf(f, unitField);
            if (unit.empty()) {
                wrong("unit", "The feature of this number has no unit; it is left out of the contacts.");
                continue;
            }
            const auto level = levelField.empty() ? std::nullopt : levelIn(f, levelField);
            const bool none = levelField.empty() ? !f.hasLevels : !level;
            if (none) {
                wrong("level", "The feature of this number has no level; it is left out of the contacts.");
                continue;
            }
            for (const auto& part : f.parts) {
                const int trace = f.kind == GeometryKind::Line && part.size() > 1 ? traces++ : -1;
                for (const auto& p : part)
                    if (std::isfinite(p.x) && std::isfinite(p.y) && (level || std::isfinite(p.z)))
                        out.points.push_back({unit, {p.x, p.y, level.value_or(p.z)}, {}, {}, number, trace});
            }
        }
    if (!known) throw FileError(fmt::format("{} has no attribute {} that could hold the unit.", file, unitField));
    if (!levelKnown) throw FileError(fmt::format("{} has no attribute {} that could hold the level.", file, levelField));
    return out;
}

namespace {

/// Turns contact points into contacts; what can't be one is counted by its reason and told once.
class ContactPlacing {
public:
    ContactPlacing(const Holes& holes, const Sequence& sequence) : m_holes(holes), m_sequence(sequence) {
        m_out.ofUnits.resize(sequence.units.empty() ? 0 : sequence.units.size() - 1);
    }

    void add(const ContactSource& source) {
        for (const auto& point : source.points) {
            if (point.excluded) continue;
            const auto unit = unitOf(point.unit);
            if (!unit) {
                unknownUnit(source, point);
                continue;
            }
            if (const auto base = baseOf(source, point, *unit))
                if (const auto place = placeOf(source, point)) {
                    Contact contact{point.hole, ContactKind::Observed, *place};
                    contact.file = source.file, contact.line = point.line, contact.trace = point.trace;
                    contact.accuracy = source.accuracy;
                    contact.byHand = !point.hole.empty();
                    m_out.ofUnits[*base].push_back(std::move(contact));
                }
        }
    }

    PlacedContacts take() {
        for (auto& [key, told] : m_told) {
            auto& [finding, points] = told;
            if (points > 1) finding.message += fmt::format(" {} of the file are concerned.", counted(points, "point"));
            m_out.findings.push_back(std::move(finding));
        }
        return std::move(m_out);
    }

private:
    std::optional<std::size_t> unitOf(const std::string& written) {
        const auto [at, isNew] = m_units.try_emplace(written);
        if (isNew) at->second = unitWritten(m_sequence, written);
        return at->second;
    }

    /// The unit on whose base the point lies; none, and told, if there is none.
    std::optional<std::size_t> baseOf(const ContactSource& source, const ContactPoint& point, std::size_t unit) {
        if (source.surface == ContactSurface::Top) {
            if (unit > 0) return unit - 1;
            tell(source, point, Severity::Warning, "top of the youngest",
                 fmt::format("The top of {}, the youngest unit, is the ground: its points are not used. Import them as survey "
                             "points if they are to make the ground.",
                             m_sequence.units[unit].code));
            return {};
        }
        if (unit < m_out.ofUnits.size()) return unit;
        tell(source, point, Severity::Warning, "base of the oldest",
             fmt::format(
                 "{} is the oldest unit, whose base the model does not have: its points are not used. Add a unit under it.",
                 m_sequence.units[unit].code));
        return {};
    }

    std::optional<Point3> placeOf(const ContactSource& source, const ContactPoint& point) {
        if (point.hole.empty()) return point.place;
        const auto* hole = holeNamed(point.hole);
        auto [path, isNew] = m_paths.try_emplace(point.hole);
        if (isNew && hole) path->second = HolePath::of(*hole);
        if (path->second) return path->second->at(point.depth);
        tell(source, point, Severity::Error, "hole " + point.hole,
             hole ? fmt::format("The hole {} has no position or no level, so that its contacts are not used.", point.hole)
                  : fmt::format("There is no hole {}; its contacts are not used until it is there.", point.hole));
        m_told.at({source.file, "hole " + point.hole}).first.hole = point.hole;
        return {};
    }

    /// Files call a hole by its id; where several have that, by its name.
    const Hole* holeNamed(const std::string& name) {
        const auto [at, isNew] = m_holesByName.try_emplace(name);
        if (isNew) at->second = findHole(m_holes, name);
        return at->second;
    }

    void unknownUnit(const ContactSource& source, const ContactPoint& point) {
        if (!tell(source, point, Severity::Error, "unit " + point.unit,
                  fmt::format("The sequence has no unit {}: its contacts are not used.", point.unit)))
            return;
        auto& finding = m_told.at({source.file, "unit " + point.unit}).first;
        if (const auto like = looksLike(point.unit, m_sequence)) {
            const auto& unit = m_sequence.units[*like];
            finding.remedy = Remedy{fmt::format("Merge into {}", unit.code), MergeCode{point.unit, unit.code}};
        } else {
            finding.remedy = Remedy{fmt::format("Add {} as a unit", point.unit), AddUnitFor{point.unit}};
        }
    }

    /// Whether it was the first of this kind.
    bool tell(const ContactSource& source, const ContactPoint& point, Severity severity, const std::string& kind,
              std::string sentence) {
        auto [at, isNew] = m_told.try_emplace({source.file, kind});
        if (isNew) at->second.first = {severity, "FC-CONTACT", source.file, point.line, "", "", "", std::move(sentence)};
        ++at->second.second;
        return isNew;
    }

    const Holes& m_holes;
    const Sequence& m_sequence;
    PlacedContacts m_out;
    std::unordered_map<std::string, const Hole*> m_holesByName;
    std::map<std::string, std::optional<HolePath>> m_paths;
    std::unordered_map<std::string, std::optional<std::size_t>> m_units;                   ///< by what was written
    std::map<std::pair<std::string, std::string>, std::pair<Finding, std::size_t>> m_told; ///< by file and reason, with a count
};

} // namespace

PlacedContacts placedContacts(const std::vector<ContactSource>& sources, const Holes& holes, const Sequence& sequence) {
    ContactPlacing placing(holes, sequence);
    for (const auto& source : sources)
        if (source.used) placing.add(source);
    return placing.take();
}

} // namespace fox
