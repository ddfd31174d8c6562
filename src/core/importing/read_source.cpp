#include "importing/import.h"

#include "base/degrees.h"
#include "base/encoding.h"
#include "base/files.h"
#include "base/parallel.h"
#include "base/text.h"
#include "blocks/value_headings.h"
#include "formats/ags_changes.h"
#include "formats/ags_check.h"
#include "formats/archive.h"
#include "formats/crs.h"
#include "formats/system_list.h"
#include "formats/workbook.h"
#include "ground/survey_text.h"
#include "holes/file_check.h"
#include "holes/las_holes.h"
#include "importing/ground_import.h"
#include "importing/hole_places.h"
#include "importing/join_holes.h"
#include "importing/point_units.h"
#include "sequence/description.h"

#include <fmt/format.h>
#include <unordered_map>

namespace fox {

namespace {

std::vector<CellChange> changesIn(const std::vector<Correction>& corrections, const std::string& file) {
    std::vector<CellChange> out;
    for (const auto& c : corrections)
        if (c.file == file) out.push_back({c.line, c.heading, c.after});
    return out;
}

void append(Findings& to, const Findings& more) { to.insert(to.end(), more.begin(), more.end()); }

/// Turns one file into what it says.
class SourceReader {
public:
    SourceReader(SourceFile file, const SiteContext& site, const std::vector<Correction>& corrections, const Progress& progress)
        : m_site(site), m_siteCrs(site.crs), m_corrections(corrections), m_progress(progress) {
        m_out.file = std::move(file);
        m_out.file.findings.clear();
    }

    ImportPreview make() {
        if (const auto kind = groundKindOf(m_out.file.path.empty() ? m_out.file.name : m_out.file.path);
            kind != GroundKind::None && !readAsPoints(kind)) {
            readGround(m_out, kind, m_siteCrs, m_progress);
            return std::move(m_out);
        }
        const auto& bytes = *m_out.file.bytes;
        if (trimmed(std::string_view(bytes).substr(0, 4096)).empty() && trimmed(bytes).empty())
            throw FileError(fmt::format("{} is empty: there is nothing in it to read.", m_out.file.name));
        if (looksLikeAgs(bytes))
            ags();
        else if (looksLikeLas(bytes))
            las();
        else if (isWorkbookName(m_out.file.name))
            tables(readWorkbook(bytes, m_out.file.name), lower(m_out.file.name).ends_with(".ods") ? "ODS" : "XLSX");
        else if (looksLikeText(bytes)) {
            if (!readLongSurvey(bytes)) tables({readTable(bytes, m_out.file.name, m_out.file.settings.columns)}, "CSV");
        } else
            throw FileError(fmt::format("{} is neither AGS, LAS, a workbook (xlsx, ods) nor a table of text.", m_out.file.name));
        toSiteSystem();
        if (!m_out.holes.empty()) {
            Box2 extent; // of holes that are not at 0, 0, which is said of them one by one
            for (const auto& h : m_out.holes)
                if (const auto p = h.place(); p && (p->x != 0 || p->y != 0)) extent.include(*p);
            auto sense = outOfSense(extent, m_siteCrs, m_out.file.name);
            for (auto& f : sense)
                if (f.rule == "FC-SWAPPED")
                    f.remedy = Remedy{"Swap them in all of its holes", SwapCoordinatesOfFile{m_out.file.name}};
            append(m_out.file.findings, std::move(sense));
        }
        if (m_out.survey || m_out.contacts || m_out.values) {
            Box2 extent;
            eachPlace([&](Point3& p) { extent.include(p.plan()); });
            append(m_out.file.findings, outOfSense(extent, m_siteCrs, m_out.file.name));
        }
        m_out.file.holes = int(m_out.holes.size());
        return std::move(m_out);
    }

private:
    /// .xyz is a grid or, if it is no regular one or asked for so, a list of points, which is read as a table.
    bool readAsPoints(GroundKind kind) {
        auto& s = m_out.file.settings;
        if (kind != GroundKind::Grid || !lower(m_out.file.name).ends_with(".xyz")) return false;
        if (s.as != SourceSettings::As::SurveyPoints) {
            try {
                auto trial = m_out;
                readGround(trial, kind, m_siteCrs, m_progress);
                return false;
            } catch (const FileError&) {
                s.as = SourceSettings::As::SurveyPoints;
            }
        }
        const auto first = std::string_view(*m_out.file.bytes).substr(0, m_out.file.bytes.text->find('\n'));
        if (s.columns.empty() && parseLeadingNumber(first)) s.columns = {"x", "y", "z"};
        return true;
    }

