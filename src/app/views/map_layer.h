#pragma once
#include "views/background.h"
#include "views/ground_layer.h"

namespace fox::app {

/// The geological map on a plan: which unit lies at the ground, at a level or at a depth, in its colour and sign. Made beside
/// the window.
class MapLayer : public QObject {
    Q_OBJECT
public:
    explicit MapLayer(QObject* parent);
    void setProducts(std::shared_ptr<const ProductSet>);
    /// Makes the map that the look asks for, if it is another than there is.
    void prepare(const PlanLook&);
    bool shown(const PlanLook& look) const { return look.map.has_value() && m_products && m_products->modelGrid; }
    void paintBehind(QPainter&, const PlanTransform&, const PlanLook&, const QString& chosenUnit) const;
    void paintLegend(QPainter&, const PlanTransform&, const PlanLook&) const;
    bool settled() const { return !m_work.busy(); }

signals:
    void changed();

private:
    std::shared_ptr<const ProductSet> m_products;
    std::vector<MapArea> m_map;
    std::shared_ptr<const ModelGrid> m_of; ///< what the map is made from, or being made from
    std::optional<MapSurface> m_surface;
    Background<std::vector<MapArea>> m_work; // last: it uses the above
};

} // namespace fox::app
