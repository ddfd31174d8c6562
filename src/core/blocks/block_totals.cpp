#include "blocks/block_totals.h"

#include "base/text.h"
#include "formats/table.h"

#include <fmt/format.h>

namespace fox {

namespace {

constexpr double kGravity = 9.80665; // m/s2: unit weights are forces

/// Adds blocks up, each by its unit.
class TotalSum {
public:
    TotalSum(const BlockModel& model, const Sequence& sequence, const ValueLimits& limits) : m_model(model), m_limits(limits) {
        for (const auto& u : sequence.units) {
            const auto weight = u.values.find("unit_weight");
            m_tonnesPerBlock.push_back(weight == u.values.end() ? kNoValue : model.blockVolume() * weight->second / kGravity);
        }
    }
    void add(std::size_t block, BlockTotal& to) const {
        const double v = m_model.value[block];
        if (std::isnan(v)) {
            to.unknown += m_model.unit[block] >= 0;
            return;
        }
        if (!m_limits.hold(v)) return;
        to.least = std::fmin(to.least, v), to.most = std::fmax(to.most, v);
        to.mean = to.blocks == 0 ? v : to.mean + (v - to.mean) / double(to.blocks + 1);
        ++to.blocks;
        to.volume += m_model.blockVolume();
        const double tonnes = m_tonnesPerBlock[std::size_t(m_model.unit[block])];
        if (std::isnan(tonnes))
            to.mass.reset();
        else if (to.mass)
            *to.mass += tonnes;
    }

private:
    const BlockModel& m_model;
    const ValueLimits& m_limits;
    std::vector<double> m_tonnesPerBlock; ///< by unit
};

std::string orEmpty(double v) { return std::isnan(v) ? std::string() : fmt::format("{}", v); }

std::string totalRow(const BlockTotal& t) {
    return fmt::format("{},{},{},{},{},{},{}\n", t.blocks, t.volume, t.mass ? orEmpty(*t.mass) : std::string(), orEmpty(t.mean),
                       orEmpty(t.least), orEmpty(t.most), t.unknown);
}

} // namespace

BlockTotal totalOf(const BlockModel& model, const Sequence& sequence, const ValueLimits& limits) {
    const TotalSum sum(model, sequence, limits);
    BlockTotal out;
    for (std::size_t b = 0; b < model.blocks(); ++b) sum.add(b, out);
    return out;
}

std::vector<UnitTotal> totalsByUnit(const BlockModel& model, const Sequence& sequence, const ValueLimits& limits) {
    const TotalSum sum(model, sequence, limits);
    std::vector<UnitTotal> all;
    for (std::size_t u = 0; u < sequence.units.size(); ++u) all.push_back({u, {}});
    for (std::size_t b = 0; b < model.blocks(); ++b)
        if (model.unit[b] >= 0) sum.add(b, all[std::size_t(model.unit[b])].total);
    std::vector<bool> has(all.size());
    for (const auto unit : model.unit)
        if (unit >= 0) has[std::size_t(unit)] = true;
    std::erase_if(all, [&](const UnitTotal& t) { return !has[t.unit]; });
    return all;
}

std::vector<LevelTotal> totalsByLevel(const BlockModel& model, const Sequence& sequence, const ValueLimits& limits) {
    const TotalSum sum(model, sequence, limits);
    const auto layer = std::size_t(model.count[0]) * std::size_t(model.count[1]);
    std::vector<LevelTotal> out;
    for (int k = model.count[2]; k-- > 0;) {
        const double from = model.corner.z + k * model.spec.dz;
        LevelTotal one{from, from + model.spec.dz, {}};
        bool has = false;
        for (std::size_t b = std::size_t(k) * layer; b < std::size_t(k + 1) * layer; ++b) {
            has = has || model.unit[b] >= 0;
            sum.add(b, one.total);
        }
        if (has) out.push_back(one);
    }
    return out;
}

std::string totalsCsv(const BlockModel& model, const Sequence& sequence, const ValueLimits& limits) {
    std::string out = "by,unit,from_level,to_level,blocks,volume,mass,mean,least,most,unknown\n";
    out += "all,,,," + totalRow(totalOf(model, sequence, limits));
    for (const auto& u : totalsByUnit(model, sequence, limits))
        out += fmt::format("unit,{},,,", tableCell(sequence.units[u.unit].code)) + totalRow(u.total);
    for (const auto& l : totalsByLevel(model, sequence, limits))
        out += fmt::format("level,,{},{},", l.from, l.to) + totalRow(l.total);
    return out;
}

} // namespace fox
