#include "model/base_inputs.h"

namespace fox {

double BaseInputs::levelOf(double value, Point2 place, double from) const {
    const auto smoothed = [&] { return shape && !std::isnan(from) ? shape->smooth(place) : from; };
    switch (reference) {
    case BaseReference::Level: return value;
    case BaseReference::Plane: return value + plane->at(place);
    case BaseReference::Depth: return smoothed() - value;
    case BaseReference::Thickness: return from - value;
    case BaseReference::Trend: return value + share * (against.empty() ? smoothed() : from);
    }
    return kNoValue;
}

namespace {

/// The slope of levels on what they may follow, by least squares about the means of the blocks between faults; 0 for too few
/// contacts, or where that hardly varies.
double fittedShare(const std::vector<Contact>& contacts, const std::vector<Fault>& faults,
                   const std::function<double(Point2)>& trend) {
    struct Block {
        double n = 0, trend = 0, level = 0, squares = 0, products = 0; ///< sums
    };
    std::map<std::vector<bool>, Block> blocks;
    for (const auto& c : contacts) {
        const double t = trend(c.place.plan());
        if (c.kind != ContactKind::Observed || std::isnan(t)) continue;
        std::vector<bool> sides;
        for (const auto& f : faults) sides.push_back(sideOf(f, c.place.plan()).right);
        auto& b = blocks[sides];
        ++b.n, b.trend += t, b.level += c.place.z, b.squares += t * t, b.products += t * c.place.z;
    }
    double n = 0, squares = 0, products = 0;
    for (const auto& [sides, b] : blocks)
        n += b.n, squares += b.squares - b.trend * b.trend / b.n, products += b.products - b.trend * b.level / b.n;
    constexpr double kFewest = 5;
    constexpr double kLeast = 0.01; // square metres: variance of a trend that is one
    constexpr double kDigits = 1e6; // so that the rounding of other surfaces makes no new input
    return n < kFewest || squares < kLeast * n ? 0 : std::round(products / squares * kDigits) / kDigits;
}

class Collector {
public:
    Collector(BaseReference reference, const Unit& unit, const MeasuredFrom& from) : m_unit(unit), m_from(from) {
        m_in.reference = reference;
        if (reference == BaseReference::Thickness || reference == BaseReference::Trend) m_in.against = unit.recipe.against;
        if (reference == BaseReference::Depth || reference == BaseReference::Trend) m_in.shape = from.shape;
    }

    BaseInputs collect(std::vector<Contact> contacts, const std::vector<Guide>& guides, const std::vector<Fault>& faults) {
        for (auto& c : contacts)
            if (c.atSurface && m_from.ground)
                if (const double ground = m_from.ground(c.place.plan()); !std::isnan(ground)) c.place.z = ground;
        if (m_in.reference == BaseReference::Plane) m_in.plane = planeOf(contacts);
        if (m_in.reference == BaseReference::Trend)
            m_in.share = fittedShare(contacts, faults, [this](Point2 p) { return trend(p); });
        for (const auto& c : contacts)
            if (c.kind == ContactKind::Observed) addObserved(c);
        for (const auto& g : guides)
            for (const auto& p : placesOf(g))
                if (const auto v = valueOf(p)) {
                    m_in.points.push_back(*v);
                    m_in.speakers.push_back({p.plan(), "", DataPoint::Kind::Guide});
                    ++m_in.guides;
                }
        for (const auto& c : contacts)
            if (c.kind != ContactKind::Observed) addBound(c);
        if (m_in.ownThickness() && m_unit.recipe.bounds) assumeAbsent(contacts);
        const bool anywhere = m_in.guides > 0 || std::ranges::any_of(contacts, [](const Contact& c) {
                                  return c.kind != ContactKind::Absent && c.kind != ContactKind::TooShort;
                              });
        m_in.absentEverywhere =
            !anywhere && std::ranges::any_of(contacts, [](const Contact& c) { return c.kind == ContactKind::Absent; });
        return std::move(m_in);
    }

private:
    Plane planeOf(const std::vector<Contact>& contacts) const {
        std::vector<Point3> places;
        for (const auto& c : contacts)
            if (c.kind == ContactKind::Observed) places.push_back(c.place);
        const auto fitted = planeThrough(places);
        const Point3 through = fitted ? fitted->through : places.empty() ? Point3{} : places.front();
        if (m_unit.recipe.tilt) return fox::planeOf(m_unit.recipe.tilt->strike, m_unit.recipe.tilt->dip, through);
        return fitted.value_or(Plane{through, 0, 0});
    }

