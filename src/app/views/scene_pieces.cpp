#include "views/scene_pieces.h"

#include <vtkActor.h>
#include <vtkGlyph3DMapper.h>
#include <vtkPolyDataMapper.h>
#include <vtkProperty.h>
#include <vtkSphereSource.h>
#include <vtkTexture.h>

namespace fox::app::scene {

namespace {

void setLight(vtkActor* actor, bool lit) {
    actor->GetProperty()->SetAmbient(lit ? 0.35 : 0.75);
    actor->GetProperty()->SetDiffuse(lit ? 0.7 : 0.3);
    actor->GetProperty()->SetInterpolationToPhong();
}

void putOver(vtkPolyDataMapper* mapper) {
    mapper->SetResolveCoincidentTopologyToPolygonOffset();
    mapper->SetRelativeCoincidentTopologyPolygonOffsetParameters(-1, -1);
}

vtkSmartPointer<vtkActor> meshActor(const Piece& piece) {
    vtkNew<vtkPolyDataMapper> mapper;
    mapper->SetInputData(piece.data);
    if (piece.over) putOver(mapper);
    vtkNew<vtkActor> actor;
    actor->SetMapper(mapper);
    actor->GetProperty()->SetOpacity(piece.opacity);
    setLight(actor, piece.lit);
    actor->GetProperty()->SetLineWidth(float(piece.lineWidth));
    return actor.Get();
}

/// A ball at each point, in its size and colour.
vtkSmartPointer<vtkActor> headsActor(const Piece& piece) {
    vtkNew<vtkSphereSource> ball;
    ball->SetRadius(1);
    constexpr vtkIdType kManyHeads = 500;
    if (piece.data->GetNumberOfPoints() > kManyHeads) ball->SetThetaResolution(5), ball->SetPhiResolution(4);
    ball->Update();
    vtkNew<vtkGlyph3DMapper> mapper;
    mapper->SetInputData(piece.data);
    mapper->SetSourceData(ball->GetOutput());
    mapper->SetScaleModeToScaleByMagnitude();
    mapper->SetScaleArray("radius");
    mapper->SetScalarModeToUsePointFieldData();
    mapper->SelectColorArray("colour");
    vtkNew<vtkActor> actor;
    actor->SetMapper(mapper);
    return actor.Get();
}

vtkSmartPointer<vtkActor> drapedActor(const Piece& piece) {
    vtkNew<vtkTexture> texture;
    texture->SetInputData(piece.picture);
    texture->InterpolateOn();
    vtkNew<vtkPolyDataMapper> mapper;
    mapper->SetInputData(piece.data);
    mapper->ScalarVisibilityOff();
    putOver(mapper);
    vtkNew<vtkActor> actor;
    actor->SetMapper(mapper);
    actor->SetTexture(texture);
    actor->GetProperty()->SetAmbient(0.45);
    actor->GetProperty()->SetDiffuse(0.6);
    return actor.Get();
}

/// The picture again and again.
vtkSmartPointer<vtkActor> tiledActor(const Piece& piece) {
    vtkNew<vtkTexture> texture;
    texture->SetInputData(piece.picture);
    texture->InterpolateOn();
    texture->MipmapOn();
    texture->RepeatOn();
    vtkNew<vtkPolyDataMapper> mapper;
    mapper->SetInputData(piece.data);
    mapper->ScalarVisibilityOff();
    vtkNew<vtkActor> actor;
    actor->SetMapper(mapper);
    actor->SetTexture(texture);
    setLight(actor, piece.lit);
    return actor.Get();
}

} // namespace

vtkSmartPointer<vtkActor> actorOf(const Piece& piece) {
    switch (piece.kind) {
    case Piece::Kind::Mesh: return meshActor(piece);
    case Piece::Kind::Heads: return headsActor(piece);
    case Piece::Kind::Draped: return drapedActor(piece);
    case Piece::Kind::Tiled: return tiledActor(piece);
    }
    return {};
}

} // namespace fox::app::scene
