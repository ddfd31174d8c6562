#include "model/model.h"
#include "model/unit_top.h"

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
    for (const auto& f : interpretation.faults) {
        const auto youngest = sequence.index(f.youngest);
        const bool fromYoungest = f.youngest.empty() || (youngest && unit >= *youngest);
        if (f.units.empty() ? fromYoungest : std::ranges::count(f.units, sequence.units[unit].code) > 0)
            out.push_back(carriedOut(f.fault, extent));
    }
    return out;
}

MeasuredFrom measuredFrom(const Model& soFar, const Sequence& sequence, std::size_t unit, const SiteShape& site) {
    MeasuredFrom from;
    from.shape = site.ground;
    from.ground = [&soFar](Point2 p) { return soFar.terrain->levelAt(p).value_or(kNoValue); };
    const auto raw = [&soFar](Point2 p, std::size_t other) {
        const double ground = soFar.terrain->levelAt(p).value_or(kNoValue);
        return std::pair{ground, soFar.rawAt(std::span(&p, 1), std::span(&ground, 1)).at(other).front()};
    };
    if (soFar.order.topKnown[unit])
        from.top = [&soFar, unit](Point2 p) {
            const double ground = soFar.terrain->levelAt(p).value_or(kNoValue);
            const auto all = soFar.rawAt(std::span(&p, 1), std::span(&ground, 1));
            return UnitTop(*soFar.sequence, unit).at(ground, [&](std::size_t u) { return std::optional(all[u][0]); });
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

bool someWithout(const std::vector<Contact>& contacts) {
    return std::ranges::any_of(contacts, [](const Contact& c) { return c.kind == ContactKind::Absent; });
}

/// Gathers what holes and guides say of one base, a datum a place.
class DatumCollector {
public:
    explicit DatumCollector(AutomaticInputs& in) : m_in(in) {}

    /// `accuracy`: standard deviation of the level, metres.
    void contact(Point3 p, double accuracy) { m_in.contacts.push_back(known(p, accuracy)); }
    std::size_t known(Point3 p, double accuracy = 0) {
        const auto i = at(p.plan());
        auto& d = m_in.data[i];
        if (!(d.low == d.high)) d.low = d.high = p.z, d.accuracy = accuracy; // two contacts at one place: the first
        return i;
    }
    void atMost(Point3 p) {
        auto& d = m_in.data[at(p.plan())];
        d.hereOnly = false;
        if (p.z > d.low) d.high = std::min(d.high, p.z);
    }
    void atLeast(Point3 p, bool hereOnly = false) {
        const auto i = at(p.plan());
        auto& d = m_in.data[i];
        d.hereOnly = hereOnly && std::isinf(d.low) && std::isinf(d.high);
        if (p.z < d.high) d.low = std::max(d.low, p.z);
    }

private:
    std::size_t at(Point2 p) {
        constexpr double kParts = 1000; // of a metre
        constexpr double kInfinite = std::numeric_limits<double>::infinity();
        const std::pair key(std::llround(p.x * kParts), std::llround(p.y * kParts));
        const auto [found, isNew] = m_at.try_emplace(key, m_in.data.size());
        if (isNew) m_in.data.push_back({p, -kInfinite, kInfinite});
        return found->second;
    }

    AutomaticInputs& m_in;
    std::map<std::pair<long long, long long>, std::size_t> m_at;
};

std::vector<BaseConcept> conceptsOf(const AutomaticInputs& in, const Unit& unit, bool byThickness, bool topKnown) {
    using enum BaseConcept;
    const bool isPatchy = !in.underLapping
                          && std::ranges::any_of(in.data, [](const auto& d) { return std::isinf(d.high) && !d.hereOnly; })
                          && std::ranges::any_of(in.data, [](const auto& d) { return d.low == d.high; });
    const auto reference = byThickness ? std::optional(BaseReference::Thickness) : unit.recipe.reference;
    const auto wanted = [&](BaseReference r) { return !reference || *reference == r; };
    std::vector<BaseConcept> out;
    const bool isTrend = reference == BaseReference::Trend; // between levels and depths
    if (wanted(BaseReference::Level) || reference == BaseReference::Plane || isTrend) out.push_back(Level);
    if (!in.shape) return out.empty() ? std::vector{Level} : out;
    if (wanted(BaseReference::Depth) || isTrend) out.push_back(Depth);
    const bool anyYounger = std::ranges::any_of(in.data, [](const auto& d) { return !std::isnan(d.younger); });
    if (anyYounger && (!reference || !unit.recipe.against.empty())) out.push_back(UnderYounger);
    const bool ownThickness = wanted(BaseReference::Thickness) && unit.recipe.against.empty() && topKnown;
    if (ownThickness) out.push_back(UnderTop); // of the youngest unit: below the ground as it is, which topsoil follows
    if (isPatchy && wanted(BaseReference::Depth)) out.push_back(PresenceDepth);
    if (isPatchy && ownThickness) out.push_back(PresenceThickness);
    return out.empty() ? std::vector{Level} : out;
}

/// Whether the next younger unit that is anywhere onlaps.
bool isUnderLapping(const Model& soFar, const Sequence& sequence, std::size_t unit) {
    for (auto u = unit; u-- > 0;)
        if (!soFar.bases[u] || !soFar.bases[u]->absentEverywhere) return sequence.units[u].base == BaseRule::Laps;
    return false;
}

/// With what the geologist's marks say of a base, as contacts at the unit's top there: kLeastMarked under it or lower, or nowhere
/// under it.
std::vector<Contact> withMarks(std::vector<Contact> out, const Model& soFar, const Sequence& sequence, std::size_t u,
                               const Interpretation& own, double spacing) {
    UnitTop top(sequence, u);
    for (const auto& mark : own.presence) {
        if (mark.unit != sequence.units[u].code) continue;
        for (const auto& p : placesOf(mark, spacing / 2)) {
            const double ground = soFar.terrain->levelAt(p).value_or(kNoValue);
            const auto raw = soFar.rawAt(std::span(&p, 1), std::span(&ground, 1));
            const double level =
                top.at(ground, [&](std::size_t k) { return soFar.bases[k] ? std::optional(raw[k][0]) : std::nullopt; });
            if (std::isnan(level)) continue;
            constexpr double kLeastMarked = 0.3; // metres: more than a unit that is there at its edge
            const double z = mark.present ? level - kLeastMarked : level;
            out.push_back({"", mark.present ? ContactKind::NotReached : ContactKind::Absent, {p.x, p.y, z}});
        }
    }
    return out;
}

} // namespace

std::optional<std::size_t> youngerOf(const Model& soFar, const Sequence& sequence, std::size_t unit) {
    const auto& recipe = sequence.units[unit].recipe;
    if (recipe.needsBase()) {
        const auto other = sequence.index(recipe.against);
        return other && *other < soFar.bases.size() && soFar.bases[*other] ? other : std::nullopt;
    }
    for (auto u = unit; u-- > 0;)
        if (soFar.bases[u] && !soFar.bases[u]->absentEverywhere) return u;
    return {};
}

AutomaticInputs automaticInputs(const Model& soFar, const Sequence& sequence, std::size_t u, const std::vector<Contact>& given,
                                const Interpretation& interpretation, const SiteShape& site) {
    const auto& unit = sequence.units[u];
    const auto contacts = withMarks(given, soFar, sequence, u, interpretation, site.spacing);
    AutomaticInputs in;
    in.faults = faultsOf(interpretation, sequence, u, site.extent);
    in.anisotropy = unit.recipe.settings.anisotropy;
    in.shape = site.ground, in.extent = site.extent, in.spacing = site.spacing;
    in.underLapping = isUnderLapping(soFar, sequence, u);
    DatumCollector data(in);
    const auto groundAt = [&](Point2 p) { return soFar.terrain->levelAt(p).value_or(kNoValue); };
    for (const auto& c : contacts)
        if (c.kind == ContactKind::Observed) data.contact(c.place, c.file.empty() ? unit.loggingAccuracy : c.accuracy);
    for (const auto& g : guidesOf(interpretation, unit.code))
        for (const auto& p : placesOf(g)) data.known(p);
    for (const auto& c : contacts) {
        if (c.kind == ContactKind::Observed || !unit.recipe.bounds) continue;
        auto place = c.place;
        if (const double ground = c.atSurface ? groundAt(place.plan()) : kNoValue; !std::isnan(ground)) place.z = ground;
        if (c.kind == ContactKind::Absent) {
            data.atLeast(place, c.undecided);
        } else {
            data.atMost(place);
        }
        if (c.lowest) data.atLeast(*c.lowest);
    }
    std::vector<Point2> places;
    std::vector<double> ground;
    for (const auto& d : in.data) places.push_back(d.place), ground.push_back(groundAt(d.place));
    const auto raw = soFar.rawAt(places, ground);
    const auto younger = in.younger = youngerOf(soFar, sequence, u);
    UnitTop top(sequence, u);
    for (std::size_t i = 0; i < in.data.size(); ++i) {
        auto& d = in.data[i];
        d.top = top.at(ground[i], [&](std::size_t k) { return soFar.bases[k] ? std::optional(raw[k][i]) : std::nullopt; });
        if (younger) d.younger = raw[*younger][i];
    }
    in.concepts =
        conceptsOf(in, unit, u > 0 && isPartOverALens(sequence, u), soFar.order.topKnown[u] && !soFar.order.circular[u]);
    return in;
}

std::vector<BaseInputs> baseCandidates(const Model& soFar, const Sequence& sequence, std::size_t u,
                                       const std::vector<Contact>& given, const Interpretation& interpretation,
                                       const SiteShape& site, std::span<const SeriesContacts> series) {
    const auto& unit = sequence.units[u];
    const auto contacts = withMarks(given, soFar, sequence, u, interpretation, site.spacing);
    const auto guides = guidesOf(interpretation, unit.code);
    const auto faults = faultsOf(interpretation, sequence, u, site.extent);
    const auto from = measuredFrom(soFar, sequence, u, site);
    const auto inputs = [&](BaseReference reference) {
        auto in = inputsOf(reference, unit, contacts, guides, faults, from);
        if (reference == BaseReference::Thickness) return in; // thicknesses of others are not known before they are made
        for (const auto& other : series) {
            const auto& otherUnit = sequence.units[other.unit];
            const auto values = inputsOf(reference, otherUnit, *other.contacts, {}, {}, from);
            in.series.push_back(largestBlock(values.points, faultsOf(interpretation, sequence, other.unit, site.extent)));
        }
        return in;
    };
    if (soFar.order.circular[u]) return {inputs(BaseReference::Level)};
    if (unit.recipe.reference) return {inputs(*unit.recipe.reference)};
    if (from.top && isPartOverALens(sequence, u)) return {inputs(BaseReference::Thickness)};
    std::vector<BaseInputs> out{inputs(BaseReference::Level)};
    if (out.front().contacts == 0) return out;
    if (!soFar.terrain->tin.empty()) {
        out.push_back(inputs(BaseReference::Depth));
        // of a unit that comes and goes a trend says nothing of where it is
        if (!someWithout(contacts))
            if (auto trend = inputs(BaseReference::Trend); trend.share != 0) out.push_back(std::move(trend));
    }
    // of the youngest unit the thickness is its depth below the ground as it is, which topsoil follows
    if (from.top && (u == 0 || someWithout(contacts))) out.push_back(inputs(BaseReference::Thickness));
    return out;
}

} // namespace fox
