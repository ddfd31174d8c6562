#include "fixtures.h"
#include "products/products.h"

#include <catch2/catch.hpp>

using namespace fox;
using namespace fox::test;

namespace {

/// Gets a number by a key, at ten bytes each.
std::shared_ptr<const int> number(ProductCache& cache, const std::string& key, int value, std::string_view kind = "number") {
    return cache.get(
        kind, {KeyPart::value(key)}, [&] { return value; }, [](int) { return std::size_t(10); });
}

const std::vector<ProductKind> kAllKinds{ProductKind::Grids,
                                         ProductKind::AllFindings,
                                         ProductKind::Outliers,
                                         ProductKind::Contours,
                                         ProductKind::GroundStatistics,
                                         ProductKind::Pictures,
                                         ProductKind::ImportedTables,
                                         ProductKind::Audit,
                                         ProductKind::Sections};

/// All that the demo site has more than one of is named; the others once.
const std::vector<std::string> kOnDemand{"ground grid", "model grid",     "volumes",           "outliers",
                                         "contours",    "drawn contours", "ground statistics", "tables of phase1_main.ags",
                                         "audit",       "section A",      "section B"};

} // namespace

TEST_CASE("A product is made once from the same things, and again from others", "[products]") {
    ProductCache cache;
    const auto first = number(cache, "a", 1);
    CHECK(number(cache, "a", 2) == first);
    CHECK(*number(cache, "b", 3) == 3);
    CHECK(*number(cache, "a", 4, "another kind") == 4);
    CHECK(cache.made("number") == 2);
    CHECK(cache.made("another kind") == 1);
    CHECK(cache.made("a kind that nobody asked for") == 0);
    CHECK(cache.bytes() == 30);
}

TEST_CASE("Shared parts are told apart by their address, values by their content", "[products]") {
    const auto one = std::make_shared<const int>(1), same = std::make_shared<const int>(1);
    CHECK(KeyPart(one) == KeyPart(one));
    CHECK_FALSE(KeyPart(one) == KeyPart(same));
    CHECK(KeyPart::value(1) == KeyPart::value(1));
    CHECK_FALSE(KeyPart::value(1) == KeyPart::value(2));
    CHECK_FALSE(KeyPart::value(1) == KeyPart::value(1.0)); // another type
    CHECK_FALSE(KeyPart(one) == KeyPart::value(1));
    CHECK(KeyPart(std::shared_ptr<const int>()) == KeyPart(std::shared_ptr<const int>()));
    ProductCache cache;
    CHECK(cache.canonical("words", std::string("x")) == cache.canonical("words", std::string("x")));
}

TEST_CASE("Beyond the budget what was asked for longest ago goes first", "[products]") {
    ProductCache cache(30);
    const std::weak_ptr<const int> a = number(cache, "a", 1), b = number(cache, "b", 2), c = number(cache, "c", 3);
    number(cache, "a", 1); // asked for again: now b is the oldest
    number(cache, "d", 4);
    CHECK(cache.bytes() == 30);
    CHECK_FALSE(a.expired());
    CHECK(b.expired());
    CHECK_FALSE(c.expired());
    CHECK(*number(cache, "b", 5) == 5); // made again
    CHECK(c.expired());
}

TEST_CASE("A product larger than the budget is kept alone", "[products]") {
    ProductCache cache(5);
    const auto first = number(cache, "a", 1);
    CHECK(number(cache, "a", 2) == first);
    CHECK(*number(cache, "b", 2) == 2);
    CHECK(*number(cache, "a", 3) == 3);
}

TEST_CASE("So many versions of one kind are kept, whatever they take up", "[products]") {
    ProductCache cache;
    const int last = int(ProductCache::kOfAKind) + 5;
    number(cache, "other", 0, "another kind");
    for (int i = 0; i <= last; ++i) number(cache, std::to_string(i), i);
    CHECK(cache.bytes() == 10 * (ProductCache::kOfAKind + 1));
    CHECK(*number(cache, std::to_string(last), -1) == last);
    CHECK(*number(cache, "0", -1) == -1);
    CHECK(*number(cache, "other", -1, "another kind") == 0);
}

