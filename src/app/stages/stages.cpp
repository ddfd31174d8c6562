#include "stages/stages.h"

#include "base/errors.h"
#include "stages/ground_shelf.h"
#include "stages/holes_shelf.h"
#include "stages/model_shelf.h"
#include "style/theme.h"

#include <QColorDialog>
#include <QComboBox>
#include <QCoreApplication>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLineEdit>
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

QString extentInWords(const Frame& f) {
    if (f.xmax - f.xmin < 1000)
        return QString::fromUtf8("%1 × %2 m").arg(f.xmax - f.xmin, 0, 'f', 0).arg(f.ymax - f.ymin, 0, 'f', 0);
    return QString::fromUtf8("%1 × %2 km").arg((f.xmax - f.xmin) / 1000, 0, 'f', 1).arg((f.ymax - f.ymin) / 1000, 0, 'f', 1);
}

// --- Site

class SiteShelf : public Shelf {
public:
    SiteShelf(Selection* s, QWidget* parent) : Shelf(tr("Site"), s, parent) {
        connect(mainButton(tr("Import…"), tr("Bring in AGS files or a survey")), &QPushButton::clicked, this,
                &Shelf::importAsked);
    }

protected:
    void fillBody() override {
        const auto& p = products()->project;
        heading(tr("Coordinate system"));
        row(p.site->crs.empty() ? tr("not said") : QString::fromStdString(p.site->crs), tr("levels in metres"));
        heading(tr("Extent"));
        if (!products()->frame) return words(tr("There is nothing yet to take an extent from. Import holes or a survey first."));
        const auto& f = *products()->frame;
        row(extentInWords(f), p.site->frame ? tr("as set") : tr("from the holes"));
        row(tr("south-west corner"), coordinate(f.xmin) + "  " + coordinate(f.ymin));
        row(tr("site limit"), p.site->limit.empty() ? tr("none") : tr("%1 corners").arg(p.site->limit.size()));
        heading(tr("What there is"));
        row(tr("Holes"), QString::number(p.holes->size()));
        row(tr("Ground triangles"), QString::number(products()->terrain->tin.triangles().size()));
        row(tr("Units"), QString::number(p.sequence->units.size()));
        row(tr("Section lines"), QString::number(p.sections->size()));
        heading(tr("Files"));
        for (const auto& file : *p.files) row(QString::fromStdString(file.name), QString::fromStdString(file.format));
    }

    void fillCard() override {
        auto* system = new QLineEdit(QString::fromStdString(products()->project.site->crs));
        system->setObjectName("systemEdit");
        system->setPlaceholderText(tr("EPSG number"));
        system->setToolTip(tr("The projected coordinate system of eastings and northings, by its EPSG number"));
        connect(system, &QLineEdit::editingFinished, this, [this, system] {
            if (system->text().toStdString() == products()->project.site->crs) return;
            try {
                emit editMade(setSystem(products()->project, system->text().trimmed().toStdString()));
            } catch (const Error& e) {
                system->setText(QString::fromStdString(products()->project.site->crs));
                emit failed(QString::fromStdString(e.what()));
            }
        });
        if (!products()->frame) {
            cardTitle(tr("Site"), {});
            return cardWidget(tr("System"), system);
        }
        cardTitle(tr("Grid"), tr("%1 cells").arg(products()->frame->cells()));
        cardWidget(tr("System"), system);
        auto* cell = new QDoubleSpinBox;
        cell->setRange(0.5, 500);
        cell->setDecimals(1);
        cell->setButtonSymbols(QAbstractSpinBox::NoButtons);
        cell->setSuffix(tr(" m"));
        cell->setValue(products()->frame->cell);
        cell->setKeyboardTracking(false);
        cell->setToolTip(tr("Smaller cells show more and take longer; the holes are honoured either way"));
        connect(cell, &QDoubleSpinBox::valueChanged, this,
                [this](double metres) { emit editMade(setCell(products()->project, metres)); });
        cardWidget(tr("Cell"), cell);
    }
};

// --- Sequence