    /// A survey of very many points goes by without a table of them all, of which only a sample is looked at. False if it is
    /// something else.
    bool readLongSurvey(std::string_view bytes) {
        constexpr std::size_t kLong = 2'000'000; // bytes
        constexpr std::size_t kSampled = 800;    // rows
        if (bytes.size() < kLong || !changesIn(m_corrections, m_out.file.name).empty()) return false;
        const SeparatedText text(bytes);
        SourceReader trial(*this);
        trial.m_text = &text;
        try {
            trial.tables({sampledTable(text, m_out.file.name, m_out.file.settings.columns, kSampled, trial.m_rows)}, "CSV");
        } catch (const FileError&) {
            return false; // read as a whole it says more
        }
        if (!trial.m_out.survey && !trial.m_out.asksForOrder()) return false;
        m_out = std::move(trial.m_out);
        if (!m_out.tables.empty()) m_out.tables.front().rows = trial.m_rows;
        return true;
    }

    static bool looksLikeText(std::string_view bytes) {
        return looksLikeUtf16(bytes) || bytes.substr(0, 4096).find('\0') == bytes.npos;
    }

    void ags() {
        auto& file = m_out.file;
        auto read = readAgs(*file.bytes, file.name, m_progress);
        change(read, changesIn(m_corrections, file.name));
        AgsHoles content;
        parallelFor(2, 1, [&](std::size_t part, std::size_t) {
            part == 0 ? void(content = holesOf(read, file.settings.groupsOut))
                      : void(file.findings = checkAgs(read, {}, m_progress));
        });
        file.format = "AGS " + read.version;
        addUnlessKnown(file.findings, std::move(content.findings));
        for (const auto& g : read.groups) m_out.tables.push_back({g.name, g.rows.size(), feeds(g.name), g.headings});
        m_out.project = content.project;
        m_out.title = content.title;
        m_out.holes = std::move(content.holes);
        m_out.codeNames = std::move(content.codeNames);
        // soundings, monitoring or results of the laboratory, in a file of their own: they add to holes that are there
        m_out.partial =
            !m_out.holes.empty() && std::ranges::all_of(m_out.holes, [](const Hole& h) { return h.intervals.empty(); });
        if (const auto& grid = file.settings.localGrid)
            append(file.findings, placeByLocalGrid(m_out.holes, *grid, content.localPlaces, file.name));
        takeDegrees(degreesIn(read), "LOCA", "LOCA_LAT");
        saySystem(read);
    }

    /// Longitude and latitude of each hole, as LOCA_LON and LOCA_LAT say.
    std::vector<std::optional<Point2>> degreesIn(const AgsFile& file) const {
        const auto* group = file.group("LOCA");
        const auto id = group ? group->column("LOCA_ID") : std::nullopt;
        const auto latitude = group ? group->column("LOCA_LAT") : std::nullopt;
        const auto longitude = group ? group->column("LOCA_LON") : std::nullopt;
        if (!id || !latitude || !longitude) return {};
        std::map<std::string, Point2, std::less<>> places;
        for (std::size_t r = 0; r < group->rows.size(); ++r) {
            const auto north = parseDegrees(group->cell(r, *latitude)), east = parseDegrees(group->cell(r, *longitude));
            if (north && east && std::abs(*north) <= 90) places[std::string(trimmed(group->cell(r, *id)))] = {*east, *north};
        }
        std::vector<std::optional<Point2>> out;
        for (const auto& hole : m_out.holes) {
            const auto at = places.find(hole.id);
            out.push_back(at == places.end() ? std::nullopt : std::optional(at->second));
        }
        return out;
    }

