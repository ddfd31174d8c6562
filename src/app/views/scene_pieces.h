#pragma once
#include "base/point.h"

#include <QColor>
#include <array>
#include <vector>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkFloatArray.h>
#include <vtkImageData.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkPoints.h>
#include <vtkPolyData.h>
#include <vtkSmartPointer.h>
#include <vtkUnsignedCharArray.h>

class vtkActor;

/// What a scene is put together from, in VTK's own types. For the sources of scenes alone.
namespace fox::app::scene {

/// Quads and lines with one colour each, in metres of the scene.
class Mesh {
public:
    vtkIdType point(double x, double y, double z) { return m_points->InsertNextPoint(x, y, z); }
    void quad(std::array<vtkIdType, 4> corners, const QColor& c) {
        m_polygons->InsertNextCell(4, corners.data());
        addColour(c);
    }
    void quadAt(const std::array<Point3, 4>& c, const QColor& colour) {
        quad({point(c[0].x, c[0].y, c[0].z), point(c[1].x, c[1].y, c[1].z), point(c[2].x, c[2].y, c[2].z),
              point(c[3].x, c[3].y, c[3].z)},
             colour);
    }
    void polygon(const std::vector<vtkIdType>& corners, const QColor& c) {
        m_polygons->InsertNextCell(vtkIdType(corners.size()), corners.data());
        addColour(c);
    }
    void line(vtkIdType a, vtkIdType b, const QColor& c) {
        const vtkIdType ends[] = {a, b};
        m_lines->InsertNextCell(2, ends);
        addColour(c);
    }
    bool empty() const { return m_colours->GetNumberOfTuples() == 0; }
    vtkNew<vtkPolyData> take() {
        vtkNew<vtkPolyData> data;
        data->SetPoints(m_points);
        if (m_polygons->GetNumberOfCells() > 0) data->SetPolys(m_polygons);
        if (m_lines->GetNumberOfCells() > 0) data->SetLines(m_lines);
        data->GetCellData()->SetScalars(m_colours);
        return data;
    }

private:
    void addColour(const QColor& c) {
        if (m_colours->GetNumberOfComponents() != 3) m_colours->SetNumberOfComponents(3);
        const unsigned char rgb[] = {static_cast<unsigned char>(c.red()), static_cast<unsigned char>(c.green()),
                                     static_cast<unsigned char>(c.blue())};
        m_colours->InsertNextTypedTuple(rgb);
    }
    vtkNew<vtkPoints> m_points;
    vtkNew<vtkCellArray> m_polygons, m_lines;
    vtkNew<vtkUnsignedCharArray> m_colours;
};

/// What one actor shows.
struct Piece {
    enum class Kind { Mesh, Heads, Draped, Tiled };
    vtkSmartPointer<vtkPolyData> data;
    Kind kind = Kind::Mesh;
    double opacity = 1;
    bool lit = false;
    vtkSmartPointer<vtkImageData> picture = nullptr; ///< of what is draped, or the tile
    double lineWidth = 1;                            ///< pixels
    bool over = false;                               ///< drawn over what lies in the same plane
};

/// The points that balls stand at.
class Heads {
public:
    Heads() {
        m_radii->SetName("radius");
        m_colours->SetName("colour");
        m_colours->SetNumberOfComponents(3);
    }
    void add(const std::array<double, 3>& at, double radius, const QColor& c) {
        m_points->InsertNextPoint(at.data());
        m_radii->InsertNextValue(float(radius));
        const unsigned char rgb[] = {static_cast<unsigned char>(c.red()), static_cast<unsigned char>(c.green()),
                                     static_cast<unsigned char>(c.blue())};
        m_colours->InsertNextTypedTuple(rgb);
    }
    Piece take() const {
        vtkNew<vtkPolyData> data;
        data->SetPoints(m_points);
        data->GetPointData()->AddArray(m_radii);
        data->GetPointData()->AddArray(m_colours);
        return {data.Get(), Piece::Kind::Heads};
    }

private:
    vtkNew<vtkPoints> m_points;
    vtkNew<vtkFloatArray> m_radii;
    vtkNew<vtkUnsignedCharArray> m_colours;
};

/// What draws a piece.
vtkSmartPointer<vtkActor> actorOf(const Piece&);

} // namespace fox::app::scene
