#pragma once
// Small things that tests are made of.
#include "base/files.h"
#include "base/text.h"
#include "handover/build_file.h"
#include "importing/import.h"
#include "project/hole_edits.h"
#include "truth.h"

#include <filesystem>
#include <random>

namespace fox::test {

/// "0 0 1, 10 0 1": points as text.
inline std::vector<Point3> points(std::string_view text) {
    std::vector<Point3> out;
    for (const auto item : split(text, ',')) {
        std::vector<double> n;
        for (const auto word : split(trimmed(item), ' '))
            if (!word.empty()) n.push_back(*parseNumber(word));
        out.push_back({n.at(0), n.at(1), n.size() > 2 ? n[2] : 0});
    }
    return out;
}

inline std::vector<Point3> randomPoints(unsigned seed, int n, double size = 100) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> at(0, size);
    std::vector<Point3> out;
    for (int i = 0; i < n; ++i) {
        const double x = at(random), y = at(random);
        out.push_back({x, y, at(random)});
    }
    return out;
}

inline Polygon2 square(double x, double y, double size) { return {{x, y}, {x + size, y}, {x + size, y + size}, {x, y + size}}; }

/// The ground through points alone.
inline Terrain terrainOf(std::vector<Point3> cloud) {
    TerrainInput input;
    input.points = std::move(cloud);
    return makeTerrain(input);
}

/// A folder that is gone with the test.
class TemporaryFolder {
public:
    TemporaryFolder() : m_path(std::filesystem::temp_directory_path() / ("fox-test-" + std::to_string(std::random_device{}()))) {
        std::filesystem::create_directories(m_path);
    }
    ~TemporaryFolder() {
        std::error_code ignored;
        std::filesystem::remove_all(m_path, ignored);
    }
    TemporaryFolder(const TemporaryFolder&) = delete;
    std::filesystem::path operator/(const char* name) const { return m_path / name; }
    std::filesystem::path write(const char* name, std::string_view bytes) const {
        writeBytes(m_path / name, bytes);
        return m_path / name;
    }
    const std::filesystem::path& path() const { return m_path; }

private:
    std::filesystem::path m_path;
};

inline Hole hole(const std::string& id, double x, double y, double level,
                 std::initializer_list<std::pair<double, const char*>> basesAndCodes) {
    Hole h;
    h.project += 'P'; // as a letter: GCC 12 warns of its own std::string where the literal is inlined
    h.id = id, h.easting = x, h.northing = y, h.level = Level{level};
    double top = 0;
    for (const auto& [base, code] : basesAndCodes) {
        h.intervals.push_back({Depth{top}, Depth{base}, "", {{"GEOL_GEOL", code}}, 0});
        top = base;
    }
    h.finalDepth = Depth{top};
    return h;
}

inline Sequence sequence(std::initializer_list<const char*> codes) {
    Sequence s;
    s.unitHeading = "GEOL_GEOL";
    for (const char* c : codes) {
        Unit u;
        u.code = u.name = c;
        s.units.push_back(u);
    }
    return s;
}

/// Ground from survey points without names and codes.
inline GroundSources groundOf(std::string_view text) {
    GroundSources ground;
    ground.points.emplace_back();
    ground.points.back().file = std::string("corners");
    std::vector<SurveyPoint> survey;
    for (const auto& p : points(text)) survey.push_back({"", p, ""});
    ground.points.back().points = std::move(survey);
    return ground;
}

inline const Built& demo() {
    static const Built kBuilt = buildProject(FOX_DEMO "/quernbeck.build.json");
    return kBuilt;
}
inline std::shared_ptr<const ProductSet> demoProducts() {
    static const auto kSet = Products().of(demo().project);
    return kSet;
}

/// A file, or bytes under a name, as the import understands them.
inline ImportPreview understood(const std::filesystem::path& path, SourceSettings settings = {},
                                const std::string& siteCrs = {}) {
    return readSource({path.filename().string(), "", readBytes(path), 0, {}, std::move(settings), path.string()}, siteCrs);
}
inline ImportPreview understoodText(const std::string& name, std::string text, SourceSettings settings = {}) {
    return readSource({name, "", std::move(text), 0, {}, std::move(settings), ""}, "");
}

inline bool mentions(const Findings& findings, std::string_view rule, std::string_view words = {}) {
    return std::ranges::any_of(findings,
                               [&](const Finding& f) { return f.rule == rule && f.message.find(words) != std::string::npos; });
}

} // namespace fox::test
