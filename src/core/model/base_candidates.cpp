#include "model/model.h"

namespace fox {

namespace {

std::vector<Guide> guidesOf(const Interpretation& interpretation, const std::string& code) {
    std::vector<Guide> out;
    for (const auto& g : interpretation.guides)
        if (g.unit == code) out.push_back(g);
    return out;
}

std::vector<Fault> faultsOf(const Interpretation& interpretation, const Sequence& sequence, std::size_t unit,
                            const Box2& extent) {
    std::vector<Fault> out;
    for (const auto& f : interpretation.faults)
        if (const auto youngest = sequence.index(f.youngest); f.youngest.empty() || (youngest && unit >= *youngest))
            out.push_back(carriedOut(f.fault, extent));
    return out;
}

MeasuredFrom measuredFrom(const Model& soFar, const Sequence& sequence, std::size_t unit) {
    MeasuredFrom from;
    from.ground = [&soFar](Point2 p) { return soFar.terrain->levelAt(p).value_or(kNoValue); };
    const auto raw = [&soFar](Point2 p, std::size_t other) {
        const double ground = soFar.terrain->levelAt(p).value_or(kNoValue);
        return std::pair{ground, soFar.rawAt(std::span(&p, 1), std::span(&ground, 1)).at(other).front()};
    };
    if (soFar.order.topKnown[unit])
        from.top = [&soFar, unit](Point2 p) {
            double top = soFar.terrain->levelAt(p).value_or(kNoValue);
            const auto all = soFar.rawAt(std::span(&p, 1), std::span(&top, 1));
            for (std::size_t u = 0; u < unit; ++u)
                top = std::isnan(top) || std::isnan(all[u][0]) ? kNoValue : std::min(top, all[u][0]);
            return top;
        };
    if (const auto other = sequence.index(sequence.units[unit].recipe.against); other && *other + 1 < sequence.units.size()) {
        from.against = [raw, other = *other](Point2 p) { return raw(p, other).second; };
        from.againstIsOlder = *other > unit;
    }
    return from;
}

/// Logged by a code that an older unit has too: the part of a host over a lens. It is there only where the lens is, so
/// its base is no surface that goes on beyond.
bool isPartOverALens(const Sequence& sequence, std::size_t unit) {
    const auto& logged = sequence.units[unit].logged;
    return std::any_of(sequence.units.begin() + std::ptrdiff_t(unit) + 1, sequence.units.end(), [&](const Unit& older) {
        return std::ranges::any_of(older.logged, [&](const auto& code) { return std::ranges::count(logged, code) > 0; });
    });
}

} // namespace

std::vector<BaseInputs> baseCandidates(const Model& soFar, const Sequence& sequence, std::size_t u,
                                       const std::vector<Contact>& contacts, const Interpretation& interpretation,
                                       const Box2& extent) {
    const auto& unit = sequence.units[u];
    const auto guides = guidesOf(interpretation, unit.code);
    const auto faults = faultsOf(interpretation, sequence, u, extent);
    const auto from = measuredFrom(soFar, sequence, u);
    const auto inputs = [&](BaseReference reference) { return inputsOf(reference, unit, contacts, guides, faults, from); };
    if (soFar.order.circular[u]) return {inputs(BaseReference::Level)};
    if (unit.recipe.reference) return {inputs(*unit.recipe.reference)};
    if (from.top && isPartOverALens(sequence, u)) return {inputs(BaseReference::Thickness)};
    std::vector<BaseInputs> out{inputs(BaseReference::Level)};
    if (out.front().contacts == 0) return out;
    const bool someWithout = std::ranges::any_of(contacts, [](const Contact& c) { return c.kind == ContactKind::Absent; });
    if (!soFar.terrain->tin.empty()) out.push_back(inputs(BaseReference::Depth));
    if (someWithout && from.top) out.push_back(inputs(BaseReference::Thickness));
    return out;
}

} // namespace fox
