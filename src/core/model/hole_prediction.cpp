#include "model/hole_prediction.h"

#include "formats/table.h"

#include <fmt/format.h>
#include <set>

namespace fox {

std::vector<HolePrediction> predictionsOf(const Model& model, const std::vector<std::vector<Contact>>& contacts,
                                          const std::vector<std::string>& holes) {
    const std::set<std::string> wanted(holes.begin(), holes.end());
    std::vector<Point2> places;
    std::vector<HolePrediction> out;
    for (std::size_t u = 0; u < contacts.size() && u < model.bases.size(); ++u)
        for (const auto& c : contacts[u]) {
            // a hole that stops above the unit says nothing of it
            if (c.isPoint() || !wanted.contains(c.hole) || c.kind == ContactKind::TooShort) continue;
            HolePrediction p;
            p.hole = c.hole, p.unit = u, p.isPresent = c.kind != ContactKind::Absent;
            if (c.kind == ContactKind::Observed) p.found = c.place.z;
            out.push_back(std::move(p));
            places.push_back(c.place.plan());
        }
    const auto columns = model.columnsAt(places, true);
    for (std::size_t i = 0; i < out.size(); ++i) {
        const auto& c = columns[i];
        out[i].predicted = c.bases[out[i].unit];
        out[i].deviation = c.deviations[out[i].unit];
        out[i].probability = c.chances[out[i].unit];
    }
    std::ranges::stable_sort(out, {}, [](const HolePrediction& p) { return std::pair(p.hole, p.unit); });
    return out;
}

PredictionSummary summaryOf(std::span<const HolePrediction> all) {
    PredictionSummary out;
    double sum = 0, squares = 0;
    int judged = 0, within = 0;
    for (const auto& p : all) {
        if (!std::isnan(p.probability)) ++out.presences, out.presenceRight += (p.probability > 0.5) == p.isPresent;
        if (std::isnan(p.error())) continue;
        ++out.bases;
        sum += p.error(), squares += p.error() * p.error();
        constexpr double kEighty = 1.2816; // deviations, to both sides of a normal variable's mean, for 80 %
        if (!std::isnan(p.deviation)) ++judged, within += std::abs(p.error()) <= kEighty * p.deviation;
    }
    if (out.bases > 0) out.bias = sum / out.bases, out.rmse = std::sqrt(squares / out.bases);
    if (judged > 0) out.within = double(within) / judged;
    return out;
}

std::string predictionsCsv(std::span<const HolePrediction> all, const Sequence& sequence) {
    std::string out = "hole,unit,found,predicted,sd,error,probability,present\n";
    const auto cell = [](double v) { return std::isnan(v) ? std::string() : fmt::format("{:.3f}", v); };
    for (const auto& p : all)
        fmt::format_to(std::back_inserter(out), "{},{},{},{},{},{},{},{}\n", tableCell(p.hole),
                       tableCell(sequence.units[p.unit].code), cell(p.found), cell(p.predicted), cell(p.deviation),
                       cell(p.error()), cell(p.probability), p.isPresent ? "yes" : "no");
    return out;
}

} // namespace fox
