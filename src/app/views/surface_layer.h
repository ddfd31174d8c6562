#pragma once
#include "model/surface_maps.h"
#include "views/background.h"
#include "views/ground_layer.h"

namespace fox::app {

/// One unit's base on a plan: shaded, faded where it is doubtful, with lines of equal value; what each hole says of it
/// and how far off it would be if it were left out; guides and faults. Pictures are made beside the window.
class SurfaceLayer : public QObject {
    Q_OBJECT
public:
    explicit SurfaceLayer(QObject* parent);
    void setProducts(std::shared_ptr<const ProductSet>);
    /// The unit whose base is shown; none.
    void setUnit(std::optional<std::size_t>);
    bool shown(const PlanLook& look) const { return look.surface != PlanLook::Surface::None && m_unit.has_value(); }
    void paintBehind(QPainter&, const PlanTransform&, const PlanLook&, Occupied&);
    void paintFaults(QPainter&, const PlanTransform&) const;
    /// Rings and arrows at the holes, guides.
    void paintMarks(QPainter&, const PlanTransform&, const PlanLook&, Occupied&) const;
    void paintLegend(QPainter&, const PlanTransform&, const PlanLook&) const;
    bool settled() const { return !m_work.busy(); }

signals:
    void changed();

private:
    struct Made {
        QImage image;
        QRectF world;
        std::vector<ContourLine> lines;
        double low = 0, high = 1, interval = 1;
    };
    void want(const PlanTransform&, PlanLook::Surface);
    static Made make(const Model&, std::size_t unit, PlanLook::Surface, const QRectF& world, double pixelsPerMetre,
                     const Progress&);

    std::shared_ptr<const ProductSet> m_products;
    std::optional<std::size_t> m_unit;
    Made m_made;
    struct Wanted {
        std::shared_ptr<const Model> model;
        std::optional<std::size_t> unit;
        PlanLook::Surface surface = PlanLook::Surface::None;
        QRectF world;
        bool operator==(const Wanted&) const = default;
    };
    Wanted m_wanted;
    Background<Made> m_work; // last: it uses the above
};

} // namespace fox::app
