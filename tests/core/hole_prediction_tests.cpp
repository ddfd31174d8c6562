// What a model said of holes that it does not know.
#include "fixtures.h"
#include "model/hole_prediction.h"
#include "products/products.h"
#include "sheets/prediction_plot.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace fox;
using namespace fox::test;

namespace {

HolePrediction prediction(double found, double predicted, double deviation, double probability, bool isPresent) {
    return {"H", 0, isPresent, found, predicted, deviation, probability};
}

int itemsOf(const paper::Drawing& d, const std::string& layer) {
    return int(std::ranges::count(d.items, layer, &paper::Item::layer));
}

} // namespace

TEST_CASE("The summary of predictions is that of their errors", "[prediction]") {
    const std::vector<HolePrediction> all{prediction(10, 11, 1, 0.9, true), prediction(10, 8, 1, 0.4, true),
                                          prediction(kNoValue, 5, 1, 0.2, false), prediction(kNoValue, 5, 1, 0.8, false)};
    const auto s = summaryOf(all);
    CHECK(s.bases == 2);
    CHECK(s.bias == Approx(-0.5));
    CHECK(s.rmse == Approx(std::sqrt(2.5)));
    CHECK(s.within == Approx(0.5)); // 1 m is within 1.28 m, 2 m is not
    CHECK(s.presences == 4);
    CHECK(s.presenceRight == 2);
    const auto none = summaryOf({});
    CHECK(none.bases == 0);
    CHECK(std::isnan(none.rmse));
    CHECK(std::isnan(none.within));
}

TEST_CASE("A model is held against holes that it was made without", "[prediction]") {
    Project p;
    Holes all;
    for (const auto& at : randomPoints(3, 24, 200)) {
        auto h = at.x < 110 ? hole(fmt::format("H{}", all.size()), at.x, at.y, 30, {{4, "A"}, {9, "B"}, {12, "C"}})
                            : hole(fmt::format("H{}", all.size()), at.x, at.y, 30, {{9, "B"}, {12, "C"}});
        all.push_back(std::move(h));
    }
    all.change(5).intervals.resize(all[5].intervals.size() - 1); // stops in B
    giveNames(all);
    p.holes = part(std::move(all));
    auto s = sequence({"A", "B", "C"});
    for (auto& u : s.units) u.recipe.automatic = true;
    p.sequence = part(std::move(s));
    p.ground = part(groundOf("0 0 30, 200 0 30, 200 200 30, 0 200 30"));
    p.site = part(Site{"", Frame{0, 0, 200, 200, 10}, {}});
    const auto with = Products().of(p, {}, {ProductKind::Audit});
    const std::vector<std::string> some{"H3", "H5", "H9"};
    auto without = p;
    auto holes = *p.holes;
    for (const int i : {3, 5, 9}) holes.change(std::size_t(i)).excluded = true;
    without.holes = part(std::move(holes));
    const auto made = Products().of(without, {}, {ProductKind::Audit});
    std::vector<std::vector<Contact>> contacts;
    for (const auto& c : with->contacts) contacts.push_back(*c);
    const auto predictions = predictionsOf(*made->model, contacts, some);
    REQUIRE(predictions.size() == 6); // two bases in each
    for (const auto& q : predictions) {
        CAPTURE(q.hole, q.unit);
        CHECK(std::ranges::count(some, q.hole) == 1);
        const auto place = *findHole(*p.holes, q.hole)->place();
        CHECK(q.predicted == Approx(made->model->columnAt(place).bases[q.unit]));
        CHECK(q.probability >= 0);
        if (q.hole == "H5" && q.unit == 1) CHECK(std::isnan(q.found)); // not reached
        if (q.hole != "H5" && q.unit == 1) CHECK(q.found == Approx(21));
        if (q.unit == 0) CHECK(q.isPresent == (place.x < 110));
    }
    CHECK(summaryOf(predictions).rmse < 0.6); // level bases
    CHECK(predictionsOf(*made->model, contacts, {}).empty());
    const auto csv = predictionsCsv(predictions, *p.sequence);
    CHECK(std::ranges::count(csv, '\n') == 7);
    CHECK(csv.find("H3,B,21.000,") != csv.npos);
    const auto plot = drawPredictionPlot(predictions, *p.sequence, 120, 120);
    const int found = int(std::ranges::count_if(predictions, [](const auto& q) { return !std::isnan(q.error()); }));
    CHECK(itemsOf(plot, "values") == found);
    CHECK(itemsOf(plot, "bars") == found);
    CHECK(itemsOf(plot, "equal") == 1);
    const auto report = predictionReport(predictions, *p.sequence, "Site", "phase2.ags");
    CHECK(report.height == 297);
    CHECK(itemsOf(report, "values") == found);
    CHECK(itemsOf(report, "table") > 12);
    CHECK(itemsOf(drawPredictionPlot({}, *p.sequence, 120, 120), "values") == 0);
}
