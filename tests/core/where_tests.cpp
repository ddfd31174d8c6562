// What lies at the places and in the cells of others' files.
#include "formats/netcdf_file.h"
#include "formats/vtu.h"
#include "formats/web_text.h"
#include "handover/mesh_files.h"
#include "handover/where_files.h"
#include "layered_fixtures.h"

#include <catch2/catch.hpp>
#include <cpl_conv.h>

using namespace fox;
using namespace fox::test;

namespace {

const ProductSet& flatProducts() {
    static const auto kSet = Products().of(flatSite(), {}, Wanted{});
    return *kSet;
}

WhereAnswer answered(const std::filesystem::path& from, const std::filesystem::path& to, Point2 origin = {}) {
    WhereAnswer answer;
    prepareWhere(flatProducts(), from, to, answer, origin).commit();
    return answer;
}

template <typename T>
std::string bytesOf(const std::vector<T>& values) {
    return {reinterpret_cast<const char*>(values.data()), values.size() * sizeof(T)};
}

enum class Form { Ascii, Binary, Zipped, AppendedRaw, AppendedBase64 };

/// Two boxes of one column, in sand and in rock, in one of the forms of VTK's files.
std::string twoBoxes(Form form) {
    std::vector<float> points;
    for (const double z : {-6.0, -4.0, 7.0, 9.0})
        for (const auto& [x, y] : {std::pair{1040, 2040}, {1050, 2040}, {1050, 2050}, {1040, 2050}})
            points.insert(points.end(), {float(x), float(y), float(z)});
    std::vector<std::int32_t> connectivity;
    for (int i = 0; i < 16; ++i) connectivity.push_back(i);
    const std::vector<std::int64_t> offsets{8, 16};
    const std::vector<std::uint8_t> types{12, 12};
    std::string appended;
    const auto array = [&](const char* type, const char* name, const char* more, const std::string& bytes,
                           const std::string& ascii) {
        const auto head = fmt::format("<DataArray type=\"{}\" Name=\"{}\"{}", type, name, more);
        const auto length = bytesOf(std::vector<std::uint32_t>{std::uint32_t(bytes.size())});
        switch (form) {
        case Form::Ascii: return head + " format=\"ascii\">" + ascii + "</DataArray>\n";
        case Form::Binary: return head + " format=\"binary\">\n  " + base64(length + bytes) + "\n</DataArray>\n";
        case Form::Zipped: {
            std::size_t size = 0;
            void* packed = CPLZLibDeflate(bytes.data(), bytes.size(), 6, nullptr, 0, &size);
            const std::string data(static_cast<char*>(packed), size);
            CPLFree(packed);
            const std::vector<std::uint32_t> sizes{1, std::uint32_t(bytes.size()), 0, std::uint32_t(size)};
            return head + " format=\"binary\">" + base64(bytesOf(sizes)) + base64(data) + "</DataArray>\n";
        }
        default: {
            const auto out = head + fmt::format(" format=\"appended\" offset=\"{}\"/>\n", appended.size());
            appended += form == Form::AppendedRaw ? length + bytes : base64(length + bytes);
            return out;
        }
        }
    };
    const auto numbers = [](const auto& values) {
        std::string out;
        for (const auto v : values) out += std::to_string(v) + " ";
        return out;
    };
    std::string file =
        fmt::format("<?xml version=\"1.0\"?>\n<VTKFile type=\"UnstructuredGrid\" version=\"0.1\" byte_order=\"LittleEndian\"{}>\n"
                    "<UnstructuredGrid><Piece NumberOfPoints=\"16\" NumberOfCells=\"2\">\n<Points>",
                    form == Form::Zipped ? " compressor=\"vtkZLibDataCompressor\"" : "");
    file += array("Float32", "Points", " NumberOfComponents=\"3\"", bytesOf(points), numbers(points)) + "</Points>\n<Cells>";
    file += array("Int32", "connectivity", "", bytesOf(connectivity), numbers(connectivity));
    file += array("Int64", "offsets", "", bytesOf(offsets), numbers(offsets));
    file += array("UInt8", "types", "", bytesOf(types), "12 12") + "</Cells>\n";
    file += form == Form::Ascii ? ""
            : form == Form::Binary
                ? "<CellData/>\n"
                : "<CellData Scalars=\"unit\">\n" + array("Int64", "unit", "", bytesOf(offsets), "7 7") + "</CellData>\n";
    file += "</Piece></UnstructuredGrid>\n";
    if (!appended.empty())
        file += fmt::format("<AppendedData encoding=\"{}\">\n_{}\n</AppendedData>\n",
                            form == Form::AppendedRaw ? "raw" : "base64", appended);
    return file + "</VTKFile>\n";
}

std::string replaced(std::string text, const std::string& from, const std::string& to) {
    const auto at = text.find(from);
    REQUIRE(at != text.npos);
    return text.replace(at, from.size(), to);
}

} // namespace