    /// With a system of the file's own all holes go on from there to the site's.
    void takeDegrees(const std::vector<std::optional<Point2>>& degrees, const char* group, const char* heading) {
        const auto& into = m_out.file.settings.crs.empty() ? m_siteCrs : m_out.file.settings.crs;
        append(m_out.file.findings, projectDegrees(m_out.holes, degrees, into,
                                                   {Severity::Note, "FC-SYSTEM", m_out.file.name, 0, group, heading, "", ""}));
    }

    /// What LOCA_GREF says the grid is, against the system in which the file is read.
    void saySystem(const AgsFile& file) {
        const auto* group = file.group("LOCA");
        const auto column = group ? group->column("LOCA_GREF") : std::nullopt;
        for (std::size_t r = 0; column && r < group->rows.size(); ++r) {
            const std::string written(trimmed(group->cell(r, *column)));
            if (written.empty()) continue;
            const auto known = systemNamed(written);
            if (!known || !known->projected) return;
            m_out.system = known->code;
            const auto& readIn = m_out.file.settings.crs.empty() ? m_siteCrs : m_out.file.settings.crs;
            if (!readIn.empty() && readIn != known->code)
                m_out.file.findings.push_back(
                    {Severity::Warning, "FC-SYSTEM", m_out.file.name, group->rows[r].line, "LOCA", "LOCA_GREF", "",
                     fmt::format("The file says that its grid is {} ({}), and is read in {}. If it is right, set the file's "
                                 "coordinates to {}.",
                                 written, known->code, readIn, known->code)});
            return;
        }
    }

    void las() {
        const auto read = readLas(*m_out.file.bytes, m_out.file.name, m_progress);
        auto content = holeOf(read, m_out.file.settings.curves);
        m_out.file.format = "LAS " + read.version;
        if (m_out.file.settings.idFromFileName) content.hole.id = std::filesystem::path(m_out.file.name).stem().string();
        m_out.file.findings = read.findings;
        append(m_out.file.findings, content.findings);
        for (std::size_t c = 1; c < read.curves.size(); ++c)
            m_out.tables.push_back(
                {read.curves[c].name, read.steps(), "curve", {read.curves[c].unit, read.curves[c].description}});
        m_out.holes.push_back(std::move(content.hole));
        m_out.partial = true;
    }

    /// More than half of the first rows have a number.
    static bool holdsNumbers(const Table& table) {
        const auto hasNumber = [&](std::size_t row) {
            for (std::size_t c = 0; c < table.columns.size(); ++c)
                if (table.number(row, c)) return true;
            return false;
        };
        constexpr std::size_t kLooked = 20; // rows
        const auto rows = std::min(kLooked, table.rows.size());
        std::size_t good = 0;
        for (std::size_t r = 0; r < rows; ++r) good += hasNumber(r);
        return rows > 0 && 2 * good > rows;
    }

    /// Words that may be names of holes, and numbers beside them: somebody may say what these are.
    static bool couldBeOfHoles(const Table& table, const TableMapping& mapping) {
        return mapping.has(ColumnRole::HoleId) && holdsNumbers(table);
    }

    /// A table of points is a survey unless a column says hole.
    bool isSurvey(const Table& table, const TableMapping& mapping) const {
        using As = SourceSettings::As;
        if (m_out.file.settings.as != As::Guess) return m_out.file.settings.as == As::SurveyPoints;
        if (!surveyColumns(table).complete()) return whatItHolds(mapping).empty() && !couldBeOfHoles(table, mapping);
        if (namesHoles(table)) return false;
        using enum ColumnRole;
        return !mapping.has(Top) && !mapping.has(Base) && !mapping.has(FinalDepth) && !mapping.has(UnitTop);
    }

    /// Contacts in no log: by choice, or because the header names coordinates and a unit, and no hole.
    bool isContacts(const Table& table) const {
        using As = SourceSettings::As;
        if (m_out.file.settings.as != As::Guess) return m_out.file.settings.as == As::Contacts;
        return namesUnits(table) && contactColumns(table).inSpace() && !namesHoles(table);
    }

