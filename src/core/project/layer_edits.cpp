#include "project/layer_edits.h"

#include "base/errors.h"
#include "base/text.h"

#include <fmt/format.h>

namespace fox {

namespace {

template <typename Spec>
using SpecPart = Part<std::vector<Spec>> Project::*;

template <typename Spec>
bool isSpecName(const std::vector<Spec>& specs, const std::string& name) {
    return std::ranges::any_of(specs, [&](const Spec& s) { return lower(s.name) == lower(name); });
}

template <typename Spec>
Edited withSpecs(const Project& project, SpecPart<Spec> where, std::vector<Spec> specs, std::string label) {
    Edited e{project, std::move(label)};
    e.project.*where = part(std::move(specs));
    return e;
}

template <typename Spec>
Spec& specNamed(std::vector<Spec>& specs, const std::string& name, const char* what) {
    const auto at = std::ranges::find(specs, name, &Spec::name);
    if (at == specs.end()) throw Error(fmt::format("There is no {} named {}.", what, name));
    return *at;
}

template <typename Spec>
Edited addSpec(const Project& project, SpecPart<Spec> where, Spec spec, const char* what) {
    auto specs = *(project.*where);
    const auto base = spec.name;
    for (int n = 2; isSpecName(specs, spec.name); ++n) spec.name = fmt::format("{} {}", base, n);
    auto label = fmt::format("Add the {} {}", what, spec.name);
    specs.push_back(std::move(spec));
    return withSpecs(project, where, std::move(specs), std::move(label));
}

template <typename Spec>
Edited removeSpec(const Project& project, SpecPart<Spec> where, const std::string& name, const char* what) {
    auto specs = *(project.*where);
    specNamed(specs, name, what);
    std::erase_if(specs, [&](const Spec& s) { return s.name == name; });
    return withSpecs(project, where, std::move(specs), fmt::format("Remove the {} {}", what, name));
}

template <typename Spec>
Edited changeSpec(const Project& project, SpecPart<Spec> where, const std::string& name, const std::function<void(Spec&)>& change,
                  const std::string& words, const char* what) {
    auto specs = *(project.*where);
    change(specNamed(specs, name, what));
    return withSpecs(project, where, std::move(specs), fmt::format("{}: {}", name, words));
}

constexpr const char *kGrid = "layered grid", *kMesh = "mesh";

} // namespace

Edited addLayeredGrid(const Project& project, LayerSpec spec) {
    if (trimmed(spec.name).empty()) spec.name = "Layers";
    return addSpec(project, &Project::layeredGrids, std::move(spec), kGrid);
}

Edited removeLayeredGrid(const Project& project, const std::string& name) {
    return removeSpec(project, &Project::layeredGrids, name, kGrid);
}

Edited renameLayeredGrid(const Project& project, const std::string& name, const std::string& wanted) {
    const std::string to(trimmed(wanted));
    if (to.empty()) throw Error(fmt::format("The layered grid {} needs a name.", name));
    if (lower(to) != lower(name) && isSpecName(*project.layeredGrids, to))
        throw Error(fmt::format("There is another layered grid named {}.", to));
    return changeSpec<LayerSpec>(
        project, &Project::layeredGrids, name, [&](LayerSpec& s) { s.name = to; }, "rename to " + to, kGrid);
}

Edited changeLayeredGrid(const Project& project, const std::string& name, const std::function<void(LayerSpec&)>& change,
                         const std::string& words) {
    return changeSpec<LayerSpec>(project, &Project::layeredGrids, name, change, words, kGrid);
}

Edited addMesh(const Project& project, MeshSpec spec) {
    if (trimmed(spec.name).empty()) spec.name = "Mesh";
    return addSpec(project, &Project::meshes, std::move(spec), kMesh);
}

Edited removeMesh(const Project& project, const std::string& name) { return removeSpec(project, &Project::meshes, name, kMesh); }

Edited changeMesh(const Project& project, const std::string& name, const std::function<void(MeshSpec&)>& change,
                  const std::string& words) {
    return changeSpec<MeshSpec>(project, &Project::meshes, name, change, words, kMesh);
}

} // namespace fox
