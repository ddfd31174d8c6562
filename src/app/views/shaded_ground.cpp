#include "views/shaded_ground.h"

#include "ground/shading.h"
#include "style/theme.h"

namespace fox::app {

ShadedGround::ShadedGround(QObject* parent) : QObject(parent), m_work(this) {}

void ShadedGround::want(std::shared_ptr<const Terrain> terrain, PlanLook::Shading shading, const QRectF& world,
                        double pixelsPerMetre) {
    if (terrain == m_terrain && shading == m_shading && world == m_world) return;
    if (terrain != m_terrain || shading != m_shading) m_made.image = {}; // of other ground: not even for a moment
    m_terrain = terrain, m_shading = shading, m_world = world;
    if (!terrain || terrain->empty() || shading == PlanLook::Shading::None) return;
    m_work.start([terrain, shading, world,
                  pixelsPerMetre](const Progress& progress) { return make(*terrain, shading, world, pixelsPerMetre, progress); },
                 [this](Made made) {
                     m_made = std::move(made);
                     emit changed();
                 },
                 [](const QString&) {});
}

ShadedGround::Made ShadedGround::make(const Terrain& terrain, PlanLook::Shading shading, const QRectF& world,
                                      double pixelsPerMetre, const Progress& progress) {
    constexpr double kPixels = 2; // on the screen, a cell
    const Frame frame{world.left(), world.top(), world.right(), world.bottom(), kPixels / pixelsPerMetre};
    auto values = terrain.sampled(frame, progress);
    using Shading = PlanLook::Shading;
    const auto light = lightOn(values, 315, 40, 4);
    if (shading == Shading::Slope) values = slopeOf(values);
    Made made{QImage(frame.columns(), frame.rows(), QImage::Format_ARGB32_Premultiplied), world, kNoValue, kNoValue};
    made.world.setBottom(frame.ymax), made.world.setTop(frame.ymax - frame.rows() * frame.cell);
    made.world.setRight(frame.xmin + frame.columns() * frame.cell);
    for (const double v : values.values) made.low = std::fmin(made.low, v), made.high = std::fmax(made.high, v);
    if (shading == Shading::Slope) made.low = 0;
    const double span = made.high > made.low ? made.high - made.low : 1;
    for (int r = 0; r < frame.rows(); ++r) {
        auto* line = reinterpret_cast<QRgb*>(made.image.scanLine(r));
        for (int c = 0; c < frame.columns(); ++c) {
            const double v = values.at(c, r), l = light.at(c, r);
            if (std::isnan(v)) {
                line[c] = 0;
                continue;
            }
            QColor base = shading == Shading::Light ? QColor(240, 236, 226) : valueColour((v - made.low) / span);
            const double dim = shading == Shading::Slope ? 1 : std::isnan(l) ? 1 : 0.45 + 0.8 * l;
            const auto channel = [&](int k) { return int(std::clamp(k * dim, 0.0, 255.0)); };
            line[c] = qRgb(channel(base.red()), channel(base.green()), channel(base.blue()));
        }
    }
    return made;
}

} // namespace fox::app
