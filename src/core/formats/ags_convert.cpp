#include "formats/ags_convert.h"

#include "base/text.h"
#include "formats/ags_build.h"
#include "formats/ags_check.h"

#include <algorithm>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <map>
#include <set>
#include <utility>

namespace fox {

namespace {

struct Target {
    std::string group, heading;
};

/// Where headings of edition 3 go.
class Table {
public:
    Table() {
        const auto file = readAgs(
#include "ags3_to_4.text.h"
            , "conversion");
        const auto& g = *file.group("CONV");
        for (std::size_t r = 0; r < g.rows.size(); ++r) {
            const auto at = [&](std::size_t c) { return std::string(g.cell(r, c)); };
            m_targets[at(0) + '.' + at(1)] = {at(2), at(3)};
            if (at(0) != "*") m_groups.try_emplace(at(0)).first->second.insert(at(2));
        }
    }
    static const Table& get() {
        static const Table kTable;
        return kTable;
    }
    /// Of a heading in a group; group "*" of the target is the row's own.
    const Target* of(const std::string& group, const std::string& heading) const {
        for (const auto& g : {group, std::string("*")})
            if (const auto at = m_targets.find(g + '.' + heading); at != m_targets.end()) return &at->second;
        return nullptr;
    }
    const std::set<std::string>* groupsOf(const std::string& group) const {
        const auto at = m_groups.find(group);
        return at == m_groups.end() ? nullptr : &at->second;
    }

private:
    std::map<std::string, Target> m_targets;
    std::map<std::string, std::set<std::string>> m_groups;
};

/// Without the mark of what is a file's own; ?ETH is how edition 3 files write the weathering that edition 4 has as WETH.
std::string bare(const std::string& name) {
    if (name.starts_with("?ETH")) return std::string("W").append(name, 1);
    return name.starts_with('?') ? name.substr(1) : name;
}

/// A month by its number or the first three letters of its English name.
std::optional<int> monthOf(std::string_view text) {
    static constexpr std::string_view kMonths[] = {"jan", "feb", "mar", "apr", "may", "jun",
                                                   "jul", "aug", "sep", "oct", "nov", "dec"};
    if (const auto number = parseNumber(text)) return int(*number);
    const auto at = std::ranges::find(kMonths, std::string_view(lower(text.substr(0, 3))));
    return at == std::end(kMonths) ? std::nullopt : std::optional(int(at - kMonths) + 1);
}

/// "11/10/2016", "1/2/04", "01-Feb-2004", "1.2.2004" as "2016-10-11", if it is such a date: day, month, year. Two figures of a
/// year are of this century up to 49.
std::optional<std::string> isoDate(std::string_view cell) {
    if (fitsType(cell, "DT", "yyyy-mm-dd")) return std::string(cell);
    for (const char separator : {'/', '-', '.'}) {
        const auto parts = split(cell, separator);
        if (parts.size() != 3) continue;
        const auto day = parseNumber(parts[0]), year = parseNumber(parts[2]);
        const auto month = monthOf(parts[1]);
        const bool isShort = parts[2].size() == 2;
        if (!day || !month || !year || *day < 1 || *day > 31 || (!isShort && parts[2].size() != 4)) continue;
        const int whole = int(*year) + (!isShort ? 0 : *year < 50 ? 2000 : 1900);
        auto date = fmt::format("{:04}-{:02}-{:02}", whole, *month, int(*day));
        if (fitsType(date, "DT", "yyyy-mm-dd")) return date;
    }
    return {};
}

/// "1435" or "14:35" as "14:35"; "143500" keeps its seconds.
std::optional<std::string> isoTime(std::string_view cell) {
    std::string digits;
    for (const char c : cell)
        if (c >= '0' && c <= '9')
            digits += c;
        else if (c != ':' && c != ' ' && c != '.')
            return {}; // not a time: "spring 2004"
    if (digits.size() == 3) digits.insert(0, "0");
    if (digits.size() != 4 && digits.size() != 6) return {};
    auto out = digits.substr(0, 2) + ":" + digits.substr(2, 2);
    if (digits.size() == 6) out += ":" + digits.substr(4, 2);
    return out;
}

class Converter {
public:
    explicit Converter(const AgsFile& file) : m_file(file) {}

