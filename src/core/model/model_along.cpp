#include "model/model_along.h"

namespace fox {

std::vector<ModelInterval> modelAlong(const Model& model, const HolePath& path, double depth) {
    std::vector<ModelInterval> out;
    if (path.vertical()) {
        const auto head = path.at({});
        const auto column = model.columnAt(head.plan());
        if (std::isnan(column.ground)) return out;
        double top = std::max(0.0, head.z - column.ground); // a hole may begin above the model's ground: nothing is there
        for (std::size_t u = 0; u <= column.bases.size() && top < depth; ++u) {
            const double level = u < column.bases.size() ? column.bases[u] : head.z - depth;
            if (std::isnan(level)) break;
            const double base = std::min(depth, head.z - level);
            if (base > top) out.push_back({top, base, u}), top = base;
        }
        return out;
    }
    constexpr double kStep = 0.25; // metres
    std::vector<Point2> places;
    std::vector<Point3> along;
    for (double d = kStep / 2; d < depth; d += kStep) along.push_back(path.at(Depth{d})), places.push_back(along.back().plan());
    const auto columns = model.columnsAt(places);
    for (std::size_t i = 0; i < along.size(); ++i) {
        const auto unit = columns[i].unitAt(along[i].z);
        if (!unit) continue;
        const double top = double(i) * kStep;
        if (!out.empty() && out.back().unit == *unit && std::abs(out.back().base - top) < 1e-9)
            out.back().base = top + kStep;
        else
            out.push_back({top, top + kStep, *unit});
    }
    return out;
}

} // namespace fox
