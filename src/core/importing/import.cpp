#include "importing/import.h"

#include "base/files.h"
#include "base/text.h"
#include "formats/ags_dictionary.h"
#include "formats/archive.h"
#include "formats/system_list.h"
#include "importing/ground_import.h"
#include "importing/join_holes.h"
#include "project/corrections.h"
#include "project/sources.h"
#include "sequence/unit.h"

#include <fmt/format.h>
#include <set>
#include <unordered_map>

namespace fox {

namespace {

// --- against what is there

/// An id without its case and blanks.
std::string spelledAlike(std::string_view id) {
    auto out = lower(id);
    std::erase_if(out, [](unsigned char c) { return std::isspace(c); });
    return out;
}

/// AGS files of which no hole has geology: soundings, monitoring, results of the laboratory. They add to holes as tables do.
std::set<std::string> filesWithoutGeology(const Project& project) {
    std::set<std::string> out;
    for (const auto& f : *project.files)
        if (f.format.starts_with("AGS")) out.insert(f.name);
    for (const auto& h : *project.holes)
        if (!h.intervals.empty()) out.erase(h.file);
    return out;
}

/// The project's holes by id.
class Known {
public:
    Known(const Project& project, const ImportPreview& u)
        : m_holes(*project.holes),
          m_partial(u.partial),
          m_knowsProject(u.file.format.starts_with("AGS")),
          m_otherSpelling(u.file.settings.otherSpelling),
          m_bare(filesWithoutGeology(project)) {
        for (const auto& f : *project.files)
            if (f.format.starts_with("AGS")) m_whole.insert(f.name);
        const auto& holes = m_holes;
        for (std::size_t i = 0; i < holes.size(); ++i) {
            m_byId[holes[i].id].push_back(i);
            if (m_partial && !holes[i].name.empty() && holes[i].name != holes[i].id) m_byId[holes[i].name].push_back(i);
            m_bySpelling[spelledAlike(holes[i].id)].push_back(i);
        }
    }
    /// The one that an incoming hole is: by project and id, or, where either file knows no project, by id or name; where
    /// neither is there, by an id that differs in case and blanks only, if that is one hole's alone.
    std::optional<std::size_t> find(const Hole& incoming) const {
        if (const auto at = m_byId.find(incoming.id); at != m_byId.end()) {
            const auto same = among(at->second, incoming);
            if (same.empty()) return {};
            return same.front();
        }
        if (!m_otherSpelling) return {};
        const auto at = m_bySpelling.find(spelledAlike(incoming.id));
        const auto same = at == m_bySpelling.end() ? std::vector<std::size_t>() : among(at->second, incoming);
        return same.size() == 1 ? std::optional(same.front()) : std::nullopt;
    }

    /// Whether it is a hole that only tables and logs without a project told of (it is named after its file), or AGS files
    /// without geology, and now a file that has it whole.
    bool joins(std::size_t known, const Hole& incoming) const {
        const auto& hole = m_holes[known];
        if (!m_partial && hole.project == incoming.project && m_bare.contains(hole.file)) return true;
        return m_knowsProject && hole.project != incoming.project && !m_whole.contains(hole.file)
               && hole.project == std::filesystem::path(hole.file).stem().string();
    }

    /// Whether several holes could be meant, which the file does not tell apart.
    bool isOneOfSeveral(const Hole& incoming) const {
        const auto at = m_byId.find(incoming.id);
        return at != m_byId.end() && among(at->second, incoming).size() > 1;
    }

private:
    std::vector<std::size_t> among(const std::vector<std::size_t>& places, const Hole& incoming) const {
        std::vector<std::size_t> out;
        for (const auto i : places)
            if (m_holes[i].project == incoming.project) out.push_back(i);
        if (out.empty() && m_partial && incoming.project.empty()) out = places;
        if (out.empty())
            for (const auto i : places)
                if (joins(i, incoming)) out.push_back(i);
        return out;
    }