TEST_CASE("A table in any order of columns comes back with unit, depth and values, row by row", "[where]") {
    const TemporaryFolder folder;
    folder.write("q.csv", "remark;Level;N;E\n\"a;b\";9,5;2050;1050\nclay;5;2050;1050\nair;11;2050;1050\nfar;5;0;0\nbad;x;1;"
                          "1\nrock;-50;2050;1050\n");
    const auto answer = answered(folder / "q.csv", folder / "r.csv");
    CHECK(answer.points == 5);
    CHECK(answer.outside == 1);
    CHECK(mentions(answer.findings, "FC-WHERE"));
    CHECK(answer.findings.front().line == 6);
    const auto out = readTable(readBytes(folder / "r.csv"), "r.csv");
    CHECK(out.columns
          == std::vector<std::string>{"remark", "Level", "N", "E", "unit", "depth", "conductivity", "vertical_conductivity"});
    REQUIRE(out.rows.size() == 6);
    CHECK(out.rows[0].cells[0] == "a;b");
    const std::vector<std::string> units{"S", "C", "", "", "", "R"};
    for (std::size_t r = 0; r < 6; ++r) CHECK(out.cell(r, 4) == units[r]);
    CHECK(out.number(0, 5) == Approx(0.5));
    CHECK(out.number(2, 5) == Approx(-1));
    CHECK_FALSE(out.number(3, 5));
    CHECK(out.number(1, 6) == Approx(1e-8));
    CHECK_FALSE(out.number(5, 7));
}

TEST_CASE("Points without a header stay without one", "[where]") {
    const TemporaryFolder folder;
    folder.write("q.xyz", "1050 2050 9.5\n1050 2050 1\n1050 2050 50\n");
    CHECK(answered(folder / "q.xyz", folder / "r.xyz").points == 3);
    CHECK(readBytes(folder / "r.xyz")
          == "1050 2050 9.5 S 0.5 0.0001 1e-05\n1050 2050 1 G 9 0.001 0.0001\n1050 2050 50 - -40 nan nan\n");
    folder.write("words.csv", "name,colour\na,b\n");
    WhereAnswer answer;
    CHECK_THROWS_AS(prepareWhere(flatProducts(), folder / "words.csv", folder / "r.csv", answer), FileError);
    CHECK_THROWS_AS(prepareWhere(flatProducts(), folder / "q.xyz", folder / "r.csv", answer), UsageError);
    CHECK_THROWS_AS(prepareWhere(flatProducts(), folder / "q.shp", folder / "r.shp", answer), UsageError);
}

TEST_CASE("Cells of VTK files are answered in every form that these have", "[where]") {
    const TemporaryFolder folder;
    for (const auto form : {Form::Ascii, Form::Binary, Form::Zipped, Form::AppendedRaw, Form::AppendedBase64}) {
        CAPTURE(int(form));
        folder.write("q.vtu", twoBoxes(form));
        CHECK(answered(folder / "q.vtu", folder / "r.vtu").points == 2);
        const auto out = readBytes(folder / "r.vtu");
        CHECK(out.find("Name=\"unit\"") == out.rfind("Name=\"unit\"")); // in the place of the one that was there
        const auto at = out.find("Name=\"unit\"");
        CHECK(out.substr(out.find('>', at) + 1, 5) == "\n3\n0\n");
        const VtuFile again(out, "r.vtu"); // still readable
        CHECK(again.middles()[1].z == Approx(8));
    }
}

