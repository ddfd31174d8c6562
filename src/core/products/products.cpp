#include "products/products.h"

#include "formats/ags_changes.h"
#include "ground/thin.h"
#include "holes/hole_checks.h"

#include <chrono>
#include <deque>
#include <fmt/format.h>
#include <set>

namespace fox {

namespace {

/// The last few results of one kind by the addresses that they were made from. Keys hold their parts alive,
/// so that an address can't come to mean something else.
template <typename T, std::size_t kKept = 6>
class ResultCache {
public:
    using Key = std::vector<std::shared_ptr<const void>>;

    template <typename Make>
    std::shared_ptr<const T> get(Key key, Make&& make) {
        for (const auto& [k, value] : m_entries)
            if (k == key) return value;
        auto value = std::make_shared<const T>(make());
        m_entries.emplace_front(std::move(key), value);
        if (m_entries.size() > kKept) m_entries.pop_back();
        return value;
    }

private:
    std::deque<std::pair<Key, std::shared_ptr<const T>>> m_entries;
};

/// A value by its content: what comes out equal to an earlier one is that one, so that nothing downstream is remade.
template <typename T>
class ValuePool {
public:
    std::shared_ptr<const T> get(T value) {
        for (const auto& known : m_known)
            if (*known == value) return known;
        m_known.push_front(std::make_shared<const T>(std::move(value)));
        if (m_known.size() > kKept) m_known.pop_back();
        return m_known.front();
    }

private:
    static constexpr std::size_t kKept = 64;
    std::deque<std::shared_ptr<const T>> m_known;
};

/// What of sequence and interpretation decides how holes are read.
struct ReadingKey {
    struct Named {
        std::string code, name;
        std::vector<std::string> logged;
        bool operator==(const Named&) const = default;
    };
    std::vector<Named> units;
    std::string heading;
    std::map<std::string, std::string> aliases;
    std::vector<IntervalChoice> intervals;
    std::set<std::string> picked;
    bool operator==(const ReadingKey&) const = default;

    static ReadingKey of(const Project& p) {
        ReadingKey key{{}, p.sequence->unitHeading, p.sequence->aliases, p.interpretation->intervals, {}};
        for (const auto& u : p.sequence->units) key.units.push_back({u.code, u.name, u.logged});
        for (const auto& pick : p.interpretation->picks) key.picked.insert(pick.hole);
        return key;
    }
};

/// What of a unit decides its base.
Unit baseKey(const Unit& u) {
    Unit key;
    key.code = u.code, key.name = u.name, key.recipe = u.recipe;
    key.recipe.grid.reset();
    return key;
}

struct TerrainResult {
    std::shared_ptr<const Terrain> terrain;
    Findings findings; ///< levels of holes that are off
};

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

/// Levels are given to holes as surveyors write them.
Level toCentimetre(double metres) { return Level{std::round(metres * 100) / 100}; }

/// The ground without the holes, and what their levels do to it.
class TerrainOfHoles {
public:
    TerrainOfHoles(const GroundSources& ground, const Polygon2& limit, const Progress& progress)
        : m_ground(ground), m_progress(progress), m_input(terrainInputOf(ground, limit, m_out.findings)) {}

    TerrainResult make(const std::vector<HoleLevel>& levels) {
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
    TerrainResult m_out; // before the input: it takes what that finds
    TerrainInput m_input;
    RasterGround m_rasters;
    double m_usual = 0, m_most = 0;
};

Findings sorted(Findings all) {
    std::ranges::stable_sort(all, std::greater<>(), &Finding::severity);
    return all;
}

} // namespace

struct Products::Memory {
    ValuePool<std::vector<HoleLevel>> levels;
    ValuePool<std::vector<Contact>> contacts;
    ValuePool<Unit> units;
    ValuePool<ReadingKey> readingKeys;
    ValuePool<std::vector<BaseInputs>> inputs;
    ValuePool<FixedBase> fixed;
    ValuePool<Frame> frames;
    ValuePool<Polygon2> limits;
    ValuePool<SectionLine> lines;
    ResultCache<Findings> holeFindings, findings;
    ResultCache<AgsFile, 100> agsFiles;
    ResultCache<TerrainResult> terrains;
    ResultCache<Grid> grounds;
    ResultCache<std::vector<ContourLine>> contours, drawnContours;
    ResultCache<std::vector<Outlier>> outliers;
    ResultCache<GroundStatistics> groundStatistics;
    std::map<std::string, ResultCache<Picture, 1>> pictures;
    ResultCache<InterpretedLogs> readings;
    std::map<std::string, ResultCache<BaseSurface>> bases;
    std::map<std::string, ResultCache<Grid>> rawGrids;
    int grids = 0; ///< raw grids made so far
    double secondsPerCell = 0;
    ResultCache<ModelGrid> modelGrids;
    ResultCache<Model> models;
    ResultCache<Volumes> volumes;
    ResultCache<Audit> audits;
    std::map<std::string, ResultCache<Section>> sections;
};

Products::Products() : m_memory(std::make_unique<Memory>()) {}
Products::~Products() = default;

namespace {

using MemoryKey = std::vector<std::shared_ptr<const void>>;

/// Makes one set, step by step, from memory or by work.
template <typename Memory>
class SetMaker {
public:
    SetMaker(Memory& memory, const Project& project, const Progress& progress) : m_memory(memory), m_progress(progress) {
        m_set.project = project;
    }

