#pragma once
#include "products/products.h"
#include "views/background.h"
#include "views/plan_look.h"

#include <QImage>
#include <QRectF>

namespace fox::app {

/// A picture of the ground for a part of the plan, coloured by level, slope or light. It is made beside the window; until
/// a new one is there the last one stays.
class ShadedGround : public QObject {
    Q_OBJECT
public:
    explicit ShadedGround(QObject* parent);
    /// Asks for a picture if there is none yet of just this.
    void want(std::shared_ptr<const Terrain>, PlanLook::Shading, const QRectF& world, double pixelsPerMetre);
    const QImage& image() const { return m_made.image; }
    const QRectF& world() const { return m_made.world; } ///< what it shows; y up
    double low() const { return m_made.low; }            ///< of what is coloured: metres or degrees
    double high() const { return m_made.high; }
    bool busy() const { return m_work.busy(); }

signals:
    void changed();

private:
    struct Made {
        QImage image;
        QRectF world;
        double low = 0, high = 1;
    };
    static Made make(const Terrain&, PlanLook::Shading, const QRectF& world, double pixelsPerMetre, const Progress&);

    Made m_made;
    std::shared_ptr<const Terrain> m_terrain;
    PlanLook::Shading m_shading = PlanLook::Shading::None;
    QRectF m_world;
    Background<Made> m_work; // last: it uses the above
};

} // namespace fox::app
