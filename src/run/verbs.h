#pragma once
#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace fox::run {

/// The words of a call, as they stand on the command line.
struct Options {
    bool json = false, strict = false, carryOn = false, patterns = false;
    int threads = 0;
    std::filesystem::path file, out, dir, points, breaklines, contours, at, variance, outline, island, upperBounds, lowerBounds,
        tin, limit, upper, lower;
    std::string x, y, z, method, frame, variogram, anisotropy, columns, levelField, line, what, as, to;
    std::vector<std::string> places;
    double cell = 0, power = 2, step = 0;
    int neighbours = 0;
    std::optional<double> radius, reach, level, depth, above, below;
    std::filesystem::path aboveGrid, table;
    int realisations = 0;
    double holesWithin = 25, exaggeration = 5;
    std::string aim, origin;
    std::string sheetTemplate;
    std::vector<std::string> items;
    bool all = false, list = false, report = false;
    double dotsPerInch = 150;
    std::filesystem::path spec, checked;
    std::filesystem::path other; ///< of compare, the later project
    std::vector<std::string> chapters;
    int simulations = 0;
};

void inspect(const Options&);
void check(const Options&);
void rewrite(const Options&);
void build(const Options&);
void column(const Options&);
void section(const Options&);
void audit(const Options&);
void volumes(const Options&);
void drill(const Options&);
void surface(const Options&);
void terrain(const Options&);
void volume(const Options&);
void exportProject(const Options&);
void sheet(const Options&);
void layers(const Options&);
void mesh(const Options&);
void where(const Options&);
void blocks(const Options&);
void excavateVerb(const Options&);
void report(const Options&);
void compare(const Options&);
std::string exportWords(); ///< what can be exported as which kinds of file

} // namespace fox::run
