#include "ground/lines.h"

#include "base/errors.h"
#include "base/text.h"
#include "ground/thin.h"

#include <fmt/format.h>
#include <limits>
#include <map>
#include <set>

namespace fox {

namespace {

constexpr const char* kRoles[] = {"breaklines", "contours",      "outlines",        "points",     "islands",
                                  "faults",     "section lines", "only to look at", "guide lines"};

std::optional<double> numberIn(const Feature& f, const std::string& field) {
    const auto at = std::ranges::find_if(f.attributes, [&](const auto& a) { return equalNoCase(a.first, field); });
    if (at == f.attributes.end()) return {};
    if (const auto* value = std::get_if<double>(&at->second)) return *value;
    const auto* text = std::get_if<std::string>(&at->second);
    return text ? parseNumber(*text) : std::nullopt;
}

/// How much a column's name says that it holds levels; 0 is not at all.
int likeLevel(const std::string& name) {
    const auto n = lower(name);
    for (const char* word : {"elev", "elevation", "level", "height", "contour", "z", "rl", "altitude"})
        if (n == word) return 3;
    for (const char* part : {"elev", "level", "height", "hoehe", "contour"})
        if (n.find(part) != n.npos) return 2;
    return 0;
}

/// Whether the filter lets it through.
bool passes(const Feature& f, const AttributeFilter& filter) {
    return filter.field.empty() || std::ranges::count(filter.values, valueInWords(f, filter.field)) > 0;
}

const ObjectChoice* choiceOf(const FeatureLayer& layer, const Feature& f, const std::vector<ObjectChoice>& choices) {
    const auto at =
        std::ranges::find_if(choices, [&](const ObjectChoice& c) { return c.id == f.id && c.id >= 0 && c.layer == layer.name; });
    return at == choices.end() ? nullptr : &*at;
}

class LineReader {
public:
    LineReader(const std::vector<FeatureLayer>& layers, const LineChoices& choices, const std::string& file)
        : m_layers(layers), m_choices(choices), m_file(file) {}

    GroundLines read() {
        for (const auto& layer : m_layers) {
            m_out.layers.push_back({layer.name, layer.features.size()});
            if (!layer.crs.empty()) m_out.crs = layer.crs;
            if (layer.features.empty()) say(Severity::Note, fmt::format("The layer {} is empty.", layer.name));
            if (layer.name == kInsertedBlocks)
                say(Severity::Note, fmt::format("The drawing inserts {}: those with a level become points. Lines inside a block "
                                                "are its symbol, and are not read if there are others.",
                                                counted(layer.features.size(), "block")));
        }
        survey();
        chooseField();
        chooseRole();
        m_zeroIsNone = zeroIsNone();
        for (const auto& layer : m_layers)
            if (!std::ranges::count(m_choices.layersOut, layer.name))
                for (const auto& f : layer.features) {
                    if (passes(f, m_choices.filter))
                        add(f, choiceOf(layer, f, m_choices.objects));
                    else
                        ++m_filtered;
                }
        for (auto& layer : m_out.layers) {
            layer.role = m_out.role;
            layer.used = !std::ranges::count(m_choices.layersOut, layer.name);
        }
        report();
        return std::move(m_out);
    }

private:
    void say(Severity severity, std::string sentence) {
        m_out.findings.push_back({severity, "FC-LINES", m_file, 0, "", "", "", std::move(sentence)});
    }

    void survey() {
        std::map<std::string, int> fields;
        for (const auto& layer : m_layers)
            for (const auto& f : layer.features) {
                ++m_kinds[int(f.kind)];
                m_anyHeight |= f.hasLevels;
                if (f.hasLevels)
                    for (const auto& part : f.parts)
                        for (const auto& p : part)
                            if (p.z != 0 && std::isfinite(p.z)) noteLevel(p.z);
                for (const auto& [name, value] : f.attributes) {
                    const auto* text = std::get_if<std::string>(&value);
                    if (std::holds_alternative<double>(value) || (text && parseNumber(*text))) ++fields[name];
                }
            }
        for (const auto& [name, n] : fields) m_out.fields.push_back(name);
        std::ranges::stable_sort(m_out.fields, std::greater<>(), likeLevel);
        m_anyLevel = !m_levels.empty();
    }

