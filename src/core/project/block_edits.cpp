#include "project/block_edits.h"

#include "project/spec_edits.h"

namespace fox {

namespace {

constexpr const char *kBlocks = "block model", *kDig = "excavation";

} // namespace

Edited addBlockModel(const Project& project, BlockSpec spec) {
    return spec_edits::add(project, &Project::blockModels, std::move(spec), kBlocks, "Blocks");
}
Edited removeBlockModel(const Project& project, const std::string& name) {
    return spec_edits::remove(project, &Project::blockModels, name, kBlocks);
}
Edited renameBlockModel(const Project& project, const std::string& name, const std::string& wanted) {
    auto e = spec_edits::rename(project, &Project::blockModels, name, wanted, kBlocks);
    auto digs = *project.excavations;
    bool some = false;
    for (auto& d : digs)
        if (d.wanted == ExcavationSpec::Wanted::Blocks && d.blocks == name) d.blocks = std::string(trimmed(wanted)), some = true;
    if (some) e.project.excavations = part(std::move(digs));
    return e;
}
Edited changeBlockModel(const Project& project, const std::string& name, const std::function<void(BlockSpec&)>& change,
                        const std::string& words) {
    return spec_edits::change(project, &Project::blockModels, name, change, words, kBlocks);
}

Edited addExcavation(const Project& project, ExcavationSpec spec) {
    return spec_edits::add(project, &Project::excavations, std::move(spec), kDig, "Excavation");
}
Edited removeExcavation(const Project& project, const std::string& name) {
    return spec_edits::remove(project, &Project::excavations, name, kDig);
}
Edited renameExcavation(const Project& project, const std::string& name, const std::string& wanted) {
    return spec_edits::rename(project, &Project::excavations, name, wanted, kDig);
}
Edited changeExcavation(const Project& project, const std::string& name, const std::function<void(ExcavationSpec&)>& change,
                        const std::string& words) {
    return spec_edits::change(project, &Project::excavations, name, change, words, kDig);
}

} // namespace fox
