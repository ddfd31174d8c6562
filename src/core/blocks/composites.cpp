#include "blocks/composites.h"

#include "base/errors.h"
#include "base/files.h"
#include "base/length_unit.h"
#include "base/text.h"
#include "formats/table.h"
#include "ground/survey.h"
#include "holes/path.h"
#include "model/ground_at.h"
#include "sequence/test_values.h"

#include <fmt/format.h>

namespace fox {

namespace {

/// The quantity that is asked for: by its name in any case, SPT by that word too.
TestQuantity quantityNamed(const BlockSpec& spec, const Holes& holes) {
    const auto all = testQuantities(holes);
    const auto wanted =
        spec.of == BlockSpec::Of::Test && equalNoCase(spec.quantity, "SPT") ? std::string("SPT N") : spec.quantity;
    std::vector<std::string> names;
    for (const auto& q : all) {
        if (equalNoCase(q.name, wanted)) return q;
        names.push_back(q.name);
    }
    throw Error(fmt::format("No hole has \"{}\"; there {}.", spec.quantity,
                            names.empty() ? "are no values" : fmt::format("are {}", fmt::join(names, ", "))));
}

using Readings = std::vector<std::pair<double, double>>; ///< depth and value, by depth

/// A stretch of a hole over which readings are averaged.
struct Stretch {
    double from, to;
    std::optional<std::size_t> unit;
};

/// Windows of one length from the top; within units cut where the log changes.
std::vector<Stretch> stretchesOf(const BlockSpec& spec, const InterpretedHole* log, double end) {
    std::vector<Stretch> out;
    for (double from = 0; from < end; from += spec.composite) {
        const double to = std::min(from + spec.composite, end);
        if (!spec.within || !log || log->intervals.empty()) {
            out.push_back({from, to, {}});
            continue;
        }
        for (const auto& i : log->intervals) {
            const double a = std::max(from, i.top.metres), b = std::min(to, i.base.metres);
            if (b > a) out.push_back({a, b, i.unit});
        }
    }
    return out;
}

std::optional<std::size_t> unitInLog(const InterpretedHole* log, double depth) {
    if (log)
        for (const auto& i : log->intervals)
            if (depth >= i.top.metres && depth < i.base.metres) return i.unit;
    return {};
}

/// Makes the composites of holes, one after another.
class HoleComposites {
public:
    HoleComposites(const BlockSpec& spec, const Holes& holes, const InterpretedLogs& logs, Composites& out)
        : m_spec(spec), m_holes(holes), m_out(out), m_logs(holes.size(), nullptr) {
        for (const auto& log : logs.holes) m_logs[log.index] = &log;
    }

