#include "handover/model_report.h"

#include "base/errors.h"
#include "base/text.h"
#include "handover/model_ranges.h"
#include "handover/sheet_files.h"
#include "model/where_to_drill.h"
#include "paper/render.h"
#include "project/finding_rules.h"

#include <nlohmann/json.hpp>

namespace fox {

using nlohmann::json;

namespace {

std::string counted(std::size_t n, const char* one, const char* many) { return fmt::format("{} {}", n, n == 1 ? one : many); }

std::string joined(const std::vector<std::string>& words) { return fmt::format("{}", fmt::join(words, ", ")); }

/// Writes chapter by chapter what a project's products say.
class ReportWriter {
public:
    ReportWriter(const ProductSet& set, const ReportOptions& options, const Progress& progress)
        : m_set(set), m_project(set.project), m_units(set.project.sequence->units), m_options(options), m_progress(progress) {}

    bool hasModel() const { return m_set.modelGrid && !m_set.modelGrid->bases.empty(); }

    void data() {
        say(fmt::format("The project \"{}\" has {} from {}, and is in the coordinate system {}.", m_project.name,
                        counted(m_project.holes->size(), "hole", "holes"), counted(m_project.files->size(), "file", "files"),
                        m_project.site->crs.empty() ? "that nobody has named yet" : m_project.site->crs));
        DocumentTable files{"Files", {{"file", "", 0, 3}, {"format", "", 0, 2}, {"holes", "", 0}, {"findings", "", 0}}, {}};
        for (const auto& f : *m_project.files)
            files.rows.push_back({f.name, f.format, double(f.holes), double(f.findings.size())});
        add(files);
        struct Kind {
            std::size_t count = 0;
            double metres = 0, deepest = 0;
        };
        std::map<std::string, Kind> kinds;
        for (const auto& h : *m_project.holes) {
            auto& kind = kinds[h.type.empty() ? "type not given" : typeInWords(h.type)];
            ++kind.count, kind.metres += h.end().metres, kind.deepest = std::max(kind.deepest, h.end().metres);
        }
        DocumentTable holes{
            "Holes by type", {{"type", "", 0, 3}, {"holes", "", 0}, {"total depth", "m", 1}, {"deepest", "m", 1}}, {}};
        for (const auto& [type, kind] : kinds) holes.rows.push_back({type, double(kind.count), kind.metres, kind.deepest});
        add(holes);
        DocumentTable out{"Holes that are excluded from all surfaces", {{"hole"}, {"type", "", 0, 3}}, {}};
        for (const auto& h : *m_project.holes)
            if (h.excluded) out.rows.push_back({displayName(*m_project.holes, h), typeInWords(h.type)});
        add(out);
        DocumentTable corrections{"Corrections of what the files say",
                                  {{"file", "", 0, 2},
                                   {"line", "", 0, 0.8},
                                   {"hole"},
                                   {"heading", "", 0, 1.4},
                                   {"before", "", 0, 1.4},
                                   {"after", "", 0, 1.4},
                                   {"why", "", 0, 2.2}},
                                  {}};
        for (const auto& c : *m_project.corrections)
            corrections.rows.push_back({c.file, double(c.line), c.hole, c.heading, c.before, c.after, c.why});
        if (corrections.rows.empty()) say("No value of a file was corrected.");
        add(corrections);
    }

    void ground() {
        const auto& g = *m_project.ground;
        if (!m_set.terrain || m_set.terrain->empty()) return say("The project has no ground yet.");
        DocumentTable sources{
            "What the ground is made from", {{"file", "", 0, 3}, {"what it has", "", 0, 2}, {"objects", "", 0}, {"used"}}, {}};
        const auto used = [](bool v) { return std::string(v ? "yes" : "no"); };
        for (const auto& p : g.points) sources.rows.push_back({p.file, "survey points", double(p.points.size()), used(p.used)});
        for (const auto& l : g.lines)
            sources.rows.push_back(
                {l.file, l.role == LineRole::Contours ? "contours" : "breaklines", double(l.lines.size()), used(l.used)});
        for (const auto& r : g.rasters)
            sources.rows.push_back({r.file, "grid", r.grid ? double(r.grid->values.size()) : 0.0, used(r.used)});
        add(sources);
        const auto measures = m_set.terrain->tin.measure();
        say(fmt::format("{} make {} over {:.0f} m². Levels go from {:.2f} to {:.2f} m.",
                        counted(m_set.terrain->tin.vertices().size(), "vertex", "vertices"),
                        counted(m_set.terrain->tin.triangles().size(), "triangle", "triangles"), measures.planArea, measures.zmin,
                        measures.zmax));
        say(g.holeLevels ? "Borehole ground levels are used for the ground."
                         : "Borehole ground levels are not used for the ground.");
        if (!g.codesOut.empty())
            say(fmt::format("Survey codes that are not taken for ground: {}.", joined({g.codesOut.begin(), g.codesOut.end()})));
        if (m_set.terrain->flatsMended > 0)
            say(fmt::format("{} put where triangles between contours would be flat.",
                            counted(std::size_t(m_set.terrain->flatsMended), "point was", "points were")));
        if (!g.edits.empty())
            say(fmt::format("The triangles were mended by hand in {}.", counted(g.edits.size(), "place", "places")));
        if (g.edits.empty()) say("The triangles were not changed by hand.");
    }

