#include "base/parallel.h"
#include "blocks/excavation.h"

namespace fox {

namespace {

/// Whether what is wanted is the same in all realisations: a place, and not the units that are found there.
bool wantsPlaces(const ExcavationSpec& spec) { return spec.wanted != ExcavationSpec::Wanted::Units && !spec.worth; }

/// How far slopes may reach beyond those of the model itself: twice what they take from the deepest floor, in cells.
int roomAround(const Excavation& dig, const SlopeRules& rules) {
    double deepest = 0, flattest = 1e9;
    for (const double d : dig.depth.values)
        if (d > deepest) deepest = d;
    for (const double t : rules.tangents)
        if (t < flattest) flattest = t;
    constexpr int kLeast = 10;
    constexpr double kMost = 1e6;
    return std::max(kLeast, int(std::min(kMost, std::ceil(2 * deepest / flattest / dig.depth.frame.cell))));
}

/// Cells that are dug, and those so near.
std::vector<char> dugPart(const Grid& depth, int room) {
    const auto& f = depth.frame;
    const int columns = f.columns(), rows = f.rows();
    std::vector<char> out(depth.values.size());
    for (std::size_t i = 0; i < out.size(); ++i) out[i] = depth.values[i] > 0;
    // first along rows, then along columns: counts of dug cells so far
    const auto grow = [&](int lines, int length, auto&& cell) {
        std::vector<int> before(std::size_t(length) + 1);
        for (int l = 0; l < lines; ++l) {
            for (int k = 0; k < length; ++k) before[std::size_t(k) + 1] = before[std::size_t(k)] + (out[cell(l, k)] ? 1 : 0);
            for (int k = 0; k < length; ++k)
                out[cell(l, k)] =
                    before[std::size_t(std::min(length, k + room + 1))] > before[std::size_t(std::max(0, k - room))];
        }
    };
    const auto at = [&](int r, int c) { return std::size_t(r) * std::size_t(columns) + std::size_t(c); };
    grow(rows, columns, [&](int r, int c) { return at(r, c); });
    grow(columns, rows, [&](int c, int r) { return at(r, c); });
    return out;
}

/// Digs realisations, one after another, which are evaluated in some cells alone. None if one is dug beyond `inner`, cells with
/// such ones on all sides: it could go on where the realisation is not known.
std::optional<ExcavationRange> rangeWithin(const ExcavationInputs& in, const std::vector<char>& cells,
                                           const std::vector<char>& inner, const ModelRealisations& realisations,
                                           const Progress& progress) {
    auto ground = digGround(*in.model, digFrame(in), progress.silent());
    std::vector<std::size_t> which;
    std::vector<Point2> places;
    std::vector<double> levels;
    for (std::size_t i = 0; i < ground.columns.size(); ++i)
        if (cells[i]) which.push_back(i), places.push_back(centreOf(ground.frame, i)), levels.push_back(ground.columns[i].ground);
    const auto n = std::size_t(realisations.count()), units = in.model->sequence->units.size() - 1;
    std::vector<std::vector<float>> bases(units, std::vector<float>(places.size() * n)); // to a tenth of a millimetre
    constexpr std::size_t kPlacesAtOnce = 256;
    parallelFor(
        places.size(), kPlacesAtOnce,
        [&](std::size_t begin, std::size_t end) {
            const auto some = realisations.basesAt(std::span(places).subspan(begin, end - begin),
                                                   std::span<const double>(levels).subspan(begin, end - begin));
            for (std::size_t u = 0; u < units; ++u) std::ranges::copy(some[u], bases[u].begin() + std::ptrdiff_t(begin * n));
        },
        progress);
    std::vector<double> excavated, wanted, waste;
    for (std::size_t r = 0; r < n; ++r) {
        progress.report(0.4 + 0.6 * double(r) / double(n), "Excavation in equally likely models");
        auto own = ground;
        for (std::size_t k = 0; k < which.size(); ++k) {
            auto& column = own.columns[which[k]];
            for (std::size_t u = 0; u < column.bases.size(); ++u) column.bases[u] = double(bases[u][k * n + r]);
        }
        if (in.before) digBefore(own, *in.before);
        try {
            const auto dig = excavateIn(in, std::move(own), progress.silent());
            for (std::size_t i = 0; i < inner.size(); ++i)
                if (!inner[i] && dig.depth.values[i] > 0) return {};
            excavated.push_back(dig.excavated), wanted.push_back(dig.wanted), waste.push_back(dig.waste());
        } catch (const NothingWanted&) {
            for (auto* all : {&excavated, &wanted, &waste}) all->push_back(0);
        }
    }
    return ExcavationRange{int(n), rangeOf(excavated), rangeOf(wanted), rangeOf(waste)};
}

} // namespace

// Realisations take long to evaluate. Where it is known what is wanted they are evaluated at first about what is dug in the model
// itself, and everywhere if one of them is dug beyond that.
ExcavationRange excavationRange(const ExcavationInputs& in, const EnsembleSettings& settings, const Progress& progress) {
    progress.report(0, "Equally likely models");
    const ModelRealisations realisations(*in.model, settings, progress.silent());
    if (wantsPlaces(in.spec)) {
        const auto dig = excavate(in, progress.silent());
        const int room = roomAround(dig, slopeRules(in.spec, *in.model->sequence));
        if (const auto range = rangeWithin(in, dugPart(dig.depth, room), dugPart(dig.depth, room - 1), realisations, progress))
            return *range;
    }
    const std::vector<char> everywhere(digFrame(in).cells(), 1);
    return *rangeWithin(in, everywhere, everywhere, realisations, progress);
}

} // namespace fox
