#include "handover/layer_files.h"

#include "base/parallel.h"
#include "base/text.h"
#include "formats/netcdf_file.h"
#include "formats/raster.h"
#include "formats/table_rows.h"
#include "formats/vtu.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <set>

namespace fox {

using nlohmann::json;

namespace {

constexpr const char* kRecord = "layers.json";
constexpr const char* kRecordFormat = "fox-cellar-layers-record";

/// The numbers of all cells under the name that files have.
struct CellArray {
    std::string name, words, unit;
    std::span<const double> numbers;
};

std::vector<CellArray> arraysOf(const LayeredGrid& g) {
    std::vector<CellArray> out{{"top", "Top of the layer", "m", g.top}, {"bottom", "Bottom of the layer", "m", g.bottom}};
    for (const auto& kind : cellValueKinds())
        if (const auto at = g.values.find(kind.key); at != g.values.end())
            out.push_back({kind.key, kind.words, kind.unit, at->second});
    return out;
}

std::vector<std::int32_t> statesOf(const LayeredGrid& g) {
    std::vector<std::int32_t> out(g.cells());
    std::ranges::transform(g.state, out.begin(), [](CellState s) { return std::int32_t(s); });
    return out;
}

template <typename T>
std::string textArray(std::span<const T> numbers, int columns) {
    std::string out;
    out.reserve(numbers.size() * 8);
    for (std::size_t i = 0; i < numbers.size(); ++i) {
        fmt::format_to(std::back_inserter(out), "{}", numbers[i]);
        out += (i + 1) % std::size_t(columns) == 0 ? '\n' : ' ';
    }
    return out;
}

/// A text to be written under a name.
struct NamedText {
    std::string file;
    std::function<std::string()> make;
};

void addTexts(ReplaceFiles& out, const std::filesystem::path& folder, const std::vector<NamedText>& texts,
              const Progress& progress) {
    constexpr std::size_t kAtOnce = 16; // in memory
    for (std::size_t begin = 0; begin < texts.size(); begin += kAtOnce) {
        const auto n = std::min(kAtOnce, texts.size() - begin);
        std::vector<std::string> made(n);
        parallelFor(
            n, 1,
            [&](std::size_t from, std::size_t to) {
                for (auto i = from; i < to; ++i) made[i] = texts[begin + i].make();
            },
            progress);
        for (std::size_t i = 0; i < n; ++i)
            out.add(folder / texts[begin + i].file, [&](const auto& scratch) { writeBytes(scratch, made[i]); });
        progress.report(0.5 * double(begin) / double(texts.size()), "Arrays");
    }
}

void addRasters(ReplaceFiles& out, const LayeredGrid& g, const std::filesystem::path& folder, const std::string& crs) {
    const auto frame = g.plan.frame();
    if (!frame) return;
    const auto n = g.plan.cells();
    const auto add = [&](const std::string& file, auto valueAt) {
        Grid grid(*frame);
        for (std::size_t i = 0; i < n; ++i) grid.values[i] = valueAt(i);
        out.add(folder / file, [&](const auto& scratch) { writeRaster(scratch, grid, crs); });
    };
    for (std::size_t k = 0; k < g.layers.size(); ++k) {
        for (const auto& a : arraysOf(g))
            add(fmt::format("{}_{}.tif", a.name, k + 1), [&](std::size_t i) { return a.numbers[g.index(k, i)]; });
        add(fmt::format("state_{}.tif", k + 1), [&](std::size_t i) { return double(g.state[g.index(k, i)]); });
    }
}

void addNetcdf(ReplaceFiles& out, const LayeredGrid& g, const LayerFileWords& words, const std::filesystem::path& folder) {
    const bool turned = g.plan.turn() != 0;
    std::vector<double> eastings, northings;
    std::vector<std::int32_t> layers;
    for (std::size_t k = 0; k < g.layers.size(); ++k) layers.push_back(std::int32_t(k + 1));
    for (int r = 0; r < g.plan.rows(); ++r)
        for (int c = 0; c < g.plan.columns(); ++c) {
            const auto p = g.plan.centre(c, r);
            if (turned || r == 0) eastings.push_back(p.x);
            if (turned || c == 0) northings.push_back(p.y);
        }
    const auto states = statesOf(g);
    const std::vector<std::string> cell{"layer", "row", "column"}, plan{"row", "column"};
    const std::vector<std::string> along = turned ? plan : std::vector<std::string>{"column"};
    const std::vector<std::string> down = turned ? plan : std::vector<std::string>{"row"};
    static constexpr std::int32_t kNone = 0;
    const std::string system = projectionText(words.crs);
    std::vector<NetcdfVariable> variables{
        {"layer", {"layer"}, layers, {{"long_name", std::string("number of the layer")}, {"positive", std::string("down")}}},
        {"easting", along, eastings, {{"standard_name", std::string("projection_x_coordinate")}, {"units", std::string("m")}}},
        {"northing", down, northings, {{"standard_name", std::string("projection_y_coordinate")}, {"units", std::string("m")}}},
        {"crs", {}, std::span(&kNone, 1), {{"long_name", words.crs}, {"crs_wkt", system}}}};
    for (const auto& a : arraysOf(g))
        variables.push_back({a.name,
                             cell,
                             a.numbers,
                             {{"long_name", a.words},
                              {"units", a.unit.empty() ? std::string("1") : a.unit},
                              {"coordinates", std::string("easting northing")},
                              {"grid_mapping", std::string("crs")}}});
    variables.push_back({"state",
                         cell,
                         states,
                         {{"long_name", std::string("state of the cell")},
                          {"flag_meanings", std::string("outside active passive")},
                          {"coordinates", std::string("easting northing")},
                          {"grid_mapping", std::string("crs")}}});
    out.add(folder / "grid.nc", [&](const auto& scratch) {
        writeNetcdf(scratch,
                    {{"layer", g.layers.size()}, {"row", std::size_t(g.plan.rows())}, {"column", std::size_t(g.plan.columns())}},
                    variables,
                    {{"Conventions", std::string("CF-1.10")}, {"title", words.project}, {"source", std::string("Fox Cellar")}});
    });
}

/// Boxes of all cells that are not outside; boxes of one column share their nodes.
UnstructuredCells boxesOf(const LayeredGrid& g, const LayerFileWords& words) {
    UnstructuredCells out;
    out.remark = "units:";
    for (std::size_t u = 0; u < words.units.size(); ++u) out.remark += fmt::format(" {} = {};", u, words.units[u]);
    std::vector<std::size_t> cells;
    std::vector<std::int32_t> layer, row, column, unit, state;
    for (int r = 0; r < g.plan.rows(); ++r)
        for (int c = 0; c < g.plan.columns(); ++c) {
            const Point2 corners[] = {g.plan.node(c, r + 1), g.plan.node(c + 1, r + 1), g.plan.node(c + 1, r), g.plan.node(c, r)};
            const auto level = [&](double z) {
                for (const auto p : corners) out.nodes.push_back({p.x, p.y, z});
                return std::int64_t(out.nodes.size()) - 4;
            };
            std::int64_t upper = -1;
            double upperLevel = kNoValue;
            for (std::size_t k = 0; k < g.layers.size(); ++k) {
                const auto cell = g.index(k, g.plan.index(c, r));
                if (g.state[cell] == CellState::Outside) continue;
                if (upper < 0 || upperLevel != g.top[cell]) upper = level(g.top[cell]);
                const auto lower = g.thickness(cell) == 0 ? upper : level(g.bottom[cell]);
                for (const auto first : {lower, upper})
                    for (std::int64_t i = 0; i < 4; ++i) out.connectivity.push_back(first + i);
                upper = lower, upperLevel = g.bottom[cell];
                out.offsets.push_back(std::int64_t(out.connectivity.size()));
                out.types.push_back(12);
                cells.push_back(cell);
                layer.push_back(std::int32_t(k + 1)), row.push_back(r + 1), column.push_back(c + 1);
                unit.push_back(g.unit[cell]), state.push_back(std::int32_t(g.state[cell]));
            }
        }
    out.data = {{"layer", layer}, {"row", row}, {"column", column}, {"state", state}, {"unit", unit}};
    for (const auto& a : arraysOf(g)) {
        std::vector<double> numbers;
        for (const auto cell : cells) numbers.push_back(a.numbers[cell]);
        out.data.push_back({a.name, std::move(numbers)});
    }
    return out;
}

void addNumber(std::string& out, double v) {
    out += ',';
    if (!std::isnan(v)) fmt::format_to(std::back_inserter(out), "{}", v);
}

std::string cellTable(const LayeredGrid& g, const LayerFileWords& words, std::size_t layer) {
    const auto arrays = arraysOf(g);
    std::string out;
    if (layer == 0) {
        out = "layer,row,column,easting,northing,top,bottom,state,unit";
        for (std::size_t a = 2; a < arrays.size(); ++a) out += "," + arrays[a].name;
        out += '\n';
    }
    for (int r = 0; r < g.plan.rows(); ++r)
        for (int c = 0; c < g.plan.columns(); ++c) {
            const auto cell = g.index(layer, g.plan.index(c, r));
            const auto p = g.plan.centre(c, r);
            fmt::format_to(std::back_inserter(out), "{},{},{},{},{}", layer + 1, r + 1, c + 1, p.x, p.y);
            addNumber(out, g.top[cell]), addNumber(out, g.bottom[cell]);
            fmt::format_to(std::back_inserter(out), ",{},{}", int(g.state[cell]),
                           g.unit[cell] < 0 ? "" : tableCell(words.units[std::size_t(g.unit[cell])]));
            for (std::size_t a = 2; a < arrays.size(); ++a) addNumber(out, arrays[a].numbers[cell]);
            out += '\n';
        }
    return out;
}

json summaryOf(const LayeredGrid& g) {
    json volumes = json::array();
    for (std::size_t k = 0; k < g.layers.size(); ++k) volumes.push_back(g.volume(k));
    return {{"layers", g.layers.size()},
            {"rows", g.plan.rows()},
            {"columns", g.plan.columns()},
            {"cells", g.cells()},
            {"active", g.active()},
            {"volume", volumes},
            {"checks",
             {{"crossing", g.count(CellMark::Crossing).cells},
              {"thin", g.count(CellMark::Thin).cells},
              {"no_value", g.noValues},
              {"alone", g.count(CellMark::Alone).cells},
              {"missing", g.count(CellMark::Missing).cells},
              {"thickness_ratio", g.count(CellMark::Ratio).cells}}}};
}

json widthsOf(const PlanGrid& plan, bool columns) {
    json out = json::array();
    for (int i = 0; i < (columns ? plan.columns() : plan.rows()); ++i) out.push_back(columns ? plan.width(i) : plan.height(i));
    return out;
}

std::string recordOf(const LayeredGrid& g, const LayerFileWords& words, const std::vector<std::filesystem::path>& files) {
    json names = json::array(), values = json::array(), remarks = json::array();
    for (const auto& f : files) names.push_back(f.filename().string());
    for (const auto& [key, all] : g.values) values.push_back(key);
    for (const auto& f : words.findings) remarks.push_back(describe(f));
    return json{{"format", kRecordFormat},
                {"version", 1},
                {"made", words.date},
                {"project", words.project},
                {"crs", words.crs},
                {"specification", words.specification.empty() ? json() : json::parse(words.specification)},
                {"grid",
                 {{"corner", {g.plan.corner().x, g.plan.corner().y}},
                  {"turn", g.plan.turn()},
                  {"columns", widthsOf(g.plan, true)},
                  {"rows", widthsOf(g.plan, false)}}},
                {"layers", g.layers},
                {"units", words.units},
                {"values", values},
                {"summary", summaryOf(g)},
                {"remarks", remarks},
                {"files", names}}
        .dump(1);
}

/// What an earlier run wrote there; none without a record.
std::set<std::string> filesOfRecord(const std::filesystem::path& folder) {
    std::set<std::string> out;
    try {
        if (std::filesystem::exists(folder / kRecord)) {
            const auto record = json::parse(readBytes(folder / kRecord));
            if (record.value("format", "") == kRecordFormat)
                for (const auto& f : record.at("files")) out.insert(f.get<std::string>());
        }
    } catch (const std::exception&) {
        out.clear(); // a record that can't be read lists nothing
    }
    std::erase_if(out, [](const std::string& f) { return f != std::filesystem::path(f).filename() || f == ".." || f.empty(); });
    return out;
}

} // namespace

ReplaceFiles prepareLayerFiles(const LayeredGrid& g, const LayerFileWords& words, const std::filesystem::path& folder,
                               const Progress& progress) {
    std::error_code error;
    std::filesystem::create_directories(folder, error);
    if (error) throw FileError(fmt::format("{} can't be made: {}.", folder.string(), error.message()));
    ReplaceFiles out;
    const auto arrays = arraysOf(g);
    const auto states = statesOf(g);
    const auto n = g.plan.cells();
    std::vector<NamedText> texts;
    for (std::size_t k = 0; k < g.layers.size(); ++k) {
        for (const auto& a : arrays)
            texts.push_back({fmt::format("{}_{}.txt", a.name, k + 1),
                             [&g, &a, k, n] { return textArray(a.numbers.subspan(g.index(k, 0), n), g.plan.columns()); }});
        texts.push_back({fmt::format("state_{}.txt", k + 1), [&g, &states, k, n] {
                             return textArray(std::span(states).subspan(g.index(k, 0), n), g.plan.columns());
                         }});
    }
    addTexts(out, folder, texts, progress);
    addRasters(out, g, folder, words.crs);
    progress.report(0.6, "NetCDF");
    addNetcdf(out, g, words, folder);
    progress.report(0.7, "Cells");
    out.add(folder / "grid.vtu", [&](const auto& scratch) { writeVtu(scratch, boxesOf(g, words)); });
    out.add(folder / "cells.csv", [&](const auto& scratch) {
        std::vector<std::string> parts(g.layers.size());
        parallelFor(parts.size(), 1, [&](std::size_t from, std::size_t to) {
            for (auto k = from; k < to; ++k) parts[k] = cellTable(g, words, k);
        });
        std::string all;
        for (auto& p : parts) all += std::exchange(p, {});
        writeBytes(scratch, all);
    });
    auto files = out.targets();
    files.push_back(folder / kRecord);
    out.add(folder / kRecord, [&](const auto& scratch) { writeBytes(scratch, recordOf(g, words, files)); });
    return out;
}

std::vector<std::filesystem::path> commitLayerFiles(ReplaceFiles& files, const std::filesystem::path& folder) {
    auto earlier = filesOfRecord(folder);
    auto out = files.targets();
    files.commit();
    for (const auto& f : out) earlier.erase(f.filename().string());
    for (const auto& f : earlier) {
        std::error_code ignored;
        std::filesystem::remove(folder / f, ignored);
    }
    return out;
}

std::vector<std::filesystem::path> writeLayerFiles(const LayeredGrid& g, const LayerFileWords& words,
                                                   const std::filesystem::path& folder, const Progress& progress) {
    auto files = prepareLayerFiles(g, words, folder, progress);
    return commitLayerFiles(files, folder);
}

std::string layerSummary(const LayeredGrid& g) { return summaryOf(g).dump(); }

namespace {

/// Reads a folder of layers and compares its files.
class LayerReader {
public:
    explicit LayerReader(const std::filesystem::path& folder) : m_folder(folder) {
        if (!std::filesystem::exists(folder / kRecord))
            throw FileError(fmt::format("{} has no {}, so it is not a folder of layers.", folder.string(), kRecord));
        try {
            m_record = json::parse(readBytes(folder / kRecord));
            if (m_record.value("format", "") != kRecordFormat) throw FileError("its format is another one");
            const auto& grid = m_record.at("grid");
            auto& g = m_out.grid;
            g.plan = PlanGrid({grid.at("corner").at(0), grid.at("corner").at(1)}, grid.at("turn"), grid.at("columns"),
                              grid.at("rows"));
            g.layers = m_record.at("layers").get<std::vector<std::string>>();
            const auto n = g.layers.size() * g.plan.cells();
            g.top.assign(n, kNoValue), g.bottom.assign(n, kNoValue);
            g.state.assign(n, CellState::Outside), g.unit.assign(n, -1), g.marks.assign(n, 0);
            for (const auto& v : m_record.at("values")) g.values[v].assign(n, kNoValue);
        } catch (const std::exception& e) {
            throw FileError(fmt::format("{} can't be read: {}.", (folder / kRecord).string(), e.what()));
        }
    }

