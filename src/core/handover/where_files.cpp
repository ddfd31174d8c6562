#include "handover/where_files.h"

#include "base/errors.h"
#include "base/text.h"
#include "formats/netcdf_file.h"
#include "formats/table.h"
#include "formats/vtu.h"
#include "ground/survey.h"
#include "model/ground_at.h"

#include <fmt/format.h>

namespace fox {

namespace {

/// What is said of each place.
class Answers {
public:
    Answers(const ProductSet& set, std::vector<Point3> places, Point2 origin, const Progress& progress)
        : m_sequence(*set.project.sequence), m_at(groundAt(*set.model, moved(std::move(places), origin), progress)) {
        for (const auto& kind : m_sequence.valueKinds())
            if (std::ranges::any_of(m_sequence.units, [&](const Unit& u) { return u.values.contains(kind.key); }))
                m_keys.push_back(kind.key);
    }

    std::size_t size() const { return m_at.size(); }
    const std::vector<std::string>& keys() const { return m_keys; }
    std::size_t outside() const {
        return std::size_t(std::ranges::count_if(m_at, [](const GroundAt& g) { return std::isnan(g.depth); }));
    }
    std::string code(std::size_t i) const { return m_at[i].unit ? m_sequence.units[*m_at[i].unit].code : ""; }
    double depth(std::size_t i) const { return m_at[i].depth; }
    double value(const std::string& key, std::size_t i) const {
        if (!m_at[i].unit) return kNoValue;
        const auto& values = m_sequence.units[*m_at[i].unit].values;
        const auto at = values.find(key);
        return at == values.end() ? kNoValue : at->second;
    }
    /// As numbers of cells.
    std::vector<CellNumbers> numbers() const {
        std::vector<std::int32_t> units;
        std::vector<double> depths;
        for (const auto& g : m_at) {
            units.push_back(g.unit ? std::int32_t(*g.unit) : -1);
            depths.push_back(g.depth);
        }
        std::vector<CellNumbers> out{{"unit", std::move(units)}, {"depth", std::move(depths)}};
        for (const auto& key : m_keys) {
            std::vector<double> values;
            for (std::size_t i = 0; i < size(); ++i) values.push_back(value(key, i));
            out.push_back({key, std::move(values)});
        }
        return out;
    }

private:
    static std::vector<Point3> moved(std::vector<Point3> places, Point2 origin) {
        for (auto& p : places) p.x += origin.x, p.y += origin.y;
        return places;
    }

    const Sequence& m_sequence;
    std::vector<GroundAt> m_at;
    std::vector<std::string> m_keys;
};

// --- tables

struct PlacesOfTable {
    std::vector<Point3> places;
    std::vector<std::optional<std::size_t>> rowsPlace; ///< of each row; none: it has no place
};

PlacesOfTable placesIn(const Table& table, Findings& findings) {
    auto columns = surveyColumns(table);
    if (!columns.complete()) {
        if (table.columns.size() < 3 || table.rows.empty() || !table.number(0, 0) || !table.number(0, 1) || !table.number(0, 2))
            throw FileError(fmt::format("{} has no columns of easting, northing and level; its columns are: {}.", table.name,
                                        fmt::join(table.columns, ", ")));
        columns = {}, columns.easting = 0, columns.northing = 1, columns.level = 2;
    }
    PlacesOfTable out;
    for (std::size_t r = 0; r < table.rows.size(); ++r) {
        const auto x = table.number(r, *columns.easting);
        const auto y = table.number(r, *columns.northing);
        const auto z = table.number(r, *columns.level);
        out.rowsPlace.emplace_back();
        if (x && y && z) {
            out.rowsPlace.back() = out.places.size();
            out.places.push_back({*x, *y, *z});
        } else {
            findings.push_back({Severity::Warning, "FC-WHERE", table.name, table.rows[r].line, "", "", "",
                                "This row has no easting, northing or level that is a number; it goes out as it came."});
        }
    }
    return out;
}

/// Whether the first row holds numbers alone: then there is no header.
bool startsWithNumbers(const std::string& bytes, const Table& named) {
    return !named.columns.empty()
           && std::ranges::all_of(named.columns, [](const std::string& c) { return parseNumber(c).has_value(); })
           && !bytes.empty();
}

std::string withAnswers(const Table& table, bool header, const PlacesOfTable& rows, const Answers& answers) {
    std::string out;
    const std::string by(1, table.separator == ' ' ? ' ' : table.separator);
    const auto number = [&](double v) {
        auto text = std::isnan(v) ? std::string(table.separator == ' ' ? "nan" : "") : fmt::format("{}", v);
        if (table.decimalComma) std::ranges::replace(text, '.', ',');
        return text;
    };
    const auto cell = [&](const std::string& text) {
        const bool quoted =
            text.find(table.separator) != text.npos || text.find('"') != text.npos || text.find('\n') != text.npos;
        return quoted ? '"' +
                            [&] {
                                std::string doubled;
                                for (const char c : text) doubled += c == '"' ? "\"\"" : std::string(1, c);
                                return doubled;
                            }()
                            + '"'
                      : text;
    };
    if (header) {
        for (const auto& c : table.columns) out += cell(c) + by;
        out += "unit" + by + "depth";
        for (const auto& key : answers.keys()) out += by + key;
        out += '\n';
    }
    for (std::size_t r = 0; r < table.rows.size(); ++r) {
        for (std::size_t c = 0; c < std::max(table.rows[r].cells.size(), header ? table.columns.size() : 0); ++c)
            out += cell(c < table.rows[r].cells.size() ? table.rows[r].cells[c] : "") + by;
        const auto place = rows.rowsPlace[r];
        const auto code = place ? answers.code(*place) : "";
        out +=
            (code.empty() && table.separator == ' ' ? "-" : cell(code)) + by + number(place ? answers.depth(*place) : kNoValue);
        for (const auto& key : answers.keys()) out += by + number(place ? answers.value(key, *place) : kNoValue);
        out += '\n';
    }
    return out;
}

// --- UGRID

/// Cells of a UGRID file: a 3D mesh of volumes, or triangles and polygons of a plan with levels of the surfaces between layers.
struct UgridCells {
    std::vector<Point3> middles;
    std::vector<std::string> dimensions; ///< of what is said of the cells
};

class UgridReader {
public:
    explicit UgridReader(const std::filesystem::path& path) : m_name(path.string()), m_variables(readNetcdf(path)) {}

