#pragma once
#include "layers/layer_stack.h"
#include "layers/plan_mesh.h"

namespace fox {

/// All that a layered mesh is made from.
struct MeshInputs {
    std::shared_ptr<const Model> model;
    MeshSpec spec;
    PlanMeshInputs plan;
    Field top;
    std::vector<Field> bottoms;          ///< a rule of the specification; of those without `bottom` nothing
    std::map<std::string, Field> values; ///< as the specification has them
};

/// Prisms for finite elements: each triangle of the plan once a layer.
struct LayeredMesh {
    PlanMesh plan;
    std::vector<std::string> layers; ///< names, from the top
    /// A node of the plan and a surface, surface by surface from the top: layers + 1 of them, none above the one before.
    std::vector<double> levels;
    /// An element, layer by layer, in each as the triangles of the plan.
    std::vector<std::int16_t> unit; ///< at its middle, by its place in the sequence; -1: none
    /// Of each unit the share of the elements' thickness at their middles, 0 to 1, an element. Only units that are somewhere.
    std::map<std::size_t, std::vector<double>> shares;
    std::map<std::string, std::vector<double>> values; ///< by CellValueKind::key, an element; kNoValue where there is none
    struct Faces {
        MeshFaces asked;
        std::vector<std::array<int, 3>> faces; ///< layer from 0, and the two nodes of the plan
    };
    std::vector<Faces> faces;
    std::size_t thin = 0; ///< how many layers at nodes were thinner than asked for, before surfaces were moved apart

    std::size_t nodes() const { return plan.nodes.size() * (layers.size() + 1); }
    std::size_t elements() const { return plan.triangles.size() * layers.size(); }
    double level(std::size_t surface, int node) const { return levels[surface * plan.nodes.size() + std::size_t(node)]; }
    /// The upper three nodes of an element anticlockwise from above, then those under them, counted through all surfaces.
    std::array<std::size_t, 6> nodesOf(std::size_t element) const;
    double volume(std::size_t layer) const; ///< cubic metres
    std::size_t inverted() const;           ///< prisms with a corner where the upper node is not above the lower one
};

/// Levels are those of the model at the nodes; surfaces that lie closer than `thin` are moved apart, from the top down.
/// @throws Error as makePlanMesh and LayerStack do; for nodes outside the ground or without a level; for faces along a line that
/// has no edges or through layers that are not there; Stopped
LayeredMesh makeLayeredMesh(const MeshInputs&, const Progress& = {});

} // namespace fox
