// What logs say of bases before the rules of the stack: true of the truth, enough to give the logs back, and kept by models.
#include "fixtures.h"
#include "model/audit.h"
#include "model/stack.h"
#include "products/products.h"
#include "sequence/raw_contacts.h"

#include <array>
#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <set>

using namespace fox;
using namespace fox::test;

namespace {

Sequence randomRules(std::mt19937& random, std::size_t units) {
    Sequence s;
    s.unitHeading = "GEOL_GEOL";
    for (std::size_t i = 0; i < units; ++i) {
        Unit u;
        u.code = u.name = fmt::format("U{}", i);
        u.base = random() % 2 ? BaseRule::Cuts : BaseRule::Laps;
        s.units.push_back(std::move(u));
    }
    return s;
}

/// The stack as it is defined, written once more: the check of StackRules.
std::vector<double> stacked(std::vector<double> raw, const Sequence& s, double ground) {
    for (std::size_t i = raw.size(); i-- > 0;)
        if (s.units[i].base == BaseRule::Laps && i + 1 < raw.size()) raw[i] = std::max(raw[i], raw[i + 1]);
    for (auto& base : raw) ground = base = std::min(base, ground);
    return raw;
}

/// A hole down to `depth` through the units between these bases; levels and depths are whole metres.
Hole drilled(const std::string& id, Point2 at, double ground, const std::vector<double>& bases, double depth) {
    Hole h;
    h.id = h.name = id, h.easting = at.x, h.northing = at.y, h.level = Level{ground};
    double top = ground;
    for (std::size_t u = 0; u <= bases.size() && top > ground - depth; ++u) {
        const double base = std::max(ground - depth, u < bases.size() ? bases[u] : -1e9);
        if (base < top)
            h.intervals.push_back({Depth{ground - top}, Depth{ground - base}, "", {{"GEOL_GEOL", fmt::format("U{}", u)}}, 0});
        top = std::min(top, base);
    }
    h.finalDepth = Depth{depth};
    return h;
}

bool isKept(const Contact& c, double raw) {
    switch (c.kind) {
    case ContactKind::Observed: return raw == c.place.z;
    case ContactKind::NotReached: return raw <= c.place.z;
    case ContactKind::Absent: return raw >= c.place.z;
    default: return false;
    }
}

/// A raw base that a log's words allow, however far from the truth.
double allowed(const std::vector<Contact>& said, std::mt19937& random) {
    const double off = double(random() % 9);
    if (said.empty()) return double(random() % 40) - 30;
    const auto& c = said.front();
    return c.kind == ContactKind::Observed ? c.place.z : c.kind == ContactKind::Absent ? c.place.z + off : c.place.z - off;
}

} // namespace

TEST_CASE("What a log says of raw bases is true of the raw bases that it was made from", "[sequence][random]") {
    std::mt19937 random(17);
    int observed = 0, upper = 0, lower = 0;
    for (int round = 0; round < 500; ++round) {
        const auto s = randomRules(random, 3 + random() % 5);
        const auto n = s.units.size() - 1;
        Holes holes;
        std::vector<std::vector<double>> raws;
        for (int h = 0; h < 6; ++h) { // several, so that each unit is likely to be in one
            std::vector<double> raw(n);
            for (auto& r : raw) r = double(random() % 24) - 20;
            holes.push_back(
                drilled(fmt::format("H{}", h), {10.0 * h + 10, 10}, 5, stacked(raw, s, 5), 4 + double(random() % 30)));
            raws.push_back(std::move(raw));
        }
        const auto logs = readHoles(holes, s);
        std::set<std::size_t> known;
        for (const auto& hole : logs.holes)
            for (const auto& i : hole.intervals) known.insert(i.unit);
        bool all = true;
        for (std::size_t u = 0; u < n; ++u) all &= known.contains(u);
        if (!all) continue; // one that no log has is taken not to be there, and was
        const auto said = rawContactsOf(logs, s);
        for (std::size_t u = 0; u < n; ++u)
            for (const auto& c : said[u]) {
                CAPTURE(round, u, c.hole, int(c.kind), c.place.z);
                REQUIRE(isKept(c, raws[std::size_t(c.hole[1] - '0')][u]));
                observed += c.kind == ContactKind::Observed;
                upper += c.kind == ContactKind::NotReached;
                lower += c.kind == ContactKind::Absent;
            }
    }
    CHECK(observed > 1000);
    CHECK(upper > 500);
    CHECK(lower > 500);
}

