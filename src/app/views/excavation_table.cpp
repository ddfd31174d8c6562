#include "views/excavation_table.h"

#include "style/theme.h"
#include "style/words.h"
#include "views/block_words.h"

namespace fox::app {

namespace {

class ExcavationsContent : public TableContent {
public:
    explicit ExcavationsContent(std::shared_ptr<const ProductSet> products) : m_products(std::move(products)) {
        m_columns = {{tr("Excavation"), false, false, {}, 130},
                     {tr("Excavated"), true, false, tr("Volume, m³"), 90},
                     {tr("Wanted"), true, false, tr("Volume of what is wanted that is freed, m³"), 90},
                     {tr("Waste"), true, false, tr("Volume of the rest, m³"), 90},
                     {tr("Ratio"), true, false, tr("Waste over wanted"), 60},
                     {tr("Mass"), true, false, tr("Tonnes, by the units' unit weight"), 80},
                     {tr("Mass wanted"), true, false, tr("Tonnes of what is wanted"), 100},
                     {tr("Below water"), true, false, tr("Volume below the water, m³"), 100},
                     {tr("Area"), true, false, tr("m² that are dug"), 80},
                     {tr("Depth"), true, false, tr("The greatest, metres below the ground"), 70},
                     {tr("Benches"), true, false, {}, 80},
                     {tr("Profit"), true, false, tr("Value of what is wanted less the cost of digging"), 80},
                     {tr("Wanted is"), false, false, tr("What the excavation is for"), 150},
                     {tr("Remark"), false, false, {}, 300}};
    }
    QString name() const override { return tr("excavations"); }
    int rows() const override { return int(m_products->project.excavations->size()); }
    QString text(int row, int c) const override {
        const auto* made = product(row);
        const auto& spec = (*m_products->project.excavations)[std::size_t(row)];
        if (c == 0) return qt(spec.name);
        if (c == kWanted) return wantedInWords(spec);
        if (c == kRemark) {
            if (!made) return tr("being made");
            if (!made->dig) return qt(made->problem);
            return made->dig->reachesEdge ? tr("cut off by the edge of the extent or of the ground") : QString();
        }
        const auto v = number(row, c);
        return v ? QString::number(*v, 'f', c == kRatio ? 2 : c == kDepth ? 1 : 0) : QString();
    }
    std::optional<double> number(int row, int c) const override {
        const auto* made = product(row);
        if (!made || !made->dig) return {};
        const auto& d = *made->dig;
        switch (c) {
        case 1: return d.excavated;
        case 2: return d.wanted;
        case 3: return d.waste();
        case kRatio: return d.wanted > 0 ? std::optional(d.waste() / d.wanted) : std::nullopt;
        case 5: return d.mass;
        case 6: return d.wantedMass;
        case 7: return d.belowWater;
        case 8: return d.area;
        case kDepth: return d.deepest;
        case 10: return double(d.benches.size());
        case 11: return d.profit;
        default: return {};
        }
    }
    QColor colour(int row, int c) const override {
        const auto* made = product(row);
        return c == kRemark && made && !made->dig ? fox::app::colour::red : QColor();
    }

private:
    static constexpr int kRatio = 4, kDepth = 9, kWanted = 12, kRemark = 13; ///< columns
    const ExcavationProduct* product(int row) const {
        return std::size_t(row) < m_products->excavations.size() ? m_products->excavations[std::size_t(row)].get() : nullptr;
    }
    std::shared_ptr<const ProductSet> m_products;
};

} // namespace

TableContentPtr excavationsTable(std::shared_ptr<const ProductSet> products) {
    return std::make_shared<ExcavationsContent>(std::move(products));
}

} // namespace fox::app