    std::shared_ptr<const ProductSet> make(Products::Want want) {
        const auto& p = m_set.project;
        m_set.frame = frameOf(p);
        m_set.holeFindings = m_memory.holeFindings.get({p.holes}, [&] { return checkHoles(*p.holes); });
        // what decides how holes are read, and no more: a new colour or guide leaves the reading as it is
        const auto keys = m_memory.readingKeys.get(ReadingKey::of(p));
        m_set.reading =
            m_memory.readings.get({p.holes, keys}, [&] { return readHoles(*p.holes, *p.sequence, *p.interpretation); });
        makeTerrain();
        makeModel();
        makeSections();
        if (want == Products::Want::Everything) {
            readFiles();
            findOutliers();
            makeGrids();
            makeAudit();
        }
        gatherFindings();
        m_progress.report(1, "Up to date");
        return std::make_shared<const ProductSet>(std::move(m_set));
    }

private:
    /// The imported AGS files as tables, with the corrections made to them.
    void readFiles() {
        const auto& p = m_set.project;
        for (const auto& f : *p.files) {
            m_set.agsFiles.emplace_back();
            if (!f.format.starts_with("AGS")) continue;
            std::vector<CellChange> changes;
            for (const auto& c : *p.corrections)
                if (c.file == f.name) changes.push_back({c.line, c.heading, c.after});
            const auto key = changes.empty() ? MemoryKey{f.bytes.text} : MemoryKey{f.bytes.text, p.corrections};
            m_set.agsFiles.back() = m_memory.agsFiles.get(key, [&] {
                auto file = readAgs(*f.bytes, f.name, m_progress.silent());
                change(file, changes);
                return file;
            });
        }
    }

    void makeTerrain() {
        const auto& p = m_set.project;
        m_progress.report(0.05, "Triangulating the ground");
        const auto levels = m_memory.levels.get(holeLevels(*p.holes));
        const auto limit = m_memory.limits.get(p.site->limit);
        m_terrain = m_memory.terrains.get({p.ground, limit, levels},
                                          [&] { return TerrainOfHoles(*p.ground, *limit, m_progress).make(*levels); });
        m_set.terrain = m_terrain->terrain;
        if (m_set.frame) m_frame = m_memory.frames.get(*m_set.frame);
    }

    void makeModel() {
        const auto& p = m_set.project;
        auto contacts = contactsOf(*m_set.reading, *p.sequence, *p.interpretation);
        m_order = workingOrder(*p.sequence);
        Model model{p.sequence, m_set.terrain, std::vector<std::shared_ptr<const BaseSurface>>(contacts.size()), m_order};
        for (auto& c : contacts) m_set.contacts.push_back(m_memory.contacts.get(std::move(c)));
        MemoryKey key{p.sequence, m_set.terrain};
        for (std::size_t done = 0; done < contacts.size(); ++done) {
            const auto u = m_order.units[done];
            const auto unit = m_memory.units.get(baseKey(p.sequence->units[u]));
            m_progress.report(0.1 + 0.4 * double(done) / double(contacts.size()),
                              fmt::format("Base of {}, {}", unit->name, words(unit->recipe.settings.method)));
            model.bases[u] = baseOf(model, u, unit);
        }
        for (const auto& b : model.bases) key.push_back(b);
        m_set.model = m_memory.models.get(key, [&] { return model; });
    }

    std::shared_ptr<const BaseSurface> baseOf(const Model& soFar, std::size_t u, const std::shared_ptr<const Unit>& unit) {
        const auto& p = m_set.project;
        if (const auto fixed = p.fixedBases->find(unit->code); fixed != p.fixedBases->end()) {
            const auto shared = m_memory.fixed.get(fixed->second);
            return m_memory.bases[unit->code].get({unit, shared, m_set.contacts[u]},
                                                  [&] { return fixedBase(*unit, shared, *m_set.contacts[u]); });
        }
        const auto inputs = m_memory.inputs.get(baseCandidates(soFar, *p.sequence, u, *m_set.contacts[u], *p.interpretation,
                                                               m_set.frame ? m_set.frame->box() : Box2{}));
        return m_memory.bases[unit->code].get({unit, inputs}, [&] { return fitBase(*unit, *inputs, m_progress); });
    }