TEST_CASE("Of large products of one kind only the newest stays", "[products]") {
    ProductCache cache(std::size_t(1) << 40);
    const auto large = [&](int key, const char* kind) {
        return std::weak_ptr<const int>(cache.get(
            kind, {KeyPart::value(key)}, [&] { return key; }, [](int) { return ProductCache::kOlderOfAKind / 2 + 1; }));
    };
    const auto first = large(1, "grid"), second = large(2, "grid"), other = large(1, "another grid");
    CHECK_FALSE(first.expired()); // half of what may stay beside the newest
    const auto third = large(3, "grid");
    CHECK(first.expired());
    CHECK_FALSE(second.expired());
    CHECK_FALSE(third.expired());
    CHECK_FALSE(other.expired()); // of another kind
    CHECK(cache.bytes() == 3 * (ProductCache::kOlderOfAKind / 2 + 1));
    const auto coarse = cache.get(
        "grid", {KeyPart::value(4)}, [] { return 4; }, [](int) { return std::size_t(100); });
    CHECK(second.expired()); // fine cells do not stay when they are coarse again
    CHECK(cache.bytes() == 2 * (ProductCache::kOlderOfAKind / 2 + 1) + 100);
}

TEST_CASE("What is forgotten is not kept alive by what was made from it", "[products]") {
    ProductCache cache(25);
    auto grid = number(cache, "grid", 1, "grid");
    const std::weak_ptr<const int> watched = grid;
    const auto sum = [&] {
        return cache.get(
            "sum", {grid}, [] { return 2; }, [](int) { return std::size_t(1); });
    };
    const std::weak_ptr<const int> madeFromIt = sum();
    grid.reset();
    CHECK_FALSE(watched.expired());
    number(cache, "other", 1);
    number(cache, "another", 1); // the grid is beyond the budget
    CHECK(watched.expired());
    CHECK(madeFromIt.expired());
    CHECK(cache.bytes() == 20);
}

TEST_CASE("What fails to be made is not remembered", "[products]") {
    ProductCache cache;
    const auto failing = [&] {
        return cache.get(
            "number", {KeyPart::value(1)}, []() -> int { throw Error("no"); }, [](int) { return std::size_t(1); });
    };
    CHECK_THROWS_AS(failing(), Error);
    CHECK(cache.bytes() == 0);
    CHECK(cache.made("number") == 0);
}

TEST_CASE("Nothing is worked out that nobody asked for", "[products]") {
    Products products;
    const auto& project = demo().project;
    const auto bare = products.of(project, {}, {});
    CHECK(bare->model->bases.size() + 1 == project.sequence->units.size());
    CHECK(bare->findings);
    for (const auto& kind : kOnDemand) {
        CAPTURE(kind);
        CHECK(products.made(kind) == 0);
    }
    CHECK_FALSE(bare->ground);
    CHECK_FALSE(bare->contours);
    CHECK(bare->sections == std::vector<std::shared_ptr<const Section>>(project.sections->size()));

    Wanted wanted{ProductKind::Contours};
    wanted.sections.insert("B");
    const auto some = products.of(project, {}, wanted);
    CHECK(some->contours);
    CHECK(products.made("contours") == 1);
    CHECK(products.made("ground grid") == 1); // what contours are made from
    CHECK(products.made("section B") == 1);
    for (const auto* kind : {"model grid", "audit", "section A", "ground statistics", "outliers"}) {
        CAPTURE(kind);
        CHECK(products.made(kind) == 0);
    }
    products.of(project, {}, wanted);
    CHECK(products.made("contours") == 1); // remembered
    products.of(project);
    for (const auto& kind : kOnDemand) {
        CAPTURE(kind);
        CHECK(products.made(kind) == 1);
    }
}