    double from(Point2 p) const {
        switch (m_in.reference) {
        case BaseReference::Level: return 0;
        case BaseReference::Plane: return m_in.plane->at(p);
        case BaseReference::Depth: return smoothed(p);
        case BaseReference::Thickness: return m_in.against.empty() ? m_from.top(p) : m_from.against(p);
        case BaseReference::Trend: return m_in.share * trend(p);
        }
        return kNoValue;
    }
    double smoothed(Point2 p) const {
        const double ground = m_from.ground(p);
        return m_in.shape && !std::isnan(ground) ? m_in.shape->smooth(p) : ground;
    }
    double trend(Point2 p) const { return m_in.against.empty() ? smoothed(p) : m_from.against(p); }
    bool downwards() const { return m_in.reference == BaseReference::Depth || m_in.reference == BaseReference::Thickness; }

    std::optional<Point3> valueOf(Point3 p) const {
        const double f = from(p.plan());
        if (std::isnan(f)) return {};
        // a ten-millionth of a metre, so that the rounding of other surfaces makes no new input
        constexpr double kLeast = 1e-7;
        const double v = downwards() ? f - p.z : p.z - f;
        return Point3{p.x, p.y, m_in.reference == BaseReference::Level ? p.z : std::round(v / kLeast) * kLeast};
    }

    double topAt(Point2 p) const { return m_from.top ? m_from.top(p) : kNoValue; }

    void addObserved(const Contact& c) {
        const auto v = valueOf(c.place);
        if (!v) {
            m_in.outside.push_back(c.source());
            return;
        }
        if (const double top = topAt(c.place.plan()); !std::isnan(top) && top > c.place.z)
            m_in.validationPoints.push_back({m_in.points.size(), false, std::round((top - c.place.z) * 1e7) / 1e7});
        m_in.points.push_back(*v);
        m_in.speakers.push_back({c.place.plan(), c.source(), DataPoint::Kind::Contact});
        ++m_in.contacts;
    }

    void addBound(const Contact& c) {
        if (!m_unit.recipe.bounds) return;
        if (c.kind == ContactKind::Absent && m_in.ownThickness()) return; // assumed instead
        const auto v = valueOf(c.place);
        if (!v) return;
        const bool atOrBelow = c.kind != ContactKind::Absent; // in levels
        if (c.kind == ContactKind::Absent) m_in.validationPoints.push_back({m_in.bounds.size(), true, 0});
        m_in.bounds.push_back({*v, atOrBelow != downwards() ? Side::Upper : Side::Lower, c.hole});
        if (c.lowest)
            if (const auto low = valueOf(*c.lowest))
                m_in.bounds.push_back({*low, downwards() ? Side::Upper : Side::Lower, c.hole});
        m_in.speakers.push_back({c.place.plan(), c.hole, DataPoint::Kind::Bound});
    }

    void assumeAbsent(const std::vector<Contact>& contacts) {
        std::vector<Point3> with(m_in.points.begin(), m_in.points.begin() + std::ptrdiff_t(m_in.contacts + m_in.guides));
        for (const auto& b : m_in.bounds)
            if (with.empty() || b.side == Side::Lower) with.push_back(b.place);
        for (const auto& c : contacts) {
            if (c.kind != ContactKind::Absent) continue;
            double sum = 0, weights = 0;
            for (const auto& p : with) {
                const double w = 1 / std::max(1.0, std::pow(distance(p.plan(), c.place.plan()), 2));
                sum += w * std::max(0.0, p.z), weights += w;
            }
            m_in.validationPoints.push_back({m_in.points.size(), false, 0});
            // never so thick that the base would be below what the hole says
            const double most = from(c.place.plan()) - c.place.z, assumed = weights > 0 ? -sum / weights : -1;
            m_in.points.push_back({c.place.x, c.place.y, std::isnan(most) ? assumed : std::min(assumed, most)});
            m_in.speakers.push_back({c.place.plan(), c.hole, DataPoint::Kind::Bound});
            ++m_in.assumed;
        }
    }

    const Unit& m_unit;
    const MeasuredFrom& m_from;
    BaseInputs m_in;
};

} // namespace

BaseInputs inputsOf(BaseReference reference, const Unit& unit, const std::vector<Contact>& contacts,
                    const std::vector<Guide>& guides, const std::vector<Fault>& faults, const MeasuredFrom& from) {
    auto in = Collector(reference, unit, from).collect(contacts, guides, faults);
    in.faults = faults;
    return in;
}

} // namespace fox