    CheckedLayers read() {
        auto& g = m_out.grid;
        readTexts("top", g.top), readTexts("bottom", g.bottom);
        for (auto& [key, values] : g.values) readTexts(key, values);
        std::vector<double> states(g.cells(), 0);
        readTexts("state", states);
        for (std::size_t i = 0; i < states.size(); ++i) {
            if (states[i] == 0 || states[i] == 1 || states[i] == 2)
                g.state[i] = CellState(int(states[i]));
            else
                once("A state is none of 0, 1 and 2.");
        }
        compareNetcdf(states);
        compareRasters(states);
        compareTable();
        for (const auto& f : m_record.value("files", std::vector<std::string>()))
            if (!std::filesystem::exists(m_folder / f)) fault(fmt::format("{} is missing.", f));
        checkCells();
        markThin();
        markCells(g);
        return std::move(m_out);
    }

private:
    void fault(const std::string& words) { m_out.faults.push_back(words); }
    void once(const std::string& words) {
        if (std::ranges::find(m_out.faults, words) == m_out.faults.end()) fault(words);
    }

    void readTexts(const std::string& name, std::vector<double>& into) {
        const auto& g = m_out.grid;
        for (std::size_t k = 0; k < g.layers.size(); ++k) {
            const auto file = fmt::format("{}_{}.txt", name, k + 1);
            std::string bytes;
            try {
                bytes = readBytes(m_folder / file);
            } catch (const FileError&) {
                fault(fmt::format("{} is missing.", file));
                continue;
            }
            readText(file, bytes, std::span(into).subspan(g.index(k, 0), g.plan.cells()));
        }
    }

