#include "products/terrain_product.h"

#include "project/ground_edits.h"

namespace fox {

namespace {

/// A place and level that a hole gives to the ground.
struct HoleLevel {
    std::string name;
    Point3 place;
    std::string file;
    int line = 0;
    bool operator==(const HoleLevel&) const = default;
};

std::vector<HoleLevel> holeLevels(const Holes& holes) {
    std::vector<HoleLevel> out;
    const auto names = displayNames(holes);
    for (std::size_t i = 0; i < holes.size(); ++i)
        if (const auto& h = holes[i]; h.place() && h.level && !h.excluded)
            out.push_back({names[i], {h.place()->x, h.place()->y, h.level->metres}, h.file, h.line});
    return out;
}

/// What the ground says of itself names its file where there is only one.
void nameTheFile(Findings& findings, const GroundSources& ground) {
    if (ground.points.size() + ground.lines.size() != 1) return;
    for (auto& f : findings)
        if (f.file.empty()) f.file = ground.points.empty() ? ground.lines.front().file : ground.points.front().file;
}

/// The ground without the holes, and what their levels do to it.
class TerrainOfHoles {
public:
    TerrainOfHoles(const GroundSources& ground, const Polygon2& limit, const Progress& progress)
        : m_ground(ground), m_progress(progress), m_input(terrainInputOf(ground, limit, m_out.findings)) {}

    TerrainProduct make(const std::vector<HoleLevel>& levels) {
        auto terrain = makeTerrain(m_input, m_progress);
        m_rasters = RasterGround(m_input.rasters, Tin(), 0);
        measureGrid(levels, terrain);
        bool used = false;
        for (const auto& h : levels) used |= take(h, terrain);
        if (used) terrain = makeTerrain(m_input, m_progress);
        nameTheFile(terrain.findings, m_ground);
        m_out.terrain = std::make_shared<const Terrain>(std::move(terrain));
        return std::move(m_out);
    }

private:
    /// By how much holes outside the triangles usually lie off the grid: a coarse grid is off nearly everywhere.
    void measureGrid(const std::vector<HoleLevel>& levels, const Terrain& terrain) {
        std::vector<double> off;
        for (const auto& h : levels)
            if (!terrain.tin.levelAt(h.place.plan()))
                if (const auto z = m_rasters.plainLevelAt(h.place.plan())) off.push_back(h.place.z - *z);
        m_usual = median(off);
        for (auto& v : off) v = std::abs(v - m_usual);
        constexpr double kTimes = 4 * 1.4826; // four standard deviations, by the median of absolute deviations
        m_most = std::max(2 * kLevelOff, kTimes * median(off));
    }

    /// Whether the hole's level becomes a part of the ground.
    bool take(const HoleLevel& h, const Terrain& terrain) {
        if (const auto surveyed = terrain.tin.levelAt(h.place.plan())) {
            if (std::abs(h.place.z - *surveyed) > kLevelOff) return say(h, h.place.z - *surveyed, *surveyed, "the terrain");
            if (m_ground.holeLevels) m_input.points.push_back(h.place);
        } else if (const auto z = m_rasters.plainLevelAt(h.place.plan())) {
            // there the grid is the ground: triangles between far holes would be a worse one
            if (std::abs(h.place.z - *z - m_usual) > m_most)
                return say(h, h.place.z - *z - m_usual, *z + m_usual, "the grid, as the other holes correct it");
            if (m_ground.holeLevels) m_input.rasterLevels.push_back(h.place);
        } else if (m_ground.holeLevels) {
            m_input.points.push_back(h.place);
        }
        return m_ground.holeLevels;
    }

    bool say(const HoleLevel& h, double off, double there, const char* what) {
        Finding f{Severity::Warning,
                  "FC-OFF-TERRAIN",
                  h.file,
                  h.line,
                  "LOCA",
                  "LOCA_GL",
                  h.name,
                  fmt::format("The ground level is {:.2f} m {} {}, which has {:.2f} m there; it is not used for the ground, and "
                              "its contacts are measured from it as given.",
                              std::abs(off), off > 0 ? "above" : "below", what, there)};
        f.remedy = Remedy{"Take the terrain's level", SetGroundLevel{h.name, toCentimetre(there)}};
        m_out.findings.push_back(std::move(f));
        return false;
    }

    static double median(std::vector<double> v) {
        if (v.empty()) return 0;
        const auto middle = v.begin() + std::ptrdiff_t(v.size() / 2);
        std::nth_element(v.begin(), middle, v.end());
        return *middle;
    }

    const GroundSources& m_ground;
    const Progress& m_progress;
    TerrainProduct m_out; // before the input: it takes what that finds
    TerrainInput m_input;
    RasterGround m_rasters;
    double m_usual = 0, m_most = 0;
};

std::size_t bytesOf(const TerrainProduct& product) {
    const auto& tin = product.terrain->tin;
    constexpr std::size_t kStarts = 2 * sizeof(int); // the buckets that a search starts from
    return sizeof(Terrain) + tin.vertices().size() * (sizeof(Point3) + kStarts) + tin.triangles().size() * sizeof(Tin::Triangle)
           + bytesOf(product.terrain->findings);
}

} // namespace

Level toCentimetre(double metres) { return Level{std::round(metres * 100) / 100}; }

std::shared_ptr<const TerrainProduct> terrainProduct(const Making& making) {
    return making.once("terrain", [&] {
        const auto& p = making.project;
        making.progress.report(0.05, "Triangulating the ground");
        const auto levels = making.cache.canonical("hole levels", holeLevels(*p.holes));
        const auto limit = making.cache.canonical("site limit", p.site->limit);
        return making.cache.get(
            "terrain", {p.ground, limit, levels},
            [&] { return TerrainOfHoles(*p.ground, *limit, making.progress).make(*levels); },
            [](const TerrainProduct& t) { return bytesOf(t); });
    });
}

} // namespace fox
