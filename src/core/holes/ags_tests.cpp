#include "base/measure_unit.h"
#include "base/written_number.h"
#include "formats/ags_dictionary.h"
#include "holes/ags_rows.h"

#include <algorithm>
#include <charconv>
#include <fmt/format.h>
#include <span>

namespace fox {

namespace {

/// Values in one unit each, whatever units their columns, or pieces of them, are in.
class Conversion {
public:
    explicit Conversion(AgsRows& rows) : m_rows(rows) {}

    /// By what to multiply the values of this row's column. A unit that can't be turned is said once a column; its values stay
    /// as they are.
    double factor(GroupCells& cells, std::size_t row, const char* heading, std::string_view wanted) {
        const auto piece = cells.group().rows[row].piece;
        const auto [at, isNew] = m_factors.try_emplace(std::tuple(&cells.group(), piece, heading), 1);
        if (!isNew) return at->second;
        auto unit = std::string(cells.unit(row, {heading}));
        if (unit.empty())
            if (const auto* known = AgsDictionary::standard(m_rows.file().edition).heading(cells.group().name, heading))
                unit = known->unit;
        if (unit.empty() || wanted.empty()) return 1;
        if (const auto f = measureFactor(unit, wanted))
            at->second = *f;
        else
            m_rows.add(Severity::Warning, cells.group().unitLine, cells.group().name, "",
                       fmt::format("{} is given in \"{}\", which can't be turned into {}; its values are taken as {}.", heading,
                                   unit, wanted, wanted),
                       "FC-UNIT");
        return at->second;
    }

private:
    AgsRows& m_rows;
    std::map<std::tuple<const AgsGroup*, int, const char*>, double> m_factors;
};

// --- standard penetration tests

/// "50/75", "50 for 75mm", ">50": the last blows and what they drove. 0 mm: nobody says.
struct Refusal {
    double blows = 0, penetration = 0;
};

std::optional<double> leadingCount(std::string_view& text) {
    text = trimmed(text);
    double value = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value, std::chars_format::fixed);
    if (error != std::errc() || value < 0) return {};
    text.remove_prefix(std::size_t(end - text.data()));
    text = trimmed(text);
    return value;
}

std::optional<Refusal> refusalIn(std::string_view text) {
    text = trimmed(text);
    if (text.starts_with('>')) {
        text.remove_prefix(1);
        const auto blows = leadingCount(text);
        return blows ? std::optional(Refusal{*blows, 0}) : std::nullopt;
    }
    const auto blows = leadingCount(text);
    if (!blows) return {};
    for (const std::string_view between : {"/", "for"})
        if (text.starts_with(between)) {
            text.remove_prefix(between.size());
            if (const auto mm = leadingCount(text); mm && *mm > 0 && *mm < 300) return Refusal{*blows, *mm};
        }
    return {};
}

class PenetrationTest {
public:
    PenetrationTest(GroupCells& cells, std::size_t row, const Hole& hole) : m_cells(cells), m_row(row), m_hole(hole) {}

    std::optional<BlowCount> read() {
        const auto top = number("ISPT_TOP");
        if (!top) return {};
        BlowCount test;
        test.depth = Depth{*top};
        test.reported = m_cells.text(m_row, {"ISPT_REP"});
        test.type = m_cells.text(m_row, {"ISPT_TYPE"});
        test.energyRatio = number("ISPT_ERAT");
        test.water = depthAt(plainNumber("ISPT_WAT"));
        test.casing = depthAt(number("ISPT_CAS"));
        readIncrements(test);
        if (!takeResult(test)) return {};
        return test;
    }

private:
    std::optional<double> number(const char* heading) { return m_cells.number(m_row, {heading}, m_hole.id); }
    /// Of a column where words are in order too ("dry").
    std::optional<double> plainNumber(const char* heading) { return readWrittenNumber(m_cells.text(m_row, {heading})).value; }

    void readIncrements(BlowCount& test) {
        static constexpr const char* kBlows[] = {"ISPT_INC1", "ISPT_INC2", "ISPT_INC3", "ISPT_INC4", "ISPT_INC5", "ISPT_INC6"};
        static constexpr const char* kDriven[] = {"ISPT_PEN1", "ISPT_PEN2", "ISPT_PEN3", "ISPT_PEN4", "ISPT_PEN5", "ISPT_PEN6"};
        for (int i = 0; i < 6; ++i)
            if (const auto blows = number(kBlows[i])) (i < 2 ? test.seating : test.main).push_back({*blows, number(kDriven[i])});
        if (const auto blows = number("ISPT_SEAT"); blows && test.seating.empty()) test.seating.push_back({*blows, 150.0});
    }

