#include "formats/gltf.h"

#include "base/errors.h"

#include <cmath>
#include <cstring>

namespace fox {

namespace {

using nlohmann::json;

// Numbers of the standard.
constexpr int kFloat = 5126, kShort = 5123, kInt = 5125, kVertices = 34962, kIndices = 34963;

/// The binary part and what describes it.
class Buffer {
public:
    template <typename T>
    std::size_t accessor(const std::vector<T>& values, std::size_t count, int component, const char* type, int target,
                         json limits = json::object()) {
        auto described = std::move(limits);
        described["bufferView"] = view(values.data(), values.size() * sizeof(T), target);
        described["componentType"] = component;
        described["count"] = count;
        described["type"] = type;
        m_accessors.push_back(std::move(described));
        return m_accessors.size() - 1;
    }
    std::size_t view(const void* data, std::size_t bytes, int target = 0) {
        m_bytes.resize((m_bytes.size() + 3) / 4 * 4, '\0');
        json described{{"buffer", 0}, {"byteOffset", m_bytes.size()}, {"byteLength", bytes}};
        if (target != 0) described["target"] = target;
        m_bytes.append(static_cast<const char*>(data), bytes);
        m_views.push_back(std::move(described));
        return m_views.size() - 1;
    }
    std::string m_bytes;
    json m_views = json::array(), m_accessors = json::array();
};

/// From what a screen shows (IEC 61966-2-1) to the linear part that the standard wants.
double linear(std::uint8_t shown) {
    const double v = shown / 255.0;
    return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
}

json materialJson(const GltfMaterial& m, json& textures, json& images, Buffer& buffer) {
    json surface{{"metallicFactor", 0.0}, {"roughnessFactor", 1.0}};
    surface["baseColorFactor"] = {linear(m.colour[0]), linear(m.colour[1]), linear(m.colour[2]), m.colour[3] / 255.0};
    if (!m.png.empty()) {
        images.push_back({{"bufferView", buffer.view(m.png.data(), m.png.size())}, {"mimeType", "image/png"}});
        textures.push_back({{"source", images.size() - 1}});
        surface["baseColorTexture"] = {{"index", textures.size() - 1}};
    }
    json out{{"name", m.name}, {"pbrMetallicRoughness", surface}};
    if (m.colour[3] < 255) out["alphaMode"] = "BLEND";
    if (m.twoSided) out["doubleSided"] = true;
    return out;
}

json meshJson(const GltfMesh& mesh, Buffer& buffer) {
    std::array<float, 3> least = mesh.positions.front(), most = least;
    for (const auto& p : mesh.positions)
        for (std::size_t k = 0; k < 3; ++k) least[k] = std::min(least[k], p[k]), most[k] = std::max(most[k], p[k]);
    json attributes;
    attributes["POSITION"] =
        buffer.accessor(mesh.positions, mesh.positions.size(), kFloat, "VEC3", kVertices, {{"min", least}, {"max", most}});
    if (!mesh.texture.empty())
        attributes["TEXCOORD_0"] = buffer.accessor(mesh.texture, mesh.texture.size(), kFloat, "VEC2", kVertices);
    std::size_t indices = 0;
    if (mesh.positions.size() < 65535) { // the largest of each type is kept for other uses by the standard
        const std::vector<std::uint16_t> small(mesh.indices.begin(), mesh.indices.end());
        indices = buffer.accessor(small, small.size(), kShort, "SCALAR", kIndices);
    } else {
        indices = buffer.accessor(mesh.indices, mesh.indices.size(), kInt, "SCALAR", kIndices);
    }
    json primitive{{"attributes", attributes}, {"indices", indices}, {"material", mesh.material}, {"mode", 4}};
    return {{"name", mesh.name}, {"primitives", json::array({primitive})}};
}

void append(std::string& out, std::uint32_t v) { out.append(reinterpret_cast<const char*>(&v), sizeof v); }

} // namespace

std::string glbOf(const GltfScene& scene) {
    Buffer buffer;
    json textures = json::array(), images = json::array(), materials = json::array(), meshes = json::array(),
         nodes = json::array();
    for (const auto& m : scene.materials) materials.push_back(materialJson(m, textures, images, buffer));
    std::vector<std::optional<std::size_t>> placeOf(scene.meshes.size());
    for (std::size_t i = 0; i < scene.meshes.size(); ++i) {
        if (scene.meshes[i].indices.empty()) continue;
        placeOf[i] = meshes.size();
        meshes.push_back(meshJson(scene.meshes[i], buffer));
    }
    for (const auto& n : scene.nodes) {
        json node{{"name", n.name}};
        if (n.mesh && placeOf[*n.mesh]) node["mesh"] = *placeOf[*n.mesh];
        if (!n.children.empty()) node["children"] = n.children;
        if (!n.extras.is_null()) node["extras"] = n.extras;
        nodes.push_back(std::move(node));
    }
    json root{{"asset", {{"version", "2.0"}, {"generator", "Fox Cellar"}}}, {"scene", 0}};
    root["scenes"] = json::array({{{"name", scene.name}, {"nodes", scene.roots}}});
    if (!scene.extras.is_null()) root["scenes"][0]["extras"] = scene.extras;
    const auto put = [&](const char* key, json& list) {
        if (!list.empty()) root[key] = std::move(list);
    };
    put("nodes", nodes), put("meshes", meshes), put("materials", materials), put("textures", textures), put("images", images);
    put("accessors", buffer.m_accessors), put("bufferViews", buffer.m_views);
    buffer.m_bytes.resize((buffer.m_bytes.size() + 3) / 4 * 4, '\0');
    if (!buffer.m_bytes.empty()) root["buffers"] = json::array({{{"byteLength", buffer.m_bytes.size()}}});
    auto text = root.dump(-1, ' ', false, json::error_handler_t::replace);
    text.resize((text.size() + 3) / 4 * 4, ' ');
    const auto total = 12 + 8 + text.size() + (buffer.m_bytes.empty() ? 0 : 8 + buffer.m_bytes.size());
    if (total > 0xFFFFFFFFu) throw Error("The scene is larger than the 4 GiB that binary glTF can hold.");
    std::string out;
    out.reserve(total);
    out += "glTF";
    append(out, 2), append(out, std::uint32_t(total));
    append(out, std::uint32_t(text.size()));
    out += "JSON" + text;
    if (!buffer.m_bytes.empty()) {
        append(out, std::uint32_t(buffer.m_bytes.size()));
        out.append("BIN\0", 4);
        out += buffer.m_bytes;
    }
    return out;
}

} // namespace fox
