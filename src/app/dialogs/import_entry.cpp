#include "dialogs/import_entry.h"

#include "dialogs/table_memory.h"
#include "holes/hole_checks.h"
#include "importing/ground_import.h"
#include "style/words.h"

#include <QCoreApplication>
#include <QStringList>
#include <fmt/format.h>
#include <set>

namespace fox::app {

namespace {

QString entryWords(const char* words) { return QCoreApplication::translate("fox::app::ImportSheet", words); }
QString holesIn(std::ptrdiff_t n) { return counted(qint64(n), "hole"); }
std::ptrdiff_t count(const ReadFile& read, HoleChange::Kind kind) {
    return std::ranges::count(read.changes, kind, &HoleChange::kind);
}

/// Why it failed, without the name that stands over it.
QString withoutName(const ImportEntry& e) {
    auto why = e.why;
    for (const auto& name : {qt(e.file.path), e.name()})
        if (!name.isEmpty() && why.startsWith(name)) why = why.mid(name.size());
    while (why.startsWith(' ') || why.startsWith(',') || why.startsWith(':')) why = why.mid(1);
    return why;
}

/// Tables that were read before are read in the same way again.
bool takeRemembered(ImportPreview& u, const SourceSettings& given) {
    bool again = false;
    for (const auto& sheet : u.sheets)
        if (!given.mappings.contains(sheet.name))
            if (const auto known = remembered(sheet.columns); known && *known != u.file.settings.mappings[sheet.name]) {
                u.file.settings.mappings[sheet.name] = *known;
                again = true;
            }
    return again;
}

} // namespace

ReadFile readForImport(const SourceFile& file, const Project& project, const FilesBeside& others, const Progress& progress) {
    auto source = file;
    loadBytes(source);
    SiteContext site(project);
    if (site.data.empty()) site.data = others.places;
    site.units.insert(site.units.end(), others.units.begin(), others.units.end());
    ReadFile read;
    read.crs = project.site->crs;
    auto& u = read.understood;
    u = readSource(std::move(source), site, {}, progress);
    const bool looksLikeSurvey = u.survey && file.settings.as == SourceSettings::As::Guess;
    if (auto settings = file.settings; looksLikeSurvey && u.sheets.size() == 1 && settings.columns.empty()
                                       && takeRememberedPoints(u.sheets[0].columns, settings)
                                       && (u.asksWhetherContacts || settings.as != SourceSettings::As::SurveyPoints)) {
        auto again = u.file;
        again.settings = settings;
        u = readSource(std::move(again), site, {}, progress);
    }
    if ((!u.asks() || u.asksForRoles()) && takeRemembered(u, file.settings)) u = readSource(u.file, site, {}, progress);
    read.ground = countGround(u);
    read.places = placePreview(u);
    progress.report(1, "Comparing with the project");
    read.changes = changesBy(project, u);
    for (auto& change : read.changes)
        if (const auto with = others.holes.find(change.hole);
            u.partial && change.kind == HoleChange::Kind::New && with != others.holes.end())
            change = {HoleChange::Kind::Changed, change.hole, {fmt::format("is in {}", with->second)}};
    read.newerIssue = earlierIssue(project, u) != nullptr;
    read.there = sameFile(project, u) != nullptr;
    if (!u.partial || std::ranges::any_of(u.holes, [](const Hole& h) { return h.easting.has_value(); }))
        read.sense = checkHoles(u.holes, u.file.format.starts_with("AGS 3") ? std::set{u.file.name} : std::set<std::string>());
    return read;
}

void ImportEntry::take(ReadFile r) {
    const bool first = !read;
    file = r.understood.file; // with its bytes and settings, for the next look
    if (first) choices.holesOut = {file.settings.holesOut.begin(), file.settings.holesOut.end()};
    if (first)
        choices.existing = r.newerIssue || r.understood.partial || std::ranges::count(r.changes, true, &HoleChange::joins) > 0
                               ? ImportChoices::Existing::Update
                               : ImportChoices::Existing::Leave;
    read = std::make_shared<const ReadFile>(std::move(r));
    why.clear();
    state = read->understood.asks() ? State::Asks : bringsAnything(*read, choices) ? State::Ready : State::Nothing;
}

std::ptrdiff_t newHoles(const ReadFile& read, const ImportChoices& choices) {
    return std::ranges::count_if(
        read.changes, [&](const HoleChange& c) { return c.kind == HoleChange::Kind::New && !choices.holesOut.contains(c.hole); });
}

QStringList unusedColumns(const ImportPreview& u) {
    QStringList out;
    for (const auto& sheet : u.sheets) {
        const auto mapping = u.file.settings.mappings.find(sheet.name);
        if (u.isGround() || mapping == u.file.settings.mappings.end()) continue;
        for (std::size_t c = 0; c < std::min(sheet.columns.size(), mapping->second.roles.size()); ++c)
            if (mapping->second.roles[c] == ColumnRole::Ignored && !sheet.columns[c].empty()) out << qt(sheet.columns[c]);
    }
    return out;
}

bool lacksPlaces(const ReadFile& read) {
    std::set<std::string_view> fresh;
    for (const auto& c : read.changes)
        if (c.kind == HoleChange::Kind::New) fresh.insert(c.hole);
    return read.understood.partial && !fresh.empty()
           && std::ranges::none_of(read.understood.holes, [&](const Hole& h) { return h.place() && fresh.contains(h.id); });
}

bool bringsAnything(const ReadFile& read, const ImportChoices& choices) {
    if (read.understood.asks() || (read.there && newHoles(read, choices) == 0)) return false; // some may be left in the file
    if (read.understood.isGround()) return groundWords(read.understood, read.ground).anything;
    const bool update = choices.existing == ImportChoices::Existing::Update;
    using Kind = HoleChange::Kind;
    return newHoles(read, choices) > 0 || (update && (count(read, Kind::Changed) > 0 || count(read, Kind::Gone) > 0));
}

QStringList inWords(const std::vector<HoleChange>& changes) {
    int counts[4] = {};
    for (const auto& c : changes) ++counts[int(c.kind)];
    QStringList out;
    if (counts[0]) out << entryWords("%1 new").arg(counts[0]);
    if (counts[1]) out << entryWords("%1 changed").arg(counts[1]);
    if (counts[2]) out << entryWords("%1 as they are in the project already").arg(counts[2]);
    if (counts[3]) out << entryWords("%1 no longer in the file").arg(counts[3]);
    return out;
}

QString factsOf(const ReadFile& read) {
    const auto& u = read.understood;
    if (read.there)
        return entryWords(
            "The project has this file already, as it is here: there is nothing new to import, unless it is to be read in "
            "another way.");
    if (u.asksForOrder()) return qt(u.guess->why);
    if (u.asksForRoles())
        return (u.file.findings.empty() ? QString() : qt(u.file.findings.front().message) + " ")
               + entryWords("Choose over each column what it holds.");
    if (u.asksForLayers())
        return entryWords(
                   "The drawing has %1. Say which of them are ground and which are only to look at; what they look like is "
                   "proposed.")
            .arg(counted(qint64(u.tables.size()), "layer"));
    if (u.asksWhetherContacts)
        return entryWords(
            "The codes of these points are names of units or of ground, not of features. Are the rows survey points of the "
            "ground, or contacts: points on the base or top of a unit?");
    if (u.isGround()) {
        auto facts = groundWords(u, read.ground).facts;
        if (u.guess) facts += " " + qt(u.guess->why);
        if (read.newerIssue)
            facts += " " + entryWords("It takes the place of the file of this name in the project; manual edits stay.");
        return facts;
    }
    auto facts = qt(u.file.format);
    if (!u.project.empty())
        facts += entryWords(", project %1%2").arg(qt(u.project), u.title.empty() ? QString() : ": " + qt(u.title));
    facts += ". " + holesIn(std::ptrdiff_t(u.holes.size()));
    if (const auto words = inWords(read.changes); !words.isEmpty()) facts += ": " + words.join(", ");
    facts += ".";
    if (lacksPlaces(read))
        facts += " "
                 + entryWords(
                     "The new ones have no place yet: another file may bring it. If they are holes that the project has, their "
                     "names differ.");
    if (read.newerIssue) facts += " " + entryWords("It looks like a newer issue of a file that is in the project.");
    return facts;
}

QString contentOf(const ReadFile& read, const ImportChoices& choices) {
    if (read.understood.isGround()) return groundWords(read.understood, read.ground).what;
    const auto changed = choices.existing == ImportChoices::Existing::Update ? count(read, HoleChange::Kind::Changed) : 0;
    return holesIn(newHoles(read, choices) + changed);
}

QString actionOf(const ReadFile& read, const ImportChoices& choices) {
    if (read.understood.asks()) return entryWords("Import");
    if (!bringsAnything(read, choices)) return entryWords("Nothing to import");
    const auto& u = read.understood;
    if (u.isGround())
        return read.newerIssue ? entryWords("Update %1").arg(qt(u.file.name))
                               : entryWords("Import %1").arg(contentOf(read, choices));
    const auto fresh = newHoles(read, choices), changed = count(read, HoleChange::Kind::Changed);
    const bool update = choices.existing == ImportChoices::Existing::Update;
    return !update || changed == 0 ? entryWords("Import %1").arg(holesIn(fresh))
           : fresh == 0            ? entryWords("Update %1").arg(holesIn(changed))
                                   : entryWords("Import %1, update %2").arg(holesIn(fresh)).arg(changed);
}

QString stateOf(const ImportEntry& entry) {
    using State = ImportEntry::State;
    switch (entry.state) {
    case State::Waiting: return entryWords("waiting");
    case State::Reading: return entryWords("reading, %1 %").arg(int(100 * entry.fraction));
    case State::Failed: return entry.why.isEmpty() ? entryWords("stopped") : withoutName(entry);
    case State::Asks:
        if (entry.read->understood.asksForRoles()) return entryWords("what do the columns hold?");
        if (entry.read->understood.asksForLayers())
            return entryWords("%1: which are ground?").arg(counted(qint64(entry.read->understood.tables.size()), "layer"));
        return entry.read->understood.asksWhetherContacts
                   ? entryWords("%1: contacts, or survey points?")
                         .arg(counted(qint64(entry.read->understood.survey->points.size()), "row"))
                   : entryWords("in which order are the columns?");
    case State::Nothing:
        return entry.read->there                      ? entryWords("in the project already")
               : entry.read->understood.holes.empty() ? entryWords("no holes and no ground in it")
                                                      : entryWords("nothing new in it");
    case State::Ready: break;
    }
    const auto findings = entry.read->understood.file.findings.size() + entry.read->sense.size();
    auto words = contentOf(*entry.read, entry.choices);
    if (entry.read->newerIssue) words += entryWords(", newer issue");
    return findings > 0 ? words + ", " + counted(qint64(findings), "finding") : words;
}

} // namespace fox::app