    void makeGrids() {
        if (!m_frame) return;
        const auto& units = m_set.project.sequence->units;
        m_progress.report(0.65, "Sampling the ground");
        m_set.ground =
            m_memory.grounds.get({m_set.terrain, m_frame}, [&] { return m_set.terrain->sampled(*m_frame, m_progress); });
        makeContours();
        if (units.empty()) return;
        MemoryKey key{m_set.project.sequence, m_set.ground, m_set.model};
        std::vector<std::shared_ptr<const Grid>> raw(m_set.model->bases.size());
        const auto start = std::chrono::steady_clock::now();
        std::size_t made = 0;
        for (std::size_t done = 0; done < raw.size(); ++done) {
            const auto u = m_order.units[done];
            m_progress.report(0.7 + 0.2 * double(done) / double(units.size()),
                              fmt::format("Sampling the base of {}", units[u].name));
            const auto known = m_memory.grids;
            raw[u] = rawGridOf(u, raw);
            made += m_memory.grids != known;
            key.push_back(raw[u]);
        }
        if (made == raw.size() && made > 0) {
            const std::chrono::duration<double> took = std::chrono::steady_clock::now() - start;
            m_memory.secondsPerCell = took.count() / double(m_frame->cells());
        }
        m_set.secondsPerCell = m_memory.secondsPerCell;
        m_set.rawGrids = raw;
        m_set.modelGrid = m_memory.modelGrids.get(key, [&] { return stackGrids(*m_set.model, *m_set.ground, raw); });
        m_set.volumes = m_memory.volumes.get({m_set.modelGrid}, [&] { return volumesOf(*m_set.modelGrid); });
    }

    std::shared_ptr<const Grid> rawGridOf(std::size_t u, const std::vector<std::shared_ptr<const Grid>>& raw) {
        const auto& base = m_set.model->bases[u];
        const auto& code = m_set.project.sequence->units[u].code;
        if (base->measuredFromTop()) {
            const std::span younger(raw.data(), u);
            MemoryKey key{base, m_set.ground};
            key.insert(key.end(), younger.begin(), younger.end());
            return m_memory.rawGrids[code].get(std::move(key), [&] {
                ++m_memory.grids;
                return sampleBase(*base, topOf(*m_set.ground, younger), m_progress);
            });
        }
        const auto other = base->measuredFromBase() ? m_set.project.sequence->index(base->in.against) : std::nullopt;
        const auto& from = other ? raw[*other] : m_set.ground;
        return m_memory.rawGrids[code].get({base, from}, [&] {
            ++m_memory.grids;
            return sampleBase(*base, *from, m_progress);
        });
    }

    void makeContours() {
        const auto& choices = *m_set.project.contours;
        m_set.contourInterval = choices.interval > 0 ? choices.interval : contourInterval(*m_set.ground);
        m_set.contours = m_memory.contours.get({m_set.terrain, m_frame, m_set.ground, m_set.project.contours}, [&] {
            return contoursOf(*m_set.terrain, *m_set.ground, m_set.contourInterval, choices.smooth, m_progress);
        });
        thinContours();
    }

    void thinContours() {
        constexpr double kPieces = 4000; // of the extent: half a pixel on a large screen
        m_set.drawnTolerance = std::max(m_frame->box().width(), m_frame->box().height()) / kPieces;
        m_set.drawnContours = m_memory.drawnContours.get({m_set.contours, m_frame}, [&] {
            std::vector<ContourLine> out;
            Polyline3 flat;
            for (const auto& c : *m_set.contours) {
                flat.clear();
                for (const auto& p : c.line) flat.push_back({p.x, p.y, 0});
                out.push_back({c.level, {}});
                for (const auto& p : thinned(flat, m_set.drawnTolerance)) out.back().line.push_back(p.plan());
            }
            return out;
        });
    }