    void interpretation() {
        DocumentTable units{"Units, from the youngest to the oldest",
                            {{"code"}, {"name", "", 0, 2.4}, {"base", "", 0, 2.2}, {"logged as", "", 0, 1.6}, {"holes", "", 0}},
                            {}};
        for (std::size_t u = 0; u < m_units.size(); ++u) {
            const auto& unit = m_units[u];
            std::size_t holes = 0;
            for (const auto& h : m_set.reading->holes)
                holes += std::ranges::any_of(h.intervals, [&](const auto& i) { return i.unit == u; });
            units.rows.push_back({unit.code, unit.name,
                                  u + 1 == m_units.size()       ? "the oldest"
                                  : unit.base == BaseRule::Cuts ? "cuts older units"
                                                                : "laps on older units",
                                  unit.logged.empty() ? unit.code : joined(unit.logged), double(holes)});
        }
        add(units);
        const auto& in = *m_project.interpretation;
        say(fmt::format("By hand: {} read as a unit, {} split, {} of a base picked, {} of what a hole says of a base, {} of "
                        "where a unit is, {} drawn for bases, {}.",
                        counted(in.intervals.size(), "interval", "intervals"), counted(in.splits.size(), "interval", "intervals"),
                        counted(in.picks.size(), "depth", "depths"), counted(in.contacts.size(), "choice", "choices"),
                        counted(in.presence.size(), "mark", "marks"),
                        counted(in.guides.size(), "guide line or point", "guide lines or points"),
                        counted(in.faults.size(), "fault", "faults")));
        DocumentTable choices{"Intervals whose unit was chosen by hand", {{"hole"}, {"from", "m"}, {"to", "m"}, {"unit"}}, {}};
        for (const auto& c : in.intervals)
            choices.rows.push_back({c.hole, c.top.metres, c.base.metres, c.unit.empty() ? "none" : c.unit});
        add(choices);
        DocumentTable picks{"Bases picked in holes without a log", {{"hole"}, {"unit"}, {"depth", "m"}}, {}};
        for (const auto& p : in.picks) picks.rows.push_back({p.hole, p.unit, p.depth.metres});
        add(picks);
        DocumentTable faults{"Faults", {{"fault", "", 0, 2}, {"length", "m", 0}, {"steps the bases of", "", 0, 3}}, {}};
        for (const auto& f : in.faults)
            faults.rows.push_back({f.fault.name, lengthOf(f.fault.line),
                                   !f.units.empty()     ? joined(f.units)
                                   : f.youngest.empty() ? "all units"
                                                        : f.youngest + " and older"});
        add(faults);
    }

