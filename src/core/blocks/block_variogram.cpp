#include "blocks/block_variogram.h"

#include <numbers>

// Pairs are taken in two directions, for readings along holes lie close over one another and far apart in plan: level pairs
// within a cone of 22.5 degrees about the horizontal that is cut off at half a vertical lag, upright ones within such a cone
// about the vertical, cut off at half a horizontal lag. One model with a range for each direction is fitted to both.
namespace fox {

namespace {

constexpr std::size_t kMostPoints = 2000; // pairs grow with the square
constexpr int kLagCount = 15;
const double kCone = std::tan(std::numbers::pi / 8);

struct Place {
    Point3 at;
    double value;
    std::optional<std::size_t> unit;
    std::string_view hole;
};

/// Gathers pairs into lags of one width.
class LagSums {
public:
    explicit LagSums(double farthest) : m_width(farthest / kLagCount), m_lags(kLagCount) {}
    double width() const { return m_width; }
    void add(double distance, double difference) {
        constexpr double kRounding = 1e-9; // the farthest belongs to the last lag
        const auto lag = std::size_t(distance / m_width * (1 - kRounding));
        if (lag >= m_lags.size()) return;
        ++m_lags[lag].pairs;
        m_lags[lag].distance += distance, m_lags[lag].gamma += difference * difference / 2;
    }
    std::vector<VariogramLag> means() const {
        auto out = m_lags;
        std::erase_if(out, [](const VariogramLag& l) { return l.pairs == 0; });
        for (auto& l : out) l.distance /= l.pairs, l.gamma /= l.pairs;
        return out;
    }

private:
    double m_width;
    std::vector<VariogramLag> m_lags;
};

std::vector<Place> placesOf(const BlockSpec& spec, std::span<const Composite> composites) {
    std::vector<Place> out;
    for (const auto& c : composites)
        out.push_back({c.place, spec.logarithmic ? std::log(c.value) : c.value, spec.within ? c.unit : std::nullopt, c.hole});
    return out;
}

std::vector<Place> thinned(const std::vector<Place>& all) {
    std::vector<Place> out;
    const std::size_t n = std::min(all.size(), kMostPoints);
    for (std::size_t i = 0; i < n; ++i) out.push_back(all[i * all.size() / n]);
    return out;
}

/// Places that may lie over one another: of a hole, or of a small square for points.
std::vector<std::vector<Place>> uprightGroups(const std::vector<Place>& all, double square) {
    std::map<std::tuple<std::string_view, long, long>, std::vector<Place>> groups;
    for (const auto& p : all)
        groups[p.hole.empty() ? std::tuple(p.hole, std::lround(p.at.x / square), std::lround(p.at.y / square))
                              : std::tuple(p.hole, 0L, 0L)]
            .push_back(p);
    std::vector<std::vector<Place>> out;
    for (auto& [key, places] : groups) out.push_back(thinned(places));
    return out;
}

double varianceOf(const std::vector<Place>& places) {
    double mean = 0, out = 0;
    for (const auto& p : places) mean += p.value / double(places.size());
    for (const auto& p : places) out += (p.value - mean) * (p.value - mean) / double(places.size());
    return out;
}

struct Extents {
    double plan = 0, levels = 0; ///< metres: the diagonal of the box, the largest difference of levels
};

Extents extentsOf(const std::vector<Place>& places) {
    Box2 box;
    double low = kNoValue, high = kNoValue;
    for (const auto& p : places) box.include(p.at.plan()), low = std::fmin(low, p.at.z), high = std::fmax(high, p.at.z);
    return {std::hypot(box.width(), box.height()), places.empty() ? 0 : high - low};
}

} // namespace

BlockLags blockLags(const BlockSpec& spec, std::span<const Composite> composites) {
    const auto all = placesOf(spec, composites);
    const auto extents = extentsOf(all);
    LagSums horizontal(extents.plan / 2), vertical(extents.levels); // upwards there are few pairs in each hole, but many holes
    const double levelBand = std::max(vertical.width() / 2, spec.composite / 2), planBand = horizontal.width() / 2;
    BlockLags out;
    if (horizontal.width() > 0) {
        const auto some = thinned(all);
        for (std::size_t i = 0; i < some.size(); ++i)
            for (std::size_t j = 0; j < i; ++j) {
                const auto &a = some[i], &b = some[j];
                const double plan = distance(a.at.plan(), b.at.plan()), level = std::abs(a.at.z - b.at.z);
                if (plan > 0 && level <= levelBand && level <= kCone * plan && a.unit == b.unit)
                    horizontal.add(plan, a.value - b.value);
            }
        out.horizontal = horizontal.means();
    }
    if (!(vertical.width() > 0)) return out;
    for (const auto& group : uprightGroups(all, planBand > 0 ? planBand : 1))
        for (std::size_t i = 0; i < group.size(); ++i)
            for (std::size_t j = 0; j < i; ++j) {
                const auto &a = group[i], &b = group[j];
                const double plan = distance(a.at.plan(), b.at.plan()), level = std::abs(a.at.z - b.at.z);
                if (level > 0 && plan <= kCone * level && (planBand <= 0 || plan <= planBand) && a.unit == b.unit)
                    vertical.add(level, a.value - b.value);
            }
    out.vertical = vertical.means();
    return out;
}

BlockVariogram fitBlockVariogram(const BlockSpec& spec, std::span<const Composite> composites) {
    const auto lags = blockLags(spec, composites);
    if (spec.verticalFitted)
        if (const auto both = variogramOfDirections(lags.horizontal, lags.vertical, NuggetFit::Free); both && both->ratio >= 1)
            return {both->variogram, both->ratio};
    constexpr double kMostGuessed = 20;
    const double vertical = spec.verticalFitted ? std::clamp(spec.dx / spec.dz, 1.0, kMostGuessed) : spec.vertical;
    auto merged = lags.horizontal;
    for (auto l : lags.vertical) {
        l.distance *= vertical;
        merged.push_back(l);
    }
    std::ranges::sort(merged, {}, &VariogramLag::distance);
    const auto places = placesOf(spec, composites);
    const double variance = varianceOf(places);
    const auto extents = extentsOf(places);
    const Variogram otherwise{VariogramModel::Spherical, 0, variance > 0 ? variance : 1,
                              std::max(1.0, std::max(extents.plan, extents.levels * vertical) / 2)};
    return {variogramOfLags(merged, NuggetFit::Free, otherwise), vertical};
}

BlockSpec withFitted(BlockSpec spec, std::span<const Composite> composites) {
    const bool needsVariogram = spec.method == BlockSpec::Method::Kriging && !spec.variogram;
    if (!needsVariogram && !spec.verticalFitted) return spec;
    const auto fitted = fitBlockVariogram(spec, composites);
    spec.vertical = fitted.vertical, spec.verticalFitted = false;
    if (needsVariogram) spec.variogram = fitted.variogram;
    return spec;
}

} // namespace fox
