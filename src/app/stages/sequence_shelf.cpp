#include "stages/sequence_shelf.h"

#include "base/errors.h"
#include "project/contact_edits.h"
#include "project/interval_edits.h"
#include "project/sequence_edits.h"
#include "stages/plane_steps.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/number_box.h"
#include "views/plane_line.h"

#include <QCheckBox>
#include <QColorDialog>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QTimer>
#include <QToolButton>
#include <set>

namespace fox::app {

SequenceShelf::SequenceShelf(Selection* s, QWidget* parent) : UnitShelf(tr("Sequence"), s, parent), m_later(new QTimer(this)) {
    auto* main = mainButton(tr("Assign units…"), tr("What the program proposes for codes that could be several units"));
    main->setObjectName("whichLayerButton");
    connect(main, &QPushButton::clicked, this, [this] { emit actionAsked(ShowSequence{}); });
    m_later->setSingleShot(true);
    constexpr int kPause = 40; // milliseconds: while the plane is dragged not every step is counted
    m_later->setInterval(kPause);
    connect(m_later, &QTimer::timeout, this, &Shelf::refill);
    connect(s, &Selection::planeChanged, this, [this] {
        if (!m_later->isActive()) m_later->start();
    });
}

void SequenceShelf::fillBody() {
    const auto& units = products()->project.sequence->units;
    if (units.empty()) {
        const auto& holes = *products()->project.holes;
        const bool curves = std::ranges::any_of(holes, [](const Hole& h) { return !h.curves.empty(); });
        return words(
            curves ? tr("No units yet, and the holes have curves only. Add the units in the table of units (add), youngest "
                        "first, then choose one and pick its base in well after well (P).")
                   : tr("No units yet: they come with the first holes that have geology, or are added in the table of units."));
    }
    if (selection()->plane()) return fillPlane();
    heading(tr("Units, youngest first · contacts and bounds"));
    for (std::size_t u = 0; u < units.size(); ++u) {
        if (u >= products()->contacts.size()) {
            unitRow(units[u], tr("no base"));
            continue;
        }
        const int observed = int(std::ranges::count(*products()->contacts[u], ContactKind::Observed, &Contact::kind));
        unitRow(units[u], QString("%1 + %2").arg(observed).arg(products()->contacts[u]->size() - std::size_t(observed)));
    }
    heading(tr("What is not clear"));
    int open = 0;
    std::set<std::string> holes;
    for (const auto& read : products()->reading->holes)
        for (const auto& i : read.intervals)
            if (i.several && !i.byHand) ++open, holes.insert(read.name);
    if (open > 0)
        row(tr("Could be several units"), tr("%1 in %2").arg(open).arg(counted(qint64(holes.size()), "hole")),
            [this] { emit actionAsked(ShowSequence{}); });
    const auto& findings = products()->reading->findings;
    if (std::ranges::count(findings, "FC-ORDER", &Finding::rule) > 1) {
        words(tr("Layers return under others, so that one code may be two units: see what the program proposes."),
              colour::amberText);
        offer(tr("Assign units…"), [this] { emit actionAsked(ShowSequence{}); });
    }
    for (const auto& f : findings) finding(f);
    if (open == 0 && findings.empty()) words(tr("Nothing: every interval has its unit, and all are in order."));
    offer(tr("Assign what lies above a plane…"),
          [this] { selection()->setPlane(firstPlane(*products(), selection()->unit().toStdString())); });
    fillByHand();
    fillContactPoints();
    heading(tr("How they are read"));
    row(tr("Column with the unit"), qt(products()->project.sequence->unitHeading));
    for (const auto& [from, to] : products()->project.sequence->aliases)
        row(tr("“%1”").arg(qt(from)), tr("is read as %1").arg(qt(to)));
    offer(tr("Units of intervals from a table…"), [this] { emit actionAsked(ImportInterpretation{}); });
}

/// Units by a plane, one after the other from the top: what this step takes, and what comes next.
void SequenceShelf::fillPlane() {
    const auto& how = *selection()->plane();
    const auto& p = products()->project;
    const auto& units = p.sequence->units;
    const auto change = [this](const std::function<void(PlaneAssignment&)>& set) {
        auto next = *selection()->plane();
        set(next);
        selection()->setPlane(next);
    };
    heading(tr("This step"));
    auto* unit = new QComboBox(this);
    unit->setObjectName("planeUnit");
    unit->setAccessibleName(tr("Unit that is assigned"));
    for (const auto& u : units) unit->addItem(QIcon(swatch(u)), qt(u.code) + "  " + qt(u.name), qt(u.code));
    unit->setCurrentIndex(std::max(0, unit->findData(qt(how.unit))));
    connect(unit, &QComboBox::activated, this, [unit, change] {
        change([code = unit->currentData().toString().toStdString()](PlaneAssignment& a) { a.unit = code, a.codes.clear(); });
    });
    wide(unit);
    auto* codes = new QLineEdit(this);
    codes->setObjectName("planeCodes");
    codes->setAccessibleName(tr("Logged as"));
    codes->setToolTip(tr("Codes or materials, separated by commas; empty: whatever the unit may be logged as"));
    codes->setPlaceholderText(tr("logged as: whatever the unit may be"));
    QStringList shownCodes;
    for (const auto& c : how.codes) shownCodes << qt(c);
    codes->setText(shownCodes.join(", "));
    connect(codes, &QLineEdit::editingFinished, this, [codes, change] {
        std::vector<std::string> typed;
        for (const auto& c : codes->text().split(',', Qt::SkipEmptyParts))
            if (!c.trimmed().isEmpty()) typed.push_back(c.trimmed().toStdString());
        change([&](PlaneAssignment& a) { a.codes = typed; });
    });
    wide(codes);
    const auto assigned = assignedAbove(*p.holes, *p.sequence, *p.interpretation, how);
    row(how.upper ? tr("Taken whole, between the planes") : tr("Taken whole, above the plane"),
        counted(qint64(assigned.whole.size()), "interval"));
    if (how.splits) row(tr("Split by the plane"), counted(qint64(assigned.parts.size()), "interval"));
    if (!assigned.cut.empty())
        row(tr("Cut by the plane, left as they are"), counted(qint64(assigned.cut.size()), "interval"),
            [this, hole = qt(assigned.cut[0].hole)] { selection()->setHole(hole); });
    constexpr std::size_t kShown = 5;
    for (std::size_t i = 0; i < std::min(kShown, assigned.conflicts.size()); ++i)
        row(tr("Out of order: %1").arg(qt(assigned.conflicts[i].hole)), tr("show"),
            [this, hole = qt(assigned.conflicts[i].hole)] { selection()->setHole(hole); });
    if (assigned.conflicts.size() > kShown) words(tr("and %1 more holes").arg(assigned.conflicts.size() - kShown));
    auto* assign = new QPushButton(this);
    assign->setObjectName("planeAssign");
    const auto count = qint64(assigned.whole.size() + assigned.parts.size());
    assign->setText(tr("Assign %1 to %2").arg(counted(count, "interval"), qt(how.unit)));
    assign->setProperty("main", true);
    assign->setEnabled(count > 0);
    connect(assign, &QPushButton::clicked, this,
            [this] { emit editMade([a = *selection()->plane()](const Project& now) { return assignAbovePlane(now, a); }); });
    wide(assign);
    heading(tr("Next below the plane"));
    const auto next = nextBelow(*products()->reading, *p.sequence, how);
    if (next.empty()) words(tr("Nothing lies below the plane."));
    for (std::size_t i = 0; i < std::min(kShown, next.size()); ++i) {
        const auto& n = next[i];
        const auto name = n.unit ? qt(units[*n.unit].name) : tr("no unit");
        row(tr("%1 · %2").arg(n.code.empty() ? tr("no code") : qt(n.code), name), counted(n.holes, "hole"));
        if (n.unit)
            offer(tr("Take %1 next").arg(qt(n.code)), [change, code = n.code, of = units[*n.unit].code] {
                change([&](PlaneAssignment& a) { a.unit = of, a.codes = {code}; });
            });
    }
    offer(tr("End the work with the plane"), [this] { selection()->setPlane({}); });
}

void SequenceShelf::cardPlane() {
    const auto& how = *selection()->plane();
    const auto middle = middleOfHoles(*products());
    cardTitle(tr("Plane"), tr("%1 in the middle, %2").arg(metres(how.plane.at(middle)), slopeInWords(how.plane)));
    const auto change = [this](const std::function<void(PlaneAssignment&)>& set) {
        auto next = *selection()->plane();
        set(next);
        selection()->setPlane(next);
    };
    auto* buttons = new QWidget;
    auto* line = new QHBoxLayout(buttons);
    line->setContentsMargins(0, 2, 0, 2);
    line->setSpacing(4);
    const auto button = [&](const QString& words, const char* name, const QString& tip) {
        auto* b = new QPushButton(words, buttons);
        b->setObjectName(name);
        b->setToolTip(tip);
        line->addWidget(b);
        return b;
    };
    connect(button(tr("Through 3 holes"), "planeThrough", tr("Click the plane's level on three holes of the correlation")),
            &QPushButton::clicked, selection(), &Selection::startPlanePoints);
    auto* fit = button(tr("Fit to…"), "planeFit", tr("The plane that fits the contacts of a unit's base best"));
    auto* menu = new QMenu(fit);
    const auto& units = products()->project.sequence->units;
    for (std::size_t u = 0; u < products()->contacts.size(); ++u)
        if (const auto plane = planeOfContacts(*products()->contacts[u]))
            menu->addAction(tr("Base of %1").arg(qt(units[u].name)), this,
                            [change, to = *plane] { change([&](PlaneAssignment& a) { a.plane = to; }); });
    fit->setMenu(menu);
    fit->setEnabled(!menu->isEmpty());
    connect(button(tr("Type…"), "planeType", tr("Level, dip and direction as numbers")), &QPushButton::clicked, this,
            [this, change, middle] {
                PlaneByNumbers dialog(selection()->plane()->plane, middle, this);
                if (dialog.exec() == QDialog::Accepted) change([&](PlaneAssignment& a) { a.plane = dialog.plane(); });
            });
    cardWide(buttons);
    auto* reach = new NumberBox;
    reach->setObjectName("planeMayReach");
    reach->setRange(0, 50);
    reach->setDecimals(2);
    reach->setSuffix(tr(" m"));
    reach->setValue(how.mayReachBelow);
    reach->setKeyboardTracking(false);
    reach->setToolTip(tr("So far an interval may reach below the plane and still be taken whole"));
    connect(reach, &QDoubleSpinBox::valueChanged, this,
            [change](double metres) { change([&](PlaneAssignment& a) { a.mayReachBelow = metres; }); });
    cardWidget(tr("May reach below by"), reach);
    const auto tick = [&](const QString& words, const char* name, bool on,
                          const std::function<void(PlaneAssignment&, bool)>& set) {
        auto* box = new QCheckBox(words);
        box->setObjectName(name);
        box->setChecked(on);
        connect(box, &QCheckBox::toggled, this,
                [change, set](bool ticked) { change([&](PlaneAssignment& a) { set(a, ticked); }); });
        cardWide(box);
    };
    tick(tr("Split the intervals that it cuts"), "planeSplits", how.splits, [](PlaneAssignment& a, bool on) { a.splits = on; });
    tick(tr("Keep units chosen before"), "planeKeeps", how.keepsChoices,
         [](PlaneAssignment& a, bool on) { a.keepsChoices = on; });
    tick(tr("Only below where it lies now (a lens)"), "planeUpper", how.upper.has_value(),
         [](PlaneAssignment& a, bool on) { on ? void(a.upper = a.plane) : a.upper.reset(); });
}

/// Files of contacts that are in no log: used or not, and what they lie on.
void SequenceShelf::fillContactPoints() {
    const auto& sources = *products()->project.contactPoints;
    if (sources.empty()) return;
    heading(tr("Contacts not in logs"));
    for (const auto& source : sources) {
        auto* line = new QWidget(this);
        auto* parts = new QHBoxLayout(line);
        parts->setContentsMargins(4, 1, 4, 1);
        auto* used = new QCheckBox(qt(source.file), line);
        used->setObjectName("useContacts_" + qt(source.file));
        used->setChecked(source.used);
        used->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
        used->setToolTip(tr("%1: %2. Ticked: they are contacts for the surfaces, like those of holes")
                             .arg(qt(source.file), counted(qint64(source.points.size()), "contact")));
        connect(used, &QCheckBox::toggled, this, [this, file = source.file](bool on) {
            emit editMade([file, on](const Project& p) { return setContactsUsed(p, file, on); });
        });
        auto* surface = new QComboBox(line);
        surface->setObjectName("contactsOn_" + qt(source.file));
        surface->addItems({tr("bases"), tr("tops")});
        surface->setCurrentIndex(int(source.surface));
        surface->setToolTip(tr("Whether the points lie on the base or on the top of their unit"));
        connect(surface, &QComboBox::activated, this, [this, file = source.file](int at) {
            emit editMade([file, at](const Project& p) { return setContactsSurface(p, file, ContactSurface(at)); });
        });
        auto* accuracy = new NumberBox(line);
        accuracy->setObjectName("accuracyOf_" + qt(source.file));
        accuracy->setAccessibleName(tr("Accuracy of %1").arg(qt(source.file)));
        accuracy->setRange(0, 100);
        accuracy->setDecimals(2);
        accuracy->setPrefix(QString::fromUtf8("± "));
        accuracy->setSpecialValueText(tr("exact"));
        accuracy->setValue(source.accuracy);
        accuracy->setToolTip(tr("Standard deviation of their levels, m: automatic bases go through exact contacts, and only near "
                                "others"));
        connect(accuracy, &QDoubleSpinBox::editingFinished, this, [this, accuracy, file = source.file, was = source.accuracy] {
            if (accuracy->value() != was)
                emit editMade([file, to = accuracy->value()](const Project& p) { return setContactsAccuracy(p, file, to); });
        });
        auto* more = new QToolButton(line);
        more->setText(QString::fromUtf8("…"));
        more->setObjectName("more_" + used->objectName());
        more->setToolTip(tr("Read it again with other settings, or remove it"));
        more->setAccessibleName(tr("More of %1").arg(qt(source.file)));
        connect(more, &QToolButton::clicked, this, [this, file = qt(source.file)] { emit actionAsked(ShowSource{file}); });
        auto* count = new QLabel(QString::number(source.points.size()), line);
        count->setProperty("muted", true);
        parts->addWidget(used, 1);
        parts->addWidget(count);
        parts->addWidget(surface);
        parts->addWidget(accuracy);
        parts->addWidget(more);
        wide(line);
    }
    words(tr("Each of them is a row of the table “Contacts not in logs”, where it can be excluded."));
}

/// What the geologist decided: by unit, and picks one by one.
void SequenceShelf::fillByHand() {
    const auto& own = *products()->project.interpretation;
    if (own.intervals.empty() && own.picks.empty() && own.splits.empty()) return;
    heading(tr("Decided by hand"));
    std::map<std::string, int> counts;
    for (const auto& c : own.intervals) ++counts[c.unit];
    for (const auto& [unit, n] : counts)
        row(counted(qint64(n), "interval"), unit.empty() ? tr("no unit") : qt(unit),
            [this, code = qt(unit)] { selection()->setUnit(code); });
    constexpr std::size_t kShown = 20;
    for (std::size_t i = 0; i < std::min(kShown, own.splits.size()); ++i) {
        const auto& split = own.splits[i];
        row(tr("%1: split at %2").arg(qt(split.hole), metres(split.depth.metres)), tr("show"),
            [this, hole = qt(split.hole)] { selection()->setHole(hole); });
        offer(tr("Remove this split"), [this, split] { // also one that the log no longer has a place for
            emit editMade([split](const Project& p) { return removeSplit(p, split.hole, split.depth); });
        });
    }
    if (own.splits.size() > kShown) words(tr("and %1 more splits").arg(own.splits.size() - kShown));
    for (std::size_t i = 0; i < std::min(kShown, own.picks.size()); ++i) {
        const auto& p = own.picks[i];
        row(tr("%1: base of %2 at %3").arg(qt(p.hole), qt(p.unit), metres(p.depth.metres)), tr("show"), [this, p] {
            selection()->setHole(qt(p.hole));
            selection()->setUnit(qt(p.unit));
        });
    }
    if (own.picks.size() > kShown) words(tr("and %1 more picks").arg(own.picks.size() - kShown));
}

void SequenceShelf::fillCard() {
    if (selection()->plane() && !products()->project.sequence->units.empty()) return cardPlane();
    const auto u = chosen();
    if (!u) return;
    const auto& unit = products()->project.sequence->units[*u];
    const bool hasBase = *u < products()->contacts.size();
    cardTitle(qt(unit.name), hasBase ? tr("contact data of its base") : tr("the oldest: it has no base"));
    cardLook(unit);
    if (!hasBase) return;
    for (const auto kind :
         {ContactKind::Observed, ContactKind::NotReached, ContactKind::Absent, ContactKind::TooShort, ContactKind::Gap})
        if (const auto n = std::ranges::count(*products()->contacts[*u], kind, &Contact::kind))
            cardFact(QString::fromUtf8(fox::words(kind)), counted(qint64(n), "hole"));
    if (!unit.logged.empty()) {
        QStringList codes;
        for (const auto& c : unit.logged) codes << qt(c);
        cardFact(tr("Logged as"), codes.join(", "));
    }
}

void SequenceShelf::cardLook(const Unit& unit) {
    auto* name = new QLineEdit(QString::fromStdString(unit.name));
    name->setObjectName("unitName");
    connect(name, &QLineEdit::editingFinished, this, [this, name, unit] {
        const auto typed = name->text().trimmed().toStdString();
        if (!typed.empty() && typed != unit.name)
            emit editMade([code = unit.code, typed](const Project& p) { return setUnitName(p, code, typed); });
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
        if (chosen.isValid())
            emit editMade(
                [code = unit.code, to = chosen.name().toStdString()](const Project& p) { return setUnitColour(p, code, to); });
    });
    auto* sign = new QComboBox(look);
    sign->setObjectName("unitSign");
    sign->setToolTip(tr("Which pattern is drawn"));
    sign->addItem(tr("by its name"), QString());
    for (const auto& ground : groundsWithSign()) {
        Unit sample;
        sample.colour = unit.colour;
        sample.hatch = ground.toStdString();
        sign->addItem(swatch(sample), ground, ground);
    }
    sign->setCurrentIndex(std::max(0, sign->findData(QString::fromStdString(unit.hatch))));
    connect(sign, &QComboBox::activated, this, [this, sign, code = unit.code] {
        emit editMade([code, ground = sign->currentData().toString().toStdString()](const Project& p) {
            return setUnitHatch(p, code, ground);
        });
    });
    line->addWidget(colour);
    line->addWidget(sign, 1);
    cardWidget(tr("Drawn"), look);
}

} // namespace fox::app