    void surfaces() {
        if (!hasModel()) return say("The project has no model yet.");
        DocumentTable table{"How each base is made",
                            {{"unit"},
                             {"method", "", 0, 2.2},
                             {"measured as", "", 0, 2.2},
                             {"holes that show it", "", 0},
                             {"holes that limit it", "", 0},
                             {"leave-one-out error", "m"},
                             {"bias", "m"}},
                            {}};
        DocumentTable variograms{
            "Variograms of bases by one method",
            {{"unit"}, {"model", "", 0, 2}, {"nugget", "m²", 3}, {"partial sill", "m²", 3}, {"range", "m", 0}},
            {}};
        DocumentTable concepts{"Concepts of automatic bases, and their weights",
                               {{"unit"}, {"concept", "", 0, 4}, {"weight"}, {"range", "m", 0}, {"deviation", "m"}},
                               {}};
        DocumentTable worst{
            "Contacts that the others tell worst", {{"unit"}, {"hole", "", 0, 2}, {"predicted less observed", "m"}}, {}};
        for (std::size_t u = 0; u < m_set.model->bases.size(); ++u) {
            const auto& base = *m_set.model->bases[u];
            const auto& code = m_units[u].code;
            const std::string how = base.fixed
                                        ? (base.fixed->origin == FixedBase::Origin::Frozen ? "kept as it was" : "from a grid")
                                    : base.isAutomatic() ? "Automatic"
                                                         : words(base.fit.settings.method);
            table.rows.push_back({code, how,
                                  base.fixed           ? ""
                                  : base.isAutomatic() ? "several, see below"
                                                       : words(base.reference),
                                  double(base.contacts), double(base.bounds), cellOf(base.leaveOneOut.rmse),
                                  cellOf(base.leaveOneOut.bias)});
            if (!base.fixed && !base.isAutomatic())
                if (const auto& v = base.fit.settings.variogram; v && hasVariogram(base.fit.settings.method))
                    variograms.rows.push_back({code, name(v->model), v->nugget, v->partialSill, v->range});
            if (base.isAutomatic())
                for (const auto& part : base.automatic->parts())
                    concepts.rows.push_back({code, words(part.kind), part.weight, part.range, part.deviation});
            std::vector<std::pair<double, std::string>> errors;
            for (const auto& contact : *m_set.contacts[u])
                if (contact.kind == ContactKind::Observed && !contact.hole.empty())
                    if (const auto e = base.leaveOneOutAt(contact.hole)) errors.emplace_back(*e, contact.hole);
            std::ranges::sort(errors, [](const auto& a, const auto& b) { return std::abs(a.first) > std::abs(b.first); });
            for (std::size_t k = 0; k < std::min<std::size_t>(3, errors.size()); ++k)
                worst.rows.push_back({code, errors[k].second, errors[k].first});
        }
        say("A leave-one-out error is the root mean square of what the other contacts give at each contact, less what the hole "
            "has.");
        add(table), add(concepts), add(variograms), add(worst);
    }

    void agreement() {
        if (!m_set.audit) return say("The project has no model yet.");
        const auto& a = *m_set.audit;
        if (std::isnan(a.matchedFraction)) return say("No hole has a log to compare with.");
        say(fmt::format("The model has the logged unit over {:.1f} % of the length logged. The largest difference at a contact "
                        "is {:.2f} m{}. {} of {} that holes set {} broken.",
                        100 * a.matchedFraction, a.worstDifference, a.worstHole.empty() ? "" : fmt::format(" ({})", a.worstHole),
                        a.boundsBroken, counted(std::size_t(a.bounds), "limit", "limits"), a.boundsBroken == 1 ? "is" : "are"));
        DocumentTable holes{"Holes that the model does not match wholly",
                            {{"hole", "", 0, 2}, {"logged", "m"}, {"matched", "m"}, {"matched", "%", 1}},
                            {}};
        for (const auto& h : a.holes)
            if (h.loggedLength - h.matchedLength > 0.005)
                holes.rows.push_back({h.name, h.loggedLength, h.matchedLength, 100 * h.matchedLength / h.loggedLength});
        if (holes.rows.empty()) say("Every hole is matched over its whole length.");
        add(holes);
    }

