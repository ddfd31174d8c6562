// Files of layered grids: read back by other readers, compared, and used to compute a flow whose answer is known.
#include "formats/netcdf_file.h"
#include "formats/raster.h"
#include "formats/vtu.h"
#include "layered_fixtures.h"

#include <Eigen/SparseCholesky>
#include <catch2/catch.hpp>
#include <numbers>

using namespace fox;
using namespace fox::test;

namespace {

const LayerFileWords kWords{"Flat", "EPSG:25831", {"S", "C", "G", "R"}, "", "2026-11-30"};

/// Steady flow in a layered grid by finite volumes: the numbers of cells' faces and middles are all it uses. Passive cells let
/// water through vertically.
class Flow {
public:
    explicit Flow(const LayeredGrid& grid) : m_grid(grid), m_unknown(grid.cells(), -1) {}

    std::map<std::size_t, double> fixed; ///< heads
    std::map<std::size_t, double> wells; ///< cubic metres a second that are put in

    std::vector<double> solve() {
        int n = 0;
        for (std::size_t i = 0; i < m_grid.cells(); ++i)
            if (m_grid.state[i] == CellState::Active && !fixed.contains(i)) m_unknown[i] = n++;
        m_right = Eigen::VectorXd::Zero(n);
        for (const auto& [cell, q] : wells) m_right[m_unknown[cell]] += q;
        eachPair([&](std::size_t a, std::size_t b, double conductance) { join(a, b, conductance); });
        Eigen::SparseMatrix<double> matrix(n, n);
        matrix.setFromTriplets(m_entries.begin(), m_entries.end());
        const Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>> solver(matrix);
        REQUIRE(solver.info() == Eigen::Success);
        const Eigen::VectorXd heads = solver.solve(m_right);
        std::vector<double> out(m_grid.cells(), kNoValue);
        for (std::size_t i = 0; i < out.size(); ++i)
            if (m_unknown[i] >= 0) out[i] = heads[m_unknown[i]];
        for (const auto& [cell, head] : fixed) out[cell] = head;
        return out;
    }

    /// What flows out of fixed cells that `which` accepts.
    double outOf(const std::vector<double>& heads, const std::function<bool(std::size_t)>& which) {
        double sum = 0;
        eachPair([&](std::size_t a, std::size_t b, double conductance) {
            const bool fromA = fixed.contains(a) && which(a), fromB = fixed.contains(b) && which(b);
            if (fromA != fromB) sum += (fromA ? 1 : -1) * conductance * (heads[a] - heads[b]);
        });
        return sum;
    }

private:
    template <typename Use>
    void eachPair(Use&& use) const {
        const auto& k = m_grid.values.at("conductivity");
        const auto& plan = m_grid.plan;
        for (std::size_t layer = 0; layer < m_grid.layers.size(); ++layer)
            for (int r = 0; r < plan.rows(); ++r)
                for (int c = 0; c < plan.columns(); ++c) {
                    const auto a = m_grid.index(layer, plan.index(c, r));
                    if (m_grid.state[a] != CellState::Active) continue;
                    const auto along = [&](std::size_t b, double across, double half, double otherHalf) {
                        if (m_grid.state[b] != CellState::Active) return;
                        use(a, b, across / (half / (k[a] * m_grid.thickness(a)) + otherHalf / (k[b] * m_grid.thickness(b))));
                    };
                    if (c + 1 < plan.columns())
                        along(m_grid.index(layer, plan.index(c + 1, r)), plan.height(r), plan.width(c) / 2,
                              plan.width(c + 1) / 2);
                    if (r + 1 < plan.rows())
                        along(m_grid.index(layer, plan.index(c, r + 1)), plan.width(c), plan.height(r) / 2,
                              plan.height(r + 1) / 2);
                    down(layer, plan.index(c, r), use);
                }
    }
    template <typename Use>
    void down(std::size_t layer, std::size_t column, Use&& use) const {
        const auto at = m_grid.values.find("vertical_conductivity");
        if (at == m_grid.values.end()) return;
        const auto a = m_grid.index(layer, column);
        double resistance = m_grid.thickness(a) / 2 / at->second[a];
        for (auto k = layer + 1; k < m_grid.layers.size(); ++k) {
            const auto b = m_grid.index(k, column);
            if (m_grid.state[b] == CellState::Outside) return;
            if (m_grid.state[b] == CellState::Active)
                return use(a, b, m_grid.plan.area(column) / (resistance + m_grid.thickness(b) / 2 / at->second[b]));
            if (m_grid.thickness(b) > 0) resistance += m_grid.thickness(b) / at->second[b];
        }
    }
    void join(std::size_t a, std::size_t b, double conductance) {
        for (const auto& [one, other] : {std::pair{a, b}, {b, a}}) {
            if (m_unknown[one] < 0) continue;
            m_entries.emplace_back(m_unknown[one], m_unknown[one], conductance);
            if (m_unknown[other] >= 0)
                m_entries.emplace_back(m_unknown[one], m_unknown[other], -conductance);
            else
                m_right[m_unknown[one]] += conductance * fixed.at(other);
        }
    }