    AgsConversion convert() {
        m_builder.add("PROJ", {});
        m_builder.add("TRAN", {});
        for (const auto& g : m_file.groups) {
            if (g.name == "PROJ")
                convertProject(g);
            else if (g.name == "ABBR" || g.name == "UNIT" || g.name == "DICT" || g.name == "CODE")
                continue;
            else
                convertGroup(g);
        }
        convertLists();
        finishTransmission();
        linkReadings();
        if (m_oddDates > 0)
            m_notes.push_back(fmt::format("{}, the first on line {}: kept as written.",
                                          counted(m_oddDates, "date is none that can be read", "dates are none that can be read"),
                                          m_firstOddDate));
        AgsConversion out;
        out.text = m_builder.text(m_notes);
        out.notes = std::move(m_notes);
        return out;
    }

private:
    using Row = AgsBuilder::Row;

    void convertProject(const AgsGroup& g) {
        if (g.rows.empty()) return;
        auto& project = m_builder.rows("PROJ").front();
        auto& tran = m_builder.rows("TRAN").front();
        for (std::size_t c = 0; c < g.headings.size(); ++c) {
            const std::string value(trimmed(g.cell(0, c)));
            if (value.empty() || g.headings[c] == "PROJ_AGS") continue;
            const auto* target = Table::get().of("PROJ", g.headings[c]);
            if (target && target->group == "TRAN")
                tran[target->heading] = isoDate(value).value_or(value);
            else if (target || g.headings[c] == "FILE_FSET")
                project[target ? target->heading : "FILE_FSET"] = value;
            else
                project[ownHeading("PROJ", g.headings[c])] = value;
        }
        if (g.rows.size() > 1) m_notes.push_back("PROJ has more than one row; the first is carried over.");
    }

    void finishTransmission() {
        auto& tran = m_builder.rows("TRAN").front();
        auto& project = m_builder.rows("PROJ").front();
        if (project["PROJ_ID"].empty()) project["PROJ_ID"] = m_file.name;
        tran["TRAN_AGS"] = "4.1";
        tran["TRAN_DLIM"] = "|";
        tran["TRAN_RCON"] = "+";
        if (tran["TRAN_ISNO"].empty()) tran["TRAN_ISNO"] = "1";
        if (const auto contractor = project.find("PROJ_CONT"); contractor != project.end())
            tran.try_emplace("TRAN_PROD", contractor->second);
        std::vector<std::string> missing;
        for (const char* required : {"TRAN_DATE", "TRAN_PROD", "TRAN_STAT", "TRAN_RECV"})
            if (tran[required].empty()) {
                tran[required] = "Not given";
                missing.push_back(required);
            }
        if (!missing.empty())
            m_notes.push_back(fmt::format("AGS 4.1 asks for {}, which the AGS 3 file does not give: written as \"Not given\".",
                                          fmt::join(missing, ", ")));
    }

    /// A heading of one's own in a group of 4.1, defined in DICT; its name.
    std::string ownHeading(const std::string& group, const std::string& heading) {
        auto name = bare(heading);
        const auto tail = name.substr(std::min(name.size(), name.find('_') + 1));
        const auto* owner = AgsDictionary::standard(AgsEdition::Ags4).ownerOf(name);
        if (!owner) name = (group + "_" + tail).substr(0, 9);
        if (AgsDictionary::standard(AgsEdition::Ags4).heading(group, name)) return name;
        if (!m_own.insert(group + '.' + name).second) return name;
        const auto* rule = AgsDictionary::standard(AgsEdition::Ags3).heading(heading.substr(0, 4), heading);
        m_builder.define(group, name, rule ? rule->description : definitionOf(heading));
        m_notes.push_back(fmt::format("{} has no place in AGS 4.1; it is kept as {}, defined in DICT.", heading, name));
        return name;
    }

    /// What the file's own DICT says of a heading or group.
    std::string definitionOf(const std::string& name) const {
        const auto* dict = m_file.group("DICT");
        const auto group = dict ? dict->column("DICT_GRP") : std::nullopt,
                   heading = dict ? dict->column("DICT_HDNG") : std::nullopt,
                   words = dict ? dict->column("DICT_DESC") : std::nullopt;
        for (std::size_t r = 0; words && r < dict->rows.size(); ++r) {
            const auto h = heading ? trimmed(dict->cell(r, *heading)) : std::string_view();
            const auto subject = h.empty() && group ? trimmed(dict->cell(r, *group)) : h;
            if (bare(upper(subject)) == bare(name)) return std::string(trimmed(dict->cell(r, *words)));
        }
        return {};
    }