    void uncertainty() {
        if (!hasModel()) return say("The project has no model yet.");
        const auto& e = ranges().ensemble;
        const auto& frame = ranges().frame;
        say(fmt::format("Ranges are of {} equally likely models that all agree with the holes. P10 to P90 holds the truth in "
                        "eight cases of ten if the assumptions hold.",
                        e.count));
        DocumentTable table{"Where each base is most uncertain",
                            {{"unit"},
                             {"P90 less P10 there", "m"},
                             {"easting", "m", 0, 1.4},
                             {"northing", "m", 0, 1.4},
                             {"P90 less P10, middle of all cells", "m", 2, 1.6}},
                            {}};
        std::size_t widest = e.units.size();
        double widestShare = 0;
        for (std::size_t u = 0; u < e.units.size(); ++u) {
            std::vector<double> widths;
            double most = -1;
            Point2 where;
            const auto& unit = e.units[u];
            for (int r = 0; r < frame.rows(); ++r)
                for (int c = 0; c < frame.columns(); ++c) {
                    if (!(unit.chance.at(c, r) > 0.5)) continue;
                    const double width = unit.base90.at(c, r) - unit.base10.at(c, r);
                    if (std::isnan(width)) continue;
                    widths.push_back(width);
                    if (width > most) most = width, where = frame.centre(c, r);
                }
            if (widths.empty()) continue;
            std::ranges::nth_element(widths, widths.begin() + std::ptrdiff_t(widths.size() / 2));
            table.rows.push_back({m_units[u].code, most, where.x, where.y, widths[widths.size() / 2]});
            const auto range = rangeOf(unit.volumes);
            const double share = range.p50 > 0 ? (range.p90 - range.p10) / range.p50 : 0;
            if (share > widestShare) widestShare = share, widest = u;
        }
        add(table);
        if (widest == e.units.size()) return;
        const auto places =
            whereToDrill(*m_set.model, frame, {DrillAim::Kind::Volume, widest, Area(m_project.site->limit)},
                         drillCandidates(frame.box(), 150), {{m_options.realisations, 1}, {}}, m_progress.silent());
        say(fmt::format("The volume of {} has the widest range against its own size. One more hole through all units would "
                        "narrow it most at these places.",
                        m_units[widest].code));
        DocumentTable drill{"Where one more hole would help",
                            {{"easting", "m", 0}, {"northing", "m", 0}, {"expected gain", "% of the variance", 0, 1.6}},
                            {}};
        for (const auto& p : apart(places, std::max(frame.box().width(), frame.box().height()) / 10)) {
            if (drill.rows.size() == 3 || !(p.gain > 0)) break;
            drill.rows.push_back({p.place.x, p.place.y, 100 * p.gain});
        }
        add(drill);
    }

    void volumes() {
        if (!hasModel() || !m_set.volumes) return say("The project has no model yet.");
        const auto& e = ranges().ensemble;
        say(fmt::format("Within {} of {:.0f} m².",
                        m_project.site->limit.empty() ? "the extent, an area" : "the site limit, an area", m_set.volumes->area));
        DocumentTable table{"Volumes by unit",
                            {{"unit"},
                             {"name", "", 0, 2},
                             {"volume", "m³", 0, 1.4},
                             {"P10", "m³", 0, 1.4},
                             {"P50", "m³", 0, 1.4},
                             {"P90", "m³", 0, 1.4},
                             {"area", "m²", 0, 1.4},
                             {"mean thickness", "m"}},
                            {}};
        for (const auto& v : m_set.volumes->units) {
            const auto& values = v.unit < e.units.size() ? e.units[v.unit].volumes : e.oldestVolumes;
            const auto range = values.empty() ? Range{} : rangeOf(values);
            table.rows.push_back({m_units[v.unit].code, m_units[v.unit].name, v.volume, cellOf(range.p10), cellOf(range.p50),
                                  cellOf(range.p90), v.area, cellOf(v.meanThickness)});
        }
        add(table);
    }

    void findings() {
        const auto& all = *m_set.findings;
        say(all.empty()
                ? std::string("Nothing stands.")
                : fmt::format("{}, {} and {} stand.", counted(std::size_t(count(all, Severity::Error)), "error", "errors"),
                              counted(std::size_t(count(all, Severity::Warning)), "warning", "warnings"),
                              counted(std::size_t(count(all, Severity::Note)), "note", "notes")));
        DocumentTable table{"Findings", {{"kind"}, {"code", "", 0, 1.5}, {"hole", "", 0, 1.2}, {"what", "", 0, 6}}, {}};
        for (const auto& f : all) table.rows.push_back({word(f.severity), f.rule, f.hole, f.message});
        add(table);
    }