    void contacts(const Table& sheet) {
        m_out.file.format = "contacts";
        m_out.contacts = contactPointsOf(sheet);
        m_out.file.settings.as = SourceSettings::As::Contacts;
        append(m_out.file.findings, m_out.contacts->findings);
        const PointUnits units(m_out.file, surveyColumns(sheet));
        const double depthUnit = contactColumns(sheet).depthUnit.value_or(units.metresInUnit());
        for (auto& p : m_out.contacts->points) {
            p.place = units.inMetres(p.place);
            p.depth.metres *= depthUnit;
        }
        m_out.tables.push_back({sheet.name, sheet.rows.size(), "contacts", sheet.columns});
        if (m_out.contacts->points.empty())
            throw FileError(fmt::format("{} has no row with a unit and a position. {}", m_out.file.name,
                                        m_out.contacts->findings.empty() ? "" : m_out.contacts->findings.front().message));
    }

    /// Values at points in space: by choice, or because the header names coordinates and a value, and neither hole nor unit.
    bool isValues(const Table& table) const {
        using As = SourceSettings::As;
        if (m_out.file.settings.as != As::Guess) return m_out.file.settings.as == As::Values;
        return namesValues(table) && valueColumns(table).complete() && !namesUnits(table) && !namesHoles(table);
    }

    void values(const Table& sheet) {
        m_out.file.format = "values";
        m_out.values = valuePointsOf(sheet);
        m_out.file.settings.as = SourceSettings::As::Values;
        append(m_out.file.findings, m_out.values->findings);
        const PointUnits units(m_out.file, surveyColumns(sheet));
        std::size_t read = 0;
        for (auto& source : m_out.values->sources) {
            if (units.changesAnything()) movePoints(source, [&](ValuePoint& p) { p.place = units.inMetres(p.place); });
            read += source.points.size();
        }
        m_out.tables.push_back({sheet.name, sheet.rows.size(), "values", sheet.columns});
        if (read == 0)
            throw FileError(fmt::format("{} has no row with a position and a value. {}", m_out.file.name,
                                        m_out.values->findings.empty() ? "" : m_out.values->findings.front().message));
    }

    template <typename Change>
    static void movePoints(ValueSource& source, Change&& change) {
        auto points = *source.points;
        for (auto& p : points) change(p);
        source.points = std::move(points);
    }

    /// Whether a cell names a unit of the project, or a kind of ground.
    bool isUnitWord(const std::string& word) const {
        return std::ranges::any_of(m_site.units, [&](const auto& u) { return equalNoCase(u, word); })
               || (word.size() > 2 && !principalMaterial(word).empty());
    }

    /// The column of a table of points of which at least half of the filled cells name units or kinds of ground: nobody codes
    /// features of the ground so.
    std::optional<std::size_t> columnOfUnits(const Table& sheet) const {
        constexpr std::size_t kLooked = 2000; // rows
        const auto points = surveyColumns(sheet);
        for (std::size_t c = 0; c < sheet.columns.size(); ++c) {
            if (c == points.easting || c == points.northing || c == points.level) continue;
            std::map<std::string, bool> known;
            std::size_t filled = 0, units = 0;
            for (std::size_t r = 0; r < std::min(kLooked, sheet.rows.size()); ++r) {
                const std::string word(sheet.cell(r, c));
                if (word.empty()) continue;
                ++filled;
                const auto [at, isNew] = known.try_emplace(word);
                if (isNew) at->second = !isNumber(word, sheet.decimalComma) && isUnitWord(word);
                units += at->second;
            }
            if (filled > 0 && 2 * units >= filled) return c;
        }
        return {};
    }

