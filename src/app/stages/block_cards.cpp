// What the side panel shows of block models: the list, where one comes from, and how it is made.
#include "base/errors.h"
#include "base/files.h"
#include "base/length_unit.h"
#include "blocks/block_proposal.h"
#include "blocks/block_totals.h"
#include "formats/table.h"
#include "project/block_edits.h"
#include "sequence/test_values.h"
#include "stages/blocks_shelf.h"
#include "style/theme.h"
#include "style/words.h"
#include "views/block_words.h"
#include "views/variogram_chart.h"

#include <QFileDialog>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSettings>
#include <fmt/format.h>

namespace fox::app {

namespace {
constexpr const char* kSettingsShown = "blocks/settingsShown"; ///< how a model is made
}

void BlocksShelf::fillModels() {
    heading(tr("Block models"));
    const auto& specs = *products()->project.blockModels;
    const auto* chosen = chosenBlocks();
    for (std::size_t i = 0; i < specs.size(); ++i) {
        const auto* made = i < products()->blocks.size() ? products()->blocks[i].get() : nullptr;
        const auto right = !made             ? tr("being made")
                           : made->outOfDate ? tr("out of date")
                           : made->blocks    ? counted(qint64(made->blocks->known()), "block")
                                             : tr("can't be made");
        row(
            qt(specs[i].name), right,
            [this, name = specs[i].name] { changeLook([name](BlockLook& l) { l.model = name, l.showAll(); }); },
            chosen && chosen->spec.name == specs[i].name);
    }
    if (specs.empty())
        words(tr("A block model gives every place in the ground a value, from readings in the holes or at points."));
    offer(tr("Add a block model…"), [this] { chooseQuantity(); });
    offer(tr("Add from a file…"), [this] { emit actionAsked(AddBlocksFromFile{}); });
}

// --- a new one

void BlocksShelf::chooseQuantity() {
    auto* menu = new QMenu(this);
    menu->setObjectName("blockQuantityMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto& holes = *products()->project.holes;
    const auto quantity = [](const std::string& name, const std::string& unit, std::size_t values) {
        return tr("%1 (%2)").arg(unit.empty() ? qt(name) : tr("%1 in %2").arg(qt(name), qt(unit)),
                                 counted(qint64(values), "value"));
    };
    for (const auto& q : testQuantities(holes)) {
        const bool isCurve = std::ranges::any_of(holes, [&](const Hole& h) {
            return std::ranges::any_of(h.curves, [&](const Curve& c) { return c.name == q.name && c.unit == q.unit; });
        });
        menu->addAction(quantity(q.name, q.unit, q.values), this, [this, isCurve, name = q.name] {
            addModel(isCurve ? BlockSpec::Of::Curve : BlockSpec::Of::Test, name == "SPT N" ? "SPT" : name, "");
        });
    }
    if (menu->isEmpty()) menu->addAction(tr("The holes have no readings or test results"))->setEnabled(false);
    menu->addSeparator();
    for (const auto& source : *products()->project.valuePoints)
        menu->addAction(tr("%1, at points").arg(quantity(source.quantity, source.unit, source.points.size())), this,
                        [this, source] { addModel(BlockSpec::Of::Values, source.quantity, source.file); });
    menu->addAction(tr("Values at points, from a table…"), this, [this] { chooseTable(); });
    menu->popup(QCursor::pos());
}

void BlocksShelf::chooseTable() {
    const auto path = QFileDialog::getOpenFileName(this, tr("Values at points"),
                                                   QSettings().value("folderOf/blocks", QDir::homePath()).toString(),
                                                   tr("Tables (*.csv *.txt)"));
    if (path.isEmpty()) return;
    QSettings().setValue("folderOf/blocks", QFileInfo(path).absolutePath());
    try {
        const auto file = path.toStdString();
        const auto table = readTable(readBytes(file), file);
        const auto columns = valueColumns(table);
        if (!columns.complete())
            throw Error(
                tr("%1 has no header with easting, northing, level and a value. Import it: its columns can be told there, "
                   "and its values are then offered here.")
                    .arg(QFileInfo(path).fileName())
                    .toStdString());
        QStringList names;
        for (const auto c : columns.values) names << qt(table.columns[c]);
        bool ok = names.size() == 1;
        const auto column =
            ok ? names.front()
               : QInputDialog::getItem(this, tr("Values at points"), tr("The column with the values"), names, 0, false, &ok);
        if (ok) addModel(BlockSpec::Of::Points, std::string(headingWithUnit(column.toStdString()).name), file);
    } catch (const Error& e) {
        emit failed(qt(e.what()));
    }
}

void BlocksShelf::addModel(BlockSpec::Of of, const std::string& quantity, const std::string& file) {
    const auto& p = products()->project;
    if (!products()->frame || !products()->model || !products()->reading) return;
    BlockSpec spec;
    spec.of = of, spec.quantity = quantity, spec.file = file;
    spec.name = freeName(*p.blockModels, quantity.empty() ? "Blocks" : quantity);
    try {
        const auto values = compositesOf(spec, *p.holes, *products()->reading, *products()->model, *p.valuePoints);
        spec = proposedBlocks(spec, *products()->frame, values.values);
    } catch (const Error& e) {
        return emit failed(qt(e.what()));
    }
    QSettings().setValue(kSettingsShown, true);
    emit editMade([spec](const Project& now) { return addBlockModel(now, spec); });
    changeLook([&](BlockLook& l) { l.model = spec.name, l.showAll(); });
}

// --- one of them

std::string BlocksShelf::askName(const std::string& now) {
    bool ok = false;
    const auto typed =
        QInputDialog::getText(this, tr("Rename %1").arg(qt(now)), tr("The new name"), QLineEdit::Normal, qt(now), &ok);
    return ok && typed.trimmed() != qt(now) ? typed.trimmed().toStdString() : std::string();
}

void BlocksShelf::fillModel(const BlockProduct& made) {
    const auto& specs = *products()->project.blockModels;
    const auto at = std::ranges::find(specs, made.spec.name, &BlockSpec::name);
    if (at == specs.end()) return; // another version is on its way
    heading(qt(at->name));
    fillOrigin(made);
    const bool shown = QSettings().value(kSettingsShown).toBool();
    row(tr("Blocks, values and method"), shown ? tr("hide") : tr("show"), [this, shown] {
        QSettings().setValue(kSettingsShown, !shown);
        refill();
    });
    if (shown) {
        fillBlocks(*at, made);
        fillMethod(*at, made);
    }
    const auto name = at->name;
    offers({{tr("Rename…"), tr("Rename %1").arg(qt(name)),
             [this, name] {
                 const auto wanted = askName(name);
                 if (wanted.empty()) return;
                 emit editMade([name, wanted](const Project& p) { return renameBlockModel(p, name, wanted); });
                 changeLook([&](BlockLook& l) { l.model = wanted; });
             }},
            {tr("Copy"), tr("Another model like %1").arg(qt(name)),
             [this, copy = *at]() mutable {
                 copy.name = freeName(*products()->project.blockModels, copy.name);
                 emit editMade([copy](const Project& p) { return addBlockModel(p, copy); });
                 changeLook([&](BlockLook& l) { l.model = copy.name, l.showAll(); });
             }},
            {tr("Remove"), tr("Remove %1").arg(qt(name)), [this, name] {
                 changeLook([](BlockLook& l) { l.model.clear(), l.showAll(); });
                 emit editMade([name](const Project& p) { return removeBlockModel(p, name); });
             }}});
}

/// What it is made from, when, and what is to be known of it.
void BlocksShelf::fillOrigin(const BlockProduct& made) {
    if (made.outOfDate) {
        words(tr("Out of date: something has changed since these blocks were made, and making them takes a while."),
              colour::amberText);
        offer(tr("Make again"), [this, name = made.spec.name] { emit actionAsked(MakeBlocksAgain{name}); });
    }
    if (!made.problem.empty()) words(qt(made.problem), colour::red);
    if (!made.blocks) return;
    for (const auto& f : made.blocks->findings) finding(f);
    const auto& from = *made.composites;
    std::set<std::string> holes;
    for (const auto& c : from.values)
        if (!c.hole.empty()) holes.insert(c.hole);
    const auto values = counted(qint64(from.values.size()), "value");
    row(tr("Made from"), holes.empty() ? values : tr("%1 of %2").arg(values, counted(qint64(holes.size()), "hole")));
    const auto when =
        QDateTime::fromSecsSinceEpoch(std::chrono::duration_cast<std::chrono::seconds>(made.madeAt.time_since_epoch()).count());
    const auto took = made.seconds < 0.1 ? tr("under 0.1 s") : tr("%1 s").arg(made.seconds, 0, 'f', 1);
    row(tr("Made"), tr("%1, in %2").arg(QLocale().toString(when.time(), QLocale::ShortFormat), took));
    if (from.capped > 0) words(tr("%1 above the cap, taken as the cap.").arg(counted(qint64(from.capped), "value")));
    if (from.limits > 0)
        words(tr("%1 below detection or above what can be told, taken as the number that is given.")
                  .arg(counted(qint64(from.limits), "result")));
    if (from.unplaced > 0)
        words(tr("%1 of holes without a position or level left out.").arg(counted(qint64(from.unplaced), "value")),
              colour::amberText);
    if (const auto& e = made.judged.errors; !std::isnan(e.rmse))
        row(tr("Leave-one-out error"), tr("%1 (bias %2)").arg(e.rmse, 0, 'g', 3).arg(e.bias, 0, 'g', 2));
    const auto known = made.blocks->known(), unknown = totalOf(*made.blocks, *products()->project.sequence).unknown;
    if (unknown > 0)
        row(tr("Beyond reach, unknown"),
            tr("%1 % of the blocks").arg(100.0 * double(unknown) / double(known + unknown), 0, 'f', 1));
}

void BlocksShelf::fillBlocks(const BlockSpec& s, const BlockProduct& made) {
    const auto change = [this, name = s.name](auto&& set, const char* what) { changeBlocks(name, set, what); };
    numberRow(tr("Width of blocks"), "blockWidth", s.dx, 0.01, 1e5, 2, tr(" m"),
              [change](double v) { change([v](BlockSpec& b) { b.dx = b.dy = v; }, "size of blocks"); });
    numberRow(tr("Height of blocks"), "blockHeight", s.dz, 0.01, 1e4, 2, tr(" m"),
              [change](double v) { change([v](BlockSpec& b) { b.dz = v; }, "size of blocks"); });
    numberRow(tr("From level"), "blockFrom", s.fromLevel, -1e4, s.toLevel - 0.01, 2, tr(" m"),
              [change](double v) { change([v](BlockSpec& b) { b.fromLevel = v; }, "levels"); });
    numberRow(tr("To level"), "blockTo", s.toLevel, s.fromLevel + 0.01, 1e4, 2, tr(" m"),
              [change](double v) { change([v](BlockSpec& b) { b.toLevel = v; }, "levels"); });
    QStringList extents{tr("the site"), tr("around the values")};
    const auto around = made.composites ? aroundValues(made.composites->values, s) : Frame{};
    const bool isAround = made.composites && s.extent == around;
    if (s.extent && !isAround)
        extents
            << tr("%1 x %2 m").arg(s.extent->xmax - s.extent->xmin, 0, 'f', 0).arg(s.extent->ymax - s.extent->ymin, 0, 'f', 0);
    choiceRow(tr("Extent"), "blockExtent", extents,
              !s.extent  ? 0
              : isAround ? 1
                         : 2,
              [change, around, made = made.composites](int i) {
                  if (i == 0) change([](BlockSpec& b) { b.extent.reset(); }, "extent of blocks");
                  if (i == 1 && made) change([around](BlockSpec& b) { b.extent = around; }, "extent of blocks");
              });
    numberRow(tr("Readings averaged over"), "blockComposite", s.composite, 0, 1000, 2, tr(" m"),
              [change](double v) { change([v](BlockSpec& b) { b.composite = v; }, "averaging"); });
    if (s.cap) {
        numberRow(tr("Values capped at"), "blockCap", *s.cap, -1e12, 1e12, 3, {},
                  [change](double v) { change([v](BlockSpec& b) { b.cap = v; }, "cap"); });
        offer(tr("Do not cap values"), [change] { change([](BlockSpec& b) { b.cap.reset(); }, "cap"); });
    } else if (made.composites && !made.composites->values.empty()) {
        offer(tr("Cap high values…"), [change, values = made.composites] {
            std::vector<double> sorted;
            for (const auto& c : values->values) sorted.push_back(c.value);
            std::ranges::sort(sorted);
            constexpr double kShare = 0.98; // of the values stay as they are, to begin with
            const double cap = sorted[std::min(sorted.size() - 1, std::size_t(kShare * double(sorted.size())))];
            change([cap](BlockSpec& b) { b.cap = cap; }, "cap");
        });
    }
}

void BlocksShelf::fillMethod(const BlockSpec& s, const BlockProduct& made) {
    const auto change = [this, name = s.name](auto&& set, const char* what) { changeBlocks(name, set, what); };
    using Method = BlockSpec::Method;
    fillUnits(s);
    choiceRow(tr("Method"), "blockMethod", {tr("inverse distance"), tr("kriging"), tr("the nearest value")}, int(s.method),
              [change](int i) { change([i](BlockSpec& b) { b.method = Method(i); }, "method"); });
    if (s.method == Method::InverseDistance)
        numberRow(tr("Power of distance"), "blockPower", s.power, 0.1, 20, 1, {},
                  [change](double v) { change([v](BlockSpec& b) { b.power = v; }, "power"); });
    choiceRow(tr("Interpolated are"), "blockLog", {tr("the values"), tr("their logarithms")}, s.logarithmic ? 1 : 0,
              [change](int i) { change([i](BlockSpec& b) { b.logarithmic = i == 1; }, "logarithms"); });
    if (s.method != Method::Nearest) {
        numberRow(tr("Nearest values that count"), "blockNeighbours", s.neighbours, 0, 1000, 0, {},
                  [change](double v) { change([v](BlockSpec& b) { b.neighbours = int(v); }, "neighbours"); });
        numberRow(tr("Of one hole (0: any)"), "blockPerHole", s.perHole, 0, 1000, 0, {},
                  [change](double v) { change([v](BlockSpec& b) { b.perHole = int(v); }, "values of one hole"); });
    }
    numberRow(tr("No farther than (0: any)"), "blockRadius", s.radius, 0, 1e6, 1, tr(" m"),
              [change](double v) { change([v](BlockSpec& b) { b.radius = v; }, "reach"); });
    numberRow(tr("In level (0: any)"), "blockRadiusVertical", s.verticalRadius, 0, 1e5, 1, tr(" m"),
              [change](double v) { change([v](BlockSpec& b) { b.verticalRadius = v; }, "reach in level"); });
    choiceRow(tr("Weight of levels"), "blockVerticalFitted", {tr("typed"), tr("fitted")}, s.verticalFitted ? 1 : 0,
              [change, used = made.blocks ? made.blocks->spec.vertical : s.vertical](int i) {
                  change([i, used](BlockSpec& b) { b.verticalFitted = i == 1, b.vertical = used; }, "vertical anisotropy");
              });
    if (s.verticalFitted && made.blocks)
        row(tr("A metre of level counts as"), tr("%1 m").arg(made.blocks->spec.vertical, 0, 'f', 1));
    else if (!s.verticalFitted)
        numberRow(tr("A metre of level counts as"), "blockVertical", s.vertical, 0.01, 1e4, 2, tr(" m"),
                  [change](double v) { change([v](BlockSpec& b) { b.vertical = v; }, "vertical anisotropy"); });
    if (s.method == Method::Kriging && made.blocks && made.blocks->variogram && !made.outOfDate) fillVariogram(s, made);
}

/// Whether units are apart, and which count.
void BlocksShelf::fillUnits(const BlockSpec& s) {
    choiceRow(tr("Units"), "blockWithin", {tr("across units"), tr("each unit by itself")}, s.within ? 1 : 0,
              [this, name = s.name](int i) {
                  changeBlocks(
                      name, [i](BlockSpec& b) { b.within = i == 1; }, "units");
              });
    auto* chosen = new QPushButton(s.only.empty() ? tr("All units") : qt(fmt::format("{}", fmt::join(s.only, ", "))));
    chosen->setObjectName("blockOnly");
    chosen->setToolTip(tr("Which units have blocks, and whose readings count"));
    auto* menu = new QMenu(chosen);
    auto* all = menu->addAction(tr("All units"));
    connect(all, &QAction::triggered, this, [this, name = s.name] {
        changeBlocks(
            name, [](BlockSpec& b) { b.only.clear(); }, "units");
    });
    menu->addSeparator();
    for (const auto& u : products()->project.sequence->units) {
        auto* one = menu->addAction(tr("%1 %2").arg(qt(u.code), qt(u.name)));
        one->setCheckable(true);
        one->setChecked(std::ranges::count(s.only, u.code) > 0);
        connect(one, &QAction::triggered, this, [this, name = s.name, code = u.code](bool on) {
            changeBlocks(
                name,
                [&](BlockSpec& b) {
                    std::erase(b.only, code);
                    if (on) b.only.push_back(code);
                },
                "units");
        });
    }
    chosen->setMenu(menu);
    wide(chosen);
}

/// The lags in plan and over one another, with the model through both: nugget and sill are one, ranges are two.
void BlocksShelf::fillVariogram(const BlockSpec& s, const BlockProduct& made) {
    const auto used = *made.blocks->variogram;
    const double vertical = made.blocks->spec.vertical;
    const auto unit = made.composites->unitOfMeasure;
    row(tr("Variogram"), tr("%1, %2").arg(qt(fox::name(used.model)), s.variogram ? tr("by hand") : tr("fitted")));
    choiceRow(tr("Model"), "blockVariogramModel", {tr("linear"), tr("spherical"), tr("exponential"), tr("gaussian")},
              int(used.model), [this, name = s.name, used, vertical](int i) {
                  auto v = used;
                  v.model = VariogramModel(i);
                  setVariogram(name, v, vertical);
              });
    const auto addChart = [&](const QString& title, const char* objectName, const std::vector<VariogramLag>& lags,
                              double stretch) {
        words(title);
        auto* chart = new VariogramChart;
        chart->setObjectName(objectName);
        chart->setAccessibleName(title);
        chart->setWords(s.logarithmic  ? tr("of logarithms")
                        : unit.empty() ? QString()
                                       : QString::fromUtf8(unit.find('/') == std::string::npos ? "%1²" : "(%1)²").arg(qt(unit)),
                        tr("readings"));
        chart->setLags(lags);
        auto shown = used;
        shown.range = used.range / stretch;
        chart->setModel(shown);
        wide(chart);
        return chart;
    };
    connect(addChart(tr("Level with one another, by distance in plan"), "blockVariogramHorizontal", made.lags.horizontal, 1),
            &VariogramChart::released, this, [this, name = s.name, used, vertical](const Variogram& to) {
                setVariogram(name, to, vertical * to.range / used.range); // the vertical range stays
            });
    connect(addChart(tr("Over one another, by difference of level"), "blockVariogramVertical", made.lags.vertical, vertical),
            &VariogramChart::released, this, [this, name = s.name, used](const Variogram& to) {
                auto v = to;
                v.range = used.range;
                setVariogram(name, v, used.range / to.range);
            });
    if (s.variogram || !s.verticalFitted)
        offer(tr("Fit again"), [this, name = s.name] {
            changeBlocks(
                name, [](BlockSpec& b) { b.variogram.reset(), b.verticalFitted = true; }, "variogram");
        });
}

void BlocksShelf::setVariogram(const std::string& model, const Variogram& to, double vertical) {
    changeBlocks(
        model, [to, vertical](BlockSpec& b) { b.variogram = to, b.vertical = vertical, b.verticalFitted = false; }, "variogram");
}

} // namespace fox::app
