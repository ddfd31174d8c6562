#include "stages/holes_shelf.h"

#include "base/errors.h"
#include "holes/soundings.h"
#include "products/terrain_product.h"
#include "project/hole_edits.h"
#include "project/value_edits.h"
#include "project/water_edits.h"
#include "sequence/description.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/number_box.h"
#include "views/water_choice_box.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <set>

namespace fox::app {

HolesShelf::HolesShelf(Selection* s, QWidget* parent) : Shelf(tr("Holes"), s, parent) {
    connect(mainButton(tr("Add files…"), tr("Bring in AGS, LAS or tables of holes")), &QPushButton::clicked, this,
            [this] { emit actionAsked(ImportFiles{}); });
}

void HolesShelf::fillBody() {
    const auto& p = products()->project;
    heading(tr("Sources"));
    bool any = false;
    for (const auto& f : *p.files)
        if (f.holes > 0 || f.format.starts_with("AGS") || f.format.starts_with("LAS"))
            row(qt(f.name), QString::fromUtf8("%1 · %2").arg(qt(f.format), counted(f.holes, "hole")),
                [this, name = f.name] { emit actionAsked(ShowSource{qt(name)}); }),
                any = true;
    if (!any) words(tr("No holes yet. Drop AGS files, LAS logs or tables of holes on the window, or press Add files."));
    fillCodes();
    fillValuePoints();
    fillWater();
    const auto changed = p.corrections->size();
    const auto out = std::ranges::count(*p.holes, true, &Hole::excluded);
    if (changed == 0 && out == 0) return;
    heading(tr("Data corrections"));
    row(tr("Values corrected"), QString::number(changed), [this] { emit actionAsked(ShowTable{"corrections"}); });
    if (out > 0) row(tr("Holes excluded from surfaces"), QString::number(out));
    offer(tr("Save the list as CSV…"), [this] { emit actionAsked(SaveCorrections{}); });
}

void HolesShelf::fillCodes() {
    const auto& p = products()->project;
    if (p.sequence->units.empty()) return;
    heading(tr("Logged codes"));
    const auto headings = unitHeadings(*p.holes);
    auto* column = new QComboBox;
    column->setObjectName("unitHeadingChoice");
    column->setToolTip(tr("Which column of the logs carries the unit. Another one makes the sequence anew"));
    for (const auto& h : headings)
        column->addItem(tr("%1: %2 % filled, %3").arg(qt(h.heading)).arg(h.filled * 100, 0, 'f', 0).arg(counted(h.codes, "code")),
                        qt(h.heading));
    column->setCurrentIndex(column->findData(qt(p.sequence->unitHeading)));
    connect(column, &QComboBox::activated, this, [this, column] {
        const auto wanted = column->currentData().toString().toStdString();
        if (wanted != products()->project.sequence->unitHeading)
            emit editMade([wanted](const Project& now) { return setUnitHeading(now, wanted); });
    });
    wide(column);
    std::map<std::string, int> counts;
    for (const auto& h : products()->reading->holes)
        for (const auto& i : h.intervals) ++counts[p.sequence->units[i.unit].code];
    for (const auto& u : p.sequence->units) unitRow(u, QString::number(counts[u.code]));
    offer(tr("All codes as a table"), [this] { emit actionAsked(ShowTable{"codes"}); });
    for (const auto& f : products()->reading->findings)
        if (f.rule == "FC-CODE") finding(f);
}

/// Columns of values at points in space: used or not.
void HolesShelf::fillValuePoints() {
    const auto& sources = *products()->project.valuePoints;
    if (sources.empty()) return;
    heading(tr("Values at points"));
    for (const auto& source : sources) {
        const auto name = source.unit.empty() ? qt(source.quantity) : tr("%1 in %2").arg(qt(source.quantity), qt(source.unit));
        auto* used = new QCheckBox(tr("%1 (%2)").arg(name).arg(source.points.size()));
        used->setObjectName("useValues_" + qt(source.quantity));
        used->setChecked(source.used);
        used->setToolTip(tr("From %1. Ticked: they are shown on the plan and in 3D").arg(qt(source.file)));
        connect(used, &QCheckBox::toggled, this, [this, file = source.file, quantity = source.quantity](bool on) {
            emit editMade([=](const Project& p) { return setValuesUsed(p, file, quantity, on); });
        });
        wide(used);
    }
    std::set<std::string> files;
    for (const auto& source : sources)
        if (files.insert(source.file).second)
            offer(tr("%1: read again or remove").arg(qt(source.file)),
                  [this, file = qt(source.file)] { emit actionAsked(ShowSource{file}); });
    offer(tr("All values as a table"), [this] { emit actionAsked(ShowTable{"values"}); });
}

/// Which levels of water logs and sections show.
void HolesShelf::fillWater() {
    const auto& p = products()->project;
    if (std::ranges::all_of(*p.holes, [](const Hole& h) { return h.waterLevels.empty(); })) return;
    heading(tr("Levels of water on logs and sections"));
    auto* box = new WaterChoiceBox(*p.shownWater);
    box->setObjectName("shownWater");
    if (p.shownWater->which != WaterStatistic::AtDate) {
        auto start = *p.shownWater;
        start.date = usualDate(*p.holes);
        box->setChoice(start);
    }
    connect(box, &WaterChoiceBox::chosen, this, [this](const WaterChoice& choice) {
        emit editMade([choice](const Project& now) { return setShownWater(now, choice); });
    });
    wide(box);
}

/// What is assumed of each push; typed values take the place of what the file says, an empty field gives it back.
void HolesShelf::cardSoundings(const std::string& name, const Hole& h) {
    for (const auto& s : h.soundings) {
        const auto assumed = assumedFor(h, s);
        const auto title = h.soundings.size() > 1 ? tr("Push %1").arg(qt(s.push)) : tr("Cone");
        const auto field = [&](const char* objectName, double value, bool stated, const QString& tip) {
            auto* line = new QLineEdit(stated ? QString::number(value, 'g', 5) : QString());
            line->setObjectName(QString(objectName) + "_" + qt(s.push));
            line->setPlaceholderText(QString::number(value, 'g', 5));
            line->setToolTip(tip);
            line->setFixedWidth(60);
            return line;
        };
        auto* weight = field("soundingWeight", assumed.unitWeight, s.statedUnitWeight.has_value(),
                             tr("Unit weight of the ground that the soil behaviour rests on, kN/m³"));
        auto* water = field("soundingWater", assumed.water.metres, s.statedWater.has_value(),
                            tr("Depth to the water that the soil behaviour rests on: %1").arg(qt(assumed.waterFrom)));
        const auto tell = [this, name, push = s.push, weight, water, before = s] {
            const auto typed = [](const QLineEdit* line) { return typedNumber(line->text().trimmed()); };
            for (const auto* line : {weight, water})
                if (!line->text().trimmed().isEmpty() && !typed(line)) {
                    emit editMade([sentence = tr("\"%1\" is not a number.").arg(line->text()).toStdString()](
                                      const Project&) -> Edited { throw Error(sentence); });
                    return;
                }
            const auto depth = typed(water) ? std::optional(Depth{*typed(water)}) : std::nullopt;
            if (typed(weight) == before.statedUnitWeight && depth == before.statedWater) return;
            emit editMade([=, unitWeight = typed(weight)](const Project& p) {
                return setSoundingAssumptions(p, name, push, unitWeight, depth);
            });
        };
        const auto add = [&](const QString& label, QLineEdit* edit, const QString& unit) {
            auto* box = new QWidget;
            auto* line = new QHBoxLayout(box);
            line->setContentsMargins(0, 0, 0, 0);
            line->addWidget(edit);
            line->addWidget(new QLabel(unit));
            line->addStretch(1);
            edit->setAccessibleName(label);
            connect(edit, &QLineEdit::editingFinished, this, tell);
            cardWidget(label, box);
        };
        add(tr("%1: weight").arg(title), weight, tr("kN/m³, %1").arg(s.statedUnitWeight ? tr("stated") : tr("assumed")));
        add(tr("%1: water").arg(title), water,
            tr("m, %1").arg(s.statedWater ? tr("stated")
                            : s.water     ? tr("measured")
                                          : tr("assumed")));
    }
}

/// The name, to be changed; what the file calls it, if that is something else.
void HolesShelf::cardName(const std::string& name, const Hole& h) {
    auto* field = new QLineEdit(qt(name));
    field->setObjectName("editName");
    field->setAccessibleName(tr("Name"));
    field->setToolTip(h.id == name ? tr("What the hole is called in the project; the file keeps its own id")
                                   : tr("In the file it is %1").arg(qt(h.id)));
    connect(field, &QLineEdit::editingFinished, this, [this, field, name] {
        if (!field->isModified()) return; // it also loses the focus when the card is filled anew
        field->setModified(false);
        const auto typed = field->text().trimmed().toStdString();
        if (typed != name) emit editMade([=](const Project& p) { return setHoleName(p, name, typed); });
    });
    cardWidget(tr("Name"), field);
}

void HolesShelf::cardEdit(const QString& name, const char* objectName, const QString& value, const QString& remark,
                          const std::function<Edit(double)>& edit) {
    auto* box = new QWidget;
    auto* line = new QHBoxLayout(box);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(6);
    auto* field = new QLineEdit(value, box);
    field->setObjectName(objectName);
    field->setPlaceholderText(tr("missing"));
    field->setFixedWidth(96);
    field->setAccessibleName(name);
    line->addWidget(field);
    auto* says = new QLabel(remark, box);
    says->setStyleSheet(QString("color: %1;").arg(colour::red.name()));
    says->setWordWrap(true);
    line->addWidget(says, 1);
    connect(field, &QLineEdit::editingFinished, this, [this, field, value, edit] {
        const auto text = field->text().trimmed();
        if (text == value) return;
        const auto number = typedNumber(text);
        if (!number) {
            field->setText(value);
            emit editMade([words = tr("\"%1\" is not a number.").arg(text).toStdString()](const Project&) -> Edited {
                throw Error(words);
            });
            return;
        }
        emit editMade(edit(*number));
    });
    cardWidget(name, box);
}

void HolesShelf::fillCard() {
    const auto& project = products()->project;
    const auto* h = findHole(*project.holes, selection()->hole().toStdString());
    if (!h) return;
    const auto name = selection()->hole().toStdString();
    cardTitle(selection()->hole(), qt(typeInWords(h->type)) + QString::fromUtf8(" · ") + qt(h->project));
    const auto number = [](const std::optional<double>& v) { return v ? QString::number(*v, 'f', 2) : QString(); };
    const auto coordinate = [name](const char* which, std::optional<double> Hole::*axis) {
        return [=](double v) -> Edit {
            return [=](const Project& p) {
                return changeHoles(p, {{name, [&](Hole& hole) { hole.*axis = v; }}}, std::string(which) + " of " + name);
            };
        };
    };
    cardName(name, *h);
    cardEdit(tr("Easting"), "editEasting", number(h->easting), {}, coordinate("Easting", &Hole::easting));
    cardEdit(tr("Northing"), "editNorthing", number(h->northing), {}, coordinate("Northing", &Hole::northing));
    const auto terrain = h->place() ? products()->terrain->levelAt(*h->place()) : std::nullopt;
    const bool off = terrain && h->level && std::abs(*terrain - h->level->metres) > kLevelOff;
    cardEdit(tr("Ground level"), "editLevel", number(h->level ? std::optional(h->level->metres) : std::nullopt),
             terrain && (off || !h->level) ? tr("terrain: %1").arg(metres(*terrain)) : QString(),
             [name](double v) -> Edit { return [=](const Project& now) { return setHoleLevel(now, name, Level{v}); }; });
    cardEdit(tr("Final depth"), "editDepth", number(h->finalDepth ? std::optional(h->finalDepth->metres) : std::nullopt), {},
             [name](double v) -> Edit { return [=](const Project& now) { return setFinalDepth(now, name, Depth{v}); }; });
    cardFact(tr("Path"),
             h->stations.empty()
                 ? tr("vertical (no survey)")
                 : tr("inclined %1° towards %2°").arg(h->stations.front().inclination).arg(h->stations.front().azimuth));
    cardFact(tr("Stops in"), stopsIn());
    QStringList tests;
    const auto count = [&](std::size_t n, const char* one) {
        if (n > 0) tests << counted(qint64(n), one);
    };
    if (!h->blowCounts.empty()) tests << tr("%1 SPT").arg(h->blowCounts.size());
    count(h->samples.size(), "sample");
    count(h->coreRuns.size(), "core run");
    count(h->strikes.size(), "water strike");
    count(h->waterLevels.size(), "water level");
    count(h->soundings.size(), "sounding");
    count(std::size_t(std::ranges::count_if(h->curves, [](const Curve& c) { return c.push.empty(); })), "curve");
    if (!tests.isEmpty()) cardFact(tr("Tests"), tests.join(", "));
    if (const auto last = std::ranges::max_element(h->waterLevels, {}, &WaterLevel::measured); last != h->waterLevels.end())
        cardFact(tr("Water"), (last->dry ? tr("dry down to %1, %2") : tr("%1 below ground, %2"))
                                  .arg(metres(last->depth.metres), qt(last->measured)));
    cardSoundings(name, *h);
    if (h->intervals.empty() && hasCurves(*h)) {
        const auto& picks = products()->project.interpretation->picks;
        const auto n = std::ranges::count(picks, name, &Pick::hole);
        cardFact(tr("Log"), n > 0 ? tr("none; its units are by %1").arg(counted(qint64(n), "pick"))
                                  : tr("none: pick bases on its curves, and it has units"));
    }
    cardFact(tr("From"), tr("%1, line %2").arg(qt(h->file)).arg(h->line));
    auto* buttons = new QWidget;
    auto* line = new QHBoxLayout(buttons);
    line->setContentsMargins(0, 2, 0, 0);
    auto* leave = new QPushButton(h->excluded ? tr("Use for surfaces") : tr("Exclude"), buttons);
    leave->setObjectName("leaveOut");
    leave->setToolTip(tr("An excluded hole stays visible, and is used for no surface and not for the ground"));
    connect(leave, &QPushButton::clicked, this,
            [this, name, out = !h->excluded] { emit editMade([=](const Project& p) { return setExcluded(p, name, out); }); });
    auto* place = new QPushButton(tr("Place on plan"), buttons);
    place->setObjectName("placeHole");
    connect(place, &QPushButton::clicked, this, [this] { emit actionAsked(PlaceHole{selection()->hole()}); });
    line->addWidget(leave);
    line->addWidget(place);
    line->addStretch(1);
    cardWide(buttons);
}

bool HolesShelf::hasCurves(const Hole& h) {
    return std::ranges::any_of(h.curves, [](const Curve& c) { return !c.single; });
}

QString HolesShelf::stopsIn() const {
    for (const auto& read : products()->reading->holes)
        if (qt(read.name) == selection()->hole() && !read.intervals.empty()) {
            const auto u = read.intervals.back().unit;
            const auto unit = qt(products()->project.sequence->units[u].name);
            return u + 1 < products()->project.sequence->units.size() ? tr("%1, base not reached").arg(unit) : unit;
        }
    return tr("nothing that is logged");
}

} // namespace fox::app