    const LayeredGrid& m_grid;
    std::vector<int> m_unknown;
    Eigen::VectorXd m_right;
    std::vector<Eigen::Triplet<double>> m_entries;
};

/// Written, read back from the files, without a fault.
LayeredGrid throughFiles(const LayerSpec& spec) {
    const auto made = layersOf(flatSite(), spec);
    INFO(made->problem);
    REQUIRE(made->grid);
    const TemporaryFolder folder;
    writeLayerFiles(*made->grid, kWords, folder.path());
    auto checked = checkLayerFiles(folder.path());
    for (const auto& f : checked.faults) UNSCOPED_INFO(f);
    REQUIRE(checked.faults.empty());
    return checked.grid;
}

LayerSpec withConductivity() {
    auto spec = flatSpec();
    spec.values = {{"conductivity", {FieldSource::From::Units, 0, ""}},
                   {"vertical_conductivity", {FieldSource::From::Units, 0, ""}}};
    return spec;
}

bool sameNumbers(std::span<const double> a, std::span<const double> b) {
    return std::ranges::equal(a, b, [](double x, double y) { return x == y || (std::isnan(x) && std::isnan(y)); });
}

} // namespace

TEST_CASE("Text arrays, NetCDF, rasters and the table of cells hold the same numbers", "[layers]") {
    auto spec = withConductivity();
    spec.areaRing = {{1000, 2000}, {1200, 2000}, {1200, 2100}};
    const auto made = layersOf(flatSite(), spec);
    REQUIRE(made->grid);
    const auto& g = *made->grid;
    const TemporaryFolder folder;
    const auto files = writeLayerFiles(g, kWords, folder.path());
    CHECK(files.size() == 4 * 5 * 2 + 4); // top, bottom, state and two values as text and raster; and four files of all cells
    const auto nc = readNetcdf(folder / "grid.nc");
    CHECK(nc.at("top").lengths == std::vector<std::size_t>{4, 10, 20});
    CHECK(sameNumbers(nc.at("top").values, g.top));
    CHECK(sameNumbers(nc.at("conductivity").values, g.values.at("conductivity")));
    CHECK(nc.at("easting").values[3] == 1035);
    CHECK(nc.at("northing").values[0] == 2095);
    const auto raster = readRaster(folder / "bottom_2.tif");
    CHECK(raster.crs == "EPSG:25831");
    CHECK(sameNumbers(raster.grid.values, std::span(g.bottom).subspan(200, 200)));
    const VtuFile cells(readBytes(folder / "grid.vtu"), "grid.vtu");
    std::size_t inside = 0;
    for (const auto s : g.state) inside += s != CellState::Outside;
    CHECK(cells.cells() == inside);
    CHECK(checkLayerFiles(folder.path()).faults.empty());
}