    void readText(const std::string& file, const std::string& bytes, std::span<double> into) {
        std::size_t row = 0, at = 0;
        const auto columns = std::size_t(m_out.grid.plan.columns());
        for (const auto line : split(bytes, '\n')) {
            if (trimmed(line).empty()) continue;
            ++row;
            std::size_t count = 0;
            for (const auto word : split(trimmed(line), ' ')) {
                const auto number = word == "nan" ? std::optional(kNoValue) : parseNumber(word);
                if (!number) return fault(fmt::format("{}, line {}: \"{}\" is not a number.", file, row, word));
                if (at < into.size()) into[at] = *number;
                ++at, ++count;
            }
            if (count != columns) return fault(fmt::format("{}, line {}: {} numbers instead of {}.", file, row, count, columns));
        }
        if (at != into.size()) fault(fmt::format("{} has {} lines instead of {}.", file, row, m_out.grid.plan.rows()));
    }

    static bool equal(double a, double b) { return a == b || (std::isnan(a) && std::isnan(b)); }

    void compare(const std::string& file, std::span<const double> there, std::span<const double> texts, const std::string& name) {
        if (there.size() != texts.size())
            return fault(fmt::format("{} has {} numbers of {} instead of {}.", file, there.size(), name, texts.size()));
        for (std::size_t i = 0; i < there.size(); ++i)
            if (!equal(there[i], texts[i]))
                return fault(fmt::format("{} and the text arrays disagree in {}: {} and {}.", file, name, there[i], texts[i]));
    }

