// The cards of the Sheets stage: settings of what is chosen on a page.
#include "sequence/test_values.h"
#include "sheets/log_pages.h"
#include "sheets/log_rows.h"
#include "sheets/sheet_chart.h"
#include "stages/sheets_shelf.h"
#include "style/words.h"
#include "views/number_box.h"
#include "views/sheet_choice.h"
#include "views/value_text.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>

namespace fox::app {

namespace {

QComboBox* choiceBox(QComboBox* box, const QStringList& choices, int now, const std::function<void(int)>& changed) {
    box->addItems(choices);
    box->setCurrentIndex(now);
    QObject::connect(box, &QComboBox::activated, box, changed);
    return box;
}

/// What a column of a kind can be of: curves, single values, columns of the geology, headings of groups with depths.
QStringList fittingHeadings(LogColumn::Kind kind, const ProductSet& products) {
    std::set<std::string> out;
    for (const auto& hole : *products.project.holes) {
        if (kind == LogColumn::Kind::Curve || kind == LogColumn::Kind::Values)
            for (const auto& c : hole.curves)
                if (c.single == (kind == LogColumn::Kind::Values)) out.insert(c.name);
        if (kind == LogColumn::Kind::Codes)
            for (const auto& i : hole.intervals)
                for (const auto& [heading, code] : i.codes) out.insert(heading);
    }
    if (kind == LogColumn::Kind::Field) {
        const auto fields = depthFields(products);
        out.insert(fields.begin(), fields.end());
    }
    QStringList names;
    for (const auto& name : out) names << qt(name);
    return names;
}

} // namespace

/// The settings of what is chosen on the page.
void SheetsShelf::elementCard(const SheetElement& e, std::size_t at) {
    using Kind = SheetElement::Kind;
    cardTitle(begun(fox::words(e.kind)), tr("%1 × %2 mm").arg(e.width, 0, 'f', 1).arg(e.height, 0, 'f', 1));
    if (e.kind == Kind::Text) textCard(e, at);
    if (e.kind == Kind::Line || e.kind == Kind::Box)
        cardWidget(tr("Pen"), makeNumberBox(e.pen, 0, 5, 2, tr(" mm"), [this, at](double v) {
                       changeElement(
                           at, [v](SheetElement& c) { c.pen = v; }, "pen");
                   }));
    if (e.kind == Kind::Table) tableCard(e, at);
    if (e.kind == Kind::Chart) chartCard(e, at);
    const auto& t = templateOf(*selection(), products()->project);
    if (e.kind == Kind::Body) scaleCard(t);
    if (e.kind == Kind::Body && (t.kind == SheetKind::Plan || t.kind == SheetKind::Map || t.kind == SheetKind::Contours))
        frameCard(t);
    auto* place = new QWidget;
    auto* line = new QHBoxLayout(place);
    line->setContentsMargins(0, 0, 0, 0);
    for (const bool across : {true, false}) {
        auto* box = makeNumberBox(across ? e.x : e.y, -1000, 5000, 1, tr(" mm"), [this, at, across](double v) {
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
    if (e.kind == Kind::Body && t.kind == SheetKind::Log && !t.columns.empty()) columnCard();
}

/// Which table of the project.
void SheetsShelf::tableCard(const SheetElement& e, std::size_t at) { whatCard(e, at, sheetTables(), "elementTable"); }

/// Which chart of the project.
void SheetsShelf::chartCard(const SheetElement& e, std::size_t at) { whatCard(e, at, sheetCharts(*products()), "elementChart"); }

void SheetsShelf::whatCard(const SheetElement& e, std::size_t at, const std::vector<std::pair<std::string, std::string>>& all,
                           const char* objectName) {
    QStringList choices;
    int now = -1;
    for (const auto& [key, words] : all) {
        if (key == e.what) now = int(choices.size());
        choices << qt(words);
    }
    auto* box = choiceBox(narrowBox(), choices, now, [this, at, all](int i) {
        changeElement(
            at, [key = all[std::size_t(i)].first](SheetElement& c) { c.what = key; }, "what an element shows");
    });
    box->setObjectName(objectName);
    cardWidget(tr("Shows"), box);
}

/// Scales of what the sheet is of; 0 is to fit.
void SheetsShelf::scaleCard(const SheetTemplate& t) {
    const bool hasMap = t.kind == SheetKind::Plan || t.kind == SheetKind::Map || t.kind == SheetKind::Contours;
    const auto add = [this](const QString& words, const char* objectName, double now, double SheetTemplate::*which) {
        auto* box = makeNumberBox(now, 0, 1e9, 0, {}, [this, which](double v) {
            changeLayoutBy([v, which](SheetTemplate& c) { c.*which = v; }, "scale");
        });
        box->setPrefix("1:");
        box->setSpecialValueText(tr("to fit"));
        box->setObjectName(objectName);
        box->setToolTip(tr("0 is the largest usual scale at which all has room"));
        cardWidget(words, box);
    };
    if (hasMap || t.kind == SheetKind::Log || t.kind == SheetKind::Section)
        add(tr("Scale"), "sheetScale", t.scale, &SheetTemplate::scale);
    if (t.kind == SheetKind::Section || t.kind == SheetKind::Correlation)
        add(tr("Levels"), "sheetLevels", t.verticalScale, &SheetTemplate::verticalScale);
    if (t.kind == SheetKind::Log) metresRow(t);
    if (t.kind != SheetKind::Section) return;
    QStringList tests{tr("nothing")};
    int now = 0;
    for (const auto& q : testQuantities(*products()->project.holes)) {
        if (q.name == t.beside) now = int(tests.size());
        tests << qt(q.name);
    }
    auto* beside = choiceBox(narrowBox(), tests, now, [this, tests](int i) {
        changeLayoutBy([&](SheetTemplate& c) { c.beside = i > 0 ? tests[i].toStdString() : std::string(); },
                       "graphs beside holes");
    });
    beside->setObjectName("besideHoles");
    cardWidget(tr("Beside holes"), beside);
    auto* band = new QCheckBox(tr("bases with their 80 % band"), this);
    band->setObjectName("sheetUncertainty");
    band->setChecked(t.uncertainty);
    connect(band, &QCheckBox::toggled, this,
            [this](bool on) { changeLayoutBy([on](SheetTemplate& c) { c.uncertainty = on; }, "uncertainty of a section"); });
    cardWide(band);
}

/// How much of a hole is on the first page: another way to say its scale.
void SheetsShelf::metresRow(const SheetTemplate& t) {
    const auto body = std::ranges::find(t.elements, SheetElement::Kind::Body, &SheetElement::kind);
    if (body == t.elements.end()) return;
    const double room = logRoom(body->height);
    auto* box = makeNumberBox(t.scale > 0 ? room * t.scale / 1000 : 0, 0, 10000, 1, tr(" m"), [this, room](double v) {
        changeLayoutBy([v, room](SheetTemplate& c) { c.scale = v > 0 ? 1000 * v / room : 0; }, "metres a page");
    });
    box->setObjectName("metresAPage");
    box->setSpecialValueText(tr("the whole hole"));
    cardWidget(tr("Metres a page"), box);
}

/// What a plan or map shows in its frame.
void SheetsShelf::frameCard(const SheetTemplate& t) {
    areaRows(t);
    auto* shows = new QPushButton(this);
    shows->setObjectName("frameShows");
    shows->setText(tr("choose…"));
    auto* menu = new QMenu(shows);
    for (const auto& [words, which] : {std::pair(tr("holes"), &SheetTemplate::holes),
                                       {tr("names of holes"), &SheetTemplate::holeNames},
                                       {tr("contours"), &SheetTemplate::contours},
                                       {tr("sections, faults and outlines"), &SheetTemplate::lines},
                                       {tr("lines of other files"), &SheetTemplate::background},
                                       {tr("survey points"), &SheetTemplate::points},
                                       {tr("coordinates"), &SheetTemplate::grid},
                                       {tr("coordinates as whole lines"), &SheetTemplate::gridLines}}) {
        auto* action = menu->addAction(words);
        action->setCheckable(true);
        action->setChecked(t.*which);
        connect(action, &QAction::toggled, this, [this, which = which](bool on) {
            changeLayoutBy([on, which](SheetTemplate& c) { c.*which = on; }, "what a plan shows");
        });
    }
    shows->setMenu(menu);
    cardWidget(tr("Shows"), shows);
    if (t.kind == SheetKind::Map) {
        auto* units = new QPushButton(this);
        units->setObjectName("mapUnits");
        QStringList without;
        for (const auto& code : t.without) without << qt(code);
        units->setText(without.empty() ? tr("all units") : tr("without %1").arg(without.join(", ")));
        units->setToolTip(tr("Units that are left out are looked through: the map has what lies under them"));
        auto* list = new QMenu(units);
        for (const auto& u : products()->project.sequence->units) {
            auto* action = list->addAction(qt(u.code + "  " + u.name));
            action->setCheckable(true);
            action->setChecked(std::ranges::count(t.without, u.code) == 0);
            connect(action, &QAction::toggled, this, [this, code = u.code](bool on) {
                changeLayoutBy(
                    [&](SheetTemplate& c) {
                        std::erase(c.without, code);
                        if (!on) c.without.push_back(code);
                    },
                    "units of a map");
            });
        }
        units->setMenu(list);
        cardWidget(tr("Units"), units);
    }
    auto* pen = makeNumberBox(t.contourPen, 0.05, 2, 2, tr(" mm"), [this](double v) {
        changeLayoutBy([v](SheetTemplate& c) { c.contourPen = v; }, "weight of contours");
    });
    pen->setObjectName("contourPen");
    auto* ink = new QLineEdit(qt(t.contourColour));
    ink->setObjectName("contourColour");
    ink->setPlaceholderText("#9A8458");
    ink->setAccessibleName(tr("Colour of contours"));
    connect(ink, &QLineEdit::editingFinished, this, [this, ink] {
        changeLayoutBy([&](SheetTemplate& c) { c.contourColour = ink->text().trimmed().toStdString(); }, "colour of contours");
    });
    auto* contours = new QWidget;
    auto* line = new QHBoxLayout(contours);
    line->setContentsMargins(0, 0, 0, 0);
    line->addWidget(pen);
    line->addWidget(ink);
    cardWidget(tr("Contours"), contours);
    auto* names = makeNumberBox(t.labelSize, 1, 10, 1, tr(" mm"), [this](double v) {
        changeLayoutBy([v](SheetTemplate& c) { c.labelSize = v; }, "size of names");
    });
    names->setObjectName("labelSize");
    cardWidget(tr("Names"), names);
}

/// Which part of the ground is in the frame: all, where it has been moved to, or an area with a name.
void SheetsShelf::areaRows(const SheetTemplate& t) {
    const auto areas = namedAreas(products()->project);
    QStringList choices{tr("all that there is")};
    int now = 0;
    if (t.centre && t.area.empty()) now = 1, choices << tr("as it was moved");
    const int first = int(choices.size());
    for (const auto& a : areas) {
        if (a.area == t.area && a.centre == t.centre && a.scale == t.scale) now = int(choices.size());
        choices << qt(a.area);
    }
    auto* box = choiceBox(narrowBox(), choices, now, [this, areas, first](int i) {
        changeLayoutBy(
            [&](SheetTemplate& c) {
                if (i == 0) c.centre.reset(), c.area.clear(), c.scale = 0;
                if (i >= first)
                    c.centre = areas[std::size_t(i - first)].centre, c.scale = areas[std::size_t(i - first)].scale,
                    c.area = areas[std::size_t(i - first)].area;
            },
            "area of a map");
    });
    box->setObjectName("mapArea");
    box->setToolTip(tr("Press “move map” over the page to move it in its frame"));
    cardWidget(tr("Area"), box);
    if (!t.centre) return;
    auto* name = new QLineEdit(qt(t.area));
    name->setObjectName("areaName");
    name->setPlaceholderText(tr("a name, to use it again"));
    connect(name, &QLineEdit::editingFinished, this, [this, name] {
        changeLayoutBy([&](SheetTemplate& c) { c.area = name->text().trimmed().toStdString(); }, "name of an area");
    });
    cardWidget(tr("Name"), name);
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
    auto* size = makeNumberBox(e.size, 0.5, 50, 1, tr(" mm"), [this, at](double v) {
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
    const auto at = std::min(selection()->sheetColumn(), columns.size() - 1);
    const auto& column = columns[at];
    const auto change = [this, at](const std::function<void(LogColumn&)>& how) {
        changeLayoutBy([&](SheetTemplate& t) { how(t.columns.at(at)); }, "a column of the log");
    };
    QStringList names;
    for (std::size_t c = 0; c < columns.size(); ++c)
        names << tr("%1. %2").arg(c + 1).arg(columns[c].title.empty() ? QString(fox::words(columns[c].kind))
                                                                      : qt(columns[c].title));
    auto* which = choiceBox(narrowBox(), names, int(at),
                            [this](int i) { selection()->setSheetElement(selection()->sheetElement(), std::size_t(i)); });
    which->setObjectName("logColumn");
    cardWidget(tr("Column"), which);
    QStringList kinds;
    for (int k = 0; k <= int(LogColumn::Kind::Remarks); ++k) kinds << fox::words(LogColumn::Kind(k));
    auto* kind = choiceBox(narrowBox(), kinds, int(column.kind), [change](int i) {
        change([i](LogColumn& c) { c.kind = LogColumn::Kind(i), c.title = fox::words(c.kind), c.heading.clear(); });
    });
    kind->setObjectName("logColumnKind");
    cardWidget(tr("Shows"), kind);
    using Kind = LogColumn::Kind;
    if (column.kind == Kind::Codes || column.kind == Kind::Curve || column.kind == Kind::Values || column.kind == Kind::Field) {
        const auto fitting = fittingHeadings(column.kind, *products());
        auto* heading = new QPushButton(column.heading.empty() ? tr("choose…") : qt(column.heading), this);
        heading->setObjectName("logColumnHeading");
        heading->setEnabled(!fitting.isEmpty());
        if (fitting.isEmpty()) heading->setToolTip(tr("The project has nothing of this kind"));
        const bool several = column.kind == Kind::Curve || column.kind == Kind::Values;
        QStringList chosen = qt(column.heading).split(',', Qt::SkipEmptyParts);
        for (auto& name : chosen) name = name.trimmed();
        auto* menu = new QMenu(heading);
        for (const auto& name : fitting) {
            auto* action = menu->addAction(name);
            action->setCheckable(true);
            action->setChecked(chosen.contains(name));
            connect(action, &QAction::triggered, this, [change, name, several, chosen](bool on) {
                auto of = several ? chosen : QStringList();
                of.removeAll(name);
                if (on) of << name;
                change([&](LogColumn& c) { c.heading = of.join(", ").toStdString(); });
            });
        }
        heading->setMenu(menu);
        cardWidget(tr("Of"), heading);
    }
    if (column.kind == Kind::Curve) {
        auto* filled =
            choiceBox(narrowBox(), {tr("a line"), tr("filled to the left"), tr("filled to the right")}, int(column.filled),
                      [change](int i) { change([i](LogColumn& c) { c.filled = LogColumn::Filled(i); }); });
        filled->setObjectName("logColumnFilled");
        cardWidget(tr("Drawn as"), filled);
    }
    if (column.kind == Kind::Depth || column.kind == Kind::Level) {
        auto* feet = choiceBox(narrowBox(), {tr("metres"), tr("feet")}, column.feet,
                               [change](int i) { change([i](LogColumn& c) { c.feet = i == 1; }); });
        feet->setObjectName("logColumnFeet");
        cardWidget(tr("In"), feet);
    }
    if (column.kind == Kind::Depth || column.kind == Kind::Level) {
        auto* step = makeNumberBox(column.step, 0, 1000, 2, column.feet ? tr(" ft") : tr(" m"),
                                   [change](double v) { change([v](LogColumn& c) { c.step = v; }); });
        step->setSpecialValueText(tr("as there is room"));
        step->setObjectName("logColumnStep");
        cardWidget(tr("A tick each"), step);
    }
    if (column.kind == Kind::Units || column.kind == Kind::Model) {
        auto* both = new QWidget;
        auto* line = new QHBoxLayout(both);
        line->setContentsMargins(0, 0, 0, 0);
        for (const auto& [words, part, objectName] : {std::tuple(tr("colours"), &LogColumn::colours, "logColumnColours"),
                                                      {tr("patterns"), &LogColumn::patterns, "logColumnPatterns"}}) {
            auto* tick = new QCheckBox(words);
            tick->setObjectName(objectName);
            tick->setChecked(column.*part);
            connect(tick, &QCheckBox::toggled, this,
                    [change, part = part](bool on) { change([on, part](LogColumn& c) { c.*part = on; }); });
            line->addWidget(tick);
        }
        cardWidget(tr("With"), both);
    }
    if (column.kind == Kind::Codes) {
        auto* as = choiceBox(narrowBox(), {tr("text"), tr("colours")}, column.asColour,
                             [change](int i) { change([i](LogColumn& c) { c.asColour = i == 1; }); });
        as->setObjectName("logColumnAs");
        cardWidget(tr("As"), as);
    }
    auto* title = new QLineEdit(qt(column.title));
    title->setObjectName("logColumnTitle");
    connect(title, &QLineEdit::editingFinished, this,
            [change, title] { change([&](LogColumn& c) { c.title = title->text().toStdString(); }); });
    cardWidget(tr("Title"), title);
    auto* width =
        makeNumberBox(column.width, 4, 300, 1, tr(" mm"), [change](double v) { change([v](LogColumn& c) { c.width = v; }); });
    width->setObjectName("logColumnWidth");
    cardWidget(tr("Width"), width);
    auto* buttons = new QWidget;
    auto* line = new QHBoxLayout(buttons);
    line->setContentsMargins(0, 0, 0, 0);
    // the column that was moved or put in is the one that is shown after it
    const auto button = [&](const QString& words, const char* name, const std::function<void(SheetTemplate&)>& how, bool possible,
                            std::size_t after) {
        auto* b = new QPushButton(words);
        b->setObjectName(name);
        b->setEnabled(possible);
        connect(b, &QPushButton::clicked, this, [this, how, after] {
            changeLayoutBy(how, "the log's columns");
            selection()->setSheetElement(selection()->sheetElement(), after);
        });
        line->addWidget(b);
    };
    const LogColumn fresh{LogColumn::Kind::Field, 14, "New"};
    const auto here = std::ptrdiff_t(at);
    button(
        tr("Insert left"), "insertColumnLeft",
        [here, fresh](SheetTemplate& t) { t.columns.insert(t.columns.begin() + here, fresh); }, true, at);
    button(
        tr("right"), "insertColumnRight",
        [here, fresh](SheetTemplate& t) { t.columns.insert(t.columns.begin() + here + 1, fresh); }, true, at + 1);
    button(
        tr("Remove"), "removeColumn", [here](SheetTemplate& t) { t.columns.erase(t.columns.begin() + here); }, columns.size() > 1,
        at);
    cardWide(buttons);
    auto* moves = new QWidget;
    line = new QHBoxLayout(moves);
    line->setContentsMargins(0, 0, 0, 0);
    button(
        tr("Move left"), "moveColumnLeft", [at](SheetTemplate& t) { std::swap(t.columns[at], t.columns[at - 1]); }, at > 0,
        at - 1);
    button(
        tr("Move right"), "moveColumnRight", [at](SheetTemplate& t) { std::swap(t.columns[at], t.columns[at + 1]); },
        at + 1 < columns.size(), at + 1);
    cardWide(moves);
}

} // namespace fox::app