    UgridCells cells() const {
        for (const auto& [name, v] : m_variables) {
            if (attribute(v, "cf_role") != "mesh_topology") continue;
            if (const auto nodes = attribute(v, "volume_node_connectivity"); !nodes.empty()) return volumes(v, nodes);
            if (const auto nodes = attribute(v, "face_node_connectivity"); !nodes.empty()) return layered(v, nodes);
        }
        throw FileError(fmt::format("{} has no mesh of UGRID with volumes or faces.", m_name));
    }

private:
    static std::string attribute(const NetcdfNumbers& v, const char* key) {
        const auto at = v.attributes.find(key);
        return at == v.attributes.end() ? "" : at->second;
    }
    const NetcdfNumbers& named(const std::string& name) const {
        if (const auto at = m_variables.find(name); at != m_variables.end()) return at->second;
        throw FileError(fmt::format("{} has no variable {}.", m_name, name));
    }
    std::vector<const NetcdfNumbers*> coordinates(const NetcdfNumbers& mesh, std::size_t least) const {
        std::vector<const NetcdfNumbers*> out;
        const auto words = attribute(mesh, "node_coordinates");
        for (const auto word : split(words, ' '))
            if (!trimmed(word).empty()) out.push_back(&named(std::string(trimmed(word))));
        if (out.size() < least) throw FileError(fmt::format("{}: its nodes have only {} coordinates.", m_name, out.size()));
        for (const auto* c : out)
            if (c->values.size() != out.front()->values.size())
                throw FileError(fmt::format("{}: its nodes have coordinates of different lengths.", m_name));
        return out;
    }
    /// Nodes of each cell: those that are there.
    std::vector<std::vector<std::size_t>> nodesOf(const std::string& connectivity, std::size_t nodes) const {
        const auto& v = named(connectivity);
        if (v.lengths.size() != 2 || v.lengths[1] == 0)
            throw FileError(fmt::format("{}: {} is not a table of nodes.", m_name, connectivity));
        double least = std::numeric_limits<double>::infinity(), most = -least;
        for (const double n : v.values)
            if (n >= 0 && n < 1e15) least = std::min(least, n), most = std::max(most, n);
        const double start = most >= double(nodes) ? 1 : 0; // counted from 1
        std::vector<std::vector<std::size_t>> out(v.lengths[0]);
        for (std::size_t i = 0; i < v.values.size(); ++i) {
            const double n = v.values[i] - start;
            if (n >= 0 && n < double(nodes)) out[i / v.lengths[1]].push_back(std::size_t(n));
        }
        for (const auto& cell : out)
            if (cell.size() < 3) throw FileError(fmt::format("{}: a cell has under three nodes.", m_name));
        return out;
    }

    UgridCells volumes(const NetcdfNumbers& mesh, const std::string& connectivity) const {
        const auto xyz = coordinates(mesh, 3);
        UgridCells out{{}, {named(connectivity).dimensions.front()}};
        for (const auto& cell : nodesOf(connectivity, xyz[0]->values.size())) {
            Point3 sum;
            const double n = double(cell.size());
            for (const auto i : cell)
                sum.x += xyz[0]->values[i] / n, sum.y += xyz[1]->values[i] / n, sum.z += xyz[2]->values[i] / n;
            out.middles.push_back(sum);
        }
        return out;
    }

