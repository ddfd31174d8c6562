#include "stages/sheets_shelf.h"

#include "project/sheet_edits.h"
#include "style/words.h"
#include "views/number_box.h"
#include "views/sheet_choice.h"
#include "views/value_text.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
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

NumberBox* numberBox(double value, double least, double most, int decimals, const QString& suffix,
                     const std::function<void(double)>& changed) {
    auto* box = new NumberBox;
    box->setRange(least, most);
    box->setDecimals(decimals);
    box->setSuffix(suffix);
    box->setValue(value);
    box->setKeyboardTracking(false);
    box->setButtonSymbols(QAbstractSpinBox::NoButtons);
    QObject::connect(box, &QDoubleSpinBox::valueChanged, box, changed);
    return box;
}

QComboBox* choiceBox(QComboBox* box, const QStringList& choices, int now, const std::function<void(int)>& changed) {
    box->addItems(choices);
    box->setCurrentIndex(now);
    QObject::connect(box, &QComboBox::activated, box, changed);
    return box;
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
    if (byItself && !isShipped) row(begun(chosen.name), paperSize(chosen), {}, true);
    if (byItself)
        offer(tr("Add to the report"), [this, t = chosen] {
            const auto changed = changeLayout(*selection(), products()->project, t, "add");
            emit editMade(changed.edit);
            selection()->setReportSheet(changed.sheet);
        });
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
    if (of.empty()) return;
    saveButton(tr("Save all %1…").arg(counted(qint64(sheetItemsOf(*selection(), project).size()), of.c_str())), "saveAllSheets",
               {Which::All, false});
    saveButton(tr("Save a PDF each…"), "saveSheetsApart", {Which::All, true},
               tr("A file for every %1, named by it, in a folder").arg(qt(of)));
    if (of == "hole" && selection()->shownHoles())
        saveButton(tr("Save the %1 shown…").arg(counted(qint64(selection()->shownHoles()->size()), "hole")), "saveShownSheets",
                   {Which::ShownHoles, false});
}

/// The settings of what is chosen on the page.
void SheetsShelf::elementCard(const SheetElement& e, std::size_t at) {
    using Kind = SheetElement::Kind;
    cardTitle(begun(fox::words(e.kind)), tr("%1 × %2 mm").arg(e.width, 0, 'f', 1).arg(e.height, 0, 'f', 1));
    if (e.kind == Kind::Text) textCard(e, at);
    if (e.kind == Kind::Line || e.kind == Kind::Box)
        cardWidget(tr("Pen"), numberBox(e.pen, 0, 5, 2, tr(" mm"), [this, at](double v) {
                       changeElement(
                           at, [v](SheetElement& c) { c.pen = v; }, "pen");
                   }));
    auto* place = new QWidget;
    auto* line = new QHBoxLayout(place);
    line->setContentsMargins(0, 0, 0, 0);
    for (const bool across : {true, false}) {
        auto* box = numberBox(across ? e.x : e.y, -1000, 5000, 1, tr(" mm"), [this, at, across](double v) {
            changeElement(
                at, [v, across](SheetElement& c) { (across ? c.x : c.y) = v; }, "move an element");
        });
        box->setObjectName(across ? "elementX" : "elementY");
        box->setAccessibleName(across ? tr("From the left") : tr("From the top"));
        line->addWidget(box);
    }
    cardWidget(tr("Left, top"), place);
    auto* pages =
        choiceBox(narrowBox(), {tr("all pages"), tr("the first page"), tr("further pages")}, int(e.pages), [this, at](int i) {
            changeElement(
                at, [i](SheetElement& c) { c.pages = SheetElement::Pages(i); }, "pages of an element");
        });
    pages->setObjectName("elementPages");
    cardWidget(tr("On"), pages);
    const auto& t = templateOf(*selection(), products()->project);
    if (e.kind == Kind::Body && t.kind == SheetKind::Log && !t.columns.empty()) columnCard();
}

