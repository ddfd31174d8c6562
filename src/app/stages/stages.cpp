#include "stages/stages.h"

#include "stages/ground_shelf.h"
#include "stages/holes_shelf.h"
#include "stages/model_shelf.h"
#include "stages/sequence_shelf.h"
#include "stages/site_shelf.h"
#include "style/theme.h"

#include <QCoreApplication>
#include <QPushButton>
#include <set>

namespace fox::app {

namespace {

/// Findings whose rule begins with one of the words.
StageFigure figureOf(const QString& words, const ProductSet& p, std::initializer_list<const char*> rules) {
    StageFigure figure{words, Severity::Note, 0};
    int errors = 0, warnings = 0;
    for (const auto& f : *p.findings)
        if (std::ranges::any_of(rules, [&](const char* r) { return f.rule.starts_with(r); }))
            errors += f.severity == Severity::Error, warnings += f.severity == Severity::Warning;
    if (errors > 0) return {words, Severity::Error, errors};
    if (warnings > 0) return {words, Severity::Warning, warnings};
    return figure;
}

// --- Sheets

class SheetsShelf : public Shelf {
public:
    SheetsShelf(Selection* s, QWidget* parent) : Shelf(tr("Sheets"), s, parent) {
        connect(mainButton(tr("Export…"), tr("Surfaces and holes as files")), &QPushButton::clicked, this,
                [this] { emit actionAsked(ExportFiles{}); });
    }

protected:
    void fillBody() override {
        words(tr("This version lays out no printed sheets (logs, sections and plans with a title block) yet. Surfaces and holes "
                 "can be handed on as files: press Export."));
        heading(tr("Sections to hand on"));
        const auto& lines = *products()->project.sections;
        for (std::size_t i = 0; i < lines.size(); ++i)
            row(
                tr("%1 to %1′").arg(QString::fromStdString(lines[i].name)), tr("%1 m").arg(lengthOf(lines[i].line), 0, 'f', 0),
                [this, i] { selection()->setSection(int(i)); }, selection()->section() == int(i));
    }
};

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
         [](const ProductSet& p) {
             return figureOf(QString::number(p.project.holes->size()), p,
                             {"AGS",     "FC-PLACE",  "FC-SWAPPED", "FC-FAR",    "FC-TWIN",  "FC-LEVEL",
                              "FC-ZERO", "FC-UPSIDE", "FC-OVERLAP", "FC-GAP",    "FC-BELOW", "FC-FINAL",
                              "FC-FEET", "FC-UNIT",   "FC-LOG",     "FC-DEPTH",  "FC-PATH",  "FC-OFF",
                              "FC-FORM", "FC-LAS",    "FC-TABLE",   "FC-SYSTEM", "FC-LOCAL", "FC-CORRECTION"});
         }},
        {"ground", "Ground", "Sand", make<GroundShelf>,
         [](const ProductSet& p) {
             const auto& g = *p.project.ground;
             return figureOf(say("%1 sources").arg(g.points.size() + g.lines.size() + g.rasters.size()), p,
                             {"FC-SURVEY", "FC-CROSSING", "FC-TWO", "FC-NO-LEVEL", "FC-POINT-OFF", "FC-OUTLINE", "FC-MENDED",
                              "FC-LINES", "FC-GRID", "FC-NOT-FINITE", "FC-SENSE", "FC-PICTURE"});
         }},
        {"sequence", "Sequence", "River Gravel", make<SequenceShelf>,
         [](const ProductSet& p) {
             return figureOf(say("%1 units").arg(p.project.sequence->units.size()), p,
                             {"FC-CODE", "FC-ORDER", "FC-CHOICE", "FC-DEEPER"});
         }},
        {"model", "Model", "Till", make<ModelShelf>,
         [](const ProductSet& p) {
             double all = 0;
             if (p.volumes)
                 for (const auto& u : p.volumes->units) all += u.volume;
             return figureOf(p.volumes ? volume(all) : say("none yet"), p,
                             {"FC-BOUND", "FC-OUTSIDE", "FC-NO-BASE", "FC-FAULT", "FC-SMOOTH"});
         }},
        {"sheets", "Sheets", "Limestone", make<SheetsShelf>,
         [](const ProductSet& p) { return StageFigure{say("%1 sections").arg(p.project.sections->size())}; }}};
    return kStages;
}

} // namespace fox::app
