#include "stages/sequence_shelf.h"

#include "base/errors.h"
#include "project/contact_edits.h"
#include "project/sequence_edits.h"
#include "style/theme.h"
#include "style/words.h"

#include <QCheckBox>
#include <QColorDialog>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QToolButton>
#include <set>

namespace fox::app {

SequenceShelf::SequenceShelf(Selection* s, QWidget* parent) : UnitShelf(tr("Sequence"), s, parent) {
    auto* main = mainButton(tr("Assign units…"), tr("What the program proposes for codes that could be several units"));
    main->setObjectName("whichLayerButton");
    connect(main, &QPushButton::clicked, this, [this] { emit actionAsked(ShowSequence{0}); });
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
            [this] { emit actionAsked(ShowSequence{0}); });
    const auto& findings = products()->reading->findings;
    if (std::ranges::count(findings, "FC-ORDER", &Finding::rule) > 1) {
        words(tr("Layers return under others, so that one code may be two units: see what the program proposes."),
              colour::amberText);
        offer(tr("Assign units…"), [this] { emit actionAsked(ShowSequence{0}); });
    }
    for (const auto& f : findings) finding(f);
    if (open == 0 && findings.empty()) words(tr("Nothing: every interval has its unit, and all are in order."));
    offer(tr("Assign a layer by a tilted plane…"), [this] { emit actionAsked(ShowSequence{1}); });
    fillByHand();
    fillContactPoints();
    heading(tr("How they are read"));
    row(tr("Column with the unit"), qt(products()->project.sequence->unitHeading));
    for (const auto& [from, to] : products()->project.sequence->aliases)
        row(tr("“%1”").arg(qt(from)), tr("is read as %1").arg(qt(to)));
    offer(tr("Units of intervals from a table…"), [this] { emit actionAsked(ImportInterpretation{}); });
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
        parts->addWidget(more);
        wide(line);
    }
    words(tr("Each of them is a row of the table “Contacts not in logs”, where it can be excluded."));
}

/// What the geologist decided: by unit, and picks one by one.
void SequenceShelf::fillByHand() {
    const auto& own = *products()->project.interpretation;
    if (own.intervals.empty() && own.picks.empty()) return;
    heading(tr("Decided by hand"));
    std::map<std::string, int> counts;
    for (const auto& c : own.intervals) ++counts[c.unit];
    for (const auto& [unit, n] : counts)
        row(counted(qint64(n), "interval"), unit.empty() ? tr("no unit") : qt(unit),
            [this, code = qt(unit)] { selection()->setUnit(code); });
    constexpr std::size_t kShown = 20;
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
