#include "views/table_content.h"

#include "views/excavation_table.h"

#include "style/words.h"
#include "views/number_box.h"
#include "views/point_tables.h"

#include "base/errors.h"
#include "base/text.h"
#include "base/written_number.h"
#include "importing/file_edits.h"
#include "project/remedies.h"
#include "sequence/description.h"
#include "style/theme.h"

#include <unordered_map>

namespace fox::app {

namespace {

/// @throws Error if it is not a number
double numberIn(const QString& typed) {
    const auto value = typedNumber(typed);
    if (!value) throw Error("\"" + typed.toStdString() + "\" is not a number.");
    return *value;
}

/// Puts what was typed into a column of the table of holes. @throws Error
void take(Hole& h, int column, const QString& typed) {
    if (column == HoleKindColumn) {
        h.type = typed.trimmed().toStdString();
        return;
    }
    const double value = numberIn(typed);
    switch (column) {
    case HoleEasting: h.easting = value; break;
    case HoleNorthing: h.northing = value; break;
    case HoleLevelColumn: h.level = Level{value}; break;
    case HoleFinalDepth: h.finalDepth = Depth{value}; break;
    default: throw Error("This value can't be edited.");
    }
}

class HolesContent : public TableContent {
public:
    explicit HolesContent(std::shared_ptr<const ProductSet> products)
        : m_products(std::move(products)), m_names(displayNames(holes())) {
        m_columns = {{tr("Hole"), false, true, tr("what it is called in the project; the file keeps its own id"), 88},
                     {tr("Kind"), false, true, tr("as the standard abbreviates it: RC, CP, TP"), 112},
                     {tr("Easting"), true, true, tr("metres"), 88},
                     {tr("Northing"), true, true, tr("metres"), 96},
                     {tr("Ground level"), true, true, tr("metres"), 92},
                     {tr("Final depth"), true, true, tr("metres"), 84},
                     {tr("Intervals"), true, false, tr("how many are logged"), 66, true},
                     {tr("Tests"), true, false, tr("SPT, samples and core runs"), 56, true},
                     {tr("Project"), false, false, {}, 80, true},
                     {tr("Source"), false, false, {}, 118},
                     {tr("Finding"), false, false, tr("the worst of the hole"), 300}};
        m_worst.resize(holes().size());
        std::unordered_map<std::string_view, std::size_t> index;
        for (std::size_t i = 0; i < m_names.size(); ++i) index.emplace(m_names[i], i);
        // findings are sorted, so the first that names a hole is its worst
        for (const auto& f : *m_products->findings)
            if (const auto at = f.hole.empty() ? index.end() : index.find(f.hole); at != index.end() && !m_worst[at->second])
                m_worst[at->second] = &f;
    }

    QString name() const override { return tr("holes"); }
    int rows() const override { return int(holes().size()); }
    QString hole(int row) const override { return qt(m_names[std::size_t(row)]); }

    QString text(int row, int c) const override {
        const auto& h = holes()[std::size_t(row)];
        if (m_columns[std::size_t(c)].numeric) {
            const auto v = number(row, c);
            if (!v) return {};
            return c == HoleIntervals || c == HoleTests ? QString::number(*v) : coordinate(*v);
        }
        switch (c) {
        case HoleName: return hole(row);
        case HoleKindColumn: return qt(typeInWords(h.type));
        case HoleProject: return qt(h.project);
        case HoleSource: return qt(h.file);
        case HoleProblem:
            if (h.excluded) return tr("Excluded from surfaces, by you.");
            return m_worst[std::size_t(row)] ? qt(m_worst[std::size_t(row)]->message) : QString();
        default: return {};
        }
    }

    QString plain(int row, int c) const override {
        if (c == HoleKindColumn) return qt(holes()[std::size_t(row)].type);
        if (!m_columns[std::size_t(c)].numeric || c == HoleIntervals || c == HoleTests) return text(row, c);
        const auto v = number(row, c);
        return v ? QString::number(*v, 'f', 2) : QString();
    }

    std::optional<double> number(int row, int c) const override {
        const auto& h = holes()[std::size_t(row)];
        switch (c) {
        case HoleEasting: return h.easting;
        case HoleNorthing: return h.northing;
        case HoleLevelColumn: return h.level ? std::optional(h.level->metres) : std::nullopt;
        case HoleFinalDepth: return h.finalDepth ? std::optional(h.finalDepth->metres) : std::nullopt;
        case HoleIntervals: return double(h.intervals.size());
        case HoleTests: return double(h.blowCounts.size() + h.samples.size() + h.coreRuns.size());
        default: return {};
        }
    }

