#include "products/mesh_product.h"

#include "base/errors.h"
#include "formats/vector.h"
#include "ground/survey.h"
#include "products/layer_product.h"
#include "products/model_product.h"

#include <fmt/format.h>

namespace fox {

namespace {

std::vector<std::string> filesOf(const MeshSpec& spec) {
    auto out = sourceFiles(spec.top, spec.layers, spec.values);
    out.push_back(spec.outline.file);
    for (const auto& i : spec.islands) out.push_back(i.file);
    for (const auto& l : spec.lines) out.push_back(l.file);
    std::erase(out, "");
    return out;
}

/// An outline with the islands that are named beside it.
Area outlineOf(const MeshSpec& spec) {
    std::vector<Polygon2> islands;
    for (const auto& i : spec.islands) {
        const auto area = areaOf(i.file, i.ring);
        islands.insert(islands.end(), area.rings().begin(), area.rings().end());
    }
    std::vector<RingWithHoles> shapes = nested(areaOf(spec.outline.file, spec.outline.ring).rings());
    for (auto& s : shapes) s.holes.insert(s.holes.end(), islands.begin(), islands.end());
    return Area(std::span<const RingWithHoles>(shapes));
}

std::vector<PlanMeshInputs::Line> linesOf(const MeshSpec& spec) {
    std::vector<PlanMeshInputs::Line> out;
    for (const auto& l : spec.lines) {
        if (l.file.empty()) {
            out.push_back({l.name, l.line, l.edge});
            continue;
        }
        const auto before = out.size();
        for (const auto& layer : readVector(l.file))
            for (const auto& feature : layer.features)
                for (const auto& part : feature.parts)
                    if (part.size() > 1) out.push_back({l.name, planOf(part), l.edge});
        if (out.size() == before) throw FileError(fmt::format("{} has no lines.", l.file));
    }
    return out;
}

MeshInputs inputsOf(const Making& making, const MeshSpec& spec, Findings& findings) {
    MeshInputs in;
    in.model = modelProduct(making);
    if (!in.model || in.model->sequence->units.empty() || making.project.holes->empty())
        throw Error("The project has no holes or no sequence, so it has no model to make a mesh of.");
    in.spec = spec;
    in.plan = {outlineOf(spec), linesOf(spec), spec.places, spec.edge, spec.growth, spec.angle};
    in.top = fieldOf(making, spec.top, findings);
    for (const auto& layer : spec.layers) in.bottoms.push_back(layer.bottom ? fieldOf(making, *layer.bottom, findings) : Field{});
    for (const auto& [key, source] : spec.values) in.values[key] = fieldOf(making, source, findings);
    return in;
}

std::size_t bytesOfMesh(const LayeredMesh& m) {
    return sizeof(m) + bytesOf(m.plan.nodes) + bytesOf(m.plan.triangles) + bytesOf(m.levels)
           + m.elements() * (2 + 8 * (m.shares.size() + m.values.size()));
}

} // namespace

std::shared_ptr<const MeshProduct> meshProduct(const Making& making, const MeshSpec& spec) {
    return making.cache.get(
        "mesh",
        {modelProduct(making), making.project.namedSurfaces, making.project.waterSurfaces, making.project.site,
         KeyPart::value(spec), KeyPart::value(stampsOf(filesOf(spec)))},
        [&] {
            MeshProduct out{spec, nullptr, "", {}};
            try {
                const auto in = inputsOf(making, spec, out.findings);
                making.progress.report(0.9, "Mesh " + spec.name);
                out.mesh = std::make_shared<const LayeredMesh>(makeLayeredMesh(in, making.progress.silent()));
            } catch (const Stopped&) {
                throw;
            } catch (const std::exception& e) {
                out.problem = e.what();
            }
            return out;
        },
        [](const MeshProduct& p) { return sizeof(p) + (p.mesh ? bytesOfMesh(*p.mesh) : 0); });
}

} // namespace fox