void SheetsShelf::textCard(const SheetElement& e, std::size_t at) {
    const auto kind = templateOf(*selection(), products()->project).kind;
    auto* text = new ValueText(e.text, sheetValues(kind, *products()), this);
    text->setObjectName("elementText");
    text->setAccessibleName(tr("Text of the element"));
    text->setFixedHeight(84);
    connect(text, &ValueText::committed, this, [this, text, at, before = e.text] {
        if (const auto runs = text->runs(); runs != before)
            changeElement(
                at, [&](SheetElement& c) { c.text = runs; }, "text");
    });
    cardWide(text);
    auto* value = new QPushButton(tr("Add value…"), this);
    value->setObjectName("addValue");
    value->setToolTip(tr("A value of the hole, the site, the page or the file, put into the text"));
    connect(value, &QPushButton::clicked, this,
            [text, value] { text->chooseValue(value->mapToGlobal(QPoint(0, value->height()))); });
    cardWide(value);
    auto* look = new QWidget;
    auto* line = new QHBoxLayout(look);
    line->setContentsMargins(0, 0, 0, 0);
    auto* size = numberBox(e.size, 0.5, 50, 1, tr(" mm"), [this, at](double v) {
        changeElement(
            at, [v](SheetElement& c) { c.size = v; }, "size of letters");
    });
    size->setObjectName("elementSize");
    auto* strong = new QCheckBox(tr("strong"));
    strong->setObjectName("elementStrong");
    strong->setChecked(e.strong);
    connect(strong, &QCheckBox::toggled, this, [this, at](bool on) {
        changeElement(
            at, [on](SheetElement& c) { c.strong = on; }, "weight of letters");
    });
    line->addWidget(size, 1);
    line->addWidget(strong);
    cardWidget(tr("Letters"), look);
    cardWidget(tr("Stands"), choiceBox(narrowBox(), {tr("to the left"), tr("in the middle"), tr("to the right")}, int(e.align),
                                       [this, at](int i) {
                                           changeElement(
                                               at, [i](SheetElement& c) { c.align = SheetElement::Align(i); }, "place of a text");
                                       }));
}

/// A log's columns, one at a time.
void SheetsShelf::columnCard() {
    const auto& columns = templateOf(*selection(), products()->project).columns;
    m_column = std::min(m_column, columns.size() - 1);
    const auto at = m_column;
    const auto& column = columns[at];
    const auto change = [this, at](const std::function<void(LogColumn&)>& how) {
        changeLayoutBy([&](SheetTemplate& t) { how(t.columns.at(at)); }, "a column of the log");
    };
    QStringList names;
    for (std::size_t c = 0; c < columns.size(); ++c)
        names << tr("%1. %2").arg(c + 1).arg(columns[c].title.empty() ? QString(fox::words(columns[c].kind))
                                                                      : qt(columns[c].title));
    auto* which = choiceBox(narrowBox(), names, int(at), [this](int i) {
        m_column = std::size_t(i);
        refill();
    });
    which->setObjectName("logColumn");
    cardWidget(tr("Column"), which);
    QStringList kinds;
    for (int k = 0; k <= int(LogColumn::Kind::Field); ++k) kinds << fox::words(LogColumn::Kind(k));
    auto* kind = choiceBox(narrowBox(), kinds, int(column.kind), [change](int i) {
        change([i](LogColumn& c) { c.kind = LogColumn::Kind(i), c.title = fox::words(c.kind), c.heading.clear(); });
    });
    kind->setObjectName("logColumnKind");
    cardWidget(tr("Shows"), kind);
    auto* title = new QLineEdit(qt(column.title));
    title->setObjectName("logColumnTitle");
    connect(title, &QLineEdit::editingFinished, this,
            [change, title] { change([&](LogColumn& c) { c.title = title->text().toStdString(); }); });
    cardWidget(tr("Title"), title);
    auto* width =
        numberBox(column.width, 4, 300, 1, tr(" mm"), [change](double v) { change([v](LogColumn& c) { c.width = v; }); });
    width->setObjectName("logColumnWidth");
    cardWidget(tr("Width"), width);
    auto* buttons = new QWidget;
    auto* line = new QHBoxLayout(buttons);
    line->setContentsMargins(0, 0, 0, 0);
    const auto button = [&](const QString& words, const char* name, const std::function<void(SheetTemplate&)>& how,
                            bool possible) {
        auto* b = new QPushButton(words);
        b->setObjectName(name);
        b->setEnabled(possible);
        connect(b, &QPushButton::clicked, this, [this, how] { changeLayoutBy(how, "the log's columns"); });
        line->addWidget(b);
    };
    const LogColumn fresh{LogColumn::Kind::Field, 14, "New"};
    button(
        tr("Insert left"), "insertColumnLeft",
        [at, fresh](SheetTemplate& t) { t.columns.insert(t.columns.begin() + std::ptrdiff_t(at), fresh); }, true);
    button(
        tr("right"), "insertColumnRight",
        [at, fresh](SheetTemplate& t) { t.columns.insert(t.columns.begin() + std::ptrdiff_t(at) + 1, fresh); }, true);
    button(
        tr("Remove"), "removeColumn", [at](SheetTemplate& t) { t.columns.erase(t.columns.begin() + std::ptrdiff_t(at)); },
        columns.size() > 1);
    cardWide(buttons);
    auto* moves = new QWidget;
    line = new QHBoxLayout(moves);
    line->setContentsMargins(0, 0, 0, 0);
    button(
        tr("Move left"), "moveColumnLeft", [at](SheetTemplate& t) { std::swap(t.columns[at], t.columns[at - 1]); }, at > 0);
    button(
        tr("Move right"), "moveColumnRight", [at](SheetTemplate& t) { std::swap(t.columns[at], t.columns[at + 1]); },
        at + 1 < columns.size());
    cardWide(moves);
}

} // namespace fox::app