    /// Whether a line or point at 0 throughout has no level: drawings put texts, symbols and plans at 0. It is a level where
    /// others are near 0 or on both sides of it: nearer than a quarter of their range, or than one and a half steps between
    /// contours.
    bool zeroIsNone() const {
        if (!m_anyLevel) return true;
        const double least = *m_levels.begin(), most = *m_levels.rbegin();
        if (least < 0 && most > 0) return false;
        const double away = least > 0 ? least : -most;
        double step = std::numeric_limits<double>::infinity();
        for (auto at = m_levels.begin(), next = std::next(at); next != m_levels.end(); ++at, ++next)
            step = std::min(step, *next - *at);
        const bool oneStepMore = m_out.role == LineRole::Contours && away <= 1.5 * step;
        return away > 0.25 * (most - least) && !oneStepMore;
    }

    void noteLevel(double z) {
        constexpr std::size_t kEnough = 10'000; // then only the least and the most still matter
        if (m_levels.size() < kEnough || z < *m_levels.begin() || z > *m_levels.rbegin()) m_levels.insert(z);
    }

    void chooseField() {
        m_out.levelField = m_choices.levelField;
        if (!m_out.levelField.empty()) {
            if (std::ranges::none_of(m_out.fields, [&](const auto& f) { return equalNoCase(f, m_out.levelField); }))
                throw FileError(fmt::format("{} has no column {} with a level; its columns of numbers are: {}.", m_file,
                                            m_out.levelField,
                                            m_out.fields.empty() ? "none" : fmt::format("{}", fmt::join(m_out.fields, ", "))));
        } else if (m_choices.role != LineRole::Breaklines && !m_anyLevel && !m_out.fields.empty()
                   && likeLevel(m_out.fields.front()) > 0)
            m_out.levelField = m_out.fields.front();
    }

    void chooseRole() {
        if (m_choices.role)
            m_out.role = *m_choices.role;
        else if (m_kinds[int(GeometryKind::Line)] > 0)
            m_out.role = m_out.levelField.empty() && !eachAtOneLevel() ? LineRole::Breaklines : LineRole::Contours;
        else
            m_out.role = m_kinds[int(GeometryKind::Polygon)] > 0 ? LineRole::Outlines : LineRole::Points;
    }

    bool eachAtOneLevel() const {
        if (!m_anyLevel) return false;
        std::size_t lines = 0;
        for (const auto& layer : m_layers)
            for (const auto& f : layer.features)
                for (const auto& part : f.parts) {
                    if (f.kind != GeometryKind::Line) continue;
                    ++lines;
                    if (!f.hasLevels || std::ranges::any_of(part, [&](const Point3& p) { return p.z != part.front().z; }))
                        return false;
                }
        return lines > 2; // one level line alone may well be a kerb
    }

    void add(const Feature& f, const ObjectChoice* choice) {
        m_outByHand += choice && choice->isOut;
        if (choice && choice->isOut) return;
        m_handLevel = choice ? choice->level : std::nullopt;
        if (f.kind == GeometryKind::Polygon && m_out.role == LineRole::Outlines) return addOutlines(f);
        const auto field = m_handLevel ? m_handLevel : m_out.levelField.empty() ? std::nullopt : numberIn(f, m_out.levelField);
        const auto blockLevel = f.kind == GeometryKind::Point ? levelOfBlock(f) : std::nullopt;
        for (auto part : f.parts) {
            m_out.verticesRead += part.size();
            const auto bad = std::erase_if(part, [](const Point3& p) { return !std::isfinite(p.x) || !std::isfinite(p.y); });
            m_notNumbers += bad;
            if (part.empty()) continue;
            const bool none = !field && !blockLevel && f.hasLevels && m_zeroIsNone
                              && std::ranges::all_of(part, [](const Point3& p) { return p.z == 0; });
            m_zeros += none;
            for (auto& p : part) p.z = field ? *field : blockLevel ? *blockLevel : f.hasLevels && !none ? p.z : kNoValue;
            if (f.kind == GeometryKind::Point)
                addPoint(f, part.front());
            else
                addLine(f, std::move(part));
        }
    }

