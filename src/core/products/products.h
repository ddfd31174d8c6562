#pragma once
#include "products/audit_product.h"
#include "products/block_product.h"
#include "products/excavation_product.h"
#include "products/file_products.h"
#include "products/ground_statistics.h"
#include "products/layer_product.h"
#include "products/mesh_product.h"
#include "products/named_surface_product.h"
#include "products/product_cache.h"
#include "products/water_product.h"

#include <mutex>
#include <set>

namespace fox {

/// What is worked out only for those who look at it. Hole findings, terrain, interpreted logs, contacts and the model are
/// always there: nearly everything is made from them.
enum class ProductKind {
    Grids,       ///< ground, raw bases, model and volumes on the cells of the extent
    AllFindings, ///< those of the grids, the ground points and the contacts too: asks for Grids, Outliers and Audit
    Outliers,    ///< ground points that are far off their neighbours
    Contours,
    GroundStatistics,
    Pictures,
    ImportedTables,
    Audit,
    WaterSurfaces, ///< with their grids
    NamedSurfaces, ///< with their grids
    Layers,        ///< all layered grids
    Meshes,        ///< all layered meshes
    Blocks,        ///< all block models
    Excavations,   ///< all excavations
    Sections       ///< all of them
};

/// Which products somebody looks at.
struct Wanted {
    std::set<ProductKind> kinds;
    std::set<std::string> sections; ///< by name

    Wanted() = default;
    Wanted(std::initializer_list<ProductKind> some) : kinds(some) {}
    static Wanted everything();
    bool has(ProductKind kind) const { return kinds.contains(kind); }
    void add(const Wanted&);
    bool covers(const Wanted&) const; ///< all that the other one has
    bool operator==(const Wanted&) const = default;
};

/// What is worked out from a project. Everything is shared and immutable; a part that an edit did not touch
/// is the same pointer as before. What was not wanted is null or empty.
struct ProductSet {
    Project project; ///< the version that it was worked out from
    Wanted wanted;
    std::optional<Frame> frame;
    std::vector<std::shared_ptr<const AgsFile>> agsFiles; ///< as project.files, corrected; null for other formats
    std::shared_ptr<const Findings> holeFindings;
    std::shared_ptr<const Terrain> terrain;
    std::shared_ptr<const Grid> ground;
    double contourInterval = 1; ///< metres
    std::shared_ptr<const std::vector<ContourLine>> contours;
    /// The same with fewer vertices, none off by more than `drawnTolerance` metres: to be looked at as a whole.
    std::shared_ptr<const std::vector<ContourLine>> drawnContours;
    double drawnTolerance = 0;
    std::shared_ptr<const std::vector<Outlier>> outliers; ///< of the terrain's vertices
    std::shared_ptr<const GroundStatistics> groundStatistics;
    std::vector<std::shared_ptr<const Picture>> pictures; ///< as project.pictures; null if its bytes can't be read
    std::shared_ptr<const InterpretedLogs> reading;       ///< points into project.holes
    std::vector<std::shared_ptr<const std::vector<Contact>>> contacts;
    std::shared_ptr<const Model> model;
    std::vector<std::shared_ptr<const Grid>> rawGrids; ///< bases before the rules of the stack
    std::shared_ptr<const ModelGrid> modelGrid;
    std::shared_ptr<const Volumes> volumes;
    double secondsPerCell = 0; ///< to sample all bases, as last measured; 0: not yet
    std::shared_ptr<const Audit> audit;
    std::vector<std::shared_ptr<const WaterProduct>> waterSurfaces;        ///< as project.waterSurfaces
    std::vector<std::shared_ptr<const NamedSurfaceProduct>> namedSurfaces; ///< as project.namedSurfaces
    std::vector<std::shared_ptr<const LayerProduct>> layers;               ///< as project.layeredGrids
    std::vector<std::shared_ptr<const MeshProduct>> meshes;                ///< as project.meshes
    std::vector<std::shared_ptr<const BlockProduct>> blocks;               ///< as project.blockModels
    std::vector<std::shared_ptr<const ExcavationProduct>> excavations;     ///< as project.excavations
    std::vector<std::shared_ptr<const Section>> sections;                  ///< as project.sections; null for those not wanted
    std::shared_ptr<const Findings> findings;                              ///< the worst first; see ProductKind::AllFindings

    /// Whether it has the same project, and the same products of these kinds, as another set: who looks at no more than that
    /// sees no difference.
    bool sameFor(const Wanted&, const ProductSet& other) const;
};

/// Works products out on demand, and remembers them by what they are made from, so that undo costs nothing. One caller at
/// a time; others wait. Each kind of product is in a file of its own; a product asks for those that it is made from.
class Products {
public:
    /// What becomes of block models that take long: see BlocksAtHand.
    enum class Slow { Make, Leave };
    explicit Products(std::size_t budgetInBytes = ProductCache::usualBudget()) : m_cache(budgetInBytes) {}
    /// @throws Stopped; what was finished by then is remembered
    /// `held`: the model of a version like this one, of which automatic bases keep weights and ranges (AutomaticBase::held),
    /// while something is dragged; null: every base is fitted.
    std::shared_ptr<const ProductSet> of(const Project&, const Progress& = {}, const Wanted& = Wanted::everything(),
                                         const std::shared_ptr<const Model>& held = nullptr, Slow = Slow::Make);
    /// The block models of these names, and none but these, are made the next time, however long it takes.
    void setAgain(std::set<std::string> blockModels);
    void setPatience(double seconds); ///< see BlocksAtHand
    /// Nothing of what was made last counts for the next project.
    void forgetBlocks();
    /// See ProductCache::made.
    int made(std::string_view kind) const;
    std::size_t bytes() const;

private:
    ProductCache m_cache;
    double m_secondsPerCell = 0;
    BlocksAtHand m_blocks;
    mutable std::mutex m_mutex;
    std::mutex m_askedMutex; ///< for what follows: asking does not wait for what is being made
    std::set<std::string> m_again;
    bool m_forget = false;
};

} // namespace fox