    /// N, or the blows and the penetration of a test that was stopped: as it is reported, by the penetration, or by the sum of
    /// the increments. False if none is given.
    bool takeResult(BlowCount& test) {
        const auto written = m_cells.text(m_row, {"ISPT_NVAL"});
        auto refusal = refusalIn(written);
        const auto n = refusal ? std::nullopt : number("ISPT_NVAL");
        if (!refusal) refusal = refusalIn(test.reported);
        const auto main = number("ISPT_MAIN"), driven = number("ISPT_NPEN");
        if (!refusal && main && driven && *driven > 0 && *driven < kWhole) refusal = Refusal{*main, *driven};
        double sum = 0, sumDriven = 0;
        bool allDriven = !test.main.empty();
        for (const auto& i : test.main)
            sum += i.blows, sumDriven += i.penetration.value_or(0), allDriven &= i.penetration.has_value();
        if (!refusal && !n && allDriven && sumDriven > 0 && sumDriven < kWhole) refusal = Refusal{sum, sumDriven};
        if (refusal) {
            test.blows = refusal->blows, test.penetration = refusal->penetration;
            return true;
        }
        const bool allIncrements = test.main.size() == 4;
        if (!n && !main && !allIncrements) return false;
        test.blows = n ? *n : main ? *main : sum;
        return true;
    }

    static constexpr double kWhole = 300; ///< millimetres of the main drive
    GroupCells& m_cells;
    std::size_t m_row;
    const Hole& m_hole;
};

void readPenetrationTests(AgsRows& rows) {
    rows.eachRow({"ISPT"}, [](GroupCells& cells, std::size_t r, Hole& hole) {
        if (auto test = PenetrationTest(cells, r, hole).read()) hole.blowCounts.push_back(std::move(*test));
    });
    rows.holes().changeEach([](Hole& hole) { std::ranges::stable_sort(hole.blowCounts, {}, &BlowCount::depth); });
}

// --- soundings

struct Track {
    const char* heading;
    const char* name;
    const char* unit;
};
constexpr Track kConeTracks[] = {{"SCPT_RES", "cone resistance", "MPa"},
                                 {"STCN_RES", "cone resistance", "MPa"},
                                 {"SCPT_FRES", "sleeve friction", "kPa"},
                                 {"STCN_FRES", "sleeve friction", "kPa"},
                                 {"SCPT_PWP1", "pore pressure u1", "kPa"},
                                 {"STCN_PWP1", "pore pressure u1", "kPa"},
                                 {"SCPT_PWP2", "pore pressure u2", "kPa"},
                                 {"STCN_PWP2", "pore pressure u2", "kPa"},
                                 {"SCPT_PWP3", "pore pressure u3", "kPa"},
                                 {"SCPT_FRR", "friction ratio", "%"},
                                 {"SCPT_QT", "corrected cone resistance", "MPa"},
                                 {"SCPT_CON", "conductivity", ""},
                                 {"SCPT_NGAM", "natural gamma", ""}};

/// Readings of one push, track by track.
class PushReadings {
public:
    explicit PushReadings(std::span<const Track> tracks) : m_tracks(tracks), m_readings(tracks.size()) {}

    void add(std::size_t track, double depth, double value) { m_readings[track].push_back({depth, value}); }

