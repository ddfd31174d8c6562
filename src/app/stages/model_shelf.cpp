#include "stages/model_shelf.h"

#include "base/errors.h"
#include "model/surface_maps.h"
#include "project/sequence_edits.h"
#include "project/surface_edits.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/number_box.h"
#include "views/variogram_chart.h"

#include <QComboBox>
#include <QDate>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>

namespace fox::app {

ModelShelf::ModelShelf(Selection* s, QWidget* parent) : UnitShelf(tr("Model"), s, parent) {
    connect(mainButton(tr("Export…"), tr("Surfaces and holes as files")), &QPushButton::clicked, this,
            [this] { emit actionAsked(ExportFiles{}); });
}

/// Grids that are still being made are no sign of that.
bool ModelShelf::hasNoModel() const { return !products()->modelGrid && products()->wanted.covers(wanted()); }

void ModelShelf::fillBody() {
    modelPartSwitch("model");
    const auto& units = products()->project.sequence->units;
    if (hasNoModel()) {
        words(tr("No model yet. It needs holes with geology, and ground under them."));
        return fillWater(); // needs neither
    }
    heading(tr("Units, youngest first"));
    for (std::size_t u = 0; u < units.size(); ++u) {
        const bool counted = products()->volumes && u < products()->volumes->units.size();
        auto right = counted ? volume(products()->volumes->units[u].volume) : QString(QChar(0x2013));
        if (counted && products()->model->bases[u]->fixed) right += tr(" · fixed");
        unitRow(units[u], right);
    }
    if (!chosen()) words(tr("Choose a unit to see and set how its base is made."));
    if (products()->audit) fillAgreement(*products()->audit);
    fillCrossings();
    fillFaults();
    fillGuides();
    fillPresence();
    heading(tr("Sections"));
    const auto& lines = *products()->project.sections;
    for (std::size_t i = 0; i < lines.size(); ++i)
        row(
            tr("%1 to %1′").arg(qt(lines[i].name)), metres(lengthOf(lines[i].line), 0),
            [this, i] { selection()->setSection(int(i)); }, selection()->section() == int(i));
    fillChosenSection();
    offer(tr("Draw a section line…"), [this] { emit actionAsked(DrawOnPlan{DrawOnPlan::What::Section}); });
    offer(tr("Section lines from a file…"), [this] { emit actionAsked(ImportSections{}); });
    fillWater();
    fillTrials();
    heading(tr("Volumes"));
    offer(tr("By outline, above a level or surface…"), [this] { emit actionAsked(ShowVolumes{}); });
}

void ModelShelf::fillAgreement(const Audit& a) {
    heading(tr("Agreement with the holes"));
    row(tr("Logged length matched"),
        std::isnan(a.matchedFraction) ? tr("nothing logged") : tr("%1 %").arg(a.matchedFraction * 100, 0, 'f', 1));
    const AuditHole* worst = nullptr; // the hole of which the model has the least
    for (const auto& h : a.holes)
        if (h.loggedLength - h.matchedLength > 0.05
            && (!worst || h.matchedLength / h.loggedLength < worst->matchedLength / worst->loggedLength))
            worst = &h;
    if (worst)
        row(tr("Lowest in %1").arg(qt(worst->name)),
            tr("%1 of %2").arg(QString::number(worst->matchedLength, 'f', 1), metres(worst->loggedLength, 1)),
            [this, name = qt(worst->name)] { selection()->setHole(name); });
    row(tr("Limits honoured"), tr("%1 of %2").arg(a.bounds - a.boundsBroken).arg(a.bounds));
    if (a.worstDifference < 0.005)
        row(tr("Worst contact"), metres(a.worstDifference));
    else
        row(tr("Worst contact"), tr("%1, %2").arg(metres(a.worstDifference), qt(a.worstHole)),
            [this, name = qt(a.worstHole)] { selection()->setHole(name); });
}

/// Where bases cross, or rules take a unit away: those of the chosen unit with their remedies, and how many there are of others.
void ModelShelf::fillCrossings() {
    if (!products()->modelGrid || products()->modelGrid->findings.empty()) return;
    const auto& findings = products()->modelGrid->findings;
    heading(tr("Where bases cross"));
    const auto code = selection()->unit().toStdString();
    int others = 0;
    for (const auto& f : findings) {
        f.unit == code ? finding(f) : void(++others);
    }
    if (others > 0)
        words(code.empty() ? tr("Choose a unit above to see where, and how to fix it: there are %1.").arg(others)
                           : tr("There are %1 more, of other units: choose one to see where, and how to fix it.").arg(others));
}

/// Name of the section that is shown, and how far holes may stand from it.
void ModelShelf::fillChosenSection() {
    const auto& lines = *products()->project.sections;
    if (lines.empty()) return;
    const auto i = std::size_t(std::clamp(selection()->section(), 0, int(lines.size()) - 1));
    auto* both = new QWidget;
    auto* line = new QHBoxLayout(both);
    line->setContentsMargins(0, 2, 0, 2);
    auto* name = new QLineEdit(qt(lines[i].name));
    name->setObjectName("sectionName");
    name->setToolTip(tr("Name of this section"));
    name->setMaximumWidth(70);
    connect(name, &QLineEdit::editingFinished, this, [this, name, was = lines[i].name] {
        const auto typed = name->text().trimmed().toStdString();
        if (typed != was) emit editMade([was, typed](const Project& p) { return renameSection(p, was, typed); });
    });
    auto* reach = new NumberBox;
    reach->setObjectName("sectionReach");
    reach->setRange(0, 10000);
    reach->setDecimals(0);
    reach->setSuffix(tr(" m"));
    reach->setValue(lines[i].reach);
    reach->setKeyboardTracking(false);
    reach->setButtonSymbols(QAbstractSpinBox::NoButtons);
    reach->setToolTip(tr("Holes within this distance of the line are drawn on the section"));
    connect(reach, &QDoubleSpinBox::valueChanged, this, [this, section = lines[i].name](double metres) {
        emit editMade([section, metres](const Project& p) { return setSectionReach(p, section, metres); });
    });
    line->addWidget(new QLabel(tr("named")));
    line->addWidget(name);
    line->addWidget(new QLabel(tr("holes within")));
    line->addWidget(reach, 1);
    wide(both);
}

void ModelShelf::fillTrials() {
    heading(tr("Predicted logs: what a hole would find"));
    const auto& trials = *products()->project.trialColumns;
    for (std::size_t i = 0; i < trials.size(); ++i) {
        const bool chosen = selection()->trial() == qt(trials[i].name);
        row(
            qt(trials[i].name), coordinate(trials[i].place.x) + "  " + coordinate(trials[i].place.y),
            [this, name = qt(trials[i].name)] { selection()->setTrial(name); }, chosen);
        if (chosen)
            offer(tr("Remove %1").arg(qt(trials[i].name)), [this, trial = trials[i].name] {
                emit editMade([trial](const Project& p) { return removeTrialColumn(p, trial); });
            });
    }
    offer(tr("Put one on the plan…"), [this] { emit actionAsked(DrawOnPlan{DrawOnPlan::What::TrialColumn}); });
}

void ModelShelf::fillWater() {
    const auto& p = products()->project;
    const bool readings = std::ranges::any_of(*p.holes, [](const Hole& h) { return !h.waterLevels.empty(); });
    if (!readings && p.waterSurfaces->empty()) return;
    heading(tr("Water surfaces"));
    for (const auto& w : *p.waterSurfaces)
        row(qt(w.name), qt(fox::words(w.reading)), [this, name = qt(w.name)] { emit actionAsked(ShowWater{name}); });
    if (!readings) return;
    const auto code = chosen() ? p.sequence->units[*chosen()].code : std::string();
    offer(code.empty() ? tr("Add a water surface…") : tr("Add a water surface of %1…").arg(qt(code)),
          [this, code] { emit actionAsked(AddWater{qt(code)}); });
}

void ModelShelf::fillFaults() {
    const auto& own = *products()->project.interpretation;
    if (own.faults.empty()) return;
    heading(tr("Faults"));
    const auto& units = products()->project.sequence->units;
    for (std::size_t i = 0; i < own.faults.size(); ++i) {
        const auto& f = own.faults[i];
        // how far it steps the chosen base, or the oldest
        const auto u = chosen() && *chosen() < products()->model->bases.size() ? *chosen() : products()->model->bases.size() - 1;
        const auto youngest = products()->project.sequence->index(f.youngest);
        QString right = tr("steps all bases");
        if (youngest) right = tr("from the base of %1 down").arg(qt(units[*youngest].code));
        if (!f.units.empty()) {
            QStringList codes;
            for (const auto& code : f.units) codes << qt(code);
            right = tr("steps the bases of %1").arg(codes.join(", "));
        }
        row(qt(f.fault.name), right, [this, f] { chooseStepped(f); });
        if (products()->model->bases[u]->in.faults.empty()) continue;
        double least = kNoValue, most = kNoValue, sum = 0;
        int count = 0;
        const auto throws = throwOf(*products()->model, u, f.fault, 20);
        for (const auto& t : throws)
            if (!std::isnan(t.up())) least = std::fmin(least, t.up()), most = std::fmax(most, t.up()), sum += t.up(), ++count;
        if (count > 0)
            row(tr("   throw, %1").arg(qt(units[u].code)), tr("%1 to %2 m")
                                                                   .arg(std::min(std::abs(least), std::abs(most)), 0, 'f', 1)
                                                                   .arg(std::max(std::abs(least), std::abs(most)), 0, 'f', 1)
                                                               + (sum > 0 ? tr(", right side up") : tr(", left side up")));
        offer(tr("Remove %1").arg(qt(f.fault.name)),
              [this, fault = f.fault.name] { emit editMade([fault](const Project& p) { return removeFault(p, fault); }); });
    }
}

/// Which bases a fault steps: from one down, or chosen one by one.
void ModelShelf::chooseStepped(const UnitFault& f) {
    auto* menu = new QMenu(this);
    menu->setObjectName("faultMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto name = f.fault.name;
    const auto& units = products()->project.sequence->units;
    menu->addAction(tr("Steps all bases"), this,
                    [this, name] { emit editMade([name](const Project& p) { return setFaultYoungest(p, name, {}); }); });
    auto* from = menu->addMenu(tr("Steps the bases from"));
    auto* single = menu->addMenu(tr("Steps the base of"));
    for (std::size_t u = 0; u + 1 < units.size(); ++u) {
        from->addAction(tr("%1 down").arg(qt(units[u].name)), this, [this, name, code = units[u].code] {
            emit editMade([name, code](const Project& p) { return setFaultYoungest(p, name, code); });
        });
        auto stepped = f.units;
        if (stepped.empty()) { // as it is now, unit by unit
            const auto youngest = products()->project.sequence->index(f.youngest).value_or(0);
            for (auto k = youngest; k + 1 < units.size(); ++k) stepped.push_back(units[k].code);
        }
        auto* one = single->addAction(qt(units[u].name));
        one->setCheckable(true);
        one->setChecked(std::ranges::count(stepped, units[u].code) > 0);
        connect(one, &QAction::triggered, this, [this, name, stepped, code = units[u].code](bool on) {
            auto codes = stepped;
            on ? codes.push_back(code) : void(std::erase(codes, code));
            emit editMade([name, codes](const Project& p) { return setFaultUnits(p, name, codes); });
        });
    }
    menu->popup(QCursor::pos());
}

void ModelShelf::fillGuides() {
    const auto& own = *products()->project.interpretation;
    if (own.guides.empty()) return;
    heading(tr("Guides, kept apart from the data"));
    for (std::size_t i = 0; i < own.guides.size(); ++i) {
        const auto& g = own.guides[i];
        row(tr("base of %1, %2")
                .arg(qt(g.unit), g.line.size() == 1 ? tr("a point") : tr("a line of %1 places").arg(g.line.size())),
            metres(g.line.front().z, 1), [this, code = qt(g.unit)] { selection()->setUnit(code); });
        offer(tr("Remove this guide"), [this, g] { emit editMade([g](const Project& p) { return removeGuide(p, g); }); });
    }
}

/// Where the geologist says that a unit is or is not.
void ModelShelf::fillPresence() {
    const auto& own = *products()->project.interpretation;
    if (own.presence.empty()) return;
    heading(tr("Presence marked by hand"));
    for (const auto& m : own.presence) {
        row(m.present ? tr("%1 is present").arg(qt(m.unit)) : tr("%1 is absent").arg(qt(m.unit)),
            m.area.size() == 1 ? coordinate(m.area.front().x) + "  " + coordinate(m.area.front().y) : tr("in an area"),
            [this, code = qt(m.unit)] { selection()->setUnit(code); });
        offer(tr("Remove this mark"), [this, m] { emit editMade([m](const Project& p) { return removePresenceMark(p, m); }); });
    }
}

void ModelShelf::fillCard() {
    const auto u = chosen();
    if (!u || *u >= products()->model->bases.size() || hasNoModel()) return;
    const auto& unit = products()->project.sequence->units[*u];
    const auto& base = *products()->model->bases[*u];
    auto from = tr("from %1, %2").arg(counted(base.contacts, "contact"), counted(base.bounds, "limit"));
    if (base.in.guides > 0) from += tr(", %1 guide places").arg(base.in.guides);
    cardTitle(tr("Base of %1").arg(qt(unit.name)), from);
    cardMethod(unit, base);
    cardFixed(unit, base);
    if (base.absentEverywhere) cardFact(tr("Note"), tr("No hole has this unit: it has no thickness anywhere."));
    if (base.fixed || base.absentEverywhere) return;
    const auto& l = base.leaveOneOut;
    cardFact(tr("Leave-one-out error"),
             l.n > 0 ? tr("%1 (%2)").arg(metres(l.rmse), counted(l.n, "hole")) : tr("too few contacts"));
    cardVariogram(unit, base);
    auto* buttons = new QWidget;
    auto* line = new QHBoxLayout(buttons);
    line->setContentsMargins(0, 4, 0, 0);
    const std::pair<const char*, QString> kSheets[] = {
        {"howMade", tr("Settings…")}, {"compareMethods", tr("Compare…")}, {"howSure", tr("Uncertainty…")}};
    for (int k = 0; k < 3; ++k) {
        auto* b = new QPushButton(kSheets[k].second, buttons);
        b->setObjectName(kSheets[k].first);
        connect(b, &QPushButton::clicked, this, [this, k] { emit actionAsked(ShowSurface{k == 2 ? 3 : k}); });
        line->addWidget(b);
    }
    cardWide(buttons);
    auto* marks = new QWidget;
    auto* both = new QHBoxLayout(marks);
    both->setContentsMargins(0, 0, 0, 0);
    using What = DrawOnPlan::What;
    for (const auto& [what, words, named] : {std::tuple{What::Present, tr("Mark as present…"), "markPresent"},
                                             {What::Absent, tr("Mark as absent…"), "markAbsent"}}) {
        auto* b = new QPushButton(words, marks);
        b->setObjectName(named);
        b->setToolTip(tr("Click on the plan, a position or an area: it counts as data for the edge of the unit"));
        connect(b, &QPushButton::clicked, this, [this, w = what] { emit actionAsked(DrawOnPlan{w}); });
        both->addWidget(b);
    }
    cardWide(marks);
}

void ModelShelf::cardMethod(const Unit& unit, const BaseSurface& base) {
    if (!base.fixed) {
        const auto all = baseMethods();
        QStringList methods;
        for (const auto m : all) methods << qt(methodInWords(m));
        const auto now = int(std::ranges::find(all, methodOf(unit.recipe)) - all.begin());
        auto* method = choice(methods, now, [this, code = unit.code, all](int i) {
            emit editMade([code, method = all[std::size_t(i)]](const Project& p) { return setMethod(p, code, method); });
        });
        method->setObjectName("methodChoice");
        cardWidget(tr("Method"), method);
        QStringList from{base.isAutomatic() ? tr("all, averaged")
                                            : tr("chosen: %1").arg(QString::fromUtf8(fox::words(base.reference)))};
        for (int k = 0; k <= int(BaseReference::Trend); ++k) from << QString::fromUtf8(fox::words(BaseReference(k)));
        cardWidget(tr("From"),
                   choice(from, unit.recipe.reference ? 1 + int(*unit.recipe.reference) : 0, [this, code = unit.code](int i) {
                       const auto reference = i == 0 ? std::nullopt : std::optional(BaseReference(i - 1));
                       emit editMade([code, reference](const Project& p) { return setReference(p, code, reference); });
                   }));
    }
    cardWidget(tr("Meets older"), choice({tr("cuts"), tr("onlaps")}, int(unit.base), [this, code = unit.code](int i) {
                   emit editMade([code, rule = BaseRule(i)](const Project& p) { return setBaseRule(p, code, rule); });
               }));
}

void ModelShelf::cardVariogram(const Unit& unit, const BaseSurface& base) {
    if (unit.recipe.automatic || !hasVariogram(unit.recipe.settings.method) || !base.fit.settings.variogram) return;
    const auto& v = *base.fit.settings.variogram;
    const bool byHand = unit.recipe.settings.variogram.has_value();
    cardFact(tr("Variogram"),
             tr("%1, %2, %3").arg(QString::fromUtf8(name(v.model)), metres(v.range, 0), byHand ? tr("by hand") : tr("fitted")));
    auto* chart = new VariogramChart;
    chart->setObjectName("cardVariogram");
    chart->setLags(empiricalVariogram(variogramPoints(base)));
    chart->setModel(v);
    connect(chart, &VariogramChart::dragged, selection(), &Selection::dragVariogram);
    connect(chart, &VariogramChart::released, this, [this, code = unit.code](const Variogram& to) {
        emit editMade([code, to](const Project& p) {
            return changeRecipe(
                p, code, [&](SurfaceRecipe& r) { r.settings.variogram = to; }, "variogram");
        });
    });
    cardWide(chart);
}

void ModelShelf::cardFixed(const Unit& unit, const BaseSurface& base) {
    auto* buttons = new QWidget;
    auto* line = new QHBoxLayout(buttons);
    line->setContentsMargins(0, 0, 0, 0);
    if (base.fixed) {
        cardFact(
            tr("Kept as"),
            (base.fixed->origin == FixedBase::Origin::Frozen ? tr("it was on %1") : tr("%1 has it")).arg(qt(base.fixed->from)));
        auto* release = new QPushButton(tr("From the holes again"), buttons);
        release->setObjectName("releaseBase");
        connect(release, &QPushButton::clicked, this,
                [this, code = unit.code] { emit editMade([code](const Project& p) { return releaseBase(p, code); }); });
        line->addWidget(release);
    } else {
        auto* freeze = new QPushButton(tr("Freeze"), buttons);
        freeze->setObjectName("freezeBase");
        freeze->setToolTip(tr("Keep this base as it is now, whatever changes"));
        connect(freeze, &QPushButton::clicked, this, [this, code = unit.code] {
            const auto u = products()->project.sequence->index(code);
            const auto levels = u && *u < products()->rawGrids.size() ? products()->rawGrids[*u] : nullptr;
            emit editMade(
                [code, kept = FixedBase{FixedBase::Origin::Frozen, QDate::currentDate().toString(Qt::ISODate).toStdString(),
                                        levels}](const Project& p) { return fixBase(p, code, kept); });
        });
        auto* import = new QPushButton(tr("Grid…"), buttons);
        import->setObjectName("importBase");
        import->setToolTip(tr("Take the levels of this base from a grid file"));
        connect(import, &QPushButton::clicked, this, [this, code = qt(unit.code)] { emit actionAsked(BaseFromGrid{code}); });
        line->addWidget(freeze);
        line->addWidget(import);
    }
    cardWidget(tr("Keep"), buttons);
}

} // namespace fox::app