    void addOutlines(const Feature& f) {
        auto rings = ringsOf(f);
        for (auto& ring : rings) {
            m_out.verticesRead += ring.size();
            m_notNumbers += std::erase_if(ring, [](Point2 p) { return !std::isfinite(p.x) || !std::isfinite(p.y); });
        }
        const auto named = std::ranges::find_if(f.attributes, [](const auto& a) {
            const auto* text = std::get_if<std::string>(&a.second);
            return text && !text->empty();
        });
        int part = 0;
        for (auto& shape : nested(std::move(rings))) {
            auto name = named != f.attributes.end() ? std::get<std::string>(named->second)
                                                    : fmt::format("outline {}", m_out.outlines.size() + 1);
            if (++part > 1) name += fmt::format(", part {}", part);
            m_out.verticesKept += shape.ring.size();
            for (const auto& hole : shape.holes) m_out.verticesKept += hole.size();
            m_out.outlines.push_back({std::move(name), std::move(shape)});
        }
    }

    void addPoint(const Feature& f, const Point3& p) {
        if (!m_choices.keep.contains(p.plan())) return;
        if (std::isnan(p.z)) {
            ++m_pointsWithoutLevel;
            return;
        }
        ++m_out.verticesKept;
        m_out.points.push_back({valueInWords(f, m_choices.numberField), p, valueInWords(f, m_choices.codeField)});
    }

    void addLine(const Feature& f, Polyline3 part) {
        if (f.kind == GeometryKind::Polygon && part.front() != part.back()) part.push_back(part.front());
        if (part.size() < 2) {
            ++m_short;
            return;
        }
        const bool level = std::ranges::none_of(part, [](const Point3& p) { return std::isnan(p.z); });
        if (!level && m_out.role == LineRole::Contours) {
            ++m_contoursWithoutLevel;
            return;
        }
        for (auto& piece : m_choices.keep.clipped(part)) {
            auto kept = m_choices.thin > 0 && level ? thinned(piece, m_choices.thin) : std::move(piece);
            m_out.verticesKept += kept.size();
            m_out.lines.push_back(std::move(kept));
            m_out.codes.push_back(valueInWords(f, m_choices.codeField));
        }
    }

    /// A drawing's inserted block may carry its level in an attribute: "LEVEL 23.45".
    static std::optional<double> levelOfBlock(const Feature& f) {
        for (const auto& [name, value] : f.attributes) {
            const auto* text = std::get_if<std::string>(&value);
            if (!text || !equalNoCase(name, "BlockAttributes")) continue;
            for (const auto entry : split(*text, ',')) { // GDAL's list: "(2:LEVEL 23.45,CODE GL)"
                auto words = split(entry, ' ');
                if (words.size() < 2) continue;
                auto tag = words[0];
                if (const auto colon = tag.rfind(':'); colon != tag.npos) tag = tag.substr(colon + 1);
                auto number = words[1];
                if (number.ends_with(')')) number.remove_suffix(1);
                if (likeLevel(std::string(tag)) > 0)
                    if (const auto z = parseNumber(number)) return z;
            }
        }
        return {};
    }