    void into(Hole& hole, const std::string& push) {
        for (std::size_t t = 0; t < m_tracks.size(); ++t) {
            if (m_readings[t].empty()) continue;
            if (!std::ranges::is_sorted(m_readings[t], {}, &Curve::Reading::depth)) // most come so
                std::ranges::stable_sort(m_readings[t], {}, &Curve::Reading::depth);
            Curve curve{m_tracks[t].name, m_tracks[t].unit, m_tracks[t].heading, false,
                        std::make_shared<const std::vector<Curve::Reading>>(std::move(m_readings[t]))};
            curve.push = push;
            hole.curves.push_back(std::move(curve));
        }
    }

private:
    std::span<const Track> m_tracks;
    std::vector<std::vector<Curve::Reading>> m_readings;
};

/// Rows of readings by depth, which stand together push by push, of the first of these groups that the file has.
void readPushes(AgsRows& rows, std::initializer_list<const char*> groups, std::initializer_list<const char*> pushHeadings,
                std::initializer_list<const char*> depthHeadings, std::span<const Track> tracks, const auto& scale) {
    std::map<std::pair<Hole*, std::string>, PushReadings> pushes;
    Conversion conversion(rows);
    PushReadings* last = nullptr;
    const Hole* lastHole = nullptr;
    std::string lastPush;
    std::vector<std::size_t> there; // tracks that the group has: most files have a few of many
    std::vector<double> factors;    // of those
    int factorsOfPiece = -1;
    rows.eachRow(groups, [&](GroupCells& cells, std::size_t r, Hole& hole) {
        const auto depth = cells.number(r, depthHeadings, hole.id);
        if (!depth) return;
        const auto push = cells.text(r, pushHeadings);
        if (!last || lastHole != &hole || lastPush != push) {
            lastHole = &hole, lastPush = push;
            last = &pushes.try_emplace({&hole, lastPush}, tracks).first->second;
        }
        if (const int piece = cells.group().rows[r].piece; piece != factorsOfPiece) {
            factorsOfPiece = piece;
            there.clear(), factors.clear();
            for (std::size_t t = 0; t < tracks.size(); ++t) {
                if (!cells.has(tracks[t].heading)) continue;
                there.push_back(t);
                factors.push_back(conversion.factor(cells, r, tracks[t].heading, tracks[t].unit));
            }
        }
        for (std::size_t i = 0; i < there.size(); ++i)
            if (const auto value = cells.number(r, {tracks[there[i]].heading}, hole.id))
                last->add(there[i], *depth, *value * factors[i] * scale(cells, r, hole));
    });
    for (auto& [of, readings] : pushes) {
        auto& [hole, push] = of;
        const auto name = push.empty() ? std::string("1") : push;
        if (std::ranges::find(hole->soundings, name, &Sounding::push) == hole->soundings.end()) hole->soundings.push_back({name});
        readings.into(*hole, name);
    }
}

void readSoundings(AgsRows& rows) {
    rows.eachRow({"SCPG"}, [](GroupCells& cells, std::size_t r, Hole& hole) {
        Sounding s{std::string(cells.text(r, {"SCPG_TESN"}))};
        if (s.push.empty()) s.push = "1";
        s.cone = fmt::format("{} {}", cells.text(r, {"SCPG_TYPE"}), cells.text(r, {"SCPG_REF"}));
        s.cone = trimmed(s.cone);
        s.areaRatio = cells.number(r, {"SCPG_CAR"}, hole.id);
        s.water = depthAt(readWrittenNumber(cells.text(r, {"SCPG_WAT"})).value);
        hole.soundings.push_back(std::move(s));
    });
    const auto asTheyAre = [](GroupCells&, std::size_t, const Hole&) { return 1.0; };
    readPushes(rows, {"SCPT", "STCN"}, {"SCPG_TESN", "STCN_TESN"}, {"SCPT_DPTH", "STCN_DPTH"}, kConeTracks, asTheyAre);
}

void readProbing(AgsRows& rows) {
    static constexpr Track kBlows[] = {{"DPRB_BLOW", "dynamic probing", ""}};
    const auto per100 = [](GroupCells& cells, std::size_t r, const Hole& hole) {
        const auto increment = cells.number(r, {"DPRB_INC"}, hole.id);
        return increment && *increment > 0 ? 100 / *increment : 1.0;
    };
    readPushes(rows, {"DPRB"}, {"DPRG_TESN"}, {"DPRB_DPTH"}, kBlows, per100);
    rows.holes().changeEach([](Hole& hole) {
        for (auto& c : hole.curves)
            if (c.words == "DPRB_BLOW") c.unit = "blows per 100 mm";
    });
}

// --- results of tests, a value each

struct Result {
    const char* group;
    const char* depth; ///< of the test itself; empty: that of the specimen or sample
    const char* value;
    const char* name;
    const char* unit;
};
constexpr Result kResults[] = {{"LNMC", "", "LNMC_MC", "moisture content", "%"},
                               {"CLSS", "", "CLSS_NMC", "moisture content", "%"},
                               {"LLPL", "", "LLPL_LL", "liquid limit", "%"},
                               {"CLSS", "", "CLSS_LL", "liquid limit", "%"},
                               {"LLPL", "", "LLPL_PL", "plastic limit", "%"},
                               {"CLSS", "", "CLSS_PL", "plastic limit", "%"},
                               {"LLPL", "", "LLPL_PI", "plasticity index", "%"},
                               {"LLIN", "", "LLIN_LS", "linear shrinkage", "%"},
                               {"LDEN", "", "LDEN_BDEN", "bulk density", "Mg/m3"},
                               {"CLSS", "", "CLSS_BDEN", "bulk density", "Mg/m3"},
                               {"RDEN", "", "RDEN_BDEN", "bulk density of rock", "Mg/m3"},
                               {"LDEN", "", "LDEN_DDEN", "dry density", "Mg/m3"},
                               {"CLSS", "", "CLSS_DDEN", "dry density", "Mg/m3"},
                               {"IDEN", "IDEN_DPTH", "IDEN_IDEN", "density in the ground", "Mg/m3"},
                               {"LPDN", "", "LPDN_PDEN", "particle density", "Mg/m3"},
                               {"CLSS", "", "CLSS_PD", "particle density", "Mg/m3"},
                               {"IVAN", "IVAN_DPTH", "IVAN_IVAN", "vane strength", "kPa"},
                               {"IPEN", "IPEN_DPTH", "IPEN_IPEN", "pocket penetrometer", "kPa"},
                               {"LVAN", "", "LVAN_VNPK", "laboratory vane strength", "kPa"},
                               {"CLSS", "", "CLSS_VNPK", "laboratory vane strength", "kPa"},
                               {"CLSS", "", "CLSS_HVP", "hand vane strength", "kPa"},
                               {"LVAN", "", "LVAN_HVP", "hand vane strength", "kPa"}, // where a conversion from edition 3 has it
                               {"LPEN", "", "LPEN_PPEN", "laboratory penetrometer", "kPa"},
                               {"CLSS", "", "CLSS_PPEN", "laboratory penetrometer", "kPa"},
                               {"TRIG", "", "TRIG_CU", "undrained shear strength", "kPa"},
                               {"TRIT", "", "TRIT_CU", "undrained shear strength", "kPa"},
                               {"TRIX", "", "TRIX_CU", "undrained shear strength", "kPa"},
                               {"LUCT", "", "LUCT_CU", "undrained shear strength", "kPa"},
                               {"SCPP", "SCPP_TOP", "SCPP_CSU", "undrained shear strength by sounding", "kPa"},
                               {"SCPP", "SCPP_TOP", "SCPP_CRD", "relative density by sounding", "%"},
                               {"SCPP", "SCPP_TOP", "SCPP_CPHI", "friction angle by sounding", "deg"},
                               {"SCPP", "SCPP_TOP", "SCPP_CIC", "soil behaviour index by the contractor", ""},
                               {"SCDG", "SCDG_DPTH", "SCDG_T", "time of dissipation", "s"},
                               {"SCDG", "SCDG_DPTH", "SCDG_CV", "dissipation cv", "m2/yr"},
                               {"SCDG", "SCDG_DPTH", "SCDG_CH", "dissipation ch", "m2/yr"},
                               {"SCDG", "SCDG_DPTH", "SCDG_PWPE", "equilibrium pore pressure", "kPa"},
                               {"TREG", "", "TREG_COH", "effective cohesion", "kPa"},
                               {"TREG", "", "TREG_PHI", "effective friction angle", "deg"},
                               {"RUCS", "", "RUCS_UCS", "uniaxial compressive strength", "MPa"},
                               {"ROCK", "", "ROCK_UCS", "uniaxial compressive strength", "MPa"},
                               {"RPLT", "", "RPLT_PLSI", "point load index", "MPa"},
                               {"ROCK", "", "ROCK_PLSI", "point load index", "MPa"},
                               {"CONS", "", "CONS_INMV", "compressibility mv", "m2/MN"},
                               {"GRAG", "", "GRAG_GRAV", "gravel", "%"},
                               {"GRAG", "", "GRAG_SAND", "sand", "%"},
                               {"GRAG", "", "GRAG_SILT", "silt", "%"},
                               {"GRAG", "", "GRAG_CLAY", "clay", "%"},
                               {"GRAG", "", "GRAG_FINE", "fines", "%"},
                               {"IPRG", "IPRG_TOP", "IPRG_IPRM", "permeability", "m/s"},
                               {"IPRM", "IPRM_TOP", "IPRM_IPRM", "permeability", "m/s"},
                               {"FGHS", "FGHG_TOP", "FGHS_PERM", "permeability", "m/s"},
                               {"PTST", "", "PTST_K", "laboratory permeability", "m/s"},
                               {"ICBR", "ICBR_DPTH", "ICBR_ICBR", "California bearing ratio", "%"},
                               {"FRAC", "FRAC_FROM", "FRAC_FI", "fracture index", "1/m"},
                               {"FRAC", "FRAC_TOP", "FRAC_FI", "fracture index", "1/m"}};

/// Results of one thing down a hole, as they come.
struct Results {
    struct Value {
        double depth, number;
        std::string text; ///< if it is not just the number
    };
    std::string name, unit, heading;
    std::vector<Value> values;

