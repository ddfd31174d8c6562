#include "products/products.h"

#include "products/contour_product.h"
#include "products/findings_product.h"
#include "products/grid_products.h"
#include "products/log_products.h"
#include "products/model_product.h"
#include "products/section_product.h"
#include "products/terrain_product.h"

#include <utility>

namespace fox {

Wanted Wanted::everything() {
    using enum ProductKind;
    return {Grids,         AllFindings,   Outliers, Contours, GroundStatistics, Pictures,    ImportedTables, Audit,
            WaterSurfaces, NamedSurfaces, Layers,   Meshes,   Blocks,           Excavations, Sections};
}

void Wanted::add(const Wanted& other) {
    kinds.insert(other.kinds.begin(), other.kinds.end());
    sections.insert(other.sections.begin(), other.sections.end());
}

bool Wanted::covers(const Wanted& other) const {
    return std::ranges::includes(kinds, other.kinds)
           && (has(ProductKind::Sections) || std::ranges::includes(sections, other.sections));
}

bool ProductSet::sameFor(const Wanted& looked, const ProductSet& other) const {
    using enum ProductKind;
    const auto same = [&](ProductKind kind, auto... part) { return !looked.has(kind) || ((this->*part == other.*part) && ...); };
    using Set = ProductSet;
    if (!sameVersion(project, other.project) || model != other.model || terrain != other.terrain || reading != other.reading)
        return false;
    for (std::size_t i = 0; i < sections.size(); ++i)
        if ((looked.has(Sections) || looked.sections.contains((*project.sections)[i].name)) && sections[i] != other.sections[i])
            return false;
    return same(Grids, &Set::ground, &Set::rawGrids, &Set::modelGrid, &Set::volumes, &Set::secondsPerCell)
           && same(AllFindings, &Set::findings) && same(Outliers, &Set::outliers)
           && same(Contours, &Set::contours, &Set::drawnContours) && same(GroundStatistics, &Set::groundStatistics)
           && same(Pictures, &Set::pictures) && same(ImportedTables, &Set::agsFiles) && same(Audit, &Set::audit)
           && same(WaterSurfaces, &Set::waterSurfaces) && same(NamedSurfaces, &Set::namedSurfaces) && same(Layers, &Set::layers)
           && same(Meshes, &Set::meshes) && same(Blocks, &Set::blocks) && same(Excavations, &Set::excavations);
}

std::shared_ptr<const ProductSet> Products::of(const Project& project, const Progress& progress, const Wanted& wanted,
                                               const std::shared_ptr<const Model>& held, Slow slow) {
    const std::scoped_lock lock(m_mutex);
    {
        const std::scoped_lock asked(m_askedMutex);
        if (std::exchange(m_forget, false)) m_blocks.last.clear();
        m_blocks.again = m_again;
    }
    using enum ProductKind;
    ProductSet set;
    set.project = project;
    set.wanted = wanted;
    set.frame = frameOf(project);
    Making making(set.project, m_cache, progress, held);
    if (slow == Slow::Leave) making.blocksAtHand = &m_blocks;
    set.holeFindings = holeFindings(making);
    set.reading = interpretedLogs(making);
    set.terrain = terrainProduct(making)->terrain;
    set.contacts = contacts(making);
    set.model = modelProduct(making);
    for (const auto& s : *project.sections)
        set.sections.push_back(wanted.has(Sections) || wanted.sections.contains(s.name) ? sectionProduct(making, s) : nullptr);
    if (wanted.has(GroundStatistics)) set.groundStatistics = groundStatistics(making);
    if (wanted.has(Outliers) || wanted.has(AllFindings)) set.outliers = groundOutliers(making);
    if (wanted.has(ImportedTables)) set.agsFiles = importedTables(making);
    if (wanted.has(Pictures)) set.pictures = pictures(making);
    if (wanted.has(Contours)) {
        if (const auto made = contourProduct(making)) {
            set.contourInterval = made->interval;
            set.contours = made->lines, set.drawnContours = made->drawn;
            set.drawnTolerance = made->tolerance;
        }
    }
    // cells and prisms are drawn over the ground alone
    if (wanted.has(Grids) || wanted.has(AllFindings) || wanted.has(Layers) || wanted.has(Meshes)) set.ground = groundGrid(making);
    if (wanted.has(Grids) || wanted.has(AllFindings)) {
        if (const auto made = gridProducts(making)) {
            set.rawGrids = made->raw, set.modelGrid = made->model, set.volumes = made->volumes;
            if (made->secondsPerCell > 0) m_secondsPerCell = made->secondsPerCell;
        }
    }
    if (wanted.has(WaterSurfaces))
        for (const auto& w : *project.waterSurfaces) set.waterSurfaces.push_back(waterProduct(making, w));
    if (wanted.has(NamedSurfaces))
        for (const auto& s : *project.namedSurfaces) set.namedSurfaces.push_back(namedSurfaceProduct(making, s));
    if (wanted.has(Layers))
        for (const auto& l : *project.layeredGrids) set.layers.push_back(layerProduct(making, l));
    if (wanted.has(Meshes))
        for (const auto& m : *project.meshes) set.meshes.push_back(meshProduct(making, m));
    if (wanted.has(Blocks))
        for (const auto& b : *project.blockModels) set.blocks.push_back(blockProduct(making, b));
    if (wanted.has(Blocks))
        std::erase_if(m_blocks.last, [&](const auto& one) {
            return std::ranges::find(*project.blockModels, one.first, &BlockSpec::name) == project.blockModels->end();
        });
    for (const auto& b : set.blocks)
        if (!b->outOfDate) {
            m_blocks.last[b->spec.name] = b;
            const std::scoped_lock asked(m_askedMutex);
            if (m_blocks.again.contains(b->spec.name)) m_again.erase(b->spec.name);
        }
    if (wanted.has(Excavations))
        for (const auto& e : *project.excavations) set.excavations.push_back(excavationProduct(making, e));
    set.secondsPerCell = m_secondsPerCell;
    if (wanted.has(Audit)) set.audit = auditProduct(making);
    set.findings = findingsProduct(making, wanted.has(AllFindings) ? FindingsOf::Everything : FindingsOf::ModelOnly);
    progress.report(1, "Up to date");
    return std::make_shared<const ProductSet>(std::move(set));
}

void Products::setAgain(std::set<std::string> blockModels) {
    const std::scoped_lock lock(m_askedMutex);
    m_again = std::move(blockModels);
}

void Products::setPatience(double seconds) {
    const std::scoped_lock lock(m_mutex);
    m_blocks.patience = seconds;
}

void Products::forgetBlocks() {
    const std::scoped_lock lock(m_askedMutex);
    m_forget = true;
    m_again.clear();
}

int Products::made(std::string_view kind) const {
    const std::scoped_lock lock(m_mutex);
    return m_cache.made(kind);
}

std::size_t Products::bytes() const {
    const std::scoped_lock lock(m_mutex);
    return m_cache.bytes();
}

} // namespace fox