    const Holes& m_holes;
    bool m_partial, m_knowsProject, m_otherSpelling;
    std::set<std::string> m_whole; ///< files that know their project
    std::set<std::string> m_bare;  ///< of these, those without geology
    std::unordered_map<std::string, std::vector<std::size_t>> m_byId, m_bySpelling;
};

std::string levelWords(const std::optional<Level>& l) { return l ? fmt::format("{:.2f} m", l->metres) : "none"; }
std::string depthWords(const std::optional<Depth>& d) { return d ? fmt::format("{:.2f} m", d->metres) : "none"; }

/// What differs, in words.
std::vector<std::string> differences(const Hole& was, const Hole& now) {
    std::vector<std::string> out;
    constexpr double kSame = 0.0005; // metres
    const auto differ = [](std::optional<double> a, std::optional<double> b) {
        return a.has_value() != b.has_value() || (a && std::abs(*a - *b) > kSame);
    };
    if (differ(was.easting, now.easting) || differ(was.northing, now.northing)) {
        const auto a = was.place(), b = now.place();
        out.push_back(a && b ? fmt::format("moved by {:.2f} m", distance(*a, *b)) : b ? "gets a place" : "loses its place");
    }
    const auto metres = [](const auto& v) { return v ? std::optional(v->metres) : std::nullopt; };
    if (differ(metres(was.level), metres(now.level)))
        out.push_back(fmt::format("ground level {} to {}", levelWords(was.level), levelWords(now.level)));
    if (differ(metres(was.finalDepth), metres(now.finalDepth)))
        out.push_back(fmt::format("final depth {} to {}", depthWords(was.finalDepth), depthWords(now.finalDepth)));
    if (was.type != now.type)
        out.push_back(fmt::format("kind {} to {}", was.type.empty() ? "none" : was.type, now.type.empty() ? "none" : now.type));
    if (was.stations != now.stations) out.push_back("another path");
    const auto sameLog = [](const Interval& a, const Interval& b) {
        return a.top == b.top && a.base == b.base && a.codes == b.codes && a.description == b.description;
    };
    if (!std::ranges::equal(was.intervals, now.intervals, sameLog)) {
        if (was.intervals.size() != now.intervals.size())
            out.push_back(fmt::format("intervals: {} to {}", was.intervals.size(), now.intervals.size()));
        else {
            int n = 0;
            for (std::size_t i = 0; i < was.intervals.size(); ++i) n += !sameLog(was.intervals[i], now.intervals[i]);
            out.push_back(counted(std::size_t(n), "interval changed", "intervals changed"));
        }
    }
    if (was.blowCounts != now.blowCounts)
        out.push_back(fmt::format("SPT tests: {} to {}", was.blowCounts.size(), now.blowCounts.size()));
    if (was.samples != now.samples) out.push_back(fmt::format("samples: {} to {}", was.samples.size(), now.samples.size()));
    if (was.strikes != now.strikes || was.installations != now.installations) out.push_back("water or installations changed");
    if (was.waterLevels != now.waterLevels)
        out.push_back(fmt::format("water levels: {} to {}", was.waterLevels.size(), now.waterLevels.size()));
    if (was.soundings != now.soundings)
        out.push_back(fmt::format("soundings: {} to {}", was.soundings.size(), now.soundings.size()));
    if (was.curves != now.curves) out.push_back(fmt::format("curves: {} to {}", was.curves.size(), now.curves.size()));
    return out;
}

/// What the earlier issue of a file said, hole by hole, to tell that from what other files have added.
class EarlierHoles {
public:
    EarlierHoles() = default;
    EarlierHoles(const Project& project, const SourceFile* file) {
        if (!file || file->bytes.text->empty()) return;
        const auto read = readSource(*file, SiteContext(project), *project.corrections);
        for (const auto& h : read.holes) m_holes.emplace(h.id, h);
    }
    /// Null if it had none of this id, or is not there any more.
    const Hole* of(const Hole& hole) const {
        const auto at = m_holes.find(hole.id);
        return at == m_holes.end() ? nullptr : &at->second;
    }

private:
    std::unordered_map<std::string, Hole> m_holes;
};

/// The hole as it would be after the import.
Hole updated(const Hole& was, const Hole& incoming, bool partial, bool joins, const EarlierHoles& earlier) {
    Hole now = was;
    if (partial || joins) addTo(now, incoming);
    if (joins) now.project = incoming.project, now.file = incoming.file, now.line = incoming.line;
    if (partial || joins) return now;
    now = incoming;
    now.id = was.id, now.name = was.name;
    now.excluded = was.excluded;
    if (const auto* old = earlier.of(was)) {
        keepFromElsewhere(now, was, *old);
        return now;
    }
    const auto own = now.waterLevels.size();
    for (const auto& w : was.waterLevels) // from tables: a newer issue of the logs does not end them
        if (std::ranges::count(now.waterLevels, w) == 0) now.waterLevels.push_back(w);
    if (now.waterLevels.size() > own) std::ranges::stable_sort(now.waterLevels, {}, &WaterLevel::measured);
    for (const auto& c : was.curves) // logs that came from elsewhere stay
        if (std::ranges::none_of(now.curves, [&](const Curve& n) { return n.name == c.name && n.push == c.push; }) && !c.single)
            now.curves.push_back(c);
    return now;
}

/// Key columns of a row, by heading, to find it again in another issue.
std::map<std::string, std::string> rowKey(const AgsFile& file, const AgsGroup& g, std::size_t row) {
    std::map<std::string, std::string> key;
    const auto* rule = AgsDictionary::standard(file.edition).group(g.name);
    for (std::size_t c = 0; c < g.headings.size(); ++c)
        if (const auto* h = rule ? rule->heading(g.headings[c]) : nullptr; h && h->key)
            key[g.headings[c]] = trimmed(g.cell(row, c));
    return key;
}

/// Rows of an AGS file to be found by line, and by key: built once, however many corrections there are.
class RowIndex {
public:
    explicit RowIndex(const AgsFile& file) : m_file(file) {
        for (const auto& g : file.groups)
            for (std::size_t r = 0; r < g.rows.size(); ++r) m_byLine.emplace(g.rows[r].line, std::pair(&g, r));
    }
    /// The group and row on a line; null if there is none.
    std::pair<const AgsGroup*, std::size_t> at(int line) const {
        const auto found = m_byLine.find(line);
        return found == m_byLine.end() ? std::pair<const AgsGroup*, std::size_t>(nullptr, 0) : found->second;
    }
    /// Rows of a group with this key, in their order.
    const std::vector<std::size_t>& withKey(const AgsGroup& g, const std::map<std::string, std::string>& key) {
        auto& rows = m_byKey[&g];
        if (rows.empty())
            for (std::size_t r = 0; r < g.rows.size(); ++r) rows[rowKey(m_file, g, r)].push_back(r);
        static const std::vector<std::size_t> kNone;
        const auto found = rows.find(key);
        return found == rows.end() ? kNone : found->second;
    }

private:
    const AgsFile& m_file;
    std::unordered_map<int, std::pair<const AgsGroup*, std::size_t>> m_byLine;
    std::map<const AgsGroup*, std::map<std::map<std::string, std::string>, std::vector<std::size_t>>> m_byKey;
};

/// The line on which a correction of the earlier issue stands in the new one: the row of the same key, if it still has the
/// old value.
std::optional<int> carriedTo(const Correction& c, const AgsFile& old, const RowIndex& oldRows, const AgsFile& fresh,
                             RowIndex& freshRows) {
    const auto [group, row] = oldRows.at(c.line);
    const auto* other = group ? fresh.group(group->name) : nullptr;
    const auto column = other ? other->column(c.heading) : std::nullopt;
    if (!other) return {};
    const auto was = group->column(c.heading);
    const auto before = was ? trimmed(group->cell(row, *was)) : std::string_view();
    for (const auto k : freshRows.withKey(*other, rowKey(old, *group, row)))
        if ((column ? trimmed(other->cell(k, *column)) : std::string_view()) == before) return other->rows[k].line;
    return {};
}

/// Corrections of the earlier issue that still hold in the new one; the rest go, and are said.
std::vector<Correction> carried(const std::vector<Correction>& corrections, const SourceFile& before, const SourceFile& now,
                                Findings& said) {
    const bool both = looksLikeAgs(*before.bytes) && looksLikeAgs(*now.bytes)
                      && std::ranges::count(corrections, before.name, &Correction::file) > 0;
    const auto old = both ? readAgs(*before.bytes, before.name) : AgsFile(),
               fresh = both ? readAgs(*now.bytes, now.name) : AgsFile();
    const RowIndex oldRows(old);
    RowIndex freshRows(fresh);
    std::vector<Correction> out;
    for (const auto& c : corrections) {
        if (c.file != before.name) {
            out.push_back(c);
            continue;
        }
        if (!both) continue;
        if (const auto line = carriedTo(c, old, oldRows, fresh, freshRows)) {
            out.push_back(c);
            out.back().file = now.name, out.back().line = *line;
        } else {
            said.push_back(
                {Severity::Note, "FC-CORRECTION", now.name, 0, c.group, c.heading, c.hole,
                 fmt::format("The correction of {} from {} to {} is dropped: the new issue of the file has another value.",
                             c.heading, c.before.empty() ? "nothing" : c.before, c.after)});
        }
    }
    return out;
}

/// The holes of a newer issue with the corrections of the earlier one that still hold.
struct Corrected {
    std::vector<Correction> corrections; ///< of the whole project
    Findings said;                       ///< of those that were dropped
    std::optional<Holes> holes;          ///< none: nothing of this file is corrected
};
Corrected withCorrections(const Project& project, const ImportPreview& u, const SourceFile& before) {
    Corrected out;
    out.corrections = carried(*project.corrections, before, u.file, out.said);
    if (std::ranges::count(out.corrections, u.file.name, &Correction::file) > 0)
        out.holes = readSource(u.file, SiteContext(project), out.corrections).holes;
    return out;
}

/// Says in the label where an extent that follows the data has gone.
Edited withExtentSaid(const Project& before, Edited e) {
    const auto was = frameOf(before), now = frameOf(e.project);
    if (was && now && *was != *now && !e.project.site->frame)
        e.label += fmt::format("; the extent is now {:.0f} m x {:.0f} m", now->xmax - now->xmin, now->ymax - now->ymin);
    return e;
}

} // namespace

const SourceFile* earlierIssue(const Project& project, const ImportPreview& u) {
    for (const auto& f : *project.files) {
        // ground data may come in another role: breaklines as contours
        const bool sameKind = f.format.substr(0, 3) == u.file.format.substr(0, 3) || (u.lines && f.holes == 0);
        if (sameKind && f.name == u.file.name) return &f;
    }
    if (u.partial || u.isGround()) return nullptr;
    const auto bare = filesWithoutGeology(project);
    for (const auto& h : *project.holes) // an AGS file under another name: its project, and its holes
        if (h.project == u.project && std::ranges::count(u.holes, h.id, &Hole::id))
            for (const auto& f : *project.files)
                if (f.name == h.file && !bare.contains(f.name)) return &f;
    return nullptr;
}

const SourceFile* sameFile(const Project& project, const ImportPreview& u) {
    const auto same = [&](const SourceFile& f) {
        return !f.bytes.text->empty() && f.bytes == u.file.bytes && f.settings == u.file.settings;
    };
    const auto at = std::ranges::find_if(*project.files, same);
    return at == project.files->end() ? nullptr : &*at;
}

SourceSettings settingsBefore(const Project& project, const std::string& name) {
    const auto at = std::ranges::find(*project.files, name, &SourceFile::name);
    return at == project.files->end() ? SourceSettings() : at->settings;
}

std::vector<HoleChange> changesBy(const Project& project, const ImportPreview& u) {
    using Kind = HoleChange::Kind;
    std::vector<HoleChange> out;
    const auto& holes = *project.holes;
    const Known known(project, u);
    const auto names = displayNames(holes);
    std::set<std::size_t> met;
    const auto* issue = earlierIssue(project, u);
    const auto corrected = issue ? withCorrections(project, u, *issue).holes : std::nullopt;
    const EarlierHoles earlier(project, u.partial ? nullptr : issue);
    for (const auto& incoming : corrected ? *corrected : u.holes) {
        const auto was = known.find(incoming);
        if (!was) {
            out.push_back({Kind::New, incoming.id, {}, {}});
            continue;
        }
        met.insert(*was);
        const bool joins = known.joins(*was, incoming);
        auto facts = differences(holes[*was], updated(holes[*was], incoming, u.partial, joins, earlier));
        if (joins) facts.insert(facts.begin(), fmt::format("{} knew it so far", holes[*was].file));
        const bool isSame = facts.empty();
        if (!isSame && known.isOneOfSeveral(incoming))
            facts.push_back("several holes have this id, and the file does not say of which project: it is taken for this one");
        const auto written = incoming.id == names[*was] ? std::string() : incoming.id;
        out.push_back({isSame ? Kind::Same : Kind::Changed, names[*was], std::move(facts), written, joins});
    }
    if (issue)
        for (std::size_t i = 0; i < holes.size(); ++i)
            if (holes[i].file == issue->name && !met.contains(i)) out.push_back({Kind::Gone, names[i], {}, {}});
    return out;
}

Edited importSource(const Project& project, const ImportPreview& u, const ImportChoices& choices) {
    if (u.asksForOrder()) throw Error(fmt::format("{}: {}", u.file.name, u.guess->why));
    if (u.asksWhetherContacts)
        throw Error(fmt::format("{}: say whether its rows are survey points or contacts of units.", u.file.name));
    if (u.contacts) return withExtentSaid(project, importContacts(project, u));
    if (u.values) return withExtentSaid(project, importValues(project, u));
    if (u.isGround()) return withExtentSaid(project, importGround(project, u));
    const bool update = choices.existing == ImportChoices::Existing::Update;
    const auto* before = update ? earlierIssue(project, u) : nullptr;
    auto files = *project.files;
    auto file = u.file;
    if (!before) file.name = uniqueName(files, file.name);
    Edited e{project, ""};
    auto holes = *project.holes;
    giveNames(holes); // these stay, whoever joins
    const auto* incoming = &u.holes;
    Corrected corrected;
    if (before) {
        corrected = withCorrections(project, u, *before);
        if (corrected.holes) incoming = &*corrected.holes;
        file.findings.insert(file.findings.end(), corrected.said.begin(), corrected.said.end());
        e.project.corrections = part(std::move(corrected.corrections));
    }
    if (!before) { // corrections may be of cells of the file that comes
        auto withIt = files;
        withIt.push_back(file);
        e.project.files = part(std::move(withIt));
    }
    CorrectionBook book(e.project);
    int added = 0, joined = 0, changed = 0, removed = 0;
    const Known known(project, u);
    const auto beforeName = before ? before->name : std::string();
    const EarlierHoles earlier(project, u.partial ? nullptr : before);
    const auto stem = std::filesystem::path(file.name).stem().string();
    file.settings.holesOut.assign(choices.holesOut.begin(), choices.holesOut.end());
    for (auto h : *incoming) {
        h.file = file.name;
        const auto at = known.find(h); // new holes are put behind the known ones
        const bool joins = at && known.joins(*at, h);
        if (at && (update || joins)) {
            const auto& was = holes[*at];
            auto now = updated(was, h, u.partial, joins, earlier);
            // what a sheet says of a hole of another file is a correction of that file
            if (u.partial && was.file != beforeName) book.recordFacts(was, now, fmt::format("Import {}", file.name));
            if (joins) book.recordFacts(h, now, fmt::format("Kept from {}", was.file)), ++joined;
            changed += !differences(was, now).empty();
            if (now != was) holes.change(*at) = std::move(now); // one that is as it was stays the same hole
        } else if (!at && !choices.holesOut.contains(h.id)) {
            if (h.project.empty()) h.project = stem;
            holes.push_back(std::move(h));
            ++added;
        }
    }
    if (before && choices.removeGone) {
        std::set<std::string> there;
        for (const auto& h : u.holes) {
            const auto at = known.find(h);
            there.insert(at ? (*project.holes)[*at].id : h.id);
        }
        removed = int(holes.removeIf([&](const Hole& h) { return h.file == beforeName && !there.contains(h.id); }));
    }
    giveNames(holes);
    file.holes = added + joined + (before ? before->holes - removed : 0);
    std::move(book).into(e.project);
    e.label = update && (changed || removed)
                  ? fmt::format("Update from {} ({} new, {} changed, {} gone)", file.name, added, changed, removed)
                  : fmt::format("Import {} ({})", file.name, counted(std::size_t(added), "hole"));
    if (before) {
        const auto at = std::ranges::find(files, beforeName, &SourceFile::name);
        for (std::size_t i = 0; i < holes.size(); ++i)
            if (holes[i].file == beforeName && beforeName != file.name) holes.change(i).file = file.name;
        *at = std::move(file);
    } else {
        files.push_back(std::move(file));
    }
    e.project.files = part(std::move(files));
    e.project.holes = part(std::move(holes));
    auto names = *project.codeNames;
    names.insert(u.codeNames.begin(), u.codeNames.end());
    e.project.codeNames = part(std::move(names));
    if (project.sequence->units.empty())
        e.project.sequence = part(proposeSequence(*e.project.holes, *e.project.codeNames, choices.unitHeading));
    if (project.holes->empty() && project.files->empty() && !u.title.empty()) e.project.name = u.title;
    if (project.files->empty() && project.site->crs.empty() && !u.system.empty() && unitOfSystem(u.system).isMetre()
        && u.file.settings.crs.empty()) { // the first file says where the site is
        auto site = *e.project.site;
        site.crs = u.system;
        e.project.site = part(std::move(site));
        e.label += ", in " + u.system;
    }
    return withExtentSaid(project, std::move(e));
}

Edited rereadSource(const Project& project, const std::string& name, const SourceSettings& settings, const Progress& progress) {
    auto files = *project.files;
    const auto at = std::ranges::find(files, name, &SourceFile::name);
    if (at == files.end()) throw Error(fmt::format("There is no file {} in the project.", name));
    const auto out = at->settings.holesOut;
    const auto fileBefore = *at;
    at->settings = settings;
    const auto readAgain = [&](SourceFile file) {
        auto again = importSource(project, readSource(std::move(file), SiteContext(project), {}, progress));
        again.label = fmt::format("Read {} again", name);
        return again;
    };
    if (at->holes == 0 && groundKindOf(at->path.empty() ? at->name : at->path) != GroundKind::None) {
        auto file = *at;
        if (fileExists(file.path)) file.bytes = {}, loadBytes(file);
        return readAgain(std::move(file));
    }
    if (at->format == "survey points" || at->format == "contacts" || at->format == "values") {
        auto file = *at;
        if (fileExists(file.path)) file.bytes = readBytes(LocalFile(file.path).path());
        return readAgain(std::move(file));
    }
    auto u = readSource(*at, SiteContext(project), *project.corrections, progress);
    u.file.holes = at->holes;
    const EarlierHoles earlier(project, u.partial ? nullptr : &fileBefore);
    Edited e{project, fmt::format("Read {} again", name)};
    auto holes = *project.holes;
    const Known known(project, u);
    for (auto h : u.holes) {
        h.file = name;
        const auto was = known.find(h);
        const bool wasOut = std::ranges::count(out, h.id) > 0, isOut = std::ranges::count(settings.holesOut, h.id) > 0;
        if (!was && wasOut && !isOut) { // left in the file until now
            if (h.project.empty()) h.project = std::filesystem::path(name).stem().string();
            holes.push_back(std::move(h));
            ++u.file.holes;
            continue;
        }
        if (!was || !(u.partial || holes[*was].file == name)) continue;
        if (auto now = updated(holes[*was], h, u.partial, false, earlier); now != holes[*was])
            holes.change(*was) = std::move(now);
    }
    giveNames(holes);
    *at = std::move(u.file);
    e.project.files = part(std::move(files));
    e.project.holes = part(std::move(holes));
    return e;
}

} // namespace fox
