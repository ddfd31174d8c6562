#include "model/base_surface.h"

#include <fmt/format.h>

namespace fox {

void BaseSurface::evaluate(std::span<const Point2> places, std::span<const double> ground, std::span<double> levels,
                           std::span<double> variances) const {
    if (absentEverywhere) {
        std::ranges::fill(levels, std::numeric_limits<double>::infinity());
        std::ranges::fill(variances, kNoValue);
        return;
    }
    if (!fit.surface->hasVariance()) std::ranges::fill(variances, kNoValue);
    fit.surface->evaluate(places, levels, fit.surface->hasVariance() ? variances : std::span<double>());
    if (reference == BaseReference::Depth)
        for (std::size_t i = 0; i < levels.size(); ++i) levels[i] = ground[i] - levels[i];
}

namespace {

struct Inputs {
    std::vector<Point3> points;
    std::vector<Bound> bounds;
    std::vector<std::string> outside; ///< holes that the terrain does not cover
};

Inputs inputsOf(const std::vector<Contact>& contacts, BaseReference reference, const Terrain& terrain) {
    Inputs in;
    // a level becomes a depth by turning over, and with it upper bounds become lower ones
    const auto turned = [&](const Contact& c, Point3 p) -> std::optional<Point3> {
        if (reference == BaseReference::Level) return p;
        const auto ground = terrain.levelAt(p.plan());
        if (!ground) {
            in.outside.push_back(c.hole);
            return {};
        }
        return Point3{p.x, p.y, *ground - p.z};
    };
    const Side below = reference == BaseReference::Level ? Side::Upper : Side::Lower;
    const Side above = reference == BaseReference::Level ? Side::Lower : Side::Upper;
    for (const auto& c : contacts) {
        const auto p = turned(c, c.place);
        if (!p) continue;
        switch (c.kind) {
        case ContactKind::Observed: in.points.push_back(*p); break;
        case ContactKind::NotReached:
        case ContactKind::TooShort: in.bounds.push_back({*p, below, c.hole}); break;
        case ContactKind::Absent: in.bounds.push_back({*p, above, c.hole}); break;
        case ContactKind::Gap:
            in.bounds.push_back({*p, below, c.hole});
            if (const auto low = turned(c, *c.lowest)) in.bounds.push_back({*low, above, c.hole});
            break;
        }
    }
    return in;
}

struct Candidate {
    BaseReference reference;
    Inputs inputs;
    FittedSurface fit;
};

Candidate candidate(const Unit& unit, const std::vector<Contact>& contacts, BaseReference reference, const Terrain& terrain,
                    const Progress& progress) {
    Candidate c{reference, inputsOf(contacts, reference, terrain), {}};
    auto settings = unit.recipe.settings;
    // a nugget would leave a spike at every hole where the surface is to pass through the contact smoothly
    settings.nugget = NuggetFit::Zero;
    c.fit = fitSurface(c.inputs.points, c.inputs.bounds, settings, progress);
    return c;
}

double spread(const std::vector<Point3>& points) {
    double mean = 0, squares = 0;
    for (const auto& p : points) mean += p.z / double(points.size());
    for (const auto& p : points) squares += (p.z - mean) * (p.z - mean);
    return squares;
}

bool depthsFitBetter(const Candidate& levels, const Candidate& depths) {
    if (depths.inputs.points.size() < levels.inputs.points.size()) return false; // some lie outside the ground
    if (int(levels.inputs.points.size()) < kFewest) return spread(depths.inputs.points) < spread(levels.inputs.points);
    return depths.fit.leaveOneOut.rmse < levels.fit.leaveOneOut.rmse;
}

} // namespace

BaseSurface fitBase(const Unit& unit, const std::vector<Contact>& contacts, const Terrain& terrain, const Progress& progress) {
    BaseSurface base;
    base.contacts = int(std::ranges::count(contacts, ContactKind::Observed, &Contact::kind));
    base.bounds = int(contacts.size()) - base.contacts;
    const bool anywhere = std::ranges::any_of(
        contacts, [](const Contact& c) { return c.kind != ContactKind::Absent && c.kind != ContactKind::TooShort; });
    base.absentEverywhere =
        !anywhere && std::ranges::any_of(contacts, [](const Contact& c) { return c.kind == ContactKind::Absent; });
    if (base.absentEverywhere) return base;

    const bool both = !unit.recipe.reference && base.contacts > 0 && !terrain.tin.empty();
    auto chosen = candidate(unit, contacts, unit.recipe.reference.value_or(BaseReference::Level), terrain, progress);
    if (both) {
        auto other = candidate(unit, contacts, BaseReference::Depth, terrain, progress);
        if (depthsFitBetter(chosen, other)) std::swap(chosen, other);
        base.otherReferenceError = other.fit.leaveOneOut.rmse;
    }
    base.reference = chosen.reference;
    base.fit = std::move(chosen.fit);
    for (auto& f : base.fit.findings) f.message = fmt::format("Base of {}: {}", unit.code, f.message);
    if (!chosen.inputs.outside.empty())
        base.fit.findings.push_back(
            {Severity::Warning, "FC-OUTSIDE", "", 0, "", "", chosen.inputs.outside.front(),
             fmt::format(
                 "Base of {}: {} contacts lie where the ground has no level, so they have no depth and are left out ({}).",
                 unit.code, chosen.inputs.outside.size(), fmt::join(chosen.inputs.outside, ", "))});
    if (base.contacts == 0)
        base.fit.findings.push_back(
            {Severity::Warning, "FC-NO-BASE", "", 0, "", "", "",
             contacts.empty() ? fmt::format("No hole speaks of {}: its base and all below it is not known.", unit.code)
                              : fmt::format("No hole shows the base of {}: it and all below it is not known.", unit.code)});
    return base;
}

} // namespace fox