TEST_CASE("A folder that was changed by hand is found out, file by file", "[layers]") {
    const auto made = layersOf(flatSite(), withConductivity());
    REQUIRE(made->grid);
    const TemporaryFolder folder;
    const auto spoilt = [&](const std::function<void()>& change) {
        writeLayerFiles(*made->grid, kWords, folder.path());
        change();
        return checkLayerFiles(folder.path()).faults;
    };
    const auto replace = [&](const char* file, const std::string& from, const std::string& to) {
        auto bytes = readBytes(folder / file);
        const auto at = bytes.find(from);
        REQUIRE(at != bytes.npos);
        writeBytes(folder / file, bytes.replace(at, from.size(), to));
    };
    CHECK(spoilt([] {}).empty());
    CHECK_FALSE(spoilt([&] { replace("bottom_1.txt", "6", "11"); }).empty()); // above the top, and not as in the others
    CHECK_FALSE(spoilt([&] { replace("state_3.txt", "1", "7"); }).empty());
    CHECK_FALSE(spoilt([&] { replace("top_2.txt", " ", "\n"); }).empty());
    CHECK_FALSE(spoilt([&] { replace("top_2.txt", "6", "six"); }).empty());
    CHECK_FALSE(spoilt([&] {
                    replace("cells.csv", "1,1,2,", "1,1,2,9");
                    std::filesystem::remove(folder / "grid.nc");
                }).empty());
    CHECK_FALSE(spoilt([&] { std::filesystem::remove(folder / "conductivity_4.tif"); }).empty());
    CHECK_FALSE(spoilt([&] { std::filesystem::remove(folder / "grid.vtu"); }).empty());
    std::filesystem::remove(folder / "layers.json");
    CHECK_THROWS_AS(checkLayerFiles(folder.path()), FileError);
}

TEST_CASE("A second run takes away what the first left over, and nothing else", "[layers]") {
    const TemporaryFolder folder;
    folder.write("mine.txt", "mine");
    folder.write("top_9.txt", "mine too");
    writeLayerFiles(*layersOf(flatSite(), withConductivity())->grid, kWords, folder.path());
    CHECK(std::filesystem::exists(folder / "conductivity_4.txt"));
    auto spec = flatSpec();
    spec.layers = {{"all", {"R"}}};
    spec.layers[0].bottom = FieldSource{FieldSource::From::Number, -10, ""};
    writeLayerFiles(*layersOf(flatSite(), spec)->grid, kWords, folder.path());
    CHECK_FALSE(std::filesystem::exists(folder / "conductivity_4.txt"));
    CHECK_FALSE(std::filesystem::exists(folder / "top_4.tif"));
    CHECK(std::filesystem::exists(folder / "top_1.txt"));
    CHECK(std::filesystem::exists(folder / "mine.txt"));
    CHECK(std::filesystem::exists(folder / "top_9.txt"));
    CHECK(checkLayerFiles(folder.path()).faults.empty());
}

TEST_CASE("A record that names files outside its folder removes none of them", "[layers]") {
    const TemporaryFolder folder;
    std::filesystem::create_directories(folder / "out");
    folder.write("precious.txt", "precious");
    folder.write("out/layers.json", R"({"format":"fox-cellar-layers-record","files":["../precious.txt","..",""]})");
    writeLayerFiles(*layersOf(flatSite(), flatSpec())->grid, kWords, folder / "out");
    CHECK(std::filesystem::exists(folder / "precious.txt"));
}