    void report() {
        if (m_anyHeight && !m_anyLevel && m_out.levelField.empty() && m_out.role != LineRole::Outlines)
            say(Severity::Warning,
                "Every level in it is 0, which is taken for none. If the levels stand in a column, choose it.");
        else if (m_zeros > 0 && m_out.role != LineRole::Outlines)
            say(Severity::Warning,
                fmt::format("{} at 0.00, far from all other levels ({:g} to {:g} m), and {} taken to have no level.",
                            counted(m_zeros, "line or point lies", "lines or points lie"), *m_levels.begin(), *m_levels.rbegin(),
                            m_zeros == 1 ? "is" : "are"));
        if (m_outByHand > 0)
            say(Severity::Note, counted(m_outByHand, "object is skipped by hand.", "objects are skipped by hand."));
        if (m_filtered > 0)
            say(Severity::Note,
                fmt::format("{} another value in {} and {} left out.", counted(m_filtered, "object has", "objects have"),
                            m_choices.filter.field, m_filtered == 1 ? "is" : "are"));
        if (m_notNumbers > 0)
            say(Severity::Error, counted(m_notNumbers, "vertex has coordinates that are not numbers; it is left out.",
                                         "vertices have coordinates that are not numbers; they are left out."));
        if (m_short > 0)
            say(Severity::Note,
                counted(m_short, "line has only one vertex; it is left out.", "lines have only one vertex; they are left out."));
        if (m_contoursWithoutLevel > 0)
            say(Severity::Error,
                fmt::format("{}{}, and left out. Choose the column that holds the level.",
                            counted(m_contoursWithoutLevel, "contour is without a level", "contours are without a level"),
                            m_out.levelField.empty() ? "" : fmt::format(" in the column {}", m_out.levelField)));
        if (m_pointsWithoutLevel > 0)
            say(Severity::Warning,
                counted(m_pointsWithoutLevel, "point has no level; it is left out.", "points have no level; they are left out."));
        if (m_out.lines.empty() && m_out.points.empty() && m_out.outlines.empty())
            say(Severity::Error, m_out.verticesRead > 0 && !m_choices.keep.isEverywhere()
                                     ? "Nothing of it lies in the area that is to be kept. Is it in another coordinate system?"
                                     : "It has no line, point or area that can be used.");
    }