    std::map<std::string, std::span<const double>> arrays(std::span<const double> states) const {
        const auto& g = m_out.grid;
        std::map<std::string, std::span<const double>> out{{"top", g.top}, {"bottom", g.bottom}, {"state", states}};
        for (const auto& [key, values] : g.values) out[key] = values;
        return out;
    }

    void compareNetcdf(std::span<const double> states) {
        try {
            const auto read = readNetcdf(m_folder / "grid.nc");
            for (const auto& [name, texts] : arrays(states)) {
                const auto at = read.find(name);
                if (at == read.end())
                    fault(fmt::format("grid.nc has no {}.", name));
                else
                    compare("grid.nc", at->second.values, texts, name);
            }
        } catch (const FileError& e) {
            fault(e.what());
        }
    }

    void compareRasters(std::span<const double> states) {
        const auto& g = m_out.grid;
        if (!g.plan.frame()) return;
        for (const auto& [name, texts] : arrays(states))
            for (std::size_t k = 0; k < g.layers.size(); ++k) {
                const auto file = fmt::format("{}_{}.tif", name, k + 1);
                try {
                    compare(file, readRaster(m_folder / file).grid.values, texts.subspan(g.index(k, 0), g.plan.cells()), name);
                } catch (const FileError& e) {
                    fault(e.what());
                }
            }
    }