    UgridCells layered(const NetcdfNumbers& mesh, const std::string& connectivity) const {
        const auto xy = coordinates(mesh, 2);
        const auto nodes = xy[0]->values.size();
        const auto& node = xy[0]->dimensions.front();
        const NetcdfNumbers* levels = nullptr;
        for (const auto& [name, v] : m_variables)
            if (v.dimensions.size() == 2 && v.dimensions[1] == node && v.lengths[0] > 1 && attribute(v, "location") == "node")
                levels = &v;
        if (!levels)
            throw FileError(fmt::format("{} has faces, but no levels of surfaces at their nodes: (surface, node).", m_name));
        const auto faces = nodesOf(connectivity, nodes);
        // a dimension of layers, one less than the surfaces
        std::string layer;
        for (const auto& [name, v] : m_variables)
            for (std::size_t d = 0; d < v.dimensions.size(); ++d)
                if (v.lengths[d] + 1 == levels->lengths[0] && v.dimensions[d] != node
                    && v.dimensions[d] != named(connectivity).dimensions[0])
                    layer = layer.empty() || v.dimensions[d] == "layer" ? v.dimensions[d] : layer;
        if (layer.empty()) throw FileError(fmt::format("{} has no dimension of layers.", m_name));
        UgridCells out{{}, {layer, named(connectivity).dimensions[0]}};
        for (std::size_t k = 0; k + 1 < levels->lengths[0]; ++k)
            for (const auto& face : faces) {
                Point3 sum;
                const double n = double(face.size());
                for (const auto i : face) {
                    sum.x += xy[0]->values[i] / n, sum.y += xy[1]->values[i] / n;
                    sum.z += (levels->values[k * nodes + i] + levels->values[(k + 1) * nodes + i]) / (2 * n);
                }
                out.middles.push_back(sum);
            }
        return out;
    }

    std::string m_name;
    std::map<std::string, NetcdfNumbers> m_variables;
};

std::vector<NetcdfVariable> variablesOf(const std::vector<CellNumbers>& numbers, const std::vector<std::string>& dimensions) {
    std::vector<NetcdfVariable> out;
    for (const auto& n : numbers) {
        if (n.values.index() == 1)
            out.push_back({n.name, dimensions, std::span<const std::int32_t>(std::get<1>(n.values))});
        else
            out.push_back({n.name, dimensions, std::span<const double>(std::get<0>(n.values))});
    }
    return out;
}

} // namespace

ReplaceFiles prepareWhere(const ProductSet& set, const std::filesystem::path& points, const std::filesystem::path& out,
                          WhereAnswer& answer, Point2 origin, const Progress& progress) {
    const auto ending = lower(points.extension().string());
    if (lower(out.extension().string()) != ending)
        throw UsageError(fmt::format("{} must end with {}, as {} does.", out.string(), ending, points.string()));
    if (set.project.holes->empty() || set.project.sequence->units.empty())
        throw Error("The project has no holes or no sequence, so it has no model.");
    ReplaceFiles files;
    const auto note = [&](const Answers& answers) { answer.points = answers.size(), answer.outside = answers.outside(); };
    if (ending == ".vtu") {
        const VtuFile file(readBytes(points), points.string());
        const Answers answers(set, file.middles(), origin, progress);
        note(answers);
        files.add(out, [&](const auto& scratch) { writeBytes(scratch, file.with(answers.numbers())); });
    } else if (ending == ".nc") {
        const auto cells = UgridReader(points).cells();
        const Answers answers(set, cells.middles, origin, progress);
        note(answers);
        const auto numbers = answers.numbers();
        files.add(out, [&](const auto& scratch) { copyNetcdfWith(points, scratch, variablesOf(numbers, cells.dimensions)); });
    } else if (ending == ".csv" || ending == ".xyz" || ending == ".txt" || ending == ".dat") {
        const auto bytes = readBytes(points);
        auto table = readTable(bytes, points.string());
        const bool header = !startsWithNumbers(bytes, table);
        if (!header) { // what was taken for names is the first row
            std::vector<std::string> names;
            for (std::size_t i = 0; i < table.columns.size(); ++i)
                names.push_back(i < 3 ? std::string(i == 0   ? "easting"
                                                    : i == 1 ? "northing"
                                                             : "level")
                                      : fmt::format("column {}", i + 1));
            table = readTable(bytes, points.string(), names);
        }
        const auto rows = placesIn(table, answer.findings);
        const Answers answers(set, rows.places, origin, progress);
        note(answers);
        files.add(out, [&](const auto& scratch) { writeBytes(scratch, withAnswers(table, header, rows, answers)); });
    } else {
        throw UsageError(fmt::format("{}: places come as .csv, .xyz, .txt, .vtu or .nc (UGRID).", points.string()));
    }
    return files;
}

} // namespace fox