    /// Asks what the rows are, if a column names units; that column is then the one of codes, or of units.
    void askWhetherContacts(const Table& sheet) {
        auto& settings = m_out.file.settings;
        const auto units = settings.as == SourceSettings::As::Guess ? columnOfUnits(sheet) : std::nullopt;
        m_out.asksWhetherContacts = units.has_value();
        if (!units || surveyColumns(sheet).code == units) return;
        settings.columns = sheet.columns;
        std::ranges::replace(settings.columns, std::string("code"), std::string());
        settings.columns[*units] = "code";
        m_out.survey.reset(); // once more with the codes
        auto again = sheet;
        again.columns = settings.columns;
        m_out.survey = m_text ? surveyOf(*m_text, again, m_progress) : surveyOf(again);
    }

    void tables(std::vector<Table> sheets, const char* format) {
        auto& file = m_out.file;
        file.format = format;
        m_out.partial = true;
        if (sheets.size() == 1 && !nameColumns(sheets.front())) {
            ask(sheets.front());
            m_out.sheets = std::move(sheets);
            return;
        }
        std::vector<std::optional<Point2>> degrees; // of m_out.holes
        for (auto& sheet : sheets) {
            correct(sheet);
            const auto known = file.settings.mappings.find(sheet.name);
            auto mapping = known == file.settings.mappings.end() ? guessMapping(sheet) : known->second;
            mapping.roles.resize(sheet.columns.size(), ColumnRole::Ignored);
            mapping.units.resize(sheet.columns.size());
            if (sheets.size() == 1 && isContacts(sheet)) {
                contacts(sheet);
            } else if (sheets.size() == 1 && isValues(sheet)) {
                values(sheet);
            } else if (sheets.size() == 1 && isSurvey(sheet, mapping)) {
                survey(sheet);
            } else {
                m_out.tables.push_back({sheet.name, sheet.rows.size(), whatItHolds(mapping), sheet.columns});
                if (!m_out.tables.back().feeds.empty()) {
                    auto read = holesOf(sheet, ownUnitsLeft(mapping), "");
                    append(file.findings, read.findings);
                    for (std::size_t i = 0; i < read.holes.size(); ++i) {
                        const auto at = join(read.holes[i]);
                        degrees.resize(m_out.holes.size());
                        if (read.degrees[i]) degrees[at] = read.degrees[i];
                    }
                }
                file.settings.mappings[sheet.name] = std::move(mapping);
            }
            m_out.sheets.push_back(std::move(sheet));
        }
        m_out.holes.changeEach([&](Hole& h) { h.file = file.name; });
        takeDegrees(degrees, "", "");
        if (m_out.holes.empty() && !m_out.isGround() && file.findings.empty()) {
            const bool namesHole =
                std::ranges::any_of(file.settings.mappings, [](const auto& m) { return m.second.has(ColumnRole::HoleId); });
            file.findings.push_back({Severity::Warning, "FC-TABLE", file.name, 0, "", "", "",
                                     namesHole ? "What the rows hold can't be told from the headings and values."
                                               : "No column says which hole a row is of."});
        }
    }

    /// Coordinates of another system stay in that system's unit until they are moved to the site's.
    TableMapping ownUnitsLeft(TableMapping mapping) const {
        if (m_out.file.settings.crs.empty()) return mapping;
        for (std::size_t c = 0; c < std::min(mapping.units.size(), mapping.roles.size()); ++c)
            if (mapping.roles[c] == ColumnRole::Easting || mapping.roles[c] == ColumnRole::Northing) mapping.units[c].clear();
        return mapping;
    }