    void add(std::size_t hole, Readings readings) {
        const auto& h = m_holes[hole];
        const auto path = HolePath::of(h);
        if (!path) {
            m_out.unplaced += readings.size();
            return;
        }
        const auto* log = m_logs[hole];
        const auto put = [&](double depth, double value, std::optional<std::size_t> unit) {
            m_out.values.push_back({path->at(Depth{depth}), value, unit ? unit : unitInLog(log, depth), h.name});
        };
        if (!(m_spec.composite > 0)) {
            for (const auto& [depth, value] : readings) put(depth, value, {});
            return;
        }
        const double end = std::max(h.end().metres, readings.back().first);
        for (const auto& s : stretchesOf(m_spec, log, end)) {
            Readings inside; // of the unit's own stretch, where composites stay within units
            for (const auto& r : readings)
                if (r.first >= s.from && (r.first < s.to || (r.first == s.to && s.to == end))) inside.push_back(r);
            if (inside.empty()) continue;
            put((s.from + s.to) / 2, s.unit ? nearestMean(inside, s.from, s.to) : nearestMean(readings, s.from, s.to), s.unit);
        }
    }

private:
    const BlockSpec& m_spec;
    const Holes& m_holes;
    Composites& m_out;
    std::vector<const InterpretedHole*> m_logs;
};

void fromHoles(const BlockSpec& spec, const Holes& holes, const InterpretedLogs& logs, Composites& out) {
    const auto quantity = quantityNamed(spec, holes);
    out.unitOfMeasure = quantity.unit;
    std::map<std::size_t, Readings> readings;
    for (const auto& v : testValues(quantity, holes, logs)) {
        if (v.kind == TestValueKind::Word || std::isnan(v.value)) continue;
        out.limits += v.kind == TestValueKind::Limit;
        readings[v.hole].emplace_back(v.depth.metres, v.value);
    }
    HoleComposites composites(spec, holes, logs, out);
    for (auto& [hole, values] : readings) {
        for (auto& [depth, value] : values)
            if (spec.cap && value > *spec.cap) value = *spec.cap, ++out.capped;
        std::ranges::stable_sort(values, {}, &std::pair<double, double>::first);
        composites.add(hole, std::move(values));
    }
}

void fromPoints(const BlockSpec& spec, Composites& out) {
    const auto table = readTable(readBytes(spec.file), spec.file);
    const auto columns = surveyColumns(table);
    auto value = table.column(spec.quantity);
    for (std::size_t c = 0; c < table.columns.size() && !value; ++c) // "lead" is "lead (mg/kg)" too
        if (equalNoCase(headingWithUnit(table.columns[c]).name, spec.quantity)) value = c;
    if (!columns.complete() || !value)
        throw FileError(fmt::format("{} has no columns of easting, northing, level and \"{}\"; its columns are: {}.", spec.file,
                                    spec.quantity, fmt::join(table.columns, ", ")));
    out.unitOfMeasure = headingWithUnit(table.columns[*value]).unit;
    for (std::size_t r = 0; r < table.rows.size(); ++r) {
        if (table.cell(r, *value).empty()) continue;
        const auto x = table.number(r, *columns.easting), y = table.number(r, *columns.northing),
                   z = table.number(r, *columns.level);
        auto v = table.number(r, *value);
        if (!x || !y || !z || !v) {
            out.findings.push_back({Severity::Warning, "FC-BLOCKS", spec.file, table.rows[r].line, "", "", "",
                                    "This row has no number where one is needed; it is left out."});
            continue;
        }
        if (spec.cap && *v > *spec.cap) v = *spec.cap, ++out.capped;
        out.values.push_back({{*x, *y, *z}, *v, {}, ""});
    }
}

/// Of the project's values at points those that count.
void fromValues(const BlockSpec& spec, std::span<const ValueSource> sources, Composites& out) {
    std::vector<std::string> names;
    bool some = false;
    for (const auto& s : sources) {
        names.push_back(s.quantity);
        if (!equalNoCase(s.quantity, spec.quantity) || !(spec.file.empty() || s.file == spec.file)) continue;
        some = true;
        out.unitOfMeasure = s.unit;
        for (const auto& p : s.points) {
            if (!s.used || p.excluded) continue;
            double value = p.value;
            out.limits += p.sign != ValueSign::None;
            if (spec.cap && value > *spec.cap) value = *spec.cap, ++out.capped;
            out.values.push_back({p.place, value, {}, ""});
        }
    }
    if (!some)
        throw Error(fmt::format("The project has no values of \"{}\" at points; there {}.", spec.quantity,
                                names.empty() ? "are none" : fmt::format("are {}", fmt::join(names, ", "))));
}

/// Values at one place are one: their mean.
void joinCoinciding(std::vector<Composite>& values) {
    const auto key = [](const Composite& c) { return std::tuple(c.place.x, c.place.y, c.place.z); };
    std::ranges::stable_sort(values, {}, key);
    std::vector<Composite> out;
    std::size_t here = 0;
    for (auto& v : values) {
        if (!out.empty() && key(out.back()) == key(v)) {
            ++here;
            out.back().value += (v.value - out.back().value) / double(here);
        } else {
            here = 1;
            out.push_back(std::move(v));
        }
    }
    values = std::move(out);
}

} // namespace

double nearestMean(std::span<const std::pair<double, double>> readings, double from, double to) {
    double sum = 0, length = 0;
    for (std::size_t i = 0; i < readings.size(); ++i) {
        const double a = i == 0 ? from : std::max(from, (readings[i - 1].first + readings[i].first) / 2);
        const double b = i + 1 == readings.size() ? to : std::min(to, (readings[i].first + readings[i + 1].first) / 2);
        if (b > a) sum += (b - a) * readings[i].second, length += b - a;
    }
    return length > 0 ? sum / length : kNoValue;
}

Composites compositesOf(const BlockSpec& spec, const Holes& holes, const InterpretedLogs& logs, const Model& model,
                        std::span<const ValueSource> values) {
    Composites out;
    if (spec.of == BlockSpec::Of::Points)
        fromPoints(spec, out);
    else if (spec.of == BlockSpec::Of::Values)
        fromValues(spec, values, out);
    else
        fromHoles(spec, holes, logs, out);
    if (spec.logarithmic) {
        const auto bad = std::erase_if(out.values, [](const Composite& c) { return !(c.value > 0); });
        if (bad > 0)
            out.findings.push_back(
                {Severity::Warning, "FC-BLOCKS", "", 0, "", "", "",
                 fmt::format("{} of 0 or less {} no logarithm; left out.", counted(bad, "value"), bad == 1 ? "has" : "have")});
    }
    joinCoinciding(out.values);
    std::vector<Point3> places;
    for (const auto& c : out.values) places.push_back(c.place);
    const auto found = groundAt(model, places);
    for (std::size_t i = 0; i < places.size(); ++i)
        if (!out.values[i].unit) out.values[i].unit = found[i].unit;
    if (!spec.only.empty()) {
        std::vector<std::size_t> wanted;
        for (const auto& code : spec.only) {
            const auto unit = model.sequence->index(code);
            if (!unit) throw Error(fmt::format("The sequence has no unit {}.", code));
            wanted.push_back(*unit);
        }
        std::erase_if(out.values, [&](const Composite& c) { return !c.unit || std::ranges::count(wanted, *c.unit) == 0; });
    }
    if (out.values.empty()) throw Error(fmt::format("There is no value of \"{}\" to make blocks from.", spec.quantity));
    return out;
}

} // namespace fox