    Curve curve() {
        std::ranges::stable_sort(values, {}, &Value::depth);
        std::vector<Curve::Reading> readings;
        std::vector<Curve::Written> written;
        for (auto& v : values) {
            if (!v.text.empty()) written.push_back({readings.size(), std::move(v.text)});
            readings.push_back({v.depth, v.number});
        }
        return {name,
                unit,
                heading,
                true,
                std::make_shared<const std::vector<Curve::Reading>>(std::move(readings)),
                std::move(written)};
    }
};

class ResultReader {
public:
    explicit ResultReader(AgsRows& rows) : m_rows(rows), m_conversion(rows) {}

    void read() {
        readSamples();
        for (const auto& result : kResults)
            m_rows.eachRow({result.group}, [&](GroupCells& cells, std::size_t r, Hole& hole) {
                const auto text = cells.text(r, {result.value});
                const auto at = text.empty() ? std::nullopt : depthOf(cells, r, hole, result.depth);
                if (!at) return;
                const double factor = m_conversion.factor(cells, r, result.value, result.unit);
                take(hole, result.name, result.unit, result.value, *at, text, factor);
            });
        readEffectiveStrength();
        readChemistry("ERES", {"ERES_NAME", "ERES_CODE"}, "ERES_RTXT", "ERES_RVAL", "ERES_RUNI");
        readChemistry("GCHM", {"GCHM_NAME", "GCHM_CODE"}, "GCHM_RTXT", "GCHM_RESL", "GCHM_UNIT");
        readChemistry("CNMT", {"CNMT_NAME", "CNMT_TYPE"}, "", "CNMT_RESL", "CNMT_UNIT");
        readOwnReadings();
        for (auto& [hole, all] : m_found)
            for (auto& results : all) hole->curves.push_back(results.curve());
    }

private:
    /// Samples by their own ids: results may name no depth.
    void readSamples() {
        m_rows.eachRow({"SAMP"}, [&](GroupCells& cells, std::size_t r, Hole& hole) {
            const auto id = cells.text(r, {"SAMP_ID"});
            if (const auto top = id.empty() ? std::nullopt : parseNumber(cells.text(r, {"SAMP_TOP"})))
                m_sampleTops.try_emplace({&hole, std::string(id)}, *top);
        });
    }