TEST_CASE("Uniform flow through a turned, unevenly spaced grid is as Darcy has it", "[layers][flow]") {
    auto spec = withConductivity();
    spec.grid = PlanGrid({1055, 2095}, 20, std::vector<double>(20, 5), std::vector<double>(8, 5));
    spec.finer = {{{{1090, 2070}}, 1, 1.4}};
    const auto g = throughFiles(spec);
    CHECK(g.plan.columns() > 25);
    Flow flow(g);
    const int last = g.plan.columns() - 1;
    // without the rock, which has no vertical conductivity
    auto only = g;
    for (std::size_t i = g.index(3, 0); i < g.cells(); ++i) only.state[i] = CellState::Outside;
    Flow three(only);
    for (std::size_t k = 0; k < 3; ++k)
        for (int r = 0; r < g.plan.rows(); ++r) {
            three.fixed[g.index(k, g.plan.index(0, r))] = 9;
            three.fixed[g.index(k, g.plan.index(last, r))] = 4;
        }
    const auto heads = three.solve();
    const double length = 100 - g.plan.width(0) / 2 - g.plan.width(last) / 2;
    double at = g.plan.width(0) / 2;
    for (int c = 1; c < last; ++c) {
        at += (g.plan.width(c - 1) + g.plan.width(c)) / 2;
        const double wanted = 9 - 5 * (at - g.plan.width(0) / 2) / length;
        for (std::size_t k = 0; k < 3; ++k) REQUIRE(heads[g.index(k, g.plan.index(c, 3))] == Approx(wanted).epsilon(0.001));
    }
    const double flux =
        three.outOf(heads, [&](std::size_t cell) { return cell % g.plan.cells() % std::size_t(g.plan.columns()) == 0; });
    CHECK(flux == Approx(40 * (4 * 1e-4 + 2 * 1e-8 + 4 * 1e-3) * 5 / length).epsilon(0.01));
}

TEST_CASE("Drawdown around a pumped well is as Thiem has it", "[layers][flow]") {
    auto spec = withConductivity();
    spec.layers = {{"sand", {"S"}}};
    spec.layers[0].bottom = FieldSource{FieldSource::From::Base, 0, "S"};
    spec.grid = PlanGrid({1050, 2100}, 0, std::vector<double>(20, 5), std::vector<double>(20, 5));
    spec.finer = {{{{1100, 2050}}, 0.5, 1.15}};
    const auto g = throughFiles(spec);
    const Point2 well = g.plan.centre(int(*g.plan.cellAt({1100.01, 2050.01}) % std::size_t(g.plan.columns())),
                                      int(*g.plan.cellAt({1100.01, 2050.01}) / std::size_t(g.plan.columns())));
    const double pumped = 2e-4, transmissivity = 4 * 1e-4;
    const auto closed = [&](Point2 p) {
        return 8 + pumped / (2 * std::numbers::pi * transmissivity) * std::log(distance(p, well) / 50);
    };
    Flow flow(g);
    flow.wells[*g.plan.cellAt(well)] = -pumped;
    for (int r = 0; r < g.plan.rows(); ++r)
        for (int c = 0; c < g.plan.columns(); ++c)
            if (r == 0 || c == 0 || r + 1 == g.plan.rows() || c + 1 == g.plan.columns())
                flow.fixed[g.plan.index(c, r)] = closed(g.plan.centre(c, r));
    const auto heads = flow.solve();
    int compared = 0;
    for (int r = 1; r + 1 < g.plan.rows(); ++r)
        for (int c = 1; c + 1 < g.plan.columns(); ++c) {
            const auto p = g.plan.centre(c, r);
            const double away = distance(p, well);
            if (away < 3 || away > 35) continue;
            ++compared;
            REQUIRE(8 - heads[g.plan.index(c, r)] == Approx(8 - closed(p)).epsilon(0.01));
        }
    CHECK(compared > 100);
}

TEST_CASE("Water passes vertically through cells that are too thin to be active", "[layers][flow]") {
    auto spec = withConductivity();
    spec.layers[3].bottom = FieldSource{FieldSource::From::Base, 0, "G"}; // no rock
    spec.thin = {3, CellAnswer::Passive};
    const auto g = throughFiles(spec);
    CHECK(g.state[g.index(1, 0)] == CellState::Passive);
    CHECK(g.thickness(g.index(1, 0)) == Approx(2));
    Flow flow(g);
    for (std::size_t c = 0; c < g.plan.cells(); ++c) flow.fixed[g.index(0, c)] = 9, flow.fixed[g.index(2, c)] = 4;
    const auto heads = flow.solve();
    const double resistance = 2 / 1e-5 + 2 / 1e-9 + 2 / 1e-4;
    CHECK(flow.outOf(heads, [&](std::size_t cell) { return cell < g.plan.cells(); })
          == Approx(200 * 100 * 5 / resistance).epsilon(0.001));
}
