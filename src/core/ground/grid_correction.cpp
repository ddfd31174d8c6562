#include "ground/grid_correction.h"

namespace fox {

// Shepard's inverse-distance weights of power 2 (Shepard 1968), cut off smoothly at kFar times the reach so that only levels
// nearby are looked at, with the mean of all differences as one more value at the distance `reach`. The reach is the one of a
// few multiples of the cell with the smallest leave-one-out error; each costs one look at the neighbours of every level.

namespace {
constexpr double kFar = 8;        // times the reach: there a level weighs 1/64 of the mean
constexpr double kAtPlace = 1e-3; // metres; closer than this is the place itself
constexpr std::size_t kNone = std::size_t(-1);
} // namespace

GridCorrection::GridCorrection(std::vector<Point3> differences, double cell) : m_differences(std::move(differences)) {
    if (m_differences.empty()) return;
    std::vector<Point2> places;
    for (const auto& d : m_differences) m_mean += d.z / double(m_differences.size()), places.push_back(d.plan());
    for (auto& d : m_differences) d.z -= m_mean;
    m_places = PointGrid(places);
    double least = std::numeric_limits<double>::infinity();
    for (const double cells : {0.5, 1.0, 2.0, 4.0, 8.0, 16.0, 32.0}) {
        const double reach = cells * cell;
        double sum = 0;
        for (std::size_t i = 0; i < m_differences.size(); ++i) {
            const double missed = m_differences[i].z - at(m_differences[i].plan(), reach, i);
            sum += missed * missed;
        }
        if (sum < least * (1 - 1e-9)) least = sum, m_reach = reach;
    }
}

double GridCorrection::at(Point2 p) const { return empty() ? 0 : m_mean + at(p, m_reach, kNone); }

double GridCorrection::at(Point2 p, double reach, std::size_t without) const {
    const double far = kFar * reach, cut = 1 / (far * far);
    double weights = 1 / (reach * reach), sum = 0; // the mean, whose difference from itself is 0
    std::optional<double> exact;
    Box2 near;
    near.include({p.x - far, p.y - far});
    near.include({p.x + far, p.y + far});
    m_places.visit(near, std::numeric_limits<std::size_t>::max(), 0, [&](std::size_t i) {
        if (i == without) return;
        const double d = distance(p, m_differences[i].plan());
        if (d < kAtPlace) exact = m_differences[i].z;
        if (d < kAtPlace || d >= far) return;
        const double w = 1 / (d * d) - cut;
        weights += w, sum += w * m_differences[i].z;
    });
    return exact ? *exact : sum / weights;
}

} // namespace fox