    std::optional<double> depthOf(GroupCells& cells, std::size_t r, Hole& hole, const char* own) {
        if (*own) return cells.number(r, {own}, hole.id);
        if (const auto at = cells.number(r, {"SPEC_DPTH"}, hole.id)) return at;
        if (const auto at = cells.number(r, {"SAMP_TOP"}, hole.id)) return at;
        const auto sample = m_sampleTops.find({&hole, std::string(cells.text(r, {"SAMP_ID"}))});
        return sample == m_sampleTops.end() ? std::nullopt : std::optional(sample->second);
    }

    /// The text as a number, or one behind "<" or ">"; "NP" and the like are kept as they are, with no number.
    static Results::Value written(double depth, std::string_view text, double factor) {
        auto rest = text;
        const bool isLimit = rest.starts_with('<') || rest.starts_with('>');
        if (isLimit) rest.remove_prefix(1);
        const auto read = readWrittenNumber(trimmed(rest));
        const bool plain = read.value && !isLimit && read.kind == WrittenNumber::Kind::Plain;
        return {depth, read.value ? *read.value * factor : kNoValue, plain ? std::string() : std::string(text)};
    }

    void take(Hole& hole, std::string_view name, std::string_view unit, std::string_view heading, double depth,
              std::string_view text, double factor) {
        resultsOf(hole, name, unit, heading).values.push_back(written(depth, text, factor));
    }

