#include "stages/stages.h"

#include "project/finding_rules.h"
#include "stages/blocks_shelf.h"
#include "stages/ground_shelf.h"
#include "stages/holes_shelf.h"
#include "stages/layers_shelf.h"
#include "stages/model_shelf.h"
#include "stages/sequence_shelf.h"
#include "stages/sheets_shelf.h"
#include "stages/site_shelf.h"
#include "style/theme.h"
#include "style/words.h"

#include <QCoreApplication>
#include <set>

namespace fox::app {

namespace {

/// With the findings of a stage.
StageFigure figureOf(const QString& words, const ProductSet& p, fox::Stage stage) {
    std::size_t errors = 0, warnings = 0;
    for (const auto& f : *p.findings) {
        if (stageOf(f.rule) != stage) continue;
        errors += f.severity == Severity::Error ? f.count : 0;
        warnings += f.severity == Severity::Warning ? f.count : 0;
    }
    if (errors > 0) return {words, Severity::Error, int(errors)};
    if (warnings > 0) return {words, Severity::Warning, int(warnings)};
    return {words, Severity::Note, 0};
}

template <typename T>
Shelf* make(Selection* s, QWidget* parent) {
    return new T(s, parent);
}

QString say(const char* words) { return QCoreApplication::translate("fox::app::Shelf", words); }

} // namespace

const std::vector<Stage>& stages() {
    static const std::vector<Stage> kStages{
        {"site", "Site", "Topsoil", make<SiteShelf>,
         [](const ProductSet& p) { return StageFigure{p.frame ? extentInWords(*p.frame) : say("empty")}; }},
        {"holes", "Holes", "Alluvium", make<HolesShelf>,
         [](const ProductSet& p) { return figureOf(QString::number(p.project.holes->size()), p, fox::Stage::Holes); }},
        {"ground", "Ground", "Sand", make<GroundShelf>,
         [](const ProductSet& p) {
             const auto& g = *p.project.ground;
             return figureOf(counted(qint64(g.points.size() + g.lines.size() + g.rasters.size()), "source"), p,
                             fox::Stage::Ground);
         }},
        {"sequence", "Sequence", "River Gravel", make<SequenceShelf>,
         [](const ProductSet& p) {
             return figureOf(counted(qint64(p.project.sequence->units.size()), "unit"), p, fox::Stage::Sequence);
         }},
        {"model", "Model", "Till", make<ModelShelf>,
         [](const ProductSet& p) {
             double all = 0;
             if (p.volumes)
                 for (const auto& u : p.volumes->units) all += u.volume;
             return figureOf(p.volumes ? volume(all) : say("none yet"), p, fox::Stage::Model);
         }},
        {"sheets", "Sheets", "Limestone", make<SheetsShelf>,
         [](const ProductSet& p) { return StageFigure{counted(qint64(p.project.sheets->size()), "sheet")}; }},
        {"layers", "Layers and meshes", "Till", make<LayersShelf>,
         [](const ProductSet& p) {
             return StageFigure{
                 counted(qint64(p.project.layeredGrids->size() + p.project.meshes->size()), "grid or mesh", "grids and meshes")};
         },
         "model"},
        {"blocks", "Blocks and excavations", "Till", make<BlocksShelf>,
         [](const ProductSet& p) {
             return StageFigure{counted(qint64(p.project.blockModels->size() + p.project.excavations->size()),
                                        "model or excavation", "models and excavations")};
         },
         "model"}};
    return kStages;
}

} // namespace fox::app
