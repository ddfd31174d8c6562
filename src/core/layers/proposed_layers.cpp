#include "layers/proposed_layers.h"

#include "base/errors.h"
#include "base/text.h"

#include <fmt/format.h>
#include <numbers>

namespace fox {

PlanGrid gridOver(const Box2& box, double cell, double turn) {
    if (!(cell > 0)) throw UsageError("The cells of a grid must be wider than 0 m.");
    const auto count = [&](double length) { return std::size_t(std::clamp(std::ceil(length / cell - 1e-9), 1.0, 1e7)); };
    if (turn == 0)
        return {{box.xmin, box.ymax},
                0,
                std::vector<double>(count(box.width()), cell),
                std::vector<double>(count(box.height()), cell)};
    // turned about the middle, so that the rectangle is covered
    const double a = turn * std::numbers::pi / 180, c = std::abs(std::cos(a)), s = std::abs(std::sin(a));
    const auto columns = count(box.width() * c + box.height() * s), rows = count(box.width() * s + box.height() * c);
    const double along = double(columns) * cell / 2, down = double(rows) * cell / 2;
    const auto m = box.centre();
    return {{m.x - along * std::cos(a) + down * std::sin(a), m.y + along * std::sin(a) + down * std::cos(a)},
            turn,
            std::vector<double>(columns, cell),
            std::vector<double>(rows, cell)};
}

LayerSpec proposedLayers(const Sequence& sequence, const Frame& extent, double floor) {
    constexpr double kMostColumns = 10'000;
    LayerSpec out;
    out.name = "Layers";
    out.grid = gridOver(extent.box(), cellsOf(extent) > kMostColumns ? coarserCell(extent, kMostColumns) : extent.cell);
    for (const auto& u : sequence.units) out.layers.push_back({u.name.empty() ? u.code : u.name, {u.code}});
    if (!out.layers.empty()) out.layers.back().bottom = FieldSource{FieldSource::From::Number, floor, ""};
    for (const auto& kind : cellValueKinds())
        if (std::ranges::any_of(sequence.units, [&](const Unit& u) { return u.values.contains(kind.key); }))
            out.values[kind.key] = FieldSource{FieldSource::From::Units, 0, ""};
    return out;
}

std::string inWords(const LayerRule& layer) {
    std::string out = fmt::format("{}", fmt::join(layer.units, ", "));
    const auto add = [&](const std::string& words) { out += (out.empty() ? "" : ", ") + words; };
    if (layer.thickness) add(fmt::format("upper {:g} m", *layer.thickness));
    if (layer.below) add(fmt::format("{:g} m thick", *layer.below));
    if (layer.above) add(fmt::format("down to {:g} m above the next", *layer.above));
    if (layer.evenly) add("spaced evenly");
    if (layer.bottom)
        add(layer.bottom->from == FieldSource::From::Number ? fmt::format("down to level {:g} m", layer.bottom->number)
            : layer.bottom->name.empty()
                ? fmt::format("down to {}", words(layer.bottom->from))
                : fmt::format("down to {}", std::filesystem::path(layer.bottom->name).filename().string()));
    return out;
}

std::string partsInWords(const LayerRule& layer) {
    if (layer.evenly) return fmt::format("{} equal", *layer.evenly);
    if (layer.parts.size() == 1) return "one";
    if (std::ranges::all_of(layer.parts, [&](double p) { return p == layer.parts.front(); }))
        return fmt::format("{} equal", layer.parts.size());
    std::string out;
    for (const double p : layer.parts) out += (out.empty() ? "" : " : ") + fmt::format("{:g}", p);
    return out;
}

std::vector<double> partsWritten(std::string_view words) {
    const auto wrong = [&] {
        return UsageError(
            fmt::format("\"{}\" parts nothing: give a number of equal parts, or proportions such as 1 : 3.", words));
    };
    std::string text = lower(trimmed(words));
    if (text == "one" || text.empty()) return {1};
    if (text.ends_with("equal")) text = trimmed(text.substr(0, text.size() - 5));
    std::vector<double> out;
    for (const auto part : split(text, ':')) {
        const auto number = parseNumber(part);
        if (!number || !(*number > 0)) throw wrong();
        out.push_back(*number);
    }
    if (out.size() > 1) return out;
    constexpr double kMost = 1000;
    if (out.front() != std::floor(out.front()) || out.front() > kMost) throw wrong();
    return std::vector<double>(std::size_t(out.front()), 1.0);
}

} // namespace fox
