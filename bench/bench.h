#pragma once
// What the benchmarks have in common.
#include "base/point.h"

#include <chrono>
#include <cmath>
#include <fmt/format.h>
#include <functional>
#include <random>
#include <sys/resource.h>
#include <vector>

namespace fox::bench {

/// Seconds of the fastest of several runs: the least disturbed one.
inline double seconds(int runs, const std::function<void()>& work) {
    double best = 1e300;
    for (int i = 0; i < runs; ++i) {
        const auto start = std::chrono::steady_clock::now();
        work();
        best = std::min(best, std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count());
    }
    return best;
}

inline double peakMegabytes() {
    rusage usage{};
    getrusage(RUSAGE_SELF, &usage);
    return double(usage.ru_maxrss) / 1024;
}

inline void report(const char* what, double ours, double other, const char* against, double limit) {
    fmt::print("{:<44} {:9.4f} s  {:<38} {:9.4f} s  ratio {:7.3f}  (at most {})  {}\n", what, ours, against, other, ours / other,
               limit, ours / other <= limit ? "ok" : "MISSED");
    std::fflush(stdout);
}

inline std::vector<Point3> surveyLike(std::size_t n) {
    std::mt19937_64 random(1);
    std::uniform_real_distribution<double> at(0, 10000), noise(-0.05, 0.05);
    std::vector<Point3> out;
    for (std::size_t i = 0; i < n; ++i) {
        const double x = at(random), y = at(random);
        out.push_back({x, y, 50 + 10 * std::sin(x / 700) * std::cos(y / 900) + noise(random)});
    }
    return out;
}

// truth.cpp
void truth();
// edits.cpp
void edits();
// soundings.cpp
void soundings();
// sheets.cpp
void sheets();
// layers.cpp
void layers();
// blocks.cpp
void blocks();
// model.cpp
void model();
// surfaces.cpp
void kriging();
void inverseDistance();
void bounds();
void neighbours();

} // namespace fox::bench
