#include "stages/sheets_shelf.h"

#include "project/sheet_edits.h"
#include "style/words.h"
#include "views/kept_templates.h"
#include "views/sheet_choice.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
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

} // namespace

SheetsShelf::SheetsShelf(Selection* s, QWidget* parent) : Shelf(tr("Sheets"), s, parent) {
    connect(mainButton(tr("Save the report…"), tr("Write all sheets of the report that are ticked as one PDF, or a file a page")),
            &QPushButton::clicked, this, [this] { emit actionAsked(SaveReport{}); });
    for (const auto signal :
         {&Selection::sheetTemplateChanged, &Selection::holeChanged, &Selection::sectionChanged, &Selection::unitChanged,
          &Selection::shownHolesChanged, &Selection::reportSheetChanged, &Selection::sheetElementChanged})
        connect(selection(), signal, this, &SheetsShelf::refill);
}

void SheetsShelf::changeLayoutBy(const std::function<void(SheetTemplate&)>& change, const std::string& what) {
    auto layout = templateOf(*selection(), products()->project);
    change(layout);
    if (layout == templateOf(*selection(), products()->project)) return;
    const auto changed = changeLayout(*selection(), products()->project, layout, what);
    const auto element = selection()->sheetElement();
    emit editMade(changed.edit);
    selection()->setReportSheet(changed.sheet);
    selection()->setSheetElement(element);
}

void SheetsShelf::changeElement(std::size_t at, const std::function<void(SheetElement&)>& change, const std::string& what) {
    changeLayoutBy([&](SheetTemplate& t) { change(t.elements.at(at)); }, what);
}

void SheetsShelf::changeSheetItems(bool all, const std::vector<std::string>& items) {
    emit editMade([name = selection()->reportSheet(), all, items](const Project& p) {
        return changeSheet(
            p, name, [&](ReportEntry& s) { s.all = all, s.items = items; }, "what it is filled with");
    });
}

void SheetsShelf::fillBody() {
    const auto& project = products()->project;
    if (const auto* sheet = reportSheetOf(*selection(), project)) {
        sheetRows(*sheet);
        itemRows();
        heading(tr("Templates"));
        templateRows();
        return;
    }
    heading(tr("Template"));
    templateRows();
    itemRows();
}

/// A sheet of the report: its name, and what it is filled with.
void SheetsShelf::sheetRows(const ReportEntry& sheet) {
    heading(tr("Sheet of the report"));
    auto* name = new QLineEdit(qt(sheet.name));
    name->setObjectName("sheetName");
    name->setAccessibleName(tr("Name of the sheet"));
    connect(name, &QLineEdit::editingFinished, this, [this, name, before = sheet.name] {
        const auto wanted = name->text().toStdString();
        if (wanted == before) return;
        emit editMade([before, wanted](const Project& p) { return renameSheet(p, before, wanted); });
        selection()->setReportSheet(wanted);
    });
    wide(name);
    const auto& project = products()->project;
    const std::string of = itemOf(sheet.layout.kind);
    if (of.empty()) return;
    const auto one = sheetItemOf(*selection(), project);
    QStringList choices{tr("all %1").arg(counted(qint64(itemsFor(sheet.layout, project).size()), of.c_str()))};
    std::vector<std::function<void()>> use{[this] { changeSheetItems(true, {}); }};
    int now = 0;
    if (of == "hole" && selection()->shownHoles()) {
        const auto& shown = *selection()->shownHoles();
        choices << tr("the %1 shown").arg(counted(qint64(shown.size()), "hole"));
        use.push_back([this, holes = std::vector(shown.begin(), shown.end())] { changeSheetItems(false, holes); });
    }
    if (one) {
        choices << tr("%1 alone").arg(qt(*one));
        use.push_back([this, one = *one] { changeSheetItems(false, {one}); });
    }
    if (!sheet.all) {
        choices << tr("%1 that were chosen").arg(counted(qint64(sheet.items.size()), of.c_str()));
        use.push_back([] {});
        now = int(choices.size()) - 1;
    }
    choiceRow(tr("Filled with"), "sheetFilledWith", choices, now, [use](int i) { use[std::size_t(i)](); });
    holeLayoutRows(sheet);
}

/// Of a sheet of logs: which layout the hole that is looked at has, and which all holes of its kind.
void SheetsShelf::holeLayoutRows(const ReportEntry& sheet) {
    const auto item = sheetItemOf(*selection(), products()->project);
    const auto* hole = item ? findHole(*products()->project.holes, *item) : nullptr;
    if (!hole || sheet.layout.kind != SheetKind::Log) return;
    const auto templates = logTemplates();
    const std::string kind = fox::words(kindOf(*hole));
    for (const auto& [key, text, usual, objectName] :
         {std::tuple(kind, tr("All %1 holes").arg(qt(kind)), tr("as the sheet: %1").arg(qt(sheet.layout.name)), "kindTemplate"),
          {*item, qt(*item), tr("as its kind"), "holeTemplate"}}) {
        QStringList choices{usual};
        int now = 0;
        const auto own = sheet.others.find(key);
        for (const auto& t : templates) {
            if (own != sheet.others.end() && own->second == t) now = int(choices.size());
            choices << qt(t.name);
        }
        if (own != sheet.others.end() && now == 0)
            now = int(choices.size()), choices << tr("%1, changed").arg(qt(own->second.name));
        choiceRow(text, objectName, choices, now, [this, name = sheet.name, key = key, templates](int i) {
            if (i > int(templates.size())) return; // the one that it has
            emit editMade([name, key, t = i > 0 ? std::optional(templates[std::size_t(i) - 1]) : std::nullopt](const Project& p) {
                return changeSheet(
                    p, name,
                    [&](ReportEntry& changed) {
                        changed.others.erase(key);
                        if (t) changed.others.emplace(key, *t);
                    },
                    "template of " + key);
            });
        });
    }
}

