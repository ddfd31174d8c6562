#pragma once
// What edits of all kinds of specifications have in common: layered grids, meshes, block models, excavations.
#include "base/errors.h"
#include "base/text.h"
#include "project/edits.h"

#include <fmt/format.h>

namespace fox::spec_edits {

template <typename Spec>
using SpecPart = Part<std::vector<Spec>> Project::*;

template <typename Spec>
bool hasName(const std::vector<Spec>& specs, const std::string& name) {
    return std::ranges::any_of(specs, [&](const Spec& s) { return lower(s.name) == lower(name); });
}

template <typename Spec>
Edited with(const Project& project, SpecPart<Spec> where, std::vector<Spec> specs, std::string label) {
    Edited e{project, std::move(label)};
    e.project.*where = part(std::move(specs));
    return e;
}

/// @throws Error if there is none; `what`: "block model"
template <typename Spec>
Spec& named(std::vector<Spec>& specs, const std::string& name, const char* what) {
    const auto at = std::ranges::find(specs, name, &Spec::name);
    if (at == specs.end()) throw Error(fmt::format("There is no {} named {}.", what, name));
    return *at;
}

/// Under a name that no other has, numbered if it is taken; `otherwise` where it has none.
template <typename Spec>
Edited add(const Project& project, SpecPart<Spec> where, Spec spec, const char* what, const char* otherwise) {
    auto specs = *(project.*where);
    if (trimmed(spec.name).empty()) spec.name = otherwise;
    const auto base = spec.name;
    for (int n = 2; hasName(specs, spec.name); ++n) spec.name = fmt::format("{} {}", base, n);
    auto label = fmt::format("Add the {} {}", what, spec.name);
    specs.push_back(std::move(spec));
    return with(project, where, std::move(specs), std::move(label));
}

template <typename Spec>
Edited remove(const Project& project, SpecPart<Spec> where, const std::string& name, const char* what) {
    auto specs = *(project.*where);
    named(specs, name, what);
    std::erase_if(specs, [&](const Spec& s) { return s.name == name; });
    return with(project, where, std::move(specs), fmt::format("Remove the {} {}", what, name));
}

/// `words` say what is changed. @throws what `change` throws
template <typename Spec>
Edited change(const Project& project, SpecPart<Spec> where, const std::string& name, const std::function<void(Spec&)>& changed,
              const std::string& words, const char* what) {
    auto specs = *(project.*where);
    changed(named(specs, name, what));
    return with(project, where, std::move(specs), fmt::format("{}: {}", name, words));
}

/// @throws Error without a name, or for one that is taken
template <typename Spec>
Edited rename(const Project& project, SpecPart<Spec> where, const std::string& name, const std::string& wanted,
              const char* what) {
    const std::string to(trimmed(wanted));
    if (to.empty()) throw Error(fmt::format("The {} {} needs a name.", what, name));
    if (lower(to) != lower(name) && hasName(*(project.*where), to))
        throw Error(fmt::format("There is another {} named {}.", what, to));
    return change<Spec>(
        project, where, name, [&](Spec& s) { s.name = to; }, "rename to " + to, what);
}

} // namespace fox::spec_edits
