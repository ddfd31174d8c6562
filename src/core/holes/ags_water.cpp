#include "holes/ags_rows.h"

#include "base/measure_unit.h"
#include "base/written_number.h"

#include <algorithm>
#include <fmt/format.h>

namespace fox {

namespace {

constexpr double kWaterPressure = 9.81; // kPa a metre of water

bool isDry(std::string_view text) { return lower(trimmed(text)).starts_with("dry"); }

/// "Rose to 2.10 m", "rose to 2.1m after 20 minutes": what drillers write where they have no table of the rise.
std::optional<double> roseTo(std::string_view remark) {
    constexpr std::string_view kWords = "rose to ";
    const auto said = lower(trimmed(remark));
    if (!said.starts_with(kWords)) return {};
    const auto depth = readWrittenNumber(std::string_view(said).substr(kWords.size()));
    const bool isDepth = depth.kind == WrittenNumber::Kind::Plain || depth.kind == WrittenNumber::Kind::WithWords;
    return isDepth ? depth.value : std::nullopt;
}

void readStrikes(AgsRows& rows) {
    const auto rise = [](WaterStrike& strike, std::optional<double> to) {
        if (to && (!strike.roseTo || *to < strike.roseTo->metres)) strike.roseTo = Depth{*to};
    };
    rows.eachRow({"WSTG", "WSTK"}, [&](GroupCells& cells, std::size_t r, Hole& hole) {
        if (isDry(cells.text(r, {"WSTG_DPTH", "WSTK_DEP"}))) return; // no strike, and no fault
        const auto at = cells.number(r, {"WSTG_DPTH", "WSTK_DEP"}, hole.id);
        if (!at) return;
        const auto known = std::ranges::find(hole.strikes, Depth{*at}, &WaterStrike::depth);
        auto& strike = known == hole.strikes.end() ? hole.strikes.emplace_back(WaterStrike{Depth{*at}, {}}) : *known;
        if (!isDry(cells.text(r, {"WSTK_POST"}))) rise(strike, cells.number(r, {"WSTK_POST"}, hole.id));
        rise(strike, roseTo(cells.text(r, {"WSTG_REM"})));
    });
    rows.eachRow({"WSTD"}, [&](GroupCells& cells, std::size_t r, Hole& hole) {
        const auto at = cells.number(r, {"WSTG_DPTH"}, hole.id);
        for (auto& strike : hole.strikes)
            if (at && strike.depth.metres == *at && !isDry(cells.text(r, {"WSTD_POST"})))
                rise(strike, cells.number(r, {"WSTD_POST"}, hole.id));
    });
}

/// What a file calls its pipes and backfill by ABBR, in small letters; the code itself if it does not say.
std::string inWords(const AgsFile& file, std::string_view heading, std::string_view code) {
    const auto* abbr = file.group("ABBR");
    const auto of = abbr ? abbr->column("ABBR_HDNG") : std::nullopt, written = abbr ? abbr->column("ABBR_CODE") : std::nullopt,
               words = abbr ? abbr->column("ABBR_DESC") : std::nullopt;
    if (of && written && words)
        for (std::size_t r = 0; r < abbr->rows.size(); ++r)
            if (trimmed(abbr->cell(r, *of)) == heading && trimmed(abbr->cell(r, *written)) == code)
                return lower(trimmed(abbr->cell(r, *words)));
    return lower(code);
}

bool says(const std::string& text, std::initializer_list<std::string_view> words) {
    return std::ranges::any_of(words, [&](std::string_view w) { return text.find(w) != text.npos; });
}

Installation::Part pipePart(const std::string& words) {
    if (says(words, {"slot", "perforat", "screen", "filter"}) || words == "slt") return Installation::Part::SlottedPipe;
    if (says(words, {"plain", "solid", "blank"}) || words == "pln") return Installation::Part::PlainPipe;
    return Installation::Part::Pipe; // what is not given is not drawn as slotted
}

void readInstallations(AgsRows& rows) {
    using Part = Installation::Part;
    rows.eachRow({"PIPE"}, [&](GroupCells& cells, std::size_t r, Hole& hole) {
        const auto top = cells.number(r, {"PIPE_TOP"}, hole.id), base = cells.number(r, {"PIPE_BASE"}, hole.id);
        if (!top || !base) return;
        hole.installations.push_back({pipePart(inWords(rows.file(), "PIPE_TYPE", cells.text(r, {"PIPE_TYPE"}))), Depth{*top},
                                      Depth{*base}, std::string(cells.text(r, {"PIPE_REF"}))});
    });
    rows.eachRow({"BKFL"}, [&](GroupCells& cells, std::size_t r, Hole& hole) {
        const auto top = cells.number(r, {"BKFL_TOP"}, hole.id), base = cells.number(r, {"BKFL_BASE"}, hole.id);
        if (!top || !base) return;
        hole.installations.push_back(
            {Part::Backfill, Depth{*top}, Depth{*base}, inWords(rows.file(), "BKFL_LEG", cells.text(r, {"BKFL_LEG"}))});
    });
    rows.eachRow({"MONG", "PREF"}, [](GroupCells& cells, std::size_t r, Hole& hole) {
        const auto name = std::string(cells.text(r, {"MONG_ID", "PREF_REF"}));
        const auto top = cells.number(r, {"MONG_TRZ", "PREF_TRZ"}, hole.id),
                   base = cells.number(r, {"MONG_BRZ", "PREF_BRZ"}, hole.id);
        if (top && base) hole.installations.push_back({Part::ResponseZone, Depth{*top}, Depth{*base}, name});
        if (const auto tip = cells.number(r, {"MONG_DIS", "PREF_TDEP"}, hole.id))
            hole.installations.push_back({Part::Tip, Depth{*tip}, Depth{*tip}, name});
    });
}

/// What a reading of a monitoring point is.
enum class ReadingKind { Depth, Level, Pressure, Head, LevelOrDepth, Other };

/// By its unit where that says it, else by the words of its type.
ReadingKind kindOf(const std::string& type, const std::string& words, const std::string& unit) {
    using enum ReadingKind;
    if (measureFactor(unit, "kPa")) return Pressure;
    if (says(unit, {"bgl", "below"})) return Depth;
    if (says(unit, {"od", "aod", "datum"})) return Level;
    const bool inMetres = unit.empty() || unit == "m";
    if (!inMetres || says(words, {"gas", "temperature", "settle", "inclin"})) return Other;
    if (says(words, {"head"})) return Head;
    if (says(words, {"elevation", "datum", "reduced", "ordnance"}) && !says(words, {"below"})) return Level;
    if (says(words, {"level", "wlev"}) && !says(words, {"below", "depth", "to water"})) return LevelOrDepth;
    if (says(words, {"depth", "dip", "below", "water"}) || type.starts_with("wdep") || type.starts_with("wat")) return Depth;
    return Other;
}

/// "14/03/1998" and "0930" as "1998-03-14T09:30"; a date that is none of these stays as it is.
std::string isoTime(std::string_view date, std::string_view time) {
    const auto digits = [](std::string_view s) {
        return !s.empty() && std::ranges::all_of(s, [](char c) { return c >= '0' && c <= '9'; });
    };
    const auto parts = split(date, '/');
    std::string out(date);
    if (parts.size() == 3 && digits(parts[0]) && digits(parts[1]) && digits(parts[2]) && parts[2].size() == 4
        && parts[0].size() <= 2 && parts[1].size() <= 2)
        out = fmt::format("{}-{:0>2}-{:0>2}", parts[2], parts[1], parts[0]);
    std::string hours(time);
    std::erase(hours, ':');
    if (digits(hours) && hours.size() >= 3 && hours.size() <= 4) {
        hours.insert(0, 4 - hours.size(), '0');
        out += fmt::format("T{}:{}", std::string_view(hours).substr(0, 2), std::string_view(hours).substr(2));
    }
    return out;
}

class WaterReadings {
public:
    explicit WaterReadings(AgsRows& rows) : m_rows(rows) {}

