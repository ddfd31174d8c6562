#include "products/log_products.h"

#include "holes/hole_checks.h"
#include "sequence/raw_contacts.h"

#include <fmt/format.h>
#include <set>

namespace fox {

namespace {

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
    std::vector<IntervalSplit> splits;
    std::set<std::string> picked;
    bool operator==(const ReadingKey&) const = default;

    static ReadingKey of(const Project& p) {
        ReadingKey key{{}, p.sequence->unitHeading, p.sequence->aliases, p.interpretation->intervals, p.interpretation->splits,
                       {}};
        for (const auto& u : p.sequence->units) key.units.push_back({u.code, u.name, u.logged});
        for (const auto& pick : p.interpretation->picks) key.picked.insert(pick.hole);
        return key;
    }
};

} // namespace

std::shared_ptr<const Findings> holeFindings(const Making& making) {
    const auto& holes = making.project.holes;
    const auto& files = making.project.files;
    const auto make = [&] {
        std::set<std::string> edition3;
        for (const auto& f : *files)
            if (f.format.starts_with("AGS 3")) edition3.insert(f.name);
        return checkHoles(*holes, edition3);
    };
    return making.cache.get("hole findings", {holes, files}, make, [](const Findings& f) { return bytesOf(f); });
}

std::shared_ptr<const InterpretedLogs> interpretedLogs(const Making& making) {
    return making.once("interpreted logs", [&] {
        const auto& p = making.project;
        return making.cache.get(
            "interpreted logs", {p.holes, KeyPart::value(ReadingKey::of(p))},
            [&] { return readHoles(*p.holes, *p.sequence, *p.interpretation); },
            [](const InterpretedLogs& logs) {
                std::size_t bytes = sizeof(logs) + bytesOf(logs.findings);
                for (const auto& h : logs.holes) bytes += sizeof(h) + bytesOf(h.intervals) + h.parts.size() * sizeof(Interval);
                return bytes;
            });
    });
}

std::shared_ptr<const PlacedContacts> contactPoints(const Making& making) {
    return making.once("contact points", [&] {
        const auto& p = making.project;
        return making.cache.get(
            "contact points", {p.contactPoints, p.holes, KeyPart::value(ReadingKey::of(p))},
            [&] { return placedContacts(*p.contactPoints, *p.holes, *p.sequence); },
            [](const PlacedContacts& placed) {
                std::size_t bytes = sizeof(placed) + bytesOf(placed.findings);
                for (const auto& list : placed.ofUnits) bytes += bytesOf(list);
                return bytes;
            });
    });
}

namespace {

/// A unit whose contacts are as they were keeps its pointer.
std::vector<std::shared_ptr<const std::vector<Contact>>> shared(const Making& making, const char* kind,
                                                                const std::vector<std::vector<Contact>>& ofUnits) {
    std::vector<std::shared_ptr<const std::vector<Contact>>> out;
    for (std::size_t u = 0; u < ofUnits.size(); ++u)
        out.push_back(making.cache.canonical(fmt::format("{} of {}", kind, making.project.sequence->units[u].code), ofUnits[u]));
    return out;
}

} // namespace

std::vector<std::shared_ptr<const std::vector<Contact>>> rawContacts(const Making& making) {
    return making.once("raw contacts", [&] {
        const auto& p = making.project;
        return shared(making, "raw contacts",
                      rawContactsOf(*interpretedLogs(making), *p.sequence, *p.interpretation, contactPoints(making)->ofUnits));
    });
}

std::vector<std::shared_ptr<const std::vector<Contact>>> contacts(const Making& making) {
    return making.once("contacts", [&] {
        const auto& p = making.project;
        return shared(making, "contacts",
                      contactsOf(*interpretedLogs(making), *p.sequence, *p.interpretation, contactPoints(making)->ofUnits));
    });
}

} // namespace fox
