#include "model/base_surface.h"

#include "base/text.h"
#include "surfaces/faults.h"
#include "surfaces/grid_surface.h"
#include "surfaces/nearest_points.h"

#include <fmt/format.h>

namespace fox {

bool FixedBase::operator==(const FixedBase& o) const {
    return origin == o.origin && from == o.from && (levels == o.levels || (levels && o.levels && *levels == *o.levels));
}

void BaseSurface::evaluate(std::span<const Point2> places, const ReferenceLevels& references, std::span<double> levels,
                           std::span<double> variances, std::span<double> chances) const {
    std::ranges::fill(chances, kNoValue);
    if (absentEverywhere) {
        std::ranges::fill(levels, std::numeric_limits<double>::infinity());
        std::ranges::fill(variances, kNoValue);
        return;
    }
    if (automatic) return automatic->evaluate(places, references, levels, variances, chances);
    if (!fit.surface->hasVariance()) std::ranges::fill(variances, kNoValue);
    fit.surface->evaluate(places, levels, fit.surface->hasVariance() ? variances : std::span<double>());
    if (fixed) return;
    for (std::size_t i = 0; i < places.size(); ++i) {
        if (levels[i] > 0 && isTakenAsAbsent(places[i])) levels[i] = 0;
        levels[i] = in.levelOf(levels[i], places[i], references.from[i]);
    }
}

bool BaseSurface::isTakenAsAbsent(Point2 p) const {
    if (!nearPresence) return false;
    std::vector<NearestPoints::Hit> hits;
    nearPresence->find(p, kAbsentNeighbours, {}, hits);
    const std::size_t absentFrom = in.speakers.size() - in.assumed; // they come last
    return std::ranges::all_of(hits, [&](const auto& h) { return h.index >= absentFrom; });
}

NearestWord BaseSurface::nearestWord(Point2 p) const {
    if (!nearSpeakers) return {};
    std::vector<NearestPoints::Hit> hit;
    nearSpeakers->find(p, 1, {}, hit);
    if (hit.empty()) return {};
    return {std::sqrt(hit.front().squaredDistance), in.speakers[hit.front().index].hole};
}

std::optional<double> BaseSurface::leaveOneOutAt(const std::string& hole) const {
    for (std::size_t i = 0; i < in.contacts && i < leaveOneOut.residuals.size(); ++i)
        if (in.speakers[i].hole == hole && !std::isnan(leaveOneOut.residuals[i])) return leaveOneOut.residuals[i];
    return {};
}

namespace {

bool downwards(const BaseInputs& in) { return in.reference == BaseReference::Depth || in.reference == BaseReference::Thickness; }

/// A candidate, fitted and judged.
struct Candidate {
    const BaseInputs* in = nullptr;
    FittedSurface fit;
    std::vector<double> excluded; ///< predicted - given value of each of in->points; kNoValue where the others give none
    CrossValidation judgement;
    double spread = 0; ///< of the contacts' values
};

/// Left-out residuals in the order of the points given, though some may have been merged or put into blocks.
std::vector<double> exclusionsOf(const BaseInputs& in, const FittedSurface& fit) {
    std::map<std::pair<double, double>, double> at;
    for (std::size_t i = 0; i < fit.data.size(); ++i) at[{fit.data[i].x, fit.data[i].y}] = fit.leaveOneOut.residuals[i];
    std::vector<double> out;
    for (const auto& p : in.points) {
        const auto found = at.find({p.x, p.y});
        out.push_back(found == at.end() ? kNoValue : found->second);
    }
    return out;
}

/// The thickness of the unit that the others give for a validationPoint.
double thicknessWithout(const Candidate& c, const ValidationPoint& w) {
    const double sign = downwards(*c.in) ? 1 : -1; // of a value's excess on the thickness
    double told = kNoValue;
    if (!w.isBound) {
        const double given = c.in->ownThickness() ? c.in->points[w.index].z : w.thickness;
        told = given + sign * c.excluded[w.index];
    } else { // a bound that the surface does not lie on changes nothing when it is left out
        const auto& b = c.in->bounds[w.index];
        double value = c.fit.surface->at(b.place.plan());
        for (std::size_t k = 0; k < c.fit.active.size(); ++k)
            if (c.fit.bounds[c.fit.active[k]].place == b.place) value = c.fit.activeLeftOut[k];
        told = sign * (value - b.place.z);
    }
    return std::isnan(told) ? told : std::max(0.0, told);
}

void judge(Candidate& c) {
    double squares = 0;
    for (const auto& w : c.in->validationPoints) {
        const double told = thicknessWithout(c, w);
        if (std::isnan(told)) continue;
        ++c.judgement.validationPoints;
        squares += (told - w.thickness) * (told - w.thickness);
        constexpr double kThere = 0.05; // metres; a logger does not tell less
        c.judgement.presenceWrong += (told > kThere) != (w.thickness > kThere);
    }
    if (c.judgement.validationPoints > 0) c.judgement.error = std::sqrt(squares / c.judgement.validationPoints);
}

/// The points without guide lines. These are drawn smoothly and stand close: they would say that the base is smoother than it is.
std::vector<Point3> samplesOf(const BaseInputs& in) {
    auto out = in.points;
    const auto guides = out.begin() + std::ptrdiff_t(in.contacts);
    out.erase(guides, guides + std::ptrdiff_t(in.guides));
    return out;
}

/// The one that it shares with the others of its series, if there are any.
std::optional<Variogram> seriesVariogram(const BaseInputs& in, const SurfaceSettings& settings) {
    if (in.series.empty()) return {};
    std::vector<std::vector<Point3>> sets{variogramPoints(largestBlock(samplesOf(in), in.faults), settings)};
    for (const auto& values : in.series) sets.push_back(variogramPoints(values, settings));
    return sharedVariogram(sets, settings.nugget);
}

Candidate candidate(const Unit& unit, const BaseInputs& in, const Progress& progress) {
    Candidate c;
    c.in = &in;
    c.judgement.reference = in.reference;
    auto settings = unit.recipe.settings;
    // a nugget would leave a spike at every hole where the surface is to pass through the contact smoothly
    settings.nugget = NuggetFit::Zero;
    if (hasVariogram(settings.method) && !settings.variogram) settings.variogram = seriesVariogram(in, settings);
    if (in.guides > 0 && hasVariogram(settings.method) && !settings.variogram) {
        const auto samples = largestBlock(samplesOf(in), in.faults);
        if (samples.size() >= kFewest) settings.variogram = fittedVariogram(samples, in.points, in.bounds, settings);
    }
    c.fit = fitFaulted(in.points, in.bounds, settings, in.faults, progress);
    c.excluded = exclusionsOf(in, c.fit);
    judge(c);
    double mean = 0;
    for (std::size_t i = 0; i < in.contacts; ++i) mean += in.points[i].z / double(in.contacts);
    for (std::size_t i = 0; i < in.contacts; ++i) c.spread += (in.points[i].z - mean) * (in.points[i].z - mean);
    return c;
}

bool better(const Candidate& c, const Candidate& best) {
    if (c.in->contacts < best.in->contacts) return false; // some lie outside what they would be measured from
    if (c.judgement.validationPoints < kFewest || best.judgement.validationPoints < kFewest) return c.spread < best.spread;
    return c.judgement.error < best.judgement.error * (1 - kTie);
}

std::shared_ptr<const NearestPoints> nearest(std::span<const DataPoint> speakers) {
    std::vector<Point2> places;
    for (const auto& s : speakers) places.push_back(s.place);
    return places.empty() ? nullptr : std::make_shared<const NearestPoints>(std::move(places));
}

void tell(const Unit& unit, BaseSurface& base) {
    for (auto& f : base.fit.findings) f.message = fmt::format("Base of {}: {}", unit.code, f.message);
    if (!base.in.outside.empty())
        base.fit.findings.push_back(
            {Severity::Warning, "FC-OUTSIDE", "", 0, "", "", base.in.outside.front(),
             fmt::format("Base of {}: {} where what the base is measured from has no level, and left out ({}).", unit.code,
                         counted(base.in.outside.size(), "contact lies", "contacts lie"), fmt::join(base.in.outside, ", "))});
    if (unit.recipe.settings.method == Method::Nearest && !base.in.bounds.empty())
        base.fit.findings.push_back(
            {Severity::Warning, "FC-BOUND", "", 0, "", "", "",
             fmt::format("Base of {}: the nearest hole's value keeps no bounds; not used: {} the base.", unit.code,
                         counted(base.in.bounds.size(), "hole that only limits", "holes that only limit"))});
    if (base.in.contacts + base.in.guides == 0)
        base.fit.findings.push_back(
            {Severity::Warning, "FC-NO-BASE", "", 0, "", "", "",
             base.in.speakers.empty()
                 ? fmt::format("No hole has contact data for {}: its base and all below it is not known.", unit.code)
                 : fmt::format("No hole shows the base of {}: it and all below it is not known.", unit.code)});
}

} // namespace

BaseSurface fitBase(const Unit& unit, const std::vector<BaseInputs>& candidates, const Progress& progress) {
    BaseSurface base;
    base.absentEverywhere = candidates.front().absentEverywhere;
    if (base.absentEverywhere) {
        base.in = candidates.front();
        base.fit.surface = fitSurface({}, {}, unit.recipe.settings).surface;
        base.nearSpeakers = nearest(base.in.speakers);
        base.bounds = int(base.in.speakers.size());
        return base;
    }
    std::vector<Candidate> tried;
    for (const auto& in : candidates) tried.push_back(candidate(unit, in, progress));
    std::size_t best = 0;
    for (std::size_t i = 1; i < tried.size(); ++i)
        if (better(tried[i], tried[best])) best = i;
    std::swap(tried.front(), tried[best]);
    for (const auto& t : tried) base.judged.push_back(t.judgement);
    auto& chosen = tried.front();
    base.in = *chosen.in;
    base.fit = std::move(chosen.fit);
    base.reference = base.in.reference;
    base.contacts = int(base.in.contacts);
    base.bounds = int(std::ranges::count(base.in.speakers, DataPoint::Kind::Bound, &DataPoint::kind));
    base.leaveOneOut.residuals.assign(chosen.excluded.begin(), chosen.excluded.begin() + std::ptrdiff_t(base.in.contacts));
    if (downwards(base.in))
        for (auto& r : base.leaveOneOut.residuals) r = -r;
    base.leaveOneOut.summarise();
    base.nearSpeakers = nearest(base.in.speakers);
    if (base.in.ownThickness() && base.in.assumed > 0) base.nearPresence = base.nearSpeakers;
    tell(unit, base);
    return base;
}

BaseSurface fitAutomaticBase(const Unit& unit, const AutomaticInputs& inputs, const std::vector<BaseInputs>& candidates,
                             const Progress& progress) {
    auto kriged = unit;
    kriged.recipe.settings.method = Method::Kriging;
    auto base = fitBase(kriged, candidates, progress.silent());
    if (base.absentEverywhere || inputs.data.empty()) return base;
    constexpr std::size_t kMost = 800; // all data are taken at once, and the work for each place rises with their square
    if (inputs.data.size() > kMost) {
        base.fit.findings.push_back(
            {Severity::Note, "FC-MANY", "", 0, "", "", "",
             fmt::format("Base of {}: {} positions have contact data, more than the {} that the automatic "
                         "average takes; it is made by ordinary kriging.",
                         unit.code, inputs.data.size(), kMost)});
        return base;
    }
    std::erase_if(base.fit.findings, [](const Finding& f) { return f.rule == "FC-NO-BASE"; });
    base.automatic = std::make_shared<const AutomaticBase>(inputs, progress);
    base.younger = inputs.younger;
    base.fit.settings.variogram.reset(); // of the kriged one
    if (base.contacts > 0) {
        base.leaveOneOut = {};
        base.leaveOneOut.residuals = base.automatic->leaveOneOut();
        base.leaveOneOut.summarise();
    }
    if (base.contacts + int(base.in.guides) == 0)
        base.fit.findings.push_back({Severity::Warning, "FC-NO-BASE", "", 0, "", "", "",
                                     fmt::format("No hole shows the base of {}: it is told from {} only.", unit.code,
                                                 counted(base.bounds, "hole that limits it", "holes that limit it"))});
    return base;
}

std::vector<Point3> variogramPoints(const BaseSurface& base, bool squeezed) {
    auto settings = base.fit.settings;
    if (!squeezed) settings.anisotropy = {};
    const auto samples = largestBlock(samplesOf(base.in), base.in.faults);
    return variogramPoints(samples.size() >= kFewest ? samples : largestBlock(base.in.points, base.in.faults), settings);
}

BaseSurface fixedBase(const Unit&, std::shared_ptr<const FixedBase> fixed, const std::vector<Contact>& contacts) {
    BaseSurface base;
    base.fit.surface = gridSurface(fixed->levels);
    base.contacts = int(std::ranges::count(contacts, ContactKind::Observed, &Contact::kind));
    base.bounds = int(contacts.size()) - base.contacts;
    for (const auto& c : contacts)
        base.in.speakers.push_back(
            {c.place.plan(), c.source(), c.kind == ContactKind::Observed ? DataPoint::Kind::Contact : DataPoint::Kind::Bound});
    base.nearSpeakers = nearest(base.in.speakers);
    base.fixed = std::move(fixed);
    return base;
}

} // namespace fox