    void read() {
        const auto what = whatLevelsAre();
        m_rows.eachRow({"MOND"}, [&](GroupCells& cells, std::size_t r, Hole& hole) {
            auto kind = kindOfRow(cells, r);
            if (kind == ReadingKind::Other) return;
            if (kind == ReadingKind::LevelOrDepth) kind = what;
            const auto unit = lower(cells.text(r, {"MOND_UNIT"}));
            take(cells, r, hole, kind, cells.text(r, {"MOND_RDNG"}), unit, std::string(cells.text(r, {"MOND_DTIM"})),
                 std::string(cells.text(r, {"MONG_ID"})), cells.number(r, {"MONG_DIS"}, hole.id));
        });
        m_rows.eachRow({"POBS"}, [&](GroupCells& cells, std::size_t r, Hole& hole) {
            const auto tip = cells.number(r, {"PREF_TDEP"}, hole.id);
            const auto when = isoTime(cells.text(r, {"POBS_DATE"}), cells.text(r, {"POBS_TIME"}));
            const auto depth = cells.text(r, {"POBS_DEP"});
            const bool isHead = depth.empty();
            take(cells, r, hole, isHead ? ReadingKind::Head : ReadingKind::Depth, isHead ? cells.text(r, {"POBS_HEAD"}) : depth,
                 "m", when, pipeAt(hole, tip), tip);
        });
        for (const auto& [group, lost] : m_lost)
            m_rows.add(Severity::Warning, lost.line, group, lost.hole,
                       fmt::format("{} of water can't be used: {}.", counted(lost.rows, "reading"), lost.why), "FC-WATER");
    }

private:
    ReadingKind kindOfRow(GroupCells& cells, std::size_t r) const {
        const auto code = cells.text(r, {"MOND_TYPE"});
        return kindOf(lower(code), inWords(m_rows.file(), "MOND_TYPE", code) + " " + lower(cells.text(r, {"MOND_NAME"})),
                      lower(cells.text(r, {"MOND_UNIT"})));
    }

