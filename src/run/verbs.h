#pragma once
#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace fox::run {

/// The words of a call, as they stand on the command line.
struct Words {
    bool json = false, carryOn = false;
    int threads = 0;
    std::filesystem::path file, out, dir, points, breaklines, contours, at, variance, outline, island, upperBounds, lowerBounds,
        tin, limit, upper, lower;
    std::string x, y, z, method, frame, variogram, anisotropy, columns, levelField, line, what, as, to;
    std::vector<std::string> places;
    double cell = 0, power = 2, step = 0;
    int neighbours = 0;
    std::optional<double> radius, reach, level, depth, above;
    std::filesystem::path aboveGrid;
    int realisations = 0;
    double holesWithin = 25, exaggeration = 5;
};

void inspect(const Words&);
void check(const Words&);
void rewrite(const Words&);
void build(const Words&);
void column(const Words&);
void section(const Words&);
void audit(const Words&);
void volumes(const Words&);
void surface(const Words&);
void terrain(const Words&);
void volume(const Words&);
void exportProject(const Words&);
std::string exportWords(); ///< what can be exported as which kinds of file

} // namespace fox::run
