#pragma once
#include <cstdint>
#include <filesystem>
#include <map>
#include <span>
#include <string>
#include <variant>
#include <vector>

namespace fox {

using NetcdfAttributes = std::vector<std::pair<std::string, std::variant<std::string, double, std::int32_t>>>;

/// One variable to be written: floating or whole numbers, the last dimension running fastest.
struct NetcdfVariable {
    std::string name;
    std::vector<std::string> dimensions;
    std::variant<std::span<const double>, std::span<const std::int32_t>> values; ///< must live until the file is written
    NetcdfAttributes attributes = {};
};

/// Writes the classic format with 64-bit offsets, which every reader of NetCDF knows. kNoValue is written as it is, with
/// _FillValue saying so. @throws FileError
void writeNetcdf(const std::filesystem::path&, const std::vector<std::pair<std::string, std::size_t>>& dimensions,
                 const std::vector<NetcdfVariable>&, const NetcdfAttributes& global);

/// A variable as it was read; fill values and what is beyond a variable's valid range are kNoValue.
struct NetcdfNumbers {
    std::vector<std::string> dimensions;
    std::vector<std::size_t> lengths;              ///< of the dimensions
    std::vector<double> values;                    ///< scaled and offset if the file says so
    std::map<std::string, std::string> attributes; ///< of text
};
/// All variables of numbers in a file, classic or NetCDF-4, by name. @throws FileError
std::map<std::string, NetcdfNumbers> readNetcdf(const std::filesystem::path&);

/// Copies a file and adds variables of numbers along dimensions that it has; of those that it has already, with the same
/// dimensions and kind, the numbers are replaced. @throws FileError
void copyNetcdfWith(const std::filesystem::path& from, const std::filesystem::path& to, const std::vector<NetcdfVariable>&);

} // namespace fox
