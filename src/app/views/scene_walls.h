#pragma once
#include "views/block_placing.h"
#include "views/scene_pieces.h"

#include <map>

namespace fox::app::scene {

/// Upright faces that lay units open: the rims of the block, cuts and fences. Units in their colours, with the sign of their
/// ground or without, and over them the values of a block model, if the look asks for these.
class Walls {
public:
    /// All are kept by reference. Requires products.ground.
    Walls(const ProductSet&, const BlockScene::Look&, const BlockPlacing&);

    /// Between two places of the project, with levels at each from the ground down.
    void band(Point2 p, Point2 q, const std::vector<double>& a, const std::vector<double>& b);
    std::vector<Piece> take();

private:
    /// Quads of one unit with its sign, which goes on from each to the next along a wall.
    struct Patterned {
        vtkSmartPointer<vtkPoints> points = vtkSmartPointer<vtkPoints>::New();
        vtkSmartPointer<vtkFloatArray> places = vtkSmartPointer<vtkFloatArray>::New();
        vtkSmartPointer<vtkCellArray> quads = vtkSmartPointer<vtkCellArray>::New();
    };
    using Corners = std::array<Point3, 4>; ///< of the scene
    bool hasSign(std::size_t unit) const;
    void addSigned(std::size_t unit, const Corners&);
    void addValues(Point2 p, Point2 q, const std::vector<double>& a, const std::vector<double>& b);

    const ProductSet& m_products;
    const BlockScene::Look& m_look;
    const BlockPlacing& m_placing;
    Mesh m_plain, m_values;
    std::map<std::size_t, Patterned> m_signed; ///< by unit
    struct BlockValues;
    std::shared_ptr<const BlockValues> m_blocks; ///< null: no values are asked for, or there are none
};

} // namespace fox::app::scene