    const std::vector<FeatureLayer>& m_layers;
    const LineChoices& m_choices;
    const std::string& m_file;
    GroundLines m_out;
    int m_kinds[3] = {};
    bool m_anyLevel = false, m_anyHeight = false; ///< a level that is not 0; geometry in three dimensions
    bool m_zeroIsNone = false;
    std::size_t m_zeros = 0;           ///< lines and points at 0 that are taken to have no level
    std::set<double> m_levels;         ///< all but 0
    std::optional<double> m_handLevel; ///< of the object at hand
    std::size_t m_filtered = 0, m_outByHand = 0;
    std::size_t m_notNumbers = 0, m_short = 0, m_contoursWithoutLevel = 0, m_pointsWithoutLevel = 0;
};

/// "TB1" is string 1 of TB; "TB" its only one; none if the code is another.
std::optional<std::string> stringOf(std::string_view code, std::string_view wanted) {
    if (code.size() < wanted.size() || !equalNoCase(code.substr(0, wanted.size()), wanted)) return {};
    const auto rest = trimmed(code.substr(wanted.size()));
    if (!std::ranges::all_of(rest, [](char c) { return c >= '0' && c <= '9'; })) return {};
    return std::string(rest);
}

} // namespace

std::string valueInWords(const Feature& f, const std::string& field) {
    const auto at = field.empty() ? f.attributes.end() : f.attributes.find(field);
    if (at == f.attributes.end()) return {};
    if (const auto* value = std::get_if<double>(&at->second)) return fmt::format("{:g}", *value);
    const auto* text = std::get_if<std::string>(&at->second);
    return text ? std::string(trimmed(*text)) : std::string();
}

const char* words(LineRole role) { return kRoles[int(role)]; }

std::optional<LineRole> lineRole(std::string_view word) {
    for (int i = 0; i < kLineRoles; ++i)
        if (word == kRoles[i]) return LineRole(i);
    return {};
}

namespace {

/// What a role is to the reader of lines: it knows areas, points and lines with or without levels.
LineRole readAs(LineRole role) {
    switch (role) {
    case LineRole::Islands: return LineRole::Outlines;
    case LineRole::Faults:
    case LineRole::Sections:
    case LineRole::Guides:
    case LineRole::LookOnly: return LineRole::Breaklines;
    default: return role;
    }
}

/// Drawings have areas as closed lines.
void closeAreas(FeatureLayer& layer) {
    for (auto& f : layer.features)
        if (f.kind == GeometryKind::Line && std::ranges::all_of(f.parts, [](const Polyline3& p) {
                return p.size() > 3 && p.front().plan() == p.back().plan();
            }))
            f.kind = GeometryKind::Polygon;
}

void dropWithoutLevel(GroundLines& lines, const std::string& file) {
    std::vector<Polyline3> kept;
    std::vector<std::string> codes;
    for (std::size_t i = 0; i < lines.lines.size(); ++i) {
        if (std::ranges::any_of(lines.lines[i], [](const Point3& p) { return std::isnan(p.z); })) continue;
        kept.push_back(std::move(lines.lines[i]));
        codes.push_back(std::move(lines.codes[i]));
    }
    if (const auto lost = lines.lines.size() - kept.size(); lost > 0)
        lines.findings.push_back({Severity::Error, "FC-LINES", file, 0, "", "", "",
                                  fmt::format("{} without a level, and left out. Choose the column that holds it.",
                                              counted(lost, "guide line is", "guide lines are"))});
    lines.lines = std::move(kept);
    lines.codes = std::move(codes);
}

/// Layers of one role, read by themselves.
GroundLines readRole(std::vector<FeatureLayer> layers, const LineChoices& choices, LineRole role, const std::string& file) {
    auto as = choices;
    as.role = readAs(role);
    if (as.role == LineRole::Outlines)
        for (auto& layer : layers) closeAreas(layer);
    if (role == LineRole::LookOnly || role == LineRole::Faults || role == LineRole::Sections) as.levelField.clear();
    auto out = LineReader(layers, as, file).read();
    for (auto& layer : out.layers) layer.role = role;
    for (auto& outline : out.outlines) outline.isIsland = role == LineRole::Islands;
    if (role == LineRole::Guides) dropWithoutLevel(out, file);
    const bool needsNoLevel = as.role == LineRole::Breaklines && role != LineRole::Breaklines && role != LineRole::Guides;
    if (needsNoLevel) {
        std::erase_if(out.findings, [](const Finding& f) { return f.severity == Severity::Warning; }); // of levels
        out.points.clear();
    }
    return out;
}

template <typename T>
void append(std::vector<T>& to, std::vector<T> more) {
    to.insert(to.end(), std::make_move_iterator(more.begin()), std::make_move_iterator(more.end()));
}

std::map<std::string, std::map<std::string, std::size_t>> valuesOf(const std::vector<FeatureLayer>& layers) {
    std::map<std::string, std::map<std::string, std::size_t>> out;
    for (const auto& layer : layers)
        for (const auto& f : layer.features)
            for (const auto& [field, value] : f.attributes) {
                auto& values = out[field];
                if (values.size() <= GroundLines::kMostValues) ++values[valueInWords(f, field)];
            }
    for (auto& [field, values] : out)
        if (values.size() > GroundLines::kMostValues) values.clear();
    return out;
}

std::vector<GroundLines::Object> objectsOf(const std::vector<FeatureLayer>& layers, const LineChoices& choices) {
    constexpr std::size_t kShown = 20'000; // vertices of all, more or less: enough to see
    std::size_t count = 0, vertices = 0;
    for (const auto& layer : layers) {
        count += layer.features.size();
        for (const auto& f : layer.features)
            for (const auto& part : f.parts) vertices += part.size();
    }
    const auto stride = vertices / kShown + 1; // ends stay
    std::vector<GroundLines::Object> out;
    if (count > GroundLines::kMostObjects) return out;
    for (const auto& layer : layers)
        for (const auto& f : layer.features) {
            if (f.id < 0 || !passes(f, choices.filter) || std::ranges::count(choices.layersOut, layer.name) > 0) continue;
            GroundLines::Object object{{layer.name, f.id, false, {}}, f.kind, {}};
            if (const auto* choice = choiceOf(layer, f, choices.objects)) object.choice = *choice;
            for (const auto& part : f.parts) {
                Polyline2 plan;
                for (std::size_t i = 0; i < part.size(); ++i)
                    if ((i % stride == 0 || i + 1 == part.size()) && std::isfinite(part[i].x) && std::isfinite(part[i].y))
                        plan.push_back(part[i].plan());
                if (!plan.empty()) object.parts.push_back(std::move(plan));
            }
            if (!object.parts.empty()) out.push_back(std::move(object));
        }
    return out;
}

} // namespace

GroundLines groundLinesOf(const std::vector<FeatureLayer>& layers, const LineChoices& choices, const std::string& file) {
    const auto roleOf = [&](const FeatureLayer& layer) {
        const auto at = choices.layerRoles.find(layer.name);
        return at == choices.layerRoles.end() ? choices.role : std::optional(at->second);
    };
    std::vector<FeatureLayer> rest; // whose role is the file's
    std::map<LineRole, std::vector<const FeatureLayer*>> others;
    for (const auto& layer : layers) {
        const auto role = roleOf(layer);
        const bool plain = !role || (role == choices.role && readAs(*role) == *role);
        plain ? rest.push_back(layer) : others[*role].push_back(&layer);
    }
    GroundLines out;
    if (!rest.empty() || others.empty()) out = LineReader(rest, choices, file).read();
    if (rest.empty() && choices.role) out.role = *choices.role;
    for (const auto& [role, of] : others) {
        for (const auto* layer : of) {
            auto read = readRole({*layer}, choices, role, file);
            append(out.layers, std::move(read.layers));
            append(out.points, std::move(read.points));
            append(out.outlines, std::move(read.outlines));
            append(out.findings, std::move(read.findings));
            for (const auto& field : read.fields)
                if (!std::ranges::count(out.fields, field)) out.fields.push_back(field);
            if (out.crs.empty()) out.crs = read.crs;
            out.verticesRead += read.verticesRead, out.verticesKept += read.verticesKept;
            if (!read.lines.empty()) out.others.push_back({role, layer->name, std::move(read.lines), std::move(read.codes)});
        }
    }
    const auto placeOf = [&](const GroundLines::Layer& layer) {
        return std::ranges::find(layers, layer.name, &FeatureLayer::name) - layers.begin();
    };
    std::ranges::stable_sort(out.layers, {}, placeOf);
    out.values = valuesOf(layers);
    out.objects = objectsOf(layers, choices);
    return out;
}

std::map<std::string, LineRole> proposedLayerRoles(const std::vector<FeatureLayer>& layers) {
    constexpr std::pair<const char*, LineRole> kNames[] = {{"fault", LineRole::Faults},      {"section", LineRole::Sections},
                                                           {"road", LineRole::LookOnly},     {"river", LineRole::LookOnly},
                                                           {"building", LineRole::LookOnly}, {"text", LineRole::LookOnly},
                                                           {"boundary", LineRole::Outlines}, {"limit", LineRole::Outlines}};
    std::map<std::string, LineRole> out;
    for (const auto& layer : layers) {
        const auto read = LineReader({layer}, {}, "").read();
        const bool levels = std::ranges::any_of(read.lines, [](const Polyline3& l) { return !std::isnan(l.front().z); });
        auto role = read.role;
        if (role == LineRole::Breaklines && !levels) role = LineRole::LookOnly;
        if (role == LineRole::Points && read.points.empty()) role = LineRole::LookOnly;
        if (!levels && layer.name != kInsertedBlocks)
            for (const auto& [word, named] : kNames)
                if (lower(layer.name).find(word) != std::string::npos) role = named;
        if (levels && lower(layer.name).find("contour") != std::string::npos) role = LineRole::Contours;
        out[layer.name] = role;
    }
    return out;
}

std::vector<Polyline3> stringsOf(const std::vector<SurveyPoint>& points, const std::string& code) {
    std::map<std::string, Polyline3> strings;
    for (const auto& p : points)
        if (const auto number = stringOf(p.code, code)) strings[*number].push_back(p.place);
    std::vector<Polyline3> out;
    for (auto& [number, line] : strings)
        if (line.size() >= 2) out.push_back(std::move(line));
    return out;
}

std::string codeWithoutNumber(std::string_view code) {
    auto c = trimmed(code);
    const auto all = c;
    while (!c.empty() && c.back() >= '0' && c.back() <= '9') c.remove_suffix(1);
    c = trimmed(c);
    return std::string(c.empty() ? all : c);
}

std::vector<std::string> stringCodes(const std::vector<SurveyPoint>& points) {
    std::map<std::string, int> numbered;
    const std::string* last = nullptr; // the same code many times in a row is taken apart once
    int* times = nullptr;
    for (const auto& p : points) {
        if (!last || *last != p.code) {
            const auto base = codeWithoutNumber(p.code);
            times = base.size() == trimmed(p.code).size() ? nullptr : &numbered[base];
            last = &p.code;
        }
        if (times) ++*times;
    }
    std::vector<std::string> out;
    for (const auto& [code, count] : numbered)
        if (count >= 2) out.push_back(code);
    return out;
}

} // namespace fox