    /// Edition 3 has tests of effective stress in TRIG too, told by their type.
    void readEffectiveStrength() {
        m_rows.eachRow({"TRIG"}, [&](GroupCells& cells, std::size_t r, Hole& hole) {
            const auto type = upper(cells.text(r, {"TRIG_TYPE"}));
            if (!type.starts_with("CU") && !type.starts_with("CD")) return;
            const auto at = depthOf(cells, r, hole, "");
            const auto use = [&](const char* heading, const char* name, const char* unit) {
                const auto text = cells.text(r, {heading});
                if (at && !text.empty()) take(hole, name, unit, heading, *at, text, m_conversion.factor(cells, r, heading, unit));
            };
            use("TRIG_COH", "effective cohesion", "kPa");
            use("TRIG_PHI", "effective friction angle", "deg");
        });
    }

    Results& resultsOf(Hole& hole, std::string_view name, std::string_view unit, std::string_view heading) {
        auto& all = m_found[&hole];
        const auto at = std::ranges::find_if(all, [&](const Results& r) { return r.name == name && r.unit == unit; });
        return at == all.end() ? all.emplace_back(Results{std::string(name), std::string(unit), std::string(heading), {}}) : *at;
    }

    /// What went out in a group of our own, see handover/ags_export.cpp: logs down the hole, and results.
    void readOwnReadings() {
        std::map<Hole*, std::vector<std::pair<Results, std::string>>> logs; // with their sounding
        m_rows.eachRow({"WLOG"}, [&](GroupCells& cells, std::size_t r, Hole& hole) {
            const auto text = cells.text(r, {"WLOG_RDNG"}), name = cells.text(r, {"WLOG_NAME"}),
                       unit = cells.text(r, {"WLOG_UNIT"}), push = cells.text(r, {"WLOG_TESN"});
            const auto at = text.empty() || name.empty() ? std::nullopt : cells.number(r, {"WLOG_DPTH"}, hole.id);
            if (!at) return;
            const std::string heading(cells.text(r, {"WLOG_HDNG"}));
            if (upper(cells.text(r, {"WLOG_TYPE"})) == "RESULT") return take(hole, name, unit, heading, *at, text, 1);
            auto& all = logs[&hole];
            auto log = std::ranges::find_if(
                all, [&](const auto& l) { return l.first.name == name && l.first.unit == unit && l.second == push; });
            if (log == all.end())
                log = all.insert(all.end(), {Results{std::string(name), std::string(unit), heading, {}}, std::string(push)});
            log->first.values.push_back(written(*at, text, 1));
        });
        for (auto& [hole, all] : logs)
            for (auto& [log, push] : all) {
                auto& curve = hole->curves.emplace_back(log.curve());
                curve.single = false, curve.push = push;
            }
    }

    /// A thing that was looked for is called by its name, or code; all its values are in the unit of its first one that they can
    /// be turned into.
    void readChemistry(const char* group, std::initializer_list<const char*> names, const char* text, const char* value,
                       const char* unit) {
        m_rows.eachRow({group}, [&](GroupCells& cells, std::size_t r, Hole& hole) {
            std::string_view name;
            for (const char* heading : names)
                if (name.empty()) name = cells.text(r, {heading});
            const auto written = *text ? cells.text(r, {text}) : std::string_view();
            const auto result = written.empty() ? cells.text(r, {value}) : written;
            const auto at = name.empty() || result.empty() ? std::nullopt : depthOf(cells, r, hole, "");
            if (!at) return;
            const auto own = cells.text(r, {unit});
            auto& units = m_units[std::string(name)];
            auto known = std::ranges::find_if(units, [&](const std::string& u) { return measureFactor(own, u).has_value(); });
            if (known == units.end()) known = units.insert(units.end(), std::string(own));
            take(hole, name, *known, value, *at, result, *measureFactor(own, *known));
        });
    }

    AgsRows& m_rows;
    Conversion m_conversion;
    std::map<std::pair<Hole*, std::string>, double> m_sampleTops;
    std::map<Hole*, std::vector<Results>> m_found;
    std::map<std::string, std::vector<std::string>> m_units; ///< of things that were looked for
};

} // namespace

void readAgsTests(AgsRows& rows) {
    readPenetrationTests(rows);
    readSoundings(rows);
    readProbing(rows);
    ResultReader(rows).read();
}

bool givesAgsResults(std::string_view group) {
    return std::ranges::any_of(kResults, [&](const Result& r) { return r.group == group; });
}

} // namespace fox
