#pragma once
#include <array>
#include <cstdint>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>
#include <vector>

namespace fox {

/// How a mesh looks.
struct GltfMaterial {
    std::string name;
    std::array<std::uint8_t, 4> colour{255, 255, 255, 255}; ///< red, green, blue, opacity, as a screen shows them
    std::string png = {};                                   ///< a picture laid over it by texture coordinates; empty: none
    bool twoSided = false;
};

/// Triangles, counter-clockwise seen from outside.
struct GltfMesh {
    std::string name;
    std::vector<std::array<float, 3>> positions;    ///< metres: x, y up, z
    std::vector<std::array<float, 2>> texture = {}; ///< u to the right, v down from the picture's upper left corner; or empty
    std::vector<std::uint32_t> indices;             ///< three a triangle
    std::size_t material = 0;
};

/// A named thing of the scene; the meshes that it shows, and what else is known of it.
struct GltfNode {
    std::string name;
    std::optional<std::size_t> mesh = {};
    std::vector<std::size_t> children = {};
    nlohmann::json extras = {};
};

struct GltfScene {
    std::string name;
    std::vector<GltfMaterial> materials;
    std::vector<GltfMesh> meshes;
    std::vector<GltfNode> nodes;
    std::vector<std::size_t> roots; ///< nodes that stand in no other
    nlohmann::json extras = {};
};

/// A scene as binary glTF 2.0 (ISO/IEC 12113:2022), with everything inside: little-endian, indices of two bytes where they
/// fit. Meshes without triangles are left out with the nodes' reference to them.
/// @throws Error if it would be larger than the 4 GiB that the format allows
std::string glbOf(const GltfScene&);

} // namespace fox
