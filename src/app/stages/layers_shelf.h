#pragma once
#include "stages/shelf.h"

class QComboBox;
class QPushButton;

namespace fox::app {

/// Layered grids and meshes: which there are, how the chosen one is made, what its checks found.
class LayersShelf : public Shelf {
    Q_OBJECT
public:
    LayersShelf(Selection*, QWidget* parent);
    Wanted wanted() const override { return {ProductKind::Layers, ProductKind::Meshes}; }

protected:
    void fillBody() override;
    void fillCard() override;

private:
    const LayerProduct* chosenGrid() const;
    const MeshProduct* chosenMesh() const;
    void choose(const std::string& grid, const std::string& mesh);
    void fillList();
    void fillGrid(const LayerProduct&);
    void fillFiner(const LayerSpec&);
    void fillThin(const LayerSpec&);
    void fillChecks(const LayeredGrid&);
    void fillAnswers(const LayerProduct&);
    template <typename Spec>
    void fillSources(const Spec&, const std::function<void(const std::function<void(Spec&)>&)>& change);
    void fillMesh(const MeshProduct&);
    void fillTyped(const LayerSpec&);
    void fillMeshInput(const MeshSpec&);
    void fillFaces(const MeshSpec&, int layers);
    void addGrid();
    void addMeshOfSite();
    Polygon2 proposedOutline() const; ///< of a mesh
    void changeGrid(const std::string& grid, const std::function<void(LayerSpec&)>&, const std::string& words);
    void changeMesh(const std::string& mesh, const std::function<void(MeshSpec&)>&, const std::string& words);
    std::optional<std::pair<std::string, Point2>> chosenHole() const; ///< its name and place

    QPushButton* m_write; ///< works only if there is something to write
};

} // namespace fox::app