/// Name, colour and sign of a unit, changed in place.
class LookShelf : public UnitShelf {
public:
    using UnitShelf::UnitShelf;

protected:
    void cardLook(const Unit& unit) {
        auto* name = new QLineEdit(QString::fromStdString(unit.name));
        name->setObjectName("unitName");
        connect(name, &QLineEdit::editingFinished, this, [this, name, unit] {
            const auto typed = name->text().trimmed().toStdString();
            if (!typed.empty() && typed != unit.name) emit editMade(setUnitName(products()->project, unit.code, typed));
        });
        cardWidget(tr("Name"), name);
        auto* look = new QWidget;
        auto* line = new QHBoxLayout(look);
        line->setContentsMargins(0, 0, 0, 0);
        auto* colour = new QPushButton(tr("Colour…"), look);
        colour->setIcon(swatch(unit));
        connect(colour, &QPushButton::clicked, this, [this, unit] {
            const auto chosen =
                QColorDialog::getColor(unitColour(unit), this, tr("Colour of %1").arg(QString::fromStdString(unit.name)));
            if (chosen.isValid()) emit editMade(setUnitColour(products()->project, unit.code, chosen.name().toStdString()));
        });
        auto* sign = new QComboBox(look);
        sign->setObjectName("unitSign");
        sign->setToolTip(tr("Which ground's sign is drawn"));
        sign->addItem(tr("by its name"), QString());
        for (const auto& ground : groundsWithSign()) {
            Unit sample;
            sample.colour = unit.colour;
            sample.hatch = ground.toStdString();
            sign->addItem(swatch(sample), ground, ground);
        }
        sign->setCurrentIndex(std::max(0, sign->findData(QString::fromStdString(unit.hatch))));
        connect(sign, &QComboBox::activated, this, [this, sign, code = unit.code] {
            emit editMade(setUnitHatch(products()->project, code, sign->currentData().toString().toStdString()));
        });
        line->addWidget(colour);
        line->addWidget(sign, 1);
        cardWidget(tr("Drawn"), look);
    }
};

class SequenceShelf : public LookShelf {
public:
    SequenceShelf(Selection* s, QWidget* parent) : LookShelf(tr("Sequence"), s, parent) {}

protected:
    void fillBody() override {
        const auto& units = products()->project.sequence->units;
        if (units.empty()) return words(tr("No units yet: they come with the first holes that have geology."));
        heading(tr("Units, youngest first · contacts and bounds"));
        for (std::size_t u = 0; u < units.size(); ++u) {
            if (u >= products()->contacts.size()) {
                unitRow(units[u], tr("no base"));
                continue;
            }
            const int observed = int(std::ranges::count(*products()->contacts[u], ContactKind::Observed, &Contact::kind));
            unitRow(units[u], QString("%1 + %2").arg(observed).arg(products()->contacts[u]->size() - std::size_t(observed)));
        }
        heading(tr("How they are read"));
        row(tr("Column with the unit"), QString::fromStdString(products()->project.sequence->unitHeading));
        for (const auto& [from, to] : products()->project.sequence->aliases)
            row(tr("“%1”").arg(QString::fromStdString(from)), tr("is read as %1").arg(QString::fromStdString(to)));
        for (const auto& f : products()->reading->findings) finding(f);
    }

    void fillCard() override {
        const auto u = chosen();
        if (!u) return;
        const auto& unit = products()->project.sequence->units[*u];
        const bool hasBase = *u < products()->contacts.size();
        cardTitle(QString::fromStdString(unit.name),
                  hasBase ? tr("what the holes say of its base") : tr("the oldest: it has no base"));
        cardLook(unit);
        if (!hasBase) return;
        for (const auto kind :
             {ContactKind::Observed, ContactKind::NotReached, ContactKind::Absent, ContactKind::TooShort, ContactKind::Gap})
            if (const auto n = std::ranges::count(*products()->contacts[*u], kind, &Contact::kind))
                cardFact(QString::fromUtf8(fox::words(kind)), tr("%1 holes").arg(n));
        if (!unit.logged.empty()) {
            QStringList codes;
            for (const auto& c : unit.logged) codes << QString::fromStdString(c);
            cardFact(tr("Logged as"), codes.join(", "));
        }
    }
};

// --- Sheets

class SheetsShelf : public Shelf {
public:
    SheetsShelf(Selection* s, QWidget* parent) : Shelf(tr("Sheets"), s, parent) {
        connect(mainButton(tr("Export…"), tr("Surfaces and holes as files")), &QPushButton::clicked, this, &Shelf::exportAsked);
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
             return figureOf(say("%1 units").arg(p.project.sequence->units.size()), p, {"FC-CODE", "FC-ORDER"});
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
