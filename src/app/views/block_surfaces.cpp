#include "views/block_surfaces.h"

#include "model/surface_maps.h"
#include "style/theme.h"
#include "style/words.h"

#include <numeric>

namespace fox::app {

namespace {

using Of = SceneSurface::Of;
using Colouring = SceneSurface::Colouring;

constexpr std::size_t kMostCells = 24000, kCoarseCells = 5000;

/// Every so many cells of a grid, its last ones too.
Grid thinned(const Grid& grid, std::size_t most) {
    const auto& f = grid.frame;
    const int step = std::max(1, int(std::ceil(std::sqrt(double(f.cells()) / double(most)))));
    if (step == 1) return grid;
    Grid out(Frame{f.xmin, f.ymin, f.xmax, f.ymax, f.cell * step});
    for (int r = 0; r < out.frame.rows(); ++r)
        for (int c = 0; c < out.frame.columns(); ++c) {
            const auto p = out.frame.centre(c, r);
            const int column = std::clamp(int((p.x - f.xmin) / f.cell), 0, f.columns() - 1),
                      row = std::clamp(int((f.ymax - p.y) / f.cell), 0, f.rows() - 1);
            out.at(c, r) = grid.at(column, row);
        }
    return out;
}

/// A base or top of a unit where it has some thickness.
Grid whereItIs(const ModelGrid& model, std::size_t unit, bool isTop) {
    Grid out(model.ground.frame);
    for (std::size_t i = 0; i < out.values.size(); ++i) {
        const double top = model.top(unit).values[i], base = model.base(unit, i);
        out.values[i] = top - base > 1e-6 ? (isTop ? top : base) : kNoValue;
    }
    return out;
}

Grid thicknessOf(const ModelGrid& model, std::size_t unit) {
    Grid out(model.ground.frame);
    for (std::size_t i = 0; i < out.values.size(); ++i) out.values[i] = model.top(unit).values[i] - model.base(unit, i);
    return out;
}

template <typename Surfaces, typename Products>
const Grid* gridNamed(const std::string& name, const Surfaces& surfaces, const Products& products) {
    for (std::size_t i = 0; i < surfaces.size() && i < products.size(); ++i)
        if (surfaces[i].name == name && products[i]) return products[i]->levels.get();
    return nullptr;
}

} // namespace

QColor DrawnSurface::colourAt(int c, int r) const {
    if (values.values.empty()) return plain;
    const double v = values.at(c, r);
    return std::isnan(v) ? plain : qColour(colours.of(v));
}

DrawnSurface sceneSurface(const SceneSurface& surface, const ProductSet& products, bool coarse, const Progress& progress) {
    DrawnSurface out;
    out.plain = QColor("#9fb389");
    const auto most = coarse ? kCoarseCells : kMostCells;
    const auto& p = products.project;
    const auto unit = p.sequence->index(surface.key);
    const bool isUnits = surface.of == Of::Base || surface.of == Of::Top;
    if (isUnits) {
        if (!unit || !products.modelGrid || *unit >= products.modelGrid->unitsWithBase()) return out;
        out.levels = thinned(whereItIs(*products.modelGrid, *unit, surface.of == Of::Top), most);
        out.plain = unitColour(p.sequence->units[*unit]);
    } else {
        const Grid* grid = surface.of == Of::Ground  ? products.ground.get()
                           : surface.of == Of::Named ? gridNamed(surface.key, *p.namedSurfaces, products.namedSurfaces)
                                                     : gridNamed(surface.key, *p.waterSurfaces, products.waterSurfaces);
        if (!grid) return out;
        out.levels = thinned(*grid, most);
        if (surface.of == Of::Named) out.plain = QColor("#b48aa8");
        if (surface.of == Of::Water) out.plain = QColor("#7fa9c4");
    }
    progress.check();
    if (surface.colouring == Colouring::Level) out.values = out.levels;
    if (surface.colouring == Colouring::Thickness && isUnits) out.values = thinned(thicknessOf(*products.modelGrid, *unit), most);
    if (surface.colouring == Colouring::Deviation && isUnits && *unit < products.model->bases.size())
        out.values = mapOf(*products.model, *unit, SurfaceValue::Uncertainty, out.levels.frame, progress).values;
    if (!out.values.values.empty()) {
        out.colours = {paper::ColourScale::DeepLight, kNoValue, kNoValue, {}};
        for (std::size_t i = 0; i < out.values.values.size(); ++i)
            if (!std::isnan(out.levels.values[i]))
                out.colours.low = std::fmin(out.colours.low, out.values.values[i]),
                out.colours.high = std::fmax(out.colours.high, out.values.values[i]);
    }
    const auto has = [](double v) { return !std::isnan(v); };
    if (surface.contours && std::ranges::any_of(out.levels.values, has))
        out.contours = contoursOf(out.levels, contourInterval(out.levels));
    return out;
}

std::vector<std::pair<SceneSurface, QString>> sceneSurfaces(const Project& project) {
    std::vector<std::pair<SceneSurface, QString>> out;
    out.push_back({{Of::Ground, ""}, Selection::tr("Ground")});
    const auto& units = project.sequence->units;
    for (std::size_t u = 0; u < units.size(); ++u) {
        if (u > 0) out.push_back({{Of::Top, units[u].code}, Selection::tr("Top of %1").arg(qt(units[u].name))});
        if (u + 1 < units.size() || units[u].floor)
            out.push_back({{Of::Base, units[u].code}, Selection::tr("Base of %1").arg(qt(units[u].name))});
    }
    for (const auto& s : *project.namedSurfaces) out.push_back({{Of::Named, s.name}, qt(s.name)});
    for (const auto& s : *project.waterSurfaces) out.push_back({{Of::Water, s.name}, qt(s.name)});
    return out;
}

} // namespace fox::app