void SheetsShelf::templateRows() {
    const auto& chosen = templateOf(*selection(), products()->project);
    const bool byItself = !reportSheetOf(*selection(), products()->project);
    bool isShipped = false;
    const auto show = [this](const SheetTemplate& t) {
        selection()->setReportSheet("");
        selection()->setSheetTemplate(std::make_shared<const SheetTemplate>(t));
    };
    for (const auto& t : shippedTemplates()) {
        isShipped |= t == chosen;
        row(
            begun(t.name), paperSize(t), [show, &t] { show(t); }, byItself && t == chosen);
    }
    for (const auto& t : keptTemplates()) {
        isShipped |= t == chosen;
        row(
            tr("%1, kept").arg(begun(t.name)), paperSize(t), [show, t] { show(t); }, byItself && t == chosen);
    }
    if (byItself && !isShipped) row(begun(chosen.name), paperSize(chosen), {}, true);
    if (byItself)
        offer(tr("Add to the report"), [this, t = chosen] {
            const auto changed = changeLayout(*selection(), products()->project, t, "add");
            emit editMade(changed.edit);
            selection()->setReportSheet(changed.sheet);
        });
    if (isKept(chosen))
        offer(tr("Keep %1 no longer").arg(begun(chosen.name)),
              [this, name = chosen.name] { emit actionAsked(DropTemplate{name}); });
    offer(tr("Keep the template for all projects…"), [this] { emit actionAsked(KeepTemplate{}); });
    offer(tr("Open a template…"), [this] { emit actionAsked(OpenTemplate{}); });
    offer(tr("Save the template…"), [this] { emit actionAsked(SaveTemplate{}); });
}

/// What the template is filled with, to look at.
void SheetsShelf::itemRows() {
    const auto& t = templateOf(*selection(), products()->project);
    const auto& project = products()->project;
    const std::string of = itemOf(t.kind);
    if (of.empty()) return;
    const auto items = sheetItemsOf(*selection(), project);
    const auto chosen = sheetItemOf(*selection(), project);
    heading(of == "hole" ? tr("Holes") : of == "section" ? tr("Sections") : tr("Units with a base"));
    if (items.empty()) words(tr("The project has none yet."));
    const auto names = displayNames(*project.holes);
    for (const auto& item : items) {
        const auto hole = std::size_t(std::ranges::find(names, item) - names.begin());
        const auto section =
            std::size_t(std::ranges::find(*project.sections, item, &SectionLine::name) - project.sections->begin());
        const auto go = [this, of, hole, section, name = qt(item)] {
            if (of == "hole") selection()->setHole(qt((*products()->project.holes)[hole].name));
            if (of == "section") selection()->setSection(int(section));
            if (of == "unit") selection()->setUnit(name);
        };
        QString right;
        if (of == "hole") right = tr("%1 m").arg((*project.holes)[hole].end().metres, 0, 'f', 2);
        if (of == "section") right = tr("%1 m").arg(lengthOf((*project.sections)[section].line), 0, 'f', 0);
        row(of == "section" ? tr("%1 to %1′").arg(qt(item)) : qt(item), right, go, chosen == item);
    }
}

void SheetsShelf::fillCard() {
    const auto& t = templateOf(*selection(), products()->project);
    if (const auto at = selection()->sheetElement(); at && *at < t.elements.size()) return elementCard(t.elements[*at], *at);
    outputCard();
}

void SheetsShelf::saveButton(const QString& text, const char* objectName, const SaveSheets& what, const QString& tip) {
    auto* button = new QPushButton(text, this);
    button->setObjectName(objectName);
    button->setToolTip(tip);
    connect(button, &QPushButton::clicked, this, [this, what] { emit actionAsked(what); });
    cardWide(button);
}

void SheetsShelf::outputCard() {
    const auto& project = products()->project;
    const auto& t = templateOf(*selection(), project);
    using Which = SaveSheets::Which;
    const std::string of = itemOf(t.kind);
    cardTitle(begun(t.name), of.empty() ? QString() : tr("one %1 each").arg(qt(of)));
    saveButton(tr("Save this sheet…"), "saveThisSheet", {Which::This, false});
    auto* print = new QPushButton(tr("Print this sheet…"), this);
    print->setObjectName("printThisSheet");
    connect(print, &QPushButton::clicked, this, [this] { emit actionAsked(PrintSheets{}); });
    cardWide(print);
    auto* grey = new QCheckBox(tr("black and white"), this);
    grey->setObjectName("blackAndWhite");
    grey->setToolTip(tr("Patterns without colours, lines and words in black"));
    grey->setChecked(t.blackAndWhite);
    connect(grey, &QCheckBox::toggled, this, [this](bool on) {
        changeLayoutBy([on](SheetTemplate& c) { c.blackAndWhite = on; }, on ? "black and white" : "colours");
    });
    cardWide(grey);
    if (of.empty()) return;
    saveButton(tr("Save all %1…").arg(counted(qint64(sheetItemsOf(*selection(), project).size()), of.c_str())), "saveAllSheets",
               {Which::All, false});
    saveButton(tr("Save a PDF each…"), "saveSheetsApart", {Which::All, true},
               tr("A file for every %1, named by it, in a folder").arg(qt(of)));
    if (of == "hole" && selection()->shownHoles())
        saveButton(tr("Save the %1 shown…").arg(counted(qint64(selection()->shownHoles()->size()), "hole")), "saveShownSheets",
                   {Which::ShownHoles, false});
}

} // namespace fox::app