    void compareTable() {
        const auto& g = m_out.grid;
        std::string bytes;
        try {
            bytes = readBytes(m_folder / "cells.csv");
        } catch (const FileError& e) {
            return fault(e.what());
        }
        std::size_t rows = 0;
        bool agrees = true;
        SeparatedText(bytes).eachRow([&](int line, const std::vector<std::string_view>& cells) {
            if (line == 1) return true;
            const auto same = [&](std::size_t i, double wanted) {
                return i < cells.size() && equal(parseNumber(cells[i]).value_or(kNoValue), wanted);
            };
            agrees = rows < g.cells() && same(5, g.top[rows]) && same(6, g.bottom[rows]) && same(7, double(g.state[rows]));
            if (!agrees) fault(fmt::format("cells.csv, line {}: it and the text arrays disagree.", line));
            ++rows;
            return agrees;
        });
        if (agrees && rows != g.cells()) fault(fmt::format("cells.csv has {} cells instead of {}.", rows, g.cells()));
    }

    /// By the rule of the specification, where the record has one.
    void markThin() {
        auto& g = m_out.grid;
        const auto specification = m_record.value("specification", json());
        if (!specification.is_object()) return;
        const double metres = specification.value("thin", json::object()).value("metres", ThinRule().metres);
        for (std::size_t i = 0; i < g.cells(); ++i)
            if (g.state[i] != CellState::Outside && isThinner(g.thickness(i), metres)) g.marks[i] |= std::uint8_t(CellMark::Thin);
    }

    void checkCells() {
        auto& g = m_out.grid;
        std::size_t unknown = 0, apart = 0;
        for (std::size_t i = 0; i < g.cells(); ++i) {
            if (g.state[i] == CellState::Outside) continue;
            if (std::isnan(g.thickness(i))) ++unknown;
            if (g.bottom[i] > g.top[i]) g.marks[i] |= std::uint8_t(CellMark::Crossing);
            if (const auto below = i + g.plan.cells();
                below < g.cells() && g.state[below] != CellState::Outside && g.top[below] != g.bottom[i])
                ++apart;
        }
        const auto crossing = g.count(CellMark::Crossing).cells;
        if (crossing > 0) fault(fmt::format("{}: the bottom lies above the top.", counted(crossing, "cell")));
        if (unknown > 0) fault(fmt::format("{}: active or passive without a level.", counted(unknown, "cell")));
        if (apart > 0) fault(fmt::format("{}: the bottom is not the top of the cell below.", counted(apart, "cell")));
    }

    std::filesystem::path m_folder;
    json m_record;
    CheckedLayers m_out;
};

} // namespace

CheckedLayers checkLayerFiles(const std::filesystem::path& folder) { return LayerReader(folder).read(); }

} // namespace fox
