#include "model/audit.h"

#include "base/errors.h"
#include "base/parallel.h"

#include <mutex>

// Along a vertical hole the model has one column, and the matched length of an interval is its overlap with the unit there. Along
// an inclined hole the column changes: the path is walked in steps of a quarter of a metre, and a change between two steps is
// found by halving to a millimetre. What is logged above the model's ground counts to the unit that begins there.
namespace fox {

namespace {

/// Length of [base, top] (levels) in which the column has the unit.
double overlap(const ModelColumn& column, std::size_t unit, double top, double base) {
    double high = column.top(unit);
    if (std::isnan(high)) return 0;
    double low = unit < column.bases.size() ? column.bases[unit] : -std::numeric_limits<double>::infinity();
    if (std::isnan(low)) return 0;
    // what is logged above the model's ground belongs to the unit that begins there: the ground is the hole's
    if (high == column.ground) high = std::max(high, top);
    return std::max(0.0, std::min(top, high) - std::max(base, low));
}

double matchedAlong(const Model& model, const HolePath& path, const InterpretedInterval& i) {
    if (path.vertical()) return overlap(model.columnAt(path.at(i.top).plan()), i.unit, path.at(i.top).z, path.at(i.base).z);
    constexpr double kStep = 0.25, kFine = 0.001; // metres; a change between two steps is found to the millimetre
    const auto isThere = [&](double depth) {
        const auto p = path.at({depth});
        return model.columnAt(p.plan()).unitAt(p.z) == i.unit;
    };
    const double length = i.base.metres - i.top.metres;
    const int steps = std::max(1, int(std::ceil(length / kStep)));
    double matched = 0, from = i.top.metres + kFine / 2; // the very boundary belongs to both
    bool there = isThere(from);
    for (int k = 1; k <= steps; ++k) {
        const double to = k == steps ? i.base.metres - kFine / 2 : i.top.metres + length * k / steps;
        const bool next = isThere(to);
        double low = from, high = to;
        while (there != next && high - low > kFine) (isThere((low + high) / 2) == there ? low : high) = (low + high) / 2;
        if (there && next)
            matched += to - from;
        else if (there != next)
            matched += there ? low - from : to - high;
        from = to, there = next;
    }
    return std::min(length, matched > 0 ? matched + kFine : 0);
}

AuditHole auditHole(const Model& model, const InterpretedHole& read, const HolePath& path) {
    AuditHole out{read.name, read.loggedLength, 0, {}};
    for (const auto& i : read.intervals) out.matchedLength += matchedAlong(model, path, i); // also of one that returns
    return out;
}

} // namespace

Audit auditModel(const Model& model, const InterpretedLogs& reading, const std::vector<std::vector<Contact>>& contacts,
                 const Progress& progress) {
    Audit audit;
    std::vector<std::optional<AuditHole>> holes(reading.holes.size());
    parallelFor(
        holes.size(), 1,
        [&](std::size_t begin, std::size_t end) {
            for (auto h = begin; h < end; ++h)
                if (const auto path = HolePath::of(*reading.holes[h].hole); path && !reading.holes[h].hole->excluded)
                    holes[h] = auditHole(model, reading.holes[h], *path);
        },
        progress);
    std::map<std::string, std::size_t> index;
    for (auto& h : holes)
        if (h) {
            index[h->name] = audit.holes.size();
            audit.holes.push_back(std::move(*h));
        }
    std::map<std::pair<double, double>, ModelColumn> columns; // a vertical hole's contacts share one
    for (std::size_t unit = 0; unit < contacts.size(); ++unit)
        for (const auto& c : contacts[unit]) {
            progress.check();
            auto [column, isNew] = columns.try_emplace({c.place.x, c.place.y});
            if (isNew) column->second = model.columnAt(c.place.plan());
            const double modelled = column->second.bases[unit];
            if (c.kind == ContactKind::Observed) {
                const AuditContact contact{unit, c.place.z, modelled};
                if (!c.file.empty())
                    audit.points.push_back({contact, c.file, c.line, c.place.plan()});
                else
                    audit.holes[index[c.hole]].contacts.push_back(contact);
                if (std::abs(contact.difference()) > audit.worstDifference)
                    audit.worstDifference = std::abs(contact.difference()), audit.worstHole = c.source();
                continue;
            }
            // under the rules an absent unit's base is that of what lies over it, which keeps the bound if it is kept there
            audit.bounds += c.kind == ContactKind::Gap ? 2 : 1;
            const bool upper = c.kind == ContactKind::NotReached || c.kind == ContactKind::TooShort || c.kind == ContactKind::Gap;
            if (upper)
                audit.boundsBroken += modelled > c.place.z + kAuditSlack;
            else
                audit.boundsBroken += modelled < c.place.z - kAuditSlack;
            if (c.lowest) audit.boundsBroken += modelled < c.lowest->z - kAuditSlack;
        }
    double logged = 0, matched = 0;
    for (const auto& h : audit.holes) logged += h.loggedLength, matched += h.matchedLength;
    if (logged > 0) audit.matchedFraction = matched / logged;
    return audit;
}

namespace {

/// `floorAt` gives the level above which a cell counts; NaN leaves it out.
template <typename FloorAt>
Volumes countVolumes(const ModelGrid& grid, std::size_t units, const Area& area, const FloorAt& floorAt) {
    Volumes out;
    const auto& frame = grid.ground.frame;
    const double cell = frame.cell * frame.cell;
    const auto columns = std::size_t(frame.columns());
    for (std::size_t u = 0; u < units; ++u) out.units.push_back({u});
    for (std::size_t i = 0; i < grid.ground.values.size(); ++i) {
        const double floor = floorAt(i);
        if (std::isnan(grid.ground.values[i]) || std::isnan(floor) || grid.ground.values[i] <= floor) continue;
        if (!area.contains(frame.centre(int(i % columns), int(i / columns)))) continue;
        out.area += cell;
        for (auto& u : out.units) {
            const double own = grid.base(u.unit, i), base = std::isnan(own) && u.unit == grid.bases.size() ? floor : own;
            if (!std::isfinite(base)) continue;
            const double thickness = grid.top(u.unit).values[i] - std::max(base, floor);
            if (!(thickness > 0)) continue;
            u.volume += thickness * cell;
            u.area += cell;
            u.maxThickness = std::max(u.maxThickness, thickness);
        }
    }
    for (auto& u : out.units)
        if (u.area > 0) u.meanThickness = u.volume / u.area;
    return out;
}

} // namespace

Volumes volumesOf(const ModelGrid& grid, const Area& area) {
    return countVolumes(grid, grid.unitsWithBase(), area, [](std::size_t) { return -std::numeric_limits<double>::infinity(); });
}

Volumes volumesAbove(const ModelGrid& grid, const Grid& surface, const Area& area) {
    if (surface.frame != grid.ground.frame) throw UsageError("The surface and the model have different extents or cells.");
    return countVolumes(grid, grid.bases.size() + 1, area, [&](std::size_t i) { return surface.values[i]; });
}

} // namespace fox