TEST_CASE("A product is the same whatever else was asked for with it, and in any order", "[products][random]") {
    const auto seed = GENERATE(range(1u, 9u));
    CAPTURE(seed);
    std::mt19937 random(seed);
    Products products;
    const auto& project = demo().project;
    std::vector<std::shared_ptr<const ProductSet>> sets;
    for (int i = 0; i < 6; ++i) {
        Wanted wanted;
        for (const auto kind : kAllKinds)
            if (random() % 3 == 0) wanted.kinds.insert(kind);
        sets.push_back(products.of(project, {}, wanted));
        CHECK(sets.back()->wanted == wanted);
    }
    const auto all = products.of(project);
    for (const auto& set : sets) {
        const auto has = [&](ProductKind kind) { return set->wanted.has(kind); };
        CHECK(set->model == all->model);
        CHECK(set->audit == (has(ProductKind::Audit) ? all->audit : nullptr));
        CHECK(set->contours == (has(ProductKind::Contours) ? all->contours : nullptr));
        CHECK(set->groundStatistics == (has(ProductKind::GroundStatistics) ? all->groundStatistics : nullptr));
        const bool grids = has(ProductKind::Grids) || has(ProductKind::AllFindings);
        CHECK(set->modelGrid == (grids ? all->modelGrid : nullptr));
        CHECK(set->volumes == (grids ? all->volumes : nullptr));
        if (has(ProductKind::Sections)) CHECK(set->sections == all->sections);
        if (has(ProductKind::AllFindings)) CHECK(set->findings == all->findings);
        if (has(ProductKind::ImportedTables)) CHECK(set->agsFiles == all->agsFiles);
    }
}

TEST_CASE("With hardly any memory the products come out the same", "[products]") {
    Products usual, poor(1);
    const auto& project = demo().project;
    const auto edited = setHoleLevel(project, "QB101", Level{21.5}).project;
    for (const auto* version : {&project, &edited, &project}) {
        const auto a = usual.of(*version), b = poor.of(*version);
        CHECK(a->volumes->units.size() == b->volumes->units.size());
        for (std::size_t u = 0; u < a->volumes->units.size(); ++u)
            CHECK(a->volumes->units[u].volume == b->volumes->units[u].volume);
        CHECK(*a->findings == *b->findings);
        CHECK(a->audit->matchedFraction == b->audit->matchedFraction);
    }
    CHECK(usual.made("model") == 2);
    CHECK(poor.made("model") == 3); // nothing was remembered
    CHECK(usual.bytes() > 100 * poor.bytes());
}

TEST_CASE("Who looks at what an edit did not touch sees no difference", "[products]") {
    Products products;
    const auto& project = demo().project;
    const auto bare = products.of(project, {}, {}), all = products.of(project);
    CHECK(all->sameFor({}, *bare));
    CHECK(bare->sameFor({}, *all));
    for (const auto kind : kAllKinds) // the demo has no background image
        CHECK(all->sameFor({kind}, *bare) == (kind == ProductKind::Pictures));
    CHECK(all->sameFor(Wanted::everything(), *products.of(project)));
    Wanted section;
    section.sections.insert("A");
    CHECK_FALSE(all->sameFor(section, *bare));
    CHECK(all->sameFor(section, *products.of(project, {}, section)));
    const auto edited = products.of(setHoleLevel(project, "QB101", Level{21.5}).project);
    CHECK_FALSE(edited->sameFor({}, *all));
}

TEST_CASE("What covers what", "[products]") {
    Wanted a{ProductKind::Grids}, none, one;
    one.sections.insert("A");
    CHECK(a.covers(none));
    CHECK(a.covers(a));
    CHECK_FALSE(a.covers(one));
    CHECK(Wanted{ProductKind::Sections}.covers(one));
    CHECK(Wanted::everything().covers(a));
    CHECK(Wanted::everything().covers(one));
    a.add(one);
    CHECK(a.covers(one));
    CHECK(std::ranges::all_of(kAllKinds, [](ProductKind k) { return Wanted::everything().has(k); }));
}