    /// "Water level" in metres may be a level or a depth: what puts more of the readings between the ground and the instrument.
    ReadingKind whatLevelsAre() {
        std::size_t asDepth = 0, asLevel = 0;
        int line = 0;
        constexpr double kAbove = 2; // metres over the ground, for confined water
        m_rows.eachRow({"MOND"}, [&](GroupCells& cells, std::size_t r, Hole& hole) {
            if (kindOfRow(cells, r) != ReadingKind::LevelOrDepth) return;
            const auto value = readWrittenNumber(cells.text(r, {"MOND_RDNG"})).value;
            const auto end = deepest(hole, std::string(cells.text(r, {"MONG_ID"})), cells.number(r, {"MONG_DIS"}, hole.id));
            if (!value || !end) return;
            if (line == 0) line = cells.line(r);
            asDepth += *value >= -kAbove && *value <= *end;
            asLevel += hole.level && hole.level->metres - *value >= -kAbove && hole.level->metres - *value <= *end;
        });
        const auto kind = asLevel > asDepth ? ReadingKind::Level : ReadingKind::Depth;
        if (std::min(asLevel, asDepth) > 0) // else there is no doubt
            m_rows.add(Severity::Note, line, "MOND", "",
                       fmt::format("\"Level\" may mean a level or a depth: the readings are taken as {}, by which {} of them lie "
                                   "between the ground and the instrument ({} as {}).",
                                   kind == ReadingKind::Level ? "levels" : "depths", std::max(asLevel, asDepth),
                                   std::min(asLevel, asDepth), kind == ReadingKind::Level ? "depths" : "levels"),
                       "FC-WATER");
        return kind;
    }

    /// The monitoring point whose tip is there, by its name.
    static std::string pipeAt(const Hole& hole, std::optional<double> tip) {
        for (const auto& i : hole.installations)
            if (tip && i.part == Installation::Part::Tip && std::abs(i.top.metres - *tip) < 0.005) return i.name;
        return tip ? fmt::format("{:.2f}", *tip) : std::string();
    }

    /// Of a monitoring point: of its tip, else the base of its response zone, else of the hole.
    static std::optional<double> deepest(const Hole& hole, const std::string& pipe, std::optional<double> tip) {
        if (tip) return tip;
        for (const auto part : {Installation::Part::Tip, Installation::Part::ResponseZone})
            for (const auto& i : hole.installations)
                if (i.part == part && i.name == pipe) return i.base.metres;
        return hole.finalDepth ? std::optional(hole.finalDepth->metres) : std::nullopt;
    }

    void take(GroupCells& cells, std::size_t r, Hole& hole, ReadingKind kind, std::string_view written, const std::string& unit,
              std::string when, std::string pipe, std::optional<double> tip) {
        if (written.empty()) return;
        const auto end = deepest(hole, pipe, tip);
        WaterLevel level{std::move(when), {}, std::move(pipe)};
        if (isDry(written)) {
            if (!end) return lose(cells, r, hole, "it was dry, and nothing says how deep the point is");
            level.dry = true;
            level.depth = Depth{*end};
            hole.waterLevels.push_back(std::move(level));
            return;
        }
        const auto value = readWrittenNumber(written).value;
        if (!value) return lose(cells, r, hole, fmt::format("\"{}\" is not a number", written));
        const auto given = [&](const char* what) {
            level.given = fmt::format("{} {}{}{}", what, written, unit.empty() ? "" : " ", unit);
        };
        switch (kind) {
        case ReadingKind::Depth: level.depth = Depth{*value}; break;
        case ReadingKind::Level:
            if (!hole.level) return lose(cells, r, hole, "it is a level, and the hole has no ground level");
            level.depth = Depth{hole.level->metres - *value};
            given("level");
            break;
        case ReadingKind::Pressure:
        case ReadingKind::Head:
            if (!end) return lose(cells, r, hole, "nothing says how deep the instrument is");
            level.depth =
                Depth{*end - (kind == ReadingKind::Head ? *value : *value * *measureFactor(unit, "kPa") / kWaterPressure)};
            given(kind == ReadingKind::Head ? "head" : "pressure");
            break;
        case ReadingKind::LevelOrDepth:
        case ReadingKind::Other: return;
        }
        hole.waterLevels.push_back(std::move(level));
    }

    void lose(GroupCells& cells, std::size_t r, const Hole& hole, std::string why) {
        auto& lost = m_lost[cells.group().name];
        if (lost.rows++ == 0) lost = {1, cells.line(r), hole.id, std::move(why)};
    }

    struct Lost {
        std::size_t rows = 0;
        int line = 0;
        std::string hole, why;
    };
    AgsRows& m_rows;
    std::map<std::string, Lost> m_lost;
};

} // namespace

void readAgsWater(AgsRows& rows) {
    readStrikes(rows);
    readInstallations(rows);
    WaterReadings(rows).read();
}

} // namespace fox