    void convertGroup(const AgsGroup& g) {
        const auto name = bare(g.name);
        const auto& four = AgsDictionary::standard(AgsEdition::Ags4);
        const auto* targets = Table::get().groupsOf(name);
        std::string main = name == "HOLE" ? "LOCA" : name;
        if (targets && !targets->contains(main)) main = *targets->begin();
        if (name == "WSTK") main = "WSTG";
        const bool known = four.group(main) != nullptr;
        if (!known) {
            m_builder.define(main, "", definitionOf(g.name), "LOCA");
            m_notes.push_back(
                fmt::format("Group {} has no place in AGS 4.1; it is kept as a group of its own, defined in DICT.", g.name));
        }
        std::vector<Target> to;
        for (const auto& h : g.headings) to.push_back(targetOf(name, main, known, h));
        carryUnits(g, to);
        for (std::size_t r = 0; r < g.rows.size(); ++r) convertRow(g, r, main, to);
    }

    Target targetOf(const std::string& group, const std::string& main, bool known, const std::string& heading) {
        const auto& four = AgsDictionary::standard(AgsEdition::Ags4);
        if (group == "POBS" && heading == "POBS_HEAD") return {main, "MOND_RDNG"}; // see addHead()
        const auto plain = heading.starts_with("?ETH") ? bare(heading) : heading;
        if (const auto* t = Table::get().of(group, plain)) {
            const auto to = t->group == "*" ? main : t->group;
            const auto* group3 = AgsDictionary::standard(AgsEdition::Ags3).heading(group, plain);
            if (!known)
                m_builder.define(main, t->heading, "Link to the hole");
            else if (four.group(to) && !four.heading(to, t->heading))
                m_builder.define(to, t->heading, group3 ? group3->description : "");
            return {to, t->heading};
        }
        if (known && four.heading(main, plain)) return {main, plain};
        if (known) return {main, ownHeading(main, heading)};
        const auto name = bare(heading);
        m_builder.define(main, name, definitionOf(heading));
        return {main, name};
    }

    void carryUnits(const AgsGroup& g, const std::vector<Target>& to) {
        for (std::size_t c = 0; c < g.headings.size() && c < g.units.size(); ++c) {
            const std::string unit(trimmed(g.units[c]));
            const auto* rule = AgsDictionary::standard(AgsEdition::Ags4).heading(to[c].group, to[c].heading);
            const bool dated = unit.find("yy") != unit.npos || unit.find("hh") != unit.npos || (rule && rule->type == "DT");
            if (unit.empty() || dated || (rule && rule->unit == unit)) continue;
            m_builder.setUnit(to[c].heading, unit);
        }
    }

    void convertRow(const AgsGroup& g, std::size_t r, std::string main, std::vector<Target> to) {
        if (isEffective(g, r)) toEffectiveStress(main, to);
        std::map<std::string, Row> rows;
        rows[main];
        Row keys;
        for (std::size_t c = 0; c < g.headings.size(); ++c) {
            std::string value(trimmed(g.cell(r, c)));
            if (value.empty() || g.headings[c] == "POBS_HEAD") continue; // see addHead()
            const auto* rule = AgsDictionary::standard(AgsEdition::Ags4).heading(to[c].group, to[c].heading);
            if (rule && rule->type == "DT") {
                addMoment(rows[to[c].group][to[c].heading], value, g.rows[r].line);
                continue;
            }
            if (to[c].group == main && rule && rule->key) keys[to[c].heading] = value;
            rows[to[c].group][to[c].heading] = std::move(value);
        }
        if (g.name == "STCN") rows["SCPG"]["SCPG_TESN"] = rows["SCPT"]["SCPG_TESN"] = keys["SCPG_TESN"] = "1";
        if (g.name == "HOLE") dropFlatPath(rows);
        for (auto& [group, row] : rows) {
            const auto* rule = AgsDictionary::standard(AgsEdition::Ags4).group(group);
            for (const auto& [heading, value] : keys)
                if (rule && rule->heading(heading)) row.try_emplace(heading, value);
            complete(group, row, rows[main]);
        }
        // the strike is one row, its readings are many
        if (g.name == "WSTK") {
            const auto strike = rows["WSTG"]["LOCA_ID"] + '\x1f' + rows["WSTG"]["WSTG_DPTH"];
            if (!m_strikes.insert(strike).second) rows.erase("WSTG");
        }
        if (g.name == "STCN" && !m_strikes.insert("SCPG" + rows["SCPG"]["LOCA_ID"]).second) rows.erase("SCPG");
        if (g.name == "POBS") addHead(g, r, rows["MOND"]);
        const bool several = g.name == "CLSS" || g.name == "ROCK"; // tests in one row
        if (several) spreadRemark(g, r, rows);
        if (!several || rows.size() == 1) {
            for (auto& [group, row] : rows) m_builder.add(group, std::move(row));
        } else { // perhaps none of the main one
            for (auto& [group, row] : rows)
                if (std::ranges::any_of(row, [&name = group](const auto& cell) { return cell.first.starts_with(name + "_"); }))
                    m_builder.add(group, std::move(row));
        }
    }