    /// Gives names to the columns of a table of points whose header says nothing. False if the values don't tell them.
    bool nameColumns(Table& sheet) {
        auto& settings = m_out.file.settings;
        using As = SourceSettings::As;
        const bool named = !settings.columns.empty() || settings.mappings.contains(sheet.name);
        if (named || settings.as == As::HoleTable || surveyColumns(sheet).complete()) return true;
        if (contactColumns(sheet).complete() && settings.as != As::SurveyPoints && namesUnits(sheet)) return true;
        if (settings.as == As::Values && valueColumns(sheet).complete()) return true;
        // names of units without a header are no names of holes
        const bool ofHoles = namesHoles(sheet) || !whatItHolds(guessMapping(sheet)).empty();
        if (settings.as == As::Guess && ofHoles && !(hasNoHeader(sheet) && columnOfUnits(sheet))) return true;
        auto rows = withoutHeader(sheet);
        m_out.guess = guessSurvey(rows, sheet.decimalComma, {m_site.data, settings.crs.empty() ? m_siteCrs : settings.crs});
        if (!m_out.guess) return true; // read on: somebody may say what it is
        if (m_out.guess->order == SurveyGuess::Order::Asked) return false;
        settings.columns = m_out.guess->columns;
        for (std::size_t c = 0; c < std::min(settings.columns.size(), sheet.columns.size()); ++c)
            if (Table header{"", {sheet.columns[c]}, {}}; namesUnits(header))
                settings.columns[c] = "unit"; // that much it says
            else if (const bool isFree = settings.columns[c].empty() || settings.columns[c] == "code";
                     isFree && saysValue(sheet.columns[c]))
                settings.columns[c] = sheet.columns[c];
        if (settings.as == As::Values)
            for (auto& c : settings.columns)
                if (c.empty() || c == "code") c = "value";
        sheet.rows = std::move(rows);
        sheet.columns = settings.columns;
        return true;
    }

    static bool hasNoHeader(const Table& sheet) {
        return std::ranges::any_of(sheet.columns, [&](const std::string& c) { return isNumber(c, sheet.decimalComma); });
    }

    /// The rows, with the first one if it is none that could name columns.
    static std::vector<Table::Row> withoutHeader(const Table& sheet) {
        auto rows = sheet.rows;
        if (hasNoHeader(sheet)) rows.insert(rows.begin(), {rows.empty() ? 1 : std::max(1, rows.front().line - 1), sheet.columns});
        return rows;
    }
    static bool isNumber(std::string text, bool decimalComma) {
        if (decimalComma) std::ranges::replace(text, ',', '.');
        return parseNumber(text).has_value();
    }

    /// Points whose order of columns has to be asked: rows without names.
    void ask(Table& sheet) {
        m_out.file.format = "survey points";
        sheet.rows = withoutHeader(sheet);
        sheet.columns.assign(m_out.guess->columns.size(), "");
        m_out.tables.push_back({sheet.name, sheet.rows.size(), "ground", {}});
    }

    /// Numbers whose values don't tell what they are: somebody may say so.
    void askFreely(Table& sheet) {
        m_out.guess = SurveyGuess{std::vector<std::string>(sheet.columns.size()), SurveyGuess::Order::Asked,
                                  "No columns of coordinates and levels are found, by name or by their values. Say over the "
                                  "columns what they hold, or what the rows are."};
        ask(sheet);
    }

    void survey(Table& sheet) {
        m_out.file.format = "survey points";
        if (m_out.file.settings.as == SourceSettings::As::Guess && !surveyColumns(sheet).complete()) {
            if (sheet.columns.size() >= 3 && holdsNumbers(sheet)) return askFreely(sheet);
            throw FileError(
                fmt::format("{} is not a table of holes or survey points: no columns of coordinates and levels are found "
                            "in it. If there are, name them in order.",
                            m_out.file.name));
        }
        m_out.survey = m_text ? surveyOf(*m_text, sheet, m_progress) : surveyOf(sheet);
        askWhetherContacts(sheet);
        append(m_out.file.findings, m_out.survey->findings);
        const PointUnits units(m_out.file, surveyColumns(sheet));
        if (units.changesAnything())
            for (auto& p : m_out.survey->points) p.place = units.inMetres(p.place);
        m_out.tables.push_back({sheet.name, sheet.rows.size(), "ground", sheet.columns});
        if (m_out.survey->points.empty())
            throw FileError(fmt::format("{} has no row with an easting, a northing and a level.", m_out.file.name));
    }

    /// Cells of a table that were corrected in the project.
    void correct(Table& sheet) const {
        for (const auto& c : changesIn(m_corrections, m_out.file.name))
            if (const auto column = sheet.column(c.heading))
                for (auto& row : sheet.rows)
                    if (row.line == c.line && *column < row.cells.size()) row.cells[*column] = c.value;
    }

