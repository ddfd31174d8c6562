#include "views/scene_walls.h"

#include "sheets/unit_style.h"
#include "style/theme.h"
#include "views/paper_image.h"
#include "views/scene_blocks.h"

#include <QImage>

namespace fox::app::scene {

namespace {

using Faces = BlockScene::Look::Faces;

/// A tile of a unit's colour and sign, as a texture.
vtkSmartPointer<vtkImageData> tileOf(const Unit& unit) {
    constexpr double kFiner = 4; // than on a section: faces are looked at from nearby
    paper::Drawing tile{paper::kPatternTile, paper::kPatternTile, {}};
    tile.add("unit", unit.code, paper::FilledArea{{paper::rectangle(0, 0, tile.width, tile.height)}, fillOf(unit)});
    const auto image = imageOf(tile, kFiner).convertToFormat(QImage::Format_RGBA8888).mirrored(); // VTK counts from below
    vtkNew<vtkImageData> out;
    out->SetDimensions(image.width(), image.height(), 1);
    out->AllocateScalars(VTK_UNSIGNED_CHAR, 4);
    auto* to = static_cast<unsigned char*>(out->GetScalarPointer());
    const auto row = std::size_t(image.width()) * 4;
    for (int r = 0; r < image.height(); ++r) std::copy_n(image.constScanLine(r), row, to + std::size_t(r) * row);
    return out.Get();
}

} // namespace

struct Walls::BlockValues {
    const BlockModel* model = nullptr;
    BlockColouring colouring;
};

Walls::Walls(const ProductSet& products, const BlockScene::Look& look, const BlockPlacing& placing)
    : m_products(products), m_look(look), m_placing(placing) {
    if (look.faces != Faces::Values || placing.isExploded()) return;
    const auto* made = shownBlocks(&products, look.faceValues);
    if (made && made->blocks)
        m_blocks =
            std::make_shared<const BlockValues>(BlockValues{made->blocks.get(), colouringOf(*made->blocks, look.faceValues)});
}

bool Walls::hasSign(std::size_t unit) const {
    const auto& u = m_products.project.sequence->units[unit];
    return m_look.faces != Faces::Colours && patternOf(u) != paper::Pattern::None
           && m_placing.fill(unit) == unitColour(u); // what is faded has none
}

void Walls::band(Point2 p, Point2 q, const std::vector<double>& a, const std::vector<double>& b) {
    for (std::size_t u = 0; u + 1 < a.size() && u < m_products.project.sequence->units.size(); ++u) {
        if (std::isnan(a[u]) || std::isnan(b[u]) || std::isnan(a[u + 1]) || std::isnan(b[u + 1])) break;
        if ((a[u] - a[u + 1] < 1e-6 && b[u] - b[u + 1] < 1e-6) || m_placing.isHidden(u)) continue;
        const double up = m_placing.lift(u);
        const Corners corners{m_placing.at({p.x, p.y, a[u] + up}), m_placing.at({q.x, q.y, b[u] + up}),
                              m_placing.at({q.x, q.y, b[u + 1] + up}), m_placing.at({p.x, p.y, a[u + 1] + up})};
        if (hasSign(u))
            addSigned(u, corners);
        else
            m_plain.quadAt(corners, m_placing.fill(u));
    }
    if (m_blocks) addValues(p, q, a, b);
}

void Walls::addSigned(std::size_t unit, const Corners& corners) {
    constexpr double kTiles = 30; // over the width of the block
    const double tile = m_placing.width() / kTiles;
    auto& to = m_signed[unit];
    to.places->SetNumberOfComponents(2);
    const double dx = corners[1].x - corners[0].x, dy = corners[1].y - corners[0].y, length = std::hypot(dx, dy);
    if (length == 0) return;
    const auto first = to.points->GetNumberOfPoints();
    for (const auto& c : corners) {
        to.points->InsertNextPoint(c.x, c.y, c.z);
        const float uv[] = {float((c.x * dx + c.y * dy) / length / tile), float(c.z / tile)};
        to.places->InsertNextTuple(uv);
    }
    const vtkIdType ids[] = {first, first + 1, first + 2, first + 3};
    to.quads->InsertNextCell(4, ids);
}

/// Blocks with a value, as far as they lie between the ground and the lowest base at the middle of the band.
void Walls::addValues(Point2 p, Point2 q, const std::vector<double>& a, const std::vector<double>& b) {
    const double length = distance(p, q);
    for (const auto& on : blocksAlong(*m_blocks->model, {p, q})) {
        const auto at = [&](double chainage) {
            const double t = length > 0 ? chainage / length : 0;
            return Point2{p.x + t * (q.x - p.x), p.y + t * (q.y - p.y)};
        };
        const double t = length > 0 ? (on.from + on.to) / 2 / length : 0, ground = a[0] + t * (b[0] - a[0]);
        const double high = std::min(on.high, ground);
        if (!(high > on.low)) continue;
        const auto from = at(on.from), to = at(on.to);
        m_values.quadAt(Corners{m_placing.at({from.x, from.y, high}), m_placing.at({to.x, to.y, high}),
                                m_placing.at({to.x, to.y, on.low}), m_placing.at({from.x, from.y, on.low})},
                        qColour(m_blocks->colouring.colours.of(m_blocks->colouring.valuesOf(*m_blocks->model)[on.block])));
    }
}

std::vector<Piece> Walls::take() {
    std::vector<Piece> out;
    if (!m_plain.empty()) out.push_back({m_plain.take().Get(), Piece::Kind::Mesh, 1, false});
    for (const auto& [unit, faces] : m_signed) {
        vtkNew<vtkPolyData> data;
        data->SetPoints(faces.points);
        data->SetPolys(faces.quads);
        data->GetPointData()->SetTCoords(faces.places);
        out.push_back({data.Get(), Piece::Kind::Tiled, 1, false, tileOf(m_products.project.sequence->units[unit])});
    }
    if (!m_values.empty()) {
        out.push_back({m_values.take().Get(), Piece::Kind::Mesh, 1, false});
        out.back().over = true;
    }
    return out;
}

} // namespace fox::app::scene