    void unknown() {
        DocumentTable shortHoles{
            "Holes that stop short of the oldest unit that others reach", {{"hole"}, {"depth", "m"}, {"ends in"}}, {}};
        std::size_t deepest = 0;
        for (const auto& h : m_set.reading->holes)
            for (const auto& i : h.intervals) deepest = std::max(deepest, i.unit);
        for (const auto& h : m_set.reading->holes)
            if (!h.intervals.empty() && h.intervals.back().unit < deepest)
                shortHoles.rows.push_back({h.name, h.hole->end().metres, m_units[h.intervals.back().unit].code});
        if (!shortHoles.rows.empty())
            say(fmt::format("{} of {} with a log {} in a unit younger than {}.", shortHoles.rows.size(),
                            counted(m_set.reading->holes.size(), "hole", "holes"), shortHoles.rows.size() == 1 ? "ends" : "end",
                            m_units[deepest].code));
        for (std::size_t u = 0; hasModel() && u < m_set.model->bases.size(); ++u) {
            const auto& base = *m_set.model->bases[u];
            if (base.fixed) continue;
            if (base.absentEverywhere)
                say(fmt::format("No hole has {}: it has no thickness anywhere in the model.", m_units[u].code));
            else if (base.contacts == 0)
                say(fmt::format("No hole shows the base of {}; holes only limit it.", m_units[u].code));
            else if (base.contacts < 3)
                say(fmt::format("The base of {} is shown by {} only.", m_units[u].code,
                                counted(std::size_t(base.contacts), "hole", "holes")));
        }
        if (hasModel()) {
            const auto& frame = m_set.modelGrid->ground.frame;
            double most = 0;
            Point2 where;
            std::vector<Point2> places;
            for (const auto& h : *m_project.holes)
                if (const auto p = h.place(); p && !h.excluded && !h.intervals.empty()) places.push_back(*p);
            for (int r = 0; r < frame.rows() && !places.empty(); r += 4)
                for (int c = 0; c < frame.columns(); c += 4) {
                    if (std::isnan(m_set.modelGrid->ground.at(c, r))) continue;
                    double nearest = std::numeric_limits<double>::infinity();
                    for (const auto& p : places)
                        nearest = std::min(nearest, std::hypot(p.x - frame.centre(c, r).x, p.y - frame.centre(c, r).y));
                    if (nearest > most) most = nearest, where = frame.centre(c, r);
                }
            if (most > 0)
                say(fmt::format(
                    "The place farthest from all logged holes, {:.0f} m from the nearest, lies near E {:.0f}, N {:.0f}.", most,
                    where.x, where.y));
            if (std::isnan(m_set.modelGrid->floor) && !m_units.empty())
                say(fmt::format("The base of the oldest unit, {}, is not known; it has no volume.", m_units.back().code));
        }
        add(shortHoles);
    }

    Document take() && { return std::move(m_document); }
    void begin(const std::string& key, const std::string& title) {
        m_document.chapters.push_back({key, title, {}});
        const auto own = m_project.report->texts.find(key);
        if (own == m_project.report->texts.end()) return;
        for (const auto line : split(own->second, '\n'))
            if (const auto words = trimmed(line); !words.empty()) say(std::string(words));
    }

private:
    void say(std::string words) { m_document.chapters.back().parts.emplace_back(std::move(words)); }
    void add(DocumentTable table) {
        if (!table.rows.empty()) m_document.chapters.back().parts.emplace_back(std::move(table));
    }
    const ModelRanges& ranges() {
        if (!m_ranges) m_ranges = modelRanges(m_set, m_options.realisations, m_progress.silent());
        return *m_ranges;
    }