    QString tip(int row, int c) const override {
        const auto& h = holes()[std::size_t(row)];
        static const std::map<int, const char*> kHeadings{{HoleKindColumn, "LOCA_TYPE"},
                                                          {HoleEasting, "LOCA_NATE"},
                                                          {HoleNorthing, "LOCA_NATN"},
                                                          {HoleLevelColumn, "LOCA_GL"},
                                                          {HoleFinalDepth, "LOCA_FDEP"}};
        if (c == HoleProblem) return text(row, c);
        const auto asRead = hole(row) == qt(h.id) ? QString() : tr(", as %1").arg(qt(h.id));
        if (c == HoleName || c == HoleSource) return tr("%1, line %2").arg(qt(h.file)).arg(h.line) + asRead;
        const auto heading = kHeadings.find(c);
        if (heading == kHeadings.end()) return {};
        const auto came = tr("%1, line %2").arg(qt(h.file)).arg(h.line);
        for (const auto& name : {std::string(heading->second), "HOLE" + std::string(heading->second).substr(4)})
            if (const auto* was = correctionOf(m_products->project, h.file, h.line, name))
                return tr("%1 had %2 before it was edited").arg(came, was->before.empty() ? tr("nothing") : qt(was->before));
        return tr("From %1").arg(came);
    }

    QColor colour(int row, int c) const override {
        const auto& h = holes()[std::size_t(row)];
        if (h.excluded) return colour::muted;
        if (c != HoleProblem || !m_worst[std::size_t(row)]) {
            if (c < HoleKindColumn || c > HoleFinalDepth) return {};
            return tip(row, c).contains(tr("before it was edited")) ? colour::fox : QColor();
        }
        const auto severity = m_worst[std::size_t(row)]->severity;
        return severity == Severity::Error ? colour::red : severity == Severity::Warning ? colour::amberText : colour::muted;
    }

    Edit edit(const std::vector<Typed>& cells) const override {
        struct Value {
            std::string hole;
            int column;
            QString text;
        };
        std::vector<Value> values;
        for (const auto& cell : cells) values.push_back({m_names[std::size_t(cell.row)], cell.column, cell.text});
        auto label = cells.size() == 1 ? tr("%1 of %2").arg(m_columns[std::size_t(cells[0].column)].name, hole(cells[0].row))
                                       : tr("Set %1 values of holes").arg(cells.size());
        return [values, label = label.toStdString()](const Project& p) {
            std::vector<HoleChangeOf> changes;
            for (const auto& v : values)
                if (v.column != HoleName) changes.push_back({v.hole, [&v](Hole& h) { take(h, v.column, v.text); }});
            auto e = changeHoles(p, changes, label);
            for (const auto& v : values) // after the others, which know the holes by the names that they had
                if (v.column == HoleName) e = setHoleName(e.project, v.hole, v.text.toStdString());
            if (values.size() > 1) e.label = label;
            return e;
        };
    }

private:
    const Holes& holes() const { return *m_products->project.holes; }
    std::shared_ptr<const ProductSet> m_products;
    std::vector<std::string> m_names;
    std::vector<const Finding*> m_worst;
};

/// One group of an imported AGS file, every cell as it is in the file or was corrected.
class GroupContent : public TableContent {
public:
    GroupContent(std::shared_ptr<const AgsFile> file, const AgsGroup& group, std::shared_ptr<const ProductSet> products)
        : m_file(std::move(file)), m_group(group), m_products(std::move(products)) {
        m_columns.push_back({tr("Line"), true, false, tr("in %1").arg(qt(m_file->name)), 66});
        for (std::size_t c = 0; c < group.headings.size(); ++c) {
            const auto unit = c < group.units.size() ? qt(group.units[c]) : QString();
            const bool words = group.headings[c].ends_with("_DESC") || group.headings[c].ends_with("_REM");
            m_columns.push_back({qt(group.headings[c]), isNumeric(c), true, unit, words ? 320 : 96});
        }
        if (const auto id = group.column("LOCA_ID"); id || group.column("HOLE_ID")) m_id = id ? id : group.column("HOLE_ID");
        for (const auto& correction : *m_products->project.corrections)
            if (correction.file == m_file->name) m_corrected[correction.line] = true;
        const auto& holes = *m_products->project.holes;
        const auto names = displayNames(holes);
        for (std::size_t i = 0; i < holes.size(); ++i)
            if (holes[i].file == m_file->name) m_holes.emplace(holes[i].id, names[i]);
    }

