#include "model/surface_maps.h"

#include "base/parallel.h"
#include "surfaces/nearest_points.h"

#include <chrono>
#include <fmt/format.h>

// Confidence, as it is drawn by fading, is 1 less the doubt: the standard deviation over 1.2 times what it is far from all data,
// or, where the method has none, the distance to the nearest data point over twice their usual spacing. Methods are ranked by
// their errors at the holes where all of them have a value, since an error at six holes can't be held against one at fifteen.
namespace fox {

const char* words(SurfaceValue value) {
    switch (value) {
    case SurfaceValue::Level: return "level of the base";
    case SurfaceValue::Thickness: return "thickness";
    case SurfaceValue::Depth: return "depth of the base below ground";
    case SurfaceValue::Uncertainty: return "standard deviation of the base";
    case SurfaceValue::Chance: return "probability of presence";
    case SurfaceValue::Distance: return "distance to the nearest data point";
    case SurfaceValue::Top: return "level of the top";
    }
    return "";
}

namespace {

/// The standard deviation where nothing is near, metres.
double farDeviation(const BaseSurface& base) {
    if (base.isAutomatic()) return base.automatic->farDeviation();
    const auto& v = base.fit.settings.variogram;
    return v ? std::sqrt(v->at(std::max(v->range, 1.0))) : kNoValue;
}

double valueOf(SurfaceValue wanted, const ModelColumn& c, std::size_t unit, double distance) {
    const double thickness = c.top(unit) - c.bases[unit];
    const bool there = thickness > 0; // unknown is not there either
    switch (wanted) {
    case SurfaceValue::Level: return there ? c.bases[unit] : kNoValue;
    case SurfaceValue::Thickness: return there ? thickness : kNoValue;
    case SurfaceValue::Depth: return there ? c.ground - c.bases[unit] : kNoValue;
    case SurfaceValue::Uncertainty: return std::isnan(c.bases[unit]) ? kNoValue : c.deviations[unit];
    case SurfaceValue::Chance: return c.chances[unit];
    case SurfaceValue::Distance: return std::isnan(c.ground) ? kNoValue : distance;
    case SurfaceValue::Top: return there ? c.top(unit) : kNoValue;
    }
    return kNoValue;
}

} // namespace

double typicalSpacing(const BaseSurface& base) {
    if (!base.nearSpeakers) return 1;
    std::vector<double> all; // from each speaking place to its nearest other: the middle one counts
    std::vector<NearestPoints::Hit> hits;
    for (const auto& s : base.in.speakers) {
        base.nearSpeakers->find(s.place, 2, {}, hits);
        if (hits.size() == 2) all.push_back(std::sqrt(hits[1].squaredDistance));
    }
    if (all.empty()) return 1;
    std::ranges::nth_element(all, all.begin() + std::ptrdiff_t(all.size() / 2));
    return std::max(1.0, all[all.size() / 2]);
}

SurfaceMap mapOf(const Model& model, std::size_t unit, SurfaceValue value, const Frame& frame, const Progress& progress) {
    SurfaceMap out{Grid(frame), Grid(frame), Grid(frame)};
    const auto& base = *model.bases.at(unit);
    const double spacing = typicalSpacing(base), far = farDeviation(base);
    const auto columns = std::size_t(frame.columns());
    parallelFor(
        out.values.values.size(), 512,
        [&](std::size_t begin, std::size_t end) {
            std::vector<Point2> places;
            for (auto i = begin; i < end; ++i) places.push_back(frame.centre(int(i % columns), int(i / columns)));
            const auto all = model.columnsWithDoubtOf(unit, places);
            for (auto i = begin; i < end; ++i) {
                const auto& c = all[i - begin];
                const double distance = base.nearestWord(places[i - begin]).distance;
                out.values.values[i] = valueOf(value, c, unit, distance);
                out.presence.values[i] = c.chances[unit];
                const double doubt = std::isnan(c.deviations[unit]) || std::isnan(far) ? distance / (2 * spacing)
                                                                                       : c.deviations[unit] / (1.2 * far);
                out.confidence.values[i] = std::isnan(doubt) ? 1 : std::clamp(1 - doubt, 0.0, 1.0);
            }
        },
        progress);
    return out;
}

Grid levelsOf(const Model& model, std::size_t unit, const Frame& frame, const Progress& progress) {
    Grid out(frame);
    const auto columns = std::size_t(frame.columns());
    parallelFor(
        out.values.size(), 512,
        [&](std::size_t begin, std::size_t end) {
            std::vector<Point2> places;
            for (auto i = begin; i < end; ++i) places.push_back(frame.centre(int(i % columns), int(i / columns)));
            const auto all = model.columnsAt(places);
            for (auto i = begin; i < end; ++i) out.values[i] = valueOf(SurfaceValue::Level, all[i - begin], unit, kNoValue);
        },
        progress);
    return out;
}

std::string baseInWords(const Model& model, std::size_t unit, Point2 p) {
    if (unit >= model.bases.size()) return {};
    const auto c = model.columnAt(p, true);
    if (std::isnan(c.ground) || std::isnan(c.bases[unit])) return {};
    const auto& base = *model.bases[unit];
    const auto& name = model.sequence->units[unit].name;
    std::string out = c.top(unit) - c.bases[unit] > 0 ? fmt::format("base of {} {:.1f} m", name, c.bases[unit])
                                                      : fmt::format("no {} here", name);
    if (base.fixed)
        out += base.fixed->origin == FixedBase::Origin::Frozen ? ", frozen" : ", as imported";
    else if (!std::isnan(c.deviations[unit]))
        out += fmt::format(", ± {:.1f} m", c.deviations[unit]);
    const auto word = base.nearestWord(p);
    if (!std::isnan(word.distance))
        out += word.hole.empty() ? fmt::format("; nearest guide {:.0f} m", word.distance)
                                 : fmt::format("; nearest hole {}, {:.0f} m", word.hole, word.distance);
    return out;
}

namespace {

/// One base of a model, before the rules, as a surface.
class RawBase : public Surface {
public:
    RawBase(const Model& model, std::size_t unit) : m_model(model), m_unit(unit) {}
    void evaluate(std::span<const Point2> places, std::span<double> values, std::span<double>) const override {
        std::vector<double> ground;
        for (const auto p : places) ground.push_back(m_model.terrain->levelAt(p).value_or(kNoValue));
        std::ranges::copy(m_model.rawAt(places, ground)[m_unit], values.begin());
    }

private:
    const Model& m_model;
    std::size_t m_unit;
};

} // namespace

std::vector<FaultThrow> throwOf(const Model& model, std::size_t unit, const Fault& fault, double step) {
    return throwAlong(RawBase(model, unit), fault, step);
}

Model withBase(Model model, std::size_t unit, BaseSurface base) {
    model.bases.at(unit) = std::make_shared<const BaseSurface>(std::move(base));
    return model;
}

namespace {

/// Errors at the holes at which all methods that can be ranked give a value.
void rank(std::vector<MethodResult>& results) {
    const auto residuals = [](const MethodResult& r) -> const std::vector<double>& { return r.base.leaveOneOut.residuals; };
    std::vector<MethodResult*> ranked;
    for (auto& r : results)
        if (r.base.leaveOneOut.n > 0 && 2 * r.base.leaveOneOut.n >= r.base.contacts) ranked.push_back(&r);
    if (ranked.empty()) return;
    std::vector<double> squares(ranked.size());
    int common = 0;
    for (std::size_t i = 0; i < residuals(*ranked.front()).size(); ++i) {
        if (std::ranges::any_of(ranked, [&](const auto* r) { return i >= residuals(*r).size() || std::isnan(residuals(*r)[i]); }))
            continue;
        ++common;
        for (std::size_t k = 0; k < ranked.size(); ++k) squares[k] += residuals(*ranked[k])[i] * residuals(*ranked[k])[i];
    }
    if (common == 0) return;
    for (std::size_t k = 0; k < ranked.size(); ++k)
        ranked[k]->rankedOn = common, ranked[k]->rankError = std::sqrt(squares[k] / common);
}

} // namespace

std::vector<MethodResult> compareMethods(const Unit& unit, const BaseSurface& now, const AutomaticInputs* average,
                                         const Progress& progress) {
    std::vector<MethodResult> out;
    std::vector<BaseMethod> all;
    for (const auto method : allMethods()) all.emplace_back(method);
    if (average && !average->data.empty()) all.emplace_back();
    for (const auto& method : all) {
        progress.report(double(out.size()) / double(all.size()), methodInWords(method));
        auto as = unit;
        setMethod(as.recipe, method);
        // a variogram drawn by hand holds for both krigings
        MethodResult r;
        r.method = method;
        const auto start = std::chrono::steady_clock::now();
        r.base = method ? fitBase(as, {now.in}, progress) : fitAutomaticBase(as, *average, {now.in}, progress);
        r.milliseconds = std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
        out.push_back(std::move(r));
    }
    for (auto& r : out)
        for (std::size_t i = 0; i < r.base.leaveOneOut.residuals.size(); ++i)
            if (const double e = r.base.leaveOneOut.residuals[i]; !std::isnan(e) && !(std::abs(e) <= std::abs(r.worst)))
                r.worst = e, r.worstHole = r.base.in.speakers[i].hole;
    rank(out);
    return out;
}

std::optional<std::size_t> bestOf(const std::vector<MethodResult>& results) {
    double least = std::numeric_limits<double>::infinity();
    for (const auto& r : results) least = std::fmin(least, r.rankError);
    for (std::size_t i = 0; i < results.size(); ++i)
        if (results[i].rankError <= least * (1 + kTie)) return i;
    return {};
}

} // namespace fox
