#include "model/base_inputs.h"

namespace fox {

double BaseInputs::levelOf(double value, Point2 place, double from) const {
    switch (reference) {
    case BaseReference::Level: return value;
    case BaseReference::Plane: return value + plane->at(place);
    case BaseReference::Depth:
    case BaseReference::Thickness: return from - value;
    }
    return kNoValue;
}

namespace {

class Collector {
public:
    Collector(BaseReference reference, const Unit& unit, const MeasuredFrom& from) : m_unit(unit), m_from(from) {
        m_in.reference = reference;
        if (reference == BaseReference::Thickness) m_in.against = unit.recipe.against;
    }

    BaseInputs collect(std::vector<Contact> contacts, const std::vector<Guide>& guides) {
        for (auto& c : contacts)
            if (c.atSurface && m_from.ground)
                if (const double ground = m_from.ground(c.place.plan()); !std::isnan(ground)) c.place.z = ground;
        if (m_in.reference == BaseReference::Plane) m_in.plane = planeOf(contacts);
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
        case BaseReference::Depth: return m_from.ground(p);
        case BaseReference::Thickness: return m_in.against.empty() ? m_from.top(p) : m_from.against(p);
        }
        return kNoValue;
    }
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
    auto in = Collector(reference, unit, from).collect(contacts, guides);
    in.faults = faults;
    return in;
}

} // namespace fox