TEST_CASE("Whatever raw bases keep what a log says, the stack gives the log back", "[sequence][model][random]") {
    std::mt19937 random(18);
    int boundaries = 0;
    for (int round = 0; round < 500; ++round) {
        const auto s = randomRules(random, 3 + random() % 5);
        const auto n = s.units.size() - 1;
        Holes holes;
        for (int h = 0; h < 6; ++h) {
            std::vector<double> raw(n);
            for (auto& r : raw) r = double(random() % 24) - 20;
            holes.push_back(
                drilled(fmt::format("H{}", h), {10.0 * h + 10, 10}, 5, stacked(raw, s, 5), 4 + double(random() % 30)));
        }
        const auto logs = readHoles(holes, s);
        std::set<std::size_t> known;
        for (const auto& hole : logs.holes)
            for (const auto& i : hole.intervals) known.insert(i.unit);
        const auto said = rawContactsOf(logs, s);
        for (std::size_t h = 0; h < holes.size(); ++h) {
            std::vector<double> bases(n);
            for (std::size_t u = 0; u < n; ++u) {
                std::vector<Contact> here;
                std::ranges::copy_if(said[u], std::back_inserter(here),
                                     [&](const Contact& c) { return c.hole == holes[h].name; });
                REQUIRE(here.size() <= 1); // a hole says one thing of each
                bases[u] = known.contains(u) ? allowed(here, random) : std::numeric_limits<double>::infinity();
            }
            std::string words;
            for (std::size_t u = 0; u < n; ++u) {
                words += fmt::format("U{} {} {}", u, s.units[u].base == BaseRule::Laps ? "laps" : "cuts", bases[u]);
                for (const auto& c : said[u])
                    if (c.hole == holes[h].name) words += fmt::format(" ({} {})", fox::words(c.kind), c.place.z);
                words += "; ";
            }
            for (const auto& i : holes[h].intervals)
                words += fmt::format("{} {} to {}, ", i.codes.at("GEOL_GEOL"), i.top.metres, i.base.metres);
            INFO(words);
            StackRules(s).apply({}, 5, bases);
            const auto& log = holes[h].intervals;
            double top = 5;
            std::size_t unit = 0;
            for (const auto& i : log) {
                unit = std::size_t(std::stoi(i.codes.at("GEOL_GEOL").substr(1)));
                CAPTURE(round, h, unit, i.base.metres);
                const double above = unit == 0 ? 5 : bases[unit - 1];
                REQUIRE(above == top); // the unit begins where the log has it, so those that the log passes are not there
                top = 5 - i.base.metres;
                if (&i != &log.back()) REQUIRE(bases[unit] == top);
                ++boundaries;
            }
            if (unit < n) REQUIRE(bases[unit] <= top); // the hole stops in it
        }
    }
    CHECK(boundaries > 5000);
}

TEST_CASE("Models keep every contact, and absent units stay absent, under any mixture of rules", "[model][random]") {
    const bool automatic = GENERATE(false, true);
    CAPTURE(automatic);
    std::mt19937 random(19);
    std::size_t contacts = 0, absent = 0;
    for (int round = 0; round < 25; ++round) {
        auto s = randomRules(random, 3 + random() % 4);
        for (auto& u : s.units) u.recipe.automatic = automatic;
        const auto n = s.units.size() - 1;
        std::uniform_real_distribution<double> at(0, 200), slope(-0.04, 0.04);
        std::vector<std::array<double, 3>> planes;
        for (std::size_t u = 0; u < n; ++u) planes.push_back({double(random() % 14) - 12, slope(random), slope(random)});
        Project p;
        Holes holes;
        for (int h = 0; h < 14; ++h) {
            const Point2 place{at(random), at(random)};
            std::vector<double> raw;
            for (const auto& [z, dx, dy] : planes)
                raw.push_back(std::round(z + dx * place.x + dy * place.y + double(random() % 3)));
            holes.push_back(drilled(fmt::format("H{}", h), place, 5, stacked(raw, s, 5), 3 + double(random() % 25)));
        }
        giveNames(holes);
        p.holes = part(std::move(holes));
        p.sequence = part(Sequence(s));
        const auto set = Products().of(p, {}, {ProductKind::Audit});
        CAPTURE(round);
        CHECK(set->audit->worstDifference < 0.01);
        CHECK(set->audit->boundsBroken == 0);
        // a base that no hole shows hides all below it
        if (!mentions(*set->findings, "FC-NO-BASE", "")) CHECK(set->audit->matchedFraction > 0.999);
        for (const auto& h : *p.holes) { // counted once more, without the audit
            const auto column = set->model->columnAt(*h.place());
            std::set<std::string> codes;
            for (const auto& i : h.intervals) codes.insert(i.codes.at("GEOL_GEOL"));
            for (std::size_t u = 0; u < n; ++u) {
                const double thickness = column.top(u) - column.bases[u], logged = 5 - column.top(u);
                if (std::isnan(thickness) || codes.contains(s.units[u].code) || logged >= h.end().metres - 0.01) continue;
                CHECK(thickness < 0.01);
                ++absent;
            }
            contacts += h.intervals.size();
        }
    }
    CHECK(contacts > 600);
    CHECK(absent > 100);
}

TEST_CASE("A unit that returns counts as matched where the model has it", "[model]") {
    Project p;
    Holes holes;
    for (int h = 0; h < 6; ++h) {
        auto made = hole(fmt::format("H{}", h), 20.0 * h, 5.0 * (h % 2), 0, {{2, "U0"}, {9, "U1"}, {12, "U2"}});
        if (h == 3) made = hole("H3", 60, 5, 0, {{2, "U0"}, {6, "U1"}, {7, "U0"}, {9, "U1"}, {12, "U2"}});
        holes.push_back(std::move(made));
    }
    giveNames(holes);
    p.holes = part(std::move(holes));
    std::mt19937 random(1);
    auto s = randomRules(random, 3);
    for (auto& u : s.units) u.base = BaseRule::Cuts;
    p.sequence = part(std::move(s));
    const auto audit = Products().of(p, {}, {ProductKind::Audit})->audit;
    for (const auto& h : audit->holes)
        CHECK(h.matchedLength == Approx(h.name == "H3" ? 11 : 12)); // all but the metre out of order
}
