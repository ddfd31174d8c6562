#include "stages/sheets_shelf.h"

#include "style/words.h"
#include "views/page_view.h"

#include <QPushButton>

namespace fox::app {

namespace {

/// "A4", "A3 wide", or its millimetres.
QString paperSize(const SheetTemplate& t) {
    const double narrow = std::min(t.width, t.height), wide = std::max(t.width, t.height);
    for (int n = 0; n < 5; ++n) {
        constexpr std::pair<double, double> kSizes[] = {{841, 1189}, {594, 841}, {420, 594}, {297, 420}, {210, 297}};
        if (kSizes[n] == std::pair(narrow, wide))
            return t.width > t.height ? Shelf::tr("A%1 wide").arg(n) : Shelf::tr("A%1").arg(n);
    }
    return Shelf::tr("%1 × %2 mm").arg(t.width, 0, 'g', 5).arg(t.height, 0, 'g', 5);
}

/// A name that begins a line.
QString begun(const std::string& name) {
    auto out = qt(name);
    if (!out.isEmpty()) out[0] = out[0].toUpper();
    return out;
}

} // namespace

SheetsShelf::SheetsShelf(Selection* s, QWidget* parent) : Shelf(tr("Sheets"), s, parent) {
    connect(mainButton(tr("Save sheets…"), tr("Write this sheet, or all of its kind, as PDF, SVG, PNG or DXF")),
            &QPushButton::clicked, this, [this] {
                emit actionAsked(SaveSheets{SaveSheets::Which::All, false});
            });
    for (const auto signal : {&Selection::sheetTemplateChanged, &Selection::holeChanged, &Selection::sectionChanged,
                              &Selection::unitChanged, &Selection::shownHolesChanged})
        connect(selection(), signal, this, &SheetsShelf::refill);
}

void SheetsShelf::fillBody() {
    const auto& chosen = templateOf(*selection());
    heading(tr("Template"));
    bool isShipped = false;
    for (const auto& t : shippedTemplates()) {
        isShipped |= t == chosen;
        row(
            begun(t.name), paperSize(t), [this, &t] { selection()->setSheetTemplate(std::make_shared<const SheetTemplate>(t)); },
            t == chosen);
    }
    if (!isShipped) row(begun(chosen.name), paperSize(chosen), {}, true);
    offer(tr("Open a template…"), [this] { emit actionAsked(OpenTemplate{}); });
    offer(tr("Save the template…"), [this] { emit actionAsked(SaveTemplate{}); });
    itemRows();
}

/// What the template can be filled with, to choose.
void SheetsShelf::itemRows() {
    const auto& t = templateOf(*selection());
    const auto& project = products()->project;
    const std::string of = itemOf(t.kind);
    if (of.empty()) return;
    const auto items = itemsFor(t, project);
    const auto chosen = sheetItemOf(t, project, *selection());
    heading(of == "hole" ? tr("Holes") : of == "section" ? tr("Sections") : tr("Units with a base"));
    if (items.empty()) words(tr("The project has none yet."));
    for (std::size_t i = 0; i < items.size(); ++i) {
        const auto go = [this, of, i, name = qt(items[i])] {
            if (of == "hole") selection()->setHole(qt((*products()->project.holes)[i].name));
            if (of == "section") selection()->setSection(int(i));
            if (of == "unit") selection()->setUnit(name);
        };
        QString right;
        if (of == "hole") right = tr("%1 m").arg((*project.holes)[i].end().metres, 0, 'f', 2);
        if (of == "section") right = tr("%1 m").arg(lengthOf((*project.sections)[i].line), 0, 'f', 0);
        row(of == "section" ? tr("%1 to %1′").arg(qt(items[i])) : qt(items[i]), right, go, chosen == items[i]);
    }
}

void SheetsShelf::fillCard() {
    const auto& t = templateOf(*selection());
    const auto& project = products()->project;
    const std::string of = itemOf(t.kind);
    const auto count = qint64(itemsFor(t, project).size());
    cardTitle(begun(t.name), of.empty() ? QString() : tr("one %1 each").arg(qt(of)));
    auto* one = new QPushButton(tr("Save this sheet…"), this);
    one->setObjectName("saveThisSheet");
    connect(one, &QPushButton::clicked, this, [this] { emit actionAsked(SaveSheets{SaveSheets::Which::This, false}); });
    cardWide(one);
    if (of.empty()) return;
    auto* all = new QPushButton(tr("Save all %1…").arg(counted(count, of.c_str())), this);
    all->setObjectName("saveAllSheets");
    connect(all, &QPushButton::clicked, this, [this] { emit actionAsked(SaveSheets{SaveSheets::Which::All, false}); });
    cardWide(all);
    auto* apart = new QPushButton(tr("Save a PDF each…"), this);
    apart->setObjectName("saveSheetsApart");
    apart->setToolTip(tr("A file for every %1, named by it, in a folder").arg(qt(of)));
    connect(apart, &QPushButton::clicked, this, [this] { emit actionAsked(SaveSheets{SaveSheets::Which::All, true}); });
    cardWide(apart);
    if (of != "hole" || !selection()->shownHoles()) return;
    auto* shown = new QPushButton(tr("Save the %1 shown…").arg(counted(qint64(selection()->shownHoles()->size()), "hole")), this);
    shown->setObjectName("saveShownSheets");
    connect(shown, &QPushButton::clicked, this, [this] { emit actionAsked(SaveSheets{SaveSheets::Which::ShownHoles, false}); });
    cardWide(shown);
}

} // namespace fox::app
