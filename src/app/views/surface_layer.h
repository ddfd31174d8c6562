#pragma once
#include "model/presence_line.h"
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
    /// The variogram of its base as it is being dragged: the picture follows, coarser; null: as it is.
    void setDragged(std::shared_ptr<const Variogram>);
    bool shown(const PlanLook& look) const { return look.surface != PlanLook::Surface::None && m_unit.has_value(); }
    void paintBehind(QPainter&, const PlanTransform&, const PlanLook&, Occupied&);
    void paintFaults(QPainter&, const PlanTransform&) const;
    /// Rings and arrows at the holes, guides.
    void paintMarks(QPainter&, const PlanTransform&, const PlanLook&, Occupied&) const;
    void paintLegend(QPainter&, const PlanTransform&, const PlanLook&) const;
    /// Whether the line of the unit's presence is on the plan.
    bool hasPresenceLine() const { return !m_made.presence.empty(); }
    bool settled() const { return !m_work.busy(); }

signals:
    void changed();

private:
    struct Made {
        QImage image;
        QRectF world;
        std::vector<ContourLine> lines;
        std::vector<PresenceLine> presence;
        paper::ValueColours colours;
        double interval = 1;
    };
    struct Wanted {
        std::shared_ptr<const Model> model;
        std::optional<std::size_t> unit;
        PlanLook::Surface surface = PlanLook::Surface::None;
        QRectF world;
        std::shared_ptr<const Variogram> dragged;
        std::optional<Frame> grid; ///< the base's own extent and cell size
        paper::ColourScale scale = paper::ColourScale::Earth;
        paper::ClassChoice classes;
        bool operator==(const Wanted&) const = default;
    };
    void want(const PlanTransform&, const PlanLook&);
    void paintPresence(QPainter&, const PlanTransform&) const;
    void paintPresenceMarks(QPainter&, const PlanTransform&) const;
    void start(const Wanted&, double pixelsPerMetre);
    static Made make(const Wanted&, double pixelsPerMetre, const Progress&);

    std::shared_ptr<const ProductSet> m_products;
    std::optional<std::size_t> m_unit;
    Made m_made;
    std::shared_ptr<const Variogram> m_dragged;
    Wanted m_wanted;
    Background<Made> m_work; // last: it uses the above
};

} // namespace fox::app