    /// Sheets of one workbook speak of the same holes. Which one of m_out.holes it is.
    std::size_t join(const Hole& hole) {
        auto& places = m_placesById[hole.id];
        for (const auto i : places)
            if (hole.project.empty() || m_out.holes[i].project == hole.project) {
                addTo(m_out.holes.change(i), hole);
                return i;
            }
        places.push_back(m_out.holes.size());
        m_out.holes.push_back(hole);
        return places.back();
    }

    /// The places of survey points, contacts in space and values, to be looked at or changed.
    template <typename Use>
    void eachPlace(Use&& use) {
        if (m_out.survey)
            for (auto& p : m_out.survey->points) use(p.place);
        if (m_out.contacts)
            for (auto& p : m_out.contacts->points)
                if (p.hole.empty()) use(p.place);
        if (m_out.values)
            for (auto& source : m_out.values->sources) movePoints(source, [&](ValuePoint& p) { use(p.place); });
    }

    void toSiteSystem() {
        const auto& crs = m_out.file.settings.crs;
        if (crs.empty() || m_siteCrs.empty() || crs == m_siteCrs || m_out.file.settings.localGrid) return;
        const CoordinateChange toSite(crs, m_siteCrs);
        int lost = 0;
        for (std::size_t i = 0; i < m_out.holes.size(); ++i)
            if (const auto p = m_out.holes[i].place()) {
                auto& h = m_out.holes.change(i);
                const auto there = toSite.forward(*p);
                h.easting = there ? std::optional(there->x) : std::nullopt;
                h.northing = there ? std::optional(there->y) : std::nullopt;
                lost += !there;
            }
        eachPlace([&](Point3& p) {
            const auto there = toSite.forward(p.plan());
            if (there) p.x = there->x, p.y = there->y;
            lost += !there;
        });
        if (lost > 0)
            m_out.file.findings.push_back(
                {Severity::Error, "FC-SYSTEM", m_out.file.name, 0, "", "", "",
                 fmt::format("{} where {} does not reach.", counted(std::size_t(lost), "place lies", "places lie"), crs)});
    }

    ImportPreview m_out;
    std::unordered_map<std::string, std::vector<std::size_t>> m_placesById; ///< of m_out.holes
    const SeparatedText* m_text = nullptr;                                  ///< of which the table is a sample
    std::size_t m_rows = 0;                                                 ///< in it
    const SiteContext& m_site;
    const std::string& m_siteCrs;
    const std::vector<Correction>& m_corrections;
    const Progress& m_progress;
};

} // namespace

SiteContext::SiteContext(const Project& project) : crs(project.site->crs) {
    if (const auto frame = frameOf(project)) data = frame->box();
    for (const auto& u : project.sequence->units) {
        units.push_back(u.code);
        if (u.name != u.code) units.push_back(u.name);
    }
}

ImportPreview readSource(SourceFile file, const SiteContext& site, const std::vector<Correction>& corrections,
                         const Progress& progress) {
    const auto path = file.path;
    if (isArchiveName(file.name)) {
        if (archivePlace(path).file.empty()) (void)filesInArchive(path); // says what is wrong with it
        throw FileError(fmt::format("{} is an archive: unpack it and import the files in it.", file.name));
    }
    const LocalFile local(path);
    file.path = local.path().string();
    auto out = SourceReader(std::move(file), site, corrections, progress).make();
    out.file.path = path;
    const bool ags = out.file.format.starts_with("AGS") && !path.empty();
    if (const auto beside = ags ? filesInFileFolder(path) : 0; beside > 0)
        out.file.findings.push_back(
            {Severity::Note, "FC-FILES", out.file.name, 0, "", "", "",
             fmt::format("{} in its FILE folder (photographs, reports).",
                         counted(beside, "file is not imported that lies", "files are not imported that lie"))});
    return out;
}

std::string correctedBytes(const Project& project, const SourceFile& file) {
    if (!file.format.starts_with("AGS")) return *file.bytes;
    return withChanges(*file.bytes, file.name, changesIn(*project.corrections, file.name));
}

} // namespace fox