    const ProductSet& m_set;
    const Project& m_project;
    const std::vector<Unit>& m_units;
    const ReportOptions& m_options;
    const Progress& m_progress;
    Document m_document;
    std::optional<ModelRanges> m_ranges;
};

struct Chapter {
    const char *key, *title;
    void (ReportWriter::*write)();
};
constexpr Chapter kChapters[] = {{"data", "Purpose and data", &ReportWriter::data},
                                 {"ground", "Ground", &ReportWriter::ground},
                                 {"interpretation", "Interpretation", &ReportWriter::interpretation},
                                 {"surfaces", "Surfaces", &ReportWriter::surfaces},
                                 {"agreement", "Agreement with the holes", &ReportWriter::agreement},
                                 {"uncertainty", "Uncertainty", &ReportWriter::uncertainty},
                                 {"volumes", "Volumes", &ReportWriter::volumes},
                                 {"findings", "Findings that stand", &ReportWriter::findings},
                                 {"unknown", "What is not known", &ReportWriter::unknown}};

json cellJson(const DocumentTable::Cell& cell) {
    if (const auto* words = std::get_if<std::string>(&cell)) return *words;
    if (const auto* number = std::get_if<double>(&cell)) return *number;
    return nullptr;
}

} // namespace

const std::vector<std::pair<std::string, std::string>>& reportChapters() {
    static const auto kAll = [] {
        std::vector<std::pair<std::string, std::string>> out;
        for (const auto& c : kChapters) out.emplace_back(c.key, c.title);
        return out;
    }();
    return kAll;
}

namespace {

const std::string& titleOf(const std::string& chapter) {
    const auto& all = reportChapters();
    const auto at = std::ranges::find(all, chapter, &std::pair<std::string, std::string>::first);
    if (at == all.end()) throw Error(fmt::format("The report has no chapter \"{}\".", chapter));
    return at->second;
}

} // namespace

Edited setChapterUsed(const Project& project, const std::string& chapter, bool used) {
    Edited e{project, fmt::format("Report {} the chapter \"{}\"", used ? "with" : "without", titleOf(chapter))};
    auto choices = *project.report;
    if (used)
        choices.excluded.erase(chapter);
    else
        choices.excluded.insert(chapter);
    if (choices != *project.report) e.project.report = part(std::move(choices));
    return e;
}

Edited setChapterText(const Project& project, const std::string& chapter, const std::string& words) {
    Edited e{project, fmt::format("Text of the report's chapter \"{}\"", titleOf(chapter))};
    auto choices = *project.report;
    if (words.empty())
        choices.texts.erase(chapter);
    else
        choices.texts[chapter] = words;
    if (choices != *project.report) e.project.report = part(std::move(choices));
    return e;
}

Wanted wantedForReport() {
    return {ProductKind::Grids, ProductKind::AllFindings, ProductKind::Audit, ProductKind::Contours, ProductKind::Sections};
}

Document modelReport(const ProductSet& set, const ReportOptions& options, const Progress& progress) {
    for (const auto& key : options.chapters)
        if (std::ranges::none_of(kChapters, [&](const Chapter& c) { return key == c.key; })) {
            std::vector<std::string> keys;
            for (const auto& c : kChapters) keys.emplace_back(c.key);
            throw UsageError(fmt::format("\"{}\" is not a chapter of the report; there are {}.", key, joined(keys)));
        }
    ReportWriter writer(set, options, progress);
    for (const auto& c : kChapters) {
        const bool isWanted =
            options.chapters.empty() ? !set.project.report->excluded.contains(c.key) : options.chapters.contains(c.key);
        if (!isWanted) continue;
        writer.begin(c.key, c.title);
        (writer.*c.write)();
        progress.check();
    }
    auto out = std::move(writer).take();
    out.title = "Ground model of " + set.project.name;
    out.subject = "What it is made from, how well it agrees with the holes, and what is not known";
    out.date = options.date;
    return out;
}

json documentJson(const Document& document) {
    json chapters = json::array();
    for (const auto& c : document.chapters) {
        json chapter{{"key", c.key}, {"title", c.title}, {"paragraphs", json::array()}, {"tables", json::array()}};
        for (const auto& part : c.parts) {
            if (const auto* words = std::get_if<std::string>(&part)) chapter["paragraphs"].push_back(*words);
            const auto* table = std::get_if<DocumentTable>(&part);
            if (!table) continue;
            json columns = json::array(), rows = json::array();
            for (const auto& column : table->columns) columns.push_back({{"name", column.words}, {"unit", column.unit}});
            for (const auto& row : table->rows) {
                rows.push_back(json::array());
                for (const auto& cell : row) rows.back().push_back(cellJson(cell));
            }
            chapter["tables"].push_back({{"title", table->title}, {"columns", columns}, {"rows", rows}});
        }
        chapters.push_back(std::move(chapter));
    }
    return {{"title", document.title}, {"date", document.date}, {"chapters", chapters}};
}

std::string reportPdf(const Document& document, const ProductSet& set, const std::string& date) {
    std::vector<std::pair<std::string, paper::Drawing>> sheets; // bookmark of the first page of each, then none
    const auto attach = [&](const char* kind, const std::string& item, const std::string& words) {
        const auto filled = fillSheet(sheetTemplate(kind), item, set, date);
        for (std::size_t p = 0; p < filled.pages.size(); ++p) sheets.emplace_back(p == 0 ? words : "", filled.pages[p]);
    };
    if (!set.project.sequence->units.empty()) attach("key to units", "", "Key to units");
    if (set.frame) attach("plan", "", "Plan");
    for (const auto& s : *set.project.sections) attach("section", s.name, "Section " + s.name);
    auto laidOut = layOut(document, sheets.size());
    paper::PdfWords words{document.title, document.subject, {}};
    for (std::size_t c = 0; c < document.chapters.size(); ++c)
        words.bookmarks.push_back({document.chapters[c].title, laidOut.begins[c]});
    for (auto& [bookmark, page] : sheets) {
        if (!bookmark.empty()) words.bookmarks.push_back({bookmark, laidOut.pages.size()});
        laidOut.pages.push_back(std::move(page));
    }
    return paper::toPdf(laidOut.pages, words);
}

} // namespace fox
