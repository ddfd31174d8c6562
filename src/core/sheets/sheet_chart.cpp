#include "sheets/sheet_chart.h"

#include "holes/water_levels.h"
#include "model/base_surface.h"
#include "sequence/test_values.h"
#include "sheets/plot_axes.h"
#include "sheets/plots.h"

namespace fox {

using namespace paper;

namespace {

constexpr std::string_view kValues = "values:", kVariogram = "variogram:", kWaterInTime = "water";

const BaseSurface* baseOf(const std::string& code, const ProductSet& products) {
    const auto u = products.project.sequence->index(code);
    return u && products.model && *u < products.model->bases.size() ? products.model->bases[*u].get() : nullptr;
}

std::optional<Variogram> variogramOf(const BaseSurface& base) {
    return !base.isAutomatic() && hasVariogram(base.fit.settings.method) ? base.fit.settings.variogram : std::nullopt;
}

} // namespace

std::vector<std::pair<std::string, std::string>> sheetCharts(const ProductSet& products) {
    std::vector<std::pair<std::string, std::string>> out;
    for (const auto& q : testQuantities(*products.project.holes))
        out.emplace_back(std::string(kValues) + q.name, q.name + " by unit");
    if (!waterSeries(*products.project.holes).empty()) out.emplace_back(kWaterInTime, "Water against time");
    for (const auto& u : products.project.sequence->units)
        if (const auto* base = baseOf(u.code, products); base && variogramOf(*base))
            out.emplace_back(std::string(kVariogram) + u.code, "Variogram of " + u.code);
    return out;
}

std::optional<Drawing> drawSheetChart(const std::string& key, const ProductSet& products, double width, double height) {
    const auto& holes = *products.project.holes;
    if (key == kWaterInTime) {
        auto series = waterSeries(holes);
        if (series.empty()) return {};
        return drawWaterPlot({std::move(series), &holes, {}, {}}, width, height);
    }
    if (key.starts_with(kValues)) {
        const auto all = testQuantities(holes);
        const auto quantity = std::ranges::find(all, key.substr(kValues.size()), &TestQuantity::name);
        if (quantity == all.end()) return {};
        return drawValuePlot(
            {*quantity, testValues(*quantity, holes, *products.reading), &holes, products.project.sequence.get(), false, {}},
            width, height);
    }
    if (key.starts_with(kVariogram))
        if (const auto* base = baseOf(key.substr(kVariogram.size()), products)) return drawVariogram(*base, width, height);
    return {};
}

std::optional<Drawing> drawVariogram(const BaseSurface& base, double width, double height) {
    const auto fitted = variogramOf(base);
    if (!fitted) return {};
    const auto lags = empiricalVariogram(variogramPoints(base));
    double far = fitted->model == VariogramModel::Linear ? 0 : 1.2 * fitted->range, high = fitted->nugget + fitted->partialSill;
    int most = 1;
    for (const auto& l : lags) far = std::max(far, l.distance), high = std::max(high, l.gamma), most = std::max(most, l.pairs);
    if (!(far > 0) || !(high > 0)) return {};
    Drawing out;
    out.width = width, out.height = height;
    constexpr double kScaleWide = 16, kScaleHigh = 12, kRest = 3; // millimetres
    Box2 box;
    box.include({kScaleWide, kRest}), box.include({width - kRest, height - kScaleHigh});
    const PlotAxes axes(box, 0, far * 1.03, 0, high * 1.08);
    axes.draw(out, "distance, m", "half mean squared difference, m²");
    for (const auto& l : lags) {
        const double radius = 0.5 + 0.7 * std::sqrt(double(l.pairs) / most);
        out.add("pairs", std::to_string(l.pairs),
                FilledArea{{circle(axes.at(l.distance, l.gamma), radius)}, Fill::plain(kSlate)});
    }
    Line line{{}, {kAccent, 0.4, {}}};
    constexpr int kSteps = 120;
    for (int k = 1; k <= kSteps; ++k)
        if (const double h = far * 1.03 * k / kSteps; axes.holds(h, fitted->at(h)))
            line.points.push_back(axes.at(h, fitted->at(h)));
    out.add("variogram", name(fitted->model), std::move(line));
    return out;
}

} // namespace fox
