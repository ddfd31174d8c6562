// NetCDF: what is written is read back, also what other programs write.
#include "fixtures.h"
#include "formats/netcdf_file.h"

#include <catch2/catch.hpp>
#include <netcdf.h>

using namespace fox;
using namespace fox::test;

namespace {

bool same(double a, double b) { return a == b || (std::isnan(a) && std::isnan(b)); }

/// A file as another program may write it: NetCDF-4, packed shorts, a fill value, words, a variable without dimensions.
void writeForeign(const std::filesystem::path& path) {
    int file = 0, x = 0, packed = 0, words = 0, lone = 0;
    REQUIRE(nc_create(path.c_str(), NC_NETCDF4 | NC_CLOBBER, &file) == NC_NOERR);
    nc_def_dim(file, "x", 3, &x);
    nc_def_var(file, "packed", NC_SHORT, 1, &x, &packed);
    nc_def_var(file, "words", NC_CHAR, 1, &x, &words);
    nc_def_var(file, "lone", NC_INT, 0, nullptr, &lone);
    const short fill = -999, values[] = {10, -999, 20};
    const double scale = 0.5, offset = 100;
    nc_put_att_short(file, packed, "_FillValue", NC_SHORT, 1, &fill);
    nc_put_att_double(file, packed, "scale_factor", NC_DOUBLE, 1, &scale);
    nc_put_att_double(file, packed, "add_offset", NC_DOUBLE, 1, &offset);
    nc_put_att_text(file, packed, "units", 1, "m");
    nc_enddef(file);
    nc_put_var_short(file, packed, values);
    nc_put_var_text(file, words, "abc");
    const int seven = 7;
    nc_put_var_int(file, lone, &seven);
    REQUIRE(nc_close(file) == NC_NOERR);
}

} // namespace

TEST_CASE("What is written to NetCDF is read back: numbers, dimensions, attributes, missing values", "[netcdf]") {
    const TemporaryFolder folder;
    const std::vector<double> numbers{1.5, kNoValue, -1e-300, 4, 1e300, 6};
    const std::vector<std::int32_t> whole{-1, 2'000'000'000}, one{5};
    writeNetcdf(
        folder / "a.nc", {{"row", 2}, {"column", 3}},
        {{"numbers", {"row", "column"}, numbers, {{"units", std::string("m")}, {"factor", 2.5}, {"count", std::int32_t(3)}}},
         {"whole", {"row"}, whole},
         {"lone", {}, one}},
        {{"Conventions", std::string("CF-1.10")}});
    const auto read = readNetcdf(folder / "a.nc");
    REQUIRE(read.size() == 3);
    const auto& n = read.at("numbers");
    CHECK(n.dimensions == std::vector<std::string>{"row", "column"});
    CHECK(n.lengths == std::vector<std::size_t>{2, 3});
    CHECK(std::ranges::equal(n.values, numbers, same));
    CHECK(n.attributes.at("units") == "m");
    CHECK(read.at("whole").values == std::vector<double>{-1, 2e9});
    CHECK(read.at("lone").values == std::vector<double>{5});
    CHECK(read.at("lone").dimensions.empty());
    // every reader of the classic format knows it
    CHECK(readBytes(folder / "a.nc").substr(0, 4) == std::string("CDF\x02"));
}

TEST_CASE("Files of other programs: packed numbers, fill values, NetCDF-4; words are passed over", "[netcdf]") {
    const TemporaryFolder folder;
    writeForeign(folder / "f.nc");
    const auto read = readNetcdf(folder / "f.nc");
    CHECK(read.size() == 2);
    CHECK(std::ranges::equal(read.at("packed").values, std::vector<double>{105, kNoValue, 110}, same));
    CHECK(read.at("lone").values == std::vector<double>{7});
}

TEST_CASE("A copy gets further variables, or new numbers for those of the same shape", "[netcdf]") {
    const TemporaryFolder folder;
    const std::vector<double> numbers{1, 2};
    const std::vector<std::int32_t> units{3, 4}, others{5, 6};
    writeNetcdf(folder / "a.nc", {{"cell", 2}, {"layer", 1}}, {{"numbers", {"cell"}, numbers}}, {});
    copyNetcdfWith(folder / "a.nc", folder / "b.nc", {{"unit", {"cell"}, units}});
    CHECK(readNetcdf(folder / "b.nc").at("unit").values == std::vector<double>{3, 4});
    CHECK(readNetcdf(folder / "b.nc").at("numbers").values == numbers);
    copyNetcdfWith(folder / "b.nc", folder / "c.nc", {{"unit", {"cell"}, others}});
    CHECK(readNetcdf(folder / "c.nc").at("unit").values == std::vector<double>{5, 6});
    CHECK_THROWS_AS(copyNetcdfWith(folder / "b.nc", folder / "d.nc", {{"numbers", {"cell"}, units}}),
                    FileError); // of another kind
    CHECK_THROWS_AS(copyNetcdfWith(folder / "b.nc", folder / "d.nc", {{"new", {"nowhere"}, units}}), FileError);
    CHECK_THROWS_AS(copyNetcdfWith(folder / "none.nc", folder / "d.nc", {}), FileError);
}

TEST_CASE("Broken NetCDF files are refused, and the sentence names them", "[netcdf]") {
    const TemporaryFolder folder;
    CHECK_THROWS_WITH(readNetcdf(folder / "none.nc"), Catch::Contains("none.nc"));
    const std::vector<double> numbers{1, 2, 3};
    writeNetcdf(folder / "a.nc", {{"cell", 3}}, {{"numbers", {"cell"}, numbers}}, {});
    const auto whole = readBytes(folder / "a.nc");
    for (std::size_t cut = 0; cut < whole.size(); cut += 9) {
        folder.write("cut.nc", whole.substr(0, cut));
        CHECK_THROWS_AS(readNetcdf(folder / "cut.nc"), FileError);
    }
    CHECK_THROWS_AS(writeNetcdf(folder / "nowhere/a.nc", {}, {}, {}), FileError);
}