    /// Tests of effective stress have groups of their own in 4.1: what TRIG calls CU or CD, with its stages.
    bool isEffective(const AgsGroup& g, std::size_t r) {
        if (g.name != "TRIG" && g.name != "TRIX") return false;
        const auto specimen = [&](const AgsGroup& of, std::size_t row) {
            std::string key;
            for (const char* h : {"HOLE_ID", "SAMP_TOP", "SAMP_REF", "SAMP_TYPE", "SPEC_REF", "SPEC_DPTH"})
                if (const auto c = of.column(h)) key.append(trimmed(of.cell(row, *c))) += '\x1f';
            return key;
        };
        if (!std::exchange(m_effectiveRead, true))
            if (const auto* general = m_file.group("TRIG"))
                if (const auto type = general->column("TRIG_TYPE"))
                    for (std::size_t k = 0; k < general->rows.size(); ++k)
                        if (const auto said = upper(trimmed(general->cell(k, *type)));
                            said.starts_with("CU") || said.starts_with("CD"))
                            m_effective.insert(specimen(*general, k));
        return m_effective.contains(specimen(g, r));
    }

    void toEffectiveStress(std::string& main, std::vector<Target>& to) {
        const auto& four = AgsDictionary::standard(AgsEdition::Ags4);
        main = main == "TRIG" ? "TREG" : "TRET";
        for (auto& t : to) {
            if (t.group != "TRIG" && t.group != "TRIT") continue;
            t.group = main;
            if (!t.heading.starts_with("TRI")) continue; // of the sample, or a stage's number
            const auto tail = t.heading.substr(5);
            const auto name = main + "_" + (tail == "SLEN" ? "LEN" : tail);
            t.heading = four.heading(main, name) ? name : ownHeading(main, name);
        }
    }

    /// 0 stands for a vertical hole in files of edition 3, and would be a horizontal one in 4.1.
    void dropFlatPath(std::map<std::string, Row>& rows) {
        const auto path = rows.find("HORN");
        if (path == rows.end()) return;
        const auto inclination = parseNumber(path->second["HORN_INCL"]);
        if (inclination && *inclination > 0 && *inclination <= 90) return;
        if (inclination && std::exchange(m_saidFlat, true) == false)
            m_notes.push_back("Holes whose HOLE_INCL is 0 or none that can be are vertical: no HORN rows are written for them.");
        if (inclination || path->second["HORN_ORNT"].empty()) rows.erase(path);
    }

    /// A head is another kind of reading than a depth: a row of its own.
    void addHead(const AgsGroup& g, std::size_t r, Row& depth) {
        const auto column = g.column("POBS_HEAD");
        const std::string head(column ? trimmed(g.cell(r, *column)) : std::string_view());
        if (head.empty()) return;
        const bool hasDepth = !depth["MOND_RDNG"].empty();
        auto row = depth;
        row["MOND_RDNG"] = head, row["MOND_TYPE"] = "WHD";
        m_builder.describe("MOND_TYPE", "WHD", "Head of water over the instrument");
        hasDepth ? m_builder.add("MOND", std::move(row)) : void(depth = std::move(row));
    }

    /// A remark on a row of several tests is one on each of them.
    static void spreadRemark(const AgsGroup& g, std::size_t r, std::map<std::string, Row>& rows) {
        const auto column = g.column(g.name + "_REM");
        const std::string remark(column ? trimmed(g.cell(r, *column)) : std::string_view());
        for (auto& [group, row] : rows) {
            row.erase(group + "_REM");
            const bool isTest =
                std::ranges::any_of(row, [&name = group](const auto& c) { return c.first.starts_with(name + "_"); });
            if (!remark.empty() && isTest) row[group + "_REM"] = remark;
        }
    }