    /// Points far off what their neighbours say, and the pictures on the plan.
    void findOutliers() {
        const auto& p = m_set.project;
        m_progress.report(0.6, "Looking for points that are off");
        m_set.outliers = m_memory.outliers.get({m_set.terrain}, [&] {
            return p.ground->points.empty() ? std::vector<Outlier>()
                                            : outliersOf(m_set.terrain->tin, kPointOff, m_set.terrain->area, m_progress);
        });
        m_set.groundStatistics = m_memory.groundStatistics.get({p.ground, m_set.terrain}, [&] {
            GroundStatistics facts;
            facts.measures = m_set.terrain->tin.measure(m_set.terrain->area);
            facts.codes = codesOf(*p.ground);
            for (const auto& v : m_set.terrain->tin.vertices()) facts.extent.include(v.plan());
            std::vector<Point2> places;
            for (const auto& s : p.ground->points)
                for (const auto& point : s.points)
                    if (s.used) facts.points.push_back(&point), places.push_back(point.place.plan());
            facts.pointGrid = PointGrid(places);
            for (const auto& s : p.ground->points)
                for (const auto& code : stringCodes(*s.points)) facts.joinable.insert(code);
            for (const auto& s : p.ground->lines)
                for (const auto& line : s.lines) facts.linesWithoutLevels |= !line.empty() && std::isnan(line.front().z);
            return facts;
        });
        for (const auto& placed : *p.pictures) {
            m_set.pictures.emplace_back();
            const auto file = std::ranges::find(*p.files, placed.file, &SourceFile::name);
            if (file == p.files->end()) continue;
            try {
                m_set.pictures.back() =
                    m_memory.pictures[placed.file].get({file->bytes.text}, [&] { return readPicture(*file->bytes, file->name); });
            } catch (const Error&) { // it was said when it was imported
            }
        }
    }

    Findings outlierFindings() const {
        Findings out;
        if (!m_set.outliers) return out;
        for (const auto& o : *m_set.outliers) {
            const auto& p = m_set.terrain->tin.vertices()[std::size_t(o.vertex)];
            Finding f{Severity::Warning,
                      "FC-POINT-OFF",
                      "",
                      0,
                      "",
                      "",
                      "",
                      fmt::format("The ground point at E {:.2f} N {:.2f}, {:.2f} m, is {:.2f} m {} what its neighbours say.", p.x,
                                  p.y, p.z, std::abs(o.off), o.off > 0 ? "above" : "below")};
            f.remedy = Remedy{"Leave the point out", ExcludeGroundPoint{p.plan()}};
            f.place = p.plan();
            out.push_back(std::move(f));
        }
        return out;
    }

    void makeAudit() {
        m_progress.report(0.92, "Comparing the model with the holes");
        m_set.audit = m_memory.audits.get({m_set.model, m_set.reading}, [&] {
            std::vector<std::vector<Contact>> all;
            for (const auto& c : m_set.contacts) all.push_back(*c);
            return auditModel(*m_set.model, *m_set.reading, all, m_progress);
        });
    }

    void makeSections() {
        if (!m_set.frame || !m_set.model) return;
        for (const auto& s : *m_set.project.sections) {
            m_progress.report(0.6, "Section " + s.name);
            const auto line = m_memory.lines.get(s);
            m_set.sections.push_back(m_memory.sections[s.name].get({m_set.model, m_set.reading, m_frame, line}, [&] {
                const double step = std::max(m_frame->cell / 2, lengthOf(s.line) / 2000);
                return makeSection(*m_set.model, *m_set.reading, s.line, step, m_progress, s.reach);
            }));
        }
    }

    /// A hole with a place but no level can take the terrain's.
    void offerTerrainLevel(Finding& f) const {
        const auto* hole = findHole(*m_set.project.holes, f.hole);
        const auto place = hole ? hole->place() : std::nullopt;
        if (const auto level = place ? m_set.terrain->levelAt(*place) : std::nullopt)
            f.remedy = Remedy{"Take the terrain's level", SetGroundLevel{f.hole, toCentimetre(*level)}};
    }

    void gatherFindings() {
        const auto& p = m_set.project;
        MemoryKey key{p.files,   p.holes,     m_set.holeFindings, m_set.reading,
                      m_terrain, m_set.model, m_set.modelGrid,    m_set.outliers};
        m_set.findings = m_memory.findings.get(key, [&] {
            Findings all = *m_set.holeFindings;
            for (auto& f : all)
                if (f.rule == "FC-LEVEL") offerTerrainLevel(f);
            const auto append = [&](const Findings& more) { all.insert(all.end(), more.begin(), more.end()); };
            append(m_terrain->findings);
            append(outlierFindings());
            append(m_set.reading->findings);
            for (const auto& f : *p.files) append(f.findings);
            append(m_set.terrain->findings);
            for (const auto& b : m_set.model->bases) append(b->fit.findings);
            if (m_set.modelGrid) append(m_set.modelGrid->findings);
            return sorted(listed(std::move(all)));
        });
    }

    Memory& m_memory;
    const Progress& m_progress;
    ProductSet m_set;
    std::shared_ptr<const Frame> m_frame;
    std::shared_ptr<const TerrainResult> m_terrain;
    WorkingOrder m_order;
};

} // namespace

std::shared_ptr<const ProductSet> Products::of(const Project& project, const Progress& progress, Want want) {
    const std::scoped_lock lock(m_mutex);
    return SetMaker<Memory>(*m_memory, project, progress).make(want);
}

} // namespace fox