TEST_CASE("Values go into VTK files whose XML is written in another way", "[where]") {
    const std::vector<std::int32_t> units{4, 5};
    const auto both = [&](std::string text) {
        const auto out = VtuFile(std::move(text), "q.vtu").with({{"unit", units}});
        const VtuFile again(out, "r.vtu");
        CHECK(again.cells() == 2);
        CHECK(again.with({}).find("\n4\n5\n") != std::string::npos);
        CHECK(out.find("Name=\"unit\"") == out.rfind("Name=\"unit\""));
        return out;
    };
    both(replaced(twoBoxes(Form::Ascii), "</Piece>", "</Piece >"));
    both(replaced(twoBoxes(Form::Ascii), "</Piece>", "<!-- </CellData> --></Piece\n>"));
    both(replaced(twoBoxes(Form::Binary), "<CellData/>", "<CellData  />"));
    both(replaced(twoBoxes(Form::AppendedRaw), "Name=\"unit\"", "Name = 'unit'"));
    const auto after = both(replaced(twoBoxes(Form::AppendedRaw), "</AppendedData>", "</AppendedData  >"));
    CHECK(after.find("</AppendedData  >") != after.npos);
}

TEST_CASE("VTK files that are broken are refused with a sentence", "[where]") {
    const auto whole = twoBoxes(Form::AppendedRaw);
    for (std::size_t cut = 0; cut < whole.size(); cut += 37) CHECK_THROWS_AS(VtuFile(whole.substr(0, cut), "cut.vtu"), FileError);
    CHECK_THROWS_AS(VtuFile(replaced(whole, "LittleEndian", "BigEndian"), "x"), FileError);
    CHECK_THROWS_AS(VtuFile(replaced(whole, "UnstructuredGrid", "PolyData"), "x"), FileError);
    CHECK_THROWS_AS(VtuFile(replaced(whole, "Int64", "Int37"), "x"), FileError);
    CHECK_THROWS_AS(VtuFile(replaced(twoBoxes(Form::Ascii), "8 16", "8 99"), "x"), FileError);
    CHECK_THROWS_AS(VtuFile(replaced(twoBoxes(Form::Ascii), "0 1 2", "0 1 -2"), "x"), FileError);
}

TEST_CASE("Layers and meshes of our own come back with the unit that they have", "[where]") {
    const TemporaryFolder folder;
    const LayerFileWords words{"Flat", "", {"S", "C", "G", "R"}, "", ""};
    const auto layers = layersOf(flatSite(), flatSpec());
    writeLayerFiles(*layers->grid, words, folder / "layers");
    CHECK(answered(folder / "layers/grid.vtu", folder / "r.vtu").points == 800);
    MeshSpec spec;
    spec.name = "m", spec.outline.ring = {{1010, 2010}, {1190, 2010}, {1190, 2090}}, spec.edge = 20,
    spec.origin = Point2{1000, 2000};
    spec.layers = flatSpec().layers;
    auto site = flatSite();
    site.meshes = part(std::vector{spec});
    const auto mesh = Products().of(site, {}, {ProductKind::Meshes})->meshes.front()->mesh;
    REQUIRE(mesh);
    prepareMeshFiles(*mesh, spec.origin, words, folder / "mesh").commit();
    CHECK(answered(folder / "mesh/mesh.nc", folder / "far.nc").outside == mesh->elements()); // without the origin it is elsewhere
    const auto answer = answered(folder / "mesh/mesh.nc", folder / "r.nc", {1000, 2000});
    CHECK(answer.points == mesh->elements());
    CHECK(answer.outside == 0);
    const auto before = readNetcdf(folder / "mesh/mesh.nc"), after = readNetcdf(folder / "r.nc");
    CHECK(after.at("unit").values == before.at("unit").values); // units of the elements, by other ways
    CHECK(after.at("conductivity").values.front() == 1e-4);
    CHECK(after.at("level").values == before.at("level").values);
    CHECK(after.at("depth").values.front() == Approx(2));
}