    /// A date and a time that become one value, in whichever order they come.
    void addMoment(std::string& value, const std::string& cell, int line) {
        if (const auto date = isoDate(cell))
            value = value.starts_with("T") ? *date + value : *date;
        else if (const auto time = isoTime(cell); time && !value.empty())
            value += "T" + *time;
        else if (time)
            value = "T" + *time;
        else {
            value += cell;
            if (m_oddDates++ == 0) m_firstOddDate = line;
        }
    }

    /// Headings that 4.1 has and the row of 3.1 implies.
    static void complete(const std::string& group, Row& row, const Row& hole) {
        const auto copy = [&](const char* from, const char* to) {
            if (const auto at = hole.find(from); at != hole.end()) row.try_emplace(to, at->second);
        };
        if (group == "HDPH" || group == "HORN") {
            copy("LOCA_ID", "LOCA_ID");
            row.try_emplace(group + "_TOP", "0.00");
            copy("LOCA_FDEP", group == "HDPH" ? "HDPH_BASE" : "HORN_BASE");
        }
        if (group == "WSTD") {
            copy("LOCA_ID", "LOCA_ID");
            copy("WSTG_DPTH", "WSTG_DPTH");
        }
        // what edition 3 has no number for
        if (group == "DPRG" || group == "DPRB") row.try_emplace("DPRG_TESN", "1");
        if (group == "IPRG") row.try_emplace("IPRG_TESN", "1"), row.try_emplace("IPRG_STG", "1");
        if (group == "MOND") row.try_emplace("MOND_TYPE", "WDEP"), row.try_emplace("MOND_UNIT", "m");
    }

    /// Monitoring points need a name; readings need their point's.
    void linkReadings() {
        if (m_builder.has("MOND")) m_builder.describe("MOND_TYPE", "WDEP", "Depth to water");
        for (const char* group : {"MONG", "MOND"})
            if (m_builder.has(group))
                for (auto& row : m_builder.rows(group))
                    if (row["MONG_ID"].empty()) row["MONG_ID"] = nameOfPoint(row);
    }

    std::string nameOfPoint(Row& row) {
        for (auto& point : m_builder.rows("MONG"))
            if (point["LOCA_ID"] == row["LOCA_ID"] && point["MONG_DIS"] == row["MONG_DIS"] && !point["MONG_ID"].empty())
                return point["MONG_ID"];
        return "at " + (row["MONG_DIS"].empty() ? "unknown depth" : row["MONG_DIS"] + " m");
    }

    void convertLists() {
        const auto each = [&](const char* group, std::initializer_list<const char*> headings, auto&& use) {
            const auto* g = m_file.group(group);
            if (!g) return;
            for (std::size_t r = 0; r < g->rows.size(); ++r) {
                std::vector<std::string> cells;
                for (const char* h : headings) {
                    const auto c = g->column(h);
                    cells.push_back(c ? std::string(trimmed(g->cell(r, *c))) : std::string());
                }
                use(cells);
            }
        };
        each("ABBR", {"ABBR_HDNG", "ABBR_CODE", "ABBR_DESC"}, [&](const auto& c) {
            const auto heading = bare(c[0]);
            const auto group = heading.substr(0, heading.find('_'));
            const auto* target = Table::get().of(group, heading);
            m_builder.describe(target ? target->heading : heading, c[1], c[2]);
        });
        each("CODE", {"CODE_CODE", "CODE_DESC"}, [&](const auto& c) { m_builder.describe("GCHM_CODE", c[0], c[1]); });
        each("UNIT", {"UNIT_UNIT", "UNIT_DESC"}, [&](const auto& c) { m_builder.describeUnit(c[0], c[1]); });
    }

    const AgsFile& m_file;
    AgsBuilder m_builder;
    std::vector<std::string> m_notes;
    std::set<std::string> m_own, m_strikes, m_effective;
    std::size_t m_oddDates = 0;
    int m_firstOddDate = 0;
    bool m_effectiveRead = false, m_saidFlat = false;
};

} // namespace

AgsConversion toAgs41(const AgsFile& file) {
    if (file.edition == AgsEdition::Ags4) throw UsageError(fmt::format("{} is AGS {} already.", file.name, file.version));
    return Converter(file).convert();
}

} // namespace fox