    QString name() const override { return tr("%1 of %2").arg(qt(m_group.name), qt(m_file->name)); }
    int rows() const override { return int(m_group.rows.size()); }
    QString text(int row, int c) const override {
        return c == 0 ? QString::number(m_group.rows[std::size_t(row)].line)
                      : qt(m_group.cell(std::size_t(row), std::size_t(c - 1)));
    }
    std::optional<double> number(int row, int c) const override {
        return c == 0 ? double(m_group.rows[std::size_t(row)].line)
                      : readWrittenNumber(m_group.cell(std::size_t(row), std::size_t(c - 1))).value;
    }
    QString tip(int row, int c) const override {
        const auto* was = correction(row, c);
        return was ? tr("The file has %1").arg(was->before.empty() ? tr("nothing here") : qt(was->before))
               : c > 0 && text(row, c).size() > 12 ? text(row, c)
                                                   : QString();
    }
    QColor colour(int row, int c) const override { return correction(row, c) ? colour::fox : c == 0 ? colour::muted : QColor(); }
    QString hole(int row) const override {
        if (!m_id) return {};
        const auto at = m_holes.find(std::string(trimmed(m_group.cell(std::size_t(row), *m_id))));
        return at == m_holes.end() ? QString() : qt(at->second);
    }
    Edit edit(const std::vector<Typed>& cells) const override {
        std::vector<FileCell> values;
        for (const auto& cell : cells)
            values.push_back({m_group.rows[std::size_t(cell.row)].line, m_group.headings[std::size_t(cell.column - 1)],
                              cell.text.toStdString()});
        return [file = m_file->name, values](const Project& p) { return setFileCells(p, file, values); };
    }

private:
    bool isNumeric(std::size_t c) const {
        if (c < m_group.types.size()) {
            const auto& t = m_group.types[c];
            return t.ends_with("DP") || t.ends_with("SF") || t.ends_with("SCI") || t == "U" || t == "MC";
        }
        int numbers = 0, filled = 0;
        for (std::size_t r = 0; r < std::min<std::size_t>(100, m_group.rows.size()); ++r)
            if (const auto cell = m_group.cell(r, c); !cell.empty()) ++filled, numbers += parseNumber(cell).has_value();
        return filled > 0 && numbers == filled;
    }
    const Correction* correction(int row, int c) const {
        const int line = m_group.rows[std::size_t(row)].line;
        if (c == 0 || !m_corrected.contains(line)) return nullptr;
        return correctionOf(m_products->project, m_file->name, line, m_group.headings[std::size_t(c - 1)]);
    }
    std::shared_ptr<const AgsFile> m_file;
    const AgsGroup& m_group;
    std::shared_ptr<const ProductSet> m_products;
    std::optional<std::size_t> m_id;
    std::unordered_map<int, bool> m_corrected;
    std::unordered_map<std::string, std::string> m_holes;
};

/// All logged codes: how often, as which unit, and what the descriptions say they are.
class CodesContent : public TableContent {
public:
    explicit CodesContent(std::shared_ptr<const ProductSet> products)
        : m_products(std::move(products)),
          m_codes(loggedCodes(*m_products->project.holes, m_products->project.sequence->unitHeading)) {
        m_columns = {{tr("Code"), false, false, tr("as it is logged"), 90},
                     {tr("Intervals"), true, false, {}, 70},
                     {tr("Holes"), true, false, {}, 60},
                     {tr("Metres"), true, false, tr("logged in all"), 70},
                     {tr("Unit"), false, true, tr("the unit that it is read as; type a unit's code to merge it"), 80},
                     {tr("Name"), false, true, tr("of the unit"), 150},
                     {tr("Mostly"), false, false, tr("the principal soil or rock of its descriptions"), 110},
                     {tr("For example"), false, false, {}, 320}};
    }
    QString name() const override { return tr("logged codes"); }
    int rows() const override { return int(m_codes.size()); }
    QString text(int row, int c) const override {
        const auto& code = m_codes[std::size_t(row)];
        const auto* unit = unitOf(row);
        switch (c) {
        case 0: return qt(code.code);
        case 1: return QString::number(code.intervals);
        case 2: return QString::number(code.holes);
        case 3: return QString::number(code.metres, 'f', 1);
        case 4: return unit ? qt(unit->code) : QString();
        case 5: return unit ? qt(unit->name) : QString();
        case 6: return qt(code.material);
        default: return qt(code.example);
        }
    }
    std::optional<double> number(int row, int c) const override {
        const auto& code = m_codes[std::size_t(row)];
        return c == 1 ? code.intervals : c == 2 ? code.holes : code.metres;
    }
    QColor colour(int row, int c) const override { return unitOf(row) ? QColor() : c == 0 ? colour::red : colour::muted; }
    const Unit* swatch(int row, int c) const override { return c == 4 ? unitOf(row) : nullptr; }
    QString tip(int row, int c) const override {
        if (c == 7) return text(row, c);
        return unitOf(row) ? QString() : tr("No unit yet: type the code of a unit, or this code for a unit of its own");
    }
    Edit edit(const std::vector<Typed>& cells) const override {
        struct Value {
            std::string code, unit; ///< the unit's code; empty: none yet
            bool asName;
            std::string text;
        };
        std::vector<Value> values;
        for (const auto& cell : cells)
            values.push_back({m_codes[std::size_t(cell.row)].code, unitOf(cell.row) ? unitOf(cell.row)->code : std::string(),
                              cell.column == 5, cell.text.trimmed().toStdString()});
        return [values](const Project& p) {
            Edited all{p, ""};
            for (const auto& v : values) {
                if (v.asName && v.unit.empty()) throw Error("The code " + v.code + " is not a unit yet: give it a unit first.");
                all = v.asName           ? setUnitName(all.project, v.unit, v.text)
                      : v.text == v.code ? apply(all.project, {"Make " + v.code + " a unit", AddUnitFor{v.code}})
                                         : mergeCode(all.project, v.code, v.text);
            }
            if (values.size() > 1) all.label = "Set " + std::to_string(values.size()) + " values of codes";
            return all;
        };
    }

private:
    const Unit* unitOf(int row) const {
        const auto& code = m_codes[std::size_t(row)].code;
        const auto& sequence = *m_products->project.sequence;
        const auto alias = sequence.aliases.find(code);
        const auto& read = alias == sequence.aliases.end() ? code : alias->second;
        for (const auto& u : sequence.units)
            if (u.logged.empty() ? u.code == read : std::ranges::count(u.logged, read) > 0) return &u;
        return nullptr;
    }
    std::shared_ptr<const ProductSet> m_products;
    std::vector<LoggedCode> m_codes;
};

/// What we changed in the contractor's data.
class CorrectionsContent : public TableContent {
public:
    explicit CorrectionsContent(std::shared_ptr<const ProductSet> products) : m_products(std::move(products)) {
        m_columns = {{tr("Hole"), false, false, {}, 88},         {tr("Heading"), false, false, {}, 90},
                     {tr("In the file"), false, false, {}, 110}, {tr("Now"), false, false, {}, 110},
                     {tr("Why"), false, false, {}, 260},         {tr("File"), false, false, {}, 130},
                     {tr("Line"), true, false, {}, 60}};
    }
    QString name() const override { return tr("data corrections"); }
    int rows() const override { return int(all().size()); }
    QString text(int row, int c) const override {
        const auto& k = all()[std::size_t(row)];
        const std::string* cells[] = {&k.hole, &k.heading, &k.before, &k.after, &k.why, &k.file};
        return c == 6 ? QString::number(k.line) : qt(*cells[c]);
    }
    std::optional<double> number(int row, int) const override { return all()[std::size_t(row)].line; }
    QString hole(int row) const override { return qt(all()[std::size_t(row)].hole); }

private:
    const std::vector<Correction>& all() const { return *m_products->project.corrections; }
    std::shared_ptr<const ProductSet> m_products;
};

} // namespace

std::vector<TableKindName> tableKinds(const ProductSet& set) {
    std::vector<TableKindName> out{
        {"holes", TableContent::tr("Holes")},
        {"codes", TableContent::tr("Logged codes")},
        {"corrections", TableContent::tr("Data corrections (%1)").arg(set.project.corrections->size())}};
    if (!set.project.excavations->empty())
        out.push_back({"excavations", TableContent::tr("Excavations (%1)").arg(set.project.excavations->size())});
    std::size_t points = 0;
    for (const auto& source : *set.project.contactPoints) points += source.points.size();
    if (points > 0) out.push_back({"contacts", TableContent::tr("Contacts not in logs (%1)").arg(points)});
    std::size_t values = 0;
    for (const auto& source : *set.project.valuePoints) values += source.points.size();
    if (values > 0) out.push_back({"values", TableContent::tr("Values at points (%1)").arg(values)});
    for (const auto& file : set.agsFiles) {
        if (!file) continue;
        bool first = true;
        for (const auto& g : file->groups) {
            out.push_back(
                {"group:" + qt(file->name) + ":" + qt(g.name),
                 TableContent::tr("%1 of %2, %3").arg(qt(g.name), qt(file->name), counted(qint64(g.rows.size()), "row")), first});
            first = false;
        }
    }
    return out;
}

TableContentPtr makeTableContent(const QString& key, std::shared_ptr<const ProductSet> products) {
    if (key == "codes") return std::make_shared<CodesContent>(std::move(products));
    if (key == "excavations") return excavationsTable(std::move(products));
    if (key == "contacts") return contactsTable(std::move(products));
    if (key == "values") return valuesTable(std::move(products));
    if (key == "corrections") return std::make_shared<CorrectionsContent>(std::move(products));
    if (key.startsWith("group:"))
        for (const auto& file : products->agsFiles)
            if (file && key.section(':', 1, -2) == qt(file->name))
                if (const auto* g = file->group(key.section(':', -1).toStdString()))
                    return std::make_shared<GroupContent>(file, *g, std::move(products));
    return std::make_shared<HolesContent>(std::move(products));
}

} // namespace fox::app
