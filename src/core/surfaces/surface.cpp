#include "surfaces/surface.h"

#include "base/parallel.h"
#include "base/text.h"

namespace fox {

namespace {

struct MethodNames {
    Method method;
    const char* name;
    const char* words;
};
constexpr MethodNames kMethods[] = {{Method::Nearest, "nearest", "Nearest"},
                                    {Method::Linear, "linear", "Linear on triangles"},
                                    {Method::InverseDistance, "inverse-distance", "Inverse distance"},
                                    {Method::NaturalNeighbour, "natural-neighbour", "Natural neighbour"},
                                    {Method::ThinPlate, "thin-plate", "Thin plate"},
                                    {Method::Kriging, "kriging", "Ordinary kriging"},
                                    {Method::UniversalKriging, "universal-kriging", "Universal kriging"}};

} // namespace

std::span<const Method> allMethods() {
    static constexpr auto kAll = [] {
        std::array<Method, std::size(kMethods)> all{};
        for (std::size_t i = 0; i < all.size(); ++i) all[i] = kMethods[i].method;
        return all;
    }();
    return kAll;
}

bool hasVariogram(Method method) { return method == Method::Kriging || method == Method::UniversalKriging; }

const char* name(Method method) { return kMethods[std::size_t(method)].name; }
const char* words(Method method) { return kMethods[std::size_t(method)].words; }

std::optional<Method> methodNamed(std::string_view wanted) {
    for (const auto& m : kMethods)
        if (equalNoCase(m.name, wanted)) return m.method;
    return {};
}

std::string methodNames() {
    std::string all;
    for (const auto& m : kMethods) all += (all.empty() ? "" : ", ") + std::string(m.name);
    return all;
}

double Surface::at(Point2 p) const {
    double value = kNoValue;
    evaluate(std::span(&p, 1), std::span(&value, 1), {});
    return value;
}

Grid sample(const Surface& surface, const Frame& frame, Grid* variance, const Progress& progress) {
    Grid grid(frame);
    if (variance) *variance = Grid(frame);
    const int columns = frame.columns();
    parallelFor(
        grid.values.size(), 2048,
        [&](std::size_t begin, std::size_t end) {
            std::vector<Point2> places(end - begin);
            for (auto i = begin; i < end; ++i)
                places[i - begin] = frame.centre(int(i % std::size_t(columns)), int(i / std::size_t(columns)));
            const auto part = [&](std::vector<double>& v) { return std::span(v).subspan(begin, end - begin); };
            surface.evaluate(places, part(grid.values), variance ? part(variance->values) : std::span<double>());
        },
        progress);
    return grid;
}

} // namespace fox
